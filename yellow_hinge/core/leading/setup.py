"""What a player asks of the solver: who has the bass, the hands, colour, style, families, loop and keeps."""

from __future__ import annotations

import difflib
from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.weights import STYLES, Weights
from yellow_hinge.core.shapes.catalogue import Shape, catalogue

COLOUR_LEVELS = ("as written", "sevenths", "ninths and sixths", "thirteenths and altered")


class Setup(msgspec.Struct, frozen=True):
    """The player's wishes for a song. `families` () means every family that suits the bass."""

    bass: Literal["mine", "theirs"] = "mine"
    hands: Hands = Hands()
    colour: int = 2
    style: str = "Smoothest"
    families: tuple[str, ...] = ()
    loop: bool = False

    def __post_init__(self) -> None:
        if not 0 <= self.colour < len(COLOUR_LEVELS):
            raise UserError(f"colour level {self.colour} is not one of 0 to {len(COLOUR_LEVELS) - 1}")
        _known("style", self.style, tuple(STYLES))
        for family in self.families:
            _known("family", family, tuple(shape.id for shape in catalogue()))

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass == "mine"

    @property
    def weights(self) -> Weights:
        """The prices of the style."""
        return STYLES[self.style]


def _known(what: str, word: str, words: tuple[str, ...]) -> None:
    if word not in words:
        near = difflib.get_close_matches(word, words, n=1, cutoff=0.4)
        hint = f"did you mean {near[0]!r}? " if near else ""
        raise UserError(f"{word[:30]!r} is not a {what}; {hint}known: {', '.join(words)}")


def chosen_shapes(setup: Setup) -> tuple[Shape, ...]:
    """The families asked for, in catalogue order."""
    if setup.families:
        return tuple(shape for shape in catalogue() if shape.id in setup.families)
    return tuple(shape for shape in catalogue() if shape.suits(setup.bass))


def widenings(setup: Setup) -> tuple[tuple[Shape, ...], ...]:
    """The families asked for and, for chords none of them fits, ever wider sets: those that suit the bass, then all."""
    suited = tuple(shape for shape in catalogue() if shape.suits(setup.bass))
    return chosen_shapes(setup), suited, catalogue()


class Keep(msgspec.Struct, frozen=True):
    """A chord kept as the player likes it: where it is written (section, bar, slot), its symbol and both hands."""

    at: tuple[int, int, int]
    symbol: str
    left: tuple[int, ...]
    right: tuple[int, ...]
