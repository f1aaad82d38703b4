"""What was just played at the keyboard becomes a take of the open song, or a song."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.practice.capture import Capture, Captured
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import as_asked
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.files.files import Files
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:  # loaded with the first performance
    from yellow_hinge.core.hearing.hear import Heard

NOTHING = "Nothing was played yet: play something, then take it."


class Hearing(QObject):
    """Remembers what is played, in every view, and hears it where the player asks for it."""

    def __init__(self, desk: Desk, window: QWidget, live: LiveKeys, files: Files, teller: Teller) -> None:
        super().__init__(window)
        self.desk, self.window_, self.files, self.teller = desk, window, files, teller
        self.capture = Capture(live.notes.clock)
        live.notes.listeners.append(self.capture.heard)

    def take_played(self) -> None:
        """Hear what was played last, and ask what is to become of it."""
        played = self.capture.played()
        if not played.tones:
            self.teller.say(NOTHING)
            return
        self._ask(played)

    def take_example(self) -> None:
        """Hear the simulated player play the open song."""
        from yellow_hinge.app.practice.performer import by_hand
        from yellow_hinge.core.performing import beat_seconds, performed

        solution, song = self.desk.solution, self.desk.song
        if solution is None:
            self.teller.say("The hands are still being found: a moment.")
            return
        quarter = beat_seconds(song.tempo) / float(song.meter.beat_quarters)
        rows = by_hand(performed(solution, song, self.desk.state.playing), quarter)
        self._ask(Captured([tone for tone, _ in rows], ()))

    def _ask(self, played: Captured) -> None:
        """Hear it, and ask what is to become of it."""
        from yellow_hinge.app.edits.heard import matched
        from yellow_hinge.core.hearing.hear import Asked, hear
        from yellow_hinge.ui.dialogs.heard_dialog import HeardDialog

        setup = as_asked(self.desk.state.setup, self.desk.song)
        asked = Asked(setup.player.hands, setup.bass == "theirs", about=float(self.desk.song.tempo))
        song = self.desk.song
        heard = self._heard(lambda: matched(hear(played.tones, asked, played.pedals), song, asked))
        dialog = HeardDialog(self.window_, heard, song, asked)
        dialog.exec()
        dialog.deleteLater()
        if dialog.wish == "take":
            self._keep(dialog.heard)
        elif dialog.wish == "song":
            self.as_song(dialog.heard)

    def _heard(self, listen: Callable[[], Heard]) -> Heard:
        """Hear beside the interface, with a sign of work after half a second."""
        from concurrent.futures import ThreadPoolExecutor

        from yellow_hinge.ui.dialogs import asking

        with ThreadPoolExecutor(1, thread_name_prefix="hearing") as pool:
            job = pool.submit(listen)
            asking.patiently(self.window_, "Hearing what you played", job.done, lambda: None)
            return job.result()

    def _keep(self, heard: Heard) -> None:
        """The hands that were played as a take, in one step."""
        from yellow_hinge.app.edits.heard import as_take, found_in

        place = found_in(heard, self.desk.song)
        if place is None:
            return
        try:
            state = as_take(self.desk.state, heard, place)
        except UserError as error:
            self.teller.say(str(error))
            return
        self.desk.document.do(Edit("keep what was played as a take", state))
        self.teller.say(f"Bars {place.first + 1} to {place.first + place.bars} are kept as you played them.")

    def as_song(self, heard: Heard) -> None:
        """What was heard as a new song."""
        from yellow_hinge.io.heard_song import heard_song

        if self.files.saving.may_leave():
            self.files.begin(heard_song(heard, "As played"))


# fmt: off
COMMANDS: Commands[Hearing] = Commands(Hearing, (
    Command("take_played", "Song", "Take what I just played…", ("Ctrl+Shift+J",),
            "Chords, hands and rhythm of what you played last, as a take or a song", lambda part: part.take_played()),
    Command("take_example", "Song", "Take an example of playing…", (),
            "Hear the simulated player play this song, a little early and late", lambda part: part.take_example()),
))
# fmt: on
