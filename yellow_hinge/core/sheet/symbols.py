"""The sheet for the dark: symbols and numbers only, very large, each where it falls in its bar."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.content import SheetContent, SheetMeasure, SheetPart
from yellow_hinge.core.sheet.drawing import HAIR
from yellow_hinge.core.sheet.flow import Flow, repeat_sign
from yellow_hinge.core.sheet.page import ClickArea, Page, fitted, line_height, text_width

POINTS = {"s": 15.0, "m": 20.0, "l": 28.0, "stage": 38.0}
NARROWEST = {"s": 30.0, "m": 40.0, "l": 60.0, "stage": 80.0}  # mm of a bar
ROWS_OF = (4, 2, 1)
PAD = 3.0


def _columns(ask: SheetAsk, width: float) -> int:
    if ask.columns:
        return ask.columns
    return next((count for count in ROWS_OF if width / count >= NARROWEST[ask.size]), 1)


class Symbols:
    """Lays the sheet out."""

    def __init__(self, ask: SheetAsk, found: SheetContent) -> None:
        self.ask, self.flow = ask, Flow(ask, found)
        self.columns = _columns(ask, self.flow.width)
        self.bar_w = self.flow.width / self.columns
        self.size = POINTS[ask.size]
        self.strip = line_height(self.size * 0.38)
        self.tall = self.strip + line_height(self.size) + 1.5
        self.tall += line_height(self.size * 0.55) if ask.shows("numbers") else 0.0

    def pages(self) -> tuple[Page, ...]:
        """Every section."""
        for part in self.flow.content.parts:
            self._part(part)
        return self.flow.finish()

    def _part(self, part: SheetPart) -> None:
        bars = part.measures
        if part.again:
            words = "again"
            bars = ()
        else:
            words = part.words
        self.flow.heading(part.name, words, self.size * 0.6, self.tall if bars else 0.0)
        for at in range(0, len(bars), self.columns):
            self.flow.need(self.tall)
            for column, bar in enumerate(bars[at : at + self.columns]):
                self._bar(self.flow.left + column * self.bar_w, self.flow.y, bar)
            self.flow.y += self.tall
        self.flow.y += 1.5

    def _bar(self, x: float, y: float, bar: SheetMeasure) -> None:
        on, top, tall = self.flow.on, y + self.strip, self.tall - self.strip - 1.0
        on.upright(x, top, tall, "ink", 2 * HAIR)
        if bar.opens:
            repeat_sign(on, x + 0.35, top, tall, True)
        if bar.closes > 1:
            repeat_sign(on, x + self.bar_w - 0.35, top, tall, False)
        marks = [f"{bar.ending}." if bar.ending else "", bar.meter, f"{bar.closes}×" if bar.closes > 2 else ""]
        marks += bar.signs
        on.text(x + 1, y, self.bar_w - 2, "  ".join(mark for mark in marks if mark), self.size * 0.38, bold=True)
        if bar.ending:
            on.level(x, y, self.bar_w * 0.9, "ink", 0.3)
        self._cells(x + PAD, top, self.bar_w - 2 * PAD, bar)

    def _cells(self, x: float, y: float, room: float, bar: SheetMeasure) -> None:
        """The chords of a bar in one size, each with its share of the bar by its beats, at least what it needs."""
        on = self.flow.on
        beats = [float(Fraction(cell.beats)) for cell in bar.cells]
        needs = [text_width(cell.symbol, self.size, True) + 1.5 for cell in bar.cells]
        shrink = min(1.0, room / sum(needs))
        spare = room - sum(need * shrink for need in needs)
        for cell, need, share in zip(bar.cells, needs, beats, strict=True):
            wide = need * shrink + spare * share / sum(beats)
            size = fitted(cell.symbol, self.size * shrink, wide - 0.5, True)
            tall = line_height(self.size)
            on.text(x, y + (tall - line_height(size)) * 0.6, wide - 0.4, cell.symbol, size, "ink", True, slot=cell.slot)
            if self.ask.shows("numbers") and cell.number:
                on.text(x, y + tall, wide - 0.4, cell.number, self.size * 0.5, "muted", slot=cell.slot)
            if cell.voicing >= 0:
                on.areas.append(ClickArea(x, y, wide, self.tall - self.strip, cell.voicing))
            x += wide


def symbol_pages(ask: SheetAsk, found: SheetContent) -> tuple[Page, ...]:
    """The pages of a sheet of symbols."""
    return Symbols(ask, found).pages()
