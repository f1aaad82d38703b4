"""The rhythm of a bar as a small picture: what each hand strikes and how long, over the counts."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.sheet.as_struck import ACCENT, GHOST_SIGN, StruckBar, Voices, struck_bars
from yellow_hinge.core.sheet.bars import Sound, bar_length, played_measures
from yellow_hinge.core.sheet.drawing import HAIR, Drawing
from yellow_hinge.core.sheet.page import line_height, text_width
from yellow_hinge.core.song.song import Meter, Song

LANE = 2.3  # mm of one hand
HEAD = 0.75  # mm of the mark where a key is struck
TALL = {"": 1.5, ACCENT: 2.1, GHOST_SIGN: 0.8}  # mm of that mark
AND = "+"


class CountedBeat(NamedTuple):
    """A stroke of a hand: where it begins and how long it lasts, in quarters, and its sign, "" for none."""

    hand: str
    at: Fraction
    length: Fraction
    sign: str = ""


class Rhythm(NamedTuple):
    """What is struck in a bar so many quarters long, and what its pickup leaves out."""

    strokes: tuple[CountedBeat, ...]
    length: Fraction
    meter: Meter
    missing: Fraction = Fraction(0)

    def counts(self) -> list[tuple[Fraction, str]]:
        """The counts of its beats, and of the half beats that are struck."""
        beat = self.meter.beat_quarters
        first, found = self.missing, []
        for number in range(1, self.meter.beats + 1):
            at = (number - 1) * beat - first
            found += [(at, str(number))] if 0 <= at < self.length else []
        struck = {stroke.at for stroke in self.strokes}
        halves = {at for at in struck if not self.meter.compound and (at + first) % beat == beat / 2}
        return sorted([*found, *((at, AND) for at in halves)])


def _struck(voices: Voices) -> Iterator[tuple[Fraction, Sound]]:
    """What a hand strikes, and when."""
    for sounds in voices:
        at = Fraction(0)
        for sound in sounds:
            if sound.pitches and sound.length and not sound.tied[0]:
                yield at, sound
            at += sound.length


def _strokes(bar: StruckBar) -> tuple[CountedBeat, ...]:
    found: dict[tuple[str, Fraction], CountedBeat] = {}
    for hand in HANDS:
        for at, sound in _struck(bar.hands[hand]):
            sign = next((s for s in sound.signs if s in TALL), "")
            old = found.get((hand, at))
            if old is None or old.length < sound.length:
                found[hand, at] = CountedBeat(hand, at, sound.length, sign or (old.sign if old else ""))
    return tuple(sorted(found.values(), key=lambda beat: (beat.at, beat.hand)))


def rhythms(song: Song, solution: Solution, playing: Playing) -> dict[tuple[int, int, int], Rhythm]:
    """The rhythm of every bar as it is played, by its section as it is played, its place there, and the pass."""
    made = played_measures(song, solution)
    found = {}
    for place, struck in zip(made, struck_bars(solution, song, playing, [*made.values()], False), strict=True):
        bar = made[place]
        length = bar_length(bar)
        missing = max(Fraction(0), bar.meter.beats * bar.meter.beat_quarters - length)
        found[place] = Rhythm(_strokes(struck), length, bar.meter, missing)
    return found


def rhythm_height(size: float) -> float:
    """Its height in mm; `size` in points is that of the counts."""
    return 2 * LANE + line_height(size)


def draw_rhythm(on: Drawing, x: float, y: float, w: float, rhythm: Rhythm, size: float) -> None:
    """A rhythm in a width in mm: the right hand above, the left below, the counts under both."""
    unit = w / float(rhythm.length)
    for stroke in rhythm.strokes:
        lane = y + (0.0 if stroke.hand == "right" else LANE)
        left, tall = x + float(stroke.at) * unit, TALL[stroke.sign]
        on.box(left, lane + (LANE - tall) / 2, HEAD, tall, stroke.hand)
        tail = float(stroke.length) * unit - HEAD - 0.5
        if tail > 0:
            on.level(left + HEAD, lane + LANE / 2 - HAIR, tail, stroke.hand, 2 * HAIR)
    free = x
    counts = rhythm.counts()
    tight = any(
        float(after[0] - before[0]) * unit < text_width(before[1], size) + 0.5
        for before, after in itertools.pairwise(counts)
    )
    for at, words in counts:
        left = x + float(at) * unit
        if (words == AND and tight) or left < free:
            continue
        wide = text_width(words, size) + 0.1
        on.text(left, y + 2 * LANE, wide, words, size, "muted")
        free = left + wide + 0.3
