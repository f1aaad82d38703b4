"""Routes: passing chords that lead from a chord to the next one by falling fifths, every link plain or tritone."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import product

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.key import diatonic_seventh
from yellow_hinge.core.pitch import Note, simple_note, spell
from yellow_hinge.core.reharm.context import Context, build, nearer_way, over
from yellow_hinge.core.reharm.table import Idea

MOST_LINKS = 5
MOST_WALK = 4  # semitones between two notes of one chord that still sound as a walk
_WORDS = ("no", "one", "two", "three", "four", "five")


def chain(target: Note, links: int) -> list[Note]:
    """The roots of the last `links` fifths that fall to a target, the first one first."""
    roots = []
    at = target
    for _ in range(links):
        at = simple_note(spell(at, "5"))
        roots.append(at)
    return roots[::-1]


def link(root: Note, following: Note, as_tritone: bool) -> Chord:
    """A dominant on a root, or a half step above what follows, which is its tritone."""
    return build(simple_note(spell(following, "b9")), "7") if as_tritone else build(root, "7")


def falling_fifths(scene: Context) -> Iterator[Idea]:
    """Every chain of one to five links before the next chord, in every combination of plain and tritone; the chord that
    is there keeps the first of its beats.
    """
    after = scene.after
    if after is None:
        return
    for links in range(1, min(MOST_LINKS, int(scene.beats) - 1) + 1):
        roots = [*chain(after.root, links), after.root]
        for tritones in product((False, True), repeat=links):
            chords = tuple(link(roots[i], roots[i + 1], tritones[i]) for i in range(links))
            if chords[0].root.pc == scene.here.root.pc:
                continue
            count = sum(tritones)
            taken = f"{_WORDS[count]} as tritone" if count else "all plain"
            words = f"{_WORDS[links]} falling fifth{'s' if links > 1 else ''}, {taken}"
            yield Idea((scene.here, *chords), words)


def pattern(links: tuple[Chord, ...], after: Chord) -> tuple[bool, ...]:
    """Which links of a chain of fifths before a chord are taken as their tritone."""
    return tuple(one.root.pc != root.pc for one, root in zip(links, chain(after.root, len(links)), strict=True))


def bass_walk(scene: Context) -> Iterator[Idea]:
    """The bass walks by step to the next chord over one or two inversions of the one that is there."""
    after, here = scene.after, scene.here
    if after is None or here.stack is not None or here.bass is not None or here.chord_class == "diminished":
        return
    goal = after.bass_note
    seventh = here.quality.seventh or diatonic_seventh(here.root, scene.key)
    degrees = [d for d in (here.quality.third, here.quality.fifth, seventh) if d and d not in ("4", "2")]
    near = [bass for bass in (spell(here.root, degree) for degree in degrees) if _step(bass.pc, goal.pc)]
    for bass in near:
        yield Idea((here, over(here, bass)), f"the bass walks over {bass} to {goal}")
    for bass in near:
        for first in (spell(here.root, degree) for degree in degrees):
            same_way = (nearer_way(first.pc, bass.pc) > 0) == (nearer_way(bass.pc, goal.pc) > 0)
            if first != bass and abs(nearer_way(first.pc, bass.pc)) <= MOST_WALK and same_way:
                words = f"the bass walks over {first} and {bass} to {goal}"
                yield Idea((here, over(here, first), over(here, bass)), words)


def _step(a: int, b: int) -> bool:
    return 1 <= abs(nearer_way(a, b)) <= 2
