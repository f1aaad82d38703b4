"""Manners of playing, read from manners.toml: what a hymn, a ballad or a rhythm section asks of the hands."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import msgspec

from yellow_hinge.core.leading.prices.weights import Weights
from yellow_hinge.core.song.song import Meter
from yellow_hinge.core.tables import Entries, made_of_entries, read_table

NONE = "none"  # the manner of a player who wants none, whatever the song asks for


class Families(msgspec.Struct, frozen=True):
    """The families that are usual in a manner, by who has the bass; () for the usual ones of all."""

    mine: tuple[str, ...] = ()
    theirs: tuple[str, ...] = ()


class Patterns(msgspec.Struct, frozen=True):
    """The usual patterns of a manner, by their ids: of any meter, of dotted beats and of three beats; "" as of any."""

    usual: str
    dotted: str = ""
    three: str = ""

    def of(self, meter: Meter) -> str:
        """The pattern for a meter."""
        own = self.dotted if meter.compound else self.three if meter.beats == 3 else ""
        return own or self.usual


class Likes(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """Kinds of substitutes (their ids, with spaces between) by how much a manner likes them."""

    high: str
    medium: str
    low: str
    never: str


class Manner(msgspec.Struct, frozen=True):
    """One manner; the fields are explained at the head of manners.toml."""

    id: str
    name: str
    words: str
    patterns: Patterns
    bass: Literal["mine", "theirs"]
    right: Literal["plays", "free"]
    melody: Literal["free", "top"]
    colour: int
    style: str
    fullness: tuple[int, int]
    likes: Likes
    families: Families = Families()
    gap_over: int = Weights().gap_over
    parts: int = 0
    bare: float = Weights().bare
    same_size: float = 0.0
    parallel: float = 0.0
    outer_parallel: float = 0.0
    similar: float = 0.0
    like: str = ""  # the id of the one that a player's own was made from


class _File(msgspec.Struct, frozen=True):
    manner: tuple[Manner, ...]


@lru_cache(maxsize=1)
def _shipped() -> dict[str, Manner]:
    return {manner.id: manner for manner in read_table(__file__, _File).manner}


_MANNERS = Entries(_shipped)


def manners() -> Entries[Manner]:
    """Every manner by its id, in the order of the data file, the player's own last."""
    return _MANNERS


def manner_named(name: str) -> Manner | None:
    """The manner of an id, None where there is none; the data is not read for no name."""
    return manners().get(name) if name else None


def kin_of(name: str) -> str:
    """The id of the manner that ships which one is like: itself, unless it is the player's own."""
    known = _MANNERS.own.get(name) if _MANNERS.own else None
    return known.like if known is not None else name


def manner_id(text: str) -> str:
    """The id of the manner that a player writes by name or id, in any case; other text as it is."""
    if not text:
        return ""
    wanted = text.strip().lower().replace(" ", "-")
    return next((m.id for m in manners().values() if wanted in (m.id, m.name.lower().replace(" ", "-"))), text)


@made_of_entries
@lru_cache(maxsize=256)
def in_manner(weights: Weights, manner: str) -> Weights:
    """A style's prices as a manner has them; unchanged where none of that id is known."""
    found = manner_named(manner)
    if found is None:
        return weights
    prices: Weights = msgspec.structs.replace(
        weights,
        gap_over=found.gap_over,
        bare=max(weights.bare, found.bare),
        enter=weights.enter + found.same_size,
        leave=weights.leave + found.same_size,
        parallel=max(weights.parallel, found.parallel),
        outer_parallel=max(weights.outer_parallel, found.outer_parallel),
        similar=max(weights.similar, found.similar),
    )
    return prices
