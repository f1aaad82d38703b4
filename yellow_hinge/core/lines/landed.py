"""Playing along with a line: which of the notes to land on were landed, and which were missed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

NEAR = 0.2  # seconds early or late that a key still lands


class Goal(NamedTuple):
    """A chord to land on: when it begins, in seconds, and the pitch classes that are landed on there."""

    at: float
    pcs: frozenset[int]


def landed(goals: Sequence[Goal], presses: Sequence[tuple[float, int]]) -> tuple[bool, ...]:
    """Whether each of some goals was landed by keys, (seconds, MIDI number); a press is for one goal alone, the nearest
    that it fits and that is still open.
    """
    found = [False] * len(goals)
    for at, midi in sorted(presses):
        near = [
            (abs(goal.at - at), n)
            for n, goal in enumerate(goals)
            if not found[n] and abs(goal.at - at) <= NEAR and midi % 12 in goal.pcs
        ]
        if near:
            found[min(near)[1]] = True
    return tuple(found)
