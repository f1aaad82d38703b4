"""Notes as they were played, set out in the beats of known bars."""

from __future__ import annotations

import math
from typing import NamedTuple

from yellow_hinge.core.numerics import Floats64, NDArray, np

Floats = Floats64
EARLY = 0.55  # beats that a chord may be struck before the beat that it belongs to
_CLOSE, _HELD = 0.12, 0.6  # beats beside a beat that are on it; beats that an early note is held at least
_SHORT = 0.08


class Played(NamedTuple):
    """A note: when it is struck and let go, in beats from the first beat of the song, its MIDI number, its velocity,
    and how much it says of the chord (a tune's notes less than 1).
    """

    start: float
    end: float
    midi: int
    velocity: int = 64
    share: float = 1.0


class Beats(NamedTuple):
    """The beats of the bars: of every beat its place in its bar from 0, and how many beats that bar has."""

    places: tuple[int, ...]
    lengths: tuple[int, ...]

    @property
    def total(self) -> int:
        """How many beats there are."""
        return len(self.places)


def beats_of(bars: list[int], first: int = 0) -> Beats:
    """The beats of bars that have so many each; the first one begins at its beat `first` (a pickup)."""
    places, lengths = [], []
    for n, length in enumerate(bars):
        for place in range(first if n == 0 else 0, length):
            places.append(place)
            lengths.append(length)
    return Beats(tuple(places), tuple(lengths))


class Rows(NamedTuple):
    """Notes as columns, by when they are struck: `start` is where they belong (what is struck early and held over a
    beat belongs to it); `weight` how much they stand out as foreign where they are, `there` how much they count as a
    note of the chord that sounds.
    """

    start: Floats
    end: Floats
    midi: NDArray[np.int64]
    weight: Floats
    there: Floats


def rows_of(notes: list[Played]) -> Rows:
    """Notes set out for finding chords. Equal for equal notes in any order."""
    ordered = sorted(notes)
    starts = [_belongs(note) for note in ordered]
    start = np.array(starts)
    end = np.array([max(note.end, at + _SHORT) for note, at in zip(ordered, starts, strict=True)])
    midi = np.array([note.midi for note in ordered], np.int64)
    order = np.lexsort((midi, start))
    share = np.array([note.share for note in ordered])[order]
    rows = Rows(start[order], end[order], midi[order], share, share)
    walks = _walks(rows)
    return rows._replace(weight=_weights(rows) * walks, there=share * walks)


def _belongs(note: Played) -> float:
    """Where a note belongs: what is struck shortly before a beat and held over it belongs to that beat."""
    beat = math.floor(note.start + 1e-9)
    before = beat + 1 - note.start
    if before < _CLOSE:
        return float(beat + 1)
    if before <= EARLY and note.end - beat - 1 >= max(_HELD, before):
        return beat + 1 + 1e-6
    return float(beat) if note.start - beat < _CLOSE else note.start


_PASSING, _OFF, _GRACE = 0.35, 0.5, 0.6  # what a note says less that is quitted by step, off the beat, or very short
_QUICK, _STEP, _GRACE_BEATS, _TOGETHER = 1.1, 2, 0.2, 0.06


def _weights(rows: Rows) -> Floats:
    """Passing and neighbour notes, a tune's quick notes and grace notes say less of the chord than others."""
    weights = rows.weight.copy()
    last = len(rows.start)
    for n, (at, end, midi) in enumerate(zip(rows.start, rows.end, rows.midi, strict=True)):
        length = end - at
        if length <= _QUICK:
            low, high = np.searchsorted(rows.start, (at - _TOGETHER, at + _TOGETHER))
            after = slice(int(high), min(last, int(np.searchsorted(rows.start, end + 0.3, "right"))))
            steps = np.abs(rows.midi[after] - midi)
            by_step = bool(np.any((steps <= _STEP) & (steps > 0)))
            if by_step and high - low <= 2:
                weights[n] *= _PASSING
            elif by_step and at % 1 > 0.1:
                weights[n] *= _OFF
        if length < _GRACE_BEATS:
            weights[n] *= _GRACE
    return weights


_WALK, _LOW = 0.15, 52  # what a walking bass note says, and how low it lies


def _walks(rows: Rows) -> Floats:
    """Notes of a bass that walks (low, alone, quick, each another than the one before) say less than held ones, since
    only where it begins it is sure to be of the chord.
    """
    low = [
        n
        for n, (at, midi) in enumerate(zip(rows.start, rows.midi, strict=True))
        if midi <= _LOW
        and midi == rows.midi[slice(*np.searchsorted(rows.start, (at - _TOGETHER, at + _TOGETHER)))].min()
    ]
    says = np.ones(len(rows.start))
    for a, b, c in zip(low, low[1:], low[2:], strict=False):
        quick = all(rows.end[n] - rows.start[n] <= _QUICK for n in (a, b, c))
        steps = (abs(int(rows.midi[b] - rows.midi[a])), abs(int(rows.midi[c] - rows.midi[b])))
        near = rows.start[c] - rows.start[a] <= 2 * _QUICK
        if quick and near and 0 < steps[0] <= 5 and steps[1] <= 5:
            says[b] = _WALK
    return says
