"""Lists and menus that open over the window: while one is open the keys are its own."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QApplication, QComboBox, QStyledItemDelegate, QWidget

LEAST_ROWS = 5  # that are shown where there is hardly room
EDGE = 6  # pixels of a list's frame


class OwnKeys(QObject):
    """No shortcut of the window is heard while a list or menu is open."""

    def __init__(self, popup: QWidget) -> None:
        super().__init__(popup)
        popup.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        app = QApplication.instance()
        if watched is self.parent() and app is not None:
            if event.type() == QEvent.Type.Show:
                app.installEventFilter(self)  # only as long as it is open: every event goes through it
            elif event.type() == QEvent.Type.Hide:
                app.removeEventFilter(self)
        if event.type() == QEvent.Type.ShortcutOverride and QApplication.activePopupWidget() is not None:
            event.accept()  # it comes again as a key for the list
            return True
        return False


class ListBox(QComboBox):
    """A choice whose list is as long as the screen allows, in whole rows. The list itself, which costs more than all
    the rest, is made when it is first opened.
    """

    def __init__(self) -> None:
        super().__init__()
        self._keys: OwnKeys | None = None

    def showPopup(self) -> None:
        if self._keys is None:
            self.setItemDelegate(QStyledItemDelegate(self))  # which the style sheet gives its room
            self._keys = OwnKeys(self.view().window())
        room, top = self.screen().availableGeometry(), self.mapToGlobal(self.rect().topLeft()).y()
        space = max(room.bottom() - top - self.height(), top - room.top()) - EDGE
        self.setMaxVisibleItems(max(LEAST_ROWS, space // max(1, self.view().sizeHintForRow(0))))
        self.view().setMinimumWidth(self.view().sizeHintForColumn(0) + EDGE)
        super().showPopup()


def list_box(name: str, options: Iterable[tuple[object, str]], chosen: object = None) -> ListBox:
    """A choice with its name for those who do not see it: values with how they are called; the first where `chosen` is
    none of them.
    """
    box = ListBox()
    for value, text in options:
        box.addItem(text, value)
    box.setAccessibleName(name)
    box.setCurrentIndex(max(0, box.findData(chosen)))
    return box
