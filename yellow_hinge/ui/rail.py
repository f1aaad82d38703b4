"""The narrow rail at the left: the views by name."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QFrame, QToolButton, QVBoxLayout

from yellow_hinge.ui.theme import BODY, font
from yellow_hinge.ui.views import VIEWS

WIDTH = 76


class Rail(QFrame):
    """`chosen` tells the name of the view to show."""

    chosen = Signal(str)

    def __init__(self, actions: dict[str, QAction]) -> None:
        super().__init__()
        self.setObjectName("rail")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 8)
        column.setSpacing(2)
        self.buttons: dict[str, QToolButton] = {}
        for view in VIEWS:
            button = QToolButton()
            button.setObjectName("rail")
            button.setText(view.title)
            button.setFont(font(BODY))
            button.setCheckable(True)
            button.setFixedWidth(WIDTH)
            button.setToolTip(actions[f"view_{view.id}"].toolTip())
            button.setAccessibleName(f"{view.title} view")
            button.clicked.connect(lambda _=False, name=view.id: self.chosen.emit(name))
            column.addWidget(button)
            self.buttons[view.id] = button
        column.addStretch(1)

    def mark(self, shown: str) -> None:
        """Show which view is there."""
        for name, button in self.buttons.items():
            button.setChecked(name == shown)
