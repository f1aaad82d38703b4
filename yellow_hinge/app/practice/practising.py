"""A practice session: what is asked for now, what is pressed, what is kept of it. Clock and calendar are passed in."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from enum import Enum, auto
from typing import NamedTuple

from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.programmes import AskedChord, Programme
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.core.practice.marking import Attempt, Mark, begun
from yellow_hinge.core.practice.memory import reviewed

SESSION_MINUTES, REST_MINUTES = 10, 25
CAUTION = "Stop where it hurts. Pain that stays is for a doctor or physiotherapist."
REST = "25 minutes of practice: rest your hands for a while. " + CAUTION


class Told(Enum):
    """What a session tells: another chord is asked for, a key was judged, a chord was finished, or it ended."""

    ASKED = auto()
    JUDGED = auto()
    MARKED = auto()
    ENDED = auto()


class PractisedSong(NamedTuple):
    """What is practised, for the log: the song's identity, its title, the take, and the hands that play."""

    song: str
    title: str
    take: str
    hands: str


class Practising:
    """One session. `cards` is what is remembered of the song; `keep` gets every run with the card that it changed;
    `listener` hears Told; `limit` are the session's seconds, 0 for none; `simulated` whether the simulated player
    plays. The calendar's times are in the player's zone.
    """

    def __init__(
        self, piece: PractisedSong, programme: Programme, cards: dict[str, str], keep: Callable[[Run, str], None],
        clock: Callable[[], float], calendar: Callable[[], datetime], listener: Callable[[Told], None],
        limit: float = 60.0 * SESSION_MINUTES, simulated: Callable[[], bool] = lambda: False,
    ) -> None:  # fmt: skip
        self.piece, self.programme, self._keep_run = piece, programme, keep
        self._clock, self._calendar, self._tell = clock, calendar, listener
        self.started, self.limit, self._simulated = clock(), limit, simulated
        self._paused: float | None = None
        self.steps: tuple[AskedChord, ...] = ()
        self.at = 0
        self.attempt: Attempt | None = None
        self.marks: list[Mark] = []
        self.last: Mark | None = None
        self.right = self.wrong = 0
        self._task_right: dict[str, bool] = {}
        self._cards = dict(cards)
        self.over = False
        self._next_task(None)

    @property
    def step(self) -> AskedChord | None:
        """The chord that is asked for."""
        return self.steps[self.at] if not self.over and self.at < len(self.steps) else None

    @property
    def seconds_left(self) -> float:
        """Seconds until the session ends; endless where it has no limit."""
        now = self._clock() if self._paused is None else self._paused
        return self.limit - (now - self.started) if self.limit else float("inf")

    @property
    def paused(self) -> bool:
        """Whether the session waits."""
        return self._paused is not None

    def pause(self) -> None:
        """Wait: no time passes, no key is heard."""
        if self._paused is None and not self.over:
            self._paused = self._clock()

    def resume(self) -> None:
        """Go on with the same chord, asked for anew."""
        if self._paused is not None:
            self.started += self._clock() - self._paused
            self._paused = None
            if self.step is not None:
                self._ask(None)

    # --- what is pressed ---
    def heard(self, event: NoteEvent) -> None:
        """A key went down or up, or the pedal moved."""
        step, attempt = self.step, self.attempt
        if step is None or attempt is None or self.paused:
            return
        if event.kind == "press":
            if step.question is not None:
                self.answer(event.midi % 12, event.at)
                return
            self.attempt = attempt.pressed(event.midi, event.at)
        elif event.kind == "lift":
            self.attempt = attempt.lifted(event.midi)
        else:
            self.attempt = attempt.pedalled(bool(event.midi))
        self._tell(Told.JUDGED)
        if self.attempt.done:
            self._finish(self.attempt.mark(event.at))

    def answer(self, pc: int, at: float) -> None:
        """A bass was named or played: right, or another one, which is asked again later."""
        step, attempt = self.step, self.attempt
        if step is None or step.question is None or attempt is None:
            return
        wrong = () if pc == step.question.right.pc else (pc,)
        self._finish(Mark(max(0.0, at - attempt.since), (), wrong))

    def time_up(self) -> None:
        """The chord's time is over, where it is played in time: what is missing is missing."""
        if self.attempt is not None and self.step is not None:
            self._finish(self.attempt.mark(self._clock()))

    def skip(self) -> None:
        """Go on to the next task; nothing is logged."""
        if not self.over:
            self._next_task(self.attempt)

    def end(self) -> None:
        """End the session."""
        if not self.over:
            self.over = True
            self._tell(Told.ENDED)

    # --- going on ---
    def _finish(self, mark: Mark) -> None:
        step = self.step
        assert step is not None
        self.last = mark
        if step.item:
            self.marks.append(mark)
            self.right += mark.right
            self.wrong += not mark.right
            self._task_right[step.item] = self._task_right.get(step.item, True) and mark.right
            self._keep(step, mark)
        self._tell(Told.MARKED)
        before = self.attempt
        self.at += 1
        if self.over:
            return
        if self.at < len(self.steps):
            self._ask(before)
            return
        self.programme.done(self._task_right)
        if self.seconds_left <= 0:
            self.end()
        else:
            self._next_task(before)

    def _keep(self, step: AskedChord, mark: Mark) -> None:
        """Log what was played. The first attempt of a day says what is remembered; what the simulated player does is
        kept apart and remembered nowhere.
        """
        now, made_up = self._calendar(), self._simulated()
        before = self._cards.get(step.item, "")
        card = reviewed(before, step.item, mark, now)
        self._cards[step.item] = card
        piece = self.piece
        run = Run(
            now, piece.song, piece.title, piece.take, step.kind, step.item, *step.slots, step.words, step.key,
            piece.hands, round(mark.seconds, 3), len(mark.octave), len(mark.extra), len(mark.missing), made_up,
        )  # fmt: skip
        self._keep_run(run, "" if made_up or card == before else card)

    def _next_task(self, before: Attempt | None) -> None:
        self._task_right = {}
        self.steps, self.at = self.programme.next(self._cards, self._calendar()), 0
        if not self.steps:
            self.end()
            return
        self._ask(before)

    def _ask(self, before: Attempt | None) -> None:
        step = self.step
        assert step is not None
        self.attempt = begun(step.wanted(self.piece.hands), self._clock(), before, step.added, step.apart)
        self._tell(Told.ASKED)
