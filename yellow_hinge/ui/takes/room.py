"""How the Takes view is made."""

from __future__ import annotations

from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.takes.view import TakesView
from yellow_hinge.ui.takes.working import TakesRoom


def make(room: Room) -> tuple[TakesView, TakesRoom]:
    """The view, and what it does."""
    made = TakesView(room.theme)
    works = TakesRoom(room.desk, made, room.listening, room.ask_name)
    made.export.clicked.connect(room.actions["export_mix"].trigger)
    return made, works
