"""Every command by typing a part of its name, from the one table of commands."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QEvent, QModelIndex, QPersistentModelIndex, QSize, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QPainter
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.ui.commands import Actions, Command, shown_keys
from yellow_hinge.ui.paint.painting import is_current
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font, text_scale
from yellow_hinge.ui.shell.command_search import Known, found
from yellow_hinge.ui.shell.offers import Offer, Offers

TOP = 90  # pixels from the window's top
WIDE, TALL, ROW_H = 640, 420, 27
WHAT = "What do you want to do? A command, song, key, manner, bar, kind of file"
WHERE = "A chord, words that are sung, your own notes, or a note with its octave"
HINT = "Try a part of a command, a key, bar 12, up two"


def _keys(known: Known) -> str:
    return shown_keys(known) if isinstance(known, Command) else ""


class CommandPainter(QStyledItemDelegate):
    """Paints a command: its name, where it is in the window, its key at the right."""

    def __init__(self, theme: Callable[[], Theme], parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(200, round(ROW_H * text_scale()))

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        theme, area = self.theme(), option.rect
        if index.data(Qt.ItemDataRole.UserRole) is None:  # nothing was found
            painter.setPen(theme.color("muted"))
            painter.setFont(font(BODY))
            painter.drawText(area.adjusted(8, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, str(index.data()))
            return
        command, title, able = index.data(Qt.ItemDataRole.UserRole)
        painter.fillRect(area, theme.color("chosen" if is_current(option, index) else "paper"))
        middle = Qt.AlignmentFlag.AlignVCenter
        inside = area.adjusted(8, 0, -8, 0)
        painter.setPen(theme.color("muted"))
        painter.setFont(font(SMALL))
        keys = _keys(command)
        painter.drawText(inside, middle | Qt.AlignmentFlag.AlignRight, keys)
        room = inside.width() - painter.fontMetrics().horizontalAdvance(keys) - 12
        where = painter.fontMetrics().elidedText(command.menu, Qt.TextElideMode.ElideRight, room * 2 // 5)
        wide = painter.fontMetrics().horizontalAdvance(where) + 12
        painter.drawText(inside.adjusted(room - wide + 12, 0, 0, 0), middle, where)
        painter.setPen(theme.color("ink" if able else "muted"))
        painter.setFont(font(BODY))
        painter.drawText(
            inside, middle, painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, room - wide)
        )


class CommandBox(QFrame):
    """A line to type in and the commands that answer, over the window. It has the keys while it is open: none of them
    reaches what is behind. Enter runs the chosen command once the box has closed, Escape closes it. `more` tells the
    commands beside the table, and what was typed may mean by itself.
    """

    def __init__(
        self, actions: Actions, window: QWidget, theme: Callable[[], Theme], table: tuple[Command[Any], ...],
        more: Offers,
    ) -> None:  # fmt: skip
        super().__init__(window)
        self.setObjectName("box")
        self.window_, self._actions, self._table, self._more = window, actions, table, more
        self._known: Sequence[Offer] = ()
        self._before: QWidget | None = None  # who had the keys
        self._moves: dict[int, Callable[[], int]] = {
            Qt.Key.Key_Down: lambda: 1, Qt.Key.Key_Up: lambda: -1,
            Qt.Key.Key_PageDown: lambda: 8, Qt.Key.Key_PageUp: lambda: -8,
        }  # fmt: skip
        self.line = QLineEdit()
        self._finding = False  # only places of the song are wanted
        self.line.setAccessibleName("Command")
        self.line.setFont(font(LARGE))
        self.list = QListWidget()
        self.list.setFont(font(BODY))
        self.list.setAccessibleName("Commands")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setItemDelegate(CommandPainter(theme, self.list))
        self.list.itemClicked.connect(lambda _: self.run())
        self.line.textChanged.connect(self._search)
        self.line.installEventFilter(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.addWidget(self.line)
        column.addWidget(self.list)
        self.hide()

    def open(self, finding: bool = False) -> None:
        """Show it, empty, with the keys; `finding`: for places of the song alone."""
        if self.isHidden():
            self._before = QApplication.focusWidget()
        self._finding, self._known = finding, self._more()
        self.line.setPlaceholderText(WHERE if finding else WHAT)
        self.line.clear()
        self._search("")
        parent = self.window_
        self.resize(min(WIDE, parent.width() - 40), min(TALL, parent.height() - TOP - 20))
        self.move((parent.width() - self.width()) // 2, TOP)
        self.show()
        self.raise_()
        self.line.setFocus(Qt.FocusReason.PopupFocusReason)

    def close_box(self) -> None:
        """Hide it, and give the keys back."""
        if self.isHidden():
            return
        self.hide()
        if self._before is not None and self._before.isVisible():
            self._before.setFocus(Qt.FocusReason.PopupFocusReason)

    @property
    def chosen(self) -> Known | None:
        """The command under the cursor, None where there is none that can be done now."""
        item = self.list.currentItem()
        able = item is not None and item.flags() & Qt.ItemFlag.ItemIsEnabled
        found: Known | None = item.data(Qt.ItemDataRole.UserRole)[0] if able else None
        return found

    def _search(self, words: str) -> None:
        self.list.clear()
        known = self._more.finds(words) if self._finding else self._answers(words)
        if not known and words.strip():
            self._say_nothing(words)
        for command in known:
            action = self._actions[command.id] if isinstance(command, Command) else None
            title = action.text().replace("&&", "\0").replace("&", "").replace("\0", "&") if action else command.title
            keys = _keys(command)
            item = QListWidgetItem(f"{title}, {command.menu}{f', {keys}' if keys else ''}")
            item.setToolTip(command.tip)
            able = action is None or action.isEnabled()
            item.setData(Qt.ItemDataRole.UserRole, (command, title, able))
            if not able:
                item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _answers(self, words: str) -> list[Known]:
        """What the words may mean by themselves, then the commands that answer to them."""
        typed: list[Known] = [*self._more.typed(words)]
        titles = {known.title for known in typed}
        return [*typed, *(known for known in found(words, self._table, self._known) if known.title not in titles)]

    def _say_nothing(self, words: str) -> None:
        where = "in the song" if self._finding else "here"
        item = QListWidgetItem(
            f"Nothing {where} answers to “{words.strip()[:40]}”. {HINT if not self._finding else WHERE}."
        )
        item.setFlags(Qt.ItemFlag.NoItemFlags)
        self.list.addItem(item)

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if isinstance(event, QFocusEvent) and event.lostFocus() and event.reason() in _LEAVING:
            self.close_box()
        if not isinstance(event, QKeyEvent):
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()  # every key is the box's, whatever it does in the window
            return True
        return event.type() == QEvent.Type.KeyPress and self._pressed(event.key())

    def _pressed(self, key: int) -> bool:
        """Whether a key was one of the box, and is done."""
        if key in self._moves:
            row = self.list.currentRow() + self._moves[key]()
            self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.run()
        elif key == Qt.Key.Key_Escape:
            self.close_box()
        else:
            return key in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
        return True

    def run(self) -> None:
        """Do the chosen command."""
        command = self.chosen
        if command is None:
            return
        self.close_box()
        if isinstance(command, Command):
            self._actions[command.id].trigger()
        else:
            command.do()


_LEAVING = (Qt.FocusReason.MouseFocusReason, Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason)
