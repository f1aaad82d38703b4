"""Small widgets that several parts of the window share."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QFont, QFontMetrics, QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QToolButton,
    QWidget,
)

from yellow_hinge.ui.theme import BODY, SMALL, font

PATIENCE_MS = 500  # of work, before something says that it goes on


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
    fit_text(button, 22)
    return button


def fit_text(button: QToolButton, spare: int) -> None:
    """Make a button wide enough for its text also when it is down, which is bold; `spare` pixels around it."""
    bold = QFont(button.font())
    bold.setBold(True)
    button.setMinimumWidth(QFontMetrics(bold).horizontalAdvance(button.text()) + spare)


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


def tabs(
    parent: QWidget, shown: dict[str, tuple[str, str]], chosen: Callable[[str], None]
) -> tuple[QHBoxLayout, dict[str, QToolButton]]:
    """A row of tabs by name, (text, tip) each, of which one is down."""
    group, row, buttons = QButtonGroup(parent), QHBoxLayout(), {}
    row.setContentsMargins(8, 6, 8, 2)
    row.setSpacing(2)
    for name, (text, tip) in shown.items():
        button = QToolButton()
        button.setText(text)
        button.setToolTip(tip)
        button.setAccessibleName(tip)
        button.setCheckable(True)
        button.setObjectName("tab")
        button.setFont(font(SMALL))
        button.clicked.connect(lambda _=False, name=name: chosen(name))
        group.addButton(button)
        row.addWidget(button)
        buttons[name] = button
    row.addStretch(1)
    return row, buttons


_ENTER = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter})
_PRESS = _ENTER | {Qt.Key.Key_Space, Qt.Key.Key_Select}
_CHOOSE = _PRESS | {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}


class _OwnKeys(QObject):
    """Gives a control the keys that it needs, before the shortcuts of the view around it."""

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent):
            return False
        own = _CHOOSE if isinstance(watched, QComboBox) else _ENTER if isinstance(watched, QLineEdit) else _PRESS
        if event.key() not in own or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        entered = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if event.type() == QEvent.Type.KeyPress and entered and isinstance(watched, QAbstractButton):
            watched.click()
            return True
        return False


def own_keys(area: QWidget) -> None:
    """Let every control in an area be used by keys, though space, Enter and the arrows mean something there."""
    watcher = area.findChild(_OwnKeys) or _OwnKeys(area)
    for kind in (QAbstractButton, QComboBox, QLineEdit):
        for control in area.findChildren(kind):
            control.installEventFilter(watcher)
