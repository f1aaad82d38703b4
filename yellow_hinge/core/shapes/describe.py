"""What a voicing calls itself: the name of its family, and for triads on top which triad and what it brings."""

from __future__ import annotations

from functools import lru_cache

from yellow_hinge.core.pitch.key import CHROMATIC, NUMERALS, Key, root_number, spell_in_key
from yellow_hinge.core.pitch.pitch import degree_semitones
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.symbols.chord import Chord

_ROMAN = tuple(number[:-1] + NUMERALS[int(number[-1]) - 1] for number in CHROMATIC)
_MINOR_ROMAN = tuple("#i" if numeral == "bII" else numeral.lower() for numeral in _ROMAN)
_UNDER = {"dominant": "7", "major": "major", "minor": "minor", "minor-six": "minor 6", "suspended": "sus"}


def _triad(notes: tuple[int, ...]) -> tuple[int, bool] | None:
    """(root pitch class, whether minor) of notes that sound just a major or a minor triad."""
    pcs = {note % 12 for note in notes}
    for root in sorted(pcs):
        for third, minor in ((4, False), (3, True)):
            if pcs == {root, (root + third) % 12, (root + 7) % 12}:
                return root, minor
    return None


@lru_cache(maxsize=8192)
def shape_label(shape: Shape, chord: Chord, key: Key, left: tuple[int, ...], right: tuple[int, ...]) -> str:
    """The family's name; "II over 7: 9 #11 13" for a triad on top, "5 over 6" for numbers over numbers."""
    if not shape.label or not right or not left:
        return shape.name
    if shape.label == "numbers":
        return f"{_number(right[-1], key)} over {_number(left[0], key)}"
    triad = _triad(right)
    if triad is None:
        return shape.name
    above = (triad[0] - chord.root.pc) % 12
    name = f"{_MINOR_ROMAN[above]}-" if triad[1] else _ROMAN[above]
    degrees = sorted({chord.degree_of(note) for note in right}, key=degree_semitones)
    return f"{name} over {_UNDER.get(chord.chord_class, chord.chord_class)}: {' '.join(degrees)}"


def _number(midi: int, key: Key) -> str:
    return root_number(spell_in_key(midi % 12, key), key)
