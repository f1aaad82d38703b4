"""A bass that stays below several chords: one swap for all of them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch import spell
from yellow_hinge.core.reharm.context import Context, over
from yellow_hinge.core.reharm.table import Idea, Kind
from yellow_hinge.core.writing import write_symbol

MOST = 8  # chords over one bass
LEAST = 2


def _nothing(scene: Context) -> Iterator[Idea]:
    """One chord alone is the table's pedal."""
    yield from ()


THROUGH = Kind("pedal-through", "Pedal through", 1, _nothing)


class Run(NamedTuple):
    """New chords in the place of chords `first` to `last` of a solution, and why."""

    first: int
    last: int
    chords: tuple[Chord, ...]
    reason: str


def pedal_runs(solution: Solution, index: int) -> Iterator[Run]:
    """From a chord on, the chords of its section over the key's five or one, up to one that has that bass anyhow."""
    first = solution.voicings[index].here
    for degree, word in (("5", "five"), ("1", "one")):
        bass = spell(first.key.tonic, degree)
        chords = []
        for voicing in solution.voicings[index : index + MOST]:
            moment = voicing.here
            same_part = (moment.section, moment.turn, moment.key) == (first.section, first.turn, first.key)
            if not same_part or voicing.chord.stack is not None or voicing.chord.bass_note.pc == bass.pc:
                break
            chords.append(over(voicing.chord, bass))
        last = index + len(chords) - 1
        if len(chords) >= LEAST:
            until = solution.voicings[last + 1].chord if last + 1 < len(solution.voicings) else None
            goes = f", until {write_symbol(until)}" if until is not None else ""
            yield Run(index, last, tuple(chords), f"{bass} stays below {len(chords)} chords as the {word}{goes}")
