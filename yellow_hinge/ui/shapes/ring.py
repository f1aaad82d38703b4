"""The ring of twelve basses, each with what it makes of the hand: darker the fuller its name, a letter for its kind."""

from __future__ import annotations

from math import cos, pi, sin

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.symbols.naming import Reading
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

PLATE_W, PLATE_H = 76.0, 38.0
CENTRE = Qt.AlignmentFlag.AlignCenter
KINDS = {
    "major": "M", "minor": "m", "minor-six": "m", "dominant": "D", "suspended": "s", "half-diminished": "h",
    "diminished": "o", "augmented": "+", "power": "5",
}  # fmt: skip


LETTERS = "M major   m minor   D dominant   s suspended\nh half-diminished   o diminished   + augmented"


class RingCanvas(QWidget):
    """Paints the basses clockwise by half steps from the hand's lowest note at the top. `picked` tells one's number."""

    picked = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.rows: list[tuple[str, Reading | None]] = []
        self.at = -1
        self.setMinimumSize(300, 250)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Twelve basses under this hand")

    def sizeHint(self) -> QSize:
        return QSize(420, 330)

    def show_rows(self, rows: list[tuple[str, Reading | None]], at: int) -> None:
        """Show what the basses (their names) make of the hand, one of them chosen."""
        self.rows, self.at = rows, at
        said = (f"{name}: {reading.symbol if reading else 'no usual name'}" for name, reading in rows)
        self.setAccessibleDescription("; ".join(said))
        self.update()

    def _area(self, number: int) -> QRectF:
        turn = 2 * pi * number / 12 - pi / 2
        wide, tall = (self.width() - PLATE_W) / 2 - 6, (self.height() - PLATE_H) / 2 - 6
        middle = QPointF(self.width() / 2 + wide * cos(turn), self.height() / 2 + tall * sin(turn))
        return QRectF(middle.x() - PLATE_W / 2, middle.y() - PLATE_H / 2, PLATE_W, PLATE_H)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        found = next((n for n in range(len(self.rows)) if self._area(n).contains(event.position())), -1)
        if found >= 0:
            self.picked.emit(found)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, (name, reading) in enumerate(self.rows):
            self._plate(painter, number, name, reading)
        if self.rows:
            painter.setPen(self.theme.color("muted"))
            painter.setFont(font(SMALL))
            words = f"the same hand over twelve basses\n\n{LETTERS}"
            painter.drawText(QRectF(self.rect()), CENTRE, words)
        painter.end()

    def _plate(self, painter: QPainter, number: int, name: str, reading: Reading | None) -> None:
        theme, area, whole = self.theme, self._area(number), reading is not None and not reading.missing
        lit = "left" if whole else "raised" if reading is not None else "paper"
        painter.setBrush(theme.color(lit))
        chosen = number == self.at
        painter.setPen(hair(theme.color("brass" if chosen else "key_line"), 3.0 if chosen else 1.0))
        painter.drawRoundedRect(area, 6, 6)
        painter.setPen(theme.color("on_plate" if whole else "ink" if reading is not None else "muted"))
        painter.setFont(font(BODY, bold=True))
        symbol = pretty_signs(reading.symbol) if reading is not None else name
        shown = painter.fontMetrics().elidedText(symbol, Qt.TextElideMode.ElideRight, int(PLATE_W) - 8)
        painter.drawText(area.adjusted(0, 1, 0, -15), CENTRE, shown)
        painter.setFont(font(SMALL))
        kind = KINDS.get(reading.chord.chord_class, "") if reading is not None else "no name"
        painter.drawText(area.adjusted(0, 20, 0, -1), CENTRE, f"{name}  {kind}" if reading is not None else kind)
