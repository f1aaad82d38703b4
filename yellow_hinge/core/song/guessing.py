"""The key of a song whose chart names none."""

from __future__ import annotations

from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.song.song import (
    NO_CHORD,
    Song,
)
from yellow_hinge.core.symbols.keyfinding import KeyGuess, find_key
from yellow_hinge.core.symbols.symbol import parse_symbol


def guessed_key(song: Song) -> KeyGuess | None:
    """The key of a chart in letters that names none."""
    written = [slot for section in song.sections for bar in section.bars for slot in bar.slots]
    chords = []
    for slot in written:
        if slot.symbol != NO_CHORD:
            try:
                chords.append((parse_symbol(slot.symbol), float(slot.beats)))
            except ChordSymbolError:  # in numbers, or over a bass in numbers: they say nothing of the key
                return None
    return find_key(chords)
