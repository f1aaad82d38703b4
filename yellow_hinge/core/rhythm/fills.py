"""Lead-ins and fills, read from fills.toml: their notes at a chord, and the strokes with them."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.rhythm.asks import Fill, Playing
from yellow_hinge.core.rhythm.chordal import Chordal, struck_keys
from yellow_hinge.core.rhythm.fitting import swung, ticks
from yellow_hinge.core.rhythm.holding import Stroke
from yellow_hinge.core.rhythm.loudness import LOUD
from yellow_hinge.core.rhythm.striking import Played
from yellow_hinge.core.rhythm.walking import near, walked
from yellow_hinge.core.tables import read_table

SOFTER = 8  # velocities below the chord
LONG = 2  # felt beats from which a chord may be moved inside


class FillKind(msgspec.Struct, frozen=True):
    """One kind of fill; the fields are explained at the head of fills.toml."""

    id: str
    name: str
    words: str
    into: Literal["top", "bass", "inside"]
    steps: tuple[str, ...]
    beats: float = 0.0

    @property
    def hand(self) -> str:
        """The hand that plays it."""
        return "left" if self.into == "bass" else "right"


class _File(msgspec.Struct, frozen=True):
    fill: tuple[FillKind, ...]


@lru_cache(maxsize=1)
def fill_kinds() -> dict[str, FillKind]:
    """Every kind by its id, in the order of the data file."""
    return {kind.id: kind for kind in read_table(__file__, _File).fill}


class Added(NamedTuple):
    """A note of a fill: ticks from the song's start, its length, MIDI number and hand."""

    onset: int
    length: int
    midi: int
    hand: str


class FillOffer(NamedTuple):
    """A fill on offer at a chord, with its notes in order, and whether it is taken."""

    kind: FillKind
    notes: tuple[Added, ...]
    taken: bool


def offers(row: Sequence[Played], place: int, playing: Playing) -> list[FillOffer]:
    """The fills that can be played at a chord of a song, in the table's order."""
    if not 0 <= place < len(row):
        return []
    taken = {fill.kind: fill.quarters for fill in playing.fills if fill.slot == row[place].moment.slot_id}
    made = ((kind, notes_of(kind, row, place, taken.get(kind.id, 0))) for kind in fill_kinds().values())
    return [FillOffer(kind, notes, kind.id in taken) for kind, notes in made if notes]


def notes_of(kind: FillKind, row: Sequence[Played], place: int, quarters: int = 0) -> tuple[Added, ...]:
    """The notes of a fill at a chord; () where it cannot be played there. A lead-in begins so many `quarters` of a beat
    before the chord, 0 for as usual.
    """
    here = row[place]
    if kind.into == "inside":
        return _inside(kind, here)
    before = row[place - 1] if place and row[place - 1].start + row[place - 1].length == here.start else None
    if before is None:
        return ()
    return _lead_in(kind, before, here, quarters)


# --- lead-ins ---
def _lead_in(kind: FillKind, before: Played, here: Played, quarters: int) -> tuple[Added, ...]:
    beat = ticks(before.moment.meter.beat_quarters)
    each = round(Fraction(kind.beats).limit_denominator(12) * beat)
    asked = beat * quarters // (4 * len(kind.steps))
    if asked and asked * len(kind.steps) < before.length:
        each = asked
    elif kind.into == "bass" and before.length <= len(kind.steps) * each:
        each = each // 2  # a short chord
    start = here.start - each * len(kind.steps)
    if start <= before.start:
        return ()
    midis = _into_bass(kind, before, here) if kind.into == "bass" else _into_top(kind, before, here, start)
    hand = before.hand_of(kind.hand)
    onsets = [swung_in(start + n * each, before) for n in range(len(midis) + 1)]
    return tuple(Added(onsets[n], onsets[n + 1] - onsets[n], midi, hand) for n, midi in enumerate(midis))


def swung_in(tick: int, here: Played) -> int:
    """A place in the song where it falls: half beats late where it swings."""
    moment = here.moment
    return swung(tick, moment.meter, here.swing, here.start - ticks((moment.beat - 1) * moment.meter.beat_quarters))


def _into_top(kind: FillKind, before: Played, here: Played, start: int) -> tuple[int, ...]:
    """Notes into the right hand's top; none where the tune sounds there, which leads by itself."""
    if not here.chordal.right or not before.chordal.right:
        return ()
    if any(tone.midi is not None and before.start + tone.end > start for tone in before.tones):
        return ()
    top, low = here.chordal.right[-1], before.chordal.left[-1] if before.chordal.left else 0
    found = tuple(_from(top, step, here.chordal.key) for step in kind.steps)
    if found[0] == before.chordal.right[-1] or min(found) <= low or max(found) > here.chordal.hands.compass[1]:
        return ()
    return found


def _into_bass(kind: FillKind, before: Played, here: Played) -> tuple[int, ...]:
    """Notes into the left hand's bass."""
    if not before.chordal.mine or not before.chordal.left or not here.chordal.left:
        return ()
    old, new, key = before.chordal.left[0], here.chordal.left[0], before.chordal.key
    way = 1 if new > old else -1
    gap = abs(new - old)
    found: tuple[int, ...] = ()
    if kind.steps == ("hn",) and gap > 1:
        found = (new - way,)
    elif kind.steps == ("ho",) and gap > 2:
        found = (new + way,)
    elif kind.steps == ("sn",) and gap > 2 and near(new - 2 * way, key):
        found = (new - 2 * way,)
    elif kind.steps == ("m",) and gap in (3, 4):
        found = (old + 2 * way,)
    elif kind.steps[0] == "w" and old != new:
        room = (before.chordal.hands.compass[0], before.chordal.ceiling - 1)
        found = walked(old, new, len(kind.steps) + 1, before.chordal.chord, key, room)[1:]
    fits = all(before.chordal.hands.compass[0] <= midi < before.chordal.ceiling for midi in found)
    return found if fits and old not in found else ()


def _from(target: int, step: str, key: Key) -> int:
    """A note named from its target, such as "s-2" or "h+1"."""
    by = int(step[1:])
    if step[0] == "h":
        return target + by
    found = target
    for _ in range(abs(by)):
        way = 1 if by > 0 else -1
        found = next(n for n in (found + way, found + 2 * way, found + 3 * way) if near(n, key))
    return found


def quarters_of(row: Sequence[Played], place: int, fill: Fill) -> int:
    """Quarters of a beat before a chord that a lead-in into it begins now; 0 for what is none."""
    kind = fill_kinds().get(fill.kind)
    notes = notes_of(kind, row, place, fill.quarters) if kind is not None and kind.into != "inside" else ()
    if not notes:
        return 0
    beat = ticks(row[place - 1].moment.meter.beat_quarters)
    return round(4 * (row[place].start - notes[0].onset) / beat)


def lead_in_at(row: Sequence[Played], playing: Playing, place: int, midi: int) -> tuple[int, Fill] | None:
    """The chord, and the lead-in into it, that has a note (MIDI) over the chord `place` before it; None for none."""
    if place + 1 >= len(row):
        return None
    for fill in playing.fills:
        kind = fill_kinds().get(fill.kind)
        if kind is None or kind.into == "inside" or fill.slot != row[place + 1].moment.slot_id:
            continue
        if midi in {note.midi for note in notes_of(kind, row, place + 1, fill.quarters)}:
            return place + 1, fill
    return None


# --- inside a chord ---
def _inside(kind: FillKind, here: Played) -> tuple[Added, ...]:
    """A note of the right hand that moves and comes back, or comes late; not under a tune of the right hand's own."""
    beat = ticks(here.moment.meter.beat_quarters)
    if here.length < LONG * beat or here.tones or not here.chordal.right:
        return ()
    half, quarter, hand = here.length // 2, here.length // 4, here.hand_of("right")
    if kind.steps == ("sus",):
        held, own = set(_right_keys("+sus", here.chordal)), set(here.chordal.right)
        late = [Added(here.start, half, midi, hand) for midi in sorted(held - own)]
        resolved = [Added(here.start + half, here.length - half, midi, hand) for midi in sorted(own - held)]
        return (*late, *resolved) if len(late) == len(resolved) else ()
    moved = _moved(kind.steps[0], here.chordal)
    if moved is None:
        return ()
    old, new = moved
    return (
        Added(here.start + half, quarter, new, hand),
        Added(here.start + half + quarter, here.length - half - quarter, old, hand),
    )


def _right_keys(what: str, chordal: Chordal) -> tuple[int, ...]:
    return tuple(midi for _, midi in struck_keys(what, "right", chordal))


def _moved(step: str, chordal: Chordal) -> tuple[int, int] | None:
    """(the note that moves, where it goes), None where it cannot."""
    if step == "sixth":
        old = next((n for n in reversed(chordal.right) if chordal.chord.degree_of(n) == "5"), None)
        if old is None:
            return None
        new = old + 2
    else:
        old = chordal.right[-1]
        new = _from(old, "s+1" if step == "up" else "s-1", chordal.key)
    if new in chordal.right:
        return None
    after = tuple(sorted({*chordal.right, new} - {old}))
    close = any(abs(new - n) == 1 for n in after if n != new)
    return None if close or not chordal.reaches(chordal.upper, after) else (old, new)


# --- strokes ---
def with_fills(strokes: dict[str, list[Stroke]], row: list[Played], playing: Playing) -> dict[str, list[Stroke]]:
    """The strokes with the fills that are taken; what cannot be played now rests."""
    if not playing.fills:
        return strokes
    found = {hand: list(those) for hand, those in strokes.items()}
    for place, here in enumerate(row):
        for fill in playing.fills:
            kind = fill_kinds().get(fill.kind)
            if kind is not None and fill.slot == here.moment.slot_id:
                notes = notes_of(kind, row, place, fill.quarters)
                if notes:
                    hand = notes[0].hand
                    found[hand] = _filled(found[hand], kind, notes, row, place)
    return found


def _filled(
    strokes: list[Stroke], kind: FillKind, notes: tuple[Added, ...], row: list[Played], place: int
) -> list[Stroke]:
    """One hand's strokes with a fill: what would sound over or under the moving notes makes room for them."""
    begin, end = notes[0].onset, notes[-1].onset + notes[-1].length
    at = place if kind.into == "inside" else place - 1
    kept = [_cleared(stroke, kind, notes, begin, end, row[at]) for stroke in strokes]
    loud = LOUD[kind.hand] - (SOFTER if kind.into != "inside" else 0)
    added = [Stroke(n.onset, n.onset + n.length, n.midi, loud, row[at].place, added=True) for n in notes]
    return _within_reach([stroke for stroke in kept if stroke is not None], added, kind, row[at].chordal)


def _within_reach(kept: list[Stroke], added: list[Stroke], kind: FillKind, chordal: Chordal) -> list[Stroke]:
    """The strokes without those that are struck together with a note of the fill and out of its reach."""
    hand = chordal.upper if kind.hand == "right" else "left"
    for note in added:
        together = sorted((s for s in kept if s.onset == note.onset), key=lambda s: abs(s.midi - note.midi))
        while together and not chordal.reaches(hand, tuple(sorted({note.midi, *(s.midi for s in together)}))):
            kept.remove(together.pop())
    return [*kept, *added]


def _cleared(
    stroke: Stroke, kind: FillKind, notes: tuple[Added, ...], begin: int, end: int, here: Played
) -> Stroke | None:
    """A stroke as it is beside a fill: cut off where the fill begins, or not struck at all; None then."""
    if stroke.place != here.place or stroke.end <= begin or stroke.onset >= end:
        return stroke
    midis = {note.midi for note in notes}
    if kind.into == "inside":
        goes = stroke.midi in midis
    elif kind.into == "top":
        goes = stroke.midi >= min(midis)
    else:
        goes = stroke.midi <= max(midis) or stroke.midi == here.chordal.left[0]
    if not goes:
        return stroke
    return stroke._replace(end=begin) if stroke.onset < begin else None


def taken_notes(row: Sequence[Played], playing: Playing) -> dict[int, tuple[Added, ...]]:
    """The notes of all fills that are taken and can be played, by the index of the chord over which they sound."""
    found: dict[int, tuple[Added, ...]] = {}
    for place, here in enumerate(row) if playing.fills else ():
        for fill in playing.fills:
            kind = fill_kinds().get(fill.kind)
            if kind is not None and fill.slot == here.moment.slot_id:
                at = place if kind.into == "inside" else place - 1
                found[at] = (*found.get(at, ()), *notes_of(kind, row, place, fill.quarters))
    return found
