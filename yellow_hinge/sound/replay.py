"""What was played, sounded again as it was, over a click of the beats that were heard in it."""

from __future__ import annotations

from yellow_hinge.core.hearing.grids import Grid
from yellow_hinge.core.hearing.in_bars import Heard
from yellow_hinge.core.rhythm.band import CLICK, CLICK_HIGH
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.sound.score import Note, Score

CLICK_SECONDS, CLICK_LEVEL, AFTER = 0.05, 0.7, 1.0


def replayed(heard: Heard) -> Score:
    """The notes of a performance, and its beats, in frames from its first note."""
    zero = min((note.tone.on for note in heard.notes), default=0.0)
    notes = [
        Note(
            _frame(own.tone.on - zero), _frame(own.tone.off - zero), own.tone.midi, "left" if own.left else "right",
            own.tone.velocity,
        )
        for own in heard.notes
    ]  # fmt: skip
    end = max((note.end for note in notes), default=0)
    if heard.grid is not None:
        notes += _clicks(heard.grid, zero, end)
    return Score(tuple(sorted(notes)), end + _frame(AFTER))


def _frame(seconds: float) -> int:
    return max(0, round(seconds * RATE))


def _clicks(grid: Grid, zero: float, end: int) -> list[Note]:
    """A click on every beat up to a frame, the first of a bar higher."""
    found = []
    for place, beat in enumerate(grid.beats):
        start = round((float(beat) - zero) * RATE)
        if 0 <= start < end:
            one = (place + grid.before) % grid.size == 0
            midi, loud = (CLICK_HIGH, 96) if one else (CLICK, 72)
            found.append(Note(start, start + _frame(CLICK_SECONDS), midi, "click", loud, CLICK_LEVEL))
    return found
