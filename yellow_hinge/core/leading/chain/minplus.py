"""The exact solver: the cheapest path through a chain of two-hand states whose change splits into left and right.

A state of stage t is a pair (l, r). Prices are int32 thousandths, INFINITE forbids. Because the change is a sum of a
left and a right part, one min-plus step over all pairs factorises into two small ones (see docs/decisions/solver.md).
Nothing here knows music.
"""

from __future__ import annotations

import msgspec

from yellow_hinge.core.leading.chain.steps import Chain, Cheapest, Path, Table, Tables, forward, step, way_through
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np


def _turned(tables: Tables) -> Tables:
    return tuple(table.T for table in tables)


def _onward(left: Tables, right: Tables, l: int, r: int) -> NDArray[np.int64]:
    """Price of the change from one state to every next one."""
    ways = [a[l].astype(np.int64)[:, None] + b[r][None, :] for a, b in zip(left, right, strict=True)]
    best: NDArray[np.int64] = ways[0] if len(ways) == 1 else np.minimum.reduce(ways)
    return best


def _arrived(chain: Chain, reached: list[Table], first: Table) -> Table:
    """Cheapest cost up to and including each last state."""
    return np.minimum(reached[-1] + chain.place[-1], INFINITE) if len(chain) > 1 else first


def _backward(chain: Chain, last: Table) -> list[Table]:
    """Cheapest cost from each state, not included, to the end; `last` is what the final states still cost."""
    behind = [last]
    for t in range(len(chain) - 2, -1, -1):
        behind.append(_before(chain, t, behind[-1]))
    return behind[::-1]


def _before(chain: Chain, t: int, behind: Table) -> Table:
    """Cheapest cost from each state of stage t, not included, from what it is one stage on."""
    onward = np.minimum(behind + chain.place[t + 1], INFINITE)
    return step(onward, _turned(chain.left[t]), _turned(chain.right[t]))


def _backward_again(chain: Chain, before: Cheapest, head: int, tail: int) -> tuple[list[Table], int]:
    """The same after an edit, `head` and `tail` as from _shared. Costs to the end soon differ from the earlier ones by
    one number for all states; from there on to the left they are the earlier ones shifted, and so is the path. Also
    the last stage for which that holds, -1 where there is none.
    """
    behind = before.behind[-tail:][::-1] if tail > 1 else [np.zeros_like(chain.place[-1])]
    for t in range(len(chain) - 1 - len(behind), -1, -1):
        behind.append(_before(chain, t, behind[-1]))
        if t <= head - 2:
            more = behind[-1] - before.behind[t]
            shift = int(more.min())
            if shift == int(more.max()):
                earlier = [
                    np.where(old < INFINITE, old + shift, INFINITE).astype(np.int32) for old in before.behind[:t]
                ]
                return [*earlier, *behind[::-1]], t
    return behind[::-1], -1


def _first_least(table: Table) -> tuple[int, int]:
    """Index of the least entry; the first in row order among equals."""
    l, r = divmod(int(table.argmin()), table.shape[1])
    return l, r


def _walk(chain: Chain, path: Path, behind: list[Table], known: Path) -> Path:
    """The cheapest path on from where `path` ends, by the costs to go; equals go to the first state in row order.
    `known` is the end of an earlier path over the same tables: once on it, the rest is the same.
    """
    for t in range(len(path) - 1, len(chain) - 1):
        l, r = path[-1]
        rest = len(chain) - t
        if rest <= len(known) and known[-rest] == path[-1]:
            return [*path[:-1], *known[-rest:]]
        onward = behind[t + 1].astype(np.int64) + chain.place[t + 1]
        path.append(_first_least(onward + _onward(chain.left[t], chain.right[t], l, r)))
    return path


def solve(chain: Chain, before: Cheapest | None = None) -> Cheapest:
    """The cheapest path and every state's price. `before` is an earlier answer: what it shares with this chain, table
    by table, is not solved again. Raises ValueError for an empty chain or a stage with no state.
    """
    if not len(chain) or any(not table.size or int(table.min()) >= INFINITE for table in chain.place):
        raise ValueError("a stage has no possible state")
    if chain.loop:
        return _solve_loop(chain)
    return _solve_open(chain, before)


def _shared(new: Chain, old: Chain) -> tuple[int, int]:
    """(stages from the first on whose costs up to them are the same, the same from the last for the costs after)."""
    most = min(len(new), len(old))
    head = 1
    while head < most and new.place[head - 1] is old.place[head - 1] and _same_change(new, old, head - 1, head - 1):
        head += 1
    tail, n, m = 1, len(new), len(old)
    while (
        tail < most
        and new.place[n - tail] is old.place[m - tail]
        and _same_change(new, old, n - tail - 1, m - tail - 1)
    ):
        tail += 1
    return head, tail


def _same_change(new: Chain, old: Chain, t: int, u: int) -> bool:
    return new.left[t] is old.left[u] and new.right[t] is old.right[u]


def _solve_open(chain: Chain, before: Cheapest | None) -> Cheapest:
    head, tail, same, known = 1, 1, -1, []
    if before is not None and before.behind:
        head, tail = _shared(chain, before.chain)
        behind, same = _backward_again(chain, before, head, tail)
        known = before.path[-tail:]
    else:
        behind = _backward(chain, np.zeros_like(chain.place[-1]))
    whole = np.minimum(chain.place[0] + behind[0], INFINITE)
    begun = before.path[: same + 1] if before is not None and same >= 0 else [_first_least(whole)]
    solved = Cheapest(_walk(chain, begun, behind, known), int(whole.min()), chain, behind)
    if before is not None and head > 1:
        solved.take_over(before.known(head))
    return solved


# --- loops -------------------------------------------------------------------------------------------------------

_MOST_TRIED = 4000


def _solve_loop(chain: Chain) -> Cheapest:
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
    path = best_path[back:] + best_path[:back]
    solved = Cheapest(path, best, chain, [])
    solved.closed, solved.exact, solved.tried = price[back:] + price[:back], exact, tried
    return solved


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
    reached = forward(chain, chain.place[0])
    closing = step(_arrived(chain, reached, chain.place[0]), chain.left[-1], chain.right[-1])
    last = step(np.zeros_like(chain.place[0]), _turned(chain.left[-1]), _turned(chain.right[-1]))
    from_here = np.minimum(_backward(chain, last)[0] + chain.open_place(0), INFINITE)
    bound: Table = np.maximum(from_here, closing)
    return np.where(chain.open_place(0) < INFINITE, bound, INFINITE).astype(np.int32)


def _close_at(chain: Chain, start: tuple[int, int]) -> tuple[int, Path, list[Table]]:
    """The cheapest loop through one first state: its cost, path and the prices of all states given that start."""
    l, r = start
    first = np.full_like(chain.place[0], INFINITE)
    first[l, r] = chain.place[0][l, r]
    home = _onward(_turned(chain.left[-1]), _turned(chain.right[-1]), l, r)
    last: Table = np.minimum(home, INFINITE).astype(np.int32)
    only = msgspec.structs.replace(chain, place=[first, *chain.place[1:]])
    behind = _backward(only, last)
    reached = forward(only, first)
    through = [way_through(only, t, reached[t], behind[t]) for t in range(len(only))]
    if len(chain) > 1:
        through[0] = np.where(first < INFINITE, through[0], INFINITE)  # other first states were not closed
    else:
        through[0] = np.where(first < INFINITE, first + last, INFINITE)
    return int(first[l, r]) + int(behind[0][l, r]), _walk(only, [start], behind, []), through
