"""Lines as text: one sign a step. A degree of the chord, `.` held, `r` rest, `'` or `,` an octave up or down from the
nearest, `|` between bars, `(a b c)` signs that share one beat.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from fractions import Fraction
from math import gcd

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.song.timeline import Moment

_GROUP, _TOKEN = re.compile(r"\(([^()|]*)\)|[^\s()]+|[()]"), re.compile(r"[^\s()]+|[()]")
_SIGN = re.compile(r"([b#]{0,2}\d{1,2})([',]*)")
NEAREST = 6  # semitones up or down: the nearest note of a name; a tritone is taken up
FARTHEST = 127


def nearest(pc: int, midi: int) -> int:
    """The MIDI number of a pitch class that is nearest to another one."""
    up = (pc - midi) % 12
    return midi + (up if up <= NEAREST else up - 12)


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


def written(line: Line, moments: Sequence[Moment], near: int) -> str:
    """A line in degrees, from the first chord's beginning on; `near` is the MIDI number that its first note is told
    from.
    """
    step, found = step_of(line, moments), []
    notes = {note.onset: note for note in line.notes}
    sounding = None
    for at, moment in enumerate(moments):
        if at and moment.beat == 1:
            found.append("|")
        place = moment.quarter
        while place < moment.quarter + moment.quarters:
            note = notes.get(place)
            if note is not None:
                octaves = (note.midi - nearest(note.midi % 12, near)) // 12
                found.append(note.degree + ("'" * octaves if octaves > 0 else "," * -octaves))
                near, sounding = note.midi, note
            else:
                goes_on = sounding is not None and place < sounding.onset + sounding.quarters
                found.append("." if goes_on else "r")
            place += step
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
    found: list[tuple[Fraction, Fraction, int]] = []
    held = False
    for token, place, length, moment in _placed(text, places, step):
        if token[0] == "r":
            held = False
        elif token[0] == ".":
            if not held:
                raise UserError(f"column {token.start() + 1}: nothing sounds that could be held")
            onset, before, midi = found[-1]
            found[-1] = (onset, before + length, midi)
        else:
            near = _midi(token, moment, near)
            found.append((place, length, near))
            held = True
    return found


def _placed(
    text: str, places: list[tuple[Fraction, Moment]], step: Fraction
) -> Iterator[tuple[re.Match[str], Fraction, Fraction, Moment]]:
    """The signs of a text, each with its place, its length (quarters) and its chord."""
    at = 0
    for group in _GROUP.finditer(text):
        if group[0] == "|":
            continue
        column = group.start() + 1
        if at == len(places):
            raise UserError(f"column {column}: there are more signs than steps in the chords ({len(places)})")
        place, moment = places[at]
        if group[1] is None:
            token = _TOKEN.match(text, group.start())
            assert token is not None
            yield token, place, step, moment
            at += 1
            continue
        beat = moment.meter.beat_quarters
        signs = list(_TOKEN.finditer(text, group.start(1), group.end(1)))
        if not signs or beat % step or place + beat > moment.quarter + moment.quarters:
            raise UserError(f"column {column}: a group in brackets is one beat of a chord")
        for n, token in enumerate(signs):
            yield token, place + n * beat / len(signs), beat / len(signs), moment
        at += int(beat / step)


def _midi(token: re.Match[str], moment: Moment, near: int) -> int:
    sign = _SIGN.fullmatch(token[0])
    if sign is None or moment.chord is None:
        raise UserError(f"column {token.start() + 1}: {token[0][:12]!r} is no degree, `.`, `r` or `|`")
    midi = nearest((moment.chord.root.pc + degree_pc(sign[1])) % 12, near)
    midi += 12 * (sign[2].count("'") - sign[2].count(","))
    if not 0 <= midi <= FARTHEST:
        raise UserError(f"column {token.start() + 1}: {token[0][:12]!r} lies outside the keyboard")
    return midi
