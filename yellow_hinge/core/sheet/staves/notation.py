"""How lengths, signatures, signs, clefs and beams are written in staves."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.pitch.key import Key, fifths
from yellow_hinge.core.pitch.pitch import Pitch
from yellow_hinge.core.song.song import Meter

_SHARP_ORDER, _FLAT_ORDER = (3, 0, 4, 1, 5, 2, 6), (6, 2, 5, 1, 4, 0, 3)  # letters in a signature
# Note values: name and length in quarters.
VALUES = (
    ("breve", Fraction(8)), ("whole", Fraction(4)), ("half", Fraction(2)), ("quarter", Fraction(1)),
    ("eighth", Fraction(1, 2)), ("16th", Fraction(1, 4)), ("32nd", Fraction(1, 8)), ("64th", Fraction(1, 16)),
    ("128th", Fraction(1, 32)), ("256th", Fraction(1, 64)),
)  # fmt: skip
FLAGS = {"eighth": 1, "16th": 2, "32nd": 3, "64th": 4, "128th": 5, "256th": 6}
_NAMED = [(name, dots, length * (Fraction(3, 2) if dots else 1)) for name, length in VALUES for dots in (1, 0)]


class Value(NamedTuple):
    """A written note value: its length in quarters as it sounds, its name, dots, and in a tuplet how many (`actual`)
    stand for how many (`normal`).
    """

    length: Fraction
    name: str
    dots: int = 0
    actual: int = 1
    normal: int = 1


def signature(key: Key) -> tuple[int, ...]:
    """What the signature of a key does to each of the letters C to B, in semitones."""
    count = fifths(key)
    order, sign = (_SHARP_ORDER, 1) if count > 0 else (_FLAT_ORDER, -1)
    found = [0] * 7
    for place in range(abs(count)):
        found[order[place % 7]] += sign
    return tuple(found)


@lru_cache(maxsize=2048)
def values(length: Fraction) -> tuple[Value, ...]:
    """The tied note values, longest first, that make a length in quarters; thirds, fifths and so on as tuplets."""
    odd = length.denominator
    while odd % 2 == 0:
        odd //= 2
    normal = 1 << (odd.bit_length() - 1)
    rest = length * odd / normal
    found = []
    for name, dots, long in _NAMED:
        while long <= rest:
            found.append(Value(long * normal / odd, name, dots, odd, normal))
            rest -= long
    return tuple(found)


@lru_cache(maxsize=4096)
def written(at: Fraction, length: Fraction, meter: Meter, rest: bool = False) -> tuple[Value, ...]:
    """The values of a note or rest that begins so many quarters into a bar, cut so that the beats can be read: a note
    that begins off the beat ends with it or is a plain one over it, none hides the middle of a bar of even beats, and
    rests keep to their beats.
    """
    cut = _cut(at, length, meter, rest)
    if not at < cut < at + length:
        return values(length)
    return (*values(cut - at), *written(cut, at + length - cut, meter, rest))


def _cut(at: Fraction, length: Fraction, meter: Meter, rest: bool) -> Fraction:
    """Where the first value of a note ends, in quarters from the bar's beginning; where it needs no cut, its end."""
    beat, end, simple = meter.beat_quarters, at + length, not meter.compound
    middle = meter.beats * beat / 2
    over = meter.beats % 2 == 0 and meter.beats > 2 and at < middle < end
    if at % beat:
        following = (at // beat + 1) * beat
        plain = not rest and simple and at % beat == beat / 2 and length == beat and not over
        return end if end <= following or plain else following
    around = not rest and at == middle - beat and length == 2 * beat  # one beat to each side of the middle
    if over and (rest or at) and not around:
        return middle
    return _cut_on_a_beat(at, length, beat, simple, rest)


def _cut_on_a_beat(at: Fraction, length: Fraction, beat: Fraction, simple: bool, rest: bool) -> Fraction:
    """The same for a note that begins on a beat and leaves the bar's middle to be seen."""
    whole, end = length // beat * beat, at + length
    if length == whole:
        return end if simple or length != 3 * beat else at + 2 * beat
    dotted = not rest and simple and length == beat * 3 / 2
    return end if dotted or not whole else at + whole


class Signs:
    """Which notes of a bar need a sign, by staff: those that differ from the signature or from a sign before them."""

    def __init__(self, key: Key) -> None:
        self._signature = signature(key)
        self._now: dict[tuple[int, int], int] = {}

    def sign(self, pitch: Pitch) -> int | None:
        """The sign to write (semitones), or None for no sign."""
        place = (pitch.note.letter, pitch.octave)
        if self._now.get(place, self._signature[pitch.note.letter]) == pitch.note.alter:
            return None
        self._now[place] = pitch.note.alter
        return pitch.note.alter


MIDDLE_C = 60


def clef_for(notes: Sequence[int], before: str) -> str:
    """The clef ("G" or "F") for the notes (MIDI) of a bar: another one than before only where all of them lie beyond
    middle C, so that it does not change to and fro.
    """
    if not notes:
        return before
    if before == "G":
        return "F" if max(notes) < MIDDLE_C else "G"
    return "G" if min(notes) > MIDDLE_C else "F"


class Beamable(NamedTuple):
    """A note or rest of one voice: where it begins in its bar, in quarters, and its flags (0: it takes no beam)."""

    at: Fraction
    flags: int


def beams(notes: Sequence[Beamable], meter: Meter) -> list[tuple[str, ...]]:
    """For every note what its beams do ("begin", "continue", "end", "forward hook", "backward hook"), first beam
    first; notes are joined inside a beat, plain eighths of two beats where the bar's half or third begins with them.
    """
    found: list[tuple[str, ...]] = [()] * len(notes)
    groups = _groups(notes, meter)
    at = 0
    while at < len(notes):
        end = at
        while end < len(notes) and notes[end].flags and groups[end] == groups[at]:
            end += 1
        if end - at > 1:
            flags = [note.flags for note in notes[at:end]]
            for place in range(end - at):
                found[at + place] = tuple(_beam(flags, place, level) for level in range(1, flags[place] + 1))
        at = max(end, at + 1)
    return found


def _even_eighths(notes: Sequence[Beamable], beat: Fraction) -> bool:
    return all(note.flags == 1 and note.at % (beat / 2) == 0 for note in notes)


def _groups(notes: Sequence[Beamable], meter: Meter) -> list[Fraction]:
    """For every note where its group begins."""
    beat = meter.beat_quarters
    found = [note.at // beat * beat for note in notes]
    if meter.lower != 4 or meter.beats % 2:
        return found
    for first in {at for at in found if at % (2 * beat) == 0}:
        if _even_eighths([note for note in notes if first <= note.at < first + 2 * beat], beat):
            found = [first if at == first + beat else at for at in found]
    return found


def _beam(flags: list[int], place: int, level: int) -> str:
    before = place > 0 and flags[place - 1] >= level
    after = place + 1 < len(flags) and flags[place + 1] >= level
    if before and after:
        return "continue"
    if after:
        return "begin"
    if before:
        return "end"
    return "backward hook" if place else "forward hook"
