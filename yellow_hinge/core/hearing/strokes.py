"""The rhythm of both hands as a pattern of a bar: where a hand strikes in most bars, what of its chord, how long."""

from __future__ import annotations

from collections import defaultdict
from fractions import Fraction
from statistics import median
from typing import NamedTuple

from yellow_hinge.core.rhythm.pattern.patterns import LONGEST_ROLL, Hit, write_hits

_IN_MOST = 0.5  # share of bars from which a stroke is of the pattern
_TOGETHER = 0.12  # beats between notes that are one stroke
_PLACES = {
    "two": (Fraction(0), Fraction(1, 4), Fraction(1, 2), Fraction(3, 4), Fraction(1)),
    "three": (Fraction(0), Fraction(1, 3), Fraction(2, 3), Fraction(1)),
    "swing": (Fraction(0), Fraction(1, 2), Fraction(1)),  # written straight, swung when it is played
}
_SWUNG = Fraction(2, 3)


class InBar(NamedTuple):
    """A note of one hand: its bar, the beat in it, its length in beats, its MIDI number; in how many milliseconds the
    hand's chord is rolled that it is of.
    """

    bar: int
    beat: float
    length: float
    midi: int
    roll: int = 0


class _Stroke(NamedTuple):
    at: Fraction
    length: float
    what: str
    roll: int


def pattern_of(notes: list[InBar], whole: dict[int, tuple[int, ...]], kind: str, beats: int) -> str:
    """What a hand does in most bars, in the words of patterns; "" for nothing. `whole` is what it plays in each bar in
    all, `kind` how its beats are divided.
    """
    rows: dict[Fraction, list[_Stroke]] = defaultdict(list)
    bars = {note.bar for note in notes}
    for bar in bars:
        for stroke in _strokes([note for note in notes if note.bar == bar], whole.get(bar, ()), kind, beats):
            rows[stroke.at].append(stroke)
    hits = []
    for at in sorted(rows):
        if len(rows[at]) >= _IN_MOST * len(bars):
            words = [stroke.what for stroke in rows[at]]
            length = Fraction(round(median(stroke.length for stroke in rows[at]) * 4), 4)
            roll = round(median(stroke.roll for stroke in rows[at]) / 10) * 10  # as most of them are
            roll = min(roll, LONGEST_ROLL)
            hits.append(Hit(at, max(Fraction(1, 4), min(length, beats - at)), _commonest(words), roll=roll))
    return write_hits(tuple(hits))


def _commonest(words: list[str]) -> str:
    """The word that stands most often; of several the one that comes first by its letters, "all" before them."""
    return min(set(words), key=lambda word: (-words.count(word), word))


def _strokes(notes: list[InBar], whole: tuple[int, ...], kind: str, beats: int) -> list[_Stroke]:
    """The strokes of one hand in a bar."""
    groups: list[list[InBar]] = []
    for note in sorted(notes, key=lambda note: (note.beat, note.midi)):
        if groups and note.beat - groups[-1][0].beat < _TOGETHER:
            groups[-1].append(note)
        else:
            groups.append([note])
    made = ((placed(group[0].beat, kind), group) for group in groups)
    return [
        _Stroke(
            at,
            max(note.length for note in group),
            _what({note.midi for note in group}, whole),
            max(note.roll for note in group),
        )
        for at, group in made
        if at < beats
    ]


def placed(beat: float, kind: str) -> Fraction:
    """A place in a bar as it is written."""
    base = int(beat + 1e-9)
    part = beat - base
    if kind == "swing":  # a late half is a half
        part = part * 0.75 if part < float(_SWUNG) + 0.12 else part
    return base + min(_PLACES[kind], key=lambda place: abs(float(place) - part))


def _what(struck: set[int], whole: tuple[int, ...]) -> str:
    """What of a hand's chord is struck."""
    if len(whole) < 2 or len(struck) >= len(whole):
        return "all"
    if struck == {min(whole)}:
        return "low"
    if struck == {max(whole)}:
        return "top"
    return "rest" if min(whole) not in struck else "all"
