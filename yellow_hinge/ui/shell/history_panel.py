"""The edits of the song as a list: a click goes back to how it was, or forward again."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QLabel, QListWidget, QListWidgetItem, QVBoxLayout

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.theme import BODY, font


class HistoryPanel(QFrame):
    """A list beside the views; the present state is the chosen row."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.setObjectName("history")
        heading = QLabel("Edits")
        heading.setFont(font(BODY, bold=True))
        heading.setContentsMargins(12, 12, 8, 4)
        self.list = QListWidget()
        self.list.setFont(font(BODY))
        self.list.setAccessibleName("Edits, the first one on top")
        self.list.setToolTip("Click an edit to go back to how the song was after it")
        self.list.itemClicked.connect(lambda item: self.go(self.list.row(item)))
        self.list.itemActivated.connect(lambda item: self.go(self.list.row(item)))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(heading)
        column.addWidget(self.list, 1)
        self.setFixedWidth(210)

    def refresh(self) -> None:
        """Show the edits of the desk."""
        if not self.isVisible():
            return
        past, future = self.desk.document.history.labels
        self.list.clear()
        for place, label in enumerate(("as opened", *past, *future)):
            label = pretty_signs(label)
            item = QListWidgetItem(label[:1].upper() + label[1:])
            item.setToolTip(label)
            if place > len(past):
                item.setForeground(self.palette().mid())
                item.setToolTip("Undone; click to do it again")
            self.list.addItem(item)
        self.list.setCurrentRow(len(past))
        self.list.scrollToItem(self.list.currentItem(), QListWidget.ScrollHint.EnsureVisible)

    def go(self, row: int) -> None:
        """Undo or redo until `row` edits are done."""
        past, _ = self.desk.document.history.labels
        for _ in range(abs(row - len(past))):
            (self.desk.document.undo if row < len(past) else self.desk.document.redo)()
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)

    def showEvent(self, event: object) -> None:
        self.refresh()
