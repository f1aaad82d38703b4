"""The bars of a song as it is played, chord by chord: which of them a chord is in, and how its chords part it."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.rhythm.pattern.fitting import bar_offset, three_first
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import bar_number


def bars_of(solution: Solution) -> list[tuple[int, int]]:
    """The number of its bar for every chord: counted from the song's start, and from its section's as it is played."""
    found, section, bar, count, total = [], -1, (-1, -1), 0, -1
    for voicing in solution.voicings:
        moment = voicing.here
        if moment.section != section or (moment.bar, moment.turn) != bar:
            total, count = total + 1, 0 if moment.section != section else count + 1
            section, bar = moment.section, (moment.bar, moment.turn)
        found.append((total, count))
    return found


def numbers_of(song: Song, solution: Solution) -> list[int]:
    """The number of every bar as it is played, as bars are counted in the written song."""
    found: dict[int, int] = {}
    for (bar, _), voicing in zip(bars_of(solution), solution.voicings, strict=True):
        found.setdefault(bar, bar_number(song, voicing.here.origin, voicing.here.bar))
    return list(found.values())


def parted_after_three(solution: Solution, bars: list[tuple[int, int]]) -> set[int]:
    """The bars (counted from the song's start) whose chords part seven eighths after the third."""
    starts: dict[int, set[Fraction]] = {}
    for (bar, _), voicing in zip(bars, solution.voicings, strict=True):
        starts.setdefault(bar, set()).add(bar_offset(voicing.here))
    meters = {bar: voicing.here.meter for (bar, _), voicing in zip(bars, solution.voicings, strict=True)}
    return {bar for bar, found in starts.items() if three_first(found, meters[bar])}
