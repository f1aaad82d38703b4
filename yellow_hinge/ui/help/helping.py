"""What the Help menu does; its window is made when it is first asked for."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.commands import Command, Commands

if TYPE_CHECKING:
    from yellow_hinge.ui.help.what import WhatIsThis
    from yellow_hinge.ui.help.window import HelpWindow


class Helping:
    """Help beside a window."""

    def __init__(self, window: QWidget, table: tuple[Command[Any], ...]) -> None:
        self.window_, self._table = window, table
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
    Command("what_is", "Help", "What is this?", ("Shift+F1",), "What the control is that has the keys",
            lambda helping: helping.tell()),
    Command("what_is_there", "Help", "What is this? By pointing", (), "Click on anything to read what it is",
            lambda helping: helping.point()),
))
# fmt: on
