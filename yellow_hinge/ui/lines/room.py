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

    return LinesRoom(shell, LinesView(shell.look.theme))


TIP = "What the right hand plays over it: scales, landing notes, lines"
LINES: Handle[LinesRoom] = Handle("lines", "Lines", "Ctrl+6", TIP, make, "strip")

# fmt: off
COMMANDS: Commands[LinesRoom] = Commands(LINES, (
    Command("line_tune", "Chord", "The line as the tune", (), "The line that is shown becomes the song's tune there",
            lambda room: room.as_tune(), (LINES,)),
    Command("line_drop", "Chord", "Keep no line here", ("Delete",), "The line that is kept over these chords is let go",
            lambda room: room.drop(), (LINES,)),
    Command("line_note", "Chord", "Next note of the line", ("N",), "Choose the next note of the line, for moving it",
            lambda room: room.next_note(1), (LINES,)),
    Command("line_note_back", "Chord", "Note before, of the line", ("Shift+N",), "Choose the note before it",
            lambda room: room.next_note(-1), (LINES,)),
    Command("line_note_up", "Chord", "Line's note up", ("Shift+Up",), "Hold it a half step higher",
            lambda room: room.move_note(1), (LINES,)),
    Command("line_note_down", "Chord", "Line's note down", ("Shift+Down",), "Hold it a half step lower",
            lambda room: room.move_note(-1), (LINES,)),
    Command("line_hold", "Chord", "Hold the line's note", ("H",), "The chosen note stays, the rest is found around it",
            lambda room: room.move_note(0), (LINES,)),
    Command("line_drill", "Chord", "Round the keys with the line", ("Shift+R",), "A line of mine, note by note",
            lambda room: room.shelf.drill(), (LINES,)),
    Command("line_unshelve", "Chord", "The line off my shelf", ("Shift+Delete",), "A line of mine goes, not its file",
            lambda room: room.shelf.take_off(), (LINES,)),
    Command("line_along", "Listen", "Play along", (), "The hands go round; every landing is landed or missed",
            lambda room: room.view.along.toggle(), (LINES,)),
    Command("line_bare", "Chord", "Landings only", (), "Hide every note of the line but those to land on, or show them",
            lambda room: room.view.bare.toggle(), (LINES,)),
))
# fmt: on
