"""What a whole song becomes: every chord that changes, with a tick that takes or refuses it."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from yellow_hinge.core.reharm.choice import Choice
from yellow_hinge.core.reharm.whole import Bolder, SongChange
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.ui.paint.painting import hair, is_current, tick_box
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.swaps.scene import change_words, order_words

Index = QModelIndex | QPersistentModelIndex
ROW_H = 46
ROLE, ON = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole + 1
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class ChangePainter(QStyledItemDelegate):
    """Paints a change in two lines behind its tick."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        (what, why, place), on = index.data(ROLE), bool(index.data(ON))
        theme, area = self.theme, QRect(option.rect)
        painter.fillRect(area, theme.color("chosen" if is_current(option, index) else "paper"))
        tick_box(painter, theme, QRectF(area.left() + 12, area.top() + 8, 13, 13), on)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        painter.drawText(area.adjusted(34, 3, -10, -23), RIGHT, place)
        taken = painter.fontMetrics().horizontalAdvance(place) + 54
        elide, metrics = Qt.TextElideMode.ElideRight, painter.fontMetrics()
        painter.drawText(area.adjusted(34, 22, -10, -3), LEFT, metrics.elidedText(why, elide, area.width() - 46))
        painter.setFont(font(BODY, bold=on))
        painter.setPen(theme.color("ink" if on else "muted"))
        metrics = painter.fontMetrics()
        painter.drawText(area.adjusted(34, 3, -10, -23), LEFT, metrics.elidedText(what, elide, area.width() - taken))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())


class BoldList(QListWidget):
    """`refused_changed` tells that a tick was set or taken away, `looked_at` the address of a change."""

    refused_changed = Signal()
    looked_at = Signal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.changes: list[SongChange] = []
        self.refused: frozenset[Address] = frozenset()
        self.found: Bolder | None = None
        self.firsts: dict[Address, Choice] = {}
        self.painter_ = ChangePainter(theme, self)
        self.setItemDelegate(self.painter_)
        self.setUniformItemSizes(True)
        self.setAccessibleName("Chords that change")
        self.setToolTip("A click on the tick, or Enter, refuses a change or takes it back; up and down go through them")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.currentRowChanged.connect(self._look)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.viewport().update()

    def show_changes(self, found: Bolder) -> None:
        """List the changes of a song, all of them taken."""
        self.changes, self.refused = list(found.changes), frozenset()
        self.blockSignals(True)
        self.clear()
        for _ in self.changes:
            item = QListWidgetItem()
            item.setData(ON, True)
            item.setSizeHint(QSize(10, ROW_H))
            self.addItem(item)
        self.firsts = {change.at: change.choice for change in self.changes}
        self._say(found)
        self.setCurrentRow(-1)
        self.blockSignals(False)

    def _say(self, found: Bolder) -> None:
        """What the rows say of the changes."""
        self.found = found
        for row, change in enumerate(self.changes):
            what, why = change_words(change)
            section, bar, _ = change.at
            order = order_words(change, self.firsts[change.at])
            place = f"{found.song.sections[section].name}, bar {bar_number(found.song, section, bar)}"
            item = self.item(row)
            item.setText(f"{what}: {why}")
            item.setData(ROLE, (what, why, f"{order}  ·  {place}" if order else place))
            item.setToolTip(f"{what}\n{why}")

    def put_changes(self, found: Bolder) -> None:
        """The same places with other chords; ticks and cursor stay."""
        self.changes = list(found.changes)
        self._say(found)
        self.viewport().update()

    def shows(self, found: Bolder | None) -> bool:
        """Whether these changes are listed."""
        return found is not None and found is self.found

    @property
    def at(self) -> Address | None:
        """The address of the change under the cursor."""
        return self.changes[self.currentRow()].at if self.currentRow() >= 0 else None

    def step(self, by: int) -> None:
        """Go up or down."""
        if self.count():
            self.setCurrentRow(min(max(self.currentRow() + by, 0), self.count() - 1))

    def look_at(self, at: Address | None) -> None:
        """Put the cursor on the change of a chord, or on none."""
        row = next((i for i, change in enumerate(self.changes) if change.at == at), -1)
        self.blockSignals(True)
        self.setCurrentRow(row)
        self.blockSignals(False)
        self.viewport().update()

    def toggle(self) -> None:
        """Refuse the change under the cursor, or take it back in."""
        if self.currentRow() >= 0:
            at = self.changes[self.currentRow()].at
            self.refused = self.refused ^ {at}
            self.currentItem().setData(ON, at not in self.refused)
            self.refused_changed.emit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.position().x() < 32 and self.itemAt(event.position().toPoint()) is not None:
            self.toggle()

    def _look(self, row: int) -> None:
        if row >= 0:
            self.looked_at.emit(self.changes[row].at)
