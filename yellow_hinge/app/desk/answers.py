"""What the solver answered of the open song: its hands, and what the last edit changed in them."""

from __future__ import annotations

from collections.abc import Callable

from yellow_hinge.app.desk.events import Event, Hub
from yellow_hinge.app.edits.resting import ONCE
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.wishing import is_held
from yellow_hinge.app.solving.elsewhere import Before, elsewhere
from yellow_hinge.app.solving.memory import Memory
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.solver import Answer
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import ruling
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.takes.known import KnownHands


def kept_parts(state: State, moment: Moment) -> frozenset[str]:
    """What of a chord is kept, and whether that is for one pass alone."""
    held = {"top"} if is_held(state.setup, moment) else set()
    ruled = ruling(state.keeps, moment)
    once = {ONCE} if any(keep.only for keep in ruled) else set()
    return frozenset({*(keep.part for keep in ruled), *held, *once})


class Answers:
    """The newest solution and the state that it is of. `ask` puts a state to the solver and gives the number of the
    question; its answer comes back through `accept`.
    """

    def __init__(self, hub: Hub, ask: Callable[[State], int]) -> None:
        self._hub, self._ask = hub, ask
        self.solution: Solution | None = None
        self.state = State()
        self.fault = ""
        self.asked, self.answered = 0, 0  # numbers of the latest question and answer
        self.beside: frozenset[int] = frozenset()  # chords that nobody touched and that have other hands now
        self.before: Before | None = None  # what the last edit began at
        self.memory = Memory()  # of the takes' hands
        self._stale = False  # what hands are chosen by is otherwise since the solution was found

    def holds(self, state: State) -> bool:
        """Whether the solution is that of a state."""
        return self.solution is not None and not self._stale and same_question(state, self.state)

    @property
    def solving(self) -> bool:
        """Whether an answer is awaited."""
        return self.answered < self.asked

    def clear(self) -> None:
        """There is nothing to solve."""
        self.solution, self.state = None, State()

    def begin(self, now: State) -> None:
        """An edit begins at a state: what it changes elsewhere is told from there."""
        self.before = Before(self.state, self.solution) if self.solution and self.holds(now) else None

    def restart(self, state: State, hands: tuple[KnownHands, ...]) -> None:
        """Another song is open, with the hands that its file knows."""
        self.clear()
        self.forget_before()
        self.fault = ""
        self.memory.begin(state, hands)

    def forget_before(self) -> None:
        """What changes now is what was asked for."""
        self.before = None

    def follow(self, state: State) -> None:
        """Another state with the same hands, whose title, tempo or notes may be others; or one with no song. What could
        not be done in the one before is said no longer.
        """
        self.fault = ""
        if state.emptied:
            self.clear()
        elif self.holds(state):
            self.state = state

    def look(self, state: State) -> None:
        """Ask for the hands of a state, unless they are those that are there."""
        if not self.holds(state) and state.song.sections and not state.emptied:
            self.asked = self._ask(state)

    def accept(self, answer: Answer | Bug, now: State) -> None:
        """An answer of the solver; older ones than the latest question are passed over, and one to a question that an
        edit took back. Raises what went wrong in the solver.
        """
        self.answered = max(self.answered, answer.number)
        if isinstance(answer, Bug):
            raise answer.error
        if answer.number < self.asked or now.emptied or not same_question(answer.state, now):
            return
        if answer.solution is None:
            self.refuse(answer.fault)
            return
        self.beside = elsewhere(self.before, answer.state, answer.solution) if self.before else frozenset()
        self.fault, self.solution, self.state, self._stale = "", answer.solution, now, False
        self.memory.learn(answer.state, answer.solution)
        self._hub.tell(Event.SOLUTION)

    def renew(self, state: State) -> None:
        """What hands are chosen by is otherwise: ask for them anew, while those that are there stay on the screen."""
        self.forget_before()
        self._stale = True
        self.memory.begin(state, ())
        self.look(state)

    def refuse(self, why: str) -> None:
        """Something cannot be done, or not be solved."""
        self.fault = why
        self._hub.tell(Event.FAULT)

    def opened(self, now: State) -> int | None:
        """Semitones that the fingers travel more since the last edit chose patterns, and hands were opened for them;
        None where none were.
        """
        if self.before is None or self.solution is None or not self.beside or not self.holds(now):
            return None
        old, new = self.before.state.setup.wanted, now.setup.wanted
        if not new or new == old:
            return None
        return self.solution.totals.motion - self.before.solution.totals.motion

    def kept_parts(self, index: int) -> frozenset[str]:
        """What of chord `index` of the solution is kept in it."""
        if self.solution is None:
            return frozenset()
        return kept_parts(self.state, self.solution.voicings[index].here)

    def kept(self, index: int) -> bool:
        """Whether chord `index` of the solution is kept whole."""
        return "chord" in self.kept_parts(index)


def same_question(a: State, b: State) -> bool:
    """Whether two states have the same solution."""
    return a is b or a.question == b.question
