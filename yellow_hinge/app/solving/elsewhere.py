"""What an edit changed elsewhere: chords that nobody touched and whose hands are others now, and keeping those as they
were.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, NamedTuple

from yellow_hinge.app.edits.asking import with_keep
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.comparing import places
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.core.takes.content import bare_setup


class Before(NamedTuple):
    """The state that an edit, or a group of them, began at, and its solution."""

    state: State
    solution: Solution


def _changed(one: Iterable[Any], other: Iterable[Any]) -> list[Any]:
    """What is in one of two alone."""
    first, second = list(one), list(other)
    return [each for each in first if each not in second] + [each for each in second if each not in first]


def _touched(before: State, after: State) -> tuple[set[int], list[Wish]]:
    """The slots at which something is kept or held otherwise, and the wishes that are others."""
    slots = {keep.slot for keep in _changed(before.standing, after.standing)}
    slots |= {slot for held in _changed(before.setup.held, after.setup.held) for slot in held.slots}
    return slots, _changed(before.setup.wishes, after.setup.wishes)


def elsewhere(before: Before, after: State, solution: Solution) -> frozenset[int]:
    """The chords of a solution (indices) that are the same chords as before, were not touched, and have other hands.
    None where something else is asked of the whole song.
    """
    old, new = before.state, after
    whole = (bare_setup(old.setup), old.setup.player, old.song.asks, old.take)
    if whole != (bare_setup(new.setup), new.setup.player, new.song.asks, new.take):
        return frozenset()
    slots, wishes = _touched(old, new)
    hands = {
        place: (v.chord, v.both) for place, v in zip(places(before.solution), before.solution.voicings, strict=True)
    }
    found = []
    for index, (place, voicing) in enumerate(zip(places(solution), solution.voicings, strict=True)):
        was = hands.get(place)
        if was is None or was[0] != voicing.chord or was[1] == voicing.both or voicing.here.slot_id in slots:
            continue
        if not any(wish.covers(voicing.here) for wish in wishes):
            found.append(index)
    return frozenset(found)


def with_others_kept(state: State, before: Solution, solution: Solution, at: frozenset[int]) -> State:
    """The state with some chords of a solution kept as they were played before: in the pass where they are, or in every
    pass where all of them were played so.
    """
    hands: dict[object, Both] = {}
    by_slot: dict[int, set[Both]] = {}
    for place, voicing in zip(places(before), before.voicings, strict=True):
        hands[place] = voicing.both
        by_slot.setdefault(voicing.here.slot_id, set()).add(voicing.both)
    here = places(solution)
    for index in sorted(at):
        voicing, was = solution.voicings[index], hands.get(here[index])
        if was is not None:
            slot = voicing.here.slot_id
            only = None if len(by_slot[slot]) == 1 else voicing.here.pass_id
            state = with_keep(state, Keep(slot, write_symbol(voicing.chord), was.left, was.right, "chord", only))
    return state
