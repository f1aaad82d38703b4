"""Who plays along: a click, soft drums, and a bass player where the bass is another's."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.song.song import Meter
from yellow_hinge.core.song.swing import SWINGS

CLICK, CLICK_HIGH = 76, 77  # the numbers of General MIDI's wood blocks
KICK, STICK, SHAKER, BRUSH = 36, 37, 70, 40
BASS_LOW = 28  # E1: the lowest string


class Beat(NamedTuple):
    """Something struck in a bar: ticks from its start, length in ticks, MIDI number, part, velocity."""

    at: int
    length: int
    midi: int
    part: str
    velocity: int


def clicks(meter: Meter, length: int, first: int = 0) -> list[Beat]:
    """A click on every felt beat of a bar of `length` ticks; the first beat is higher. A pickup begins `first` ticks
    into its bar.
    """
    unit = ticks(meter.beat_quarters)
    found = []
    for at in range(0, length, unit):
        high = at + first == 0
        found.append(Beat(at, min(unit, TICK) // 4, CLICK_HIGH if high else CLICK, "click", 96 if high else 72))
    return found


def drums(meter: Meter, length: int, swing: int) -> list[Beat]:
    """Soft drums for a bar: kick and stick in turn, a shaker between; brushes where it swings. `swing`: percent of a
    beat before its second half.
    """
    unit, found = ticks(meter.beat_quarters), []
    beats, swings = length // unit, swing > SWINGS["straight"]
    halves = 3 if meter.compound else 2
    for beat in range(beats):
        at = beat * unit
        strong = beat % 2 == 0 if beats % 2 == 0 else beat == 0
        found.append(Beat(at, unit // 4, KICK if strong else BRUSH if swings else STICK, "drums", 70 if strong else 60))
        for part in range(halves):
            place = swung(at + unit * part // halves, meter, swing)
            found.append(Beat(place, unit // 8, SHAKER, "drums", 52 if part == 0 else 38))
    return [beat for beat in found if beat.at < length]


def bass_register(pc: int, before: int | None) -> int:
    """The bass player's key for a pitch class: near the note before, from E1 up."""
    lowest = BASS_LOW + (pc - BASS_LOW) % 12
    if before is None:
        return lowest
    return min((lowest, lowest + 12), key=lambda midi: (abs(midi - before), midi))
