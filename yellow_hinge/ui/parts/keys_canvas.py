"""The two keyboards along the bottom and the finger paths between them."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.ui.paint.keys import BLACK_LONG, FINGERS_H, FingerPath, Keyboard, KeysScene
from yellow_hinge.ui.paint.painting import draw_fingers, draw_keyboard, hair, plate
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

HEIGHT = 208  # of the panel that they stand in
GRIP = 10  # pixels around the handle that parts the hands
MOVABLE = (
    "Upper: this chord. Lower: the next one. Click a key to hear it, drag a held key to move the note, "
    "Shift+click adds or lifts a note."
)


class KeysCanvas(QWidget):
    """Paints a KeysScene. `struck` asks for a key's sound; `dragged` and `dropped` a sounding key of the upper one:
    hand, its MIDI number, the key it is over; `toggled` adds or lifts a note: hand, MIDI number; `parted` that the
    hands are to part below another key.
    """

    struck = Signal(int)
    dragged = Signal(str, int, int)
    dropped = Signal(str, int, int)
    toggled = Signal(str, int)
    parted = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: KeysScene | None = None
        self.refused = False  # what is shown cannot be played
        self.fills: tuple[int, ...] = ()  # keys that lead on from the upper chord, in their order
        self.fixed = False  # what is shown is another song's: its notes cannot be moved
        self.down: frozenset[int] = frozenset()  # keys that are pressed on a keyboard
        self.added: tuple[tuple[str, int], ...] = ()  # what the playing adds to the upper hands: hand, MIDI number
        self.split: int | None = None  # the first key of the right hand, where hands are entered
        self._parting = False
        self._grip: tuple[str, int] | None = None
        self._over: int | None = None
        self.setAccessibleName("The two keyboards")
        self.setToolTip(MOVABLE)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(640, HEIGHT - 16)

    # --- input ---
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is None:
            return
        at, keys = event.position(), self.scene.upper
        self._parting = self._is_handle(keys, at)
        if self._parting:
            return
        midi = keys.key_at(at.x(), at.y())
        if midi is not None and not self.fixed and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.toggled.emit(self._hand_for(midi), midi)
            return
        hands = {mark.midi: mark.hand for mark in keys.marks}
        if midi in hands and not self.fixed:
            self._grip, self._over = (hands[midi], midi), None
        elif midi is None and self.scene.lower is not None:
            midi = self.scene.lower.key_at(at.x(), at.y())
        if midi is not None:
            self.struck.emit(midi)

    def _is_handle(self, keys: Keyboard, at: QPointF) -> bool:
        """Whether a point is on the handle that parts the hands."""
        if self.split is None or at.y() >= keys.y + GRIP:
            return False
        return abs(at.x() - self._split_x(keys, self.split)) < GRIP

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._parting and self.scene is not None:
            upper = self.scene.upper
            over = upper.key_at(event.position().x(), upper.y + upper.height - 2)
            if over is not None and over != self.split:
                self.parted.emit(over)
            return
        if self._grip is None or self.scene is None:
            return
        keys = self.scene.upper
        inside = min(max(event.position().y(), keys.y + 1), keys.y + keys.height - 1)
        midi = keys.key_at(event.position().x(), inside)
        if midi is not None and midi != (self._over or self._grip[1]):
            self._over = midi
            self.dragged.emit(*self._grip, midi)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        grip, over, self._grip, self._over, self._parting = self._grip, self._over, None, None, False
        if grip is not None and over is not None:
            self.dropped.emit(*grip, over)

    def _hand_for(self, midi: int) -> str:
        """The hand a new note goes to: the one whose notes lie nearer, the right one above middle C."""
        assert self.scene is not None
        marks = self.scene.upper.marks
        near = min(marks, key=lambda mark: abs(mark.midi - midi), default=None)
        return near.hand if near else "right" if midi >= 60 else "left"

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None:
            painter.end()
            return
        draw_keyboard(painter, self.theme, self.scene.upper, "names")
        draw_fingers(painter, self.theme, self.scene.upper, 0, FINGERS_H)
        self._others(painter, self.scene)
        if self.split is not None:
            self._split(painter, self.scene.upper, self.split)
        for hand, midi in self.added:
            self._added(painter, self.scene.upper, hand, midi)
        for midi in self.down:
            self._pressed(painter, self.scene.upper, midi)
        if self.scene.lower is not None:
            draw_keyboard(painter, self.theme, self.scene.lower, "names")
            lower = self.scene.lower
            draw_fingers(painter, self.theme, lower, lower.y + lower.height, FINGERS_H)
            top = self.scene.upper.y + self.scene.upper.height
            for path in self.scene.paths:
                self._path(painter, path, top, self.scene.lower.y)
        if self.refused:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(hair(self.theme.color("error"), 2.0))
            keys = self.scene.upper
            first, last = keys.keys[0], max(keys.keys, key=lambda key: key.x)
            painter.drawRect(QRectF(first.x + 1, keys.y + 1, last.x + last.width - first.x - 2, keys.height - 2))
        painter.end()

    @staticmethod
    def _split_x(keys: Keyboard, split: int) -> float:
        """Where the hands part: at the left edge of the right one's first key."""
        key = next((key for key in keys.keys if key.midi == split), None)
        return key.x if key is not None else keys.centre(split)

    def _split(self, painter: QPainter, keys: Keyboard, split: int) -> None:
        """A stroke over the keys with a handle to drag."""
        x = self._split_x(keys, split)
        for color, wide in (("paper", 5.0), ("ink", 2.0)):  # seen on light and on dark keys
            painter.setPen(hair(self.theme.color(color), wide))
            painter.drawLine(QPointF(x, keys.y - 4), QPointF(x, keys.y + keys.height))
        painter.setBrush(self.theme.color("ink"))
        painter.drawRect(QRectF(x - 4, keys.y - 8, 8, 8))

    def _added(self, painter: QPainter, keys: Keyboard, hand: str, midi: int) -> None:
        """A key that the playing adds while the song plays: a hollow note of its hand."""
        key = next((key for key in keys.keys if key.midi == midi), None)
        if key is not None:
            y = keys.y + keys.height * (BLACK_LONG * 0.62 if key.black else 0.8)
            plate(painter, self.theme, QRectF(keys.centre(midi) - 6, y - 6, 12, 12), hand, "", hollow=True)

    def _pressed(self, painter: QPainter, keys: Keyboard, midi: int) -> None:
        """A key that is down: a heavy frame inside it."""
        key = next((key for key in keys.keys if key.midi == midi), None)
        if key is not None:
            tall = keys.height * (BLACK_LONG if key.black else 1.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(hair(self.theme.color("paper" if key.black else "ink"), 3.0))
            painter.drawRect(QRectF(key.x + 3, keys.y + 3, key.width - 6, tall - 6))

    def _others(self, painter: QPainter, scene: KeysScene) -> None:
        """Faintly, what is not under the hands: the melody's notes and the singer's register; and what leads on."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for midi in scene.tune:
            x = scene.upper.centre(midi)
            painter.setPen(hair(self.theme.color("muted"), 1.6))
            painter.setBrush(self.theme.color("paper"))
            painter.drawEllipse(QPointF(x, scene.upper.y + 9), 4.5, 3.5)
        painter.setFont(font(SMALL, bold=True))
        for number, midi in enumerate(self.fills, 1):
            if scene.span[0] <= midi <= scene.span[1]:
                area = QRectF(scene.upper.centre(midi) - 7, scene.upper.y + 2, 14, 14)
                painter.setPen(hair(self.theme.color("brass"), 1.6))
                painter.setBrush(self.theme.color("paper"))
                painter.drawRect(area)
                painter.setPen(self.theme.color("brass_text"))
                painter.drawText(area, Qt.AlignmentFlag.AlignCenter, str(number))
        if scene.singer is not None:
            y = scene.upper.y + scene.upper.height + 3
            painter.setPen(hair(self.theme.color("muted"), 1.2))
            left, right = scene.singer
            painter.drawLine(QPointF(left, y), QPointF(right, y))
            for x in (left, right):
                painter.drawLine(QPointF(x, y - 3), QPointF(x, y + 3))

    def _path(self, painter: QPainter, path: FingerPath, top: float, bottom: float) -> None:
        moving = path.kind not in ("held", "passes")
        painter.setPen(
            hair(self.theme.color("brass") if moving else self.theme.hand(path.hand), 3.0 if moving else 1.6)
        )
        if path.kind == "leaves":
            painter.drawLine(QPointF(path.x1, top), QPointF(path.x1, top + 9))
            painter.drawLine(QPointF(path.x1 - 4, top + 9), QPointF(path.x1 + 4, top + 9))
        elif path.kind == "enters":
            painter.drawLine(QPointF(path.x2, bottom - 9), QPointF(path.x2, bottom))
            painter.drawLine(QPointF(path.x2 - 4, bottom - 9), QPointF(path.x2 + 4, bottom - 9))
        else:
            painter.drawLine(QPointF(path.x1, top + 2), QPointF(path.x2, bottom - 2))
        if path.label:
            x, y = (path.x1 + path.x2) / 2, (top + bottom) / 2
            area = QRectF(x - 13, y - 8, 26, 16)
            painter.fillRect(area, self.theme.color("paper"))
            painter.setPen(self.theme.color("brass_text" if moving else "muted"))
            painter.setFont(font(BODY, bold=True))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, path.label)
