"""The hands that an opened song remembers, beside those of today's prices: said once, shown, taken as one edit."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.asking import with_new_hands
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.solving.memory import NewHands, NewHandsFinder
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.core.takes.known import holds
from yellow_hinge.ui.parts.telling import Teller


class Knowing(QObject):
    """Asks once for every song that is opened, or take that is shown for the first time."""

    _came = Signal(object)

    def __init__(self, desk: Desk, window: QWidget, teller: Teller) -> None:
        super().__init__(window)
        self.desk, self.window_, self.teller = desk, window, teller
        self.finder = NewHandsFinder(self._came.emit, "new hands")
        self._came.connect(self._answered)

    def look(self) -> None:
        """A song was opened."""
        if holds(self.desk.state):
            self.finder.ask(self.desk.state)

    def _answered(self, found: NewHands | Bug | None) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found is None or found.number != self.finder.asked or found.state.question != self.desk.state.question:
            return
        act: dict[str, Callable[[], object]] = {
            "Show": lambda: self.show(found), "Take them": self.take, "Keep what I know": lambda: None,
        }  # fmt: skip
        self.teller.news.tell(found.words, act)

    def show(self, found: NewHands) -> None:
        """Both chord by chord, to choose."""
        from yellow_hinge.ui.dialogs.hands_beside import HandsBeside  # seldom needed

        if HandsBeside(found.words, found.rows, self.window_).exec():
            self.take()

    def take(self) -> None:
        """The hands of today's prices, as one step of undo."""
        state = with_new_hands(self.desk.state)
        if state != self.desk.state:
            self.desk.document.do(Edit("take the new hands", state))
            self.teller.say("These are the new hands. Undo brings back those you know.")

    def close(self) -> None:
        """Stop working."""
        self.finder.close()
