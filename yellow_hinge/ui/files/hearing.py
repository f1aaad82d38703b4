"""What was just played at the keyboard becomes a take of the open song, or a song."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.desk.playing.own import new_id
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.practice.capture import Capture, Captured
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import as_asked
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.files.files import Files
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:  # loaded with the first performance
    from yellow_hinge.core.hearing.in_bars import Asked, Heard

AGAIN = "Play it again, then take it: what was played before is forgotten."
NOTHING = "Nothing was played yet: play something, then take it."


class Hearing(QObject):
    """Remembers what is played, in every view, and hears it where the player asks for it."""

    def __init__(
        self, desk: Desk, window: QWidget, live: LiveKeys, files: Files, teller: Teller, listening: Listening
    ) -> None:
        super().__init__(window)
        self.desk, self.window_, self.files, self.teller = desk, window, files, teller
        self.listening = listening
        self._offered: State | None = None  # what was kept, whose hinges are not known yet
        desk.listeners.append(self._told)
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
        from yellow_hinge.core.hearing.hear import hear
        from yellow_hinge.core.hearing.in_bars import Asked
        from yellow_hinge.ui.dialogs.heard_dialog import HeardDialog

        setup = as_asked(self.desk.state.setup, self.desk.song)
        asked = Asked(setup.player.hands, setup.bass == "theirs", about=float(self.desk.song.tempo))
        song = self.desk.song

        def listen(asked: Asked) -> Heard:
            return self._heard(lambda: matched(hear(played.tones, asked, played.pedals), song, asked))

        dialog = HeardDialog(self.window_, listen(asked), song, asked, listen)
        dialog.heard_.connect(lambda _: self._replay(dialog.heard))
        dialog.again.connect(lambda: self._replay(dialog.heard))
        self._replay(dialog.heard)
        dialog.exec()
        dialog.deleteLater()
        self.listening.player.stop()
        if dialog.wish == "take":
            self._keep(dialog.heard)
        elif dialog.wish == "song":
            self.as_song(dialog.heard, dialog.sung.isChecked())
        elif dialog.wish == "again":
            self.capture.forget()
            self.teller.say(AGAIN)

    def _replay(self, heard: Heard) -> None:
        """Sound what was played over the beats that were heard."""
        from yellow_hinge.sound.replay import replayed

        self.listening.stop()
        self.listening.player.play(replayed(heard), follow=False)

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
            state = as_take(self.desk.state, heard, place, new_id())
        except UserError as error:
            self.teller.say(str(error))
            return
        self.desk.document.do(Edit("keep what was played as a take", state))
        self._kept(f"Bars {place.first + 1} to {place.first + place.bars} are kept as you played them.")

    def _kept(self, words: str) -> None:
        """Say what is kept; once its hinges are known, offer to improve the stiff ones."""
        self.teller.say(words)
        self._offered = self.desk.state
        self._told(Event.SOLUTION)

    def _told(self, what: Event) -> None:
        from yellow_hinge.app.edits.heard import stiff_kept
        from yellow_hinge.app.edits.own_hands import improving

        desk, solution = self.desk, self.desk.solution
        if what != Event.SOLUTION or self._offered is None or solution is None or not desk.answers.holds(desk.state):
            return
        offered, self._offered = self._offered, None
        stiff = stiff_kept(desk.state, solution) if desk.state is offered else frozenset()
        if stiff:
            count = f"{len(stiff)} hinge{' is' if len(stiff) == 1 else 's are'}"

            def improve() -> None:
                desk.put_keeps("improve the stiff hinges", improving(desk.state, solution, stiff).keeps)

            self.teller.news.tell(
                f"{count} stiff in what you played. Improve only {'it' if len(stiff) == 1 else 'these'}?",
                {"Improve": improve, "Leave it": lambda: None},
            )

    def enter_played(self) -> None:
        """Keep the hands that were just played, in time or not, at the marked chords or from the selected one on."""
        from yellow_hinge.app.edits.asking import with_keep
        from yellow_hinge.app.edits.heard import in_order

        desk, solution, played = self.desk, self.desk.solution, self.capture.played()
        if not played.tones or solution is None or not solution.voicings:
            self.teller.say(NOTHING)
            return
        marked = desk.selection.marked
        first, last = (marked[0], marked[-1]) if marked else (desk.selection.index, len(solution.voicings) - 1)
        hands = as_asked(desk.state.setup, desk.song).player.hands
        keeps = in_order(played.tones, hands, desk.song, first, last)
        if not keeps:
            self.teller.say("What you played is not these chords: go to the first of them, or mark them.")
            return
        state = desk.state
        for keep in keeps:
            state = with_keep(state, keep)
        desk.document.do(Edit("enter my hands by playing", state))
        self.capture.forget()
        self._kept(f"{len(keeps)} chord{'' if len(keeps) == 1 else 's'} kept as you played them.")

    def as_song(self, heard: Heard, sung: bool = False) -> None:
        """What was heard as a new song; `sung`: with the upper line as its tune."""
        from yellow_hinge.io.heard_song import heard_song

        if self.files.saving.may_leave():
            self.files.begin(heard_song(heard, "As played", sung))


# fmt: off
COMMANDS: Commands[Hearing] = Commands(Hearing, (
    Command("take_played", "Song", "Take what I just played…", ("Ctrl+Shift+J",),
            "Chords, hands and rhythm of what you played last, as a take or a song", lambda part: part.take_played()),
    Command("enter_played", "Keep", "Enter what I just played", ("Shift+E",),
            "Keep the hands you played through, in time or not, from this chord on", lambda part: part.enter_played()),
    Command("take_example", "Song", "Take an example of playing…", (),
            "Hear the simulated player play this song, a little early and late", lambda part: part.take_example()),
))
# fmt: on
