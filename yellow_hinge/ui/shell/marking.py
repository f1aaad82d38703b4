"""The mark as the window shows it: on ribbon, map and chart, and in words."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.looking import Event
from yellow_hinge.app.desk.marked import mark_words


class Marking(QObject):
    """Hears of the mark and shows it wherever `show` is called for."""

    def __init__(self, desk: Desk, parent: QObject, show: Callable[[], None], say: Callable[[str], None]) -> None:
        super().__init__(parent)
        self.desk, self._show, self._say = desk, show, say
        desk.listeners.append(self._on_desk)

    def _on_desk(self, what: Event) -> None:
        if what == Event.SOLUTION and self.desk.mark is not None:
            self._show()
        elif what == Event.MARK:
            self._show()
            self._say(self.words())

    def words(self) -> str:
        """What is marked, and what can be done with it."""
        marked, solution = self.desk.marked, self.desk.solution
        if not marked or solution is None:
            return "Nothing is marked any more."
        words = mark_words(self.desk.solved_state.song, solution, marked)
        return f"Marked: {words}. G plays it round and round, Escape lets it go."
