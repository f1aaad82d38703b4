"""Takes beside each other: their figures, where they differ, and what the joints of a mix cost."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.hands import span_mm
from yellow_hinge.core.leading.answer import Option, Solution, Voicing, options
from yellow_hinge.core.leading.prices.hinge import HANDS, make_hinge
from yellow_hinge.core.takes.mixing import Mixed

Place = tuple[int, tuple[int, int], int]  # slot, pass, and which time it is played there


class Figures(NamedTuple):
    """What a take is like: semitones in all, the largest move of a finger, the semitones of its stiffest hinge, the
    widest span of a hand in mm, notes that are not written, the lowest and highest MIDI number, and how many chords are
    otherwise than in the take above.
    """

    motion: int
    largest_move: int
    stiffest: int
    stretch_mm: float
    colours: int
    lowest: int
    highest: int
    changed: int


def places(solution: Solution) -> list[Place]:
    """What each chord of a solution is, however many chords another take has before it."""
    found: list[Place] = []
    seen: dict[tuple[int, tuple[int, int]], int] = {}
    for voicing in solution.voicings:
        moment = voicing.here
        own = (moment.slot_id, moment.pass_id)
        seen[own] = seen.get(own, 0) + 1
        found.append((*own, seen[own]))
    return found


def _looks(voicing: Voicing) -> tuple[object, ...]:
    return voicing.chord, voicing.both


def differs(solution: Solution, above: Solution | None) -> frozenset[int]:
    """The chords of a solution (indices) that the one above plays otherwise, or does not have."""
    if above is None:
        return frozenset()
    there = {place: _looks(voicing) for place, voicing in zip(places(above), above.voicings, strict=True)}
    here = zip(places(solution), solution.voicings, strict=True)
    return frozenset(index for index, (place, voicing) in enumerate(here) if there.get(place) != _looks(voicing))


def figures(solution: Solution, above: Solution | None = None) -> Figures:
    """The figures of a take; of one without chords all are 0."""
    notes = [note for voicing in solution.voicings for note in (*voicing.left, *voicing.right)]
    colours = sum(
        note % 12 not in voicing.chord.pitch_classes and note % 12 != voicing.chord.bass_note.pc
        for voicing in solution.voicings
        for note in (*voicing.left, *voicing.right)
    )
    wide = max((span_mm(voicing.both.of(hand)) for voicing in solution.voicings for hand in HANDS), default=0.0)
    return Figures(
        solution.totals.motion, solution.totals.largest_move, max((h.motion for h in solution.hinges), default=0),
        round(wide, 1), colours, min(notes, default=0), max(notes, default=0), len(differs(solution, above)),
    )  # fmt: skip


class Compared(NamedTuple):
    """A chord in two takes: its voicing in each (None where one has none), the semitones of the hinge after it, and the
    keys that only the one or the other holds.
    """

    one: Voicing | None
    other: Voicing | None
    motions: tuple[int, int]
    only_one: tuple[int, ...]
    only_other: tuple[int, ...]


def compared(one: Solution, other: Solution) -> list[Compared]:
    """Two takes chord by chord, in the order of the first; what only the second has comes where it is played."""
    theirs = dict(zip(places(other), range(len(other.voicings)), strict=True))
    found, used = [], set[int]()
    for index, place in enumerate(places(one)):
        at = theirs.get(place)
        if at is not None:
            found += [_pair(one, None, other, k) for k in range(at) if k not in used and _is_lone(other, k, one)]
            used |= set(range(at + 1))
        found.append(_pair(one, index, other, at))
    found += [_pair(one, None, other, k) for k in range(len(other.voicings)) if k not in used]
    return found


def _is_lone(other: Solution, index: int, one: Solution) -> bool:
    return places(other)[index] not in set(places(one))


def _pair(one: Solution, a: int | None, other: Solution, b: int | None) -> Compared:
    first = one.voicings[a] if a is not None else None
    second = other.voicings[b] if b is not None else None
    mine = {*first.left, *first.right} if first else set()
    theirs = {*second.left, *second.right} if second else set()
    motions = (_motion(one, a), _motion(other, b))
    return Compared(first, second, motions, tuple(sorted(mine - theirs)), tuple(sorted(theirs - mine)))


def _motion(solution: Solution, index: int | None) -> int:
    return solution.hinges[index].motion if index is not None and index < len(solution.hinges) else 0


# --- the mix ---
class Joint(NamedTuple):
    """Where one pass of a mix goes over into the next: the index of its hinge, semitones, thousandths of cost, and an
    easier way to begin the second pass (None: there is none), with the semitones it takes.
    """

    hinge: int
    motion: int
    cost: int
    easier: Option | None
    easier_motion: int


def joints(solution: Solution, mix: Mixed) -> list[Joint]:
    """The joints of a mix in their order, the last pass has none."""
    sections = [voicing.here.section for voicing in solution.voicings]
    found = []
    for index in range(len(solution.voicings) - 1):
        if sections[index] != sections[index + 1]:
            hinge = solution.hinges[index]
            way, motion = _easier(solution, index)
            found.append(Joint(index, hinge.motion, hinge.cost, way, motion))
    return found


def _easier(solution: Solution, index: int) -> tuple[Option | None, int]:
    """The way to begin the chord after a hinge that takes the least motion into it, the cheapest of equal ones; None
    where it is played that way.
    """
    old, now = solution.voicings[index], solution.hinges[index].motion
    best: tuple[int, int, Option] | None = None
    for way in options(solution, index + 1):
        fingers = solution.fingers_for(index + 1, way.both)
        hinge = make_hinge(old.both, way.both, solution.setup.mine, solution.way_to(index + 1), (old.fingers, fingers))
        if best is None or (hinge.motion, way.extra) < best[:2]:
            best = (hinge.motion, way.extra, way)
    return (best[2], best[0]) if best is not None and best[0] < now else (None, now)
