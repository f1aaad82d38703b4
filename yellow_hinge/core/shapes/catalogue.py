"""Reading and checking the catalogue of hand shapes."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

import msgspec

from yellow_hinge.core.quality import CLASS_RULES

Bass = Literal["mine", "theirs", "any"]


class Rule(msgspec.Struct, frozen=True):
    """Stacks for both hands that a family uses on the named chord classes (none named: on all)."""

    left: tuple[str, ...]
    right: tuple[str, ...]
    classes: tuple[str, ...] = ()
    turn: Literal["", "left", "right"] = ""
    least_must: int = 0

    def serves(self, chord_class: str, must: int) -> bool:
        """Whether the rule covers a chord class with that many notes that must sound."""
        return (not self.classes or chord_class in self.classes) and must >= self.least_must


class Shape(msgspec.Struct, frozen=True):
    """One family of hand shapes; the fields are explained at the head of catalogue.toml."""

    id: str
    name: str
    bass: Bass
    left_low: tuple[int, int]
    left_high: int
    right_low: tuple[int, int]
    right_high: int
    home: tuple[int, int]
    prefer: float
    full: tuple[int, int]
    rule: tuple[Rule, ...]

    def __post_init__(self) -> None:
        unknown = {name for rule in self.rule for name in rule.classes} - set(CLASS_RULES)
        if unknown:
            raise ValueError(f"shape {self.id}: unknown chord classes {sorted(unknown)}")

    def suits(self, bass: str) -> bool:
        """Whether the family is offered when `bass` ("mine" or "theirs") says who plays the bass."""
        return self.bass in ("any", bass)


class _File(msgspec.Struct, frozen=True):
    shape: tuple[Shape, ...]


@lru_cache(maxsize=1)
def catalogue() -> tuple[Shape, ...]:
    """Every family in the order of the data file, which is also the order that breaks ties."""
    text = resources.files(__package__).joinpath("catalogue.toml").read_text("utf-8")
    return msgspec.convert(tomllib.loads(text), _File).shape
