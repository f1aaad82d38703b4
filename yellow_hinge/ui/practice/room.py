"""The Practice room: its handle, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.io.songs.demo import demo_titles
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.practice.working import PracticeRoom


def make(shell: Shell) -> PracticeRoom:
    """The room."""
    from yellow_hinge.ui.practice.view import PracticeView  # loaded when it is first looked at
    from yellow_hinge.ui.practice.working import PracticeRoom

    def caution() -> bool:
        """Whether the caution is still to be said; once for all."""
        fresh = not shell.preferences.settings.cautioned
        shell.preferences.put(cautioned=True)
        return fresh

    view, tell = PracticeView(shell.look.theme), shell.teller.tell
    made = PracticeRoom(shell.desk, view, shell.live, shell.listening, shell.open_log, tell, shell.ask_csv, caution)
    made.log.samples = demo_titles()
    shell.live.also(made.partner.backend)
    return made


TIP = "Play it until the hands know it"
PRACTICE: Handle[PracticeRoom] = Handle("practice", "Practice", "Ctrl+8", TIP, make, keyboards="none")
