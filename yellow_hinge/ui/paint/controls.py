"""Small widgets that several parts of the window share."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from PySide6.QtCore import QEvent, QObject, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetrics, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QSlider,
    QTabBar,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.ui.paint.theme import BODY, SMALL, font

Button = TypeVar("Button", bound=QAbstractButton)
READ_AS = "Read as…"  # a text of another kind than was guessed
SPARE = "spare"  # the property of a button that is made wide enough for its text
PATIENCE_MS = 500  # of work, before something says that it goes on


class ElidedLabel(QLabel):
    """One line that ends in … where there is no room, with the whole text as its tooltip."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(self.font())
        painter.setPen(self.palette().color(self.foregroundRole()))
        inside = self.contentsRect()
        text = painter.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, inside.width())
        painter.drawText(inside, Qt.AlignmentFlag.AlignVCenter, text)
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


def as_small(*widgets: QWidget) -> None:
    """Make controls small, such as those of a strip."""
    for widget in widgets:
        widget.setFont(font(SMALL))
        widget.setProperty("small", True)


def as_muted(label: QLabel) -> None:
    """Make a label say what is beside the matter."""
    label.setObjectName("muted")
    label.setFont(font(SMALL))


def strip_row() -> QHBoxLayout:
    """The row of controls at the top of a view."""
    row = QHBoxLayout()
    row.setContentsMargins(12, 6, 8, 4)
    row.setSpacing(6)
    return row


def strip_over(view: QWidget, strip: QLayout, body: QLayout, *feet: QLayout) -> None:
    """Lay a view out: its strip, a rule, what takes the room, and what stands below."""
    column = QVBoxLayout(view)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    column.addLayout(strip)
    column.addWidget(level_rule())
    column.addLayout(body, 1)
    for foot in feet:
        column.addLayout(foot)


def tool_button(text: str, tip: str, name: str) -> QToolButton:
    """A button that never cuts its text."""
    return _worded(QToolButton(), text, tip, name)


def _worded(button: Button, text: str, tip: str, name: str) -> Button:
    button.setText(text)
    button.setToolTip(tip)
    button.setAccessibleName(name)
    button.setFont(font(BODY))
    fit_text(button, 22)
    return button


def fit_text(button: QAbstractButton, spare: int) -> None:
    """Make a button wide enough for its text also when it is down, which is bold; `spare` pixels around it."""
    button.setProperty(SPARE, spare)
    bold = QFont(button.font())
    bold.setBold(True)
    button.setMinimumWidth(QFontMetrics(bold).horizontalAdvance(button.text()) + spare)


def choice(
    options: tuple[tuple[str, str, str], ...], chosen: Callable[[str], None]
) -> tuple[QWidget, dict[str, QPushButton]]:
    """A row of radio buttons that look like buttons: (value, text, tip). The arrows go through them."""
    holder = QWidget()
    row = QHBoxLayout(holder)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(2)
    buttons = {}
    for value, text, tip in options:
        button = _worded(QPushButton(), text, tip, tip)
        button.setObjectName("choice")
        button.setCheckable(True)
        button.setAutoExclusive(True)
        button.setAutoDefault(False)
        button.clicked.connect(lambda _=False, value=value: chosen(value))
        row.addWidget(button)
        buttons[value] = button
    return holder, buttons


class Tabs(QTabBar):
    """A row of tabs by name, (text, tip) each. `chosen` tells the name of the one that was pressed."""

    chosen = Signal(str)

    def __init__(self, shown: dict[str, tuple[str, str]], name: str) -> None:
        super().__init__()
        self.names = list(shown)
        self.setAccessibleName(name)
        self.setDrawBase(False)
        self.setExpanding(False)
        self.setUsesScrollButtons(False)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setFont(font(SMALL))
        for index, (text, tip) in enumerate(shown.values()):
            self.addTab(text)
            self.setTabToolTip(index, tip)
        self.currentChanged.connect(lambda index: self.chosen.emit(self.names[index]))

    def mark(self, name: str) -> None:
        """Show which one is there."""
        self.setCurrentIndex(self.names.index(name))

    def tabSizeHint(self, index: int) -> QSize:
        bold = QFontMetrics(font(SMALL, bold=True))
        return QSize(bold.horizontalAdvance(self.tabText(index)) + 12, bold.lineSpacing() + 9)

    def minimumTabSizeHint(self, index: int) -> QSize:
        return self.tabSizeHint(index)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, colors = QPainter(self), self.palette()
        for index in range(self.count()):
            area, current = self.tabRect(index), index == self.currentIndex()
            painter.setFont(font(SMALL, bold=current))
            painter.setPen(QPen(colors.windowText().color() if current else colors.placeholderText().color(), 2.0))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, self.tabText(index))
            if current and self.hasFocus():
                painter.drawRect(area.adjusted(1, 1, -1, -1))
            elif current:
                painter.drawLine(area.left() + 4, area.bottom(), area.right() - 4, area.bottom())
        painter.end()


_ENTER = frozenset({Qt.Key.Key_Return, Qt.Key.Key_Enter})
_PRESS = _ENTER | {Qt.Key.Key_Space, Qt.Key.Key_Select}
_ARROWS = frozenset({Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right})
_CHOOSE = _PRESS | {Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_End}
_OWN = (  # the keys of each kind of control
    (QComboBox, _CHOOSE), (QLineEdit, _ENTER), (QAbstractSpinBox, _CHOOSE), (QTabBar, _ARROWS), (QSlider, _ARROWS),
    (QAbstractButton, _PRESS),
)  # fmt: skip


class _OwnKeys(QObject):
    """Gives a control the keys that it needs, before the shortcuts of the view around it."""

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent):
            return False
        own = next((keys for kind, keys in _OWN if isinstance(watched, kind)), _PRESS)
        if isinstance(watched, QAbstractButton) and watched.autoExclusive():
            own |= _ARROWS
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
    for kind, _ in _OWN:
        for control in area.findChildren(kind):
            control.removeEventFilter(watcher)
            control.installEventFilter(watcher)
