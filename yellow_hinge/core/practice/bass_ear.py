"""Hearing the bass: questions about which note lies under a hand, and which chord it makes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from yellow_hinge.core.pitch.pitch import Note, spell
from yellow_hinge.core.reharm.melody import sounding
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol


class BassQuestion(NamedTuple):
    """A hand that sounds over a bass: its keys, the bass that is asked for, what may be answered, and which chord it
    makes.
    """

    keys: tuple[int, ...]
    bass: int
    answers: tuple[Note, ...]
    right: Note
    makes: str


LEVELS = 3
_CHROMATIC = ("1", "b9", "9", "b3", "3", "11", "#11", "5", "b13", "13", "b7", "7")


def bass_question(
    chord: Chord, keys: Sequence[int], level: int, choose: Callable[[Sequence[int]], int]
) -> BassQuestion:
    """A question about a hand of a chord. Level 0 asks among its root, third and fifth; 1 among all its notes; 2 among
    all twelve. `choose` gives one of some numbers, by chance.
    """
    if level < 2:
        degrees = list(chord.degrees[: 3 if level == 0 else None])
    else:
        degrees = list(_CHROMATIC)
    notes = list({note.pc: note for note in (spell(chord.root, degree) for degree in degrees)}.values())
    right = notes[choose(range(len(notes)))]
    low = min(keys, default=60)
    bass = 36 + (right.pc - 36) % 12
    while bass >= low:
        bass -= 12
    made = Chord(chord.root, chord.quality, None if right.pc == chord.root.pc else right)
    return BassQuestion(tuple(keys), bass, tuple(notes), right, write_symbol(sounding(made)))
