"""Small widgets that several parts of the window share."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QButtonGroup, QFrame, QHBoxLayout, QLabel, QToolButton, QWidget

from yellow_hinge.ui.theme import BODY, font


class ElidedLabel(QLabel):
    """One line that ends in … where there is no room, with the whole text as its tooltip."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(self.font())
        painter.setPen(self.palette().color(self.foregroundRole()))
        text = painter.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()

    def minimumSizeHint(self) -> QSize:
        return QSize(60, super().minimumSizeHint().height())

    def setText(self, text: str) -> None:
        super().setText(text)
        self.setToolTip(text)


def upright_rule() -> QFrame:
    """A thin line between two parts that stand side by side."""
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedWidth(1)
    return rule


def level_rule() -> QFrame:
    """A thin line between two parts that lie over each other."""
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedHeight(1)
    return rule


def tool_button(text: str, tip: str, name: str) -> QToolButton:
    """A button that never cuts its text."""
    button = QToolButton()
    button.setText(text)
    button.setToolTip(tip)
    button.setAccessibleName(name)
    button.setFont(font(BODY))
    button.setMinimumWidth(button.fontMetrics().horizontalAdvance(text) + 22)
    return button


def choice(
    options: tuple[tuple[str, str, str], ...], chosen: Callable[[str], None]
) -> tuple[QWidget, dict[str, QToolButton]]:
    """A row of buttons of which one is down: (value, text, tip)."""
    holder, group = QWidget(), QButtonGroup()
    group.setParent(holder)
    row = QHBoxLayout(holder)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(2)
    buttons = {}
    for value, text, tip in options:
        button = tool_button(text, tip, tip)
        button.setCheckable(True)
        button.clicked.connect(lambda _=False, value=value: chosen(value))
        group.addButton(button)
        row.addWidget(button)
        buttons[value] = button
    return holder, buttons
