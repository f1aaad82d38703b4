"""Bars copied, cut out and put in elsewhere: in the same song, another of its takes, or another song. A copy is a small
song of its own, so that it can lie on the clipboard as a file and as a chart.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.app.edits.asking import with_keep
from yellow_hinge.app.edits.state import State, changed, changed_in, state_of, state_with
from yellow_hinge.app.edits.takes import moved_into
from yellow_hinge.core.chart.edit import delete_bar, with_bars_after
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.pitch.key import shift_to
from yellow_hinge.core.song.song import Bar, Section, Song
from yellow_hinge.core.song.timeline import bar_meter
from yellow_hinge.core.takes.form import bars_of
from yellow_hinge.core.takes.known import KnownHands, as_known, hands_of
from yellow_hinge.core.takes.thing_moves import Shift
from yellow_hinge.core.takes.things import FILLS, HELD, KEEPS, KINDS, MEMOS, PLAYED, WISHES, ThingKind, Things
from yellow_hinge.io.songs.migrations import SongFile, file_with

Place = tuple[int, int]  # (section, bar)
CARRIED = (KEEPS, WISHES, HELD, PLAYED, FILLS, MEMOS)


def copied(state: State, first: Place, last: Place, solution: Solution | None) -> SongFile:
    """The bars from one to another, as they are written, as a song: with their tune, words and chords, what is kept and
    asked there, and the hands of the solution. Raises UserError where there are none.
    """
    song = state.song
    sections = tuple(
        _part(song, section, bars)
        for n, section in enumerate(song.sections)
        if (bars := tuple(bar for b, bar in enumerate(section.bars) if first <= (n, b) <= last))
    )
    if not sections:
        raise UserError("there are no bars to copy")
    pickup = song.pickup if first == (0, 0) else Fraction(0)
    piece = msgspec.structs.replace(song, sections=sections, pickup=pickup)
    ids = frozenset(own for section in sections for own in _ids(section))
    whole = state_with(piece, setup=state.setup, things=_things_of(state.things, sections, ids))
    return file_with(whole, hands=_hands_inside(whole.take, solution, ids))


def _hands_inside(take: int, solution: Solution | None, ids: frozenset[int]) -> tuple[KnownHands, ...]:
    """The hands of the chords at some slots, as those of a take."""
    if solution is None:
        return ()
    hands = hands_of(take, solution)
    inside = tuple(hand for hand in hands.hands if hand.slot in ids)
    return (KnownHands(take, hands.prices, inside),) if inside else ()


def _part(song: Song, section: Section, bars: tuple[Bar, ...]) -> Section:
    """Some bars of a section without the signs of its way, in its key and meter."""
    plain = tuple(msgspec.structs.replace(bar, opens=False, repeats=0, ending=0, same=False, signs=()) for bar in bars)
    key = section.key if section.key != song.key else ""
    return msgspec.structs.replace(section, bars=plain, key=key, meter=section.meter or song.meter)


def _ids(section: Section) -> Iterator[int]:
    for bar in section.bars:
        yield bar.id
        yield from (slot.id for slot in bar.slots)


def _things_of(things: Things, sections: tuple[Section, ...], ids: frozenset[int]) -> Things:
    """What holds the first time that these bars are played."""

    def here(kind: ThingKind[Any], row: tuple[Any, ...]) -> tuple[Any, ...]:
        if kind not in CARRIED:
            return ()
        found: list[Any] = []
        for section in sections:
            own = ids.intersection(_ids(section))
            found += (thing for thing in kind.in_pass(row, (section.id, 0)) if own & {*kind.ids(thing)})
        return tuple(dict.fromkeys(found))

    return things.each(here)


def excerpt(state: State, first: Place, last: Place, solution: Solution | None) -> State:
    """The bars from one to another as a song of their own, in the hands that the solution gives them. Raises UserError
    where there are none.
    """
    clip = copied(state, first, last, solution)
    found = state_of(clip)
    for keep in _hands(clip):
        found = with_keep(found, msgspec.structs.replace(keep, only=None))
    return found


def said_in(clip: SongFile, key: str) -> SongFile:
    """A copy whose chords are read in a key, so that they stay as they are written there."""
    found: SongFile = msgspec.structs.replace(clip, form=msgspec.structs.replace(clip.form, key=key))
    return found


def without_bars(song: Song, first: Place, last: Place) -> Song:
    """Without the bars from one to another; repeat signs go to those beside. Raises UserError where none is left."""
    gone = [(n, b) for n, s in enumerate(song.sections) for b in range(len(s.bars)) if first <= (n, b) <= last]
    if len(gone) == sum(1 for _ in bars_of(song)):
        raise UserError("the song would have no bar left")
    for place in reversed(gone):
        song = delete_bar(song, place)
    return song


def pasted(state: State, clip: SongFile, after: Place, with_hands: bool) -> State:
    """The state with a copy's bars after a bar, in the key and meter that hold there, with what was kept and asked in
    them; `with_hands`: all of its hands are kept. Raises UserError.
    """
    section = state.song.sections[after[0]]
    key, old = section.the_key(state.song), clip.song.the_key
    piece, things = moved_into(key, clip.song, clip.things)
    if clip.song.pickup:
        raise UserError("bars with a pickup cannot stand inside a song; copy from the next bar on")
    bars = tuple(_fitted(state.song, section, piece, own, bar) for own, bar in bars_of(piece))
    found = changed(state, with_bars_after(state.song, after, bars))
    new = found.song.sections[after[0]].bars[after[1] + 1 :][: len(bars)]
    ids = {bar.id: own.id for (_, bar), own in zip(bars_of(clip.song), new, strict=True)}
    for (_, bar), own in zip(bars_of(clip.song), new, strict=True):
        ids |= {a.id: b.id for a, b in zip(bar.slots, own.slots, strict=True)}
    found = changed_in(found, things=_with(found.things, things, ids))
    if with_hands:
        shift = Shift(shift_to(old, key), old, key)
        symbols = {slot.id: slot.symbol for bar in new for slot in bar.slots}
        for keep in _hands(clip):
            at = ids[keep.slot]
            moved = keep if old == key else KEEPS.moved(keep, shift)
            found = with_keep(found, msgspec.structs.replace(moved, slot=at, symbol=symbols[at], only=None))
    return found


def _hands(clip: SongFile) -> list[Keep]:
    """The hands of a copy's chords, of their first pass."""
    first: dict[int, Keep] = {}
    for known in clip.hands:
        for keep in as_known(known):
            first.setdefault(keep.slot, keep)
    return list(first.values())


def _fitted(song: Song, section: Section, piece: Song, own: Section, bar: Bar) -> Bar:
    """A bar without ids, with its meter where that is another one than the section's."""
    meter = bar_meter(piece, own, bar)
    slots = tuple(msgspec.structs.replace(slot, id=0) for slot in bar.slots)
    there = section.meter or song.meter
    return msgspec.structs.replace(bar, id=0, slots=slots, meter=None if meter == there else meter)


def _with(mine: Things, theirs: Things, ids: dict[int, int]) -> Things:
    """My things and those of a copy, at their new places; what came back with bars that were cut is there already."""
    for kind in KINDS:
        row: tuple[Any, ...] = mine.of(kind)
        new = (kind.renamed(thing, ids) for thing in theirs.of(kind))
        mine = mine.put(kind, (*row, *(thing for thing in new if thing is not None and thing not in row)))
    return mine
