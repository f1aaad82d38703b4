"""What the player kept, asked for or changed, carried through edits of the song: nothing is dropped. What names a chord
that changed or went rests, and comes back with it.
"""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chord import same_chord
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.following import Piece, all_ids, pieces, with_ids
from yellow_hinge.core.key import Key, shift_to
from yellow_hinge.core.leading.keeps import HeldTop, Keep, Part
from yellow_hinge.core.leading.setup import Setup, Wish
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, Fill, Playing, PlayWish
from yellow_hinge.core.song import NO_CHORD, Bar, Slot, Song, Was, beat_of, slot_on
from yellow_hinge.core.symbol import parse_symbol
from yellow_hinge.core.transpose import symbol_moved

# How the label of an edit says which part of a chord it is about.
PART_WORDS: dict[Part, str] = {
    "chord": "",
    "left": "the left hand of ",
    "right": "the right hand of ",
    "top": "the top note of ",
    "bass": "the bass of ",
}
ONCE = "once"  # beside the kept parts: something is kept for one pass alone
LONGEST_STORY = 24
MOST_GONE = 2000


def here_and_gone(
    old: Song, new: Song, named: frozenset[int], gone: tuple[Piece, ...]
) -> tuple[Song, tuple[Piece, ...]]:
    """The new song with what is written again under its old id, and everything named that is not in it. What this edit
    took away and put elsewhere is the same; what went earlier comes back beside a neighbour that it had.
    """
    if not named and not gone:
        return new, ()
    before, after = pieces(old), pieces(new)
    lost = [before[own] for own in sorted(named) if own in before and own not in after]
    earlier = [piece for piece in gone if piece.id in named and piece.id not in after]
    fresh = {own: piece for own, piece in after.items() if own not in before}
    instead: dict[int, int] = {}
    for piece, moved in [*((p, True) for p in lost), *((p, False) for p in earlier)]:
        found = _again(piece, fresh, moved)
        if found is not None:
            instead[found] = piece.id
            del fresh[found]
    back = set(instead.values())
    away = tuple(piece for piece in (*lost, *earlier) if piece.id not in back)
    return with_ids(new, instead), away[:MOST_GONE]


def _again(piece: Piece, fresh: dict[int, Piece], moved: bool) -> int | None:
    """The fresh piece that is a lost one written again, or None."""
    same = [p for p in fresh.values() if p.kind == piece.kind and p.words == piece.words]
    if piece.kind == "section":
        return same[0].id if same else None
    beside = {id_ for id_ in (piece.before, piece.after) if id_}
    near = [p for p in same if beside & {p.before, p.after} or (piece.before == 0 == p.before)]
    chosen = near or (same if moved else [])
    return chosen[0].id if chosen else None


def held_through(setup: Setup, old: Song, new: Song) -> Setup:
    """The wishes, with held tops that go on over chords put between those they hold through."""
    if not setup.held:
        return setup
    was = {piece.id for piece in pieces(old).values() if piece.kind == "slot"}
    order = [slot.id for section in new.sections for bar in section.bars for slot in bar.slots]
    held = tuple(HeldTop(_with_between(top.slots, order, was), top.top) for top in setup.held)
    found: Setup = msgspec.structs.replace(setup, held=held)
    return found


def _with_between(slots: tuple[int, ...], order: list[int], was: set[int]) -> tuple[int, ...]:
    places = [place for place, own in enumerate(order) if own in slots]
    between = [own for own in order[places[0] : places[-1]] if own not in was] if places else []
    return (*slots, *(own for own in between if own not in slots))


# --- another key -------------------------------------------------------------------------------------------------


class Kept(NamedTuple):
    """What moves with a song into another key."""

    setup: Setup
    keeps: tuple[Keep, ...]
    was: tuple[Was, ...]


def shifted(setup: Setup, keeps: tuple[Keep, ...], was: tuple[Was, ...], by: int, songs: tuple[Song, Song]) -> Kept:
    """Keeps, held tops and stories moved by some semitones, as the song was from the first of `songs` to the second."""
    old, new = (song.the_key for song in songs)
    held = tuple(HeldTop(top.slots, _moved((top.top,), by)[0]) for top in setup.held)
    return Kept(
        msgspec.structs.replace(setup, held=held),
        tuple(_shifted_keep(keep, by, old, new) for keep in keeps),
        tuple(Was(w.slot, tuple(symbol_moved(symbol, old, new) for symbol in w.symbols)) for w in was),
    )


def _shifted_keep(keep: Keep, by: int, old: Key, new: Key) -> Keep:
    both = _moved((*keep.left, *keep.right), by)
    count = len(keep.left)
    moved: Keep = msgspec.structs.replace(
        keep, symbol=symbol_moved(keep.symbol, old, new), left=both[:count], right=both[count:]
    )
    return moved


def _moved(notes: tuple[int, ...], by: int) -> tuple[int, ...]:
    """Notes some semitones higher, an octave the other way where one would leave MIDI's range."""
    if notes and not (min(notes) + by >= 0 and max(notes) + by <= 127):
        by += 12 if by < 0 else -12
    return tuple(note + by for note in notes)


def moved_with_keys(setup: Setup, keeps: tuple[Keep, ...], old: Song, new: Song) -> Kept:
    """Keeps and held tops of chords in numbers, moved where the key over them is another one now: the numbers stay
    written, and sound elsewhere.
    """
    if old.key == new.key and [s.key for s in old.sections] == [s.key for s in new.sections]:
        return Kept(setup, keeps, ())
    before, after = _in_numbers(old), _in_numbers(new)
    keys = {
        own: (before[own][1], after[own][1])
        for own in before.keys() & after.keys()
        if before[own][0] == after[own][0] and before[own][1] != after[own][1]
    }

    def by(own: int) -> int:
        return shift_to(*keys[own]) if own in keys else 0

    moved = tuple(_shifted_keep(k, by(k.slot), *keys[k.slot]) if k.slot in keys else k for k in keeps)
    held = tuple(HeldTop(top.slots, _moved((top.top,), by(top.slots[0]))[0]) for top in setup.held if top.slots)
    return Kept(msgspec.structs.replace(setup, held=held), moved, ())


def _in_numbers(song: Song) -> dict[int, tuple[str, Key]]:
    """(symbol, key) of every slot that is written in numbers, by its id."""
    return {
        slot.id: (slot.symbol, section.the_key(song))
        for section in song.sections
        for bar in section.bars
        for slot in bar.slots
        if slot.symbol != NO_CHORD and slot.symbol[:1] not in "ABCDEFG"
    }


# --- what chords were --------------------------------------------------------------------------------------------


class _Written(NamedTuple):
    slot: Slot
    key: Key
    bar: Bar
    beat: Fraction


def _written(song: Song) -> dict[int, _Written]:
    return {
        slot.id: _Written(slot, section.the_key(song), bar, beat_of(bar, i))
        for section in song.sections
        for bar in section.bars
        for i, slot in enumerate(bar.slots)
    }


def told_again(was: tuple[Was, ...], old: Song, new: Song) -> tuple[Was, ...]:
    """The stories of the chords, gone on: a chord that changed was another one, and one that took a part of its bar was
    the chord that sounded there. A chord spelled otherwise, or in a key that moved with it, is the same.
    """
    before = {story.slot: story.symbols for story in was}
    stories = dict(before)
    olds = _written(old)
    bars = {bar.id: bar for section in old.sections for bar in section.bars}
    for own, here in _written(new).items():
        there = olds.get(own)
        if there is None and here.bar.id in bars:
            earlier = bars[here.bar.id]
            index = slot_on(earlier, here.beat)
            there = None if index is None else olds[earlier.slots[index].id]
        if there is None or there.slot.symbol == here.slot.symbol or _same(there, here):
            if there is not None and there.slot.id in before:
                stories[own] = before[there.slot.id]
            continue
        stories[own] = (*before.get(there.slot.id, ()), there.slot.symbol)[-LONGEST_STORY:]
    return tuple(Was(slot, symbols) for slot, symbols in sorted(stories.items()) if symbols)


def _same(one: _Written, other: _Written) -> bool:
    if NO_CHORD in (one.slot.symbol, other.slot.symbol):
        return one.slot.symbol == other.slot.symbol
    try:
        return same_chord(parse_symbol(one.slot.symbol, one.key), parse_symbol(other.slot.symbol, other.key))
    except UserError:
        return False


# --- resting -----------------------------------------------------------------------------------------------------


class Resting(NamedTuple):
    """Something the player kept or asked for that does not hold now: of which slot ("" chord or 0: none is there), what
    chord it was for, why it rests, and the thing itself.
    """

    slot: int
    words: str
    why: str
    what: Keep | Wish | HeldTop | PlayWish | Fill


def resting(setup: Setup, keeps: tuple[Keep, ...], playing: Playing, song: Song) -> tuple[Resting, ...]:
    """All that rests in a song."""
    if not (keeps or setup.wishes or setup.held or playing.wishes or playing.fills):
        return ()
    there, slots = set(all_ids(song)), _written(song)
    found = []
    for keep in keeps:
        here = slots.get(keep.slot)
        if here is None:
            found.append(Resting(0, f"{PART_WORDS[keep.part]}{keep.symbol}", "its chord is gone", keep))
        elif keep.only is not None and keep.only[0] not in there:
            found.append(Resting(keep.slot, f"{PART_WORDS[keep.part]}{keep.symbol}", "its pass is gone", keep))
        elif not _is_kept(keep, here):
            why = f"the chord is {here.slot.symbol} now"
            found.append(Resting(keep.slot, f"{PART_WORDS[keep.part]}{keep.symbol}", why, keep))
    found += [Resting(0, "a wish", "its place is gone", wish) for wish in setup.wishes if wish.at not in there]
    there.add(WHOLE_SONG)
    found += [Resting(0, "a pattern", "its place is gone", wish) for wish in playing.wishes if wish.at not in there]
    found += [Resting(0, "a fill", "its chord is gone", fill) for fill in playing.fills if fill.slot not in there]
    gone = [held for held in setup.held if not there & set(held.slots)]
    return (*found, *(Resting(0, "a held top", "its chords are gone", held) for held in gone))


def _is_kept(keep: Keep, here: _Written) -> bool:
    if here.slot.symbol == NO_CHORD:
        return False
    try:
        return same_chord(parse_symbol(keep.symbol, here.key), parse_symbol(here.slot.symbol, here.key))
    except UserError:
        return False
