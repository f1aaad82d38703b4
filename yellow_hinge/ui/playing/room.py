"""How the Playing view is made."""

from __future__ import annotations

from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.playing.view import PlayingView
from yellow_hinge.ui.playing.working import PlayingRoom


def make(room: Room) -> tuple[PlayingView, PlayingRoom]:
    """The view, and what it does."""
    made = PlayingView(room.desk, room.listening, room.theme)
    return made, PlayingRoom(room.desk, made, room.listening, room.preferences.forget_pattern, room.ask_name)
