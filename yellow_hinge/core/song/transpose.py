"""A song in another key: numbers stay, letters, bass notes and melody move."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.pitch.key import Key, parse_key, shift_to, transpose_note
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.song import NO_CHORD, Bar, Section, Slot, Song, Tone
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol


def symbol_moved(symbol: str, old: Key, new: Key) -> str:
    """A chord symbol in another key; numbers mean the same in every key."""
    if symbol == NO_CHORD or symbol[0] not in "ABCDEFG":
        return symbol
    chord = parse_symbol(symbol, old)
    target = Key(new.tonic, old.mode)

    def one(part: Chord) -> Chord:
        bass = None if part.bass is None else transpose_note(part.bass, old, target)
        return Chord(transpose_note(part.root, old, target), part.quality, bass)

    return " over ".join(write_symbol(one(part)) for part in chord.stack or (chord,))


def _moved_slot(slot: Slot, old: Key, new: Key) -> Slot:
    return msgspec.structs.replace(slot, symbol=symbol_moved(slot.symbol, old, new))


def song_in_key(song: Song, new: Key) -> Song:
    """The song in `new`, moved by the nearest way (`shift_to`); its mode is kept as written."""
    old = song.the_key
    target = Key(new.tonic, old.mode)
    shift = shift_to(old, new)

    def moved_tone(tone: Tone) -> Tone:
        pitch = tone.spelled
        if pitch is None:
            return tone
        return msgspec.structs.replace(
            tone, pitch=str(pitch_of(pitch.midi + shift, transpose_note(pitch.note, old, target)))
        )

    def moved_bar(bar: Bar) -> Bar:
        slots = tuple(_moved_slot(slot, old, target) for slot in bar.slots)
        return msgspec.structs.replace(bar, slots=slots, tune=tuple(moved_tone(tone) for tone in bar.tune))

    def moved_section(section: Section) -> Section:
        key = str(moved_key(parse_key(section.key))) if section.key else ""
        return msgspec.structs.replace(section, bars=tuple(moved_bar(bar) for bar in section.bars), key=key)

    def moved_key(key: Key) -> Key:
        return Key(transpose_note(key.tonic, old, target), key.mode)

    sections = tuple(moved_section(section) for section in song.sections)
    return msgspec.structs.replace(song, key=str(target), sections=sections)
