"""How far a song's answer can be from the best one where stages were narrowed: a proven lower bound.

Placings of a stage are put in groups (left by lowest note and count, right by highest note and count). A group's pair
costs no less than its cheapest pair, and a change between groups no less than what their shared features force. The
cheapest path through groups is thus no dearer than the cheapest song.
"""

from __future__ import annotations

import numpy as np

from yellow_hinge.core.leading.lattice import Builder, Lattice
from yellow_hinge.core.leading.minplus import Chain, Tables, solve
from yellow_hinge.core.leading.motion import MOST_BASS, Prices
from yellow_hinge.core.leading.stage import grouped
from yellow_hinge.core.shapes.placing import SIZE, Ints


def _matched_least(old: Ints, new: Ints, price: Prices, differs: Ints) -> Ints:
    """The least that a matching of `old` with `new` notes (counts) can cost; `differs`: one note more cannot hold."""
    shared = np.minimum(old, new)
    spare = price.enter * np.maximum(0, new - old) + price.leave * np.maximum(0, old - new)
    moved = int(price.move[1:].min())
    must_move = (differs & (old == new) & (shared > 0)).astype(np.int32)
    least: Ints = int(price.move[0]) * (shared - must_move) + moved * must_move + spare
    return least


def _left_least(old: Ints, new: Ints, mine: bool, price: Prices) -> Ints:
    a, b = old[:, None, 1], new[None, :, 1]
    if not mine:
        return _matched_least(a, b, price, np.zeros_like(a + b, bool))
    bass: Ints = price.bass[new[None, :, 0] - old[:, None, 0] + MOST_BASS]
    return bass + _matched_least(a - 1, b - 1, price, np.zeros_like(a + b, bool))


def _right_least(old: Ints, new: Ints, price: Prices) -> Ints:
    a, b = old[:, None, 1], new[None, :, 1]
    apart = np.abs(old[:, None, 0] - new[None, :, 0])
    both = (a > 0) & (b > 0)
    top: Ints = price.top[np.minimum(apart, len(price.top) - 1)] * both
    return top + _matched_least(a, b, price, (apart > 0) & both)


def lower_bound(lattice: Lattice, builder: Builder, mine: bool) -> int:
    """A cost in thousandths that no song of the whole lattice undercuts, its closing change left out."""
    groups = [stage.group or grouped(stage) for stage in lattice.stages]
    left: list[Tables] = []
    right: list[Tables] = []
    for t in range(len(groups) - 1):
        price = builder.prices(lattice.places[t + 1].asked.weights)
        left.append((_left_least(groups[t].left, groups[t + 1].left, mine, price),))
        right.append((_right_least(groups[t].right, groups[t + 1].right, price),))
    best = solve(Chain([group.least for group in groups], left, right)).cost
    if not lattice.chain.loop:
        return best
    price = builder.prices(lattice.places[0].asked.weights)
    least = (2 * SIZE * int(price.move[0]), int(price.top.min()), int(price.bass.min()))  # what closing may win at most
    return best + sum(min(0, each) for each in least)
