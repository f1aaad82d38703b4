"""Songs: sections of bars of chords with beats, melody and cue words; and the song laid out in time.

Beats are felt beats: 6/8 has two and 12/8 four, each a dotted quarter; elsewhere a beat is the meter's lower number.
"""

from __future__ import annotations

from fractions import Fraction

import msgspec

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.key import Key, parse_key
from yellow_hinge.core.pitch import Pitch, parse_pitch
from yellow_hinge.core.symbol import parse_symbol

NO_CHORD = "N.C."


class Meter(msgspec.Struct, frozen=True):
    """A meter such as 4/4 or 12/8."""

    upper: int = 4
    lower: int = 4

    def __post_init__(self) -> None:
        if not 1 <= self.upper <= 32 or self.lower not in (1, 2, 4, 8, 16):
            raise UserError(f"{self.upper}/{self.lower} is not a meter; write one such as 4/4, 3/4, 6/8 or 12/8")

    def __str__(self) -> str:
        return f"{self.upper}/{self.lower}"

    @property
    def compound(self) -> bool:
        """Whether a beat is a dotted note, as in 6/8."""
        return self.lower >= 8 and self.upper % 3 == 0 and self.upper > 3

    @property
    def beats(self) -> int:
        """Felt beats in a bar."""
        return self.upper // 3 if self.compound else self.upper

    @property
    def beat_quarters(self) -> Fraction:
        """Length of one beat in quarter notes."""
        return Fraction(12 if self.compound else 4, self.lower)


def parse_meter(text: str) -> Meter:
    """Read "3/4". Raises UserError."""
    upper, slash, lower = text.strip().partition("/")
    if not (slash and upper.strip().isdecimal() and lower.strip().isdecimal() and len(text) < 12):
        raise UserError(f"{text[:12]!r} is not a meter; write one such as 4/4, 3/4, 6/8 or 12/8")
    return Meter(int(upper), int(lower))


class Tone(msgspec.Struct, frozen=True):
    """One melody note or rest. `pitch` is spelled ("F#4") or "" for a rest; `beats` its length."""

    pitch: str
    beats: Fraction

    @property
    def spelled(self) -> Pitch | None:
        """The pitch, or None for a rest."""
        return parse_pitch(self.pitch) if self.pitch else None


class Slot(msgspec.Struct, frozen=True):
    """A chord as the player wrote it (or NO_CHORD), its beats and its cue words."""

    symbol: str
    beats: Fraction
    cue: str = ""


class Bar(msgspec.Struct, frozen=True):
    """A bar. `repeats` > 0 closes a repeat that is played that often in all; `same` keeps that it was written %."""

    slots: tuple[Slot, ...]
    tune: tuple[Tone, ...] = ()
    opens: bool = False
    repeats: int = 0
    same: bool = False


class Section(msgspec.Struct, frozen=True):
    """A named stretch of bars."""

    name: str
    bars: tuple[Bar, ...]


class Song(msgspec.Struct, frozen=True):
    """A whole song as written."""

    title: str = "Untitled"
    key: str = "C major"
    meter: Meter = Meter()
    tempo: int = 90
    sections: tuple[Section, ...] = ()

    @property
    def the_key(self) -> Key:
        """The key, read."""
        return parse_key(self.key)


class Sounding(msgspec.Struct, frozen=True):
    """A melody note over a slot: `onset` and `beats` relative to the slot's start."""

    pitch: Pitch
    onset: Fraction
    beats: Fraction


class Moment(msgspec.Struct, frozen=True):
    """A slot laid out in time, repeats played out.

    `section`, `bar`, `slot` index into the song as written; `start` counts beats from the song's start, `beat` from 1
    inside the bar; `chord` is None where nothing is played; `turn` counts the passes of a repeat from 0.
    """

    section: int
    bar: int
    slot: int
    turn: int
    start: Fraction
    beat: Fraction
    beats: Fraction
    symbol: str
    chord: Chord | None
    cue: str
    tune: tuple[Sounding, ...]

    @property
    def address(self) -> tuple[int, int, int]:
        """Where the slot is written: (section, bar, slot)."""
        return self.section, self.bar, self.slot


def played_bars(section: Section) -> list[tuple[int, int]]:
    """(bar index, turn) of every bar in playing order, repeats played out."""
    order: list[tuple[int, int]] = []
    opened = 0
    for index, bar in enumerate(section.bars):
        opened = index if bar.opens else opened
        order.append((index, 0))
        if bar.repeats > 1:
            for turn in range(1, bar.repeats):
                order += [(again, turn) for again in range(opened, index + 1)]
            opened = index + 1
    return order


def _tune_over(bar: Bar, start: Fraction, beats: Fraction) -> tuple[Sounding, ...]:
    found, at = [], Fraction(0)
    for tone in bar.tune:
        pitch = tone.spelled
        if pitch is not None and at < start + beats and at + tone.beats > start:
            onset = max(at, start)
            found.append(Sounding(pitch, onset - start, min(at + tone.beats, start + beats) - onset))
        at += tone.beats
    return tuple(found)


def read_slot(slot: Slot, key: Key) -> Chord | None:
    """The chord of a slot, None for no chord. Raises ChordSymbolError."""
    return None if slot.symbol == NO_CHORD else parse_symbol(slot.symbol, key)


def timeline(song: Song) -> tuple[Moment, ...]:
    """Every slot in playing order. Raises ChordSymbolError where a symbol cannot be read."""
    moments: list[Moment] = []
    key, at = song.the_key, Fraction(0)
    for s, section in enumerate(song.sections):
        for b, turn in played_bars(section):
            bar, inside = section.bars[b], Fraction(0)
            for i, slot in enumerate(bar.slots):
                tune = _tune_over(bar, inside, slot.beats)
                chord = read_slot(slot, key)
                cue = slot.cue
                moments.append(Moment(s, b, i, turn, at, inside + 1, slot.beats, slot.symbol, chord, cue, tune))
                inside += slot.beats
                at += slot.beats
    return tuple(moments)
