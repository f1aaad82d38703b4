"""The narrow rail at the left: the views by name, as tabs."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QRect, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QTabBar

from yellow_hinge.ui.commands import Actions
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, font
from yellow_hinge.ui.parts.look import Look
from yellow_hinge.ui.parts.rooms import Handle

WIDTH, TALL, LOW = 76, 42, 22
STEPS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}


class Rail(QTabBar):
    """`chosen` tells the room to show. Up and down go through them; the keys stay here then."""

    chosen = Signal(object)

    def __init__(self, rooms: tuple[Handle[Any], ...], actions: Actions, look: Look) -> None:
        super().__init__()
        self._rooms, self._look = rooms, look
        look.changed.connect(lambda _: self.update())
        self.setShape(QTabBar.Shape.RoundedWest)
        self.setAccessibleName("Views")
        self.setDrawBase(False)
        self.setExpanding(False)
        self.setUsesScrollButtons(False)
        self.setElideMode(Qt.TextElideMode.ElideNone)
        self.setFixedWidth(WIDTH)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setFont(font(BODY))
        for index, room in enumerate(rooms):
            self.addTab(room.title)
            self.setTabToolTip(index, actions[f"view_{room.id}"].toolTip())
        self.tabBarClicked.connect(self._clicked)

    def _clicked(self, index: int) -> None:
        if index >= 0:
            self.chosen.emit(self._rooms[index])

    def mark(self, shown: Handle[Any]) -> None:
        """Show which room is there."""
        self.setCurrentIndex(self._rooms.index(shown))

    def tabSizeHint(self, index: int) -> QSize:
        return QSize(WIDTH, max(LOW, min(TALL, self.height() // max(1, self.count()))))

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, LOW * self.count())

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a low window the names stand closer, so that all are there."""
        super().resizeEvent(event)
        if event.size().height() != event.oldSize().height():
            self.setTabText(0, self.tabText(0))  # lays the tabs out anew

    def minimumTabSizeHint(self, index: int) -> QSize:
        return self.tabSizeHint(index)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = STEPS.get(Qt.Key(event.key()))
        if by is None:
            event.ignore()
            return
        self.chosen.emit(self._rooms[(self.currentIndex() + by) % len(self._rooms)])
        self.setFocus(Qt.FocusReason.OtherFocusReason)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self._look.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        for index in range(self.count()):
            area, current = self.tabRect(index), index == self.currentIndex()
            if current:
                painter.fillRect(area, theme.color("chosen"))
                painter.fillRect(QRect(area.left(), area.top(), 3, area.height()), theme.color("ink"))
            if current and self.hasFocus():
                painter.setPen(hair(theme.color("ink"), 2.0))
                painter.drawRect(area.adjusted(1, 1, -2, -1))
            painter.setFont(font(BODY, bold=current))
            painter.setPen(theme.color("ink"))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, self.tabText(index))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(self.rect().topRight(), self.rect().bottomRight())
        painter.end()
