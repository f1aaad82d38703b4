"""Solving every take and the mix beside the interface; a take that did not change is not solved again."""

from __future__ import annotations

from collections import OrderedDict
from typing import NamedTuple

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.takes import switched
from yellow_hinge.app.solving.comparing import Figures, Joint, differs, figures, joints
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.mixing import Mixed, mixed
from yellow_hinge.core.takes.take import Whole

MOST_KEPT = 48


class TakeRow(NamedTuple):
    """A take as the view shows it; `fault` says why it has no solution, "" where it is worked on. `differs` are the
    chords that the take above plays otherwise.
    """

    id: int
    name: str
    state: State
    solution: Solution | None
    fault: str
    figures: Figures | None
    differs: frozenset[int]
    apart: str = ""  # its own key, or that it has other bars, where it does not share the song's


def _apart(there: State) -> str:
    if there.shown.form is None:
        return ""
    return f"in {there.song.key}" if there.song.key != there.form.key else "other bars"


class FoundTakes(NamedTuple):
    """Every take of a state and its mix. `number` is the question's; `done` is False where some are worked on."""

    number: int
    state: State
    rows: tuple[TakeRow, ...]
    mix: Mixed
    solution: Solution | None
    joints: tuple[Joint, ...]
    done: bool = True


class TakesSolver(Newest[FoundTakes]):
    """Solves takes and mixes."""

    def __init__(self, tell: object, name: str) -> None:
        super().__init__(tell, name)  # type: ignore[arg-type]
        self._known: OrderedDict[tuple[object, ...], Solution] = OrderedDict()

    def ask(self, state: State, shown: Solution | None = None) -> int:
        """Put all takes of a state to the worker, with the solution of the take that is shown where there is one;
        returns the question's number. What is found is told take by take.
        """

        def work(builder: Builder, number: int) -> FoundTakes:
            if shown is not None:
                self._known.setdefault(state.question, shown)
            return self._found(builder, number, state)

        return self.put(work)

    def _solved(self, builder: Builder, state: Whole) -> Solution:
        key = state.question
        if key not in self._known:
            self._known[key] = solve_song(builder, timeline(state.song), state.asked, state.standing)
            while len(self._known) > MOST_KEPT:
                self._known.popitem(last=False)
        self._known.move_to_end(key)
        return self._known[key]

    def _found(self, builder: Builder, number: int, state: State) -> FoundTakes:
        rows: list[TakeRow] = []
        above: Solution | None = None
        mix = mixed(state)
        every = [switched(state, take.id) for take in state.takes]
        waiting = [
            TakeRow(take.id, take.name, there, self._known.get(there.question), "", None, frozenset())
            for take, there in zip(state.takes, every, strict=True)
        ]
        for at, (take, there) in enumerate(zip(state.takes, every, strict=True)):
            if there.question not in self._known:
                self._tell(FoundTakes(number, state, (*rows, *waiting[at:]), mix, None, (), False))
            try:
                solution, fault = self._solved(builder, there), ""
            except UserError as error:
                rows.append(TakeRow(take.id, take.name, there, None, str(error), None, frozenset()))
                continue
            marks = differs(solution, above)
            rows.append(
                TakeRow(take.id, take.name, there, solution, fault, figures(solution, above), marks, _apart(there))
            )
            above = solution
        try:
            whole = self._solved(builder, mix.whole)
        except UserError:
            return FoundTakes(number, state, tuple(rows), mix, None, ())
        return FoundTakes(number, state, tuple(rows), mix, whole, tuple(joints(whole, mix)))
