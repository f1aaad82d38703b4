"""Where the notes of a line stand: a step of its density apart, with a breath at the end of every phrase."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.timeline import Moment

# Quarter notes from one note to the next; where the beat is dotted, the second.
STEPS: dict[str, tuple[Fraction, Fraction]] = {
    "halves": (Fraction(2), Fraction(3)), "quarters": (Fraction(1), Fraction(3, 2)),
    "eighths": (Fraction(1, 2), Fraction(1, 2)), "triplets": (Fraction(1, 3), Fraction(1, 2)),
    "sixteenths": (Fraction(1, 4), Fraction(1, 4)),
}  # fmt: skip
PHRASE = 4  # bars
BREATH = Fraction(1)  # beats of rest at the end of a phrase, at least


class Place(NamedTuple):
    """A note's place: quarters from the song's start, how long it lasts, the index of its chord, and whether it begins
    that chord, falls on a strong beat, or on a beat.
    """

    quarter: Fraction
    quarters: Fraction
    at: int
    lands: bool
    strong: bool
    on: bool


def step_of(density: str, moment: Moment) -> Fraction:
    """Quarters from note to note over a chord. Raises UserError for no density."""
    if density not in STEPS:
        raise UserError(f"a density is one of {', '.join(STEPS)}, not {density!r}")
    return STEPS[density][moment.meter.compound]


def grid(moments: Sequence[Moment], density: str) -> list[Place]:
    """The places of a line over a row of chords. In the last bar of every phrase it lands on its chords and rests; the
    next phrase begins off the beat, where the density allows it.
    """
    bars = _bars(moments)
    count = max(bars, default=0)
    found: list[tuple[Fraction, int]] = []
    for at, moment in enumerate(moments):
        step, end = step_of(density, moment), moment.quarter + moment.quarters
        closing = bars[at] % PHRASE == PHRASE - 1 or bars[at] == count
        rises = bars[at] % PHRASE == 0 and bars[at] > 0 and moment.beat == 1 and step < moment.meter.beat_quarters
        place = moment.quarter + (step if rises else 0)
        while place < end:
            found.append((place, at))
            if closing:
                break
            place += step
    return [_place(moments, found, n) for n in range(len(found))]


def _bars(moments: Sequence[Moment]) -> list[int]:
    """The bar that every chord stands in, from 0 at the first."""
    found: list[int] = []
    before: tuple[int, int, int] | None = None
    for moment in moments:
        own = (moment.section, moment.turn, moment.bar)
        count = (found[-1] if found else -1) + (own != before)
        found.append(count)
        before = own
    return found


def _place(moments: Sequence[Moment], found: list[tuple[Fraction, int]], n: int) -> Place:
    quarter, at = found[n]
    moment = moments[at]
    beat = moment.meter.beat_quarters
    end = moment.quarter + moment.quarters
    after = found[n + 1][0] if n + 1 < len(found) else end
    rests = after - quarter > step_limit(moment) or n + 1 == len(found)
    length = min(after - quarter, max(beat, end - quarter - BREATH * beat)) if rests else after - quarter
    inside = moment.beat - 1 + (quarter - moment.quarter) / beat  # beats from the bar's begin
    halfway = Fraction(moment.meter.beats, 2)
    strong = inside == 0 or (halfway.denominator == 1 and halfway > 1 and inside == halfway)
    return Place(quarter, length, at, quarter == moment.quarter, strong, inside.denominator == 1)


def step_limit(moment: Moment) -> Fraction:
    """Quarters from which the time to the next note is a breath: more than two beats."""
    return 2 * moment.meter.beat_quarters
