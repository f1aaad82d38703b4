"""What becomes of the things kept at chords when a song is edited, transposed, or its chords are renamed."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from typing import Any, NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep, Part
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.song import NO_CHORD, Slot, Was
from yellow_hinge.core.song.transpose import symbol_moved
from yellow_hinge.core.symbols.chord import same_chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.takes.form import BarChords

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


class Rest(NamedTuple):
    """Why a thing does not hold now: at which slot (0: none is there), what it was for, and why."""

    slot: int
    words: str
    why: str


def transposed_notes(notes: tuple[int, ...], by: int) -> tuple[int, ...]:
    """Notes some semitones higher, an octave the other way where one would leave MIDI's range."""
    if notes and not (min(notes) + by >= 0 and max(notes) + by <= 127):
        by += 12 if by < 0 else -12
    return tuple(note + by for note in notes)


def keep_moved(keep: Keep, shift: Shift) -> Keep:
    both = transposed_notes((*keep.left, *keep.right), shift.by)
    count = len(keep.left)
    symbol = symbol_moved(keep.symbol, shift.old, shift.new)
    moved: Keep = msgspec.structs.replace(keep, symbol=symbol, left=both[:count], right=both[count:])
    return moved


def keep_rests(keep: Keep, song: There) -> Rest | None:
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


def keeps_in_pass(keeps: tuple[Keep, ...], own: PassId) -> tuple[Keep, ...]:
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


def wishes_in_pass(wishes: tuple[Wish, ...], own: PassId) -> tuple[Wish, ...]:
    found = (wish for wish in wishes if wish.turn in (None, own[1]) and wish.only in (None, own))
    return tuple(msgspec.structs.replace(wish, turn=None, only=None) for wish in found)


def held_renamed(held: HeldTop, ids: Ids) -> HeldTop | None:
    slots = tuple(ids[slot] for slot in held.slots if slot in ids)
    return HeldTop(slots, held.top) if slots else None


def held_moved(held: HeldTop, shift: Shift) -> HeldTop:
    return HeldTop(held.slots, transposed_notes((held.top,), shift.by)[0])


def place_of(name: str, in_pass: bool = False) -> Callable[[Any, Ids], Any]:
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


def is_gone(words: str, why: str, *ids: int, song: There) -> Rest | None:
    """That a thing rests whose places are all gone."""
    return None if song.ids.intersection(ids) or WHOLE_SONG in ids else Rest(0, words, why)


def was_moved(was: Was, shift: Shift) -> Was:
    return Was(was.slot, tuple(symbol_moved(symbol, shift.old, shift.new) for symbol in was.symbols))


def chords_moved(bar: BarChords, shift: Shift) -> BarChords:
    slots = tuple(
        msgspec.structs.replace(slot, symbol=symbol_moved(slot.symbol, shift.old, shift.new)) for slot in bar.slots
    )
    return BarChords(bar.bar, slots, bar.same)


def chord_words(bar: BarChords) -> str:
    return " ".join(slot.symbol for slot in bar.slots)[:40]


def chords_renamed(bar: BarChords, ids: Ids) -> BarChords | None:
    return None  # a pass that is written out has no bar that is not there
