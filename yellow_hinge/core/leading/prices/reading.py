"""What a voicing's notes and bass are read as."""

from __future__ import annotations

from functools import lru_cache

from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.identity import reads_as_written
from yellow_hinge.core.symbols.naming import name_notes
from yellow_hinge.core.symbols.writing import write_symbol


def is_as_written(both: Both, chord: Chord, mine: bool) -> bool:
    """Whether a voicing is heard as its chord; `mine`: the left hand has the bass. One chord over another always is."""
    if chord.stack is not None or not (both.left or both.right):
        return True
    root = chord.root.pc
    bass = both.left[0] if mine and both.left else chord.bass_note.pc
    if bass % 12 != chord.bass_note.pc and bass % 12 not in chord.pitch_classes:
        return False  # a bass that nobody wrote names another chord
    sounding = sum({1 << (midi - root) % 12 for midi in (*both.left, *both.right)})
    return reads_as_written(chord.quality, (bass - root) % 12, sounding)


@lru_cache(maxsize=4096)
def reads(both: Both, chord: Chord, key: Key, mine: bool) -> str:
    """The symbol that a voicing's notes and bass are read as: of its own root where it is heard as written."""
    if chord.stack is not None or not (both.left or both.right):
        return write_symbol(chord)
    bass = None if mine and both.left else chord.bass_note.pc
    found = name_notes((*both.left, *both.right), bass, key)
    if is_as_written(both, chord, mine):
        own = [r for r in found if r.chord.root.pc == chord.root.pc and r.chord.quality.third == chord.quality.third]
        return own[0].symbol if own else write_symbol(chord)
    return found[0].symbol if found else ""
