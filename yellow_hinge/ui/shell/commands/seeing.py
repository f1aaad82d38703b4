"""What of the window is seen, and how: the keyboards, simple names, light and dark, large text."""

from __future__ import annotations

from typing import Any

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Rooms
from yellow_hinge.ui.parts.shell import Shell


class Seeing:
    """The commands of the View menu that belong to no room, and the ticks beside them."""

    def __init__(self, shell: Shell, rooms: Rooms) -> None:
        self.shell, self.rooms, self.preferences = shell, rooms, shell.preferences
        rooms.shown.connect(lambda _: self.refresh())
        self.refresh()

    def refresh(self) -> None:
        """Show the keyboards where the room has them, and what is ticked."""
        settings, actions = self.preferences.settings, self.shell.actions
        self.shell.keys.setVisible(not settings.keys_folded and self.rooms.now_handle.keyboards)
        for name, on in (
            ("fold_keys", not settings.keys_folded), ("simple", settings.simple_names),
            ("large_text", settings.large_text),
        ):  # fmt: skip
            actions[name].setChecked(on)

    def _turn(self, name: str) -> Any:
        on = not getattr(self.preferences.settings, name)
        self.preferences.put(**{name: on})
        self.refresh()
        return on

    def fold_keys(self) -> None:
        """Show or hide the two keyboards."""
        self._turn("keys_folded")

    def large_text(self) -> None:
        """Larger text from the next start."""
        self.shell.teller.say(f"{'Larger' if self._turn('large_text') else 'Usual'} text from the next start.")

    def simple_names(self) -> None:
        """Say B and F, or Cb and E#."""
        self.shell.desk.say_simply(self._turn("simple_names"))


# fmt: off
COMMANDS: Commands[Seeing] = Commands(Seeing, (
    Command("fold_keys", "View", "Show the keyboards", ("Ctrl+J",), "Fold the two keyboards away",
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
