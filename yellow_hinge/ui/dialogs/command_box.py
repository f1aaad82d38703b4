"""Every command by typing a part of its name, from the one table of commands."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QAction, QKeyEvent
from PySide6.QtWidgets import QDialog, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from yellow_hinge.ui.commands import COMMANDS, Command, shown_keys
from yellow_hinge.ui.theme import BODY, LARGE, font


def score(command: Command, words: str) -> int:
    """How well a command answers to typed words: 0 not at all, more is better. Every word has to be found."""
    title, rest = command.title.casefold(), f"{command.menu} {command.tip}".casefold()
    total = 1
    for word in words.casefold().split():
        if any(part.startswith(word) for part in title.split()):
            total += 4
        elif word in title:
            total += 2
        elif word in rest:
            total += 1
        else:
            return 0
    return total


def found(words: str) -> list[Command]:
    """The commands that answer to typed words, the best first, in the table's order among equals."""
    scored = [(score(command, words), -place, command) for place, command in enumerate(COMMANDS)]
    return [command for points, _, command in sorted(scored, key=lambda s: s[:2], reverse=True) if points]


_OWN_KEYS = (Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_Return, Qt.Key.Key_Enter)


class CommandBox(QDialog):
    """A line to type in and the commands that answer; Enter runs the chosen one after the box has closed."""

    def __init__(self, actions: dict[str, QAction], parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._actions = actions
        self.chosen: QAction | None = None
        self.line = QLineEdit()
        self.line.setPlaceholderText("What do you want to do?")
        self.line.setAccessibleName("Command")
        self.line.setFont(font(LARGE))
        self.list = QListWidget()
        self.list.setFont(font(BODY))
        self.list.setAccessibleName("Commands")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.itemClicked.connect(lambda _: self._run())
        self.line.textChanged.connect(self._search)
        self.line.installEventFilter(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.addWidget(self.line)
        column.addWidget(self.list)
        self.resize(520, 380)
        self._search("")

    def _search(self, words: str) -> None:
        self.list.clear()
        for command in found(words):
            action = self._actions[command.id]
            keys = shown_keys(command)
            item = QListWidgetItem(f"{command.menu}: {action.text().replace('&', '')}{f'   {keys}' if keys else ''}")
            item.setToolTip(command.tip)
            item.setData(Qt.ItemDataRole.UserRole, command.id)
            if not action.isEnabled():
                item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent) or event.key() not in _OWN_KEYS:
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()  # these keys are the box's, whatever they do in the window
            return True
        if event.type() != QEvent.Type.KeyPress:
            return False
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            step = 1 if event.key() == Qt.Key.Key_Down else -1
            self.list.setCurrentRow(min(max(self.list.currentRow() + step, 0), self.list.count() - 1))
            return True
        self._run()
        return True

    def _run(self) -> None:
        item = self.list.currentItem()
        if item is not None and item.flags() & Qt.ItemFlag.ItemIsEnabled:
            self.chosen = self._actions[item.data(Qt.ItemDataRole.UserRole)]
            self.accept()
