"""Marked chords: a stretch of the song as it is played, named by what stands at its ends, so that it lasts when the
song is solved anew.
"""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import Moment, bar_number


class MarkEnd(NamedTuple):
    """One chord as it is played: the pass (see Moment.pass_id), and its slot's id."""

    own: tuple[int, int]
    slot: int


class Marked(NamedTuple):
    """A stretch from the chord where marking began to the one it was drawn to, whichever comes first."""

    anchor: MarkEnd
    reach: MarkEnd


def spot_of(voicing: Voicing) -> MarkEnd:
    """What names a chord."""
    return MarkEnd(voicing.here.pass_id, voicing.here.slot_id)


def marked_places(solution: Solution | None, mark: Marked | None) -> range:
    """The places of the marked chords in a solution; empty where nothing is marked, or an end is gone."""
    if solution is None or mark is None:
        return range(0)
    at = {spot_of(voicing): place for place, voicing in reversed([*enumerate(solution.voicings)])}
    if mark.anchor not in at or mark.reach not in at:
        return range(0)
    first, last = sorted((at[mark.anchor], at[mark.reach]))
    return range(first, last + 1)


def bar_places(solution: Solution, places: range) -> range:
    """A stretch drawn out to whole bars."""
    bars = [_bar(voicing.here) for voicing in solution.voicings]
    first, last = places[0], places[-1]
    while first > 0 and bars[first - 1] == bars[first]:
        first -= 1
    while last + 1 < len(bars) and bars[last + 1] == bars[last]:
        last += 1
    return range(first, last + 1)


def _bar(here: Moment) -> tuple[int, int, int]:
    return here.section, here.bar, here.turn


def mark_words(song: Song, solution: Solution, places: range) -> str:
    """What is marked: "bars 5 to 8", or its chords where it begins or ends inside a bar."""
    first, last = (solution.voicings[place].here for place in (places[0], places[-1]))
    bars = [bar_number(song, here.origin, here.bar) for here in (first, last)]
    if bar_places(solution, places) == places:
        return f"bar {bars[0]}" if bars[0] == bars[1] else f"bars {bars[0]} to {bars[1]}"
    names = pretty_signs(first.symbol if len(places) == 1 else f"{first.symbol} to {last.symbol}")
    return f"{names}, bar {bars[0]}" if bars[0] == bars[1] else f"{names}, bars {bars[0]} to {bars[1]}"


def written_ends(solution: Solution, places: range) -> tuple[Address, Address]:
    """Where the first and the last chord of a stretch are written, the earlier one first."""
    found = [solution.voicings[place].here.address for place in places]
    return min(found), max(found)
