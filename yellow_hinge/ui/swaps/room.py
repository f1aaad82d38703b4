"""How the Swaps view is made."""

from __future__ import annotations

from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.swaps.swapping import Swapping
from yellow_hinge.ui.swaps.view import SwapsView


def make(room: Room) -> tuple[SwapsView, Swapping]:
    """The view, and what it does."""
    made = SwapsView(room.theme)
    return made, Swapping(room.desk, made, room.keys, room.ribbon, room.listening)
