"""Paints a rhythm over its bars: what is wanted, and under it what was played."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy

from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.practice.canvas import SizedCanvas
from yellow_hinge.ui.practice.rhythm_scene import NAMES, DrawnStroke, RhythmScene

WORDS = {"early": "‹", "late": "›", "missing": "×", "long": "+", "short": "−"}


class RhythmCanvas(SizedCanvas):
    """Paints a RhythmScene."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.scene: RhythmScene | None = None
        self.setAccessibleName("The rhythm of both hands")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(110)

    def show_scene(self, scene: RhythmScene | None, described: str) -> None:
        """Show another scene, with words for those who do not see it."""
        self.scene = scene
        self.setAccessibleDescription(described)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        if self.scene is None:
            painter.end()
            return
        painter.setFont(font(SMALL))
        for line in self.scene.lines:
            painter.setPen(hair(theme.color("ink" if line.bar else "line"), 1.4 if line.bar else 1.0))
            painter.drawLine(QPointF(line.x, line.y + 14), QPointF(line.x, line.y + line.height))
            painter.setPen(theme.color("ink" if line.bar else "muted"))
            painter.drawText(QRectF(line.x + 3, line.y, 60, 15), Qt.AlignmentFlag.AlignVCenter, line.words)
        painter.setFont(font(BODY, bold=True))
        painter.setPen(theme.color("ink"))
        for x, y, name in self.scene.names:
            painter.drawText(QRectF(x, y, 120, NAMES), Qt.AlignmentFlag.AlignVCenter, name)
        for stroke in self.scene.strokes:
            self._stroke(painter, stroke)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("muted"))
        for x, y in self.scene.presses:
            painter.drawRect(QRectF(x - 1, y, 2, 5))
        if self.scene.now is not None:
            x, y, tall = self.scene.now
            painter.fillRect(QRectF(x - 1, y + 12, 2, tall - 12), theme.color("ink"))
        painter.end()

    def _stroke(self, painter: QPainter, stroke: DrawnStroke) -> None:
        """The wanted box in the hand's colour; under it what was played, brass where it lies off."""
        theme = self.theme
        box = QRectF(stroke.x, stroke.y, stroke.width, stroke.height)
        painter.setPen(hair(theme.color(stroke.hand), 1.4))
        painter.setBrush(theme.color(stroke.hand) if stroke.how in ("", "right") else theme.color("paper"))
        painter.drawRect(box)
        below = stroke.y + stroke.height + 3
        if stroke.played is not None:
            begin, end = stroke.played
            role = "ink" if stroke.how == "right" else "brass"
            painter.fillRect(QRectF(begin, below, max(3.0, end - begin - 2), 4), theme.color(role))
            painter.fillRect(QRectF(begin, below - 3, 2.5, 10), theme.color(role))
        if stroke.how in WORDS:
            painter.setPen(theme.color("error" if stroke.how == "missing" else "brass_text"))
            painter.setFont(font(SMALL, bold=True))
            painter.drawText(QRectF(stroke.x + 3, stroke.y - 3, 20, stroke.height + 6), Qt.AlignmentFlag.AlignVCenter,
                             WORDS[stroke.how])  # fmt: skip
