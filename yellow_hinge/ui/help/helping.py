"""What the Help menu does; its window is made when it is first asked for."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QWidget

from yellow_hinge import __version__
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.help.pages import NEWS
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.telling import GOOD, Teller
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:
    from yellow_hinge.ui.help.what import WhatIsThis
    from yellow_hinge.ui.help.window import HelpWindow


class Helping:
    """Help beside a window."""

    def __init__(
        self, window: QWidget, table: tuple[Command[Any], ...], preferences: Preferences, teller: Teller,
        listening: Listening, live: LiveKeys,
    ) -> None:  # fmt: skip
        self.window_, self._table = window, table
        self._preferences, self._teller, self._listening, self._live = preferences, teller, listening, live
        self._shown: HelpWindow | None = None
        self._what: WhatIsThis | None = None

    @property
    def shown(self) -> HelpWindow:
        """The window of the help."""
        if self._shown is None:
            from yellow_hinge.ui.help.window import HelpWindow

            self._shown = HelpWindow(self.window_, self._table)
        return self._shown

    @property
    def what(self) -> WhatIsThis:
        """What tells of any control."""
        if self._what is None:
            from yellow_hinge.ui.help.what import WhatIsThis

            self._what = WhatIsThis(self.window_)
        return self._what

    def open(self, book: str) -> None:
        """Show a book of the help."""
        self.shown.open_at(book)

    def look(self) -> None:
        """Say once that this version of the program is a new one, to those who used another."""
        settings = self._preferences.settings
        if settings.seen != __version__:
            if settings.seen or settings.recent:
                words = f"This is Yellow Hinge {__version__}."
                self._teller.news.tell(words, {NEWS: lambda: self.open(NEWS), **GOOD})
            self._preferences.put(seen=__version__)

    def copy_report(self) -> None:
        """Put what a report of a fault needs onto the clipboard."""
        from yellow_hinge.ui.help.report import report

        player = self._listening.player
        text = report(self.window_, self._preferences.settings, self._live, player.available)
        QGuiApplication.clipboard().setText(text)
        self._teller.say("What a report of a fault needs is on the clipboard: paste it, and say what you did.")

    def tell(self) -> None:
        """Tell what the control is that has the keys."""
        self.what.tell(self.window_.focusWidget())

    def point(self) -> None:
        """Tell what is clicked next."""
        self.what.point()


# fmt: off
COMMANDS: Commands[Helping] = Commands(Helping, (
    Command("help", "Help", "Guide", ("F1",), "How everything works, to read and to search",
            lambda helping: helping.open("Guide")),
    Command("help_keys", "Help", "Keys", ("Ctrl+F1",), "Every key and every command",
            lambda helping: helping.open("Keys")),
    Command("help_words", "Help", "Words", (), "What hinge, way, keep, take and the other words mean",
            lambda helping: helping.open("Words")),
    Command("help_news", "Help", "What is new", (), "What the versions of the program brought",
            lambda helping: helping.open(NEWS)),
    Command("help_report", "Help", "Copy a report of a fault", (), "Versions, screen, sound: nothing private",
            lambda helping: helping.copy_report()),
    Command("what_is", "Help", "What is this?", ("Shift+F1",), "What the control is that has the keys",
            lambda helping: helping.tell()),
    Command("what_is_there", "Help", "What is this? By pointing", (), "Click on anything to read what it is",
            lambda helping: helping.point()),
))
# fmt: on
