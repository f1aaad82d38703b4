"""What a bar of a chart counts: its chords with their slashes and beats, and the notes of its tune."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.chart.headers import beats_of
from yellow_hinge.core.pitch.pitch import Note, Pitch
from yellow_hinge.core.song.song import Meter

TONE = re.compile(r"(r|[A-G](?:##|bb|#|b|x|)(-?\d)?)(?::(\d+(?:\.\d+|/\d+)?))?(~?)")


class BarChord(NamedTuple):
    """A chord as it stands in a bar: slashes after it, or beats of its own."""

    symbol: str
    column: int
    length: int  # as written
    slashes: int
    beats: Fraction | None


def chord_lengths(chords: list[BarChord], beats: Fraction, meter: Meter) -> tuple[list[Fraction], Fraction, bool]:
    """(beats of each chord, beats counted, whether these fill the bar)."""
    if any(chord.beats for chord in chords):
        lengths = [chord.beats or Fraction(1 + chord.slashes) for chord in chords]
        counted = sum(lengths, Fraction(0))
        return lengths, counted, counted == beats
    counts = [1 + chord.slashes for chord in chords]
    total = sum(counts)
    fits = total == len(chords) or total == beats or (beats == meter.beats and total == meter.upper)
    return [beats * count / total for count in counts], Fraction(total), fits


def tone_beats(match: re.Match[str] | None, usual: Fraction) -> Fraction | None:
    """How long a note of the tune lasts; None for what is no note, or has no length."""
    if match is None:
        return None
    length = beats_of(match[3]) if match[3] else usual
    return length if length is not None and length > 0 else None


def nearest_pitch(note: Note, last: Pitch) -> Pitch:
    """The pitch of `note` nearest by letter to the last one, so that a tune may leave out octaves."""
    steps = (note.letter - last.note.letter + 3) % 7 - 3
    return Pitch(note, last.octave + (last.note.letter + steps) // 7)
