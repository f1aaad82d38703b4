"""The cheat sheet: rows of chords with both hands, under the names of their sections."""

from __future__ import annotations

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.cells import GAP, POINTS, CellStyle, draw_cell, hands_width
from yellow_hinge.core.sheet.content import SheetContent, SheetMeasure
from yellow_hinge.core.sheet.drawing import HAIR, Drawing, keyboard_span
from yellow_hinge.core.sheet.flow import LEGEND, CellRow, Flow, Placed, repeat_sign, rows_of
from yellow_hinge.core.sheet.page import Page, line_height, text_width
from yellow_hinge.core.sheet.rhythm_line import Rhythm, draw_rhythm, rhythm_height
from yellow_hinge.core.song.road import AT_BEGIN

NARROWEST = {"s": 36.0, "m": 42.0, "l": 60.0, "stage": 84.0}  # mm of a cell
ROWS_OF = (8, 4, 2, 1)  # cells of a row, as bars come in phrases
PAD = 2.4  # mm left of a cell's content, where a repeat sign stands
MOST_DOTS = 12
COUNTS = 0.72  # of the size of notes' names
EVERY_BAR, OTHERS = "every bar", "all other bars"
LABEL_SHARE = 0.5  # of a cell's width that the bar's label may have


def columns_for(ask: SheetAsk, width: float) -> int:
    """How many cells a row has."""
    if ask.columns:
        return ask.columns
    return next((count for count in ROWS_OF if width / count >= NARROWEST[ask.size]), 1)


class Cheat:
    """Lays the sheet out."""

    def __init__(self, ask: SheetAsk, found: SheetContent, apart: bool = False, flow: Flow | None = None) -> None:
        self.flow = flow or Flow(ask, found, LEGEND if ask.shows("holds") else "")
        self.parts = found.parts
        self.ask, self.apart = ask, apart
        self.columns = columns_for(ask, self.flow.width)
        self.span = keyboard_span(*found.compass)
        self.strip = line_height(self.style(self.columns).small) + 0.8

    def style(self, columns: int) -> CellStyle:
        """The sizes of cells where a row has so many."""
        return CellStyle(self.ask, self.flow.width / columns - PAD - GAP, True, self.span)

    def row_style(self, row: CellRow) -> CellStyle:
        """The sizes of a row's cells; hands stand side by side where they fit so."""
        style = self.style(row.columns)
        wide = max(hands_width(placed.cell, style) for placed in row.cells)
        return style if wide <= style.width * 1.12 else style._replace(beside=False)

    def write(self) -> None:
        """Every section."""
        size = POINTS[self.ask.size] * 1.25
        while self.columns > 1 and self._too_tall(line_height(size)):
            self.columns -= 1
            self.strip = line_height(self.style(self.columns).small) + 0.8
        for index, part in enumerate(self.parts):
            rows = rows_of(part.measures, self.columns)
            if self.apart and index:
                self.flow.new_page()
            once = part.rhythm if self.ask.shows("rhythm") else None
            above = rhythm_height(self.count_size) + 1.5 if once else 0.0
            if part.name or part.words:
                self.flow.heading(part.name, part.words, size, above + (self.height(rows[0]) if rows else 0.0))
            if once:
                self._every_bar(once, OTHERS if any(bar.rhythm for bar in part.measures) else EVERY_BAR)
            for row in rows:
                self.row(row)
            self.flow.y += 1.0

    @property
    def count_size(self) -> float:
        """The size of the counts under a rhythm, in points."""
        return POINTS[self.ask.size] * COUNTS

    def _every_bar(self, rhythm: Rhythm, words: str) -> None:
        """The rhythm that a section's bars share, and which bars those are, in words."""
        flow, size = self.flow, self.count_size
        flow.need(rhythm_height(size) + 1.5)
        wide = text_width(words, size) + 0.2
        flow.on.text(flow.left, flow.y + 0.8, wide, words, size, "muted")
        left = flow.left + wide + 3.0
        draw_rhythm(flow.on, left, flow.y + 0.8, min(flow.width / 2, flow.right - left), rhythm, size)
        flow.y += rhythm_height(size) + 1.5

    def _beaten(self, row: CellRow) -> int:
        """How many lines of rhythm the bars of a row show."""
        bars = (placed.begins for placed in row.cells if placed.begins is not None)
        return max((len(self._lines(bar)) for bar in bars), default=0)

    def _lines(self, bar: SheetMeasure) -> list[tuple[str, Rhythm]]:
        """The lines of rhythm of a bar, with the passes that they are of."""
        first = [("", bar.rhythm)] if bar.rhythm is not None else []
        return [*first, *bar.later] if self.ask.shows("rhythm") else []

    def _too_tall(self, heading: float) -> bool:
        """Whether the player asks for so many columns that a row is taller than a page under a heading."""
        if not self.ask.columns:
            return False
        room = self.flow.bottom - self.flow.top - heading - 2.2
        return any(self.height(row) > room for part in self.parts for row in rows_of(part.measures, self.columns))

    def height(self, row: CellRow) -> float:
        """The height of a row in mm."""
        style = self.row_style(row)
        beaten = self._beaten(row) * rhythm_height(self.count_size)
        return self.strip + max(draw_cell(None, 0, 0, placed.cell, style) for placed in row.cells) + beaten + 2.0

    def row(self, row: CellRow) -> None:
        """One row of chords between its bar lines."""
        tall, flow, style = self.height(row), self.flow, self.row_style(row)
        flow.need(tall)
        on, y, wide = flow.on, flow.y, flow.width / row.columns
        for placed in row.cells:
            x = flow.left + placed.column * wide
            draw_cell(on, x + PAD, y + self.strip, placed.cell, style)
            self._beats(on, x, y, wide, placed, style.small)
            if placed.begins is not None:
                self._begins(on, x, y, (wide, tall), placed.begins, style.small)
                self._beat_line(on, x, y + tall, wide, placed, row)
            if placed.ends is not None:
                self._ends(on, x + wide, y, tall, placed.ends)
        flow.y += tall

    def _begins(
        self, on: Drawing, x: float, y: float, area: tuple[float, float], bar: SheetMeasure, size: float
    ) -> None:
        wide, tall = area
        on.upright(x, y, tall - 1.2, "ink" if bar.opens else "line", HAIR)
        if bar.opens:
            repeat_sign(on, x + 0.35, y + self.strip, tall - 1.2 - self.strip, True)
        words = f"{bar.label}  {bar.meter}".strip()
        if bar.ending:
            on.level(x, y, wide * len(bar.cells) * 0.9, "ink", 0.25)
            words = f"{bar.ending}.  {words}"
        before = " ".join(sign for sign in bar.signs if sign in AT_BEGIN)
        words = f"{before}  {words}" if before else words
        bold = bool(bar.strong or bar.ending or bar.meter or before)
        on.text(x + 0.9, y + 0.4, wide * LABEL_SHARE, words, size, "ink" if bar.strong else "muted", bold)

    def _beat_line(self, on: Drawing, x: float, bottom: float, wide: float, placed: Placed, row: CellRow) -> None:
        """The rhythm of a bar at the foot of its cells."""
        bar, size = placed.begins, self.count_size
        lines = self._lines(bar) if bar is not None else []
        y = bottom - self._beaten(row) * rhythm_height(size) - 1.4
        for when, rhythm in lines:
            assert bar is not None
            room = wide * min(len(bar.cells), len(row.cells) - placed.column) - PAD - GAP
            said = min(text_width(when, size) + 0.2, room / 3) if when else 0.0
            if when:
                on.text(x + PAD, y + 0.6, said, when, size, "muted")
            draw_rhythm(on, x + PAD + said + 1.0 * bool(when), y, room - said - 1.0, rhythm, size)
            y += rhythm_height(size)

    def _ends(self, on: Drawing, x: float, y: float, tall: float, bar: SheetMeasure) -> None:
        if bar.closes > 1:
            repeat_sign(on, x - 0.35, y + self.strip, tall - 1.2 - self.strip, False)

    def _beats(self, on: Drawing, x: float, y: float, w: float, placed: Placed, size: float) -> None:
        """At the right over a chord: how often what ends here is played, a dot for every beat or the beats in figures,
        and how far a hard change moves that leads here.
        """
        cell, right = placed.cell, x + w - GAP - 1.2
        least = x + w * LABEL_SHARE + 1.2

        def words(text: str, role: str, bold: bool = False) -> None:
            nonlocal right
            wide = min(text_width(text, size, bold) + 0.2, max(right - least, 0.5))
            on.text(right - wide, y + 0.4, wide, text, size, role, bold, "right", cell.slot)
            right -= wide + 0.8

        if placed.ends is not None and placed.ends.closes > 2:
            words(f"{placed.ends.closes}×", "ink", True)
        for sign in placed.ends.signs if placed.ends is not None else ():
            if sign not in AT_BEGIN:
                words(sign, "ink", True)
        side = size * 0.13
        count = int(cell.beats) if cell.beats.isdecimal() else MOST_DOTS + 1
        if count <= MOST_DOTS and count * side * 1.6 <= (right - least) * 0.6:
            for number in range(count):
                on.box(right - (number + 1) * side * 1.6, y + self.strip * 0.4, side, side, "muted", "round")
            right -= count * side * 1.6 + 0.8
        else:
            words(cell.beats, "muted")
        if cell.stiff and self.ask.shows("holds"):
            words(f"△ {cell.stiff}", "brass", True)


def cheat_pages(ask: SheetAsk, found: SheetContent, apart: bool = False) -> tuple[Page, ...]:
    """The pages of a cheat sheet; `apart` begins a page with every section."""
    made = Cheat(ask, found, apart)
    made.write()
    return made.flow.finish()
