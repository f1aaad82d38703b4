"""The hands that a song remembers: those it was last solved with, and the number of the prices that made them."""

from __future__ import annotations

from typing import TYPE_CHECKING

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.prices.weights import PRICES
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.core.takes.form import slots_of
from yellow_hinge.core.takes.take import Whole
from yellow_hinge.core.takes.things import KEEPS, KNOWN, there

if TYPE_CHECKING:  # files are read without the solver
    from yellow_hinge.core.leading.answer import Solution

PassId = tuple[int, int]


class KnownHand(msgspec.Struct, frozen=True):
    """Both hands of a chord (MIDI) in a pass (see Moment.pass_id), with the symbol that they were chosen for."""

    slot: int
    symbol: str
    left: tuple[int, ...]
    right: tuple[int, ...]
    only: PassId


class KnownHands(msgspec.Struct, frozen=True):
    """The hands of a take (its id), and the number of the prices that made them."""

    take: int
    prices: int
    hands: tuple[KnownHand, ...]

    @property
    def current(self) -> bool:
        """Whether solving gives the same hands."""
        return self.prices == PRICES


def hands_of(take: int, solution: Solution) -> KnownHands:
    """What a file remembers of a solution."""
    found = {
        (voicing.here.slot_id, voicing.here.pass_id): KnownHand(
            voicing.here.slot_id, write_symbol(voicing.chord), voicing.left, voicing.right, voicing.here.pass_id
        )
        for voicing in solution.voicings
    }
    return KnownHands(take, PRICES, tuple(found.values()))


def as_known(found: KnownHands) -> tuple[Keep, ...]:
    """Hands that other prices made, standing as keeps."""
    return tuple(Keep(hand.slot, hand.symbol, hand.left, hand.right, "chord", hand.only) for hand in found.hands)


def without_known(whole: Whole, at: frozenset[int] | None = None) -> tuple[Keep, ...]:
    """What is known of the take shown but for the chords of some places (ids of sections, bars and slots); but for all
    of them where none are named.
    """
    if at is None:
        return ()
    named = {section.name for section in whole.song.sections if section.id in at and not section.bars}
    inside = {
        slot.id
        for section, bar, slot in slots_of(whole.song)
        if section.name in named or at & {section.id, bar.id, slot.id}
    }
    return tuple(keep for keep in whole.things.of(KNOWN) if keep.slot not in inside)


def holds(whole: Whole) -> bool:
    """Whether the take shown has hands that it knows, for chords that are still there."""
    here = there(whole.song)
    return any(KEEPS.rests(keep, here) is None for keep in whole.things.of(KNOWN))
