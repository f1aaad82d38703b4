"""A rhythm over its bars as plain geometry: what is wanted of each hand, what was played, how far it lies off."""

from __future__ import annotations

import bisect
from collections.abc import Sequence
from statistics import fmean
from typing import NamedTuple

from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.performing import Performance
from yellow_hinge.core.practice.timing import ON_TIME, JudgedStroke, Pass, PlayedKey, WantedStroke
from yellow_hinge.core.rhythm.pattern.swinging import ticks

A_ROW = 4  # bars
HEAD, LANE, SIDE = 36.0, 34.0, 14.0  # pixels
NAMES = 18.0  # pixels of the head that the names of chords have
MARK = 7.0  # pixels of a stroke's shortest box


class DrawnLine(NamedTuple):
    """A line across both lanes: where, how tall, its words, and whether a bar begins there."""

    x: float
    y: float
    height: float
    words: str
    bar: bool


class DrawnStroke(NamedTuple):
    """A stroke of a hand: the box that is wanted, the box that was played (None: not yet, or left out), and how it was:
    "" not judged, "right", "early", "late", "long", "short", "missing".
    """

    hand: str
    x: float
    y: float
    width: float
    height: float
    played: tuple[float, float] | None = None
    how: str = ""


class RhythmScene(NamedTuple):
    """All of it, the names of the chords (x, y, symbol), and where the hand is now (x, y, height), None where nothing
    plays.
    """

    lines: tuple[DrawnLine, ...]
    names: tuple[tuple[float, float, str], ...]
    strokes: tuple[DrawnStroke, ...]
    presses: tuple[tuple[float, float], ...]
    now: tuple[float, float, float] | None


class Bars(NamedTuple):
    """Where the bars of a stretch begin, in seconds from its beginning, with the beats in each and its number; and
    where each chord begins, with its name.
    """

    starts: tuple[float, ...]
    beats: tuple[tuple[float, ...], ...]
    numbers: tuple[str, ...]
    length: float
    chords: tuple[tuple[float, str], ...] = ()


def bars_of(
    performance: Performance, first: int, last: int, percent: int, numbers: Sequence[str], names: Sequence[str]
) -> Bars:
    """The bars between two ticks; `numbers` of all bars as they are played, `names` of all chords."""
    clock = performance.clock.faster(percent)
    begin = float(clock.seconds(first))
    starts, beats, named = [], [], []
    for number, bar in enumerate(performance.bars):
        if bar.end <= first or bar.start >= last:
            continue
        step = ticks(bar.meter.beat_quarters)
        first_beat = bar.start + (-bar.missing) % step
        inside = [tick for tick in range(first_beat, bar.end, step) if first <= tick < last]
        starts.append(max(0.0, float(clock.seconds(bar.start)) - begin))
        beats.append(tuple(float(clock.seconds(tick)) - begin for tick in inside))
        named.append(numbers[number] if number < len(numbers) else "")
    chords = tuple(
        (float(clock.seconds(tick)) - begin, name)
        for tick, name in zip(performance.starts, names, strict=True)
        if first <= tick < last
    )
    return Bars(tuple(starts), tuple(beats), tuple(named), float(clock.seconds(last)) - begin, chords)


class _Sheet:
    """Where seconds lie: rows of bars under each other."""

    def __init__(self, bars: Bars, width: float, height: float) -> None:
        self.bars = bars
        self.rows = [bars.starts[at : at + A_ROW] for at in range(0, len(bars.starts), A_ROW)] or [(0.0,)]
        self.width, self.tall = width - 2 * SIDE, height / len(self.rows)
        self.longest = max(close - begin for begin, close in (self.ends(n) for n in range(len(self.rows))))
        self.lane = min(LANE, max(14.0, (self.tall - HEAD - 8) / 2))

    def row_of(self, at: float) -> int:
        """The row that a time lies in."""
        return max(0, bisect.bisect_right(self.rows, at + 1e-6, key=lambda row: row[0]) - 1)

    def ends(self, row: int) -> tuple[float, float]:
        """The seconds that a row begins and ends with."""
        last = self.rows[row + 1][0] if row + 1 < len(self.rows) else self.bars.length
        return self.rows[row][0], max(last, self.rows[row][0] + 0.001)

    def x(self, at: float, row: int) -> float:
        """Where a time lies in a row; rows are as long as the first, where they have fewer bars."""
        return SIDE + (at - self.rows[row][0]) / self.longest * self.width

    def y(self, row: int, hand: str) -> float:
        """The top of a hand's lane in a row."""
        return row * self.tall + HEAD + (0.0 if hand == "right" else self.lane)


def rhythm_scene(
    wanted: Sequence[WantedStroke], bars: Bars, found: Pass | None, now: float | None, so_far: Sequence[PlayedKey],
    size: tuple[float, float],
) -> RhythmScene:  # fmt: skip
    """The picture in a size: of the last pass what was played, of the one that goes on where it is."""
    sheet = _Sheet(bars, *size)
    lines = []
    for start, beats, number in zip(bars.starts, bars.beats, bars.numbers, strict=True):
        row = sheet.row_of(start)
        top, tall = row * sheet.tall + NAMES, HEAD - NAMES + 2 * sheet.lane
        lines += [
            DrawnLine(sheet.x(at, row), top, tall, str(n) if n > 1 else "", False) for n, at in enumerate(beats, 1)
        ]
        lines.append(DrawnLine(sheet.x(start, row), top, tall, number, True))
    strokes = [_stroke(sheet, own, found is not None) for own in _together(wanted, found)]
    press_row = sheet.row_of(now) if now is not None else 0
    rows = [(press, sheet.row_of(max(0.0, press.at))) for press in so_far]
    presses = tuple((sheet.x(press.at, row), sheet.y(row, "left") + sheet.lane) for press, row in rows)
    mark = None
    if now is not None and 0 <= now <= bars.length:
        mark = (sheet.x(now, press_row), press_row * sheet.tall + NAMES, HEAD - NAMES + 2 * sheet.lane)
    spots = [(at, sheet.row_of(at), name) for at, name in bars.chords]
    names = tuple((sheet.x(at, row) + 3, row * sheet.tall, name) for at, row, name in spots)
    return RhythmScene(tuple(lines), names, tuple(strokes), presses, mark)


def _together(wanted: Sequence[WantedStroke], found: Pass | None) -> list[list[JudgedStroke]]:
    """Strokes of a hand at one time, as one."""
    every = found.strokes if found is not None else [JudgedStroke(each, None) for each in wanted]
    groups: dict[tuple[str, float], list[JudgedStroke]] = {}
    for each in every:
        if each.wanted.hand in HANDS:
            groups.setdefault((each.wanted.hand, round(each.wanted.at, 3)), []).append(each)
    return list(groups.values())


def _how(late: float, over: float) -> str:
    if abs(late) > ON_TIME:
        return "late" if late > 0 else "early"
    return "long" if over > 0 else "short" if over < 0 else "right"


def _stroke(sheet: _Sheet, own: list[JudgedStroke], judged: bool) -> DrawnStroke:
    first = own[0].wanted
    length = max(each.wanted.length for each in own)
    row = sheet.row_of(first.at)
    x, y = sheet.x(first.at, row), sheet.y(row, first.hand)
    box = DrawnStroke(first.hand, x, y + 3, max(MARK, sheet.x(first.at + length, row) - x - 2), sheet.lane / 2 - 5)
    struck = [each for each in own if each.late is not None]
    if not judged:
        return box
    if not struck:
        return box._replace(how="missing")
    late, over = fmean(each.late or 0.0 for each in struck), max((each.over for each in struck), key=abs)
    how = _how(late, over)
    begin, end = first.at + late, first.at + late + length + over
    return box._replace(played=(sheet.x(begin, row), sheet.x(end, row)), how=how)
