"""What is kept, asked or said at a section, bar or chord, which it names by its id: one entry a kind, in KINDS.

Whatever happens to a song (edits, another key, takes, the mix, files) goes through that table, so that a new kind of
thing is one entry and is forgotten nowhere.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

import msgspec

from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.rhythm.asked import Fill, LinePiece, PlayWish
from yellow_hinge.core.song.following import all_ids
from yellow_hinge.core.song.song import Memo, Song, Was
from yellow_hinge.core.takes.form import BarChords, slots_of
from yellow_hinge.core.takes.thing_moves import (
    Ids,
    PassId,
    Rest,
    Shift,
    There,
    chord_words,
    chords_moved,
    chords_renamed,
    held_moved,
    held_renamed,
    is_gone,
    keep_moved,
    keep_rests,
    keeps_in_pass,
    place_of,
    was_moved,
    wishes_in_pass,
)

T = TypeVar("T")


def there(song: Song) -> There:
    """What a song has."""
    slots = {slot.id: (slot, section.the_key(song)) for section, _, slot in slots_of(song)}
    return There(frozenset(all_ids(song)), slots)


def _same(things: tuple[T, ...], own: PassId) -> tuple[T, ...]:
    return things


def _stays(thing: T, shift: Shift) -> T:
    return thing


@dataclass(frozen=True)
class ThingKind(Generic[T]):
    """A kind of thing. `ids` says what it stands at; `renamed` gives it new ids, None where nothing of it is left;
    `moved` puts it into another key, `sounds` where it does so with a key that chords in numbers follow; `rests` says
    why it does not hold; `in_pass` which of them hold in one pass of a section, said without that pass.
    """

    name: str  # in files
    type: type[T]
    ids: Callable[[T], tuple[int, ...]]
    renamed: Callable[[T, Ids], T | None]
    rests: Callable[[T, There], Rest | None]
    moved: Callable[[T, Shift], T] = _stays
    sounds: bool = False
    in_pass: Callable[[tuple[T, ...], PassId], tuple[T, ...]] = _same


class Things:
    """Things by their kind, unchanging."""

    __slots__ = ("_rows",)

    def __init__(self, rows: Mapping[str, tuple[Any, ...]] | None = None) -> None:
        self._rows: dict[str, tuple[Any, ...]] = {name: row for name, row in (rows or {}).items() if row}

    def of(self, kind: ThingKind[T]) -> tuple[T, ...]:
        """All things of a kind."""
        return self._rows.get(kind.name, ())

    def put(self, kind: ThingKind[T], row: tuple[T, ...]) -> Things:
        """With other things of a kind."""
        return self if row == self.of(kind) else Things(self._rows | {kind.name: row})

    def each(self, change: Callable[[ThingKind[Any], tuple[Any, ...]], tuple[Any, ...]]) -> Things:
        """With what `change` makes of every kind."""
        return Things({kind.name: change(kind, self.of(kind)) for kind in KINDS})

    @property
    def rows(self) -> dict[str, tuple[Any, ...]]:
        """The things by the names of their kinds."""
        return dict(self._rows)

    def all(self) -> Iterator[tuple[ThingKind[Any], Any]]:
        """Every thing with its kind."""
        return ((kind, thing) for kind in KINDS for thing in self.of(kind))

    @property
    def ids(self) -> frozenset[int]:
        """Every id that a thing stands at."""
        return frozenset(own for kind, thing in self.all() for own in kind.ids(thing))

    def __bool__(self) -> bool:
        return bool(self._rows)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Things) and self._rows == other._rows

    def __hash__(self) -> int:
        return hash(tuple(sorted((name, len(row)) for name, row in self._rows.items())))

    def __repr__(self) -> str:
        return f"Things({self._rows!r})"


def read_things(raw: Any, hook: Callable[[type, Any], Any]) -> Things:
    """Things out of a file's fields. Raises ValueError, which names the kind, for what is none."""
    if not isinstance(raw, dict):
        raise ValueError("things are lists by their kinds")
    known = {kind.name: kind for kind in KINDS}
    found = {}
    for name, row in raw.items():
        if name not in known:
            raise ValueError(f"{str(name)[:40]!r} is no kind of thing")
        try:
            found[name] = msgspec.convert(row, tuple[known[name].type, ...], dec_hook=hook)  # type: ignore[misc]
        except msgspec.ValidationError as error:
            raise ValueError(f"{name}: {error}") from None
    return Things(found)


# --- what happens to all kinds ---


def shifted(things: Things, shift: Shift) -> Things:
    """Things in another key."""
    return things.each(lambda kind, row: tuple(kind.moved(thing, shift) for thing in row))


def shifted_at(things: Things, shifts: Mapping[int, Shift]) -> Things:
    """Things that sound, at slots whose chords in numbers sound in another key now."""

    def moved(kind: ThingKind[Any], row: tuple[Any, ...]) -> tuple[Any, ...]:
        if not kind.sounds:
            return row
        at = [next((shifts[own] for own in kind.ids(thing)[:1] if own in shifts), None) for thing in row]
        return tuple(kind.moved(t, shift) if shift else t for t, shift in zip(row, at, strict=True))

    return things.each(moved)


def carried(things: Things, ids: Ids, own: PassId) -> Things:
    """What holds in one pass of a section that is written out, with the ids it has there."""

    def new(kind: ThingKind[Any], row: tuple[Any, ...]) -> tuple[Any, ...]:
        found = (kind.renamed(thing, ids) for thing in kind.in_pass(row, own))
        return tuple(thing for thing in found if thing is not None)

    return things.each(new)


def joined(mine: Things, theirs: Things, gone: frozenset[int], new: frozenset[int]) -> Things:
    """My things but at places that go, with another take's at places that come."""

    def both(kind: ThingKind[Any], row: tuple[Any, ...]) -> tuple[Any, ...]:
        rest = tuple(thing for thing in row if not gone.intersection(kind.ids(thing)))
        return (*rest, *(thing for thing in theirs.of(kind) if new.intersection(kind.ids(thing))))

    return mine.each(both)


def added(one: Things, other: Things) -> Things:
    """The things of both."""
    return one.each(lambda kind, row: (*row, *other.of(kind)))


def without(things: Things, gone: tuple[Any, ...]) -> Things:
    """Things but for some."""
    return things.each(lambda kind, row: tuple(thing for thing in row if thing not in gone))


# --- the kinds ---


KEEPS = ThingKind(
    "keeps", Keep, lambda k: (k.slot, k.only[0]) if k.only else (k.slot,), place_of("slot", in_pass=True), keep_rests,
    keep_moved, sounds=True, in_pass=keeps_in_pass,
)  # fmt: skip
WISHES = ThingKind(
    "wishes", Wish, lambda wish: (wish.at,), place_of("at", in_pass=True),
    lambda wish, song: is_gone("a wish", "its place is gone", wish.at, song=song), in_pass=wishes_in_pass,
)  # fmt: skip
HELD = ThingKind(
    "held", HeldTop, lambda held: held.slots, held_renamed,
    lambda held, song: is_gone("a held top", "its chords are gone", *held.slots, song=song), held_moved, sounds=True,
)  # fmt: skip
PLAYED = ThingKind(
    "patterns", PlayWish, lambda wish: (wish.at,), place_of("at"),
    lambda wish, song: is_gone("a pattern", "its place is gone", wish.at, song=song),
)  # fmt: skip
FILLS = ThingKind(
    "fills", Fill, lambda fill: (fill.slot,), place_of("slot"),
    lambda fill, song: is_gone("a fill", "its chord is gone", fill.slot, song=song),
)  # fmt: skip
LINES = ThingKind(
    "lines", LinePiece, lambda piece: (piece.slot,), place_of("slot"),
    lambda piece, song: is_gone("a line", "its chord is gone", piece.slot, song=song),
)  # fmt: skip
MEMOS = ThingKind(
    "memos", Memo, lambda memo: (memo.slot,), place_of("slot"),
    lambda memo, song: is_gone(f"the note {memo.words[:40]!r}", "its chord is gone", memo.slot, song=song),
)  # fmt: skip
WAS = ThingKind("was", Was, lambda was: (was.slot,), place_of("slot"), lambda was, song: None, was_moved)
# A take's own chords of a bar that the song does not have now.
AWAY = ThingKind(
    "away", BarChords, lambda bar: (bar.bar,), chords_renamed,
    lambda bar, song: is_gone(chord_words(bar), "its bar is gone", bar.bar, song=song),
    chords_moved,
)  # fmt: skip
# Hands that a song remembers from other prices: they stand as keeps, rest unsaid, and a mix is solved without them.
KNOWN = ThingKind(
    "known", Keep, lambda k: (k.slot,), place_of("slot", in_pass=True), lambda keep, song: None, keep_moved,
    sounds=True, in_pass=lambda keeps, own: (),
)  # fmt: skip
KINDS: tuple[ThingKind[Any], ...] = (KEEPS, WISHES, HELD, PLAYED, FILLS, LINES, MEMOS, WAS, AWAY, KNOWN)
