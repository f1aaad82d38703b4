"""The bars of a score across its parts: meters, keys, names, repeats and signs of the way, whoever has them."""

from __future__ import annotations

import re
from fractions import Fraction
from xml.etree.ElementTree import Element

from yellow_hinge.core.song.road import CODA, TO_CODA
from yellow_hinge.core.song.song import Meter
from yellow_hinge.io.imported import meter_or_none
from yellow_hinge.io.musicxml.score.measures import Measure, Part
from yellow_hinge.io.musicxml.score.signs import section_name, signs_of, tempo_in

_RANGE = re.compile(r"(\d)\s*-\s*(\d)")
_SWUNG = re.compile(r"\b(swing|swung|shuffle)\b", re.IGNORECASE)


class Column:
    """One bar of the whole score. `length` in quarters, `full` what its meter holds; `meter` in force, `key` (signature
    and mode) where a new one begins; `ending` its passes as digits.
    """

    def __init__(self, number: str, implicit: bool) -> None:
        self.number, self.implicit = number, implicit
        self.length = self.full = Fraction(0)
        self.meter = Meter()
        self.new_meter = False
        self.key: tuple[int, str] | None = None
        self.name = ""
        self.signs: tuple[str, ...] = ()
        self.opens = False
        self.closes = 0
        self.ending = 0
        self.again = 0
        self.tempo: Fraction | None = None
        self.swings = False

    @property
    def plain_start(self) -> bool:
        """Whether nothing new begins here, so that it may be the second half of the bar before."""
        return not (self.opens or self.name or self.new_meter or self.key)


def columns_of(parts: list[Part], report: list[str]) -> list[Column]:
    """The bars of all parts side by side."""
    count = max((len(part.measures) for part in parts), default=0)
    found: list[Column] = []
    meter, ending = Meter(), 0
    for index in range(count):
        here = [part.measures[index] for part in parts if index < len(part.measures)]
        column = _column(here, index, meter, report)
        meter = column.meter
        ending = _endings(column, here, ending)
        found.append(column)
    _settle_codas(found)
    return found


def _column(here: list[Measure], index: int, meter: Meter, report: list[str]) -> Column:
    """One bar of all parts that have it; `meter` is in force before it."""
    column = Column(next((m.number for m in here if m.number), str(index + 1)), any(m.implicit for m in here))
    column.meter = _meter(column, here, meter, report)
    column.new_meter = column.meter != meter and index > 0
    column.full = Fraction(4 * column.meter.upper, column.meter.lower)
    rest = max(m.rest for m in here)
    column.length = max(m.length for m in here) or min(rest, column.full) or column.full
    column.key = next((m.key for m in here if m.key), None)
    column.again = max(m.again for m in here)
    marks = [mark for measure in here for mark in measure.marks if mark.kind != "symbol"]
    column.name = section_name(marks, column.full)
    column.tempo = tempo_in(marks)
    column.signs = signs_of(marks, column.length)
    column.swings = any(mark.kind == "words" and _SWUNG.search(mark.text) for mark in marks)
    return column


def _meter(column: Column, here: list[Measure], meter: Meter, report: list[str]) -> Meter:
    written = next((m.meter for m in here if m.meter), None)
    if written is None:
        return meter
    found = meter_or_none(*written)
    if found is None:
        report.append(f"bar {column.number}: its meter is not known; it goes on in {meter}")
    return found or meter


def _endings(column: Column, here: list[Measure], ending: int) -> int:
    """Repeats and endings by the bar lines; the ending that goes on into the next bar."""
    stops = False
    for line in (line for measure in here for line in measure.lines):
        _repeat(column, line.find("repeat"))
        bracket = line.find("ending")
        if bracket is None:
            continue
        passes = _passes(bracket.get("number", "") or bracket.text or "")
        if bracket.get("type") == "start" or line.get("location") == "left":
            ending = passes or ending
        else:
            column.ending, stops = column.ending or passes, True
    column.ending = ending or column.ending
    return 0 if stops or column.closes else ending


def _repeat(column: Column, repeat: Element | None) -> None:
    direction = repeat.get("direction") if repeat is not None else None
    if direction == "forward":
        column.opens = True
    elif direction == "backward" and repeat is not None:
        times = repeat.get("times", "2")
        column.closes = max(column.closes, int(times) if times.isdecimal() and 1 < int(times[:4]) < 100 else 2)


def _passes(number: str) -> int:
    """The passes of an ending as digits: "1, 2" and "1-2" are 12."""
    spread = _RANGE.sub(lambda m: ",".join(map(str, range(int(m[1]), int(m[2]) + 1))), number)
    return int("".join(sorted(set(re.findall(r"[1-9]", spread)))) or 0)


def _settle_codas(columns: list[Column]) -> None:
    """Of two coda signs without words the first is where the way leaves, and the second where it goes on."""
    with_coda = [column for column in columns if CODA in column.signs]
    leaves = any(TO_CODA in column.signs for column in columns)
    if len(with_coda) > 1 and not leaves:
        first = with_coda[0]
        first.signs = tuple(TO_CODA if sign == CODA else sign for sign in first.signs)
