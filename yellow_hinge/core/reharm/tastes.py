"""What each manner thinks of each kind of substitute, and how many of a kind a song bears (design: manners, a.1)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import lru_cache
from typing import get_args

import msgspec

from yellow_hinge.core.leading.asking.manners import Manner, manners
from yellow_hinge.core.reharm.table import SUBSTITUTES, Level, Substitute
from yellow_hinge.core.tables import made_of_entries

LIKED: dict[Level, float] = {"high": 3.0, "medium": 1.0, "low": 0.3, "never": 0.0}
USUAL = LIKED["medium"]  # where no manner is played in


def _said(manner: Manner, kinds: Iterable[Substitute]) -> Iterator[tuple[str, Level]]:
    """(kind, level) of everything that is said of a manner: in its own entry, and in the rows of kinds."""
    entry = msgspec.structs.asdict(manner.likes)
    for level in get_args(Level):
        yield from ((name, level) for name in entry[level].split())
    for kind in kinds:
        yield from ((kind.id, level) for name, level in kind.likes if name == manner.id)


def likes_of(known: Iterable[Manner], kinds: tuple[Substitute, ...]) -> dict[str, dict[str, float]]:
    """How much each manner likes each kind, by their ids. Raises ValueError where one is said twice or not at all, or
    where there is no such kind.
    """
    found: dict[str, dict[str, float]] = {}
    for manner in known:
        said = list(_said(manner, kinds))
        found[manner.id] = {name: LIKED[level] for name, level in said}
        wanted, names = sorted(kind.id for kind in kinds), sorted(name for name, _ in said)
        if names != wanted:
            wrong = {name for name in (*names, *wanted) if names.count(name) != wanted.count(name)}
            raise ValueError(f"manner {manner.id} has to like each kind of substitute once: {', '.join(sorted(wrong))}")
    return found


@made_of_entries
@lru_cache(maxsize=1)
def _likes() -> dict[str, dict[str, float]]:
    kinds = tuple(SUBSTITUTES.values())
    return {manner.id: {name: LIKED[level] for name, level in _said(manner, kinds)} for manner in manners().values()}


likes_of(  # complete, or refused as this is loaded
    (manner for manner in manners().values() if manner.id not in manners().own),
    tuple(kind for kind in SUBSTITUTES.values() if kind.id not in SUBSTITUTES.own),
)


def liked(kind: str, manner: str) -> float:
    """How likely a kind is in a manner: 3 high, 1 medium or where nothing is played in, 0.3 low, 0 never."""
    return _likes().get(manner, {}).get(kind, USUAL)


def most(kind: str, bars: int) -> int:
    """How many of a kind a song of so many bars bears."""
    known = SUBSTITUTES.get(kind)
    return max(1, -(-bars // known.share)) if known is not None and known.share else bars
