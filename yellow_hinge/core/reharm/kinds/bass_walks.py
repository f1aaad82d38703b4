"""A bass that walks by step from one chord to the next, over inversions."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from yellow_hinge.core.pitch.key import Key, diatonic_seventh
from yellow_hinge.core.pitch.pitch import Note, spell
from yellow_hinge.core.reharm.context import Context, Idea, nearer_way, over
from yellow_hinge.core.symbols.chord import Chord

MOST_WALK = 4  # semitones between two notes of one chord that still sound as a walk


def _leads(bass: Note, goal: Note, chord: Chord) -> bool:
    """Whether a note of the chord in the bass goes on by step; a seventh falls."""
    return _step(bass.pc, goal.pc) and (not _is_seventh(bass, chord) or nearer_way(bass.pc, goal.pc) < 0)


def bass_walk(scene: Context) -> Iterator[Idea]:
    """The bass walks by step to the next chord over one or two inversions of the one that is there."""
    after, here = scene.after, scene.here
    if after is None or here.stack is not None or here.bass is not None or here.chord_class == "diminished":
        return
    goal, degrees = after.bass_note, _basses_of(here, scene.key)
    near = [bass for bass in degrees if _leads(bass, goal, here)]
    for bass in near:
        yield Idea((here, over(here, bass)), f"the bass walks over {bass} to {goal}")
    for bass, first in itertools.product(near, degrees):
        if first != bass and _walks_on(first, bass, goal, here):
            words = f"the bass walks over {first} and {bass} to {goal}"
            yield Idea((here, over(here, first), over(here, bass)), words)


def _basses_of(here: Chord, key: Key) -> list[Note]:
    """The chord's third, fifth and seventh, which may stand in the bass."""
    seventh = here.quality.seventh or diatonic_seventh(here.root, key)
    degrees = (here.quality.third, here.quality.fifth, seventh)
    return [spell(here.root, degree) for degree in degrees if degree and degree not in ("4", "2")]


def _is_seventh(bass: Note, here: Chord) -> bool:
    return (bass.pc - here.root.pc) % 12 in (10, 11)


def _walks_on(first: Note, bass: Note, goal: Note, here: Chord) -> bool:
    """Whether the bass goes on from a first note over a second one to its goal in one direction, in small steps."""
    way = nearer_way(first.pc, bass.pc)
    if (first.pc - here.root.pc) % 12 == 10 and way not in (-1, -2):
        return False  # a seventh in the bass falls by step
    return abs(way) <= MOST_WALK and (way > 0) == (nearer_way(bass.pc, goal.pc) > 0)


def _step(a: int, b: int) -> bool:
    return 1 <= abs(nearer_way(a, b)) <= 2
