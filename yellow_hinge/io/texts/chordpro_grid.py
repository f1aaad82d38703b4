"""The grids of ChordPro: bars of cells, each a chord or a beat more of it, with repeats and endings. In and out."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction
from math import lcm

from msgspec.structs import replace

from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Slot

_PASSES = r"[1-9](?:,[1-9])*(?=\s|$|>)>?"
_LINE = re.compile(rf":\|:|:\|\||:\|{_PASSES}|:\||\|\|:|\|:|\|\.|\|\||\|{_PASSES}|\|")
_TIMES = re.compile(r"x\s*(\d{1,2})|\(?(\d{1,2})x\)?")
_MOST_CELLS = 64
_GOES_ON = (".", "/", "-", "*")  # cells in which a chord goes on

Chord = Callable[[str], str]


class GridReader:
    """Reads the lines of one grid into bars."""

    def __init__(self, meter: Meter, chord: Chord) -> None:
        self.meter, self.chord = meter, chord
        self.bars: list[Bar] = []
        self.opens, self.ending = False, 0
        self.strange: list[str] = []
        self.dots = False  # whether the next bar may be the second one of a repeat of two

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
        elif sign in ("||", "|.") or ":" in sign:
            self.ending = 0

    def _remark(self, text: str) -> None:
        times = _TIMES.search(text)
        if times and self.bars and self.bars[-1].repeats:
            self.bars[-1] = replace(self.bars[-1], repeats=max(2, min(99, int(times[1] or times[2]))))

    def _bar(self, cells: list[str]) -> None:
        if cells[0] in ("%", "%%"):
            self._again(len(cells[0]))
            return
        of_two, self.dots = self.dots, False
        if of_two and set(cells) == {"."}:
            return
        step = Fraction(self.meter.beats) / len(cells)
        made: list[Slot] = []
        for cell in cells:
            found = self._chords(cell)
            made += [Slot(symbol, step / len(found)) for symbol in found]
            if not found and made:
                made[-1] = replace(made[-1], beats=made[-1].beats + step)
            elif not found:
                before = self.bars[-1].slots[-1].symbol if self.bars else NO_CHORD
                made.append(Slot(before, step))
        self._add(tuple(made))

    def _chords(self, cell: str) -> list[str]:
        return [] if cell in _GOES_ON else [self._symbol(part) for part in cell.split("~") if part]

    def _again(self, back: int) -> None:
        """The bar before once more, or the two before, whose second one is written as dots."""
        for bar in self.bars[-back:] if len(self.bars) >= back else ():
            self._add(tuple(replace(slot, cue="") for slot in bar.slots))
        self.dots = back > 1

    def _add(self, slots: tuple[Slot, ...]) -> None:
        self.bars.append(Bar(slots, opens=self.opens, ending=self.ending))
        self.opens = False

    def _symbol(self, word: str) -> str:
        found = self.chord(word)
        if not found:
            self.strange.append(word)
        return found or NO_CHORD


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
