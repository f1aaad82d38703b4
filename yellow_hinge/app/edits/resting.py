"""What the player kept, asked for or changed, carried through edits of the song: nothing is dropped. What names a chord
that changed or went rests, and comes back with it.
"""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from typing import Any, NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import HeldTop
from yellow_hinge.core.pitch.key import Key, shift_to
from yellow_hinge.core.song.following import Piece, pieces, with_ids
from yellow_hinge.core.song.song import NO_CHORD, Bar, Slot, Song, Was, beat_of, slot_on
from yellow_hinge.core.symbols.chord import same_chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.takes.form import bars_of, slots_of
from yellow_hinge.core.takes.take import Whole, take_song
from yellow_hinge.core.takes.thing_moves import Shift
from yellow_hinge.core.takes.things import HELD, Things, shifted_at, there

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
    lost = [before[own] for own in sorted(named & before.keys() - after.keys())]
    earlier = [piece for piece in gone if piece.id in named - after.keys()]
    fresh = {own: piece for own, piece in after.items() if own not in before}
    instead = _written_again(lost, earlier, fresh)
    back = set(instead.values())
    away = tuple(piece for piece in (*lost, *earlier) if piece.id not in back)
    return with_ids(new, instead), away[:MOST_GONE]


def _written_again(lost: list[Piece], earlier: list[Piece], fresh: dict[int, Piece]) -> dict[int, int]:
    """The old id of every fresh piece that is one that was lost now or earlier."""
    instead: dict[int, int] = {}
    for piece in (*lost, *earlier):
        found = _again(piece, fresh, moved=piece in lost)
        if found is not None:
            instead[found] = piece.id
            del fresh[found]
    return instead


def _again(piece: Piece, fresh: dict[int, Piece], moved: bool) -> int | None:
    """The fresh piece that is a lost one written again, or None."""
    same = [p for p in fresh.values() if p.kind == piece.kind and p.words == piece.words]
    if piece.kind == "section":
        return same[0].id if same else None
    chosen = [p for p in same if _lies_by(p, piece)] or (same if moved else [])
    return chosen[0].id if chosen else None


def _lies_by(fresh: Piece, piece: Piece) -> bool:
    beside = {piece.before, piece.after} - {0}
    return bool(beside & {fresh.before, fresh.after}) or piece.before == 0 == fresh.before


def held_through(things: Things, old: Song, new: Song) -> Things:
    """Held tops go on over chords put between those they hold through."""
    if not things.of(HELD):
        return things
    was = {piece.id for piece in pieces(old).values() if piece.kind == "slot"}
    order = [slot.id for _, _, slot in slots_of(new)]
    return things.put(HELD, tuple(HeldTop(_with_between(top.slots, order, was), top.top) for top in things.of(HELD)))


def _with_between(slots: tuple[int, ...], order: list[int], was: set[int]) -> tuple[int, ...]:
    places = [place for place, own in enumerate(order) if own in slots]
    between = [own for own in order[places[0] : places[-1]] if own not in was] if places else []
    return (*slots, *(own for own in between if own not in slots))


# --- another key -------------------------------------------------------------------------------------------------


def moved_with_keys(things: Things, old: Song, new: Song) -> Things:
    """What sounds at chords in numbers, moved where the key over them is another one now: the numbers stay written,
    and sound elsewhere.
    """
    if old.key == new.key and [s.key for s in old.sections] == [s.key for s in new.sections]:
        return things
    before, after = _in_numbers(old), _in_numbers(new)
    keys = {
        own: (before[own][1], after[own][1])
        for own in before.keys() & after.keys()
        if before[own][0] == after[own][0] and before[own][1] != after[own][1]
    }
    return shifted_at(things, {own: Shift(shift_to(*pair), *pair) for own, pair in keys.items()})


def _in_numbers(song: Song) -> dict[int, tuple[str, Key]]:
    """(symbol, key) of every slot that is written in numbers, by its id."""
    return {
        slot.id: (slot.symbol, section.the_key(song))
        for section, _, slot in slots_of(song)
        if slot.symbol != NO_CHORD and slot.symbol[:1] not in "ABCDEFG"
    }


# --- what chords were --------------------------------------------------------------------------------------------


class _Written(NamedTuple):
    slot: Slot
    key: Key
    bar: Bar
    beat: Fraction


def _written(song: Song, but: Mapping[int, tuple[Bar, Key]]) -> dict[int, _Written]:
    """The chords of a song, without those of bars that are as they were."""
    found: dict[int, _Written] = {}
    for section in song.sections:
        key = section.the_key(song)
        for bar in section.bars:
            if but.get(bar.id) != (bar, key):
                found |= {slot.id: _Written(slot, key, bar, beat_of(bar, i)) for i, slot in enumerate(bar.slots)}
    return found


def _sounded_there(here: _Written, bars: dict[int, Bar], olds: dict[int, _Written]) -> _Written | None:
    """The chord that a bar had on the beat of a new one."""
    bar = bars.get(here.bar.id)
    index = slot_on(bar, here.beat) if bar is not None else None
    return None if bar is None or index is None else olds[bar.slots[index].id]


def told_again(was: tuple[Was, ...], old: Song, new: Song) -> tuple[Was, ...]:
    """The stories of the chords, gone on: a chord that changed was another one, and one that took a part of its bar was
    the chord that sounded there. A chord spelled otherwise, or in a key that moved with it, is the same.
    """
    before = {story.slot: story.symbols for story in was}
    stories = dict(before)
    keys = [(section, section.the_key(old)) for section in old.sections]
    keyed = {bar.id: (bar, key) for section, key in keys for bar in section.bars}
    news = _written(new, keyed)
    olds = _written(old, {}) if news else {}
    bars = {bar.id: bar for _, bar in bars_of(old)}
    for own, here in news.items():
        there = olds.get(own) or _sounded_there(here, bars, olds)
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
    what: Any


def resting(things: Things, song: Song) -> tuple[Resting, ...]:
    """All that rests in a song."""
    if not things:
        return ()
    here = there(song)
    found = ((kind.rests(thing, here), thing) for kind, thing in things.all())
    return tuple(Resting(*rest, thing) for rest, thing in found if rest is not None)


def rested_words(before: Whole, after: Whole) -> str:
    """What an edit laid to rest in takes that are not shown, in a sentence; "" for nothing."""
    olds = {take.id: take for take in before.takes}
    found = []
    for take in after.takes:
        old = olds.get(take.id)
        if old is None or old is take or take.id == after.take:
            continue
        known = {rest.what for rest in resting(old.content.things, take_song(before, old))}
        new = [rest for rest in resting(take.content.things, take_song(after, take)) if rest.what not in known]
        if new:
            more = f" and {len(new) - 1} more" if len(new) > 1 else ""
            found.append(f"In {take.name} {new[0].words}{more} rests: {new[0].why}.")
    return " ".join(found)
