"""The Playing room: its handle, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.playing.working import PlayingRoom


def make(shell: Shell) -> PlayingRoom:
    """The room."""
    from yellow_hinge.ui.playing.view import PlayingView  # loaded when it is first looked at
    from yellow_hinge.ui.playing.working import PlayingRoom

    view = PlayingView(shell.desk, shell.listening, shell.look.theme)
    return PlayingRoom(shell.desk, view, shell.listening, shell.preferences.forget_pattern, shell.ask_name)


TIP = "How the hands are struck: patterns, fills, one bar in time"
PLAYING: Handle[PlayingRoom] = Handle("playing", "Playing", "Ctrl+5", TIP, make)
