"""The window of the help: chapters at the left, their text at the right, and a line to search in."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.ui.commands import Command
from yellow_hinge.ui.help.pages import Chapter, answering, chapters
from yellow_hinge.ui.paint.theme import BODY, font

SIZE = (860, 620)
LIST_W = 276


class HelpWindow(QDialog):
    """Stands beside the main window and blocks nothing."""

    def __init__(self, parent: QWidget, table: tuple[Command[Any], ...]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Help")
        self.resize(*SIZE)
        self._all = chapters(table)
        self._found: list[Chapter] = []
        self.line = QLineEdit()
        self.line.setPlaceholderText("Search: words that a chapter has")
        self.line.setAccessibleName("Search the help")
        self.list = QListWidget()
        self.list.setAccessibleName("Chapters")
        self.list.setFont(font(BODY))
        self.list.setFixedWidth(LIST_W)
        self.text = QTextBrowser()
        self.text.setOpenLinks(False)
        self.text.setFont(font(BODY))
        self.text.setAccessibleName("Chapter")
        self.text.document().setDocumentMargin(14)
        row = QHBoxLayout()
        row.addWidget(self.list)
        row.addWidget(self.text, 1)
        column = QVBoxLayout(self)
        column.addWidget(self.line)
        column.addLayout(row, 1)
        self.line.textChanged.connect(self._search)
        self.list.currentRowChanged.connect(self._show_chapter)
        self._search("")

    def _search(self, words: str) -> None:
        self._found = answering(self._all, words)
        self.list.blockSignals(True)
        self.list.clear()
        for each in self._found:
            item = QListWidgetItem(each.title if each.book == "Guide" else f"{each.book}: {each.title}")
            self.list.addItem(item)
        self.list.blockSignals(False)
        self.list.setCurrentRow(0)
        if not self._found:
            self.text.setMarkdown(f"No chapter has the words *{words}*.")

    def _show_chapter(self, row: int) -> None:
        if not 0 <= row < len(self._found):
            return
        self.text.setMarkdown(self._found[row].text)
        words = self.line.text().split()
        if words:
            self.text.find(words[0])

    def open_at(self, book: str, title: str = "") -> None:
        """Show a book, or a chapter of it."""
        self.line.clear()
        wanted = (n for n, each in enumerate(self._all) if each.book == book and title in ("", each.title))
        self.list.setCurrentRow(next(wanted, 0))
        self.show()
        self.raise_()
        self.line.setFocus(Qt.FocusReason.OtherFocusReason)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Up and down go through the chapters also from the line."""
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if by is not None and self.line.hasFocus():
            self.list.setCurrentRow(min(max(self.list.currentRow() + by, 0), self.list.count() - 1))
        elif event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
