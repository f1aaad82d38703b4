"""The rooms of the window: what each is asked, the handle by which it is known, and the stack that shows one of them at
a time. A room is made when it is first shown, so that the window opens sooner.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Generic, Literal, Protocol, TypeVar

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from yellow_hinge.ui.commands import Area
from yellow_hinge.ui.paint.announcing import label_boxes
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.parts.views import View

if TYPE_CHECKING:
    from yellow_hinge.core.sheet.page import Page


class Room(Protocol):
    """A view and what works for it."""

    @property
    def view(self) -> Any:
        """What is shown: a widget that is told of the desk (see View)."""

    def step(self, by: int) -> None:
        """Go up or down what can be chosen."""

    def take(self) -> None:
        """Take what is under the cursor."""

    def leave(self) -> bool:
        """Drop what is tried; whether something was."""

    def put_down(self) -> None:
        """Another room is about to be shown."""

    def hear(self) -> bool:
        """Sound the selected chord as it is tried here; whether that was done."""

    def in_turn(self) -> bool:
        """Sound two ways in turn; whether there are two here."""

    def exchange(self) -> None:
        """Put the next best in the place of what is shown."""

    def shelve(self) -> bool:
        """Put what is shown on the player's shelf; whether the room has something of its own to put there."""

    def pages(self) -> tuple[Page, ...]:
        """What the room has to print, () for the song's sheet."""

    def close(self) -> None:
        """Stop what works beside the window."""

    def ask_menu(self, at: QPoint) -> None:
        """Open the menu of what is selected, at a point of the screen."""


class Quiet:
    """What a room does that is not asked more."""

    def step(self, by: int) -> None:
        """Nothing is chosen here."""

    def take(self) -> None:
        """Nothing is taken here."""

    def shelve(self) -> bool:
        """The hands are what goes on the shelf."""
        return False

    def pages(self) -> tuple[Page, ...]:
        """It has nothing of its own to print."""
        return ()

    def leave(self) -> bool:
        """Nothing is tried here."""
        return False

    def put_down(self) -> None:
        """Nothing is held here."""

    def hear(self) -> bool:
        """The chord is heard as it is played."""
        return False

    def in_turn(self) -> bool:
        """There are no two ways here."""
        return False

    def exchange(self) -> None:
        """Nothing comes next here."""

    def close(self) -> None:
        """Nothing works beside the window."""

    def ask_menu(self, at: QPoint) -> None:
        """Nothing has a menu here."""


R = TypeVar("R", bound=Room)


class Handle(Area, Generic[R]):
    """By which a room is known: its name, key and tip; `make` makes it of what the window gives. `keyboards`: how the
    two of the desk stand below it as long as the player says nothing: "whole", as a "strip", or "none". `id` is how
    settings remember it; `ahead`: it may be made before it is looked at, while nothing else is to be done.
    """

    def __init__(
        self, id_: str, title: str, key: str, tip: str, make: Callable[[Shell], R],
        keyboards: Literal["whole", "strip", "none"] = "whole", ahead: bool = True,
    ) -> None:  # fmt: skip
        self.id, self.title, self.key, self.tip, self.make, self.keyboards = id_, title, key, tip, make, keyboards
        self.ahead = ahead


class Rooms(QStackedWidget):
    """The rooms of a window; the first of them to be shown is made at once. `shown` tells which one is."""

    shown = Signal(object)

    def __init__(self, shell: Shell, handles: tuple[Handle[Any], ...], home: Handle[Any]) -> None:
        super().__init__()
        self._shell, self.handles, self.home = shell, handles, home
        self._made: dict[Handle[Any], Any] = {}
        self.now_handle = home
        self.room(home)
        shell.look.changed.connect(self._repaint)

    def room(self, handle: Handle[R]) -> R:
        """The room of a handle, made where it is not there yet."""
        if handle not in self._made:
            made = handle.make(self._shell)
            widget: QWidget = made.view
            label_boxes(widget)
            widget.addActions(self._shell.keys_of(handle))
            self._made[handle] = made
            self.addWidget(widget)
        found: R = self._made[handle]
        return found

    def make_next(self) -> bool:
        """Make a room that will be looked at; whether there was one."""
        coming = next((handle for handle in self.handles if handle.ahead and handle not in self._made), None)
        if coming is not None:
            self.room(coming)
        return coming is not None

    @property
    def now(self) -> Room:
        """The room that is shown."""
        found: Room = self.room(self.now_handle)
        return found

    def show_room(self, handle: Handle[Any]) -> None:
        """Show a room; what was tried in the one before is dropped."""
        self.now.put_down()
        room = self.room(handle)
        self.now_handle = handle
        self.setCurrentWidget(room.view)
        self.shown.emit(handle)
        room.view.setFocus(Qt.FocusReason.OtherFocusReason)

    def at(self, handle: Handle[R]) -> R:
        """The room of a handle, shown."""
        if self.now_handle is not handle:
            self.show_room(handle)
        return self.room(handle)

    def named(self, id_: str) -> Handle[Any]:
        """The handle of an id; the home's for one that is not known."""
        return next((handle for handle in self.handles if handle.id == id_), self.home)

    def views(self) -> list[View]:
        """The views that there are by now."""
        return [room.view for room in self._made.values()]

    def _repaint(self, theme: Theme) -> None:
        for view in self.views():
            view.set_theme(theme)

    def close_rooms(self) -> None:
        """Stop what works for the rooms."""
        for room in self._made.values():
            room.close()
