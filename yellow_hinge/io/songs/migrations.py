"""Older versions of the song file, brought to the newest step by step."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.takes.known import KnownHands
from yellow_hinge.core.takes.take import Whole
from yellow_hinge.core.takes.things import Things, read_things
from yellow_hinge.io.songs.old_songs import whole_of_10
from yellow_hinge.io.songs.places import in_letters, with_named

FORMAT = "yellow-hinge-song"
VERSION = 11


def _from_1(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 2 only added fields with defaults: endings, own keys and meters, pickup, ties, kept lines."""
    return fields


def _from_2(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 3 only added fields with defaults: wishes, held tops, the melody's place, the singer, own shapes, parts
    of a keep.
    """
    return fields


def _from_3(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 4 only added a field with a default: what chords were before."""
    return fields


def _from_5(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 6 has who plays apart from what is asked, and manners."""
    first = {
        "style": "Smoothest",
        "melody": "free",
        "fullness": [0, 0],
        "right": "plays",
    }  # was written without being said
    setup = {name: value for name, value in fields.get("setup", {}).items() if first.get(name) != value}
    player = {name: setup.pop(name) for name in ("hands", "singer", "shapes") if name in setup}
    return fields | {"setup": setup | {"player": player}}


def _from_6(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 7 only added a field with a default: how the song is played."""
    return fields


def _from_7(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 8 only added fields with defaults: takes, their mix, and what is kept and asked of one pass."""
    return fields


def _from_8(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 9 only added a field with a default: the player's notes on chords and song."""
    return fields


def _from_10(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 11 has what all takes share once, and what is a take's own in its content."""
    found = file_with(whole_of_10(fields, decode_hook), str(fields.get("document", "")))
    made: dict[str, Any] = msgspec.to_builtins(found, enc_hook=encode_hook)
    return made


# How a file of each older version becomes one of the next.
MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _from_1, 2: _from_2, 3: _from_3, 4: with_named, 5: _from_5, 6: _from_6, 7: _from_7, 8: _from_8, 9: in_letters,
    10: _from_10,
}  # fmt: skip


class SongFile(Whole, frozen=True, dict=True):
    """All that is saved of one song. The `text` of the take shown is chart text that could not be read yet, as typed,
    or ""; `document` names the document wherever its file goes, "" until it is first saved; `hands` are those
    that its takes were last solved with.
    """

    document: str = ""
    hands: tuple[KnownHands, ...] = ()
    format: str = FORMAT
    version: int = VERSION


def file_with(whole: Whole, document: str = "", hands: tuple[KnownHands, ...] = ()) -> SongFile:
    """The file of a song."""
    return SongFile(whole.form, whole.takes, whole.take, whole.last_take, whole.mix, document, hands)


def encode_hook(value: object) -> object:
    """How JSON writes beats (whole numbers as such, others as fractions in a string) and things (lists by kinds)."""
    if isinstance(value, Fraction):
        return value.numerator if value.denominator == 1 else str(value)
    if isinstance(value, Things):
        return value.rows
    raise NotImplementedError(f"cannot write {type(value).__name__}")


def decode_hook(kind: type, value: Any) -> Any:
    """Beats and things from JSON. Raises ValueError, which the reader turns into a fault with its place."""
    if kind is Things:
        return read_things(value, decode_hook)
    if kind is not Fraction:
        raise NotImplementedError(f"cannot read {kind.__name__}")
    if isinstance(value, bool) or not isinstance(value, (int, float, str)) or len(str(value)) > 24:
        raise ValueError("beats are a number or a fraction such as 4/3")
    try:
        beats = Fraction(value)
    except (ZeroDivisionError, OverflowError):
        raise ValueError("beats are a number or a fraction such as 4/3") from None
    if not 0 <= beats <= 1000 or beats.denominator > 10_000 or not math.isfinite(beats):
        raise ValueError("beats lie between 0 and 1000")
    return beats


def migrated(fields: dict[str, Any], old: int) -> dict[str, Any]:
    """The fields of a file of version `old` as of the next. Raises UserError where they are not what they should be."""
    try:
        return MIGRATIONS[old](fields) | {"version": old + 1}
    except (TypeError, KeyError, IndexError, ValueError, AttributeError, ZeroDivisionError) as error:
        raise UserError(f"a field of version {old} is missing or of another kind ({type(error).__name__})") from None
