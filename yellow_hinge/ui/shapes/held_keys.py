"""A keyboard whose keys stay down where they are clicked."""

from __future__ import annotations

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.ui.paint.keys import Keyboard, keyboard, octave_span, widened
from yellow_hinge.ui.paint.notes import PlateMark
from yellow_hinge.ui.paint.painting import draw_keyboard
from yellow_hinge.ui.paint.theme import Theme

TALL = 112


class HeldKeys(QWidget):
    """Paints the held keys with their names. `clicked` tells a key that was pressed with the mouse."""

    clicked = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.marks: tuple[PlateMark, ...] = ()
        self.setFixedHeight(TALL)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Keys to hold")
        self.setToolTip("Click keys to hold them or let them go; a MIDI keyboard's are held as long as they are down")

    def sizeHint(self) -> QSize:
        return QSize(640, TALL)

    def show_marks(self, marks: tuple[PlateMark, ...]) -> None:
        """Hold other keys."""
        self.marks = marks
        self.setAccessibleDescription(" ".join(mark.name for mark in marks))
        self.update()

    @property
    def keys(self) -> Keyboard:
        """The keys that are painted."""
        low, high = widened(*octave_span([36, 84, *(mark.midi for mark in self.marks)]), self.width() - 8.0)
        return keyboard(low, high, 4.0, 4.0, self.width() - 8.0, TALL - 8.0, self.marks)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        midi = self.keys.key_at(event.position().x(), event.position().y())
        if midi is not None:
            self.clicked.emit(midi)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        draw_keyboard(painter, self.theme, self.keys, "names")
        painter.end()
