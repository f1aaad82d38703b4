"""Finding swaps beside the interface."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.newest import Newest
from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.reharm.swaps import Swap, swaps
from yellow_hinge.core.song import Song


class Found(NamedTuple):
    """The swaps for a chord of a solution (by its index), or a bug. `number` is the question's."""

    number: int
    solution: Solution
    chord: int
    swaps: list[Swap]
    bug: BaseException | None = None


class SwapFinder(Newest[Found]):
    """Finds the swaps of one chord after another."""

    def ask(self, song: Song, solution: Solution, index: int) -> int:
        """Put a chord of a solved song to the worker; returns the question's number."""

        def work(builder: Builder, number: int) -> Found:
            try:
                return Found(number, solution, index, swaps(builder, solution, index))
            except OvertakenError:
                raise
            except Exception as error:  # a bug must reach the window and the log, not die with the worker
                return Found(number, solution, index, [], error)

        return self.put(work)
