"""A chord symbol and a reading of some notes in plain fields; loads no solver."""

from __future__ import annotations

from typing import Any

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.naming import Reading
from yellow_hinge.core.symbols.writing import write_number, write_roman, write_symbol


def chord_fields(text: str, chord: Chord, key: Key | None) -> dict[str, Any]:
    """One chord of the verb `chord`."""
    return {
        "input": text,
        "symbol": write_symbol(chord),
        "root": str(chord.root),
        "bass": str(chord.bass_note),
        "number": write_number(chord, key) if key else None,
        "roman": write_roman(chord, key) if key else None,
        "short": write_symbol(chord, "short"),
        "degrees": list(chord.degrees),
        "notes": [str(note) for note in chord.all_notes],
        "pitch_classes": list(dict.fromkeys(note.pc for note in chord.all_notes)),
    }


def reading_fields(reading: Reading) -> dict[str, Any]:
    """One reading of the verb `name`."""
    return {
        "symbol": reading.symbol,
        "number": reading.number,
        "degrees": list(reading.degrees),
        "missing": list(reading.missing),
        "added": list(reading.added),
        "rootless": reading.rootless,
        "why": reading.why,
    }
