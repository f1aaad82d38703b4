"""Finding swaps, and reharmonising a whole song, beside the interface: one worker for both, so that tables are shared
and a newer question overtakes an older one.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.app.edits.state import State, changed
from yellow_hinge.app.edits.takes import with_repeats_apart
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.boldness import Protected
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.reharm.whole import Bolder, bolder
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import timeline


class FoundSwaps(NamedTuple):
    """The swaps for a chord of a solution (by its index). `number` is the question's; `whole`: all were tried."""

    number: int
    solution: Solution
    chord: int
    swaps: list[Swap]
    whole: bool = True


class Preview(NamedTuple):
    """A song as it would be, reharmonised but for the refused chords: nothing is taken yet. Without a solution `fault`
    says why. `state` is the one it was asked for, `apart` that one with its repeats written out, where each is decided
    for itself.
    """

    number: int
    state: State
    bolder: Bolder | None
    refused: frozenset[Address]
    becomes: State
    solution: Solution | None
    fault: str = ""
    apart: State | None = None


class SwapFinder(Newest[FoundSwaps | Preview]):
    """Finds the swaps of one chord after another, and what a whole song becomes. `progress` hears the share of a whole
    song that is done, from the worker's thread.
    """

    def __init__(
        self, tell: Callable[[FoundSwaps | Preview | Bug], None], progress: Callable[[float], None], name: str
    ) -> None:
        super().__init__(tell, name)
        self._progress = progress

    def ask(self, solution: Solution, index: int) -> int:
        """Put a chord of a solved song to the worker, which tells the first ideas, then all; returns its number."""

        def work(builder: Builder, number: int) -> FoundSwaps:
            def so_far(found: list[Swap]) -> None:
                self._tell(FoundSwaps(number, solution, index, found, whole=False))

            return FoundSwaps(number, solution, index, swaps(builder, solution, index, so_far))

        return self.put(work)

    def ask_whole(self, state: State, boldness: int, protect: frozenset[Protected], apart: bool = False) -> int:
        """Put a whole song to the worker; `apart`: every pass of a repeat is decided for itself. Returns the question's
        number.
        """
        base = with_repeats_apart(state) if apart else state

        def find(builder: Builder) -> Bolder:
            return bolder(builder, base.song, base.asked, base.standing, boldness, protect, told=self._progress)

        return self._preview(state, frozenset(), find, base if apart else None)

    def ask_without(self, before: Preview, found: Bolder, refused: frozenset[Address]) -> int:
        """Put what a song becomes with some changes refused or exchanged to the worker; returns its number."""
        return self._preview(before.state, refused, lambda builder: found, before.apart)

    def _preview(
        self, state: State, refused: frozenset[Address], find: Callable[[Builder], Bolder], apart: State | None
    ) -> int:
        def work(builder: Builder, number: int) -> Preview:
            found = None
            try:
                found = find(builder)
                becomes = changed(apart or state, found.with_changes(refused))
                solution = solve_song(builder, timeline(becomes.song), becomes.asked, becomes.standing)
                return Preview(number, state, found, refused, becomes, solution, apart=apart)
            except UserError as error:
                return Preview(number, state, found, refused, state, None, str(error))

        return self.put(work)
