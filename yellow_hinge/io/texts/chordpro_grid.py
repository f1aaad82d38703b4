"""The grids of ChordPro: bars of cells, each a chord or a beat more of it, with repeats and endings. In and out."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction
from math import lcm

from msgspec.structs import replace

from yellow_hinge.core.song.song import Bar, Meter, Slot

_PASSES = r"[1-9](?:,[1-9])*(?=\s|$|>)>?"
_LINE = re.compile(rf":\|:|:\|\||:\|{_PASSES}|:\||\|\|:|\|:|\|\.|\|\||\|{_PASSES}|\|")
_TIMES = re.compile(r"x\s*(\d{1,2})|\(?(\d{1,2})x\)?")
_MOST_CELLS = 64

Chord = Callable[[str], str]


class GridReader:
    """Reads the lines of one grid into bars."""

    def __init__(self, meter: Meter, chord: Chord) -> None:
        self.meter, self.chord = meter, chord
        self.bars: list[Bar] = []
        self.opens, self.ending = False, 0
        self.strange: list[str] = []

    def line(self, text: str) -> None:
        """One line: what stands before its first bar line is a margin, and after its last one a remark."""
        marks = list(_LINE.finditer(text))
        if not marks:
            return
        for n, mark in enumerate(marks):
            self._mark(mark[0])
            end = marks[n + 1].start() if n + 1 < len(marks) else len(text)
            inside = text[mark.end() : end]
            if n + 1 == len(marks):
                self._remark(inside)
            elif inside.strip():
                self._bar(inside.split()[:_MOST_CELLS])

    def _mark(self, sign: str) -> None:
        if sign.startswith(":") and self.bars:
            self.bars[-1] = replace(self.bars[-1], repeats=max(2, self.bars[-1].repeats))
        if sign.endswith(":") and len(sign) > 1:
            self.opens = True
        digits = "".join(sorted(set(re.findall(r"\d", sign))))
        if digits:
            self.ending = int(digits)
        elif sign in ("||", "|.") or (sign.startswith(":") and not digits):
            self.ending = 0

    def _remark(self, text: str) -> None:
        times = _TIMES.search(text)
        if times and self.bars and self.bars[-1].repeats:
            self.bars[-1] = replace(self.bars[-1], repeats=max(2, min(99, int(times[1] or times[2]))))

    def _bar(self, cells: list[str]) -> None:
        beats = Fraction(self.meter.beats)
        if cells[0] in ("%", "%%"):
            back = 1 if cells[0] == "%" else 2
            for place in range(back):
                old = self.bars[place - back] if len(self.bars) >= back else None
                slots = tuple(replace(slot, cue="") for slot in old.slots) if old is not None else ()
                if slots:
                    self._add(slots)
            return
        step = beats / len(cells)
        made: list[Slot] = []
        for cell in cells:
            parts = [self._symbol(part) for part in cell.split("~") if part] if cell not in (".", "/", "-", "*") else []
            if parts:
                made += [Slot(part, step / len(parts)) for part in parts]
            elif made:
                made[-1] = replace(made[-1], beats=made[-1].beats + step)
            else:
                before = self.bars[-1].slots[-1].symbol if self.bars else self.chord("N.C.")
                made.append(Slot(before, step))
        self._add(tuple(made))

    def _add(self, slots: tuple[Slot, ...]) -> None:
        self.bars.append(Bar(slots, opens=self.opens, ending=self.ending))
        self.opens = False

    def _symbol(self, word: str) -> str:
        found = self.chord(word)
        if not found:
            self.strange.append(word)
        return found or self.chord("N.C.")


def grid_cells(slots: tuple[Slot, ...], symbols: list[str]) -> str:
    """A bar as cells of equal length, one at least for every beat."""
    beats = sum((slot.beats for slot in slots), Fraction(0))
    parts = 1
    for slot in slots:
        parts = lcm(parts, slot.beats.denominator)
    parts = lcm(parts, beats.denominator)
    cells: list[str] = []
    for slot, symbol in zip(slots, symbols, strict=True):
        cells += [symbol, *["."] * (int(slot.beats * parts) - 1)]
    return " ".join(cells)
