"""The large keyboards that are practised on, and the plots of the log."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.ui.paint.keys import BLACK_LONG, FINGERS_H, Keyboard
from yellow_hinge.ui.paint.painting import draw_fingers, draw_keyboard, hair
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.practice.scene import LogScene, PracticeScene

LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
CENTRE = Qt.AlignmentFlag.AlignCenter
MARK = 9.0


class SizedCanvas(QWidget):
    """Paints a scene that is laid out for its size; `resized` asks for another one."""

    resized = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()


class PracticeCanvas(SizedCanvas):
    """Paints a PracticeScene. `pressed` and `lifted` tell keys of the lower keyboard under the mouse."""

    pressed = Signal(int)
    lifted = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.scene: PracticeScene | None = None
        self.hint = ""
        self._grip: int | None = None
        self.setAccessibleName("The keyboard to play on")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(170)

    def sizeHint(self) -> QSize:
        return QSize(640, 320)

    def show_scene(self, scene: PracticeScene | None, described: str) -> None:
        """Show another scene, with words for those who do not see it."""
        self.scene = scene
        self.setAccessibleDescription(described)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        keys = self.scene.asked if self.scene is not None else None
        midi = keys.key_at(event.position().x(), event.position().y()) if keys is not None else None
        if midi is None:
            return
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:  # held: a chord is clicked key by key
            self.pressed.emit(midi)
            return
        self._grip = midi
        self.pressed.emit(midi)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None:
            grip, self._grip = self._grip, None
            self.lifted.emit(grip)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        scene = self.scene
        if scene is None:
            painter.setPen(self.theme.color("muted"))
            painter.setFont(font(BODY))
            painter.drawText(self.rect(), CENTRE | Qt.TextFlag.TextWordWrap, self.hint)
            painter.end()
            return
        if scene.lead is not None:
            draw_keyboard(painter, self.theme, scene.lead, "names")
            draw_fingers(painter, self.theme, scene.lead, 0, FINGERS_H)
        draw_keyboard(painter, self.theme, scene.asked, "names")
        draw_fingers(painter, self.theme, scene.asked, scene.asked.y - FINGERS_H, FINGERS_H)
        for midi in scene.right:
            self._right(painter, scene.asked, midi)
        for midi in scene.octave:
            self._wrong(painter, scene.asked, midi, True)
        for midi in scene.extra:
            self._wrong(painter, scene.asked, midi, False)
        painter.end()

    def _spot(self, keys: Keyboard, midi: int) -> QPointF:
        """The middle of the mark on a key."""
        key = next(key for key in keys.keys if key.midi == midi)
        tall = keys.height * (BLACK_LONG if key.black else 1.0)
        return QPointF(key.x + key.width / 2, keys.y + tall * (0.45 if key.black else 0.76))

    def _right(self, painter: QPainter, keys: Keyboard, midi: int) -> None:
        """A tick: this key is right."""
        if not any(key.midi == midi for key in keys.keys):
            return
        at, size = self._spot(keys, midi), MARK
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(hair(self.theme.color("on_plate"), 3.0))
        spots = ((-0.6, 0.0), (-0.15, 0.45), (0.65, -0.5))
        painter.drawPolyline(QPolygonF([QPointF(at.x() + size * dx, at.y() + size * dy) for dx, dy in spots]))

    def _wrong(self, painter: QPainter, keys: Keyboard, midi: int, octave: bool) -> None:
        """A cross for a wrong key; the figure 8 for a right note in another octave."""
        if not any(key.midi == midi for key in keys.keys):
            return
        at, size = self._spot(keys, midi), MARK
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(self.theme.color("paper"))
        painter.setPen(hair(self.theme.color("error"), 2.0))
        painter.drawEllipse(at, size + 3, size + 3)
        if octave:
            painter.setFont(font(BODY, bold=True))
            painter.drawText(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size), CENTRE, "8")
            return
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5))
        painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5))


class LogCanvas(SizedCanvas):
    """Paints a LogScene."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.scene: LogScene | None = None
        self.setAccessibleName("What was practised")
        self.setMinimumHeight(150)

    def show_scene(self, scene: LogScene | None) -> None:
        """Show other plots, or none."""
        self.scene = scene
        told = ", ".join(f"{plot.heading}: {plot.latest}" for plot in scene.plots) if scene is not None else ""
        self.setAccessibleDescription(told)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        scene = self.scene
        if scene is not None:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(SMALL))
            for x, name in scene.weeks:
                painter.setPen(hair(theme.color("line")))
                painter.drawLine(QPointF(x, scene.plots[0].top), QPointF(x, scene.plots[-1].base))
                painter.setPen(theme.color("muted"))
                painter.drawText(QRectF(x + 2, scene.height - 15, 40, 14), LEFT, name)
            for number in range(len(scene.plots)):
                self._plot(painter, scene, number)
        painter.end()

    def _plot(self, painter: QPainter, scene: LogScene, number: int) -> None:
        theme, plot = self.theme, scene.plots[number]
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(theme.color("ink"))
        head = QRectF(0, plot.top - 22, scene.width, 16)
        painter.drawText(head, LEFT, plot.heading)
        painter.drawText(head, RIGHT, plot.latest)
        painter.setPen(hair(theme.color("border")))
        painter.drawLine(QPointF(0, plot.base), QPointF(scene.width, plot.base))
        if plot.kind == "bars":
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("left"))
            wide = max(2.0, scene.width / 42 - 1.5)
            for x, y in plot.points:
                painter.drawRect(QRectF(x - wide / 2, y, wide, plot.base - y))
            return
        painter.setPen(hair(theme.color("right"), 1.6))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in plot.points]))
        painter.setBrush(theme.color("paper" if plot.kind == "round" else "right"))
        for x, y in plot.points:
            if plot.kind == "round":
                painter.drawEllipse(QPointF(x, y), 2.8, 2.8)
            else:
                painter.drawRect(QRectF(x - 2.4, y - 2.4, 4.8, 4.8))
