"""One shape on every chord of a song, as a page for a pupil."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.cheat import cheat_pages
from yellow_hinge.core.sheet.content import Writer, content
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song.song import Memo, Song

SHOWN = ("keyboards", "degrees", "fingers", "numbers", "notes")
OTHERS = "another shape"


def idea_pages(song: Song, solution: Solution, shape: str, words: str, ask: SheetAsk, simple: bool) -> tuple[Page, ...]:
    """The pages: every chord with the shape of an id, or said to have another; `words` name the hands it is of. Paper
    and size are those of the player's sheets.
    """
    others = {v.here.slot_id for v in solution.voicings if v.family != shape}
    memos = tuple(Memo(slot, OTHERS) for slot in sorted(others))
    fits = sum(v.family == shape for v in solution.voicings)
    own = msgspec.structs.replace(ask, kind="cheat", show=SHOWN, key="", mix=False)
    facts = f"one idea: the shape of {pretty_signs(words)}, on {fits} of {len(solution.voicings)} chords"
    found = content(Writer(song, solution, memos, simple), facts)
    return cheat_pages(own, found)
