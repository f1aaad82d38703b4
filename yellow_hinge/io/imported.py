"""What an import gives: a song and a report of everything the file held that the program cannot use."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction
from types import MappingProxyType
from typing import TYPE_CHECKING

import msgspec

from yellow_hinge.core.song.song import LONGEST_MEMO, NO_CHORD, Bar, Memo, Meter, Section, Slot, Song, slot_on
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.words import plain
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.io.songs.migrations import SongFile

if TYPE_CHECKING:  # its readers of XML are loaded with the first score
    from yellow_hinge.io.musicxml.held_hands import HeldHands

NOTHING_ASKED: Mapping[str, str] = MappingProxyType({})


class Offer(msgspec.Struct, frozen=True):
    """Something that a reader had to choose and the player may choose otherwise: its id, its name, (value, words) of
    every option, and the value that was taken.
    """

    id: str
    name: str
    options: tuple[tuple[str, str], ...]
    chosen: str


class Noted(msgspec.Struct, frozen=True):
    """What a player noted down at a chord of a file: its bar from 0, the beat of it from 0, the words."""

    bar: int
    beat: Fraction
    words: str


class Imported(msgspec.Struct, frozen=True):
    """A song with `report`, one sentence for each thing that was left out, guessed or kept unused; `hands` that the
    file says its chords have, and `memos` that the player put there; `offers` may be
    chosen otherwise.
    """

    song: Song
    report: tuple[str, ...] = ()
    hands: tuple[HeldHands, ...] = ()
    memos: tuple[Noted, ...] = ()
    offers: tuple[Offer, ...] = ()


class Opened(msgspec.Struct, frozen=True):
    """A song from a file: `text` is the chart as it was written, or ""; `report` what could not be used; `own`
    whether it is the program's own kind of file, which Save may write to; `kind` the id of what it was read as,
    `offers` what the player may choose otherwise.
    """

    file: SongFile
    text: str = ""
    report: tuple[str, ...] = ()
    own: bool = False
    kind: str = ""
    offers: tuple[Offer, ...] = ()


class Onset(msgspec.Struct, frozen=True):
    """A chord that begins `at` beats into its bar, with the words that belong to it."""

    at: Fraction
    symbol: str
    cue: str = ""


def memos_of(noted: tuple[Noted, ...], song: Song) -> tuple[Memo, ...]:
    """What was noted down, at the chords that sound there now."""
    bars = [bar for section in song.sections for bar in section.bars]
    found = []
    for note in noted:
        slot = slot_on(bars[note.bar], note.beat) if note.bar < len(bars) else None
        words = plain(note.words, LONGEST_MEMO)
        if slot is not None and words:
            found.append(Memo(bars[note.bar].slots[slot].id, words))
    return tuple(found)


def with_found_key(song: Song) -> tuple[Song, list[str]]:
    """A song that says no key in the one that is found, and the sentence that says so; as it is without chords."""
    guess = find_key([(moment.chord, 1.0) for moment in timeline(song) if moment.chord])
    if guess is None:
        return song, []
    told = f"no key is written; it was found to be {guess.key} (or {guess.runner_up})"
    return msgspec.structs.replace(song, key=str(guess.key)), [told]


def bar_of(changes: list[Onset], beats: Fraction, before: str) -> tuple[tuple[Slot, ...], str]:
    """(slots, the symbol that goes on) of a bar of `beats` where `changes` begin; `before` sounds until the first."""
    found: list[Slot] = []
    starts = sorted((c for c in changes if 0 <= c.at < beats), key=lambda c: c.at)
    if not starts or starts[0].at > 0:
        starts.insert(0, Onset(Fraction(0), before))
    for n, change in enumerate(starts):
        end = starts[n + 1].at if n + 1 < len(starts) else beats
        if end > change.at:
            found.append(Slot(change.symbol, end - change.at, change.cue))
    return tuple(found), starts[-1].symbol


def with_same(bars: list[Bar]) -> tuple[Bar, ...]:
    """Bars in which one that repeats the chords of the bar before, without cues of its own, is marked so."""
    found: list[Bar] = []
    for bar in bars:
        last = found[-1] if found else None
        plain = all(not slot.cue for slot in bar.slots) and bar.slots and bar.slots[0].symbol != NO_CHORD
        alike = last is not None and [(s.symbol, s.beats) for s in last.slots] == [
            (s.symbol, s.beats) for s in bar.slots
        ]
        found.append(msgspec.structs.replace(bar, same=True) if plain and alike else bar)
    return tuple(found)


def in_section(name: str, bars: Sequence[Bar], key: str) -> Section:
    """A section of some bars; where all have one meter of their own, that is the section's."""
    meter = bars[0].meter if bars else None
    if meter is None or any(bar.meter != meter for bar in bars):
        return Section(name, tuple(bars), key)
    return Section(name, tuple(msgspec.structs.replace(bar, meter=None) for bar in bars), key, meter)


def meter_lasting(quarters: Fraction) -> Meter | None:
    """The meter of a bar that lasts so many quarters; None where there is none."""
    for lower in (4, 8, 16):
        upper = quarters * lower / 4
        if upper.denominator == 1 and 1 <= upper <= 32:
            return Meter(int(upper), lower)
    return None


def meter_or_none(upper: int, lower: int) -> Meter | None:
    """A meter, None where it is none that the program knows."""
    return Meter(upper, lower) if 1 <= upper <= 32 and lower in (1, 2, 4, 8, 16) else None
