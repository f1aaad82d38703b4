"""The exact solver: the cheapest path through a chain of two-hand states whose change splits into left and right.

A state of stage t is a pair (l, r). Prices are int32 thousandths, INFINITE forbids. Because the change is a sum of a
left and a right part, one min-plus step over all pairs factorises into two small ones (see docs/decisions/solver.md).
Nothing here knows music.
"""

from __future__ import annotations

from typing import NamedTuple

import msgspec
import numpy as np
from numpy.typing import NDArray

from yellow_hinge.core.leading.weights import INFINITE

Table = NDArray[np.int32]


class Chain(msgspec.Struct, frozen=True):
    """place[t] (L_t, R_t); left[t] (L_t, L_t+1) and right[t] (R_t, R_t+1) for t < n-1, and for t = n-1 back to the
    first stage where the chain is closed into a loop. free[t], where given, is place[t] without what keeps rule out:
    paths obey place, but every state is priced by free, so that a kept chord still shows its other ways.
    """

    place: list[Table]
    left: list[Table]
    right: list[Table]
    loop: bool = False
    free: tuple[Table, ...] = ()

    def open_place(self, t: int) -> Table:
        """What states of a stage would cost if none of them were ruled out by a keep."""
        return self.free[t] if self.free else self.place[t]

    def __len__(self) -> int:
        return len(self.place)


class Solved(NamedTuple):
    """path: the (l, r) of every stage; cost: its sum; price[t] (L_t, R_t): the cheapest whole path through a state.

    exact: the path is proven cheapest. In a loop, `price` is exact for the states of the cheapest loops and an estimate
    for others, since only `tried` first states were closed: a lower bound at the stage where the loop was cut, an upper
    one elsewhere.
    """

    path: list[tuple[int, int]]
    cost: int
    price: list[Table]
    exact: bool
    tried: int


def step(ahead: Table, left: Table, right: Table) -> Table:
    """min over (l, r) of ahead[l, r] + left[l, l2] + right[r, r2], as (l2, r2), in two factors."""
    half = (ahead[:, None, :] + left[:, :, None]).min(0)
    np.minimum(half, INFINITE, out=half)
    turned = np.ascontiguousarray(half.T)
    full: Table = (turned[:, :, None] + right[:, None, :]).min(0)
    return np.minimum(full, INFINITE, out=full)


def _forward(chain: Chain, first: Table) -> list[Table]:
    """Cheapest cost from the first stage up to each state, not included; `first` is what first states cost."""
    reached = [np.zeros_like(first)]
    ahead = first
    for t in range(len(chain) - 1):
        reached.append(step(ahead, chain.left[t], chain.right[t]))
        ahead = np.minimum(reached[-1] + chain.place[t + 1], INFINITE)
    return reached


def _arrived(chain: Chain, reached: list[Table], first: Table) -> Table:
    """Cheapest cost up to and including each last state."""
    return np.minimum(reached[-1] + chain.place[-1], INFINITE) if len(chain) > 1 else first


def _through(chain: Chain, reached: list[Table], behind: list[Table]) -> list[Table]:
    """Cheapest whole path through each state, priced by the open places."""
    total = []
    for t in range(len(chain)):
        beside = np.minimum(reached[t] + behind[t], INFINITE)
        total.append(np.minimum(beside + chain.open_place(t), INFINITE))
    return total


def _backward(chain: Chain, last: Table) -> list[Table]:
    """Cheapest cost from each state, not included, to the end; `last` is what the final states still cost."""
    behind = [last]
    for t in range(len(chain) - 2, -1, -1):
        onward = np.minimum(behind[-1] + chain.place[t + 1], INFINITE)
        behind.append(step(onward, chain.left[t].T, chain.right[t].T))
    return behind[::-1]


def _first_least(table: Table) -> tuple[int, int]:
    """Index of the least entry; the first in row order among equals."""
    l, r = divmod(int(table.argmin()), table.shape[1])
    return l, r


def _walk(chain: Chain, start: tuple[int, int], behind: list[Table]) -> list[tuple[int, int]]:
    """The cheapest path from `start`, following the costs to go; equals go to the first state in row order."""
    path = [start]
    for t in range(len(chain) - 1):
        l, r = path[-1]
        onward = behind[t + 1].astype(np.int64) + chain.place[t + 1]
        path.append(_first_least(onward + chain.left[t][l][:, None] + chain.right[t][r][None, :]))
    return path


def solve(chain: Chain) -> Solved:
    """The cheapest path and every state's price. Raises ValueError for an empty chain or a stage with no state."""
    if not len(chain) or any(not table.size or int(table.min()) >= INFINITE for table in chain.place):
        raise ValueError("a stage has no possible state")
    if chain.loop:
        return _solve_loop(chain)
    return _solve_open(chain)


def _solve_open(chain: Chain) -> Solved:
    behind = _backward(chain, np.zeros_like(chain.place[-1]))
    whole = np.minimum(chain.place[0] + behind[0], INFINITE)
    path = _walk(chain, _first_least(whole), behind)
    price = _through(chain, _forward(chain, chain.place[0]), behind)
    return Solved(path, int(whole.min()), price, True, 1)


# --- loops -------------------------------------------------------------------------------------------------------

_MOST_TRIED = 4000


def _solve_loop(chain: Chain) -> Solved:
    """A closed chain, exactly: cut at the stage with fewest states, bound each state there from below, then close the
    loop through one state after another until no bound lies under the best loop found.
    """
    n = len(chain)
    cut = min(range(n), key=lambda t: int((chain.place[t] < INFINITE).sum()))
    turned = _rotated(chain, cut)
    bound = _loop_bounds(turned)
    usable = np.where(turned.place[0] < INFINITE, bound, INFINITE)
    order = np.argsort(usable, axis=None, kind="stable")
    best, best_path, tried, price = INFINITE, [(0, 0)], 0, [np.full_like(p, INFINITE) for p in turned.place]
    for flat in order:
        start = divmod(int(flat), bound.shape[1])
        if int(usable[start]) >= best or tried >= _MOST_TRIED:
            break
        tried += 1
        cost, path, through = _close_at(turned, start)
        price = [np.minimum(old, new) for old, new in zip(price, through, strict=True)]
        if cost < best:
            best, best_path = cost, path
    exact = tried < _MOST_TRIED
    price[0] = np.where(price[0] >= INFINITE, np.maximum(bound, best), price[0]).astype(np.int32)
    back = n - cut
    return Solved(best_path[back:] + best_path[:back], best, price[back:] + price[:back], exact, tried)


def _rotated(chain: Chain, cut: int) -> Chain:
    return Chain(
        chain.place[cut:] + chain.place[:cut],
        chain.left[cut:] + chain.left[:cut],
        chain.right[cut:] + chain.right[:cut],
        True,
        chain.free[cut:] + chain.free[:cut],
    )


def _loop_bounds(chain: Chain) -> Table:
    """For each first state, a cost that no loop through it undercuts: the cheapest way round that may end on another
    first state, taken in both directions.
    """
    reached = _forward(chain, chain.place[0])
    closing = step(_arrived(chain, reached, chain.place[0]), chain.left[-1], chain.right[-1])
    last = step(np.zeros_like(chain.place[0]), chain.left[-1].T, chain.right[-1].T)
    from_here = np.minimum(_backward(chain, last)[0] + chain.open_place(0), INFINITE)
    bound: Table = np.maximum(from_here, closing)
    return np.where(chain.open_place(0) < INFINITE, bound, INFINITE).astype(np.int32)


def _close_at(chain: Chain, start: tuple[int, int]) -> tuple[int, list[tuple[int, int]], list[Table]]:
    """The cheapest loop through one first state: its cost, path and the prices of all states given that start."""
    l, r = start
    first = np.full_like(chain.place[0], INFINITE)
    first[l, r] = chain.place[0][l, r]
    last = (chain.left[-1][:, l][:, None] + chain.right[-1][:, r][None, :]).astype(np.int32)
    only = msgspec.structs.replace(chain, place=[first, *chain.place[1:]])
    behind = _backward(only, last)
    through = _through(only, _forward(only, first), behind)
    if len(chain) > 1:
        through[0] = np.where(first < INFINITE, through[0], INFINITE)  # other first states were not closed
    else:
        through[0] = np.where(first < INFINITE, first + last, INFINITE)
    return int(first[l, r]) + int(behind[0][l, r]), _walk(only, start, behind), through
