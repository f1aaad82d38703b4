"""The Swaps room: its handle, its commands, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.swaps.swapping import Swapping


def make(shell: Shell) -> Swapping:
    """The room."""
    from yellow_hinge.ui.swaps.swapping import Swapping  # loaded when it is first looked at
    from yellow_hinge.ui.swaps.view import SwapsView

    return Swapping(shell.desk, SwapsView(shell.look.theme), shell.keys, shell.ribbon, shell.listening)


SWAPS: Handle[Swapping] = Handle("swaps", "Swaps", "Ctrl+3", "Other chords, for one or the whole song", make)
COMMANDS: Commands[Swapping] = Commands(SWAPS, (
    Command("take_whole", "Chord", "Take the whole song", ("Ctrl+Return",), "Make the song what the Swaps view shows",
            lambda room: room.take_whole(), shows=True),
))  # fmt: skip
