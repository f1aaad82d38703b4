"""The same hand over other bass notes: another chord each time."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.naming import Reading, name_notes


class OverBass(NamedTuple):
    """One bass (pitch class) under the hand and what the two are together, None where no name fits."""

    bass: int
    reading: Reading | None


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
