"""The views of this window by name, each made with what it needs when it is first shown."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.paint.announcing import label_boxes
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.ribbon import Ribbon
from yellow_hinge.ui.parts.views import HOME, VIEW, VIEWS, Views
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:
    from yellow_hinge.app.practice.log import PracticeLog


class Room(NamedTuple):
    """What a view may use of the window."""

    desk: Desk
    theme: Theme
    actions: dict[str, QAction]
    keys: KeysPanel
    ribbon: Ribbon
    listening: Listening
    preferences: Preferences
    ask_name: Callable[[str, str], str]  # by a question and what is proposed
    tell: Callable[[str], None]  # something that must not be missed
    live: LiveKeys
    open_log: Callable[[], PracticeLog]
    ask_csv: Callable[[], Path | None]  # where a table is to be written


class Rooms(Views):
    """The views of the table; the home view, which holds the keys of the desk, is there from the start."""

    def __init__(self, room: Room, home: QWidget) -> None:
        super().__init__({view.id: partial(self._make, view.id) for view in VIEWS})
        self.room = room
        self._workers: dict[str, Any] = {}
        self._made[HOME] = home
        self.addWidget(home)

    def _make(self, name: str) -> QWidget:
        entry = VIEW[name]
        view, self._workers[name] = import_module(entry.module).make(self.room)
        made: QWidget = view
        label_boxes(made)
        made.addActions([self.room.actions[key] for key in entry.keys])
        return made

    def worker(self, name: str) -> Any:
        """What works for a view; None where it does all by itself."""
        self.view(name)
        return self._workers.get(name)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme; views that are made later begin with it."""
        self.room = self.room._replace(theme=theme)
        for view in self.made():
            view.set_theme(theme)

    def close_rooms(self) -> None:
        """Stop what works for the views."""
        for worker in self._workers.values():
            if worker is not None:
                worker.close()
