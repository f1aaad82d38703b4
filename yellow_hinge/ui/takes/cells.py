"""The mix: a row of cells, one for each pass of the song, with the take that it plays and what the joints take."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

HEIGHT, JOINT_W = 58, 30
ARROW_W = 24  # pixels of a cell whose upper right corner opens the list of takes
CENTRE = Qt.AlignmentFlag.AlignCenter


_ARROWS = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down)


def _is_own(key: int) -> bool:
    return key in _ARROWS or Qt.Key.Key_1 <= key <= Qt.Key.Key_9


class MixCell(NamedTuple):
    """A pass: its name, its take's number and name, and the semitones into the next pass ("" at the end)."""

    name: str
    number: int
    take: str
    joint: str
    stiff: bool


class MixCells(QWidget):
    """Left and right go along the passes; a number key, up and down or a click chooses the take. `numbered` tells the
    pass and the number, `turned` the pass and by how many takes to go on, `moved` the pass that is looked at, `asked` a
    menu at a point of the screen, `swapped` two passes whose takes change places.
    """

    numbered = Signal(int, int)
    turned = Signal(int, int)
    moved = Signal(int)
    asked = Signal(object)
    swapped = Signal(int, int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.cells: list[MixCell] = []
        self.at = 0
        self.several = False  # takes to choose from
        self._pressed = -1, False  # a cell, and whether it was looked at already
        self.setFixedHeight(HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The mix: which take each pass plays")
        self.setToolTip("Left and right go along the passes, a number or up and down choose the take; so does a click")

    def show_cells(self, cells: list[MixCell], several: bool = False) -> None:
        """Show another mix; `several`: there are takes to choose from."""
        self.cells, self.several = cells, several
        self.at = min(self.at, max(0, len(cells) - 1))
        self.update()

    def _width(self) -> float:
        return min(150.0, (self.width() - 24) / max(1, len(self.cells)))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = int((event.position().x() - 12) // self._width())
        if event.button() == Qt.MouseButton.LeftButton and 0 <= index < len(self.cells):
            inside = event.position().x() - 12 - index * self._width()
            if self.several and inside > self._width() - ARROW_W and event.position().y() < HEIGHT / 2:
                self.at = index
                self.moved.emit(index)
                self.asked.emit(event.globalPosition().toPoint())
                return
            self._pressed = index, index == self.at and self.hasFocus()
            self.at = index
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.moved.emit(index)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """On the cell that was pressed a second time: its next take; on another one: they change places."""
        (index, again), self._pressed = self._pressed, (-1, False)
        over = int((event.position().x() - 12) // self._width())
        if index >= 0 and over == index and again:
            self.turned.emit(index, 1)
        elif index >= 0 and over != index and 0 <= over < len(self.cells):
            self.swapped.emit(index, over)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        index = int((event.pos().x() - 12) // self._width())
        if event.reason() != QContextMenuEvent.Reason.Keyboard and 0 <= index < len(self.cells):
            self.at = index
            self.setFocus(Qt.FocusReason.MouseFocusReason)
            self.moved.emit(index)
            self.update()
        self.asked.emit(event.globalPos())

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and _is_own(event.key()):
            event.accept()  # before the shortcuts of the view around it
            return True
        return super().event(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.at = min(max(self.at + (1 if key == Qt.Key.Key_Right else -1), 0), max(0, len(self.cells) - 1))
            self.moved.emit(self.at)
            self.update()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.turned.emit(self.at, 1 if key == Qt.Key.Key_Down else -1)
        elif Qt.Key.Key_1 <= key <= Qt.Key.Key_9:
            self.numbered.emit(self.at, key - Qt.Key.Key_0)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = self._width()
        for index, cell in enumerate(self.cells):
            area = QRectF(12 + index * wide, 4, wide - 6, HEIGHT - 10)
            here = index == self.at
            painter.setPen(hair(theme.color("ink" if here else "line"), 2.0 if here and self.hasFocus() else 1.0))
            painter.setBrush(theme.color("chosen" if here else "raised"))
            painter.drawRoundedRect(area, 3, 3)
            self._words(painter, cell, area)
            if self.several:
                self._arrow(painter, area)
        for index, cell in enumerate(self.cells):
            if cell.joint:
                self._joint(painter, cell, 12 + (index + 1) * wide - 3)
        painter.end()

    def _arrow(self, painter: QPainter, area: QRectF) -> None:
        """That other takes can be chosen here."""
        x, y = area.right() - 16, area.top() + 10
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.color("muted"))
        painter.drawPolygon(QPolygonF([QPointF(x, y), QPointF(x + 9, y), QPointF(x + 4.5, y + 5)]))

    def _words(self, painter: QPainter, cell: MixCell, area: QRectF) -> None:
        painter.setFont(font(SMALL))
        painter.setPen(self.theme.color("muted"))
        inside = area.adjusted(6, 3, -6, 0)
        name = painter.fontMetrics().elidedText(cell.name, Qt.TextElideMode.ElideRight, int(inside.width()))
        painter.drawText(inside, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, name)
        painter.setFont(font(BODY, bold=True))
        painter.setPen(self.theme.color("ink"))
        title = f"{cell.number}  {cell.take}"
        title = painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, int(inside.width()))
        painter.drawText(area.adjusted(6, 18, -6, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, title)

    def _joint(self, painter: QPainter, cell: MixCell, x: float) -> None:
        area = QRectF(x - JOINT_W / 2, HEIGHT - 22, JOINT_W, 16)
        painter.setPen(hair(self.theme.color("brass"), 1.4))
        painter.setBrush(self.theme.color("paper"))
        painter.drawRoundedRect(area, 3, 3)
        painter.setPen(self.theme.color("brass_text"))
        painter.setFont(font(SMALL, bold=cell.stiff))
        painter.drawText(area, CENTRE, cell.joint)
