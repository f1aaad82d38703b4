"""Swing: where a half beat falls."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.song.song import Meter
from yellow_hinge.core.song.swing import SWINGS

THIRD, LEAN = Fraction(1, 3), Fraction(1, 2)  # of a beat


def swung_half(swing: int) -> Fraction:
    """Where the second half of a beat falls in it; 67 percent are two thirds."""
    return 2 * THIRD if swing == SWINGS["swung"] else Fraction(swing, 100)


def swung(tick: int, meter: Meter, swing: int, bar: int = 0) -> int:
    """A place in ticks where it falls, counted from a bar that begins at tick `bar`: half beats late by the song's
    swing, in meters whose beat is a quarter note.
    """
    if swing == SWINGS["straight"] or meter.beat_quarters != 1 or (tick - bar) % TICK != TICK // 2:
        return tick
    return tick - TICK // 2 + ticks(swung_half(swing))


def ticks(quarters: Fraction) -> int:
    """Quarter notes in ticks, to the nearest."""
    return (2 * quarters.numerator * TICK + quarters.denominator) // (2 * quarters.denominator)


def bent(at: Fraction, compound: bool, swing: int) -> Fraction:
    """A place in beats where it falls: on thirds of a dotted beat; a half beat late by the song's swing (percent)."""
    whole, part = divmod(at, 1)
    if compound and part * 3 % 1:
        part = THIRD if part < Fraction(1, 2) else 2 * THIRD
    elif not compound and part == Fraction(1, 2):
        part = swung_half(swing)
    return whole + part
