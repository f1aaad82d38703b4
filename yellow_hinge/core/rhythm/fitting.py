"""A pattern over a chord: cut or tiled to its beats, never stretched; in any meter."""

from __future__ import annotations

import math
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.rhythm.patterns import TICK, Hit, Pattern, Strokes
from yellow_hinge.core.song import Meter
from yellow_hinge.core.timeline import Moment

THIRD = Fraction(1, 3)
SHORTEST = Fraction(1, 12)  # of a beat
# Where both hands strike together: a chord too short for the pattern, and the last one.
TOGETHER = Strokes("0/end L", "0/end R")


def unit_quarters(meter: Meter) -> Fraction:
    """The length of a pattern's beat in quarter notes: a quarter, or the dotted beat of a meter such as 6/8."""
    return meter.beat_quarters if meter.compound else Fraction(1)


def ticks(quarters: Fraction) -> int:
    """Quarter notes in ticks, to the nearest."""
    return round(quarters * TICK)


class Timed(NamedTuple):
    """A hit in its time: ticks from its chord's start, its length in ticks, and what it is."""

    at: int
    length: int
    what: str
    louder: int = 0
    early: bool = False
    roll: int = 0


def fitted(pattern: Pattern, hand: str, moment: Moment, form: Strokes) -> list[Timed]:
    """The hits of one hand over one chord; lengths end with the chord. `form` is the pattern's full form that holds
    here (see `form_of`).
    """
    return list(_fitted(pattern, hand, moment.quarters, moment.meter, form))


@lru_cache(maxsize=4096)
def _fitted(pattern: Pattern, hand: str, quarters: Fraction, meter: Meter, form: Strokes) -> tuple[Timed, ...]:
    unit = unit_quarters(meter)
    beats, close = quarters / unit, ticks(quarters)
    found: dict[tuple[int, str], Timed] = {}
    for start, length, strokes in _tiles(pattern, beats, form):
        for hit in strokes.hits(hand):
            placed = _placed(hit, start, length, beats, pattern, meter.compound)
            if placed is not None:
                at, end = ticks(placed.at * unit), ticks((placed.at + (placed.length or 0)) * unit)
                if at < min(end, close):
                    timed = Timed(at, min(end, close) - at, hit.what, hit.louder, hit.early, hit.roll)
                    found.setdefault((at, hit.what), timed)
    return tuple(found[key] for key in sorted(found, key=lambda key: key[0]))


def _tiles(pattern: Pattern, beats: Fraction, form: Strokes) -> list[tuple[Fraction, Fraction, Strokes]]:
    """(start, length, what is struck) of the stretches that a chord of `beats` is made of."""
    if not pattern.beats:
        return [(Fraction(0), beats, form)]
    if beats < pattern.beats:
        return [(Fraction(0), beats, _short(pattern, beats, form, True))]
    whole, rest = divmod(beats, pattern.beats)
    found = [(Fraction(n * pattern.beats), Fraction(pattern.beats), form) for n in range(int(whole))]
    if rest:
        found.append((Fraction(whole * pattern.beats), rest, _short(pattern, rest, form, False)))
    return found


def _short(pattern: Pattern, beats: Fraction, form: Strokes, alone: bool) -> Strokes:
    """The form for less than the whole pattern; `alone`: it is all that the chord has."""
    if beats <= 1:
        if pattern.one is not None:
            return pattern.one
        return form if pattern.cut or not alone else TOGETHER
    return pattern.two if beats <= 2 and pattern.two is not None else form


def seen_form(pattern: Pattern, form: Strokes, beats: Fraction) -> tuple[Strokes, int]:
    """What a chord of so many beats shows of a pattern (its first stretch), and how many beats that is long."""
    if not pattern.beats or beats >= pattern.beats:
        return form, pattern.beats
    found = _short(pattern, beats, form, True)
    return found, pattern.beats if found == form else 0 if found == TOGETHER else max(1, math.ceil(beats))


def _placed(
    hit: Hit, start: Fraction, length: Fraction, beats: Fraction, pattern: Pattern, compound: bool
) -> Hit | None:
    """A hit in beats from the chord's start, None where it is cut off."""
    if hit.share:
        return hit._replace(at=hit.at * beats, length=(hit.length or Fraction(1)) * beats, share=False)
    at = _bent(hit.at, pattern, compound)
    if at >= length:
        return None
    if hit.early and at + 1 < length:
        return None  # only the last stroke before the next chord may strike it
    if hit.early and start + length < beats:
        return None
    if hit.length is None:
        return hit._replace(at=start + at, length=length - at)
    long = max(SHORTEST, _bent(hit.at + hit.length, pattern, compound) - at)
    long = long / 2 if hit.ghost else long
    return hit._replace(at=start + at, length=min(long, length - at))


def _bent(at: Fraction, pattern: Pattern, compound: bool) -> Fraction:
    """A place in beats where it falls: on thirds of a dotted beat, and late where the pattern swings."""
    whole, part = divmod(at, 1)
    if compound and part * 3 % 1:
        part = THIRD if part < Fraction(1, 2) else 2 * THIRD
    elif pattern.swing and part == Fraction(1, 2):
        part = 2 * THIRD
    return whole + part


def form_of(pattern: Pattern, bar: int, going_on: bool) -> Strokes:
    """The full form that holds in a bar (counted from its section's start): every other time the second one.
    `going_on`: the chord before was the same, in the first form.
    """
    if pattern.second is None:
        return pattern.main
    turn = going_on if pattern.turns == "chord" else bar % 2 == 1
    return pattern.second if turn else pattern.main
