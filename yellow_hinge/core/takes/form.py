"""What all takes of a song share, and what is a take's own: a song taken apart into its form and its chords, and put
together again.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import TypeVar

import msgspec

from yellow_hinge.core.leading.asking.setup import Player
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song
from yellow_hinge.core.song.timeline import bar_meter

K = TypeVar("K")

Asks = tuple[tuple[str, str], ...]


class Cue(msgspec.Struct, frozen=True):
    """Words that begin on a beat (from 0) of a bar, named by its id."""

    bar: int
    beat: Fraction
    words: str


class BarChords(msgspec.Struct, frozen=True):
    """A take's chords of one bar (its id), without cue words; `same` keeps that it was written %."""

    bar: int
    slots: tuple[Slot, ...]
    same: bool = False


class Form(msgspec.Struct, frozen=True):
    """What a song is whatever take is played: all that a Song holds but its chords and what its header asks for. The
    bars of `sections` have no slots. `memo` is the player's note on the song; `player` who plays, with shapes of their
    own; `patterns` the player's own that the song uses; `sounds` the key that a transposing keyboard makes of it.
    """

    title: str = "Untitled"
    key: str = "C major"
    meter: Meter = Meter()
    tempo: int = 90
    sections: tuple[Section, ...] = ()
    pickup: Fraction = msgspec.field(default_factory=Fraction)
    extra: Asks = ()
    next_id: int = 1
    cues: tuple[Cue, ...] = ()
    memo: str = ""
    player: Player = Player()
    patterns: tuple[Pattern, ...] = ()
    sounds: str = ""
    swing: str = ""


def bars_of(form: Form | Song) -> Iterator[tuple[Section, Bar]]:
    """Every written bar with its section."""
    return ((section, bar) for section in form.sections for bar in section.bars)


def slots_of(song: Song) -> Iterator[tuple[Section, Bar, Slot]]:
    """Every written chord with its bar and section."""
    return ((section, bar, slot) for section, bar in bars_of(song) for slot in bar.slots)


def bar_beats(song: Song, section: Section, bar: Bar) -> Fraction:
    """The beats of a written bar: those of its meter, or the pickup's in the song's first."""
    if song.pickup and song.sections and song.sections[0].bars and bar is song.sections[0].bars[0]:
        return song.pickup
    return Fraction(bar_meter(song, section, bar).beats)


def skeleton(form: Form) -> Song:
    """The form as a song without chords."""
    return _dressed(form, form.sections, ())


def chords_of(song: Song, known: tuple[BarChords, ...] = ()) -> tuple[BarChords, ...]:
    """The chords of a song, bar by bar; those that are as they were `known` are the same records, so that many states
    of a song hold them once.
    """
    old = {bar.bar: bar for bar in known}
    made = (
        BarChords(
            bar.id,
            tuple(Slot(slot.symbol, slot.beats, "", slot.id) if slot.cue else slot for slot in bar.slots),
            bar.same,
        )
        for _, bar in bars_of(song)
    )
    return tuple(_kept(bar, old.get(bar.bar)) for bar in made)


def _kept(new: K, old: K | None) -> K:
    return old if old is not None and old == new else new


def like(song: Song, old: Song) -> Song:
    """A song whose bars and sections are those records of an older one that are the same."""
    bars = {bar.id: bar for _, bar in bars_of(old)}
    before = {section.id: section for section in old.sections}

    def kept(section: Section) -> Section:
        own = tuple(_kept(bar, bars.get(bar.id)) for bar in section.bars)
        return _kept(msgspec.structs.replace(section, bars=own), before.get(section.id))

    made: Song = msgspec.structs.replace(song, sections=tuple(map(kept, song.sections)))
    return made


def form_of(song: Song, known: Form) -> Form:
    """The form of a song; what a song does not say is that of `known`, and so are the beats of cue words that the song
    has on the chords where `known` puts them.
    """
    old = {bar.id: bar for section in known.sections for bar in section.bars}
    sections = tuple(
        msgspec.structs.replace(section, bars=tuple(_kept(_bare(bar), old.get(bar.id)) for bar in section.bars))
        for section in song.sections
    )
    found: Form = msgspec.structs.replace(
        known, title=song.title, key=song.key, meter=song.meter, tempo=song.tempo, sections=sections,
        pickup=song.pickup, extra=song.extra, swing=song.swing, next_id=song.next_id, cues=_cues_of(song, known),
    )  # fmt: skip
    return found


def _bare(bar: Bar) -> Bar:
    bare: Bar = msgspec.structs.replace(bar, slots=(), same=False)
    return bare


def _cues_of(song: Song, known: Form) -> tuple[Cue, ...]:
    olds = _by_bar(known.cues)
    found: list[Cue] = []
    for _, bar in bars_of(song):
        if bar.id in olds:
            if tuple(slot.cue for slot in bar.slots) == _words(olds[bar.id], bar.slots):
                found += olds[bar.id]
                continue
        elif not any(slot.cue for slot in bar.slots):
            continue
        beat = Fraction(0)
        for slot in bar.slots:
            if slot.cue:
                found.append(Cue(bar.id, beat, slot.cue))
            beat += slot.beats
    return tuple(found)


def _by_bar(cues: tuple[Cue, ...]) -> dict[int, list[Cue]]:
    found: dict[int, list[Cue]] = {}
    for cue in cues:
        found.setdefault(cue.bar, []).append(cue)
    return found


def _words(cues: list[Cue], slots: tuple[Slot, ...]) -> tuple[str, ...]:
    """The cue words of each slot of a bar."""
    found, start = [], Fraction(0)
    for n, slot in enumerate(slots):
        end, last = start + slot.beats, n == len(slots) - 1
        found.append(" ".join(cue.words for cue in cues if start <= cue.beat and (last or cue.beat < end)))
        start = end
    return tuple(found)


def song_of(form: Form, chords: tuple[BarChords, ...], asks: Asks = ()) -> Song:
    """The song that a form and a take's chords make."""
    by_bar, cues = {bar.bar: bar for bar in chords}, _by_bar(form.cues)
    bones = skeleton(form)

    def dressed(section: Section, bar: Bar) -> Bar:
        own = by_bar.get(bar.id)
        slots = own.slots if own is not None else (Slot(NO_CHORD, bar_beats(bones, section, bar)),)
        if bar.id in cues:
            words = _words(cues[bar.id], slots)
            slots = tuple(Slot(s.symbol, s.beats, cue, s.id) if cue else s for s, cue in zip(slots, words, strict=True))
        same = own is not None and own.same
        found: Bar = msgspec.structs.replace(bar, slots=slots, same=same)
        return found

    sections = tuple(
        msgspec.structs.replace(section, bars=tuple(dressed(section, bar) for bar in section.bars))
        for section in form.sections
    )
    return _dressed(form, sections, asks)


def _dressed(form: Form, sections: tuple[Section, ...], asks: Asks) -> Song:
    """The song of a form with sections in the place of its own."""
    return Song(
        form.title, form.key, form.meter, form.tempo, sections, form.pickup, form.extra, form.next_id, asks, form.swing
    )


def fitted(slots: tuple[Slot, ...], beats: Fraction) -> tuple[Slot, ...]:
    """Chords in a bar of so many beats: the last ones are cut, or the very last goes on."""
    left, found = beats, []
    for slot in slots:
        if left <= 0:
            break
        found.append(slot if slot.beats <= left else msgspec.structs.replace(slot, beats=left))
        left -= found[-1].beats
    if left > 0 and found:
        found[-1] = msgspec.structs.replace(found[-1], beats=found[-1].beats + left)
    return tuple(found)


def with_form(song: Song, form: Form, others: dict[int, BarChords], away: tuple[BarChords, ...] = ()) -> Song:
    """A song in another form: its own chords in the bars it has, or had (`away`), else those of `others`."""
    own = {bar.bar: bar for bar in (*away, *chords_of(song))}
    bones, chords = skeleton(form), []
    for section, bar in bars_of(bones):
        there = own.get(bar.id) or others.get(bar.id)
        if there is None:
            continue
        beats = bar_beats(bones, section, bar)
        slots = there.slots
        if sum((slot.beats for slot in slots), Fraction(0)) != beats:
            slots = fitted(slots, beats)
        chords.append(BarChords(bar.id, slots, there.same))
    return _same_as_written(song_of(form, tuple(chords), song.asks))


def _same_as_written(song: Song) -> Song:
    """The song in which a bar is written % only where it has the chords of the bar before."""
    sections = []
    for section in song.sections:
        bars: list[Bar] = []
        for bar in section.bars:
            before = bars[-1] if bars else None
            alike = before is not None and [(s.symbol, s.beats) for s in before.slots] == [
                (s.symbol, s.beats) for s in bar.slots
            ]
            bars.append(msgspec.structs.replace(bar, same=False) if bar.same and not alike else bar)
        sections.append(msgspec.structs.replace(section, bars=tuple(bars)))
    found: Song = msgspec.structs.replace(song, sections=tuple(sections))
    return found
