"""Lines in degrees, read: one sign a step. A degree of the chord, `.` held, `r` rest, `'` or `,` an octave up or down
from the nearest, `|` between bars, `(a b c)` signs that share one beat. A take keeps its line so, chord by chord.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import Pitch, degree_pc, pitch_of
from yellow_hinge.core.rhythm.asked import LinePiece
from yellow_hinge.core.song.timeline import Moment

_GROUP, _TOKEN = re.compile(r"\(([^()|]*)\)|[^\s()]+|[()]"), re.compile(r"[^\s()]+|[()]")
_SIGN = re.compile(r"([b#]{0,2}\d{1,2})([',]*)")
NEAREST = 6  # semitones up or down: the nearest note of a name; a tritone is taken up
FARTHEST = 127
MIDDLE = 74  # D5: what the first note of a line is told from
Places = list[tuple[Fraction, Moment]]


def nearest(pc: int, midi: int) -> int:
    """The MIDI number of a pitch class that is nearest to another one."""
    up = (pc - midi) % 12
    return midi + (up if up <= NEAREST else up - 12)


class LineReader:
    """Reads signs one stretch after the other: `notes` are (onset, length, MIDI number), in quarters."""

    def __init__(self, near: int = MIDDLE) -> None:
        self.near, self.held = near, False
        self.notes: list[tuple[Fraction, Fraction, int]] = []

    def take(self, text: str, places: Places, step: Fraction) -> None:
        """Read a text whose signs stand at `places`, a `step` (quarters) apart. Raises UserError that names the column
        of what cannot be read.
        """
        for token, place, length, moment in _placed(text, places, step):
            if token[0] == "r":
                self.held = False
            elif token[0] == ".":
                if not self.held:
                    raise UserError(f"column {token.start() + 1}: nothing sounds that could be held")
                onset, before, midi = self.notes[-1]
                self.notes[-1] = (onset, before + length, midi)
            else:
                self.near = _midi(token, moment, self.near)
                self.notes.append((place, length, self.near))
                self.held = True

    def rest(self, near: int = MIDDLE) -> None:
        """Nothing sounds; what comes is told from `near`."""
        self.near, self.held = near, False

    def cut(self, end: Fraction) -> None:
        """Let nothing begin or sound after a place."""
        while self.notes and self.notes[-1][0] >= end:
            self.notes.pop()
        if self.notes:
            onset, length, midi = self.notes[-1]
            self.notes[-1] = (onset, min(length, end - onset), midi)


def _placed(text: str, places: Places, step: Fraction) -> Iterator[tuple[re.Match[str], Fraction, Fraction, Moment]]:
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


class LineTone(NamedTuple):
    """A note of a kept line: quarters from the song's start, its length in quarters, its MIDI number, and the index of
    its chord among the moments.
    """

    onset: Fraction
    quarters: Fraction
    midi: int
    at: int

    def spelled(self, moments: Sequence[Moment]) -> Pitch:
        """Its pitch, spelled over its chord."""
        chord = moments[self.at].chord
        assert chord is not None
        return pitch_of(self.midi, chord.note_of(self.midi % 12))


def anew(moments: Sequence[Moment], at: int) -> bool:
    """Whether a line is told from the middle again at a chord of a row: where a section, or a pass of it, begins, and
    after bars without a chord.
    """
    if not at:
        return True
    here, before = moments[at], moments[at - 1]
    gap = before.quarter + before.quarters != here.quarter
    return gap or (here.section, here.turn) != (before.section, before.turn)


def line_tones(moments: Sequence[Moment], pieces: Sequence[LinePiece]) -> tuple[LineTone, ...]:
    """The notes of a line that is kept chord by chord, in every pass. Signs that the chord has no time for, and a piece
    that cannot be read now, are left out.
    """
    by_slot, reader = {piece.slot: piece for piece in pieces}, LineReader()
    places_of = [n for n, moment in enumerate(moments) if moment.chord is not None] if by_slot else []
    row, owners = [moments[n] for n in places_of], list[int]()
    for at, moment in enumerate(row):
        piece = by_slot.get(moment.slot_id)
        if piece is None or anew(row, at):
            reader.rest()
        if piece is None:
            continue
        _take_piece(reader, piece, moment)
        owners += [places_of[at]] * (len(reader.notes) - len(owners))
    return tuple(LineTone(*note, at) for note, at in zip(reader.notes, owners, strict=True))


def _take_piece(reader: LineReader, piece: LinePiece, moment: Moment) -> None:
    """Read a piece as far as its chord has time for it; nothing of one that cannot be read."""
    known, count = list(reader.notes), len(_GROUP.findall(piece.degrees)) + int(moment.quarters / piece.step)
    try:
        reader.take(piece.degrees, [(moment.quarter + n * piece.step, moment) for n in range(count)], piece.step)
    except UserError:
        reader.notes = known
        reader.rest(reader.near)
    reader.cut(moment.quarter + moment.quarters)
