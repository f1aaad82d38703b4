"""The Takes room: its handle, its commands, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.takes.working import TakesRoom


def make(shell: Shell) -> TakesRoom:
    """The room."""
    from yellow_hinge.ui.takes.view import TakesView  # loaded when it is first looked at
    from yellow_hinge.ui.takes.working import TakesRoom

    made = TakesRoom(shell.desk, TakesView(shell.look.theme), shell.listening, shell.ask_name)
    canvas, cells = made.view.canvas, made.view.cells
    canvas.asked.connect(shell.things.open)
    canvas.named.connect(lambda _, area: made.rename_in(canvas, area))
    cells.asked.connect(lambda at: shell.things.open("cell", at, made.mix.cell_ways()))
    made.menu = lambda at: shell.things.open("take", at)
    made.view.export.clicked.connect(shell.actions["export_mix"].trigger)
    return made


TAKES: Handle[TakesRoom] = Handle("takes", "Takes", "Ctrl+4", "Versions of the song, and a mix of them", make, "strip")

# fmt: off
COMMANDS: Commands[TakesRoom] = Commands(TAKES, (
    Command("take_new", "Takes", "New take", ("Ctrl+T",), "A copy of this take, to go another way",
            lambda room: room.do("new"), shows=True, on=("take",)),
    Command("take_three", "Takes", "Three takes for me", (), "A plain, a coloured and a high take made from this one",
            lambda room: room.do("three"), shows=True, on=("take",)),
    Command("take_rename", "Takes", "Rename this take…", ("F2",), "Call the take something",
            lambda room: room.do("rename"), shows=True, on=("take",)),
    Command("take_delete", "Takes", "Delete this take", (), "Take it away; undo brings it back",
            lambda room: room.do("delete"), shows=True, on=("take",)),
    Command("take_up", "Takes", "This take one up", ("Ctrl+Up",), "Change places with the take above",
            lambda room: room.do("up"), shows=True, on=("take",)),
    Command("take_down", "Takes", "This take one down", ("Ctrl+Down",), "Change places with the take below",
            lambda room: room.do("down"), shows=True, on=("take",)),
    Command("take_compare", "Takes", "Compare", (), "This take and the one above, chord by chord",
            lambda room: room.compare(), shows=True, on=("take",)),
    Command("play_mix", "Takes", "Play the mix", ("Ctrl+Shift+P",), "Play the mix, or stop",
            lambda room: room.mix.play_mix(), shows=True, on=("cell",)),
))
# fmt: on
