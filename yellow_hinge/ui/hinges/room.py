"""How the Hinges view is made, the home of the desk's keys."""

from __future__ import annotations

from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.parts.rooms import Room


def make(room: Room) -> tuple[HingesView, None]:
    """The view; its parts work by themselves."""
    return HingesView(room.desk, room.theme, room.listening), None
