"""What the desk tells, and to whom."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum


class Event(StrEnum):
    """What changed on the desk: another song lies there, letters (before they are read), the state, the solution, the
    selected chord, the mark, an edit that could not be done, how notes are named, or the player's own data.
    """

    OPENED = "opened"
    TYPING = "typing"
    STATE = "state"
    SOLUTION = "solution"
    SELECTION = "selection"
    MARK = "mark"
    FAULT = "fault"
    NAMES = "names"
    OWN = "own"


class Hub:
    """Those who listen to the desk, in the order in which they hear of it."""

    def __init__(self) -> None:
        self.listeners: list[Callable[[Event], None]] = []

    def tell(self, what: Event) -> None:
        """Tell every listener what changed."""
        for listener in self.listeners:
            listener(what)
