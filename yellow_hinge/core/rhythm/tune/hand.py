"""The tune in the right hand: which of the chord's notes it holds or strikes again under every melody note."""

from __future__ import annotations

import itertools
from typing import NamedTuple

from yellow_hinge.core.hands import Hands, span_mm

# Prices in ticks that one note is missing.
AGAIN, LET_GO, RUB = 360, 90, 960
OCTAVE = 12
GUIDES = 2  # times as dear, where a chord's third or seventh is missing


class TuneNote(NamedTuple):
    """A stretch of the tune over a chord: start and end in ticks from the chord's start, the key that sounds (None: a
    rest), and whether it is struck at the start.
    """

    start: int
    end: int
    midi: int | None
    begins: bool = True


def can_lie_under(notes: tuple[int, ...], tune: int | None, hands: Hands, over: tuple[int, ...] = ()) -> bool:
    """Whether the right hand can hold notes (ascending) with a melody note above them; those in `over` may lie above it
    or be the note itself, as a held top does.
    """
    if tune is None:
        return span_mm(notes) <= hands.limit("right", len(notes)) and len(notes) <= hands.right_notes
    if any(note >= tune and (note not in over or note == tune) for note in notes):
        return False
    both = tuple(sorted((*notes, tune)))
    return len(both) <= max(2, hands.right_notes) and span_mm(both) <= hands.limit("right", len(both))


def price(
    row: tuple[tuple[int, ...], ...], tones: list[TuneNote], pool: tuple[int, ...], guides: frozenset[int]
) -> int:
    """What a choice of notes under every stretch of the tune costs: notes that are missing and are not the tune's, as
    long as they are (half as much where the octave below stands for one), notes struck again or let go inside the
    chord, octaves of what is there, and half steps beside the tune.
    """
    total = 0
    for at, (tone, notes) in enumerate(zip(tones, row, strict=True)):
        total += _alone(tone, notes, pool, guides) + (_between(row[at - 1], notes) if at else 0)
    return total


def _alone(tone: TuneNote, notes: tuple[int, ...], pool: tuple[int, ...], guides: frozenset[int]) -> int:
    halves = 0
    for note in pool:
        if note not in notes and note != tone.midi:
            halves += (1 if note - OCTAVE in notes else 2) * (GUIDES if note in guides else 1)
        elif note - OCTAVE in notes and note - OCTAVE not in pool:
            halves += 1  # doubled
    rub = RUB if tone.midi is not None and (tone.midi - 1 in notes or tone.midi + 1 in notes) else 0
    return (tone.end - tone.start) * halves // 2 + rub


def _between(before: tuple[int, ...], after: tuple[int, ...]) -> int:
    return AGAIN * len(set(after) - set(before)) + LET_GO * len(set(before) - set(after))


def octaves_below(pool: tuple[int, ...], tones: list[TuneNote], floor: int) -> tuple[int, ...]:
    """The octaves of notes that the tune goes below, where they lie above `floor`."""
    lowest = min((tone.midi for tone in tones if tone.midi is not None), default=None)
    return tuple(n - OCTAVE for n in pool if lowest is not None and n >= lowest and n - OCTAVE > floor)


def under_tune(
    pool: tuple[int, ...], tones: list[TuneNote], hands: Hands, guides: frozenset[int] = frozenset(), floor: int = 128,
    over: tuple[int, ...] = (),
) -> list[tuple[int, ...]]:  # fmt: skip
    """For every stretch of the tune the notes of `pool` (ascending) that lie under it, or where the tune goes below one
    its octave, if that is above `floor` (the left hand's highest); those in `over` stay above it. The cheapest choice
    by `price` for all of them together, of equal ones the fullest and lowest first.
    """
    pool_and_octaves = tuple(sorted({*pool, *octaves_below(tuple(n for n in pool if n not in over), tones, floor)}))
    subsets = [
        notes
        for size in range(len(pool_and_octaves), -1, -1)
        for notes in itertools.combinations(pool_and_octaves, size)
    ]
    paths: dict[tuple[int, ...], tuple[int, tuple[tuple[int, ...], ...]]] = {(): (0, ())}
    for at, tone in enumerate(tones):
        able = [notes for notes in subsets if can_lie_under(notes, tone.midi, hands, over)]
        found = {}
        for notes in able:
            own = _alone(tone, notes, pool, guides)
            steps = ((cost + own + (_between(old, notes) if at else 0), row) for old, (cost, row) in paths.items())
            cost, row = min(steps, key=lambda step: step[0])
            found[notes] = (cost, (*row, notes))
        paths = found
    return list(min(paths.values(), key=lambda path: path[0])[1]) if tones else []
