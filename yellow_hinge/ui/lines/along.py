"""Playing along over the chords of a line: the hands sound round and round, and every landing is landed or missed."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence

from PySide6.QtCore import QObject, QTimer

from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.core.lines.landed import NEAR, Goal, landed
from yellow_hinge.core.lines.onsets import Over
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.ui.lines.view import LinesView
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

TICK_MS = 60


class PlayAlong(QObject):
    """Judges the player's keys while the hands sound; `clock` gives seconds of a steady clock."""

    def __init__(
        self, view: LinesView, listening: Listening, live: LiveKeys, clock: Callable[[], float] = time.monotonic
    ) -> None:
        super().__init__(view)
        self.view, self.listening, self.clock = view, listening, clock
        self._chords: Sequence[Over] = ()
        self._first, self._round = 0, 0
        self._presses: list[tuple[float, int]] = []
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.look)
        live.notes.listeners.append(self.heard)

    @property
    def on(self) -> bool:
        """Whether somebody plays along."""
        return self._timer.isActive()

    def begin(self, chords: Sequence[Over], first: int, last: int) -> None:
        """Sound the chords `first` to `last` of the song round and round, after a bar of clicks."""
        self._chords, self._first, self._round = chords, first, 0
        self._presses.clear()
        self.listening.under_line(first, last)
        self.view.told.setText("After the count: land on one of the notes in outline with every chord.")
        self._timer.start()

    def stop(self) -> None:
        """Judge no more."""
        self._timer.stop()
        self.view.canvas.show_marks({})

    def heard(self, event: NoteEvent) -> None:
        """A key of any keyboard."""
        if self.on and event.kind == "press":
            self._presses.append((event.at, event.midi))

    def _goals(self, begun: float, number: int) -> list[Goal]:
        """What is landed on in a round, in seconds of the clock."""
        score = self.listening.player.score
        assert score is not None
        back = score.back or 0
        passed = number * (score.length - back) / RATE
        found = []
        for frame, place in score.places:
            over = self._chords[place - self._first]
            assert over.moment.chord is not None
            root = over.moment.chord.root.pc
            pcs = frozenset((root + degree_pc(degree)) % 12 for degree in over.land_on)
            found.append(Goal(begun + (frame - back) / RATE + passed, pcs))
        return found

    def look(self) -> None:
        """Mark what is over by now."""
        score, player = self.listening.player.score, self.listening.player
        if score is None:  # it was stopped
            self.view.along.setChecked(False)
            return
        begun = player.heard_at(score.back or 0)
        if begun is None:
            return
        now, length = self.clock(), (score.length - (score.back or 0)) / RATE
        self._round = max(0, int((now - begun - NEAR) // length))
        goals = self._goals(begun, self._round)
        over = [n for n, goal in enumerate(goals) if goal.at + NEAR < now]
        right = landed(goals, self._presses)
        self.view.canvas.show_marks({n: right[n] for n in over})
        if over:
            count = sum(right[n] for n in over)
            self.view.told.setText(
                f"Round {self._round + 1}: {count} of {len(over)} landed, {len(over) - count} missed"
            )
