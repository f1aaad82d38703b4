"""The list of ways to play a chord: each with its price, both hands by name and degree, a small keyboard, its shape."""

from __future__ import annotations

from functools import cached_property
from typing import Any

from PySide6.QtCore import QAbstractListModel, QModelIndex, QObject, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QResizeEvent
from PySide6.QtWidgets import QListView, QStyledItemDelegate, QStyleOptionViewItem

from yellow_hinge.core.leading.answer import Option, Voicing
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.ui.paint.controls import tool_button
from yellow_hinge.ui.paint.keys import keyboard, octave_span
from yellow_hinge.ui.paint.notes import PlateMark, chord_marks, price_text
from yellow_hinge.ui.paint.painting import draw_keyboard, hair, is_current
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font

ROW = 88
Index = QModelIndex | QPersistentModelIndex
VCENTRE = Qt.AlignmentFlag.AlignVCenter


class OptionRow:
    """One option with the texts and marks that its row shows, made when it is first looked at."""

    def __init__(self, option: Option, voicing: Voicing, simple: bool, best: bool) -> None:
        self.option, self.chord, self._simple = option, voicing.chord, simple
        self.price = price_text(option.extra, best)
        self.family = option.family_name

    @cached_property
    def marks(self) -> tuple[PlateMark, ...]:
        """Its sounding notes."""
        return chord_marks(self.chord, self.option.both, self._simple)

    @cached_property
    def left(self) -> tuple[str, str]:
        """The left hand by name and by degree."""
        return self._hand("left")

    @cached_property
    def right(self) -> tuple[str, str]:
        """The right hand by name and by degree."""
        return self._hand("right")

    def _hand(self, hand: str) -> tuple[str, str]:
        found = [mark for mark in self.marks if mark.hand == hand]
        names = [m.name for m in found]
        if found:  # the octave of the lowest note tells apart what is named alike
            names[0] += str(self.octave(found[0]))
        return " ".join(names) or "rests", " ".join(m.degree for m in found)

    def octave(self, mark: PlateMark) -> int:
        """The octave number that belongs to the letter of a mark's name."""
        return pitch_of(mark.midi, self.chord.note_of(mark.midi)).octave


class OptionModel(QAbstractListModel):
    """The rows of the list."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.rows: list[OptionRow] = []
        self.stretch = (36, 83)

    def show_rows(self, rows: list[OptionRow]) -> None:
        """Show other rows."""
        self.beginResetModel()
        self.rows = rows
        self.stretch = octave_span([midi for row in rows for hand in row.option.both for midi in hand])
        self.endResetModel()

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008 - Qt's own default
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.AccessibleTextRole or role == Qt.ItemDataRole.DisplayRole:
            return f"{row.price}: left {row.left[0]}, right {row.right[0]}, {row.family}"
        return None


class OptionPainter(QStyledItemDelegate):
    """Paints a row: price, both hands by name and degree, a small keyboard, the shape's name."""

    def __init__(self, model: OptionModel, theme: Theme) -> None:
        super().__init__(model)
        self.model, self.theme = model, theme

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        return QSize(240, ROW)

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row, theme, area = self.model.rows[index.row()], self.theme, QRectF(option.rect)
        chosen = is_current(option, index)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(area, theme.color("chosen" if chosen else "paper"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        x, y = area.x() + 12, area.y()
        painter.setPen(theme.color("ink"))
        painter.setFont(font(LARGE, bold=True))
        painter.drawText(QRectF(x, y + 6, 58, 22), VCENTRE, row.price)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        family = QRectF(x + 62, y + 6, area.width() - 84, 22)
        painter.drawText(family, VCENTRE | Qt.AlignmentFlag.AlignRight, row.family)
        self._hands(painter, row, x, y + 29, area.width() - 24)
        low, high = self.model.stretch
        keys = keyboard(low, high, x, y + 62, area.width() - 24, 18, row.marks)
        draw_keyboard(painter, theme, keys, "", plates=False)
        painter.restore()

    def _hands(self, painter: QPainter, row: OptionRow, x: float, y: float, width: float) -> None:
        split = width * 0.36
        for place, wide, texts, hand in ((x, split, row.left, "left"), (x + split, width - split, row.right, "right")):
            painter.setPen(self.theme.hand(hand))
            painter.setFont(font(BODY, bold=True))
            painter.drawText(QRectF(place, y, wide, 16), VCENTRE, texts[0])
            painter.setPen(self.theme.color("muted"))
            painter.setFont(font(SMALL))
            painter.drawText(QRectF(place, y + 15, wide, 14), VCENTRE, texts[1])


class OptionList(QListView):
    """The list itself; keys it does not need go on to the view. `asked`: the button in the row under the cursor was
    pressed, which takes that way.
    """

    asked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.take_button = tool_button("Take", "Play the chord this way and keep it (Enter)", "Take this way")
        self.take_button.setParent(self.viewport())
        self.take_button.setProperty("small", True)
        self.take_button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.take_button.clicked.connect(self.asked.emit)
        self.take_button.hide()
        self._offered = False
        self.verticalScrollBar().valueChanged.connect(lambda _: self._place())

    def offer(self, on: bool) -> None:
        """Show the button in the row under the cursor, or not."""
        self._offered = on
        self._place()

    def _place(self) -> None:
        index = self.currentIndex()
        self.take_button.setVisible(self._offered and index.isValid())
        area, size = self.visualRect(index), self.take_button.sizeHint()
        self.take_button.move(area.right() - size.width() - 8, area.top() + 30)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            super().keyPressEvent(event)
        else:
            event.ignore()
