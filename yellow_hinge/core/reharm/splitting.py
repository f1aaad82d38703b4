"""A chord with its tune in parts."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from yellow_hinge.core.song.timeline import Moment, Sounding
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol


def split(moment: Moment, chords: tuple[Chord, ...], beats: tuple[Fraction, ...]) -> tuple[Moment, ...]:
    """The moments of chords in the time of the one that was written, each with its part of the melody; the address
    stays that of the written chord.
    """
    if chords == (moment.chord,):
        return (moment,)
    found: list[Moment] = []
    at = Fraction(0)
    for chord, length in zip(chords, beats, strict=True):
        found.append(
            msgspec.structs.replace(
                moment,
                start=moment.start + at,
                quarter=moment.quarter + at * moment.meter.beat_quarters,
                beat=moment.beat + at,
                beats=length,
                symbol=write_symbol(chord),
                chord=chord,
                cue="" if at else moment.cue,
                tune=_tune_within(moment, at, at + length),
                ends=moment.ends and len(found) == len(chords) - 1,
            )
        )
        at += length
    return tuple(found)


def _tune_within(moment: Moment, first: Fraction, last: Fraction) -> tuple[Sounding, ...]:
    found = []
    for tone in moment.tune:
        onset, end = max(tone.onset, first), min(tone.onset + tone.beats, last)
        if onset < end:
            begins = tone.begins and tone.onset >= first
            found.append(msgspec.structs.replace(tone, onset=onset - first, beats=end - onset, begins=begins))
    return tuple(found)
