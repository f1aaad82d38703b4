"""Edits of the chart's structure: bars and chords inserted, deleted and moved. Each gives a new song."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.road import AT_BEGIN
from yellow_hinge.core.song.song import NO_CHORD, Address, Bar, Section, Slot, Song, short_beats
from yellow_hinge.core.song.timeline import bar_meter
from yellow_hinge.core.song.words import LONGEST_TITLE, plain
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol

Place = tuple[int, int]  # (section, bar)


def _with_bars(song: Song, section: int, bars: list[Bar]) -> Song:
    """The song with other bars in a section; a bar marked % that no longer repeats the bar before is written out."""
    kept: list[Bar] = []
    for bar in bars:
        same = bar.same and kept and _chords(kept[-1]) == _chords(bar)
        kept.append(msgspec.structs.replace(bar, same=bool(same)))
    sections = list(song.sections)
    sections[section] = msgspec.structs.replace(sections[section], bars=tuple(kept))
    return msgspec.structs.replace(song, sections=tuple(sections))


def _chords(bar: Bar) -> list[tuple[str, Fraction]]:
    return [(slot.symbol, slot.beats) for slot in bar.slots]


def _bars(song: Song, place: Place) -> list[Bar]:
    if not (0 <= place[0] < len(song.sections) and 0 <= place[1] < len(song.sections[place[0]].bars)):
        raise UserError("there is no such bar")
    return list(song.sections[place[0]].bars)


def _slots(song: Song, at: Address) -> list[Slot]:
    slots = list(_bars(song, at[:2])[at[1]].slots)
    if not 0 <= at[2] < len(slots):
        raise UserError("there is no such chord")
    return slots


def insert_bar(song: Song, place: Place) -> Song:
    """A bar after `place` with its last chord. Raises UserError where there is no such bar."""
    bars = _bars(song, place)
    here = bars[place[1]]
    meter = bar_meter(song, song.sections[place[0]], here)
    symbol = here.slots[-1].symbol if here.slots else NO_CHORD
    return with_bars_after(song, place, (Bar((Slot(symbol, Fraction(meter.beats)),), meter=here.meter),))


def with_bars_after(song: Song, place: Place, new: tuple[Bar, ...]) -> Song:
    """Bars after `place`, in its section and ending; what ends there ends after them. Raises UserError for no such
    bar.
    """
    bars, at = _bars(song, place), place[1]
    here = bars[at]
    before, after = _signs(here)
    if new:
        bars[at] = msgspec.structs.replace(here, repeats=0, signs=before)
        own = [msgspec.structs.replace(bar, ending=here.ending) for bar in new]
        own[-1] = _with_signs(msgspec.structs.replace(own[-1], repeats=here.repeats), after)
        bars[at + 1 : at + 1] = own
    return _with_bars(song, place[0], bars)


def _signs(bar: Bar) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The signs before a bar and those after it."""
    before = tuple(sign for sign in bar.signs if sign in AT_BEGIN)
    return before, tuple(sign for sign in bar.signs if sign not in before)


def _with_signs(bar: Bar, signs: tuple[str, ...]) -> Bar:
    return msgspec.structs.replace(bar, signs=tuple(dict.fromkeys((*bar.signs, *signs))))


def _hand_on(gone: Bar, bars: list[Bar], at: int) -> None:
    """Give the repeats and signs of a lost bar to the `bars` that were beside it."""
    if gone.opens and at < len(bars):
        bars[at] = msgspec.structs.replace(bars[at], opens=True)
    if gone.repeats and at > 0 and not bars[at - 1].repeats:
        bars[at - 1] = msgspec.structs.replace(bars[at - 1], repeats=gone.repeats)
    before, after = _signs(gone)
    if bars and gone.signs:
        bars[min(at, len(bars) - 1)] = _with_signs(bars[min(at, len(bars) - 1)], before)
        bars[max(at - 1, 0)] = _with_signs(bars[max(at - 1, 0)], after)


def delete_bar(song: Song, place: Place) -> Song:
    """Without a bar; its repeat signs go to its neighbours. Raises UserError for the only bar of the song."""
    bars = _bars(song, place)
    section, at = place
    if sum(len(s.bars) for s in song.sections) == 1:
        raise UserError("the song has only this bar")
    _hand_on(bars.pop(at), bars, at)
    if bars:
        changed = _with_bars(song, section, bars)
    else:
        rest = tuple(s for n, s in enumerate(song.sections) if n != section and not _plays(s, song.sections[section]))
        changed = msgspec.structs.replace(song, sections=rest)
    return msgspec.structs.replace(changed, pickup=Fraction(0)) if (section, at) == (0, 0) else changed


def _plays(again: Section, section: Section) -> bool:
    return not again.bars and again.name == section.name


def move_bar(song: Song, place: Place, to: int) -> Song:
    """A bar moved to index `to` of its section; repeat signs and endings stay where they are. Raises UserError where a
    short first bar would come to stand elsewhere.
    """
    bars = _bars(song, place)
    to = min(max(to, 0), len(bars) - 1)
    if song.pickup and place[0] == 0 and 0 in (place[1], to) and place[1] != to:
        raise UserError("the pickup is the song's first bar; it stays there")
    frames = [(bar.opens, bar.repeats, bar.ending, bar.signs) for bar in bars]
    bars.insert(to, bars.pop(place[1]))
    framed = [
        msgspec.structs.replace(bar, opens=opens, repeats=repeats, ending=ending, signs=signs)
        for bar, (opens, repeats, ending, signs) in zip(bars, frames, strict=True)
    ]
    return _with_bars(song, place[0], framed)


def split_chord(song: Song, at: Address) -> Song:
    """A chord in two halves, the second one to be changed. Raises UserError for less than half a beat each."""
    bars, slots = _bars(song, at[:2]), _slots(song, at)
    slot = slots[at[2]]
    if slot.beats < 1:
        raise UserError("this chord is too short to be split")
    half = slot.beats / 2 if slot.beats.denominator > 1 or slot.beats % 2 == 0 or slot.beats == 1 else slot.beats - 1
    second = msgspec.structs.replace(slot, beats=slot.beats - half, cue="", id=0)
    slots[at[2] : at[2] + 1] = [msgspec.structs.replace(slot, beats=half), second]
    bars[at[1]] = msgspec.structs.replace(bars[at[1]], slots=tuple(slots), same=False)
    return _with_bars(song, at[0], bars)


def delete_chord(song: Song, at: Address) -> Song:
    """Without a chord; its beats go to the chord before, or after at a bar's begin. The only chord of a bar takes the
    bar with it.
    """
    bars, slots = _bars(song, at[:2]), _slots(song, at)
    if len(slots) == 1:
        return delete_bar(song, at[:2])
    gone = slots.pop(at[2])
    heir = max(0, at[2] - 1)
    cue = " ".join(word for word in (slots[heir].cue, gone.cue) if word) if at[2] else slots[heir].cue
    slots[heir] = msgspec.structs.replace(slots[heir], beats=slots[heir].beats + gone.beats, cue=cue)
    bars[at[1]] = msgspec.structs.replace(bars[at[1]], slots=tuple(slots), same=False)
    return _with_bars(song, at[0], bars)


def swap_chords(song: Song, one: Address, other: Address) -> Song:
    """Two chords change places with their cues and ids; the beats stay where they are. Raises UserError for no such
    chord.
    """
    first, second = (_slots(song, at)[at[2]] for at in (one, other))
    for at, gets in ((one, second), (other, first)):
        bars, slots = _bars(song, at[:2]), _slots(song, at)
        slots[at[2]] = msgspec.structs.replace(gets, beats=slots[at[2]].beats)
        bars[at[1]] = msgspec.structs.replace(bars[at[1]], slots=tuple(slots), same=False)
        song = _with_bars(song, at[0], bars)
    return song


def beside(song: Song, at: Address, by: int) -> Address | None:
    """The written chord `by` places after (or before) another in its section, None beyond its ends."""
    if not 0 <= at[0] < len(song.sections):
        return None
    section = song.sections[at[0]]
    order = [(at[0], b, i) for b, bar in enumerate(section.bars) for i in range(len(bar.slots))]
    index = order.index(at) + by if at in order else -1
    return order[index] if 0 <= index < len(order) else None


def _with_slot(song: Song, at: Address, **fields: str) -> Song:
    bars, slots = _bars(song, at[:2]), _slots(song, at)
    slots[at[2]] = msgspec.structs.replace(slots[at[2]], **fields)
    bars[at[1]] = msgspec.structs.replace(bars[at[1]], slots=tuple(slots), same=False)
    return _with_bars(song, at[0], bars)


def with_symbol(song: Song, at: Address, symbol: str) -> Song:
    """The song with another symbol for a chord. Raises UserError for one that is none, and for no such chord."""
    if symbol != NO_CHORD:
        parse_symbol(symbol, song.sections[at[0]].the_key(song) if at[0] < len(song.sections) else song.the_key)
    return _with_slot(song, at, symbol=symbol)


def with_cue(song: Song, at: Address, words: str) -> Song:
    """The song with other words under a chord. Raises UserError for no such chord."""
    return _with_slot(song, at, cue=plain(words))


def with_title(song: Song, title: str) -> Song:
    """Another name of the song. Raises UserError."""
    name = plain(title, LONGEST_TITLE)
    if not name:
        raise UserError("the song needs a name")
    found: Song = msgspec.structs.replace(song, title=name)
    return found


def with_section_name(song: Song, number: int, name: str) -> Song:
    """The song with another name of a section, and of the times that it is played again. Raises UserError for none."""
    name = plain(name)
    if not name:
        raise UserError("a section has a name")
    old = song.sections[number]
    taken = any(s.name == name and s.bars for s in song.sections)
    if taken and any(_plays(s, old) for s in song.sections):
        raise UserError(f"there is a section {name} already")
    sections = tuple(
        msgspec.structs.replace(s, name=name)
        if n == number or (s.name == old.name and not (s.bars and old.bars))
        else s
        for n, s in enumerate(song.sections)
    )
    return msgspec.structs.replace(song, sections=sections)


def with_chords(song: Song, at: Address, chords: tuple[Chord, ...], beats: tuple[Fraction, ...]) -> Song:
    """The song with chords in the place of one slot; they have to fill its beats. Raises UserError."""
    section, bar, slot = at
    bars, slots = _bars(song, at[:2]), tuple(_slots(song, at))
    old = slots[slot]
    if sum(beats) != old.beats or len(beats) != len(chords):
        raise UserError(f"the new chords fill {short_beats(sum(beats, Fraction(0)))} beats, the old one {old.beats}")
    new = [Slot(write_symbol(chord), length) for chord, length in zip(chords, beats, strict=True)]
    new[0] = msgspec.structs.replace(new[0], cue=old.cue, id=old.id)
    bars[bar] = msgspec.structs.replace(bars[bar], slots=(*slots[:slot], *new, *slots[slot + 1 :]))
    return _with_bars(song, section, bars)
