"""Lines of the player's own, kept in degrees chord by chord, and found again wherever a song has those chords."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.lines import Line, LineNote
from yellow_hinge.core.lines.onsets import RUBS, sung_at
from yellow_hinge.core.lines.rails import HIGH, LOW, OVER
from yellow_hinge.core.lines.text import line_of, signs
from yellow_hinge.core.own.checks import named
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.rhythm.asked import LEAST_STEP, MOST_QUARTERS
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE, LineReader
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_number
from yellow_hinge.core.tables import Entries

MOST_CHORDS, LONGEST_CHORD = 16, 400  # characters
LOWEST, HIGHEST = 60, 91  # C4 to G6: where a line that one wrote may lie, if it has no octave inside the usual range
_CHORD = re.compile(r"(\S+) (\d{1,3}(?:/\d{1,3})?) (\d{1,3}(?:/\d{1,3})?) \| (.+)")
_SIGN = re.compile(r"\.|r|[b#]{0,2}\d{1,2}[',]{0,4}")


class LineChord(NamedTuple):
    """A chord of an entry in numbers, its length and that of a step (quarters), and a sign a step."""

    symbol: str
    quarters: Fraction
    step: Fraction
    signs: str


class OwnLine(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file says; the fields are explained in its example."""

    id: str
    name: str
    chords: tuple[str, ...]
    words: str = ""

    def __post_init__(self) -> None:
        named(self.id, self.name, self.words)
        if not 0 < len(self.chords) <= MOST_CHORDS:
            raise UserError(f"chords: 1 to {MOST_CHORDS} of them")
        sounds = False
        for text in self.chords:
            sounds = _checked(text, sounds)
        if not any(sign[0] not in ".r" for row in self.rows for sign in row.signs.split()):
            raise UserError("chords: a line has a note at least")

    @property
    def rows(self) -> tuple[LineChord, ...]:
        """Its chords."""
        return tuple(map(_row, self.chords))

    @property
    def quarters(self) -> Fraction:
        """Of all its chords."""
        return sum((row.quarters for row in self.rows), Fraction(0))


OWN_LINES: Entries[OwnLine] = Entries(dict, hands=False)  # by their ids


@lru_cache(maxsize=4096)
def _row(text: str) -> LineChord:
    found = _CHORD.fullmatch(" ".join(text.split())) if len(text) <= LONGEST_CHORD else None
    if found is None:
        raise UserError(f"chords: {text[:40]!r} is not 'chord quarters step | a sign a step'")
    try:
        return LineChord(found[1], Fraction(found[2]), Fraction(found[3]), found[4])
    except ZeroDivisionError:
        raise UserError(f"chords: {text[:40]!r} divides by nothing") from None


def _checked(text: str, sounds: bool) -> bool:
    """Whether a note still sounds after a chord; `sounds`: before it. Raises UserError for what cannot be read."""
    row = _row(text)
    own = row.signs.split()
    if not (LEAST_STEP <= row.step <= row.quarters <= MOST_QUARTERS) or len(own) * row.step != row.quarters:
        raise UserError(f"chords: {text[:40]!r} has {len(own)} signs in {row.quarters} quarters, each {row.step}")
    for key in ("C", "C minor"):
        if parse_symbol(row.symbol, parse_key(key)).stack is not None:
            raise UserError(f"chords: {row.symbol[:20]!r} has no degrees of its own")
    for sign in own:
        if not _SIGN.fullmatch(sign) or (sign == "." and not sounds):
            raise UserError(f"chords: {text[:40]!r}: {sign[:12]!r} is no degree, nor . after a note, nor r")
        if sign[0] not in ".r":
            degree_pc(sign.rstrip("',"))
        sounds = sign != "r"
    return sounds


# --- onto the shelf ---
def shelved_line(name: str, line: Line, moments: Sequence[Moment]) -> OwnLine:
    """A line over a row of chords as an entry of the player's own, without the chords at either end over which nothing
    begins. Raises UserError where there is none, or too much of it.
    """
    if not line.notes:
        raise UserError("there is no note of a line over these chords")
    end = max(note.onset + note.quarters for note in line.notes)
    first = min(note.at for note in line.notes)
    kept = [moment for moment in moments[first:] if moment.quarter < end]
    if len(kept) > MOST_CHORDS:
        raise UserError(f"a line on the shelf is over 1 to {MOST_CHORDS} chords: mark the ones that are meant")
    if not _in_a_row(kept):
        raise UserError("there are bars without a chord inside: mark what lies before them, or after")
    step, told = signs(line, kept, MIDDLE)
    chords = []
    for moment, own in zip(kept, told, strict=True):
        assert moment.chord is not None
        chords.append(f"{write_number(moment.chord, moment.key)} {moment.quarters} {step} | {' '.join(own)}")
    slug = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:40].strip("-") or "mine"
    ends = [chord.split()[0] for chord in chords]
    return OwnLine(slug, re.sub(r"[\s,+]+", " ", name).strip()[:40], tuple(chords), f"{ends[0]} to {ends[-1]}")


# --- where it fits ---
class LineFit(NamedTuple):
    """An entry over the chords of a row from `first` to `last`, as it is played there (`at` counts in the row)."""

    entry: OwnLine
    first: int
    last: int
    line: Line


def over_chords(entry: OwnLine, moments: Sequence[Moment], floors: Sequence[int]) -> Line | None:
    """An entry over as many chords, in the octave that is nearest to the usual range of lines and keeps over `floors`
    (MIDI numbers). None where there is none, where the chords or their lengths are others, or the tune would be rubbed.
    """
    rows = entry.rows
    if not all(map(_is, rows, moments, [False] * (len(rows) - 1) + [True])):
        return None
    try:
        whole = line_of(_notes(rows, moments), moments, f"mine: {entry.name}")
    except UserError:
        return None
    found = [tuple(note._replace(midi=note.midi + by) for note in whole.notes) for by in (0, -12, 12)]
    able = [
        notes
        for notes in found
        if all(max(LOWEST, floors[note.at]) <= note.midi <= HIGHEST for note in notes)
        and not any(_rubs(note, moments[note.at]) for note in notes)
    ]
    return Line(min(able, key=_outside), 0.0) if able else None


def _notes(rows: Sequence[LineChord], moments: Sequence[Moment]) -> list[tuple[Fraction, Fraction, int]]:
    """(onset, length, MIDI number) of the notes of an entry over its chords. Raises UserError."""
    reader = LineReader(MIDDLE)
    for row, moment in zip(rows, moments, strict=True):
        places = [(moment.quarter + n * row.step, moment) for n in range(len(row.signs.split()))]
        reader.take(row.signs, places, row.step)
    return reader.notes


def _outside(notes: Sequence[LineNote]) -> int:
    """By how many semitones notes lie outside the usual range of lines."""
    return sum(max(0, LOW - note.midi, note.midi - HIGH) for note in notes)


def line_fits(
    entries: Iterable[OwnLine], moments: Sequence[Moment], left_tops: Sequence[int], near: int = 0
) -> tuple[LineFit, ...]:
    """Every entry wherever it fits in a row of chords, those from the chord `near` on first. `left_tops`: the highest
    key (MIDI) of the left hand at each chord, 0 where it rests.
    """
    floors = [top + OVER for top in left_tops]
    found = []
    for entry in entries:
        count = len(entry.chords)
        for first in range(len(moments) - count + 1):
            part = moments[first : first + count]
            whole = all((m.section, m.turn) == (part[0].section, part[0].turn) for m in part)
            whole = whole and _in_a_row(part)
            line = over_chords(entry, part, floors[first : first + count]) if whole else None
            if line is not None:
                notes = tuple(note._replace(at=note.at + first) for note in line.notes)
                found.append(LineFit(entry, first, first + count - 1, Line(notes, 0.0)))
    return tuple(sorted(found, key=lambda fit: (fit.first < near, fit.first, -fit.last, fit.entry.id)))


def _in_a_row(moments: Sequence[Moment]) -> bool:
    """Whether each chord begins where the one before ends."""
    return all(one.quarter + one.quarters == other.quarter for one, other in pairwise(moments))


def _is(row: LineChord, moment: Moment, last: bool) -> bool:
    """Whether a chord of a song is that of an entry, and has its length; the last one may be longer."""
    if moment.chord is None or not (moment.quarters == row.quarters or (last and moment.quarters > row.quarters)):
        return False
    try:
        chord = parse_symbol(row.symbol, moment.key)
    except UserError:
        return False
    return chord.root.pc == moment.chord.root.pc and chord.chord_class == moment.chord.chord_class


def _rubs(note: LineNote, moment: Moment) -> bool:
    """Whether a note lies within a second of a long note of the tune that sounds there."""
    return any(0 < abs(note.midi - midi) <= RUBS for midi in sung_at(moment, note.onset))
