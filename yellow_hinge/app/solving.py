"""Solving beside the interface: one worker, the newest question wins, answers come back through a callback."""

from __future__ import annotations

import contextlib
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import NamedTuple

from yellow_hinge.app.state import State
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.timeline import timeline


class Answer(NamedTuple):
    """What solving a state gave: a solution, or the message of a fault, or a bug. `number` is the question's."""

    number: int
    state: State
    solution: Solution | None
    fault: str
    seconds: float
    bug: BaseException | None = None


def answer(builder: Builder, number: int, state: State) -> Answer:
    """Solve a state now."""
    started = time.perf_counter()
    try:
        moments = timeline(state.song)
        solution = solve_song(builder, moments, state.setup, state.keeps)
    except OvertakenError:
        raise
    except UserError as error:
        return Answer(number, state, None, str(error), time.perf_counter() - started)
    except Exception as error:  # a bug must reach the window and the log, not die with the worker
        return Answer(number, state, None, "", time.perf_counter() - started, error)
    return Answer(number, state, solution, "", time.perf_counter() - started)


class Solver:
    """Asks in order, answers through `tell` from the worker's thread; a question that a newer one overtakes is dropped,
    also while it is worked on.
    """

    def __init__(self, tell: Callable[[Answer], None]) -> None:
        self._tell = tell
        self._builder = Builder()
        self._builder.overtaken = lambda: self._working != self._number
        self._working = 0
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="solver")
        self._lock = threading.Lock()
        self._number = 0

    def ask(self, state: State) -> int:
        """Put a state to the worker; returns the question's number."""
        with self._lock:
            self._number += 1
            number = self._number
        self._pool.submit(self._work, number, state)
        return number

    def _work(self, number: int, state: State) -> None:
        if number != self._number:
            return
        self._working = number
        with contextlib.suppress(OvertakenError):
            self._tell(answer(self._builder, number, state))

    def close(self) -> None:
        """Let the running question end and drop the rest."""
        self._pool.shutdown(wait=True, cancel_futures=True)
