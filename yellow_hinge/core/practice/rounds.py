"""Rounds through all twelve keys, and the bass questions."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal, NamedTuple

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.key import Key, key_on
from yellow_hinge.core.pitch import Note, spell
from yellow_hinge.core.reharm.melody import sounding
from yellow_hinge.core.writing import write_symbol

Round = Literal["fourths", "fifths", "half", "whole"]
STEPS: dict[Round, int] = {"fourths": 5, "fifths": 7, "half": 1, "whole": 2}


def round_keys(first: Key, way: Round, down: bool = False) -> tuple[Key, ...]:
    """All twelve keys from one of them, each spelled with fewer signs. By whole steps it is two rounds of six, the
    second a half step higher (or lower).
    """
    step = -STEPS[way] if down else STEPS[way]
    if way == "whole":
        shifts = [step * n for n in range(6)] + [step // 2 + step * n for n in range(6)]
    else:
        shifts = [step * n for n in range(12)]
    return (first, *(key_on(first.tonic.pc + shift, first.mode) for shift in shifts[1:]))


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
