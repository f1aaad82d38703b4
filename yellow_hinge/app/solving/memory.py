"""What an open song remembers of its takes' hands, and what new ones would move."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.edits.asking import with_new_hands
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.comparing import Compared, compared
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.app.solving.solver import answer
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.takes.known import KnownHands, hands_of
from yellow_hinge.core.takes.take import Take, Whole
from yellow_hinge.core.takes.things import HELD, KEEPS, KNOWN, WISHES


def _own(whole: Whole, take: Take) -> object:
    """What the hands of a take follow from."""
    content, form = take.content, take.form or whole.form
    held = tuple(content.things.of(kind) for kind in (KEEPS, WISHES, HELD, KNOWN))
    shared = (form.key, form.meter, form.sections, form.pickup, form.player)
    return (*shared, content.chords, content.asks, content.setup, *held)


class Memory:
    """The hands of every take as they were last solved or read, each as long as nothing of the take is changed."""

    def __init__(self) -> None:
        self._known: dict[int, tuple[object, KnownHands | Solution]] = {}

    def begin(self, whole: Whole, hands: tuple[KnownHands, ...]) -> None:
        """Another song is open, with the hands of its file."""
        takes = {take.id: take for take in whole.takes}
        self._known = {
            found.take: (_own(whole, takes[found.take]), found)
            for found in hands
            if found.take in takes and found.current
        }

    def learn(self, whole: Whole, solution: Solution) -> None:
        """The take shown was solved."""
        self._known[whole.take] = (_own(whole, whole.shown), solution)

    def hands(self, whole: Whole) -> tuple[KnownHands, ...]:
        """What a file of the song remembers."""
        found = []
        for take in whole.takes:
            own, hands = self._known.get(take.id, (None, None))
            if hands is not None and own == _own(whole, take):
                found.append(hands if isinstance(hands, KnownHands) else hands_of(take.id, hands))
        return tuple(found)


class NewHands(NamedTuple):
    """The known hands of a take beside those that it would be given now."""

    number: int
    state: State
    known: Solution
    new: Solution

    @property
    def words(self) -> str:
        """What is to be said once."""
        less = self.known.totals.motion - self.new.totals.motion
        much = f"{semitones(abs(less))} {'less' if less > 0 else 'more'}" if less else "as much"
        return f"These are the hands you know; new ones move {much}."

    @property
    def rows(self) -> list[Compared]:
        """The chords whose hands would be others."""
        return [row for row in compared(self.known, self.new) if row.only_one or row.only_other]


class NewHandsFinder(Newest[NewHands | None]):
    """Solves a song with and without the hands that it knows."""

    def ask(self, state: State) -> int:
        """Put a song to the worker, which answers None where it would be played as it is known; the number."""

        def work(builder: Builder, number: int) -> NewHands | None:
            known, new = answer(builder, 0, state), answer(builder, 0, with_new_hands(state))
            if known.solution is None or new.solution is None:
                return None
            found = NewHands(number, state, known.solution, new.solution)
            return found if found.rows else None

        return self.put(work)
