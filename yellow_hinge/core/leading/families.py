"""Which families of hand shapes make given hands of a chord, at the lowest colour at which they do."""

from __future__ import annotations

from typing import Literal, NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.asked import Asked
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.asking.wish_words import COLOUR_LEVELS
from yellow_hinge.core.leading.chain.kept_stage import with_hands
from yellow_hinge.core.leading.chain.making import trial
from yellow_hinge.core.leading.chain.stage import Place, scene_of
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.reading import is_as_written, reads
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.shapes.catalogue import Shape, offered
from yellow_hinge.core.symbols.chord import Chord

Notes = tuple[int, ...]


def _bass(setup: Setup) -> Literal["mine", "theirs"]:
    return "mine" if setup.mine else "theirs"


class Making(NamedTuple):
    """A family that makes the hands, at the lowest colour level at which it does; `both` is its cheapest example."""

    shape: Shape
    colour: int
    both: Both


def makings(chord: Chord, key: Key, setup: Setup, left: Notes | None, right: Notes | None) -> list[Making]:
    """The families with a voicing of `chord` whose hands are `left` and `right` (MIDI, ascending; empty: that hand
    rests; None: any), in catalogue order. Only bass and hands of `setup` count.
    """
    found = []
    for shape in offered():
        if shape.suits(_bass(setup)):
            if left is None and right is None:  # an example is the chord as it is written
                shape = replace(shape, rule=tuple(rule for rule in shape.rule if not rule.thirdless))
            made = (_made(chord, key, setup, shape, colour, left, right) for colour in range(len(COLOUR_LEVELS)))
            found += [next(filter(None, made), None)]
    return [making for making in found if making is not None]


def _made(
    chord: Chord, key: Key, setup: Setup, shape: Shape, colour: int, left: Notes | None, right: Notes | None
) -> Making | None:
    asked = Asked(bass=_bass(setup), hands=setup.player.hands, colour=colour, families=(shape.id,))
    at = Place(chord, key, None, asked)
    stage = trial(at, (shape,), scene_of(at))
    if stage is None:
        return None
    cost = with_hands(stage, left, right)
    row, column = np.unravel_index(int(cost.argmin()), cost.shape)
    if cost[row, column] >= INFINITE:
        return None
    return Making(shape, colour, Both(stage.left.notes(int(row)), stage.right.notes(int(column))))


def why_none(chord: Chord, key: Key, setup: Setup, left: Notes | None, right: Notes | None) -> str:
    """Why no family makes these hands, as a sentence for the player."""
    for hand, notes in (("left", left or ()), ("right", right or ())):
        reason = _out_of_reach(setup.player.hands, hand, notes)
        if reason:
            return reason
    both = Both(left or (), right or ())
    if left is not None and right is not None and not is_as_written(both, chord, setup.mine):
        return f"these notes read as {reads(both, chord, key, setup.mine) or 'no chord'}"
    return "no family of shapes makes these hands"


def _out_of_reach(hands: Hands, hand: str, notes: Notes) -> str:
    low, high = hands.compass
    if len(notes) > hands.most(hand):
        return f"the {hand} hand plays at most {hands.most(hand)} notes, and these are {len(notes)}"
    if span_mm(notes) > hands.limit(hand, len(notes)):
        return f"the {hand} hand spans {hands.reach(hand)} white keys, and these notes lie wider"
    if any(not low <= note <= high for note in notes):
        return f"the keyboard of {hands.keys} keys has not all of these notes"
    return ""
