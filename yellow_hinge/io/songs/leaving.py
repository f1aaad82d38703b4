"""What a song holds, and which kinds of files can hold it: whatever an export leaves out is said from this table."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.song import Slot
from yellow_hinge.core.takes.form import slots_of
from yellow_hinge.core.takes.things import AWAY, FILLS, HELD, KEEPS, PLAYED, WISHES
from yellow_hinge.io.songs.migrations import SongFile

CHARTS, STAVES, PAGES = ("chart",), ("score", "pdf", "svg", "png"), ("pdf", "svg", "png")
SOUNDS, TABLES = ("wav", "flac", "ogg"), ("table", "analysis", "sheet")


class SongPart(NamedTuple):
    """Something that a song may hold: how many of it there are, their names for one and for more, and the kinds of
    files (ids of formats) that hold it; `shown` is the part of a sheet that has to be shown for that. `struck`: staves
    and scores hold it where they are as struck, cheat sheets with their rhythm.
    """

    count: Callable[[SongFile], int]
    one: str
    more: str
    held: tuple[str, ...]
    shown: str = ""
    struck: bool = False

    def words(self, file: SongFile, kind: str, ask: SheetAsk) -> str:
        """What of it an export leaves out, in words; "" for nothing."""
        count = self.count(file)
        hidden = self.shown and kind in PAGES and not ask.shows(self.shown)
        if not count or (kind in self.held and not hidden) or (self.struck and _with_rhythm(kind, ask)):
            return ""
        return self.one if count == 1 else self.more.format(count)


def _with_rhythm(kind: str, ask: SheetAsk) -> bool:
    if kind == "score" or (kind in PAGES and ask.kind == "staves"):
        return ask.struck
    return kind in PAGES and ask.kind == "cheat" and ask.shows("rhythm")


def _slots(file: SongFile) -> list[Slot]:
    return [slot for _, _, slot in slots_of(file.song)]


def _away(file: SongFile) -> int:
    return len(file.things.of(AWAY))


def _kept(file: SongFile) -> int:
    return len(file.things.of(KEEPS)) + len(file.things.of(HELD))


def _asked(file: SongFile) -> int:
    return len(file.things.of(WISHES)) + sum(wish.at != 0 for wish in file.things.of(PLAYED))


def _swings(file: SongFile) -> bool:
    return bool(file.song.swing or any(section.swing for section in file.song.sections))


PARTS = (
    SongPart(
        lambda file: int(any(bar.tune for section in file.song.sections for bar in section.bars)), "the tune", "",
        (*CHARTS, *STAVES, "midi", *SOUNDS), "tune",
    ),
    SongPart(
        lambda file: int(any(slot.cue for slot in _slots(file))), "the cue words", "",
        (*CHARTS, *STAVES, *TABLES, "chordpro", "midi"), "cues",
    ),
    SongPart(
        lambda file: int(len({slot.beats for slot in _slots(file)}) > 1), "how long each chord lasts", "",
        (*CHARTS, *STAVES, *TABLES, *SOUNDS, "midi", "chordpro"),
    ),
    SongPart(
        lambda file: int(any(b.opens or b.repeats or b.ending or b.signs for s in file.song.sections for b in s.bars)),
        "repeat signs: everything is played out", "", (*CHARTS, *STAVES, "chordpro"),
    ),
    SongPart(lambda file: 1, "the hands", "", (*STAVES, *TABLES, *SOUNDS, "midi")),
    SongPart(lambda file: len(file.memos), "a note of yours", "{} notes of yours", STAVES, "notes"),
    SongPart(
        lambda file: len(file.things.of(FILLS)), "a lead-in or fill", "{} lead-ins and fills", ("midi", *SOUNDS),
        struck=True,
    ),
    SongPart(
        lambda file: int(bool(file.playing.wishes)), "how it is played", "", (*CHARTS, "midi", *SOUNDS), struck=True
    ),
    SongPart(_kept, "what is kept at a chord", "what is kept at {} chords", ()),
    SongPart(_asked, "what is asked of a part", "what is asked of {} parts", ()),
    SongPart(_away, "chords of a bar that is gone", "chords of {} bars that are gone", ()),
    SongPart(lambda file: len(file.playing.patterns), "a pattern of your own", "{} patterns of your own", ()),
    SongPart(lambda file: len(file.setup.player.shapes), "a shape of your own", "{} shapes of your own", ()),
    SongPart(lambda file: len(file.others), "the other take", "{} other takes", ()),
    SongPart(lambda file: int(bool(file.mix)), "the mix", "", ()),
    SongPart(lambda file: int(bool(file.text)), "the chart's text with its mistakes", "", ()),
    SongPart(
        lambda file: int(_swings(file)), "straight or swung", "", (*CHARTS, *PAGES, *TABLES, "midi", *SOUNDS),
        struck=True,
    ),
    SongPart(lambda file: int(bool(file.playing.lines)), "the line", "", (*STAVES, "midi", *SOUNDS), "line"),
)  # fmt: skip
# What nobody looks for in sound, on paper and in tables: what is played there is all of it.
_SILENT = frozenset(range(8, 13))


def left_out(file: SongFile, kind: str, ask: SheetAsk | None = None) -> tuple[str, ...]:
    """What a song holds and a file of a kind (the id of its format) does not, a few words each."""
    if kind == "song":
        return ()
    heard = kind in (*SOUNDS, *PAGES, *TABLES)
    parts = (part for n, part in enumerate(PARTS) if not (heard and n in _SILENT))
    return tuple(words for part in parts if (words := part.words(file, kind, ask or SheetAsk())))
