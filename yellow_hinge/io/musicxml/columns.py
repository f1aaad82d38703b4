"""The bars of a score across its parts: meters, keys, names, repeats and signs of the way, whoever has them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction

from yellow_hinge.core.song.road import CODA, FINE, JUMPS, SEGNO, TO_CODA, signs_in
from yellow_hinge.core.song.song import Meter
from yellow_hinge.io.imported import meter_or_none
from yellow_hinge.io.musicxml.measures import Measure, Part, Written, in_grid
from yellow_hinge.io.texts.over_words import is_section_name

_TO = re.compile(r"\b(to|al|à la|zur)\b", re.IGNORECASE)
_SOUNDS = (
    ("segno", SEGNO),
    ("coda", CODA),
    ("tocoda", TO_CODA),
    ("fine", FINE),
    ("dacapo", "D.C."),
    ("dalsegno", "D.S."),
)
_RANGE = re.compile(r"(\d)\s*-\s*(\d)")
_SWUNG = re.compile(r"\b(swing|swung|shuffle)\b", re.IGNORECASE)
_UNITS = {
    "whole": Fraction(4), "half": Fraction(2), "quarter": Fraction(1), "eighth": Fraction(1, 2),
    "16th": Fraction(1, 4), "breve": Fraction(8),
}  # fmt: skip


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
        column = Column(next((m.number for m in here if m.number), str(index + 1)), any(m.implicit for m in here))
        written = next((m.meter for m in here if m.meter), None)
        if written is not None:
            new = meter_or_none(*written)
            if new is None:
                report.append(f"bar {column.number}: its meter is not known; it goes on in {meter}")
            column.new_meter = new is not None and new != meter and index > 0
            meter = new or meter
        column.meter = meter
        column.full = Fraction(4 * meter.upper, meter.lower)
        rest = max((m.rest for m in here), default=Fraction(0))
        column.length = max((m.length for m in here), default=Fraction(0)) or min(rest, column.full) or column.full
        column.key = next((m.key for m in here if m.key), None)
        column.again = max((m.again for m in here), default=0)
        ending = _lines(column, here, ending)
        _words(column, here)
        found.append(column)
    _settle_codas(found)
    return found


def _lines(column: Column, here: list[Measure], ending: int) -> int:
    """What the bar lines say; the ending that goes on into the next bar."""
    stops = False
    for line in (line for measure in here for line in measure.lines):
        left = line.get("location") == "left"
        repeat, bracket = line.find("repeat"), line.find("ending")
        if repeat is not None and repeat.get("direction") == "forward":
            column.opens = True
        elif repeat is not None and repeat.get("direction") == "backward":
            times = repeat.get("times", "2")
            column.closes = max(column.closes, int(times) if times.isdecimal() and 1 < int(times[:4]) < 100 else 2)
        if bracket is not None:
            if bracket.get("type") == "start" or left:
                ending = _passes(bracket.get("number", "") or bracket.text or "") or ending
            else:
                column.ending = column.ending or _passes(bracket.get("number", ""))
                stops = True
    column.ending = ending or column.ending
    return 0 if stops or column.closes else ending


def _passes(number: str) -> int:
    """The passes of an ending as digits: "1, 2" and "1-2" are 12."""
    spread = _RANGE.sub(lambda m: ",".join(map(str, range(int(m[1]), int(m[2]) + 1))), number)
    return int("".join(sorted(set(re.findall(r"[1-9]", spread)))) or 0)


def _words(column: Column, here: list[Measure]) -> None:
    """Names, tempo and signs of the way, from every part's marks."""
    marks = [mark for measure in here for mark in measure.marks if mark.kind != "symbol"]
    column.name = next((m.text for m in marks if m.kind == "rehearsal" and m.text), "")
    if not column.name:
        half = column.full / 2
        named = (m.text for m in marks if m.kind == "words" and m.at < half and is_section_name(m.text))
        column.name = next(named, "").strip(" :[]()")
    column.swings = any(m.kind == "words" and _SWUNG.search(m.text) for m in marks)
    column.tempo = next(filter(None, map(_tempo, (m for m in marks if m.kind in ("tempo", "sound")))), None)
    found = [sign for mark in marks for sign in _signs(mark, marks, column)]
    told = [sign for sign in found if sign not in ("D.C.", "D.S.")]
    for sign in found:  # a jump that is said in words is not said again by what a player of the file hears
        if sign in ("D.C.", "D.S.") and not any(other in JUMPS for other in told):
            told.append(sign)
    column.signs = tuple(dict.fromkeys(told))


def _tempo(mark: Written) -> Fraction | None:
    """Quarters a minute."""
    if mark.kind == "sound":
        return _decimal(mark.element.get("tempo", ""))
    unit = _UNITS.get((mark.element.findtext("beat-unit") or "").strip())
    speed = _decimal(mark.element.findtext("per-minute") or "")
    if unit is None or speed is None:
        return None
    dots = len(mark.element.findall("beat-unit-dot"))
    return speed * unit * (2 - Fraction(1, 2**dots))


def _decimal(text: str) -> Fraction | None:
    found = re.search(r"\d{1,4}(?:\.\d{1,6})?", text)
    return Fraction(found[0]) if found and Fraction(found[0]) > 0 else None


def _signs(mark: Written, marks: list[Written], column: Column) -> Iterator[str]:
    """The signs of the way that one mark is."""
    late = mark.at >= column.length * Fraction(3, 4) and mark.at > 0
    beside = " ".join(m.text for m in marks if m.element is mark.element and m.kind == "words")
    if mark.kind == "words":
        signs, rest = signs_in(mark.text)
        jumps = [sign for sign in signs if sign in JUMPS]
        if jumps:
            yield jumps[0]
        elif signs and not re.sub(r"[\W_]", "", rest):
            yield from (TO_CODA if sign == CODA and late else sign for sign in signs)
    elif mark.kind == SEGNO and not signs_in(beside)[0]:
        yield SEGNO
    elif mark.kind == CODA and not any(sign in JUMPS for sign in signs_in(beside)[0]):
        told = mark.element.find("sound")
        to = late or _TO.search(beside) or (told is not None and told.get("tocoda"))
        yield TO_CODA if to else CODA
    elif mark.kind == "sound":
        yield from (sign for name, sign in _SOUNDS if mark.element.get(name, "no") not in ("no", ""))


def _settle_codas(columns: list[Column]) -> None:
    """Of two coda signs without words the first is where the way leaves, and the second where it goes on."""
    with_coda = [column for column in columns if CODA in column.signs]
    leaves = any(TO_CODA in column.signs for column in columns)
    if len(with_coda) > 1 and not leaves:
        first = with_coda[0]
        first.signs = tuple(TO_CODA if sign == CODA else sign for sign in first.signs)


# --- bars that were split, and where repeats go back to ---


def joined(parts: list[Part], columns: list[Column]) -> bool:
    """Join the halves of bars that were split (at a system's end, by an implicit bar) everywhere; whether any was."""
    at, changed = len(columns) - 2, False
    while at >= 0:
        one, two = columns[at], columns[at + 1]
        halves = one.length < one.full and two.length < two.full and one.length + two.length == one.full
        split = halves and (two.implicit or two.number[:1] in "Xx" or two.number == one.number) and two.plain_start
        if split and not one.closes and one.ending == two.ending:
            for part in parts:
                if at + 1 < len(part.measures):
                    _join(part.measures[at], part.measures.pop(at + 1), one.length)
            columns[at + 1 : at + 2] = []
            changed = True
        at -= 1
    return changed


def _join(first: Measure, second: Measure, by: Fraction) -> None:
    first.notes += [note._replace(start=note.start + by) for note in second.notes]
    first.marks += [mark._replace(at=mark.at + by) for mark in second.marks]
    first.lines += second.lines
    first.length = by + second.length if second.length else first.length


def open_repeats(columns: list[Column], starts: list[int], pickup: bool) -> None:
    """Write where a repeat goes back to wherever a section begins inside it, so that it is not cut there. `starts` are
    the first bars of sections; a pickup is played again only where the last bar of the repeat leaves room for it.
    """
    begin, opened = 0, False
    closing = next((column for column in columns if column.closes), None)
    if pickup and closing is not None and closing.length + columns[0].length > closing.full and len(columns) > 1:
        begin = 1
        starts = [*starts, 2]
    for at, column in enumerate(columns):
        if column.opens:
            begin, opened = at, True
        if not column.closes:
            continue
        first = column.ending == 0 or "1" in str(column.ending)
        if not opened and first and any(begin < start <= at for start in starts):
            columns[begin].opens = True
        after = at + 1
        while after < len(columns) and columns[after].ending and "1" not in str(columns[after].ending):
            after += 1
        begin, opened = after, False


def lengths_of(columns: list[Column], pickup: bool) -> list[Fraction]:
    """Quarters that every bar lasts: its meter's, unless it is written short or long on purpose: a pickup, an implicit
    bar, one that goes back to a pickup or on into an implicit bar.
    """
    found = []
    for at, column in enumerate(columns):
        after = columns[at + 1] if at + 1 < len(columns) else None
        back = pickup and (column.closes or any(sign in JUMPS for sign in column.signs))
        halved = after is not None and after.implicit and column.length + after.length == column.full
        whole = column.length == column.full or not (
            (at == 0 and pickup) or column.implicit or back or halved or column.length > column.full
        )
        found.append(column.full if whole else in_grid(column.length))
    return found
