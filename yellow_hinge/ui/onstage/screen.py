"""The screen on stage: keys, the mouse and a foot switch turn it, and nothing else reacts."""

from __future__ import annotations

import time

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QWidget

from yellow_hinge.core.onstage.asks import switch_of
from yellow_hinge.ui.onstage.awake import Awake
from yellow_hinge.ui.onstage.cells import Seen
from yellow_hinge.ui.onstage.painting import paint_moving, paint_still, same_still
from yellow_hinge.ui.onstage.working import OnStage

LEAVING_S, RING_MS, HINT_MS, AHEAD_MS = 2.0, 30, 9_000, 20
HINT = (
    "Space or foot switch: on, twice: back  ·  Enter: by itself  ·  + −: a tone  ·  /: other take  ·  "
    ".: once more  ·  letter: its section  ·  Tab: next song  ·  Escape held: leave"
)
Code = Qt.Key
ON, BACK = (
    (Code.Key_PageDown, Code.Key_Right, Code.Key_Down),
    (Code.Key_PageUp, Code.Key_Left, Code.Key_Up, Code.Key_Backspace),
)
TONE = 2
STEPS = {"+": TONE, "=": TONE, "-": -TONE, "−": -TONE, "]": 1, "[": -1}


class StageScreen(QWidget):
    """Shows where one is, full screen. `left` tells that the stage was left."""

    left = Signal()

    def __init__(self, stage: OnStage) -> None:
        super().__init__(None)
        self.stage = stage
        stage.setParent(self)
        self.setWindowTitle("Yellow Hinge, on stage")
        self.setAccessibleName("On stage")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setCursor(Qt.CursorShape.BlankCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.hint = HINT
        self._since: float | None = None  # when Escape went down
        self._kept: list[tuple[Seen, QPixmap]] = []  # what is shown, and what a turn would show
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(AHEAD_MS)
        self._soon.timeout.connect(self._paint_ahead)
        self._ring = QTimer(self)
        self._ring.setInterval(RING_MS)
        self._ring.timeout.connect(self._hold)
        QTimer.singleShot(HINT_MS, self, self._say_no_more)
        self._awake = Awake()
        self._awake.hold()
        stage.changed.connect(self.update)

    def _say_no_more(self) -> None:
        self.hint = ""
        self.update()

    # --- what is seen ---
    @property
    def seen(self) -> Seen:
        """What is painted."""
        stage = self.stage
        shown = stage.ready.shown if stage.ready is not None else None
        title, facts = (shown.title, shown.facts) if shown is not None else (stage.entries[stage.at].title, "")
        held = 0.0 if self._since is None else min(1.0, (time.monotonic() - self._since) / LEAVING_S)
        return Seen(
            title, facts, stage.run, stage.spot, stage.after, stage.coming, self.hint, held, stage.wanted,
            stage.problem, stage.following(stage.run.at),
        )  # fmt: skip

    def paintEvent(self, event: QPaintEvent) -> None:
        seen = self.seen
        kept = next((one for one in self._kept if one[1].size() == self._pixels and same_still(one[0], seen)), None)
        if kept is None:
            kept = seen, self._picture(seen)
        self._kept = [kept]
        painter = QPainter(self)
        painter.drawPixmap(0, 0, kept[1])
        paint_moving(painter, QRectF(self.rect()), seen)
        painter.end()
        self._soon.start()

    @property
    def _pixels(self) -> QSize:
        return self.size() * self.devicePixelRatioF()

    def _picture(self, seen: Seen) -> QPixmap:
        """What stays until the next turn."""
        picture = QPixmap(self._pixels)
        picture.setDevicePixelRatio(self.devicePixelRatioF())
        painter = QPainter(picture)
        paint_still(painter, QRectF(self.rect()), seen)
        painter.end()
        return picture

    def _paint_ahead(self) -> None:
        """Have the next line's picture ready before it is wanted."""
        seen = self.seen
        at = seen.run.at + 1
        if len(self._kept) == 1 and at < len(seen.run.lines):
            ahead = seen._replace(run=seen.run._replace(at=at), following=self.stage.following(at))
            self._kept.append((ahead, self._picture(ahead)))

    # --- what turns it ---
    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, text, stage = event.key(), event.text(), self.stage
        if event.isAutoRepeat():
            return
        if key == Qt.Key.Key_Escape:
            self._since = time.monotonic()
            self._ring.start()
        elif f"key {key}" == stage.wanted.switch or key == Qt.Key.Key_Space:
            stage.press()
        elif not stage.touched():
            self._key(key, text)

    def _key(self, key: int, text: str) -> None:
        stage = self.stage
        if key in ON or key in BACK:
            stage.turn(1 if key in ON else -1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            stage.go()
        elif key in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab):
            stage.song(1 if key == Qt.Key.Key_Tab else -1)
        elif text in STEPS:
            stage.tone(STEPS[text])
        elif text == "/":
            stage.other_take()
        elif text == ".":
            stage.once_more()
        elif text.isalnum():
            stage.to_letter(text)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and not event.isAutoRepeat():
            self._let_go()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self._let_go()  # a release that goes elsewhere is never heard here
        super().focusOutEvent(event)

    def _let_go(self) -> None:
        self._since = None
        self._ring.stop()
        self.update()

    def _hold(self) -> None:
        if self._since is not None and time.monotonic() - self._since >= LEAVING_S:
            self.close()
        self.update()

    def focusNextPrevChild(self, forward: bool) -> bool:
        return False  # Tab is the next song

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.stage.press()
        elif event.button() == Qt.MouseButton.RightButton and not self.stage.touched():
            self.stage.turn(-1)

    def message(self, data: bytes) -> None:
        """A MIDI message: the foot switch that was learned turns."""
        if self.stage.wanted.switch and switch_of(data) == self.stage.wanted.switch:
            self.stage.press()

    def closeEvent(self, event: QCloseEvent) -> None:
        self._let_go()
        self._awake.free()
        self.stage.close()
        event.accept()
        self.left.emit()
