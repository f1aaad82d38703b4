"""Solving beside the interface."""

from __future__ import annotations

import time
from typing import NamedTuple

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline

AT_A_TIME = 16  # chords, between which another question may come


class Answer(NamedTuple):
    """What solving a state gave: a solution, or the message of a fault. `number` is the question's."""

    number: int
    state: State
    solution: Solution | None
    fault: str
    seconds: float


def answer(builder: Builder, number: int, state: State) -> Answer:
    """Solve a state now."""
    started = time.perf_counter()
    try:
        moments = timeline(state.song)
        solution = solve_song(builder, moments, state.asked, state.standing)
    except UserError as error:
        return Answer(number, state, None, str(error), time.perf_counter() - started)
    return Answer(number, state, solution, "", time.perf_counter() - started)


class Solver(Newest[Answer]):
    """Solves states."""

    def ask(self, state: State) -> int:
        """Put a state to the worker; returns the question's number."""
        return self.put(lambda builder, number: answer(builder, number, state))

    def go_on(self, found: Answer, number: int) -> None:
        """The costs up to every chord, for the ways to play that are looked at next."""
        solution = found.solution
        if solution is None or solution.solved is None or solution.solved.closed:
            return
        for stage in range(0, len(solution.voicings), AT_A_TIME):
            if number != self.asked:
                return
            solution.solved.reached(stage)
