"""Rows of two lines, as the lists beside the views show them."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from yellow_hinge.ui.paint.painting import hair, is_current, tick_box
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

Index = QModelIndex | QPersistentModelIndex
ROW_H = 50


class Row(NamedTuple):
    """A row: figure, heading, words below, and the chord it leads to, the notes it sounds, or what it names."""

    figure: str
    title: str
    words: str
    moving: bool
    chord: int = -1
    notes: tuple[tuple[int, str], ...] = ()
    ticked: bool | None = None  # a box at the right edge, where there is one
    id: str = ""


class RowPainter(QStyledItemDelegate):
    """Paints a Row in two lines."""

    def __init__(self, theme: Theme, parent: QWidget, column: int = 64) -> None:
        super().__init__(parent)
        self.theme, self._column = theme, column  # where the words begin

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        theme, area = self.theme, option.rect
        chosen = is_current(option, index)
        painter.fillRect(area, theme.color("chosen" if chosen else "paper"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.setFont(font(BODY, bold=True))
        painter.setPen(theme.color("brass_text" if row.moving else "muted"))
        painter.drawText(area.adjusted(12, 4, 0, -24), left, row.figure)
        painter.setPen(theme.color("ink"))
        room = area.width() - self._column - (8 if row.ticked is None else 34)
        title = painter.fontMetrics().elidedText(row.title, Qt.TextElideMode.ElideRight, room)
        painter.drawText(area.adjusted(self._column, 4, -8, -24), left, title)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        room = area.width() - self._column - 8
        words = painter.fontMetrics().elidedText(row.words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(area.adjusted(self._column, 24, -8, -4), left, words)
        if row.ticked is not None:
            tick_box(painter, theme, QRectF(area.right() - 26, area.top() + 9, 13, 13), row.ticked)


class RowList(QWidget):
    """A list of rows to go through and take from; whoever inherits says what taking does."""

    def __init__(self, theme: Theme, name: str, column: int = 64) -> None:
        super().__init__()
        self.list = QListWidget()
        self.list.setAccessibleName(name)
        self.list.setUniformItemSizes(True)
        self.painter_ = RowPainter(theme, self.list, column)
        self.list.setItemDelegate(self.painter_)
        self.list.itemClicked.connect(lambda item: self.take_row(item.data(Qt.ItemDataRole.UserRole)))

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.list.viewport().update()

    def step(self, by: int) -> None:
        """Go up or down the list."""
        self.list.setCurrentRow(min(max(self.list.currentRow() + by, 0), self.list.count() - 1))

    def take(self) -> None:
        """Take what is under the cursor."""
        item = self.list.currentItem()
        if item is not None:
            self.take_row(item.data(Qt.ItemDataRole.UserRole))

    def take_row(self, row: Row) -> None:
        """Take what a row says."""
        raise NotImplementedError


def fill_rows(widget: QListWidget, rows: list[Row]) -> None:
    """Show other rows, with the cursor and the place where they were."""
    place, at = widget.verticalScrollBar().value(), widget.currentRow()
    widget.clear()
    for row in rows:
        item = QListWidgetItem(f"{row.figure} {row.title}: {row.words}")
        item.setData(Qt.ItemDataRole.UserRole, row)
        item.setToolTip(f"{row.title}: {row.words}")
        item.setSizeHint(QSize(10, ROW_H))
        widget.addItem(item)
    widget.setCurrentRow(at)
    widget.verticalScrollBar().setValue(place)
