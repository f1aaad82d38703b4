"""What is seen on stage, and a chord of it: its symbol, and below it what the player chose."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import msgspec
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QPainter

from yellow_hinge.core.onstage.asks import StageAsk
from yellow_hinge.core.onstage.lines import ShownLine
from yellow_hinge.core.onstage.turning import Run, Spot
from yellow_hinge.core.sheet.content import Cell, Key
from yellow_hinge.ui.paint.keys import keyboard, octave_span
from yellow_hinge.ui.paint.notes import PlateMark
from yellow_hinge.ui.paint.painting import draw_keyboard
from yellow_hinge.ui.paint.theme import DARK, LIGHT, Theme, font

BLACK: Theme = msgspec.structs.replace(DARK, paper="#000000", raised="#000000", on_plate="#000000")
SYMBOL, AIR = 1.0, 0.16
LEAST_KEY = 2.6  # pixels of a half step on a little keyboard
LEAST = 7.0  # pixels of a letter's height: what would be smaller is cut


class Seen(NamedTuple):
    """All that is painted: where one is, what is said above and below, how far Escape is held (0 to 1)."""

    title: str
    facts: str
    run: Run
    spot: Spot | None
    after: str
    coming: str
    hint: str
    held: float
    ask: StageAsk
    problem: str = ""
    following: ShownLine | None = None  # the next song's first line, under the last one

    @property
    def lines(self) -> tuple[ShownLine, ...]:
        """The song's lines, and the next song's first."""
        return self.run.lines if self.following is None else (*self.run.lines, self.following)

    @property
    def theme(self) -> Theme:
        """The colours."""
        return BLACK if self.ask.black else LIGHT


def letters(pixels: float, bold: bool = False) -> QFont:
    """The text font so many pixels tall. Shared: copy it to change it."""
    return _letters(max(1, round(pixels)), bold)


@lru_cache(maxsize=256)
def _letters(pixels: int, bold: bool) -> QFont:
    made = QFont(font(10.0, bold))
    made.setPixelSize(pixels)
    return made


def width_of(words: str, pixels: float, bold: bool = False) -> float:
    """How wide some words are."""
    return _measures(max(1, round(pixels)), bold).horizontalAdvance(words)


@lru_cache(maxsize=256)
def _measures(pixels: int, bold: bool) -> QFontMetricsF:
    return QFontMetricsF(_letters(pixels, bold))


def keys_of(cell: Cell) -> tuple[Key, ...]:
    return (*cell.left, *cell.right)


def draw_words(
    painter: QPainter, box: QRectF, words: str, made: QFont, colour: QColor, align: Qt.AlignmentFlag
) -> None:
    """Some words in a box, cut where it ends."""
    painter.setFont(made)
    painter.setPen(colour)
    shown = QFontMetricsF(made).elidedText(words, Qt.TextElideMode.ElideRight, box.width())
    painter.drawText(box, int(align | Qt.TextFlag.TextSingleLine), shown)


def draw_cell(
    painter: QPainter, box: QRectF, seen: Seen, cell: Cell, unit: float, rows: dict[str, float], span: tuple[int, int]
) -> None:
    """A chord: its symbol, and below it what the player chose."""
    theme = seen.theme
    align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    tall = unit * (SYMBOL + AIR)
    size = unit * min(1.0, (box.width() - unit * 0.12) / max(1.0, width_of(cell.symbol, unit, True)))
    place = QRectF(box.x(), box.y(), box.width() + unit * 0.1, tall)
    draw_words(painter, place, cell.symbol, letters(size, True), theme.color("ink"), align)
    y = box.y() + tall
    for row, high in rows.items():
        place = QRectF(box.x(), y, box.width(), high)
        if row == "hands":
            _hands(painter, place, seen, cell)
        elif row == "keyboards":
            _keyboard(painter, place, seen, cell, span)
        else:
            words = {"numbers": cell.number, "words": cell.cue, "notes": cell.memo}[row]
            role = "ink" if row == "words" else "muted"
            draw_fitted(painter, place, words, high * 0.84, theme.color(role))
        y += high + unit * AIR / 3


def draw_fitted(painter: QPainter, box: QRectF, words: str, size: float, colour: QColor) -> None:
    """Words as large as their box lets them be, cut where they would be too small to read."""
    wide = width_of(words, size)
    size = max(LEAST, min(size, size * box.width() / wide - 1)) if wide > box.width() else size
    draw_words(painter, box, words, letters(size), colour, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)


def _hands(painter: QPainter, box: QRectF, seen: Seen, cell: Cell) -> None:
    """The notes of both hands, the right above the left; those that stay are pale."""
    size = box.height() * 0.42
    rows = [row for row in (cell.right, cell.left) if row]
    wide = max((_notes_wide(row, size) for row in rows), default=0.0)
    size = max(LEAST, size * min(1.0, box.width() / max(1.0, wide)))
    for number, (hand, row) in enumerate((("right", cell.right), ("left", cell.left))):
        x, y = box.x(), box.y() + number * box.height() / 2
        for key in row:
            made = letters(size, not key.stays)
            colour = seen.theme.hand(hand) if not key.stays else seen.theme.color("muted")
            step = width_of(f"{key.name} ", size, not key.stays)
            align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            draw_words(painter, QRectF(x, y, step + 2, box.height() / 2), key.name, made, colour, align)
            x += step


def _notes_wide(row: tuple[Key, ...], size: float) -> float:
    return sum(width_of(f"{key.name} ", size, not key.stays) for key in row)


def _keyboard(painter: QPainter, box: QRectF, seen: Seen, cell: Cell, span: tuple[int, int]) -> None:
    """Both hands as keys; over their own register where all of the line's would be too narrow, and nothing where that
    is too narrow as well.
    """
    if cell.voicing < 0:
        return
    own = octave_span([key.midi for key in keys_of(cell)])
    wide = min(box.width(), box.height() * 9)
    low, high = next((one for one in (span, own) if wide / (one[1] - one[0]) >= LEAST_KEY), (0, 0))
    if high:
        marks = tuple(
            PlateMark(key.midi, hand, key.degree, key.name, key.finger)
            for hand, row in (("left", cell.left), ("right", cell.right))
            for key in row
        )
        keys = keyboard(low, high, box.x(), box.y() + box.height() * 0.06, wide, box.height() * 0.88, marks)
        draw_keyboard(painter, seen.theme, keys, "", False)
