"""What is kept, asked or said at a section, bar or chord, which it names by its id: one entry a kind, in KINDS.

Whatever happens to a song (edits, another key, takes, the mix, files) goes through that table, so that a new kind of
thing is one entry and is forgotten nowhere.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Generic, NamedTuple, TypeVar

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep, Part
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, Fill, LinePiece, PlayWish
from yellow_hinge.core.song.following import all_ids
from yellow_hinge.core.song.song import NO_CHORD, Memo, Slot, Song, Was
from yellow_hinge.core.song.transpose import symbol_moved
from yellow_hinge.core.symbols.chord import same_chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.takes.form import BarChords, slots_of

T = TypeVar("T")
PassId = tuple[int, int]  # see Moment.pass_id
Ids = Mapping[int, int]  # new ids by old ones
# How words say which part of a chord they are about.
PART_WORDS: dict[Part, str] = {
    "chord": "",
    "left": "the left hand of ",
    "right": "the right hand of ",
    "top": "the top note of ",
    "bass": "the bass of ",
}


class Shift(NamedTuple):
    """From one key into another, by some semitones."""

    by: int
    old: Key
    new: Key


class There(NamedTuple):
    """What a song has: its ids, and every slot with the key over it."""

    ids: frozenset[int]
    slots: dict[int, tuple[Slot, Key]]


def there(song: Song) -> There:
    """What a song has."""
    slots = {slot.id: (slot, section.the_key(song)) for section, _, slot in slots_of(song)}
    return There(frozenset(all_ids(song)), slots)


class Rest(NamedTuple):
    """Why a thing does not hold now: at which slot (0: none is there), what it was for, and why."""

    slot: int
    words: str
    why: str


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


def transposed_notes(notes: tuple[int, ...], by: int) -> tuple[int, ...]:
    """Notes some semitones higher, an octave the other way where one would leave MIDI's range."""
    if notes and not (min(notes) + by >= 0 and max(notes) + by <= 127):
        by += 12 if by < 0 else -12
    return tuple(note + by for note in notes)


def _keep_moved(keep: Keep, shift: Shift) -> Keep:
    both = transposed_notes((*keep.left, *keep.right), shift.by)
    count = len(keep.left)
    symbol = symbol_moved(keep.symbol, shift.old, shift.new)
    moved: Keep = msgspec.structs.replace(keep, symbol=symbol, left=both[:count], right=both[count:])
    return moved


def _keep_rests(keep: Keep, song: There) -> Rest | None:
    words = f"{PART_WORDS[keep.part]}{keep.symbol}"
    here = song.slots.get(keep.slot)
    if here is None:
        return Rest(0, words, "its chord is gone")
    if keep.only is not None and keep.only[0] not in song.ids:
        return Rest(keep.slot, words, "its pass is gone")
    slot, key = here
    if slot.symbol != NO_CHORD:
        try:
            if same_chord(parse_symbol(keep.symbol, key), parse_symbol(slot.symbol, key)):
                return None
        except UserError:
            pass
    return Rest(keep.slot, words, f"the chord is {slot.symbol} now")


def _keeps_in_pass(keeps: tuple[Keep, ...], own: PassId) -> tuple[Keep, ...]:
    """What is kept for a pass alone comes last, overrules the rest, and is for it here."""
    found = [keep for keep in keeps if keep.only in (None, own)]
    only = {(keep.slot, keep.part) for keep in found if keep.only is not None}
    return tuple(
        msgspec.structs.replace(keep, only=None)
        for keep in found
        if keep.only is not None or not _overruled(keep, only)
    )


def _overruled(keep: Keep, only: Collection[tuple[int, str]]) -> bool:
    """Whether what is kept at (slot, part) for one pass alone covers a keep for every pass."""
    if keep.part == "chord":
        return any(slot == keep.slot for slot, _ in only)
    return (keep.slot, keep.part) in only or (keep.slot, "chord") in only


def _wishes_in_pass(wishes: tuple[Wish, ...], own: PassId) -> tuple[Wish, ...]:
    found = (wish for wish in wishes if wish.turn in (None, own[1]) and wish.only in (None, own))
    return tuple(msgspec.structs.replace(wish, turn=None, only=None) for wish in found)


def _held_renamed(held: HeldTop, ids: Ids) -> HeldTop | None:
    slots = tuple(ids[slot] for slot in held.slots if slot in ids)
    return HeldTop(slots, held.top) if slots else None


def _held_moved(held: HeldTop, shift: Shift) -> HeldTop:
    return HeldTop(held.slots, transposed_notes((held.top,), shift.by)[0])


def _at(name: str, in_pass: bool = False) -> Callable[[Any, Ids], Any]:
    """Renaming of a thing that stands at one id, in a field of that name, and with `in_pass` in one pass alone."""

    def renamed(thing: Any, ids: Ids) -> Any:
        own = getattr(thing, name)
        if own not in ids:
            return None
        new: dict[str, Any] = {name: ids[own]}
        if in_pass and thing.only is not None:
            new["only"] = (ids.get(thing.only[0], 0), thing.only[1])
        return msgspec.structs.replace(thing, **new)

    return renamed


def _gone(words: str, why: str, *ids: int, song: There) -> Rest | None:
    """That a thing rests whose places are all gone."""
    return None if song.ids.intersection(ids) or WHOLE_SONG in ids else Rest(0, words, why)


def _was_moved(was: Was, shift: Shift) -> Was:
    return Was(was.slot, tuple(symbol_moved(symbol, shift.old, shift.new) for symbol in was.symbols))


def _chords_moved(bar: BarChords, shift: Shift) -> BarChords:
    slots = tuple(
        msgspec.structs.replace(slot, symbol=symbol_moved(slot.symbol, shift.old, shift.new)) for slot in bar.slots
    )
    return BarChords(bar.bar, slots, bar.same)


def _chord_words(bar: BarChords) -> str:
    return " ".join(slot.symbol for slot in bar.slots)[:40]


def _chords_renamed(bar: BarChords, ids: Ids) -> BarChords | None:
    return None  # a pass that is written out has no bar that is not there


KEEPS = ThingKind(
    "keeps", Keep, lambda k: (k.slot, k.only[0]) if k.only else (k.slot,), _at("slot", in_pass=True), _keep_rests,
    _keep_moved, sounds=True, in_pass=_keeps_in_pass,
)  # fmt: skip
WISHES = ThingKind(
    "wishes", Wish, lambda wish: (wish.at,), _at("at", in_pass=True),
    lambda wish, song: _gone("a wish", "its place is gone", wish.at, song=song), in_pass=_wishes_in_pass,
)  # fmt: skip
HELD = ThingKind(
    "held", HeldTop, lambda held: held.slots, _held_renamed,
    lambda held, song: _gone("a held top", "its chords are gone", *held.slots, song=song), _held_moved, sounds=True,
)  # fmt: skip
PLAYED = ThingKind(
    "patterns", PlayWish, lambda wish: (wish.at,), _at("at"),
    lambda wish, song: _gone("a pattern", "its place is gone", wish.at, song=song),
)  # fmt: skip
FILLS = ThingKind(
    "fills", Fill, lambda fill: (fill.slot,), _at("slot"),
    lambda fill, song: _gone("a fill", "its chord is gone", fill.slot, song=song),
)  # fmt: skip
LINES = ThingKind(
    "lines", LinePiece, lambda piece: (piece.slot,), _at("slot"),
    lambda piece, song: _gone("a line", "its chord is gone", piece.slot, song=song),
)  # fmt: skip
MEMOS = ThingKind(
    "memos", Memo, lambda memo: (memo.slot,), _at("slot"),
    lambda memo, song: _gone(f"the note {memo.words[:40]!r}", "its chord is gone", memo.slot, song=song),
)  # fmt: skip
WAS = ThingKind("was", Was, lambda was: (was.slot,), _at("slot"), lambda was, song: None, _was_moved)
# A take's own chords of a bar that the song does not have now.
AWAY = ThingKind(
    "away", BarChords, lambda bar: (bar.bar,), _chords_renamed,
    lambda bar, song: _gone(_chord_words(bar), "its bar is gone", bar.bar, song=song),
    _chords_moved,
)  # fmt: skip
# Hands that a song remembers from other prices: they stand as keeps, rest unsaid, and a mix is solved without them.
KNOWN = ThingKind(
    "known", Keep, lambda k: (k.slot,), _at("slot", in_pass=True), lambda keep, song: None, _keep_moved, sounds=True,
    in_pass=lambda keeps, own: (),
)  # fmt: skip
KINDS: tuple[ThingKind[Any], ...] = (KEEPS, WISHES, HELD, PLAYED, FILLS, LINES, MEMOS, WAS, AWAY, KNOWN)
