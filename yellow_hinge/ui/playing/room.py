"""The Playing room: its handle, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint

from yellow_hinge.ui.commands import Thing
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.playing.working import PlayingRoom


def make(shell: Shell) -> PlayingRoom:
    """The room."""
    from yellow_hinge.ui.playing.view import PlayingView  # loaded when it is first looked at
    from yellow_hinge.ui.playing.working import PlayingRoom

    view = PlayingView(shell.desk, shell.listening, shell.look.theme)
    made = PlayingRoom(shell.desk, view, shell.listening, shell.preferences.forget_pattern, shell.ask_name)

    def ask(thing: Thing, at: QPoint) -> None:
        shell.things.open(thing, at, made.editing.ways() if thing == "stroke" else ())

    view.canvas.asked.connect(ask)
    made.menu = lambda at: ask("stroke" if view.canvas.hit is not None else "chord", at)
    return made


TIP = "How the hands are struck: patterns, fills, one bar in time"
PLAYING: Handle[PlayingRoom] = Handle("playing", "Playing", "Ctrl+5", TIP, make)
