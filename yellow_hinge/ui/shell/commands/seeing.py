"""What of the window is seen, and how: the keyboards, simple names, light and dark, large text."""

from __future__ import annotations

from typing import Any

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Rooms
from yellow_hinge.ui.parts.shell import Shell

VERY_LOW = 640  # pixels of a window in which the keyboards would take the view's room


class Seeing:
    """The commands of the View menu that belong to no room, and the ticks beside them."""

    def __init__(self, shell: Shell, rooms: Rooms) -> None:
        self.shell, self.rooms, self.preferences = shell, rooms, shell.preferences
        self._low = False
        rooms.shown.connect(lambda _: self.refresh())
        self.refresh()

    def refresh(self) -> None:
        """Show the keyboards where the room has them, and what is ticked."""
        settings, actions = self.preferences.settings, self.shell.actions
        here = self.rooms.now_handle
        self.shell.keys.setVisible(here.keyboards != "none")
        self.shell.keys.fold(not self.whole)
        for name, on in (
            ("fold_keys", self.whole), ("simple", settings.simple_names),
            ("large_text", settings.large_text),
        ):  # fmt: skip
            actions[name].setChecked(on)

    def _turn(self, name: str) -> Any:
        on = not getattr(self.preferences.settings, name)
        self.preferences.put(**{name: on})
        self.refresh()
        return on

    @property
    def whole(self) -> bool:
        """Whether the two keyboards are shown whole in the room that is shown: as the player chose, or as is usual."""
        here = self.rooms.now_handle
        return self.preferences.settings.keyboards.get(here.id, here.keyboards == "whole" and not self._low)

    def fit(self, height: int) -> None:
        """In a very low window the keyboards are folded where the player said nothing."""
        low = height < VERY_LOW
        if low != self._low:
            self._low = low
            self.refresh()

    def fold_keys(self) -> None:
        """Show the two keyboards whole in this room, or fold them to a strip."""
        self.preferences.put(
            keyboards={**self.preferences.settings.keyboards, self.rooms.now_handle.id: not self.whole}
        )
        self.refresh()

    def large_text(self) -> None:
        """Larger text, or text as usual."""
        self.shell.look.enlarge(self._turn("large_text"))

    def simple_names(self) -> None:
        """Say B and F, or Cb and E#."""
        self.shell.desk.say_simply(self._turn("simple_names"))


# fmt: off
COMMANDS: Commands[Seeing] = Commands(Seeing, (
    Command("fold_keys", "View", "Show the keyboards", ("Ctrl+J",), "Whole in this view, or folded to a strip",
            lambda seeing: seeing.fold_keys(), checkable=True),
    Command("simple", "View", "Simple note names", (), "Say B and F where theory says Cb and E#",
            lambda seeing: seeing.simple_names(), checkable=True),
    Command("light", "View", "Light", (), "Light colours", lambda seeing: seeing.shell.look.choose("light")),
    Command("dark", "View", "Dark", (), "Dark colours", lambda seeing: seeing.shell.look.choose("dark")),
    Command("system", "View", "Colours of the system", (), "Follow the system's colours",
            lambda seeing: seeing.shell.look.choose("system")),
    Command("large_text", "View", "Large text", (), "Text a quarter larger",
            lambda seeing: seeing.large_text(), checkable=True),
))
# fmt: on
