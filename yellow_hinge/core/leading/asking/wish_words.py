"""How the values of wishes are read, and said in words."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import MOST_NOTES
from yellow_hinge.core.leading.asking.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.shapes.catalogue import MINE, shape_ids, shape_of

COLOUR_LEVELS = ("as written", "sevenths", "ninths and sixths", "thirteenths and altered")
ALL = "all"  # every family that suits the bass, the unusual ones too; the widest only where it is named as well
FARTHEST_LIFT = 24
INTERVALS = {3: "a third", 5: "a fourth", 7: "a fifth", 12: "an octave"}


def number(name: str) -> Callable[[str], int]:
    def read(text: str) -> int:
        if not re.fullmatch(r"[+-]?\d{1,3}", text.strip()):
            raise UserError(f"{name}={text[:12]} is not a whole number")
        return int(text)

    return read


def one_of(name: str, **values: Any) -> Callable[[str], Any]:
    def read(text: str) -> Any:
        if text.strip().lower() not in values:
            raise UserError(f"{name}={text[:12]} is neither {' nor '.join(values)}")
        return values[text.strip().lower()]

    return read


def read_families(text: str) -> tuple[str, ...]:
    """Families joined by commas, or by plus signs before the next one; a shape of the player's own may have a plus in
    its name.
    """
    known = "|".join(map(re.escape, (*shape_ids(), MINE, ALL)))
    return tuple(filter(None, map(str.strip, re.split(rf",|\+(?=\s*(?:{MINE}:|(?:{known})\s*(?:[,+]|$)))", text))))


def read_fullness(text: str) -> tuple[int, int]:
    """(left, right) of "2+3" or "2,3". Raises UserError."""
    found = re.fullmatch(r"\s*(\d)\s*[,+]\s*(\d)\s*", text)
    if found is None:
        raise UserError(f"{text[:20]!r} is no fullness; write the notes of the left and of the right hand: 2+3")
    return int(found[1]), int(found[2])


def a_level(colour: int) -> None:
    if not 0 <= colour < len(COLOUR_LEVELS):
        raise UserError(f"colour level {colour} is not one of 0 to {len(COLOUR_LEVELS) - 1}")


def hands_full(fullness: tuple[int, int]) -> None:
    if not all(0 <= notes <= MOST_NOTES for notes in fullness):
        raise UserError(f"a hand plays 0 to {MOST_NOTES} notes, 0 for as many as come")


def near_names(by: int) -> None:
    if abs(by) > FARTHEST_LIFT:
        raise UserError(f"a register climbs or drops by at most {FARTHEST_LIFT} semitones")


def _strange(what: str, word: str, words: tuple[str, ...]) -> str:
    near = nearest(word, words)
    hint = f"did you mean {near!r}? " if near else ""
    return f"{word[:30]!r} is not a {what}; {hint}known: {', '.join(words)}"


def strange_style(style: str, own: tuple[str, ...]) -> list[str]:
    return [] if style in STYLES else [_strange("style", style, tuple(STYLES))]


def strange_manner(manner: str, own: tuple[str, ...] = ()) -> list[str]:
    """A sentence where a manner is unknown; none for no manner."""
    return [] if manner in ("", NO_MANNER, *manners()) else [_strange("manner", manner, tuple(manners()))]


def strange_families(families: tuple[str, ...], own: tuple[str, ...]) -> list[str]:
    names = (*shape_ids(), MINE, ALL, *own) if families else ()
    return [_strange("family", family, names) for family in sorted({*families} - {*names})]


def fullness_words(fullness: tuple[int, int]) -> str:
    """How many notes the hands play, in words: "2 + 3 notes"."""
    return f"{fullness[0] or 'any'} + {fullness[1] or 'any'} notes" if any(fullness) else "as many notes as come"


def lift_words(by: int) -> str:
    """By how many semitones a part lies higher or lower than usual, in words: "a fourth higher"."""
    if not by:
        return "usual height"
    return f"{INTERVALS.get(abs(by), semitones(abs(by)))} {'higher' if by > 0 else 'lower'}"


def climb_words(by: int) -> str:
    """How far a part climbs or sinks from its first chord to its last, in words."""
    by_far = INTERVALS.get(abs(by), semitones(abs(by)))
    return f"{'climbs' if by > 0 else 'sinks'} by {by_far}" if by else "stays"


def family_words(families: tuple[str, ...]) -> str:
    """Some families in few words."""
    if not families:
        return "usual shapes"
    if len(families) > 1:
        return f"{len(families)} shapes"
    only = families[0]
    return shape_of(only).name if only in shape_ids() else "every shape" if only == ALL else only.partition(":")[2]


def two(words: dict[Any, str]) -> Callable[[Any], str]:
    return lambda value: words[value]
