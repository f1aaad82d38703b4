"""Lines as text in degrees (the signs are explained in core/rhythm/fills/degree_line.py): written, read, and taken
apart into what a take keeps at every chord.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from math import gcd

from yellow_hinge.core.lines.lines import Line, LineNote
from yellow_hinge.core.rhythm.asked import LinePiece
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE, LineReader, anew, nearest
from yellow_hinge.core.song.timeline import Moment


def step_of(line: Line, moments: Sequence[Moment]) -> Fraction:
    """The longest step (quarters) on which all of a line's notes begin and end, and the chords."""
    edges = [edge for note in line.notes for edge in (note.onset, note.onset + note.quarters)]
    edges += [edge for m in moments for edge in (m.quarter, m.quarter + m.quarters)]
    first = moments[0].quarter if moments else Fraction(0)
    gaps = [edge - first for edge in edges if edge != first] or [Fraction(1)]
    below = max(gap.denominator for gap in gaps)
    below = below * max(1, *(gap.denominator // gcd(below, gap.denominator) for gap in gaps))
    above = 0
    for gap in gaps:
        above = gcd(above, int(gap * below))
    return Fraction(above, below)


class _Teller:
    """Tells a line chord by chord, a sign a step."""

    def __init__(self, line: Line, step: Fraction, near: int) -> None:
        self.step, self.near = step, near
        self._notes = {note.onset: note for note in line.notes}
        self._sounding: LineNote | None = None

    def over(self, moment: Moment) -> list[str]:
        """The signs over a chord."""
        found, place = [], moment.quarter
        while place < moment.quarter + moment.quarters:
            note = self._notes.get(place)
            if note is not None:
                octaves = (note.midi - nearest(note.midi % 12, self.near)) // 12
                found.append(note.degree + ("'" * octaves if octaves > 0 else "," * -octaves))
                self.near, self._sounding = note.midi, note
            else:
                held = self._sounding is not None and place < self._sounding.onset + self._sounding.quarters
                found.append("." if held else "r")
            place += self.step
        return found


def written(line: Line, moments: Sequence[Moment], near: int) -> str:
    """A line in degrees, from the first chord's beginning on; `near` is the MIDI number that its first note is told
    from.
    """
    teller, found = _Teller(line, step_of(line, moments), near), []
    for at, moment in enumerate(moments):
        if at and moment.beat == 1:
            found.append("|")
        found += teller.over(moment)
    return " ".join(found)


def read(text: str, moments: Sequence[Moment], step: Fraction, near: int) -> list[tuple[Fraction, Fraction, int]]:
    """(onset, length, MIDI number) of the notes of a text, as `written` writes it: quarters. Raises UserError that
    names the column of what cannot be read.
    """
    places = [
        (moment.quarter + n * step, moment)
        for moment in moments
        for n in range(int(moment.quarters / step))
    ]  # fmt: skip
    reader = LineReader(near)
    reader.take(text, places, step)
    return reader.notes


def pieces(line: Line, moments: Sequence[Moment]) -> tuple[LinePiece, ...]:
    """What a take keeps of a line at every chord; of one that is played several times the first time counts."""
    step = step_of(line, moments)
    teller, found = _Teller(line, step, MIDDLE), dict[int, LinePiece]()
    for at, moment in enumerate(moments):
        if anew(moments, at):
            teller.near = MIDDLE
        signs = teller.over(moment)
        found.setdefault(moment.slot_id, LinePiece(moment.slot_id, " ".join(signs), step))
    return tuple(found.values())
