"""Lines as text in degrees (the signs are explained in core/rhythm/fills/degree_line.py): written, read, and taken
apart into what a take keeps at every chord.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Sequence
from fractions import Fraction
from math import gcd

from yellow_hinge.core.lines.lines import Line, LineNote
from yellow_hinge.core.rhythm.asked import LinePiece
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE, LineReader, anew, line_tones, nearest
from yellow_hinge.core.song.timeline import Moment

_FIRST = re.compile(r"([b#]{0,2}\d{1,2})[',]*")  # note of a piece
_HELD = re.compile(r"\A[. ]+")  # what a piece begins with while a note sounds on


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


def _marks(midi: int, near: int) -> str:
    """How many octaves up or down a note (MIDI) is from the one of its name that is nearest to another."""
    octaves = (midi - nearest(midi % 12, near)) // 12
    return "'" * octaves if octaves > 0 else "," * -octaves


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
                found.append(note.degree + _marks(note.midi, self.near))
                self.near, self._sounding = note.midi, note
            else:
                held = self._sounding is not None and place < self._sounding.onset + self._sounding.quarters
                found.append("." if held else "r")
            place += self.step
        return found


def signs(line: Line, moments: Sequence[Moment], near: int) -> tuple[Fraction, list[list[str]]]:
    """The step of a line (quarters), and its signs over every chord; `near` is the MIDI number that its first note is
    told from.
    """
    step = step_of(line, moments)
    teller = _Teller(line, step, near)
    return step, [teller.over(moment) for moment in moments]


def written(line: Line, moments: Sequence[Moment], near: int) -> str:
    """A line in degrees, from the first chord's beginning on, with bar lines; `near` as in `signs`."""
    found: list[str] = []
    for at, (moment, own) in enumerate(zip(moments, signs(line, moments, near)[1], strict=True)):
        found += ["|", *own] if at and moment.beat == 1 else own
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


def line_of(notes: Sequence[tuple[Fraction, Fraction, int]], moments: Sequence[Moment], why: str) -> Line:
    """The line of notes as `read` gives them, over the chords that they begin over."""
    starts, made = [moment.quarter for moment in moments], []
    for onset, quarters, midi in notes:
        at = bisect_right(starts, onset) - 1
        chord = moments[at].chord
        assert chord is not None
        made.append(LineNote(onset, quarters, midi, at, chord.degree_of(midi % 12), why))
    return Line(tuple(made), 0.0)


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


def laid(
    kept: Sequence[LinePiece], line: Line, part: Sequence[Moment], moments: Sequence[Moment]
) -> tuple[LinePiece, ...]:
    """What a take keeps at every chord of a song (`moments`) once a line, of no notes for none, lies over a part of it:
    everything sounds in the octave that it had, though it is told from another note before it.
    """
    slots = {moment.slot_id for moment in part}
    row = {piece.slot: piece for piece in kept if piece.slot not in slots}
    sounding: dict[tuple[int, int], list[int]] = {}
    for tone in line_tones(moments, kept):
        here = moments[tone.at]
        if here.slot_id not in slots:
            sounding.setdefault((here.slot_id, tone.at), []).append(tone.midi)
    places = {moment.quarter: n for n, moment in enumerate(moments)}
    for note in line.notes:
        here = part[note.at]
        sounding.setdefault((here.slot_id, places[here.quarter]), []).append(note.midi)
    for moment in moments[places[part[-1].quarter] + 1 :][:1]:
        if moment.slot_id in row:
            row[moment.slot_id] = _cut_off(row[moment.slot_id])
    if line.notes:
        row |= {piece.slot: piece for piece in pieces(line, part)}
    return _told_on(row, sounding, moments)


def _cut_off(piece: LinePiece) -> LinePiece:
    """A piece into which nothing sounds on any more."""
    degrees = _HELD.sub(lambda dots: dots[0].replace(".", "r"), piece.degrees)
    return LinePiece(piece.slot, degrees, piece.step)


def _told_on(
    row: dict[int, LinePiece], sounding: dict[tuple[int, int], list[int]], moments: Sequence[Moment]
) -> tuple[LinePiece, ...]:
    """Pieces (by their slots) with the first note of each told from the one before it; `sounding` are the notes (MIDI)
    of a slot at a moment. Of one that is played several times the first time counts.
    """
    able = [n for n, moment in enumerate(moments) if moment.chord is not None]
    chords, near, told = [moments[n] for n in able], MIDDLE, set[int]()
    for at, moment in enumerate(chords):
        piece = row.get(moment.slot_id)
        if piece is None or anew(chords, at):
            near = MIDDLE
        midis = sounding.get((moment.slot_id, able[at]), [])
        if piece is None or not midis:
            continue
        if moment.slot_id not in told:
            told.add(moment.slot_id)
            degrees = _FIRST.sub(rf"\g<1>{_marks(midis[0], near)}", piece.degrees, count=1)
            row[moment.slot_id] = LinePiece(piece.slot, degrees, piece.step)
        near = midis[-1]
    return tuple(row.values())
