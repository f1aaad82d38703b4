"""The Lines room: its handle, its commands, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.lines.working import LinesRoom


def make(shell: Shell) -> LinesRoom:
    """The room."""
    from yellow_hinge.ui.lines.view import LinesView  # loaded when it is first looked at
    from yellow_hinge.ui.lines.working import LinesRoom

    return LinesRoom(shell.desk, LinesView(shell.look.theme), shell.listening)


TIP = "What the right hand plays over it: scales, landing notes, lines"
LINES: Handle[LinesRoom] = Handle("lines", "Lines", "Ctrl+6", TIP, make, "strip")

# fmt: off
COMMANDS: Commands[LinesRoom] = Commands(LINES, (
    Command("line_tune", "Chord", "The line as the tune", (), "The line that is shown becomes the song's tune there",
            lambda room: room.take(), (LINES,)),
    Command("line_bare", "Chord", "Landings only", (), "Hide every note of the line but those to land on, or show them",
            lambda room: room.view.bare.toggle(), (LINES,)),
))
# fmt: on
