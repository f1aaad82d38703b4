"""How the Sheet view is made."""

from __future__ import annotations

from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.sheet.view import SheetView
from yellow_hinge.ui.sheet.working import SheetRoom


def make(room: Room) -> tuple[SheetView, SheetRoom]:
    """The view, and what it does."""
    made = SheetView(room.theme)
    preferences = room.preferences
    asked = preferences.settings.sheet
    works = SheetRoom(room.desk, made, asked, lambda ask: preferences.put(sheet=ask), room.listening)
    made.print_.clicked.connect(room.actions["print_sheet"].trigger)
    made.export.clicked.connect(room.actions["export_sheet"].trigger)
    return made, works
