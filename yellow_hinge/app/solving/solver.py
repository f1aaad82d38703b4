"""Solving beside the interface."""

from __future__ import annotations

import time
from typing import NamedTuple

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.song.timeline import timeline


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
