"""A manner of the player's own: another one's, with some of it otherwise."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, Literal, get_args

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.manners import Families, Likes, Manner, Patterns, manners
from yellow_hinge.core.own.checks import known, named, within
from yellow_hinge.core.reharm.table import SUBSTITUTES, Level
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.shapes.catalogue import shape_ids

MOST_NOTES, MOST_COLOUR = 5, 3
# Numbers that may be said otherwise, with their least and most.
_NUMBERS = {
    "gap_over": (0, 36), "parts": (0, 8), "bare": (0, 20), "same_size": (0, 20), "parallel": (0, 20),
    "outer_parallel": (0, 20), "similar": (0, 20),
}  # fmt: skip


class OwnManner(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file says; what is left out is as in the manner that it is `like`. `likes` has kinds of substitutes (ids,
    spaces between) by level; all others are liked as there. Whether there
    is such a style is known once all of a folder is read.
    """

    id: str
    name: str
    like: str
    words: str = ""
    patterns: Patterns | None = None
    bass: Literal["mine", "theirs"] | None = None
    right: Literal["plays", "free"] | None = None
    melody: Literal["free", "top"] | None = None
    colour: int | None = None
    style: str | None = None
    fullness: tuple[int, int] | None = None
    families: Families | None = None
    likes: dict[Level, str] = {}
    gap_over: int | None = None
    parts: int | None = None
    bare: float | None = None
    same_size: float | None = None
    parallel: float | None = None
    outer_parallel: float | None = None
    similar: float | None = None

    def __post_init__(self) -> None:
        named(self.id, self.name, self.words)
        if self.id in manners() and self.id not in manners().own:
            raise UserError(f"id: {self.id} ships already; choose another")
        known("like", self.like, [name for name in manners() if name not in manners().own])
        for field, word, words in self._named():
            known(field, word, words)
        for field, value, (least, most) in self._numbers():
            within(field, value, least, most)
        self.manner()

    def _named(self) -> Iterator[tuple[str, str, Iterable[str]]]:
        """(field, word, what it may be) of what names something that ships."""
        struck, shapes = self.patterns or Patterns(""), self.families or Families()
        for pattern in filter(None, (struck.usual, struck.dotted, struck.three)):
            yield "patterns", pattern, patterns()
        for family in (*shapes.mine, *shapes.theirs):
            yield "families", family, shape_ids()

    def _numbers(self) -> Iterator[tuple[str, float, tuple[float, float]]]:
        """(field, number, least and most)."""
        yield "colour", self.colour or 0, (0, MOST_COLOUR)
        yield from (("fullness", notes, (0, MOST_NOTES)) for notes in self.fullness or ())
        yield from ((name, getattr(self, name) or 0, ends) for name, ends in _NUMBERS.items())

    def manner(self) -> Manner:
        """The manner. Raises UserError for a substitute that is none, or is liked twice."""
        base = manners()[self.like]
        said = {name: getattr(self, name) for name in Manner.__struct_fields__ if hasattr(self, name)}
        changed: dict[str, Any] = {name: value for name, value in said.items() if value is not None}
        changed |= {"words": self.words or base.words, "likes": self._likes(base.likes), "like": base.id}
        found: Manner = msgspec.structs.replace(base, **changed)
        return found

    def _likes(self, base: Likes) -> Likes:
        own: dict[str, Level] = {}
        for level, names in self.likes.items():
            for name in names.split():
                known(f"likes.{level}", name, [kind for kind in SUBSTITUTES if kind not in SUBSTITUTES.own])
                if own.setdefault(name, level) != level:
                    raise UserError(f"likes: {name} stands under {own[name]} and under {level}")
        rows: dict[str, str] = {}
        for level in get_args(Level):
            there = [name for name in getattr(base, level).split() if name not in own]
            rows[level] = " ".join((*there, *(name for name, wanted in own.items() if wanted == level)))
        return Likes(**rows)
