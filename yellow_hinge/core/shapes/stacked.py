"""One chord over another: the upper triad whole in the right hand, a shell of the lower chord in the left."""

from __future__ import annotations

from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.forms import Forms
from yellow_hinge.core.shapes.makers import Offsets
from yellow_hinge.core.symbols.chord import Chord


def stacked_forms(chord: Chord, mine: bool) -> tuple[Forms, tuple[str, ...]] | None:
    """The forms of a triad over another chord, of a family that stands first, and the degrees of the lower chord that
    have to sound; None where it is no such chord. `mine`: the left hand has the bass.
    """
    if chord.stack is None or len(chord.stack[0].pitch_classes) != 3:
        return None
    upper, lower = chord.stack
    notes = sorted((pc - lower.root.pc) % 12 for pc in upper.pitch_classes)
    third, seventh = lower.quality.third, lower.quality.seventh
    shells = [shell for shell in _shells(third, seventh, mine) if not _rubs(shell, notes)] or [(0,)]
    turns = tuple(_low((*notes[turn:], *(note + 12 for note in notes[:turn]))) for turn in range(3))
    able = {0, *notes, *(note % 12 for shell in shells for note in shell)}
    needed = ("1", third, seventh if third and degree_pc(third) in notes else "")
    must = tuple(degree for degree in needed if degree and degree_pc(degree) in able)
    return Forms(0, tuple(shells), turns), must


def _shells(third: str, seventh: str, mine: bool) -> list[Offsets]:
    """What the left hand may sound of the lower chord, as semitones above its root."""
    near = [degree_pc(degree) for degree in (third, seventh) if degree]
    if not mine:
        rows: list[Offsets] = [(note,) for note in near[:1]]
        return rows + ([(near[0], near[1]), (near[1], near[0] + 12)] if len(near) == 2 else [])
    found: list[Offsets] = [(0, 12), (0, 7), (0,), *((0, note) for note in near)]
    return found + ([(0, near[0], near[1])] if len(near) == 2 else [])


def _rubs(shell: Offsets, notes: list[int]) -> bool:
    """Whether a note of a shell, its root left out, lies a half step from one of the upper triad."""
    return any((a - b) % 12 in (1, 11) for a in shell if a % 12 for b in notes)


def _low(row: Offsets) -> Offsets:
    return tuple(note - 12 * (row[0] // 12) for note in row)
