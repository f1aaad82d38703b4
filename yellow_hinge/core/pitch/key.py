"""Keys, their scales, numbers of roots and chords, spelling in a key."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.errors import KeyNameError, NoteNameError
from yellow_hinge.core.pitch.pitch import Note, degree_pc, flat_note, parse_note, plain_signs, sharp_note, spell

# Scale degrees against the major scale of the same tonic.
MODES: dict[str, tuple[str, ...]] = {
    "major": ("1", "2", "3", "4", "5", "6", "7"),
    "minor": ("1", "2", "b3", "4", "5", "b6", "b7"),
    "harmonic minor": ("1", "2", "b3", "4", "5", "b6", "7"),
    "melodic minor": ("1", "2", "b3", "4", "5", "6", "7"),
    "dorian": ("1", "2", "b3", "4", "5", "6", "b7"),
    "phrygian": ("1", "b2", "b3", "4", "5", "b6", "b7"),
    "lydian": ("1", "2", "3", "#4", "5", "6", "7"),
    "mixolydian": ("1", "2", "3", "4", "5", "6", "b7"),
    "locrian": ("1", "b2", "b3", "4", "b5", "b6", "b7"),
}
_MODE_WORDS = {
    "": "major", "major": "major", "maj": "major", "dur": "major", "ionian": "major",
    "m": "minor", "min": "minor", "minor": "minor", "natural minor": "minor", "aeolian": "minor", "-": "minor",
    "harmonic minor": "harmonic minor", "melodic minor": "melodic minor", "dorian": "dorian",
    "phrygian": "phrygian", "lydian": "lydian", "mixolydian": "mixolydian", "locrian": "locrian",
}  # fmt: skip
_KEY = re.compile(r"([A-Ga-g](?:bb|##|b|#|))\s*(?:-\s*(?=[A-Za-z]))?([A-Za-z ]*|-)")

NUMERALS = ("I", "II", "III", "IV", "V", "VI", "VII")  # of the steps

# Fifths of a tonic without signs, and how a mode's signature lies beside that of major on the same tonic.
_LETTER_FIFTHS = (0, 2, 4, -1, 1, 3, 5)
_MODE_FIFTHS = {
    "major": 0, "minor": -3, "harmonic minor": -3, "melodic minor": -3, "dorian": -2, "phrygian": -4, "lydian": 1,
    "mixolydian": -1, "locrian": -5,
}  # fmt: skip

# How an out-of-scale pitch class above the tonic is numbered; the tritone is #4 as a root of its own.
CHROMATIC = ("1", "b2", "2", "b3", "3", "4", "#4", "5", "b6", "6", "b7", "7")


class Key(NamedTuple):
    """A tonic and a mode out of MODES."""

    tonic: Note
    mode: str

    def __str__(self) -> str:
        return f"{self.tonic} {self.mode}"

    @property
    def is_minor(self) -> bool:
        """Whether the third above the tonic is minor."""
        return "b3" in MODES[self.mode]

    @property
    def scale(self) -> tuple[Note, ...]:
        """The seven notes of the scale, spelled."""
        return tuple(spell(self.tonic, degree) for degree in MODES[self.mode])


@lru_cache(maxsize=512)
def parse_key(text: str) -> Key:
    """Read "E", "Em", "F# minor", "Db major", "D dorian". Raises KeyNameError."""
    match = _KEY.fullmatch(plain_signs(text.strip()))
    word = re.sub(r"\s+", " ", match[2].strip()) if match else ""
    mode = _MODE_WORDS.get("major" if word == "M" else word.lower())
    if not match or mode is None:
        raise KeyNameError(f"{text[:30]!r} is not a key; write a note and a mode, such as E, F# minor or D dorian")
    return Key(parse_note(match[1]), mode)


@lru_cache(maxsize=4096)
def root_number(note: Note, key: Key) -> str:
    """The number of a root in the key against the major scale of its tonic: Ab in C gives "b6".

    Where the key's own step is flat, the raised one is marked: A# in B minor is "#7". Reading the number with
    `number_root` gives the same pitch class again.
    """
    digit = (note.letter - key.tonic.letter) % 7 + 1
    alter = (note.pc - key.tonic.pc - degree_pc(str(digit)) + 6) % 12 - 6
    odd = (alter < 0 and digit in (1, 4)) or (alter > 0 and digit in (3, 6, 7))  # nobody says b4 or #3
    if abs(alter) <= 1 and not odd:
        number = ("b" if alter < 0 else "#" if alter > 0 else "") + str(digit)
    else:
        number = CHROMATIC[(note.pc - key.tonic.pc) % 12]
    if number_root(number, key).pc == note.pc:
        return number
    number = CHROMATIC[(note.pc - key.tonic.pc) % 12]
    if number_root(number, key).pc == note.pc:
        return number
    return ("b" if MODES[key.mode][int(number[-1]) - 1].startswith("#") else "#") + number


def flat_step(note: Note, key: Key) -> str:
    """The number of a root where its letter does not count: "b2" for D in Db. It is read as the same pitch class."""
    number = CHROMATIC[(note.pc - key.tonic.pc) % 12]
    return number if number_root(number, key).pc == note.pc else root_number(note, key)


def number_root(number: str, key: Key) -> Note:
    """The root that a number names. An unmarked number is a step of the key's own scale; b counts from the major
    scale and # from the key's own flat step, so both "b3" and "3" of B minor are D and "#7" is A#; "4" of F
    lydian is B and "b4" Bb. Raises
    NoteNameError.
    """
    digit, marks = number[-1:], number[:-1]
    if not digit or digit not in "1234567" or marks not in ("", "b", "#"):
        raise NoteNameError(f"{number[:12]!r} is not a scale number; write 1 to 7 with at most one b or # before it")
    own = MODES[key.mode][int(digit) - 1]
    if own.startswith("#"):  # the raised step is both "4" and "#4"; the plain one is lowered from it
        return spell(key.tonic, digit if marks == "b" else own)
    flat_step = own.startswith("b")
    if not marks:
        return spell(key.tonic, own if flat_step else digit)
    if marks == "b" or not flat_step:
        return spell(key.tonic, marks + digit)
    return spell(key.tonic, digit)


def own_triad(number: str, key: Key) -> tuple[str, str]:
    """(third, fifth) degrees of the triad that the key's scale builds on an unmarked number, e.g. ("b3", "5")."""
    scale = MODES[key.mode]
    step = int(number[-1]) - 1
    base = degree_pc(scale[step])
    third = (degree_pc(scale[(step + 2) % 7]) - base) % 12
    fifth = (degree_pc(scale[(step + 4) % 7]) - base) % 12
    return ("b3" if third == 3 else "3"), {6: "b5", 7: "5", 8: "#5"}[fifth]


@lru_cache(maxsize=4096)
def spell_in_key(pc: int, key: Key) -> Note:
    """A pitch class spelled for the key: its scale note, else as the roots b2 b3 #4 b6 b7 of the key are spelled; a
    name with double signs gives way to a simple one.
    """
    for note in key.scale:
        if note.pc == pc % 12:
            return note
    note = spell(key.tonic, CHROMATIC[(pc - key.tonic.pc) % 12])
    if abs(note.alter) < 2:
        return note
    return flat_note(pc) if _flat_side(key) else sharp_note(pc)


@lru_cache(maxsize=512)
def _flat_side(key: Key) -> bool:
    flats = sum(1 for note in key.scale if note.alter < 0)
    sharps = sum(1 for note in key.scale if note.alter > 0)
    return flats > sharps or (flats == sharps == 0 and key.is_minor)


def fifths(key: Key) -> int:
    """The signature of a key: sharps, or flats below 0."""
    return _LETTER_FIFTHS[key.tonic.letter] + 7 * key.tonic.alter + _MODE_FIFTHS[key.mode]


def key_on(pc: int, mode: str) -> Key:
    """The key of a mode on a pitch class, spelled with fewer signs, with flats where both spellings have as many."""
    return min((Key(flat_note(pc), mode), Key(sharp_note(pc), mode)), key=lambda key: abs(fifths(key)))


def shift_to(old: Key, new: Key) -> int:
    """Semitones of the nearest way between two keys. A tritone goes up from the keys C to F and down from those above,
    so that going there and back ends where it began.
    """
    by = (new.tonic.pc - old.tonic.pc + 5) % 12 - 5
    return -by if by == 6 and old.tonic.pc >= 6 else by


def transpose_note(note: Note, old: Key, new: Key) -> Note:
    """`note` moved from one key to another with its number kept, so that the spelling follows the new key."""
    letter = (note.letter - old.tonic.letter + new.tonic.letter) % 7
    target = (note.pc - old.tonic.pc + new.tonic.pc) % 12
    alter = (target - Note(letter, 0).pc + 6) % 12 - 6
    moved = Note(letter, alter)
    return moved if abs(alter) <= 2 else spell_in_key(target, new)


def diatonic_seventh(root: Note, key: Key) -> str:
    """The seventh ("7" or "b7") that the key's scale gives over a root of the scale, "" off the scale."""
    pcs = {note.pc for note in key.scale}
    if root.pc not in pcs:
        return ""
    return next((s for s in ("7", "b7") if (root.pc + degree_pc(s)) % 12 in pcs), "")
