"""Paints one bar as it is struck, and says what is clicked: a chord, a key, a stroke of a hand, an empty place."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.core.hands import BLACK
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.ui.paint.painting import hair, plate
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font
from yellow_hinge.ui.playing.bar_scene import HEAD_H, LANE_H, PLATE_W, BarScene, Flag
from yellow_hinge.ui.playing.scene import KEYS_W, LEAST_TALL

LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
CENTRE = Qt.AlignmentFlag.AlignCenter
TAP_R = 8


class BarCanvas(QWidget):
    """Paints a BarScene. `resized` asks for another one; `struck` a key; `picked` a chord; `placed` an empty place of a
    hand's lane (hand, tick); `chosen` a stroke there (hand, chord, hit), or none of them ("", -1, -1). `led` tells that
    a key that no hand holds is pressed (chord, MIDI), `led_by` by how many steps it is dragged.
    """

    resized = Signal()
    struck = Signal(int, str)
    picked = Signal(int)
    placed = Signal(str, int)
    chosen = Signal(str, int, int)
    asked = Signal(str, object)
    shifted = Signal(int)
    led = Signal(int, int)
    led_by = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: BarScene | None = None
        self.names: dict[int, str] = {}  # what the plates say, by MIDI number
        self.selected = -1  # the chord
        self.hit: tuple[str, int, int] | None = None  # the stroke that keys change
        self.mark: int | None = None  # the tick that sounds
        self.taps: list[tuple[str, int]] = []  # hands and ticks of a rhythm that is being tapped
        self.step = TICK // 4  # ticks by which a stroke is dragged
        self._held: int | None = None  # the tick at which a stroke, or a note of a lead-in, is held
        self._leads = False
        self.words = ""  # instead of a picture
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(220)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("One bar as it is struck")

    def show_mark(self, tick: int | None) -> None:
        """Mark what sounds."""
        if tick != self.mark:
            self.mark = tick
            self.update()

    def show_taps(self, taps: list[tuple[str, int]]) -> None:
        """Show where a rhythm was tapped so far."""
        self.taps = taps
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        flag = self.scene.flag_at(event.pos().x(), event.pos().y()) if self.scene is not None else None
        if event.reason() != QContextMenuEvent.Reason.Keyboard and flag is not None:
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.chosen.emit(flag.hand, flag.place, flag.index)
        self.asked.emit("stroke" if self.hit is not None else "chord", event.globalPos())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        scene, at = self.scene, event.position()
        if scene is None or event.button() != Qt.MouseButton.LeftButton:
            return
        flag, hand = scene.flag_at(at.x(), at.y()), scene.lane_at(at.y())
        self._held, self._leads = None, False
        if flag is not None:
            self.chosen.emit(flag.hand, flag.place, flag.index)
            self._held = scene.tick_at(at.x())
        elif hand:
            self.placed.emit(hand, scene.tick_at(at.x()))
        else:
            self.chosen.emit("", -1, -1)
            found = scene.plate_at(at.x(), at.y())
            if found is not None:
                self.struck.emit(found.midi, found.hand)
            if found is not None and found.added:
                self._held, self._leads = scene.tick_at(at.x()), True
                self.led.emit(found.place, found.midi)
            head = next((h for h in scene.heads if h.x <= at.x() < h.x + h.width), None)
            if head is not None:
                self.picked.emit(head.place)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """A stroke, or a lead-in, is dragged in time, from one part of a beat to the next."""
        if self._held is None or self.scene is None or (self.hit is None and not self._leads):
            return
        by = round((self.scene.tick_at(event.position().x()) - self._held) / self.step)
        if by:
            self._held += by * self.step
            (self.led_by if self._leads else self.shifted).emit(by)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held = None

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None:
            painter.setPen(self.theme.color("muted"))
            painter.setFont(font(BODY))
            painter.drawText(self.rect(), CENTRE, self.words)
        else:
            self._ground(painter, self.scene)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._heads(painter, self.scene)
            self._strikes(painter, self.scene)
            self._lanes(painter, self.scene)
            self._foot(painter, self.scene)
        painter.end()

    def _ground(self, painter: QPainter, scene: BarScene) -> None:
        theme = self.theme
        bottom = scene.top + scene.step * (scene.high - scene.low + 1)
        chosen = next((head for head in scene.heads if head.place == self.selected), None)
        if chosen is not None:
            painter.fillRect(QRectF(chosen.x - 8, 0, chosen.width, bottom), theme.color("chosen"))
        for count in scene.counts:
            painter.setPen(hair(theme.color("line"), 1.6 if count.text else 0.8))
            painter.drawLine(QPointF(count.x, HEAD_H - 4), QPointF(count.x, scene.lanes["left"] + LANE_H))
            painter.setPen(theme.color("muted"))
            painter.setFont(font(SMALL, bold=True))
            painter.drawText(QRectF(count.x - 12, HEAD_H - 20, 24, 16), CENTRE, count.text)
        painter.setFont(font(SMALL))
        for midi in range(scene.low, scene.high + 1):
            self._key(painter, scene, midi)
        painter.setPen(hair(theme.color("key_line")))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(20.5, scene.top, 20, bottom - scene.top))

    def _key(self, painter: QPainter, scene: BarScene, midi: int) -> None:
        y, step, theme = scene.y_of(midi) - scene.step / 2, scene.step, self.theme
        black = midi % 12 in BLACK
        painter.fillRect(QRectF(20, y, 12 if black else 20, step), theme.color("black_key" if black else "white_key"))
        if midi % 12 in (0, 5):
            painter.setPen(hair(theme.color("key_line")))
            painter.drawLine(QPointF(20, y + step), QPointF(40, y + step))
        if midi % 12 == 0:
            painter.setPen(theme.color("muted"))
            painter.drawText(QRectF(0, y - 4, 18, step + 8), CENTRE, f"C{midi // 12 - 1}")
            painter.setPen(hair(theme.color("line")))
            painter.drawLine(QPointF(KEYS_W, y + step / 2), QPointF(scene.width, y + step / 2))

    def _heads(self, painter: QPainter, scene: BarScene) -> None:
        for head in scene.heads:
            painter.setPen(self.theme.color("ink"))
            painter.setFont(font(LARGE, bold=True))
            painter.drawText(QRectF(head.x - 2, 2, head.width, 20), LEFT, head.text)
            painter.setPen(self.theme.color("muted"))
            painter.setFont(font(SMALL))
            words = painter.fontMetrics().elidedText(head.pattern, Qt.TextElideMode.ElideRight, int(head.width) - 8)
            painter.drawText(QRectF(head.x - 2, 21, head.width, 16), LEFT, words)

    def _strikes(self, painter: QPainter, scene: BarScene) -> None:
        """Each key: how long it is held, faintly how long it rings, and its plate."""
        for note in scene.plates:
            colour = self.theme.hand(note.hand)
            painter.setPen(hair(self.theme.color("muted"), 1.0))
            if note.rings > note.held:
                painter.drawLine(QPointF(note.held, note.y), QPointF(note.rings, note.y))
            painter.setPen(hair(colour, 2.6))
            painter.drawLine(QPointF(note.x + 4, note.y), QPointF(max(note.x + 4, note.held - 2), note.y))
        for note in scene.plates:
            tall = min(note.tall, max(LEAST_TALL, scene.step * 1.9))
            area = QRectF(note.x - 2, note.y - tall / 2, PLATE_W, tall)
            plate(painter, self.theme, area, note.hand, self.names.get(note.midi, ""), note.added)

    def _lanes(self, painter: QPainter, scene: BarScene) -> None:
        for hand, top in scene.lanes.items():
            painter.setPen(hair(self.theme.color("line")))
            painter.drawLine(QPointF(0, top), QPointF(scene.width, top))
            painter.setPen(self.theme.hand(hand))
            painter.setFont(font(SMALL, bold=True))
            painter.drawText(QRectF(6, top, KEYS_W, LANE_H), LEFT, hand)
        for flag in scene.flags:
            self._flag(painter, flag)
        for hand, tick in self.taps:
            painter.setPen(hair(self.theme.color("paper"), 2.0))
            painter.setBrush(self.theme.hand(hand))
            painter.drawEllipse(QPointF(scene.x_of(tick), scene.lanes[hand] + LANE_H / 2), TAP_R, TAP_R)

    def _flag(self, painter: QPainter, flag: Flag) -> None:
        chosen = self.hit == (flag.hand, flag.place, flag.index)
        area = QRectF(flag.x - 2, flag.y + 4, flag.width, LANE_H - 8)
        painter.setPen(hair(self.theme.color("ink") if chosen else self.theme.hand(flag.hand), 2.0 if chosen else 1.2))
        painter.setBrush(self.theme.color("chosen" if chosen else "raised"))
        painter.drawRoundedRect(area, 3, 3)
        painter.setPen(self.theme.color("ink"))
        painter.setFont(font(SMALL, bold=chosen))
        words = painter.fontMetrics().elidedText(flag.text, Qt.TextElideMode.ElideRight, int(area.width()) - 6)
        painter.drawText(area.adjusted(4, 0, -2, 0), LEFT, words)

    def _foot(self, painter: QPainter, scene: BarScene) -> None:
        """The pedal, and what sounds."""
        painter.setPen(self.theme.color("muted"))
        painter.setFont(font(SMALL))
        painter.drawText(QRectF(6, scene.pedal_y - 9, KEYS_W, 18), LEFT, "pedal")
        painter.setPen(hair(self.theme.color("muted"), 1.6))
        for down, up in scene.pedals:
            y = scene.pedal_y
            painter.drawLine(QPointF(down + 1, y - 5), QPointF(down + 1, y))
            painter.drawLine(QPointF(down + 1, y), QPointF(up - 4, y))
            painter.drawLine(QPointF(up - 4, y), QPointF(up - 4, y - 5))
        if self.mark is not None and scene.bar.start <= self.mark < scene.bar.end:
            x = scene.x_of(self.mark)
            painter.setPen(hair(self.theme.color("ink"), 1.6))
            painter.drawLine(QPointF(x, HEAD_H - 6), QPointF(x, scene.pedal_y + 6))
