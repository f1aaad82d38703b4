"""The thin upright keyboard beside a strand map."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from yellow_hinge.core.hands import BLACK
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.strand.strands import StrandScene
from yellow_hinge.ui.paint.theme import SMALL, Theme, font


class PitchKeys(QWidget):
    """The thin upright keyboard at the left edge; it stays while the map scrolls."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.scene: StrandScene | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None or not self.scene.columns:
            painter.end()
            return
        painter.setFont(font(SMALL))
        for midi in range(self.scene.low, self.scene.high + 1):
            self._key(painter, self.scene, midi)
        painter.setPen(hair(self.theme.color("key_line")))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        top = self.scene.y_of(self.scene.high) - self.scene.step / 2
        painter.drawRect(QRectF(20.5, top, 20, self.scene.step * (self.scene.high - self.scene.low + 1)))
        painter.end()

    def _key(self, painter: QPainter, scene: StrandScene, midi: int) -> None:
        y, step = scene.y_of(midi) - scene.step / 2, scene.step
        black = midi % 12 in BLACK
        area = QRectF(20.0, y, 12.0 if black else 20.0, step)
        painter.fillRect(area, self.theme.color("black_key" if black else "white_key"))
        if midi % 12 in (0, 5):
            painter.setPen(hair(self.theme.color("key_line")))
            painter.drawLine(20, round(y + step), 40, round(y + step))
        if midi % 12 == 0:
            painter.setPen(self.theme.color("muted"))
            painter.drawText(QRectF(0, y - 4, 18, step + 8), Qt.AlignmentFlag.AlignCenter, f"C{midi // 12 - 1}")
