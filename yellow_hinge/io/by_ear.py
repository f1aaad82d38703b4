"""Chords that no file names: found from the notes that it holds, in the bars that it says."""

from __future__ import annotations

import math
from collections.abc import Iterable
from fractions import Fraction
from itertools import accumulate
from typing import NamedTuple

from yellow_hinge.core.hearing.notes import Played, beats_of
from yellow_hinge.core.hearing.readings import HeardChord, heard_chords
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.io.imported import Onset

_MOST_TOLD = 8
# How much a tune's notes say of the chord under them: little, where somebody else plays all of it.
_TUNE_SAYS, _TUNE_ABOVE_CHORDS = 0.5, 0.1
_WHOLE = 2.8  # pitch classes a bar, from which one line plays all of a chord


class Lasting(NamedTuple):
    """A note of a file: quarters from the beginning of the song, its MIDI number, its velocity, and how much it says of
    the chord.
    """

    start: float
    end: float
    midi: int
    velocity: int = 64
    share: float = 1.0


def tune_share(lines: Iterable[Iterable[tuple[int, int]]]) -> float:
    """How much a tune says of the chords over lines of (bar, MIDI number)."""
    for line in lines:
        bars: dict[int, set[int]] = {}
        for bar, midi in line:
            bars.setdefault(bar, set()).add(midi % 12)
        if bars and sum(map(len, bars.values())) >= _WHOLE * len(bars):
            return _TUNE_ABOVE_CHORDS
    return _TUNE_SAYS


class InBars(NamedTuple):
    """The chords of every bar, the key they are in (None: there are none), and what has to be said of them."""

    onsets: list[list[Onset]]
    key: Key | None
    report: list[str]


class _Grid:
    """Where the beats of some bars lie. A bar of a broken number of beats (a pickup) ends on a beat."""

    def __init__(self, bars: list[tuple[Fraction, Fraction]]) -> None:
        self.counts = [max(1, math.ceil(length / unit)) for length, unit in bars]
        self.gaps = [count - length / unit for count, (length, unit) in zip(self.counts, bars, strict=True)]
        self.starts = list(accumulate((length for length, _ in bars), initial=Fraction(0)))
        self.firsts = list(accumulate(self.counts, initial=0))
        self.bars = bars
        self.edges = [float(start) for start in self.starts]

    def beat(self, quarter: float, bar: int) -> float:
        """A time in a bar (or the nearest one) as beats from the first."""
        _, unit = self.bars[bar]
        return self.firsts[bar] + float(self.gaps[bar]) + (quarter - self.edges[bar]) / float(unit)

    def placed(self, notes: list[Lasting]) -> list[Played]:
        """Notes in beats."""
        found, at = [], 0
        for note in sorted(notes):
            at = _bar_at(self.edges, note.start + 0.02, at)
            begin, end = self.beat(note.start, at), self.beat(note.end, _bar_at(self.edges, note.end, at))
            found.append(Played(begin, end, note.midi, note.velocity, note.share))
        return found


def _bar_at(edges: list[float], quarter: float, begin: int) -> int:
    while begin + 2 < len(edges) and edges[begin + 1] <= quarter:
        begin += 1
    return begin


def chords_by_ear(
    notes: list[Lasting],
    bars: list[tuple[Fraction, Fraction]],
    key: Key | None = None,
    theirs: bool = False,
    cut: str = "",
) -> InBars:
    """The chords under some notes. `bars` are the length of every bar and of its beat, in quarters; `cut` what a chord
    lasts at least, as in core/hearing/stretches.py.
    """
    grid = _Grid(bars)
    played = grid.placed(notes)
    found = heard_chords(played, beats_of(grid.counts), theirs, key, cut)
    sounding = {beat for n in played if n.share == 1.0 for beat in range(math.floor(n.start), math.ceil(n.end))}
    onsets: list[list[Onset]] = [[] for _ in bars]
    doubtful: list[tuple[int, HeardChord]] = []
    bar = 0
    for chord in found.chords:
        while chord.start >= grid.firsts[bar + 1]:
            bar += 1
        if sounding.isdisjoint(range(chord.start, chord.end)):
            continue  # a tune alone: what sounded goes on
        place = max(Fraction(0), chord.start - grid.firsts[bar] - grid.gaps[bar])
        onsets[bar].append(Onset(place, chord.symbol or NO_CHORD))
        if chord.doubtful and chord.others:
            doubtful.append((bar, chord))
    return InBars(onsets, found.key, _doubts(doubtful))


def _doubts(doubtful: list[tuple[int, HeardChord]]) -> list[str]:
    told = [
        f"bar {bar + 1}: {chord.symbol} is doubtful; it may be {' or '.join(chord.others)}"
        for bar, chord in doubtful[:_MOST_TOLD]
    ]
    more = len(doubtful) - _MOST_TOLD
    return [*told, f"{more} more chords are doubtful"] if more > 0 else told


def named_words(count: int) -> str:
    """How many chords were named from the notes."""
    chords = "1 chord was" if count == 1 else f"{count} chords were"
    return f"{chords} named from the notes; look them over"
