"""Questions that rooms ask of the player; their dialogs load when they are first needed."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.look import Look
from yellow_hinge.ui.parts.preferences import Preferences


class Asker:
    """Asks over a window."""

    def __init__(self, window: QWidget, desk: Desk, preferences: Preferences, look: Look) -> None:
        self.window_, self.desk, self.preferences, self.look = window, desk, preferences, look

    def hands(self) -> None:
        """The player's hands."""
        from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog

        dialog = HandsDialog(self.desk.state.setup, self.look.theme, self.window_)
        self.preferences.put(hands_offered=True)
        if dialog.exec():
            self.preferences.take_hands(dialog.hands, dialog.singer)

    def name(self, words: str, proposed: str) -> str:
        """A name for something, "" for none."""
        from yellow_hinge.ui.dialogs import asking

        return asking.name(self.window_, words, proposed)

    def folder(self) -> Path | None:
        """A folder of songs, None for none."""
        from yellow_hinge.ui.dialogs import asking

        return asking.folder(self.window_, "A folder of songs", self.preferences.settings.songbook)

    def file(self) -> Path | None:
        """A song's file, None for none."""
        from yellow_hinge.io.formats import open_kinds
        from yellow_hinge.ui.dialogs import asking

        name = asking.file_to_open(self.window_, self.preferences.settings.songbook, open_kinds())
        return Path(name) if name else None

    def which(self, words: str, values: Mapping[str, str]) -> str:
        """One of some values, by what each is called; "" for none."""
        from yellow_hinge.ui.dialogs import asking

        chosen = asking.choose(self.window_, words, list(values.values()))
        return next((value for value, name in values.items() if name == chosen), "")

    def about(self) -> None:
        """What the program is and whose work ships with it."""
        from yellow_hinge.ui.dialogs import asking

        asking.about(self.window_)


# fmt: off
COMMANDS: Commands[Asker] = Commands(Asker, (
    Command("hands", "Edit", "My hands…", ("Ctrl+H",), "Your reach, keyboard and the singer's register",
            lambda asker: asker.hands()),
    Command("about", "Help", "About and credits", (), "What ships with the program", lambda asker: asker.about()),
))
# fmt: on
