"""The widest questions, exactly: which states of a long chain can be part of its cheapest paths at all.

The pair table of a stage is split between the hands: the left chain ("comb") has every left state at its cheapest pair
less what the right hand's multipliers take over, the right chain has the multipliers. Both together are a lower bound
of every path, and moving price between them until the two agree at a stage never lowers it. What no path up to a known
cost can use is dropped, and the rest is small enough for the plain solver. Nothing here knows music.
"""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.core.leading.chain.minplus import solve
from yellow_hinge.core.leading.chain.steps import Chain, Table, step
from yellow_hinge.core.leading.prices.weights import INFINITE, UNIT
from yellow_hinge.core.numerics import Int32s, Places, np

Vector = Int32s
Rows = Places

BIG = INFINITE // 2  # three of them add up without overflow
# Paths that are dearer by this much still count, so that other ways have exact prices; less where that is too many.
SLACKS = (4 * UNIT, UNIT, 0)
FEW = (12, 40)  # states of each hand for a guess
ROUNDS = 4  # from one guess to the next
ENOUGH = 200_000_000  # additions of all steps of the plain solver that are soon done
SOLVED = 1_500_000_000  # those that the plain solver is left with at most
MOST = 6_000_000_000  # those that may be worth a try


class KeptPairs(NamedTuple):
    """The states that may be part of a cheap path, as row and column numbers of every stage; the chain of them alone;
    a cost that no path undercuts; and whether the states are few enough for the plain solver.
    """

    rows: list[Rows]
    columns: list[Rows]
    chain: Chain
    bound: int
    closed: bool = True


def work(chain: Chain) -> int:
    """Additions of the dearest step of the plain solver."""
    return max((l * r * (l + r) for l, r in (table.shape for table in chain.place)), default=0)


def _least(table: Table, axis: int) -> Vector:
    found: Vector = table.min(axis)
    return found


class _Bounds:
    """The messages of both chains over the states that are left."""

    def __init__(self, chain: Chain) -> None:
        count = len(chain)
        self.rows = [np.arange(table.shape[0]) for table in chain.place]
        self.columns = [np.arange(table.shape[1]) for table in chain.place]
        self.place = [np.minimum(table, BIG) for table in chain.place]
        self.open = [np.minimum(chain.open_place(t), BIG) for t in range(count)]
        self.left = [_merged(tables) for tables in chain.left[: count - 1]]
        self.right = [_merged(tables) for tables in chain.right[: count - 1]]
        self.v = [_least(table, 0) // 2 for table in self.place]
        self.ahead = [_zeros(table) for table in self.place]  # (left, right) costs up to a stage
        self.behind = [_zeros(table) for table in self.place]  # and after it

    def guess(self, chain: Chain) -> int:
        """The cost of a good path: the best one through the states of each stage that may be part of the cheapest."""
        few = [_best(self.pairs(t, self.place[t]), FEW) for t in range(len(chain))]
        rows, columns = ([own[at[hand]] for own, at in zip(states, few, strict=False)]
                         for hand, states in enumerate((self.rows, self.columns)))  # fmt: skip
        return solve(taken(chain, rows, columns)).cost

    def sweep(self, backward: bool) -> None:
        """Make both chains agree at every stage, from one end to the other."""
        order = range(len(self.place))
        for t in reversed(order) if backward else order:
            place, (fl, fr), (bl, br) = self.place[t], self.ahead[t], self.behind[t]
            self.v[t] = (_least(place + (fl + bl)[:, None], 0) - fr - br) >> 1
            own = _least(place - self.v[t], 1)
            if backward and t:
                self.behind[t - 1] = (
                    _clip(_least(self.left[t - 1] + (bl + own), 1)),
                    _clip(_least(self.right[t - 1] + (br + self.v[t]), 1)),
                )
            elif not backward and t < len(self.place) - 1:
                self.ahead[t + 1] = (
                    _clip(_least(self.left[t] + (fl + own)[:, None], 0)),
                    _clip(_least(self.right[t] + (fr + self.v[t])[:, None], 0)),
                )

    def pairs(self, t: int, table: Table) -> Table:
        """The least that a path through each pair of a stage can cost."""
        (fl, fr), (bl, br) = self.ahead[t], self.behind[t]
        found: Table = table + (fl + bl)[:, None] + (fr + br)[None, :]
        return found

    def drop(self, most: int) -> int:
        """Drop what costs more than `most`; a cost that no path undercuts."""
        bound = -BIG
        for t in range(len(self.place)):
            fits = self.pairs(t, self.open[t]) <= most
            bound = max(bound, int(self.pairs(t, self.place[t]).min()))
            rows, columns = np.flatnonzero(fits.any(1)), np.flatnonzero(fits.any(0))
            self.place[t] = np.where(fits, self.place[t], BIG).astype(np.int32)
            self.open[t] = np.where(fits, self.open[t], BIG).astype(np.int32)
            if len(rows) < len(self.rows[t]) or len(columns) < len(self.columns[t]):
                self.keep(t, rows, columns)
        return bound

    def keep(self, t: int, rows: Rows, columns: Rows) -> None:
        """Keep some states of a stage only."""
        grid = np.ix_(rows, columns)
        self.rows[t], self.columns[t] = self.rows[t][rows], self.columns[t][columns]
        self.place[t], self.open[t], self.v[t] = self.place[t][grid], self.open[t][grid], self.v[t][columns]
        for messages in (self.ahead, self.behind):
            messages[t] = messages[t][0][rows], messages[t][1][columns]
        if t < len(self.left):
            self.left[t], self.right[t] = self.left[t][rows], self.right[t][columns]
        if t:
            self.left[t - 1], self.right[t - 1] = self.left[t - 1][:, rows], self.right[t - 1][:, columns]

    @property
    def work(self) -> int:
        """Additions of all steps of the plain solver over what is left."""
        return sum(l * r * (l + r) for l, r in (table.shape for table in self.place))


def _zeros(table: Table) -> tuple[Vector, Vector]:
    return np.zeros(table.shape[0], np.int32), np.zeros(table.shape[1], np.int32)


def _clip(vector: Vector) -> Vector:
    found: Vector = np.minimum(vector, BIG)
    return found


def _merged(tables: tuple[Table, ...]) -> Table:
    """The least of some tables: what a hand pays at best."""
    found: Table = np.minimum(tables[0] if len(tables) == 1 else np.minimum.reduce(tables), BIG)
    return found


def taken(chain: Chain, rows: list[Rows], columns: list[Rows]) -> Chain:
    """The chain of some states of every stage."""
    count = len(chain)
    grids = [np.ix_(r, c) for r, c in zip(rows, columns, strict=True)]

    def cut(tables: tuple[Table, ...], t: int, states: list[Rows]) -> tuple[Table, ...]:
        here, there = states[t], states[(t + 1) % count]
        return tuple(np.ascontiguousarray(table[np.ix_(here, there)]) for table in tables)

    return Chain(
        [np.ascontiguousarray(table[grid]) for table, grid in zip(chain.place, grids, strict=True)],
        [cut(tables, t, rows) for t, tables in enumerate(chain.left)],
        [cut(tables, t, columns) for t, tables in enumerate(chain.right)],
        chain.loop,
        tuple(np.ascontiguousarray(table[grid]) for table, grid in zip(chain.free, grids, strict=True)),
    )


def _best(table: Table, few: tuple[int, int]) -> tuple[Rows, Rows]:
    """The rows and columns of the cheapest pairs of a stage."""
    rows, columns = (np.argsort(table.min(1 - axis), kind="stable")[: few[axis]] for axis in (0, 1))
    return np.sort(rows), np.sort(columns)


LEFT_OVER = (56, 360)  # states of each hand where the bounds leave too many


def fewest(chain: Chain) -> KeptPairs:
    """The cheapest states of every stage only, however many may matter."""
    few = [_best(table, LEFT_OVER) for table in chain.place]
    rows, columns = [rows for rows, _ in few], [columns for _, columns in few]
    return KeptPairs(rows, columns, taken(chain, rows, columns), -BIG)


def reduced(chain: Chain) -> KeptPairs:
    """The part of a chain that its cheapest paths, and those dearer by up to a slack, run through. In a loop the first
    stage is repeated at the end at no cost, which only lowers the bound.
    """
    bounds = _Bounds(_unrolled(chain) if chain.loop else chain)
    upper, best = bounds.guess(chain), -BIG
    bounds.sweep(backward=True)
    for slack in (SLACKS[0], *SLACKS):
        for _ in range(ROUNDS):
            bounds.sweep(backward=False)
            bounds.sweep(backward=True)
            best = max(best, bounds.drop(upper + slack))
        upper = min(upper, bounds.guess(chain))
        best = max(best, bounds.drop(upper + slack))
        if bounds.work <= ENOUGH:
            break
    if not chain.loop and ENOUGH < bounds.work <= MOST:
        _exactly(bounds, chain, upper + SLACKS[1])
    count = len(chain)
    rows, columns = bounds.rows[:count], bounds.columns[:count]
    kept = taken(chain, rows, columns)
    pairs = [np.where(table < BIG, cost, INFINITE).astype(np.int32)
             for table, cost in zip(bounds.open, kept.place, strict=False)]  # fmt: skip
    return KeptPairs(rows, columns, msgspec.structs.replace(kept, place=pairs), best, bounds.work <= SOLVED)


def _exactly(bounds: _Bounds, chain: Chain, most: int) -> None:
    """Go back from the end with exact costs to go, and drop at every stage what they and the bound up to there rule
    out, before the next step is made.
    """
    behind: Table = np.zeros_like(bounds.place[-1])
    for t in range(len(chain) - 1, -1, -1):
        fl, fr = bounds.ahead[t]
        fits = np.minimum(bounds.open[t] + behind, BIG) + fl[:, None] + fr[None, :] <= most
        rows, columns = np.flatnonzero(fits.any(1)), np.flatnonzero(fits.any(0))
        for tables in (bounds.place, bounds.open):
            tables[t] = np.where(fits, tables[t], BIG).astype(np.int32)
        behind = behind[np.ix_(rows, columns)]
        bounds.keep(t, rows, columns)
        if t:
            onward = np.where(bounds.place[t] < BIG, behind + bounds.place[t], INFINITE).astype(np.int32)
            left, right = (
                tuple(np.ascontiguousarray(table[np.ix_(states[t - 1], states[t])].T) for table in ways[t - 1])
                for ways, states in ((chain.left, bounds.rows), (chain.right, bounds.columns))
            )
            behind = np.minimum(step(onward, left, right), BIG)


def _unrolled(chain: Chain) -> Chain:
    nothing = np.where(chain.place[0] < INFINITE, 0, INFINITE).astype(np.int32)
    free = (*chain.free, np.zeros_like(nothing)) if chain.free else ()
    return msgspec.structs.replace(chain, place=[*chain.place, nothing], loop=False, free=free)
