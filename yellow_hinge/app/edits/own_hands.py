"""Hands of the player's own, chord by chord: what they move beside what is possible, and improving chosen changes."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.edits.state import State, changed_in
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import in_force
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline


class Beside(NamedTuple):
    """A change (its number) between hands of which one at least is the player's own: what they move, and what the same
    change moves in the song that is free of them, in semitones.
    """

    at: int
    own: int
    best: int


def beside_words(found: Beside) -> str:
    """A change of the player's beside the best hands of the whole song, in words."""
    if found.own > found.best:
        return f"yours {found.own}, the best {semitones(found.best)}"
    if found.own == found.best:
        return f"{semitones(found.own)}, as in the best hands"
    return f"{semitones(found.own)}; the best hands of the whole song take {found.best} here"


def own_chords(state: State, solution: Solution) -> list[bool]:
    """Of each chord of a solution, whether its hands are kept whole."""
    keeps = [keep for keep in state.keeps if keep.part == "chord"]
    moments = [voicing.here for voicing in solution.voicings]
    return [any(in_force(keep, moment) for keep in keeps) for moment in moments]


def freed(builder: Builder, state: State) -> Solution:
    """The song's best hands without what is kept. Raises NoVoicingError or OvertakenError."""
    return solve_song(builder, timeline(state.song), state.asked)


def beside(state: State, own: Solution, best: Solution) -> list[Beside]:
    """The player's changes beside the best ones, in the order of the song; [] where the two are not the same song."""
    mine = own_chords(state, own)
    if len(own.hinges) != len(best.hinges):
        return []
    count = len(mine)
    pairs = enumerate(zip(own.hinges, best.hinges, strict=True))
    return [Beside(i, a.motion, b.motion) for i, (a, b) in pairs if mine[i] or mine[(i + 1) % count]]


def improving(state: State, solution: Solution, changes: frozenset[int]) -> State:
    """The state in which the chords that some changes lead to are free again, and everything else stays the player's;
    of a change out of kept hands into free ones, the chord it comes from.
    """
    mine, count = own_chords(state, solution), len(solution.voicings)
    at = {(i + 1) % count if mine[(i + 1) % count] else i for i in changes if i < count}
    slots = {solution.voicings[i].here.slot_id for i in at}
    keeps = tuple(keep for keep in state.keeps if keep.slot not in slots or keep.part != "chord")
    return changed_in(state, keeps=keeps)
