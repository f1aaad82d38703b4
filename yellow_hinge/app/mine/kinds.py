"""The kinds of entries that a player may have of one's own: where they lie, how they are checked, examples."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

import msgspec

from yellow_hinge.core.own.fills import OwnFill
from yellow_hinge.core.own.lines import OwnLine
from yellow_hinge.core.own.manners import OwnManner
from yellow_hinge.core.own.scales import OwnScale
from yellow_hinge.core.own.styles import OwnStyle
from yellow_hinge.core.own.substitutes import OwnSubstitute
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.shapes.catalogue import MyShape

EXAMPLES = Path(__file__).with_name("examples")


class Kind(NamedTuple):
    """`name` as it is said, `folder` inside the player's own, `entry` what a file holds, `own` its id, `words` what
    it is for.
    """

    name: str
    folder: str
    entry: type[msgspec.Struct]
    words: str
    own: Callable[[Any], str] = lambda entry: str(entry.id)

    @property
    def example(self) -> str:
        """A file of the kind, with every field explained."""
        return (EXAMPLES / f"{self.name}.toml").read_text("utf-8")


KINDS = (
    Kind("shelf", "shelf", ShelfEntry, "hands for a few chords in a row, found again wherever a song has those chords"),
    Kind("shape", "shapes", MyShape, "a hand shape that every chord may use", lambda shape: str(shape.name)),
    Kind("pattern", "patterns", Pattern, "a pattern in which the hands are struck"),
    Kind("fill", "fills", OwnFill, "notes of your own that lead into a chord"),
    Kind("line", "lines", OwnLine, "a line of the right hand over some chords, found again wherever a song has those"),
    Kind(
        "style",
        "styles",
        OwnStyle,
        "what the voices are led for: another style's prices, some of them otherwise",
        lambda style: str(style.name),
    ),
    Kind("manner", "manners", OwnManner, "what goes together: another manner, with some of it otherwise"),
    Kind("substitute", "substitutes", OwnSubstitute, "chords that take another's place, in numbers"),
    Kind("scale", "scales", OwnScale, "a scale, and the chords that it is offered over"),
)
BY_NAME = {kind.name: kind for kind in KINDS}
