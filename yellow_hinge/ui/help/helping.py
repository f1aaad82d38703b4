"""What the Help menu does; its window is made when it is first asked for."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

if TYPE_CHECKING:
    from yellow_hinge.ui.help.what import WhatIsThis
    from yellow_hinge.ui.help.window import HelpWindow


class Helping:
    """Help beside a window."""

    def __init__(self, window: QWidget) -> None:
        self.window_ = window
        self._shown: HelpWindow | None = None
        self._what: WhatIsThis | None = None

    @property
    def shown(self) -> HelpWindow:
        """The window of the help."""
        if self._shown is None:
            from yellow_hinge.ui.help.window import HelpWindow

            self._shown = HelpWindow(self.window_)
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
