"""Paints a rail and a line over it; a click goes to a chord, a drag moves a note of the line and holds it there."""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QHelpEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QToolTip, QWidget

from yellow_hinge.ui.lines.scene import DOT, HEAD_H, PLATE_H, PLATE_W, LineScene
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import LARGE, SMALL, Theme, font

LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
CENTRE = Qt.AlignmentFlag.AlignCenter


class LineCanvas(QWidget):
    """`picked` tells a chord of the part, `held` a note of the line (its number) and the pitch it was dragged to."""

    picked = Signal(int)
    held = Signal(int, int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: LineScene | None = None
        self.chord, self.note = -1, -1  # the chord that is selected, the note that was clicked
        self.fast: frozenset[int] = frozenset()  # notes that are held fast
        self.marks: dict[int, bool] = {}  # by chord: whether it was landed
        self.bare = False  # only what is landed on is seen
        self.words = "There is nothing to play over yet."
        self._drag: tuple[int, float] | None = None
        self.setAccessibleName("Landing notes and a line over the chords")
        self.setMouseTracking(True)

    def show_scene(self, scene: LineScene | None) -> None:
        """Paint another part or line."""
        self.scene = scene
        if scene is not None:
            self.setFixedSize(int(scene.width), int(scene.height))
            self.setAccessibleDescription("; ".join(f"{dot.degree} {dot.why}" for dot in scene.dots))
        self.update()

    def show_marks(self, marks: dict[int, bool]) -> None:
        """Mark chords as landed or missed."""
        if marks != self.marks:
            self.marks = marks
            self.update()

    def show_bare(self, bare: bool) -> None:
        """Hide all but the notes that are landed on, or show them again."""
        self.bare = bare
        self.update()

    def _seen(self, number: int) -> bool:
        return self.scene is not None and (not self.bare or self.scene.dots[number].lands)

    # --- the mouse ---
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is None or event.button() != Qt.MouseButton.LeftButton:
            return
        at = event.position()
        self.note = self._note_at(at)
        self._drag = (self.note, at.y()) if self.note >= 0 else None
        chord = self.scene.chord_at(at.x())
        if chord >= 0:
            self.picked.emit(chord)
        self.update()

    def _note_at(self, at: QPointF) -> int:
        found = self.scene.dot_at(at.x(), at.y()) if self.scene is not None else -1
        return found if found >= 0 and self._seen(found) else -1

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, self._drag = self._drag, None
        if drag is not None and self.scene is not None:
            midi = self.scene.midi_at(event.position().y())
            if abs(event.position().y() - drag[1]) >= self.scene.step / 2:
                self.held.emit(drag[0], midi)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent) and self.scene is not None:
            found = self._note_at(QPointF(event.pos()))
            words = f"{self.scene.dots[found].degree}: {self.scene.dots[found].why}" if found >= 0 else ""
            QToolTip.showText(event.globalPos(), words, self)
            return True
        return super().event(event)

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None:
            painter.setPen(self.theme.color("muted"))
            painter.drawText(self.rect(), CENTRE, self.words)
            painter.end()
            return
        self._heads(painter, self.scene)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._strokes(painter, self.scene)
        self._plates(painter, self.scene)
        self._line(painter, self.scene)
        painter.end()

    def _heads(self, painter: QPainter, scene: LineScene) -> None:
        theme = self.theme
        for number, head in enumerate(scene.heads):
            if number == self.chord:
                painter.fillRect(QRectF(head.x, 0, head.width, scene.height), theme.color("chosen"))
            painter.setPen(hair(theme.color("line"), 1.4 if head.bar else 0.7))
            painter.drawLine(QPointF(head.x, 4), QPointF(head.x, scene.height))
            painter.setPen(theme.color("ink"))
            painter.setFont(font(LARGE, bold=True))
            painter.drawText(QRectF(head.x + 6, 2, head.width, 22), LEFT, head.text)
            painter.setPen(theme.color("muted"))
            painter.setFont(font(SMALL))
            words = painter.fontMetrics().elidedText(head.scale, Qt.TextElideMode.ElideRight, int(head.width) - 10)
            painter.drawText(QRectF(head.x + 6, 23, head.width, 16), LEFT, words)
            if number in self.marks:
                right = self.marks[number]
                painter.setPen(theme.color("right" if right else "error"))
                painter.setFont(font(SMALL, bold=True))
                painter.drawText(QRectF(head.x, 3, head.width - 6, 20), RIGHT, "✓ landed" if right else "missed")

    def _strokes(self, painter: QPainter, scene: LineScene) -> None:
        """What joins, below what is read: the rail, what moves in brass and what holds in grey, and the line."""
        theme = self.theme
        for strand in scene.strands:
            painter.setPen(hair(theme.color("brass" if strand.by else "muted"), 2.2 if strand.by else 1.4))
            painter.drawLine(QPointF(strand.x1, strand.y1), QPointF(strand.x2, strand.y2))
        painter.setPen(hair(theme.color("ink"), 1.2))
        for one, other in pairwise(() if self.bare else scene.dots):
            if other.x - one.end < 1.0:
                painter.drawLine(QPointF(one.x, one.y), QPointF(other.x, other.y))

    def _plates(self, painter: QPainter, scene: LineScene) -> None:
        """Where it may land, in outline; where the rail lands, filled."""
        theme = self.theme
        painter.setFont(font(SMALL, bold=True))
        for spot in scene.plates:
            area = QRectF(spot.x - PLATE_W / 2, spot.y - PLATE_H / 2, PLATE_W, PLATE_H)
            painter.setPen(hair(theme.color("right" if spot.on else "key_line"), 1.2))
            painter.setBrush(theme.color("right" if spot.on else "paper"))
            painter.drawRoundedRect(area, PLATE_H / 2, PLATE_H / 2)
            painter.setPen(theme.color("on_plate" if spot.on else "muted"))
            painter.drawText(area, CENTRE, spot.text)

    def _line(self, painter: QPainter, scene: LineScene) -> None:
        """The line's notes in time, each with its degree below the picture of it."""
        theme, dots = self.theme, scene.dots
        shown = [(number, dot) for number, dot in enumerate(dots) if self._seen(number)]
        for number, dot in shown:
            painter.setPen(hair(theme.color("ink"), 2.4 if number == self.note else 1.4))
            painter.setBrush(theme.color("ink" if number in self.fast else "raised"))
            if number in self.fast:
                painter.drawRect(QRectF(dot.x - DOT, dot.y - DOT, 2 * DOT, 2 * DOT))
            elif dot.lands:  # a ring around the plate, so that its degree is read
                painter.setBrush(Qt.BrushStyle.NoBrush)
                ring = QRectF(dot.x - PLATE_W / 2 - 3, dot.y - PLATE_H / 2 - 3, PLATE_W + 6, PLATE_H + 6)
                painter.drawRoundedRect(ring, PLATE_H / 2 + 3, PLATE_H / 2 + 3)
            else:
                painter.drawEllipse(QPointF(dot.x, dot.y), DOT, DOT)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("ink"))
        foot = scene.height - 20
        for _, dot in shown:
            painter.drawText(QRectF(dot.x - 16, foot, 32, 16), CENTRE, dot.degree)
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(QPointF(0, HEAD_H - 4), QPointF(scene.width, HEAD_H - 4))
