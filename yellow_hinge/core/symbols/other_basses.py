"""The same hand over other bass notes: another chord each time."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import flat_note
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.naming import Reading, name_notes
from yellow_hinge.core.symbols.symbol import parse_symbol


class OverBass(NamedTuple):
    """One bass (pitch class) under the hand and what the two are together, None where no name fits."""

    bass: int
    reading: Reading | None


class Upper(NamedTuple):
    """A right-hand chord over a left hand: its symbol, its notes (MIDI, ascending), and what all of it reads as."""

    chord: Chord
    notes: tuple[int, ...]
    reading: Reading | None


UPPERS = ("", "m", "dim", "aug", "7", "maj7", "m7", "m7b5", "dim7")  # triads and sevenths


def uppers_over(left: tuple[int, ...], key: Key | None) -> list[Upper]:
    """Every triad and seventh chord in close position over a left hand (MIDI, ascending), by roots from its bass up.
    Raises UserError for no notes.
    """
    if not left:
        raise UserError("hold some notes of the left hand to see chords over them")
    found = []
    for step in range(12):
        root = (left[0] + step) % 12
        note = spell_in_key(root, key) if key is not None else flat_note(root)
        lowest = left[-1] + 1 + (root - left[-1] - 1) % 12
        for words in UPPERS:
            chord = parse_symbol(f"{note}{words}")
            above = sorted(lowest + (pc - root) % 12 for pc in chord.pitch_classes)
            readings = name_notes((*left, *above), None, key)
            found.append(Upper(chord, tuple(above), readings[0] if readings else None))
    return found


def over_basses(notes: tuple[int, ...], key: Key | None) -> list[OverBass]:
    """The table of one hand (MIDI, ascending) over all twelve basses, from the hand's lowest note upward by half steps.
    Raises UserError for no notes.
    """
    if not notes:
        raise UserError("hold some notes to see them over other basses")
    first = notes[0] % 12
    found = []
    for step in range(12):
        bass = (first + step) % 12
        low = 36 + (bass - 36) % 12
        readings = name_notes((low, *(n for n in notes if n > low)), None, key)
        found.append(OverBass(bass, readings[0] if readings else None))
    return found
