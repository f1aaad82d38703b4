"""Where the lines of staves end: phrases, in sections, as many bars as there is room for."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from fractions import Fraction

from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.as_struck import StruckBar
from yellow_hinge.core.sheet.bars import Measure, Sound
from yellow_hinge.core.sheet.page import text_width
from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.core.symbols.writing import write_symbol

PHRASE = 4  # bars
BAR_ROOM, NOTE_ROOM, SIGNATURE_ROOM = 9.0, 4.9, 24.0  # mm that a bar, a note in it, and a line's beginning take
SYMBOL_SIZE, CUE_SIZE, APART = 11.5, 9.8, 2.0  # points, and mm between two of them


def room_of(bar: Measure, struck: StruckBar, cues: bool, line: Sequence[Sound] = ()) -> float:
    """The width in mm that a bar wants, at the engraver's own size: for its notes, its chord symbols and its cues;
    `line`: what stands on a staff of its own beside the tune.
    """
    onsets = {
        at
        for sounds in itertools.chain.from_iterable(struck.hands.values())
        for at in _starts([s.length for s in sounds])
    }
    onsets |= set(_starts([sound.length for sound in line])) if line else set()
    onsets |= set(_starts([tone.beats * bar.meter.beat_quarters for tone in bar.bar.tune]))
    symbols = [pretty_signs(write_symbol(moment.chord)) if moment.chord else NO_CHORD for moment in bar.moments]
    words = [moment.cue for moment in bar.moments if cues and moment.cue]
    wide = (
        NOTE_ROOM * len(onsets), sum(text_width(text, SYMBOL_SIZE, True) + APART for text in symbols),
        sum(text_width(text, CUE_SIZE) + APART for text in words),
    )  # fmt: skip
    return BAR_ROOM + max(wide)


def _starts(lengths: Sequence[Fraction]) -> list[Fraction]:
    return list(itertools.accumulate(lengths[:-1], initial=Fraction(0)))


SHORT, NARROW = 0.45, 0.55  # of a line's width: what wants less than the one is only as wide as the other


def short_lines(breaks: frozenset[int], rooms: Sequence[float], width: float, most: int) -> frozenset[int]:
    """Which lines (from 0) are no whole phrase of so many bars, and too short to be stretched over a width in mm."""
    lines = enumerate(itertools.pairwise([0, *sorted(breaks), len(rooms)]))
    room = SHORT * (width - SIGNATURE_ROOM)
    return frozenset(
        n for n, (first, last) in lines if last - first < (most or PHRASE) and sum(rooms[first:last]) < room
    )


def line_breaks(bars: Sequence[Measure], rooms: Sequence[float], width: float, most: int) -> frozenset[int]:
    """The bars (from 0) that begin a line: every section, and in it phrases of so many bars (0: as long as they come),
    halved where they do not fit into a width in mm.
    """
    found, at = [], 0
    while at < len(bars):
        end = next((n for n in range(at + 1, len(bars)) if bars[n].section), len(bars))
        count = most or PHRASE
        while count > 1 and sum(rooms[at : min(at + count, end)]) > width - SIGNATURE_ROOM:
            count = (min(count, end - at) + 1) // 2
        at = min(at + count, end)
        found.append(at)
    return frozenset(found[:-1])
