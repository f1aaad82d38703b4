"""A substitute of the player's own: where a chord stands, and the chords that take its place, in numbers."""

from __future__ import annotations

from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.own.checks import known, named, within
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.reharm.kinds import recipes
from yellow_hinge.core.reharm.kinds.recipes import PLACE, Frame, Recipe, cook
from yellow_hinge.core.reharm.table import SUBSTITUTES, Group, Level, Substitute
from yellow_hinge.core.symbols.symbol import parse_symbol

MOST_MADE, MOST_CHORDS, LONGEST = 12, 6, 60
# What a recipe may ask beside its places, by the words that a file says.
NEEDS = {
    "": lambda scene: True, "major key": recipes.in_major, "minor key": recipes.in_minor, "lands": recipes.lands,
    "lands in major": recipes.lands_major, "lands in minor": recipes.lands_minor, "a bar or more": recipes.long,
    "no bass of its own": recipes.bare, "ends a section in minor": recipes.ends, "before no minor": recipes.strong_goal,
}  # fmt: skip


class OwnRecipe(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """See Recipe: `here` and `after` are places such as "4M" or "*D", `made` what becomes, chords with spaces between;
    `frame` says what numbers count from.
    """

    made: tuple[str, ...]
    reason: str
    here: str = ""
    after: str = ""
    frame: Frame = "key"
    share: Literal["even", "late"] = "even"
    needs: str = ""

    def __post_init__(self) -> None:
        for field in ("here", "after"):
            for place in getattr(self, field).split():
                if not PLACE.fullmatch(place):
                    raise UserError(f"{field}: {place[:10]!r} is no place; write 4M, 2m, b7D, 5, or * for any")
        known("needs", self.needs, NEEDS)
        if not 0 < len(self.reason.strip()) <= LONGEST * 2 or not self.reason.isprintable():
            raise UserError("reason: a sentence of up to 120 letters")
        if not 0 < len(self.made) <= MOST_MADE:
            raise UserError(f"made: 1 to {MOST_MADE} results")
        for words in self.made:
            self._read(words)

    def _read(self, words: str) -> None:
        if not 0 < len(words.split()) <= MOST_CHORDS or len(words) > LONGEST:
            raise UserError(f"made: {words[:20]!r} has to be 1 to {MOST_CHORDS} chords")
        for word in words.split():
            body, _, bass = word.partition("/")
            try:
                parse_symbol(
                    bass if body in ("H", "A") and bass else "1" if body in ("H", "A") else word, parse_key("C")
                )
            except UserError as error:
                raise UserError(f"made: {word[:20]!r}: {error}") from None

    @property
    def recipe(self) -> Recipe:
        """It as the table cooks it."""
        return Recipe(self.here, self.after, self.made, self.reason, self.frame, self.share, NEEDS[self.needs])


class OwnSubstitute(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file says; the fields are those of Substitute. `likes` has ids of manners (spaces between) by level;
    whether there are such is known once all of a folder is read."""

    id: str
    name: str
    boldness: int
    recipe: tuple[OwnRecipe, ...]
    group: Group = "place"
    share: int = 0
    likes: dict[Level, str] = {}

    def __post_init__(self) -> None:
        named(self.id, self.name)
        within("boldness", self.boldness, 1, 4)
        within("share", self.share, 0, 64)
        if self.id in SUBSTITUTES and self.id not in SUBSTITUTES.own:
            raise UserError(f"id: {self.id} ships already; choose another")
        if not 0 < len(self.recipe) <= MOST_MADE:
            raise UserError(f"recipe: 1 to {MOST_MADE} of them")
        self._check_likes()

    def _check_likes(self) -> None:
        seen: dict[str, str] = {}
        for level, names in self.likes.items():
            for name in names.split():
                if seen.setdefault(name, level) != level:
                    raise UserError(f"likes: {name} stands under {seen[name]} and under {level}")

    @property
    def substitute(self) -> Substitute:
        """It as a row of the table."""
        likes = tuple((name, level) for level, names in self.likes.items() for name in names.split())
        make = cook(tuple(each.recipe for each in self.recipe))
        after: Literal["", "root"] = "root" if any(each.after for each in self.recipe) else ""
        return Substitute(self.id, self.name, self.boldness, make, self.group, "", after, self.share, likes)
