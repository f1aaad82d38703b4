"""The right button and the Menu key: what can be done with the chord, hinge, note or whatever is pointed at, out of the
table of commands.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QMenu, QWidget

from yellow_hinge.ui.commands import Actions, Command, Thing
from yellow_hinge.ui.paint.popups import OwnKeys

Own = tuple[str, Callable[[], object]]  # an entry that is no command: its words, and what it does


HEADING = "heading"  # the data of an entry that only says where its commands are found


class ThingMenus:
    """Makes and opens them; one is open at a time."""

    def __init__(self, window: QWidget, actions: Actions, table: tuple[Command[Any], ...]) -> None:
        self._window, self._actions, self._table = window, actions, table
        self.menu: QMenu | None = None  # the one that was opened last

    def commands(self, thing: Thing) -> list[Command[Any]]:
        """What can be done with a kind of thing, in the order of the menus."""
        return [command for command in self._table if thing in command.on]

    def open(self, thing: Thing, at: QPoint, own: Iterable[Own] = ()) -> None:
        """Open the menu of a thing at a point of the screen; `own` entries come first."""
        if self.menu is not None:
            self.menu.deleteLater()
        self.menu = menu = QMenu(self._window)
        OwnKeys(menu)
        for words, do in own:
            menu.addAction(words).triggered.connect(lambda _=False, do=do: do())
        before = ""
        for command in self.commands(thing):
            if before != command.menu:
                menu.addSeparator()
                heading = menu.addAction(command.menu)  # such as Keep, which says what is meant by "the left hand"
                heading.setEnabled(False)
                heading.setData(HEADING)
            before = command.menu
            menu.addAction(self._actions[command.id])
        if not menu.isEmpty():
            menu.popup(at)
