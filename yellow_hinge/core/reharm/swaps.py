"""Every swap for a chord of a song: made from the table and the routes, judged by the melody, solved with its
neighbours, ranked.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.context import Ahead, Context, aside, repeats
from yellow_hinge.core.reharm.cures import cured
from yellow_hinge.core.reharm.ideas import Offered, ideas, sound
from yellow_hinge.core.reharm.melody import Judged, judge
from yellow_hinge.core.reharm.ranking import Swap, rank
from yellow_hinge.core.reharm.splitting import split
from yellow_hinge.core.reharm.table import in_slots
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

MOST_AHEAD = 8
FIRST_IDEAS = 10  # shown while the others are still tried


def _part(moment: Moment) -> tuple[object, ...]:
    return moment.section, moment.turn, moment.key, moment.meter


def scene_at(solution: Solution, index: int) -> Context:
    """The chord of a solution in its surroundings."""
    voicings, loop = solution.voicings, solution.setup.loop
    before = voicings[index - 1].chord if index or loop else None
    after = voicings[(index + 1) % len(voicings)].chord if index + 1 < len(voicings) or loop else None
    moment = voicings[index].here
    ahead: list[Ahead] = []
    for voicing in voicings[index + 1 : index + 1 + MOST_AHEAD]:
        there = voicing.here
        if _part(there) != _part(moment):
            break
        ahead.append(Ahead(voicing.chord, there.beats))
    manner = solution.setup.manner
    return Context(voicings[index].chord, before, after, moment.key, moment.beats, moment, tuple(ahead), manner)


def tried(builder: Builder, parts: tuple[Moment, ...], solution: Solution, first: int, last: int = -1) -> Solution:
    """Other chords in the time of chords `first` to `last` (of one where that is left out), solved between the
    neighbours as they are played.
    """
    return solve_song(builder, *_between(parts, solution, first, max(first, last)))


def _between(
    parts: tuple[Moment, ...], solution: Solution, first: int, last: int
) -> tuple[tuple[Moment, ...], Setup, tuple[Keep, ...]]:
    """Other chords between their neighbours as those are played: what is to be solved."""
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
    return (*before, *parts, *after), near, keeps


def _motion_now(solution: Solution, first: int, last: int) -> int:
    return sum(hinge.motion for hinge in solution.hinges[max(0, first - 1) : min(last + 1, len(solution.voicings) - 1)])


def swaps(
    builder: Builder, solution: Solution, index: int, so_far: Callable[[list[Swap]], None] = lambda found: None
) -> list[Swap]:
    """Every swap for chord `index`, the one worth most first; of those that sound the same the first; a chord no hand
    can play is left out. `so_far` hears those of the first FIRST_IDEAS. Raises OvertakenError.
    """
    scene = scene_at(solution, index)
    offered = ideas(scene)
    seen = {idea.chords for _, idea, _ in offered}
    found: list[Swap | None] = []
    for first in range(0, len(offered), FIRST_IDEAS):
        if first == FIRST_IDEAS:
            so_far(_ranked(found))
        plans = [_planned(solution, index, scene, made) for made in offered[first : first + FIRST_IDEAS]]
        builder.make_songs_ready([_between(plan.parts, solution, index, plan.last) for plan in plans])
        for plan in plans:
            if builder.overtaken():
                raise OvertakenError
            swap = _of(builder, solution, index, scene, plan)
            found.append(swap)
            if swap is not None and swap.cure is not None and swap.cure not in seen and not repeats(swap.cure):
                seen.add(swap.cure)
                kind, idea, beats = plan.made
                mended = idea._replace(chords=swap.cure, reason=f"{idea.reason}; changed to suit the melody")
                found.append(
                    _of(builder, solution, index, scene, _planned(solution, index, scene, (kind, mended, beats)))
                )
    return _ranked(found)


def _ranked(found: list[Swap | None]) -> list[Swap]:
    """The best first, each sound once."""
    once: dict[object, Swap] = {}
    for swap in sorted((swap for swap in found if swap is not None), key=rank):
        once.setdefault((swap.span, sound(swap.chords)), swap)
    return list(once.values())


class _Plan(NamedTuple):
    """An idea in its place: the written chords that it takes the time of (to `last`, with their beats), its own ones,
    the melody as they judge it, and the chord that follows.
    """

    made: Offered
    last: int
    written: tuple[Fraction, ...]
    parts: tuple[Moment, ...]
    melody: tuple[Judged, ...]
    after: Chord | None


def _planned(solution: Solution, index: int, scene: Context, made: Offered) -> _Plan:
    _, idea, beats = made
    last = index + idea.span - 1
    voicings = solution.voicings[index : last + 1]
    written = tuple(voicing.here.beats for voicing in voicings)
    slots = in_slots(idea.chords, beats, written)
    after = scene_at(solution, last).after
    parts: list[Moment] = []
    melody: list[Judged] = []
    for place, (voicing, chords, lengths, own) in enumerate(zip(voicings, *slots, strict=True)):
        following = slots.chords[place + 1][0] if place + 1 < len(voicings) else after
        parts += split(voicing.here, chords, lengths)
        judged = judge(chords, lengths, voicing.here, following)
        melody += [note._replace(chord=own[note.chord]) for note in judged]
    return _Plan(made, last, written, tuple(parts), tuple(melody), after)


def _of(builder: Builder, solution: Solution, index: int, scene: Context, plan: _Plan) -> Swap | None:
    """One idea played, None where no hand can play it."""
    kind, idea, beats = plan.made
    try:
        played = tried(builder, plan.parts, solution, index, plan.last)
    except UserError:
        return None
    line = tuple(chord.bass_note for chord in (scene.before, *idea.chords, plan.after) if chord is not None)
    found = Swap(
        kind, idea.chords, beats, idea.reason, plan.melody, _motion_now(solution, index, plan.last), line, played, None,
        plan.written, scene.manner, min(1, index), aside(scene, idea.chords, plan.after) if idea.span == 1 else 0.0,
    )  # fmt: skip
    if idea.span == 1 and not found.fits:
        found = found._replace(cure=cured(idea.chords, beats, scene.moment, scene.after))
    return found
