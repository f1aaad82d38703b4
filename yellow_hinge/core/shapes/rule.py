"""One rule of a family of hand shapes, as the catalogue's data files write it."""

from __future__ import annotations

from typing import Literal

import msgspec

from yellow_hinge.core.symbols.quality import CLASS_RULES

Slash = Literal["", "none", "any", "third", "fifth", "seventh", "foreign"]


class Rule(msgspec.Struct, frozen=True):
    """Stacks for both hands that a family uses; the fields are explained at the head of catalogue.toml."""

    left: tuple[str, ...] = ()
    right: tuple[str, ...] = ()
    classes: tuple[str, ...] = ()
    turn: Literal["", "left", "right", "both"] = ""
    least_must: int = 0
    least_level: int = 0
    most_level: int = 3
    mood: Literal["", "bright", "dark"] = ""
    triads: bool = False
    over: Slash = ""
    written_level: int = 0
    thirdless: bool = False
    mine: bool = False
    upper: tuple[str, ...] = ()
    brings: bool = False
    drop: tuple[int, ...] = ()
    of: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        unknown = {*self.classes} - set(CLASS_RULES)
        if unknown:
            raise ValueError(f"unknown chord classes {sorted(unknown)}")

    def turns(self, hand: str) -> bool:
        """Whether every rotation of a hand's stacks counts."""
        return self.turn in (hand, "both")
