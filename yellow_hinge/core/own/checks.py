"""What holds for every entry of a player's own: an id of plain letters, a name, numbers within sense."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.nearest import nearest

_ID = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")
LONGEST_NAME, LONGEST_WORDS = 40, 200


def named(own: str, name: str, words: str = "") -> None:
    """Raises UserError where an id, a name or the words beside it are none."""
    if not _ID.fullmatch(own) or len(own) > LONGEST_NAME:
        raise UserError(f"id: {own[:20]!r} has to be letters, figures and hyphens, at most {LONGEST_NAME}")
    if not 0 < len(name.strip()) <= LONGEST_NAME or not name.isprintable() or "," in name or "+" in name:
        raise UserError(f"name: a name has 1 to {LONGEST_NAME} letters, no comma and no plus")
    if len(words) > LONGEST_WORDS or not words.isprintable():
        raise UserError(f"words: at most {LONGEST_WORDS} letters in one line")


def known(field: str, word: str, words: Iterable[str]) -> None:
    """Raises UserError where a word is none of some; says which is near."""
    there = tuple(words)
    if word not in there:
        near = nearest(word, there)
        hint = f"did you mean {near!r}?" if near else f"there are {', '.join(there[:12])}"
        raise UserError(f"{field}: {word[:30]!r} is not known; {hint}")


def within(field: str, value: float, least: float, most: float) -> None:
    """Raises UserError where a number is none, or lies outside."""
    if not (math.isfinite(value) and least <= value <= most):
        raise UserError(f"{field}: {value:g} is not within {least:g} to {most:g}")
