"""The bars of a MIDI file: where its meters put them, and where its notes lie in them."""

from __future__ import annotations

import math
from bisect import bisect_right
from fractions import Fraction
from itertools import islice
from typing import NamedTuple

from yellow_hinge.core.song.song import Meter
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import meter_lasting, meter_or_none
from yellow_hinge.io.midi.tracks import Contents

MAX_BARS = 1000
_FINE = 96  # parts of a quarter that bar lines may lie on
_LATE = 0.3  # quarters that a last key may be held over the last bar


class InBar(NamedTuple):
    """A bar: where it begins and how long it is (quarters), and its meter."""

    start: Fraction
    length: Fraction
    meter: Meter

    @property
    def end(self) -> Fraction:
        """Where the next one begins."""
        return self.start + self.length


class Bars(NamedTuple):
    """All bars. `pickup`: the first one is shorter than its meter."""

    bars: list[InBar]
    pickup: bool
    starts: list[float]

    @property
    def meter(self) -> Meter:
        """The song's meter: the first bar's, or that of those after it where only the first is in another one."""
        later = [bar.meter for bar in self.bars[1:3]]
        alone = len(later) == 2 and later[0] == later[1]
        return later[0] if alone or (self.pickup and later) else self.bars[0].meter

    @property
    def begins(self) -> float:
        """Where the song's meter does: after a pickup."""
        full = zip(self.bars, self.starts, strict=True)
        return next((start for bar, start in islice(full, self.pickup, None) if bar.meter == self.meter), 0.0)

    def at(self, quarter: float) -> int:
        """The bar that a time lies in."""
        return max(0, min(len(self.bars) - 1, bisect_right(self.starts, quarter + 1e-6) - 1))


def bars_of(found: Contents, shift: Fraction, name: str, report: list[str]) -> Bars:
    """The bars of a file. `shift`: quarters by which the first one begins later than the file, where the player says
    so; what is before it is a pickup. Raises FileFault where there are too many.
    """
    end = max(note.end for line in found.lines for note in line.notes) - _LATE
    marks = _marks(found, report)
    bars = [InBar(Fraction(0), shift, marks[0][1])] if shift > 0 else []
    while not bars or bars[-1].end < end:
        start = bars[-1].end if bars else Fraction(0)
        bars.append(_bar_from(start, marks))
        if len(bars) > MAX_BARS:
            raise FileFault(name, f"plays more than {MAX_BARS} bars; this is no song")
    pickup = shift > 0
    if not pickup and len(bars) > 1 and _is_pickup(bars, marks):
        bars[0] = bars[0]._replace(meter=bars[1].meter)
        pickup = True
    return Bars(bars, pickup, [float(bar.start) for bar in bars])


def _bar_from(start: Fraction, marks: list[tuple[Fraction, Meter]]) -> InBar:
    """The bar from a place on, cut short where another meter begins inside it; such a bar has a meter of its own."""
    meter = next(meter for at, meter in reversed(marks) if at <= start)
    length = Fraction(4 * meter.upper, meter.lower)
    change = next((at - start for at, _ in marks if start < at < start + length), length)
    own = meter if change == length else meter_lasting(change)
    return InBar(start, length, meter) if own is None else InBar(start, change, own)


def _marks(found: Contents, report: list[str]) -> list[tuple[Fraction, Meter]]:
    marks: list[tuple[Fraction, Meter]] = []
    for said in found.meters:
        meter = meter_or_none(said.number, said.lower)
        at = Fraction(round(said.at * _FINE), _FINE)
        if meter is None:
            report.append(f"a meter of the file is not known; it goes on in {marks[-1][1] if marks else Meter()}")
        elif not marks or meter != marks[-1][1]:
            marks = [mark for mark in marks if mark[0] != at]
            marks.append((at, meter))
    if not marks or marks[0][0] > 0:
        marks.insert(0, (Fraction(0), marks[0][1] if marks else Meter()))
    return marks


def _is_pickup(bars: list[InBar], marks: list[tuple[Fraction, Meter]]) -> bool:
    """Whether a short first bar stands for a pickup: one bar of another meter, shorter than the one that follows."""
    first, second = bars[:2]
    changes = len(marks) > 1 and marks[1][0] == second.start
    return changes and first.length < second.length and first.meter.upper < second.meter.upper


# Places in a beat that hands mean, with what it costs (in beats) to take one that is rarer.
_PLACES = (
    (0.0, 0.0), (1.0, 0.0), (0.5, 0.01), (1 / 3, 0.05), (2 / 3, 0.05), (0.25, 0.04), (0.75, 0.04),
)  # fmt: skip
_AS_FRACTION = {1 / 3: Fraction(1, 3), 2 / 3: Fraction(2, 3)}
_GRID = 24


def placed(beats: float, exact: bool) -> Fraction:
    """A time in beats as it is written: on the nearest 24th of a beat, or where a hand meant it."""
    if exact:
        return Fraction(round(beats * _GRID), _GRID)
    whole = math.floor(beats + 1e-9)
    part = beats - whole
    best = min(_PLACES, key=lambda place: abs(part - place[0]) + place[1])[0]
    return whole + _AS_FRACTION.get(best, Fraction(best))
