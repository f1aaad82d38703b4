"""The kinds of lead-ins and fills, read from fills.toml, and the player's own notes as a kind of theirs."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.tables import Entries, read_table

Into = Literal["top", "bass", "hand", "hands", "inside", "run", "low", "tune"]
LEAD_INS = ("top", "bass", "hand", "hands")  # what begins before the chord
_OWN = re.compile(r"own (top|bass)((?: h[+-]\d{1,2}){1,8})")
OWN = "own "  # what the id of a kind of the player's own begins with
OWN_BEATS = 0.5
FARTHEST_OWN = 24  # semitones from what it leads into
MOST_OWN = 8  # notes


class FillKind(msgspec.Struct, frozen=True):
    """One kind of fill; the fields are explained at the head of fills.toml."""

    id: str
    name: str
    words: str
    into: Into
    steps: tuple[str, ...]
    beats: float = 0.0
    double: Literal["", "third", "sixth", "octave", "tenth"] = ""
    goal: str = ""
    manners: tuple[str, ...] = ()
    ends: bool = False

    @property
    def hand(self) -> str:
        """The hand that plays it, of those that play both the right one."""
        return "left" if self.into in ("bass", "low") else "right"

    @property
    def leads_in(self) -> bool:
        """Whether it begins before its chord."""
        return self.into in LEAD_INS


class _File(msgspec.Struct, frozen=True):
    fill: tuple[FillKind, ...]


@lru_cache(maxsize=1)
def fill_kinds() -> dict[str, FillKind]:
    """Every kind by its id, in the order of the data file."""
    return {kind.id: kind for kind in read_table(__file__, _File, "fills.toml").fill}


OWN_FILLS: Entries[FillKind] = Entries(dict, hands=False)  # by their ids


@lru_cache(maxsize=512)
def fill_kind(name: str) -> FillKind | None:
    """The kind of an id, one of the table's or the player's own notes; None for none."""
    known, own = fill_kinds().get(name), _OWN.fullmatch(name)
    if known is not None or own is None:
        return known
    into: Into = "bass" if own[1] == "bass" else "top"
    words = "as you gave them, moved along with the chord"
    return FillKind(name, "Notes of your own", words, into, tuple(own[2].split()), OWN_BEATS)


def own_notes(into: Literal["top", "bass"], target: int, midis: tuple[int, ...]) -> str:
    """The id of the kind that leads by notes (MIDI) of the player's own into a top note or bass. Raises UserError for
    none, too many, or ones that lie too far off.
    """
    if not 1 <= len(midis) <= MOST_OWN:
        raise UserError("a lead-in of your own has one to eight notes")
    if any(abs(midi - target) > FARTHEST_OWN for midi in midis):
        raise UserError("a lead-in of your own stays within two octaves of what it leads into")
    return f"own {into} {' '.join(f'h{midi - target:+d}' for midi in midis)}"
