"""How the Practice view is made."""

from __future__ import annotations

from yellow_hinge.io.songs.demo import demo_titles
from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.practice.view import PracticeView
from yellow_hinge.ui.practice.working import PracticeRoom


def make(room: Room) -> tuple[PracticeView, PracticeRoom]:
    """The view, and what it does."""
    made = PracticeView(room.theme)

    def caution() -> bool:
        """Whether the caution is still to be said; once for all."""
        fresh = not room.preferences.settings.cautioned
        room.preferences.put(cautioned=True)
        return fresh

    works = PracticeRoom(room.desk, made, room.live, room.listening, room.open_log, room.tell, room.ask_csv, caution)
    works.log.samples = demo_titles()
    room.live.also(works.partner.backend)
    return made, works
