"""How a sheet runs over its pages: a title, headings, rows of equal cells, and a foot with the page's number."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.content import Cell, SheetContent, SheetMeasure
from yellow_hinge.core.sheet.drawing import HAIR, Drawing
from yellow_hinge.core.sheet.page import Page, line_height, text_width, wrapped

TITLE, FACTS, FOOT = 17.0, 9.0, 7.5
LEGEND = "Bold moves, underlined stays. L left, R right. C4 is middle C, marked under each keyboard."


class Placed(NamedTuple):
    """A cell in its row, with the bar it belongs to where it begins and where it ends there."""

    cell: Cell
    column: int
    begins: SheetMeasure | None
    ends: SheetMeasure | None


class CellRow(NamedTuple):
    """Cells side by side, each a share of the page's width."""

    cells: list[Placed]
    columns: int


def rows_of(measures: Iterable[SheetMeasure], columns: int) -> list[CellRow]:
    """Bars in rows of `columns` bars, as phrases go. Where some of them have more chords the row's cells are narrower,
    by half a row's cells at most; a bar that has still more goes on in the next row.
    """
    rows: list[CellRow] = []
    bars: list[SheetMeasure] = []
    most = columns + columns // 2
    for measure in measures:
        if len(bars) == columns or sum(len(bar.cells) for bar in (*bars, measure)) > most:
            rows += _row(bars, columns, most)
            bars = []
        bars.append(measure)
    return rows + _row(bars, columns, most)


def _row(bars: list[SheetMeasure], columns: int, most: int) -> list[CellRow]:
    flat = [
        (cell, bar if index == 0 else None, bar if index == len(bar.cells) - 1 else None)
        for bar in bars
        for index, cell in enumerate(bar.cells)
    ]
    if len(flat) <= most:
        cells = [Placed(cell, column, begins, ends) for column, (cell, begins, ends) in enumerate(flat)]
        return [CellRow(cells, max(columns, len(cells)))] if cells else []
    return [
        CellRow(
            [Placed(cell, n, begins, ends) for n, (cell, begins, ends) in enumerate(flat[at : at + columns])], columns
        )
        for at in range(0, len(flat), columns)
    ]


class Flow:
    """Pages as they fill from top to bottom."""

    def __init__(self, ask: SheetAsk, found: SheetContent, legend: str = "") -> None:
        self.ask, self.content, self.legend = ask, found, legend
        self.w, self.h = ask.page
        self.left, self.right = ask.margin, self.w - ask.margin
        self.bottom = self.h - ask.margin - line_height(FOOT) - 1.5
        self.pages: list[Drawing] = []
        self.y = 0.0
        self.top = 0.0  # where a page's first row stands
        self.new_page()

    @property
    def on(self) -> Drawing:
        """The page that fills."""
        return self.pages[-1]

    @property
    def width(self) -> float:
        """The width between the margins in mm."""
        return self.right - self.left

    @property
    def room(self) -> float:
        """The height that is free on this page in mm."""
        return self.bottom - self.y

    def new_page(self) -> None:
        """Begin a page; the first one has the title, the facts and the player's note of the song."""
        first = not self.pages
        self.pages.append(Drawing(self.w, self.h))
        self.y = self.ask.margin
        if first:
            self.y += self.on.text(self.left, self.y, self.width, self.content.title, TITLE, bold=True)
            for line in wrapped(self.content.facts, FACTS, self.width, most=4):
                self.y += self.on.text(self.left, self.y, self.width, line, FACTS, "muted")
            if self.content.memo and self.ask.shows("notes"):
                for line in wrapped(f"» {self.content.memo}", FACTS, self.width, True, 8):
                    self.y += self.on.text(self.left, self.y, self.width, line, FACTS, bold=True)
            self.y += 1.5
        else:
            self.y += self.on.text(self.left, self.y, self.width, self.content.title, FACTS, "muted", True) + 0.5
        self.top = self.y

    def need(self, height: float) -> None:
        """A new page where this one has not so much room, unless it is empty."""
        if height > self.room and self.y > self.top:
            self.new_page()

    def heading(self, name: str, words: str, size: float, below: float) -> None:
        """A section's name with a line; it stays with what follows, `below` mm tall."""
        tall = line_height(size) + 2.2
        self.need(tall + below)
        wide = min(text_width(name, size, True), self.width * (0.6 if words else 1.0))
        self.on.text(self.left, self.y + 0.8, wide + 0.1, name, size, bold=True)
        if words:
            drop = line_height(size) - line_height(size * 0.75)
            self.on.text(
                self.left + wide + 2.5, self.y + 0.8 + drop * 0.7, self.width - wide - 2.5, words, size * 0.75, "muted"
            )
        self.on.level(self.left, self.y + tall - 0.8, self.width, "ink", 0.3)
        self.y += tall

    def finish(self) -> tuple[Page, ...]:
        """The pages with their feet."""
        count = len(self.pages)
        for number, page in enumerate(self.pages, 1):
            y = self.h - self.ask.margin - line_height(FOOT)
            words = f"{number} of {count}"
            wide = text_width(words, FOOT) + 0.2
            page.text(self.right - wide, y, wide, words, FOOT, "muted", align="right")
            if self.legend:
                page.text(self.left, y, self.width - wide - 3, self.legend, FOOT, "muted")
        return tuple(page.page() for page in self.pages)


def repeat_sign(on: Drawing, x: float, y: float, h: float, opens: bool) -> None:
    """A thick and a thin line with two dots towards the bars that are repeated, at the line `x`."""
    toward = 1 if opens else -1
    on.upright(x - 0.35, y, h, "ink", 0.7)
    on.upright(x + toward * 0.95 - HAIR / 2, y, h, "ink", HAIR)
    for share in (0.42, 0.58):
        on.box(x + toward * 1.75 - 0.4, y + h * share - 0.4, 0.8, 0.8, "ink", "round")
