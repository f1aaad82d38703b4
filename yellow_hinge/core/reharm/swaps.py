"""Every swap for a chord of a song: made from the table and the routes, judged by the melody, solved with its
neighbours, ranked.
"""

from __future__ import annotations

import itertools
from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.keeps import Keep
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.leading.weights import UNIT, Weights
from yellow_hinge.core.pitch import Note
from yellow_hinge.core.reharm.context import Context, nearer_way, repeats, split
from yellow_hinge.core.reharm.ideas import ideas
from yellow_hinge.core.reharm.melody import Judged, cured, judge
from yellow_hinge.core.reharm.pedal import THROUGH, Run, pedal_runs
from yellow_hinge.core.reharm.routes import pattern
from yellow_hinge.core.reharm.table import Idea, Kind
from yellow_hinge.core.timeline import Moment


class Swap(NamedTuple):
    """A substitute in a song: its kind, the chords with their beats, the reason, what the melody becomes, the motion
    (semitones) before, the bass from the chord before to the one after, and how it is played between its neighbours as
    they are; `cure` is the swap with one chord changed so that the melody fits, None where none is needed or small.
    """

    kind: Kind
    chords: tuple[Chord, ...]
    beats: tuple[Fraction, ...]
    reason: str
    melody: tuple[Judged, ...]
    motion_before: int
    bass: tuple[Note, ...]
    played: Solution
    cure: tuple[Chord, ...] | None = None
    span: int = 1  # written chords that it takes the place of; where there are more, with as many of its own

    @property
    def motion_after(self) -> int:
        """Semitones into, inside and out of it."""
        return self.played.totals.motion

    @property
    def bass_moves(self) -> tuple[int, ...]:
        """Semitones of every move of the bass by the nearer way, -5 to 6."""
        return tuple(nearer_way(a.pc, b.pc) for a, b in itertools.pairwise(self.bass))

    @property
    def links(self) -> tuple[bool, ...]:
        """Of falling fifths, which links are taken as their tritone; () for other kinds."""
        after = self.played.voicings[-1].chord
        return pattern(self.chords[1:], after) if self.kind.group == "fifths" else ()

    @property
    def fits(self) -> bool:
        """Whether no melody note clashes."""
        return all(note.fits for note in self.melody)


def scene_at(solution: Solution, index: int) -> Context:
    """The chord of a solution in its surroundings."""
    voicings, loop = solution.voicings, solution.setup.loop
    before = voicings[index - 1].chord if index or loop else None
    after = voicings[(index + 1) % len(voicings)].chord if index + 1 < len(voicings) or loop else None
    moment = voicings[index].here
    return Context(voicings[index].chord, before, after, moment.key, moment.beats, moment)


def tried(builder: Builder, parts: tuple[Moment, ...], solution: Solution, first: int, last: int = -1) -> Solution:
    """Other chords in the time of chords `first` to `last` (of one where that is left out), solved between the
    neighbours as they are played.
    """
    last = max(first, last)
    own, beside = {part.address for part in parts}, {}
    for at in (first - 1, last + 1):
        if 0 <= at < len(solution.voicings):
            beside[at] = solution.voicings[at].here
    keeps = tuple(
        Keep(moment.slot_id, moment.symbol, *solution.voicings[at].both)
        for at, moment in beside.items()
        if moment.address not in own
    )
    before, after = ([beside[at]] if at in beside else [] for at in (first - 1, last + 1))
    near = msgspec.structs.replace(solution.setup, loop=False, held=())
    return solve_song(builder, (*before, *parts, *after), near, keeps)


def _motion_now(solution: Solution, first: int, last: int) -> int:
    return sum(hinge.motion for hinge in solution.hinges[max(0, first - 1) : min(last + 1, len(solution.voicings) - 1)])


def swaps(builder: Builder, solution: Solution, index: int) -> list[Swap]:
    """Every swap for chord `index`, those that fit the melody first, then by motion and the bass line's smoothness; a
    chord no hand can play is left out. Raises OvertakenError.
    """
    scene = scene_at(solution, index)
    offered = ideas(scene)
    seen, found = {idea.chords for _, idea, _ in offered}, []
    for kind, idea, beats in offered:
        if builder.overtaken():
            raise OvertakenError
        swap = _of_one(builder, solution, index, scene, (kind, idea, beats))
        found.append(swap)
        if swap is not None and swap.cure is not None and swap.cure not in seen and not repeats(swap.cure):
            seen.add(swap.cure)
            mended = idea._replace(chords=swap.cure, reason=f"{idea.reason}; changed to suit the melody")
            found.append(_of_one(builder, solution, index, scene, (kind, mended, beats)))
    found += [_through(builder, solution, run) for run in pedal_runs(solution, index)]
    return sorted((swap for swap in found if swap is not None), key=rank)


def _of_one(
    builder: Builder, solution: Solution, index: int, scene: Context, made: tuple[Kind, Idea, tuple[Fraction, ...]]
) -> Swap | None:
    """One idea judged and played, None where no hand can play it."""
    kind, idea, beats = made
    melody = tuple(judge(idea.chords, beats, scene.moment, scene.after))
    cure = None if all(note.fits for note in melody) else cured(idea.chords, beats, scene.moment, scene.after)
    parts = split(scene.moment, idea.chords, beats)
    return _played(builder, solution, Run(index, index, idea.chords, idea.reason), kind, beats, melody, parts, cure)


def _through(builder: Builder, solution: Solution, run: Run) -> Swap | None:
    """Several written chords over one bass, None where no hand can play them."""
    moments = [v.here for v in solution.voicings[run.first : run.last + 1]]
    following = (*run.chords[1:], scene_at(solution, run.last).after)
    parts: list[Moment] = []
    melody: list[Judged] = []
    for place, (moment, chord) in enumerate(zip(moments, run.chords, strict=True)):
        parts += split(moment, (chord,), (moment.beats,))
        judged = judge((chord,), (moment.beats,), moment, following[place])
        melody += [note._replace(chord=place) for note in judged]
    beats = tuple(moment.beats for moment in moments)
    return _played(builder, solution, run, THROUGH, beats, tuple(melody), tuple(parts))


def _played(
    builder: Builder, solution: Solution, run: Run, kind: Kind, beats: tuple[Fraction, ...],
    melody: tuple[Judged, ...], parts: tuple[Moment, ...], cure: tuple[Chord, ...] | None = None,
) -> Swap | None:  # fmt: skip
    try:
        played = tried(builder, parts, solution, run.first, run.last)
    except UserError:
        return None
    around = (scene_at(solution, run.first).before, *run.chords, scene_at(solution, run.last).after)
    line = tuple(chord.bass_note for chord in around if chord is not None)
    before, span = _motion_now(solution, run.first, run.last), run.last - run.first + 1
    return Swap(kind, run.chords, beats, run.reason, melody, before, line, played, cure, span)


def rank(swap: Swap) -> tuple[bool, bool, bool, int, int]:
    """What fits first, then what can be cured; swaps of this chord alone before those that go through the next ones;
    then the motion of the hands and the price of the bass line a change, in thousandths; then the fewest chords.
    """
    changes = len(swap.chords) + 1
    bass = sum(Weights().bass[abs(move)] for move in swap.bass_moves)
    motion = round((swap.motion_after + bass) * UNIT / changes)
    return not swap.fits, swap.cure is None, swap.span > 1, motion, len(swap.chords)
