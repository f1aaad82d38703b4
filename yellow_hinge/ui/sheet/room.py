"""The Sheet room: its handle, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.sheet.working import SheetRoom


def make(shell: Shell) -> SheetRoom:
    """The room."""
    from yellow_hinge.ui.sheet.view import SheetView  # loaded when it is first looked at
    from yellow_hinge.ui.sheet.working import SheetRoom

    view, preferences = SheetView(shell.look.theme), shell.preferences
    asked = preferences.settings.sheet
    made = SheetRoom(shell.desk, view, asked, lambda ask: preferences.put(sheet=ask), shell.listening)
    made.menu = lambda at: shell.things.open("sheet", at)
    view.canvas.asked.connect(shell.things.open)
    view.stage.clicked.connect(shell.actions["stage"].trigger)
    view.print_.clicked.connect(shell.actions["print_sheet"].trigger)
    view.export.clicked.connect(shell.actions["export_sheet"].trigger)
    return made


TIP = "What lies on the stand: both hands, staves, symbols, twelve keys"
SHEET: Handle[SheetRoom] = Handle("sheet", "Sheet", "Ctrl+7", TIP, make, "strip")
