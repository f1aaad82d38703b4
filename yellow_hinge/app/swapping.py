"""Finding swaps beside the interface: one worker, the newest question wins."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import NamedTuple

from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.reharm.swaps import Swap, Tried, swaps, tried, with_swap
from yellow_hinge.core.song import Song


class Found(NamedTuple):
    """The swaps for a chord of a solution (by its index), or a bug. `number` is the question's."""

    number: int
    solution: Solution
    chord: int
    swaps: list[Swap]
    bug: BaseException | None = None


class SwapFinder:
    """Answers through `tell` from the worker's thread; a question that a newer one overtakes is dropped."""

    def __init__(self, tell: Callable[[Found], None]) -> None:
        self._tell = tell
        self._builder = Builder()
        self._builder.overtaken = lambda: self._working != self.asked
        self._pool = ThreadPoolExecutor(1, thread_name_prefix="swaps")
        self._lock = threading.Lock()
        self._working = 0
        self.asked = 0

    def ask(self, song: Song, solution: Solution, index: int) -> int:
        """Put a chord of a solved song to the worker; returns the question's number."""
        with self._lock:
            self.asked += 1
            number = self.asked
        self._pool.submit(self._work, number, song, solution, index)
        return number

    def _work(self, number: int, song: Song, solution: Solution, index: int) -> None:
        if number != self.asked:
            return
        self._working = number
        with contextlib.suppress(OvertakenError):
            try:
                found = Found(number, solution, index, swaps(self._builder, song, solution, index))
            except OvertakenError:
                raise
            except Exception as error:  # a bug must reach the window and the log, not die with the worker
                found = Found(number, solution, index, [], error)
            self._tell(found)

    def close(self) -> None:
        """Let the running question end and drop the rest."""
        with self._lock:
            self.asked += 1
        self._pool.shutdown(wait=True, cancel_futures=True)


def played(swap: Swap, song: Song, solution: Solution, index: int) -> Tried:
    """A swap as it would be played between its neighbours. Raises UserError."""
    at = solution.moments[solution.voicings[index].moment].address
    return tried(Builder(), with_swap(song, at, swap.chords, swap.beats), solution, index, solution.setup)
