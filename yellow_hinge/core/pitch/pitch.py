"""Letters, accidentals, spelled notes and pitches, MIDI numbers, chord degrees.

A degree is a string as players say it ("b9", "#11", "bb7"), measured against the major scale. MIDI 60 is C4, and an
octave number belongs to its letter, so Cb4 is 59 and B#3 is 60.
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.errors import NoteNameError

LETTERS = "CDEFGAB"
LETTER_PC = (0, 2, 4, 5, 7, 9, 11)

_SIGNS = str.maketrans({"♭": "b", "♯": "#", "♮": "", "𝄫": "bb", "𝄪": "##", "−": "-", "–": "-"})
_NOTE = re.compile(r"([A-Ga-g])(##|bb|x|#|b|)")
_PITCH = re.compile(r"([A-Ga-g])(##|bb|x|#|b|)(-?\d)")
_NOTE_FLATS = re.compile(r"(?<=(?<![A-Za-z])[A-G])b{1,2}")
_DEGREE_FLATS = re.compile(r"b{1,2}(?=\d)")
_ALTER = {"": 0, "#": 1, "b": -1, "##": 2, "x": 2, "bb": -2}


class Note(NamedTuple):
    """A spelled pitch class: `letter` 0 (C) to 6 (B) and `alter` in semitones."""

    letter: int
    alter: int

    @property
    def pc(self) -> int:
        """Pitch class 0 to 11, C = 0."""
        return (LETTER_PC[self.letter] + self.alter) % 12

    def __str__(self) -> str:
        return LETTERS[self.letter] + accidental(self.alter)


class Pitch(NamedTuple):
    """A spelled pitch; `octave` belongs to the letter."""

    note: Note
    octave: int

    @property
    def midi(self) -> int:
        """MIDI number."""
        return 12 * (self.octave + 1) + LETTER_PC[self.note.letter] + self.note.alter

    def __str__(self) -> str:
        return f"{self.note}{self.octave}"


def accidental(alter: int) -> str:
    """ASCII sign of an alteration in semitones: "b", "##", ""."""
    return "#" * alter if alter > 0 else "b" * -alter


def plain_signs(text: str) -> str:
    """`text` with Unicode accidentals and dashes turned into ASCII."""
    return text.translate(_SIGNS)


@lru_cache(maxsize=4096)
def pretty_signs(text: str) -> str:
    """`text` with every ASCII b and # that stands as an accidental turned into its music sign.

    A "b" is an accidental after a capital A to G that begins a word, after another such b, or before a digit.
    """
    text = _NOTE_FLATS.sub(lambda match: "♭" * len(match[0]), text)
    return _DEGREE_FLATS.sub(lambda match: "♭" * len(match[0]), text).replace("#", "♯")


@lru_cache(maxsize=4096)
def parse_note(text: str) -> Note:
    """Read a note name such as "Eb" or "F♯". Raises NoteNameError."""
    match = _NOTE.fullmatch(plain_signs(text.strip()))
    if not match:
        raise NoteNameError(f"{text[:20]!r} is not a note; write a letter A to G with b or #, such as Eb")
    return Note(LETTERS.index(match[1].upper()), _ALTER[match[2]])


def parse_pitch(text: str) -> Pitch:
    """Read a pitch such as "Eb3", or a MIDI number (spelled with sharps). Raises NoteNameError."""
    clean = plain_signs(text.strip())
    if clean.isdecimal() and len(clean) <= 3 and int(clean) < 128:
        return pitch_of(int(clean), sharp_note(int(clean) % 12))
    match = _PITCH.fullmatch(clean)
    if not match:
        raise NoteNameError(f"{text[:20]!r} is not a pitch; write a note and an octave such as Eb3, or a MIDI number")
    pitch = Pitch(Note(LETTERS.index(match[1].upper()), _ALTER[match[2]]), int(match[3]))
    if not 0 <= pitch.midi <= 127:
        raise NoteNameError(f"{text[:20]!r} lies outside the MIDI range, C-1 to G9")
    return pitch


def pitch_of(midi: int, note: Note) -> Pitch:
    """The pitch with that MIDI number, spelled as `note` (which must have its pitch class)."""
    return Pitch(note, (midi - note.alter - LETTER_PC[note.letter]) // 12 - 1)


_SHARPS = tuple(parse_note(n) for n in ["C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"])
_FLATS = tuple(parse_note(n) for n in ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"])


def sharp_note(pc: int) -> Note:
    """A pitch class spelled without flats."""
    return _SHARPS[pc % 12]


def flat_note(pc: int) -> Note:
    """A pitch class spelled without sharps."""
    return _FLATS[pc % 12]


def simple_note(note: Note) -> Note:
    """The everyday name: no double signs, no E#, B#, Cb, Fb."""
    if abs(note.alter) < 2 and str(note) not in ("E#", "B#", "Cb", "Fb"):
        return note
    return sharp_note(note.pc) if note.alter > 0 else flat_note(note.pc)


# --- degrees -----------------------------------------------------------------------------------------------------

_MAJOR_STEPS = (0, 2, 4, 5, 7, 9, 11)
_DEGREE = re.compile(r"(bb|b|##|#|)(\d{1,2})")


@lru_cache(maxsize=512)
def degree_parts(degree: str) -> tuple[int, int]:
    """(number, alteration) of a degree: "b9" gives (9, -1). Raises NoteNameError."""
    match = _DEGREE.fullmatch(degree)
    if not match or not 1 <= int(match[2]) <= 17:
        raise NoteNameError(f"{degree[:12]!r} is not a degree; write a number 1 to 13 with b or # before it")
    return int(match[2]), _ALTER[match[1]]


@lru_cache(maxsize=512)
def degree_semitones(degree: str) -> int:
    """Semitones above the root, not folded into one octave: "b9" gives 13."""
    number, alter = degree_parts(degree)
    return 12 * ((number - 1) // 7) + _MAJOR_STEPS[(number - 1) % 7] + alter


def degree_pc(degree: str) -> int:
    """Semitones above the root inside one octave."""
    return degree_semitones(degree) % 12


@lru_cache(maxsize=4096)
def spell(root: Note, degree: str) -> Note:
    """The note that stands on `degree` over `root`, spelled by its letter: b3 over Db is Fb."""
    number, _ = degree_parts(degree)
    letter = (root.letter + number - 1) % 7
    alter = (root.pc + degree_semitones(degree) - LETTER_PC[letter] + 6) % 12 - 6
    return Note(letter, alter)
