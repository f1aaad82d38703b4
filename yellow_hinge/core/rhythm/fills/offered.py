"""Lead-ins and fills on offer at a chord and taken there: their strokes among those of the patterns."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from yellow_hinge.core.leading.asking.manners import kin_of
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.chordal import Chordal
from yellow_hinge.core.rhythm.fills.kinds import OWN_FILLS, FillKind, fill_kind, fill_kinds
from yellow_hinge.core.rhythm.fills.notes import Added, notes_of
from yellow_hinge.core.rhythm.holding import Stroke
from yellow_hinge.core.rhythm.loudness import LOUD
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.rhythm.striking import Played

SOFTER = 8  # velocities below the chord
LOUDER = ("inside", "run", "low")  # what is as loud as the chord


class FillOffer(NamedTuple):
    """A fill on offer at a chord, with its notes in order, whether it is taken, and whether the manner likes it."""

    kind: FillKind
    notes: tuple[Added, ...]
    taken: bool
    liked: bool = False


def offers(row: Sequence[Played], place: int, playing: Playing, manner: str = "") -> list[FillOffer]:
    """The fills that can be played at a chord of a song: what the manner likes first (at the end of a phrase what ends
    one), then the others in the table's order; the player's own notes before all.
    """
    if not 0 <= place < len(row):
        return []
    taken = {fill.kind: fill.quarters for fill in playing.fills if fill.slot == row[place].moment.slot_id}
    own = [*_of_own(taken), *(kind for kind in OWN_FILLS.values() if kind.id not in taken)]
    made = ((kind, notes_of(kind, row, place, taken.get(kind.id, 0))) for kind in (*own, *fill_kinds().values()))
    found = [FillOffer(kind, notes, kind.id in taken, kin_of(manner) in kind.manners) for kind, notes in made if notes]
    ends = any(here.moment.ends for here in row[max(0, place - 1) : place + 1])
    return sorted(found, key=lambda o: (o.kind not in own, o.kind.ends and not ends, not o.liked, not o.kind.ends))


def _of_own(names: Iterable[str]) -> list[FillKind]:
    """The kinds of some ids that are the player's own notes, by the names that they have in the player's data."""
    others = (OWN_FILLS.get(name) or fill_kind(name) for name in names if name not in fill_kinds())
    return [kind for kind in others if kind is not None]


def quarters_of(row: Sequence[Played], place: int, fill: Fill) -> int:
    """Quarters of a beat before a chord that a lead-in into it begins now; 0 for what is none."""
    kind = fill_kind(fill.kind)
    notes = notes_of(kind, row, place, fill.quarters) if kind is not None and kind.leads_in else ()
    if not notes:
        return 0
    beat = ticks(row[place - 1].moment.meter.beat_quarters)
    return round(4 * (row[place].start - notes[0].onset) / beat)


def lead_in_at(row: Sequence[Played], playing: Playing, place: int, midi: int) -> tuple[int, Fill] | None:
    """The chord, and the lead-in into it, that has a note (MIDI) over the chord `place` before it; None for none."""
    if place + 1 >= len(row):
        return None
    for fill in playing.fills:
        kind = fill_kind(fill.kind)
        if kind is None or not kind.leads_in or fill.slot != row[place + 1].moment.slot_id:
            continue
        if midi in {note.midi for note in notes_of(kind, row, place + 1, fill.quarters)}:
            return place + 1, fill
    return None


# --- strokes ---
def with_fills(strokes: dict[str, list[Stroke]], row: list[Played], playing: Playing) -> dict[str, list[Stroke]]:
    """The strokes with the fills that are taken; what cannot be played now rests."""
    if not playing.fills:
        return strokes
    found = {hand: list(those) for hand, those in strokes.items()}
    for place, here in enumerate(row):
        for fill in playing.fills:
            kind = fill_kind(fill.kind)
            if kind is not None and fill.slot == here.moment.slot_id:
                notes = notes_of(kind, row, place, fill.quarters)
                for hand in dict.fromkeys(note.hand for note in notes):
                    own = tuple(note for note in notes if note.hand == hand)
                    found[hand] = _filled(found[hand], kind, own, row, place)
    return found


def _filled(
    strokes: list[Stroke], kind: FillKind, notes: tuple[Added, ...], row: list[Played], place: int
) -> list[Stroke]:
    """One hand's strokes with a fill: what would sound over or under the moving notes makes room for them."""
    begin, end = notes[0].onset, max(note.onset + note.length for note in notes)
    here = row[place - 1 if kind.leads_in else place]
    kept = [_cleared(stroke, kind, notes, begin, end, here) for stroke in strokes]
    loud = LOUD[notes[0].hand] - (0 if kind.into in LOUDER else SOFTER)
    added = [Stroke(n.onset, n.onset + n.length, n.midi, loud, here.place, added=True) for n in notes]
    hand = "left" if kind.hand == "left" else here.chordal.upper
    return _within_reach([stroke for stroke in kept if stroke is not None], added, hand, here.chordal)


def _within_reach(kept: list[Stroke], added: list[Stroke], hand: str, chordal: Chordal) -> list[Stroke]:
    """The strokes without those that are struck together with notes of the fill and out of their reach, the farthest
    first; the tune stays.
    """
    for onset, notes in itertools.groupby(sorted(added), key=lambda stroke: stroke.onset):
        own = {note.midi for note in notes}
        far = [(stroke.roll >= 0, min(abs(stroke.midi - midi) for midi in own), stroke) for stroke in kept
               if stroke.onset == onset]  # fmt: skip
        together = [stroke for _, _, stroke in sorted(far)]
        while together and not chordal.reaches(hand, tuple(sorted({*own, *(s.midi for s in together)}))):
            kept.remove(together.pop())
    return [*kept, *added]


def _cleared(
    stroke: Stroke, kind: FillKind, notes: tuple[Added, ...], begin: int, end: int, here: Played
) -> Stroke | None:
    """A stroke as it is beside a fill: cut off where the fill begins, or not struck at all; None then."""
    if stroke.place != here.place or stroke.end <= begin or stroke.onset >= end:
        return stroke
    if kind.into == "tune":
        return _beside_tune(stroke, notes)
    midis = {note.midi for note in notes}
    goes = {
        "inside": stroke.midi in midis, "top": stroke.midi >= min(midis),
        "bass": stroke.midi <= max(midis) or stroke.midi == (here.chordal.left or (0,))[0],
    }  # fmt: skip
    if not goes.get(kind.into, True):
        return stroke
    return stroke._replace(end=begin) if stroke.onset < begin else None


def _beside_tune(stroke: Stroke, notes: tuple[Added, ...]) -> Stroke | None:
    """A stroke beside what goes along with a tune: it ends where something of the fill is struck on its key, or right
    beside it.
    """
    for note in notes:
        near = abs(note.midi - stroke.midi) <= 2
        if near and stroke.onset < note.onset < stroke.end:
            stroke = stroke._replace(end=note.onset)
        elif stroke.midi == note.midi and note.onset <= stroke.onset < note.onset + note.length:
            return None
    return stroke


def taken_notes(row: Sequence[Played], playing: Playing) -> dict[int, tuple[Added, ...]]:
    """The notes of all fills that are taken and can be played, by the index of the chord over which they sound."""
    found: dict[int, tuple[Added, ...]] = {}
    for place, here in enumerate(row) if playing.fills else ():
        for fill in playing.fills:
            kind = fill_kind(fill.kind)
            if kind is not None and fill.slot == here.moment.slot_id:
                at = place - 1 if kind.leads_in else place
                found[at] = (*found.get(at, ()), *notes_of(kind, row, place, fill.quarters))
    return found
