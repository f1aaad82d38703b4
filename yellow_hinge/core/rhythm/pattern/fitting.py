"""A pattern over a chord: cut or tiled to its beats, never stretched; in any meter."""

from __future__ import annotations

import math
from collections.abc import Collection
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.rhythm.pattern.patterns import Hit, Pattern, Strokes, write_hits
from yellow_hinge.core.rhythm.pattern.swinging import LEAN, bent, ticks
from yellow_hinge.core.song.song import Meter
from yellow_hinge.core.song.timeline import Moment

SHORTEST = Fraction(1, 12)  # of a beat
# Where both hands strike together: a chord too short for the pattern, and the last one.
TOGETHER = Strokes("0/end all", "0/end all")


def unit_quarters(meter: Meter) -> Fraction:
    """The length of a pattern's beat in quarter notes: a quarter, or the dotted beat of a meter such as 6/8."""
    return meter.beat_quarters if meter.compound else Fraction(1)


class Timed(NamedTuple):
    """A hit in its time: ticks from its chord's start (before it where that is struck early), its length in ticks, and
    what it is; `also` are keys of the hand that it takes in besides what it names.
    """

    at: int
    length: int
    what: str
    louder: int = 0
    early: bool = False
    roll: int = 0
    also: tuple[int, ...] = ()

    @property
    def added(self) -> bool:
        """Whether it names notes that the hand does not hold."""
        return self.what.startswith("+")


def bar_offset(moment: Moment) -> Fraction:
    """How many quarters into its bar a chord begins."""
    return (moment.beat - 1) * moment.meter.beat_quarters


def fitted(pattern: Pattern, hand: str, moment: Moment, form: Strokes, swing: int) -> list[Timed]:
    """The hits of one hand over one chord. `form` is the pattern's full form that holds here (see `form_of`), `swing`
    the percent of a beat before its second half. Lengths end with the chord, but for what leans over its end: that is
    marked early.
    """
    offset = bar_offset(moment) if pattern.bar else Fraction(0)
    return list(_fitted(pattern, hand, moment.quarters, moment.meter, form, offset, swing))


@lru_cache(maxsize=4096)
def _fitted(
    pattern: Pattern, hand: str, quarters: Fraction, meter: Meter, form: Strokes, offset: Fraction, swing: int
) -> tuple[Timed, ...]:
    unit = unit_quarters(meter)
    beats = quarters / unit
    tiles = _bar_tiles(pattern, beats, form, offset / unit) if pattern.bar else _tiles(pattern, beats, form)
    found: dict[tuple[int, str], Timed] = {}
    for start, length, strokes in tiles:
        for hit in strokes.hits(hand):
            placed = _placed(hit, start, length, beats, pattern, meter.compound, swing)
            placed = _over_changes(placed, pattern, beats) if placed is not None and pattern.bar else placed
            timed = _timed(placed, unit, ticks(quarters)) if placed is not None else None
            if timed is not None:
                found.setdefault((timed.at, timed.what), timed)
    return tuple(found[key] for key in sorted(found, key=lambda key: key[0]))


def _timed(hit: Hit, unit: Fraction, close: int) -> Timed | None:
    """A hit in ticks; None where it begins with the chord's end or after it."""
    at, end = ticks(hit.at * unit), ticks((hit.at + (hit.length or 0)) * unit)
    end = end if hit.early else min(end, close)
    return Timed(at, end - at, hit.what, hit.louder, hit.early, hit.roll) if at < min(end, close) else None


def _again(hit: Hit, pattern: Pattern, length: Fraction) -> bool:
    """Whether a hit that began before a chord is struck once more on it."""
    leaned = pattern.lean and hit.at >= -LEAN
    return hit.at + length >= LEAN and not (leaned or hit.early or hit.ghost)


def _over_changes(hit: Hit, pattern: Pattern, beats: Fraction) -> Hit | None:
    """A hit of a pattern that is counted from the bar, seen from one of its chords: what began before it and sounds on
    for half a beat or more is struck again, and what leans over the chord's end is early; None where it is neither.
    """
    length = hit.length or Fraction(0)
    if hit.early and hit.at + 1 < beats:
        hit = hit._replace(early=False)  # the chord goes on over the end of the pattern
    if hit.at < 0:
        return hit._replace(at=Fraction(0), length=hit.at + length) if _again(hit, pattern, length) else None
    leans = pattern.lean and not hit.ghost and beats - LEAN <= hit.at < beats < hit.at + length
    return hit._replace(early=True) if leans else hit


def _tiles(pattern: Pattern, beats: Fraction, form: Strokes) -> list[tuple[Fraction, Fraction, Strokes]]:
    """(start, length, what is struck) of the stretches that a chord of `beats` is made of."""
    if not pattern.beats:
        return [(Fraction(0), beats, form)]
    if beats < pattern.beats:
        return [(Fraction(0), beats, _short(pattern, beats, form, True))]
    size = Fraction(pattern.beats)
    whole, rest = divmod(beats, size)
    found = [(n * size, size, form) for n in range(int(whole))]
    if rest:
        found.append((whole * size, rest, _short(pattern, rest, form, False)))
    return found


def _bar_tiles(
    pattern: Pattern, beats: Fraction, form: Strokes, skip: Fraction
) -> list[tuple[Fraction, Fraction, Strokes]]:
    """The stretches of a pattern that is counted from the bar, whole, seen from a chord that begins `skip` beats into
    it.
    """
    size = Fraction(pattern.beats) or skip + beats
    first = -(skip % size)
    return [(first + n * size, size, form) for n in range(math.ceil((beats - first) / size))]


def _short(pattern: Pattern, beats: Fraction, form: Strokes, alone: bool) -> Strokes:
    """The form for less than the whole pattern; `alone`: it is all that the chord has."""
    if beats <= 1:
        if pattern.one is not None:
            return pattern.one
        return form if pattern.cut or not alone else TOGETHER
    return pattern.two if beats <= 2 and pattern.two is not None else form


def seen_form(pattern: Pattern, form: Strokes, beats: Fraction) -> tuple[Strokes, Fraction]:
    """What a chord of so many beats shows of a pattern (its first stretch), and how many beats that is long (0: as long
    as the chord).
    """
    whole = Fraction(pattern.beats)
    if not whole or beats >= whole or pattern.bar:
        return form, whole
    found = _short(pattern, beats, form, True)
    return found, whole if found == form else Fraction(0) if found == TOGETHER else Fraction(max(1, math.ceil(beats)))


def _placed(
    hit: Hit, start: Fraction, length: Fraction, beats: Fraction, pattern: Pattern, compound: bool, swing: int
) -> Hit | None:
    """A hit in beats from the chord's start, None where it is cut off."""
    if hit.share:
        return hit._replace(at=hit.at * beats, length=(hit.length or Fraction(1)) * beats, share=False)
    at = bent(hit.at, compound, swing)
    if at >= length:
        return None
    if hit.early and at + 1 < length:
        return None  # only the last stroke before the next chord may strike it
    if hit.early and not pattern.bar and start + length < beats:
        return None
    if hit.length is None:
        return hit._replace(at=start + at, length=length - at)
    long = max(SHORTEST, bent(hit.at + hit.length, compound, swing) - at)
    long = long / 2 if hit.ghost else long
    return hit._replace(at=start + at, length=min(long, length - at))


@lru_cache(maxsize=256)
def beside_bass(pattern: Pattern) -> Pattern:
    """A pattern as it is played beside a bass player: what it says of that; "right": the left hand strikes with the
    right, in all its forms.
    """
    theirs = pattern.theirs
    if not theirs:
        return pattern
    if isinstance(theirs, Strokes):
        plain: Pattern = replace(
            pattern, left=theirs.left, right=theirs.right, second=None, third=None, fourth=None, two=None, one=None
        )
        return plain
    names = ("second", "third", "fourth", "two", "one")
    forms = {name: _together(form) for name in names if (form := getattr(pattern, name)) is not None}
    found: Pattern = replace(pattern, left=_together(pattern.main).left, **forms)
    return found


def _together(form: Strokes) -> Strokes:
    """A form whose left hand strikes with the right."""
    hits = (hit._replace(what="all") if hit.added else hit for hit in form.hits("right"))
    return Strokes(write_hits(tuple(hits)), form.right)


AFTER_THREE, AFTER_TWO = {Fraction(3, 2), Fraction(5, 2)}, {Fraction(1), Fraction(2)}  # quarters into a bar of seven


def three_first(starts: Collection[Fraction], meter: Meter) -> bool:
    """Whether the chords of a bar of seven eighths, which begin at so many quarters, part it as 3 + 4 or 3 + 2 + 2."""
    seven = meter.beats * meter.beat_quarters == Fraction(7, 2)
    return seven and bool(AFTER_THREE & {*starts}) and not AFTER_TWO & {*starts}


def form_of(pattern: Pattern, bar: int, going_on: bool, three: bool = False) -> Strokes:
    """The full form that holds in a bar (counted from its section's start); where the forms take turns by chord, the
    second one over a chord that goes on. `going_on`: the chord before was the same, in the first form; `three`: the
    bar's chords part its seven eighths after the third.
    """
    if three and pattern.three_first is not None:
        return pattern.three_first
    forms = pattern.forms
    if pattern.turns == "chord" and len(forms) > 1:
        return forms[going_on]
    return forms[bar % len(forms)]
