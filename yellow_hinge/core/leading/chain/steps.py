"""One step along the chain, and the cheapest ways as far as it."""

from __future__ import annotations

from threading import Lock

import msgspec

from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import Int32s, np

Table = Int32s
Tables = tuple[Table, ...]
Path = list[tuple[int, int]]


class Chain(msgspec.Struct, frozen=True):
    """place[t] (L_t, R_t); left[t] tables (L_t, L_t+1) and right[t] as many tables (R_t, R_t+1) for t < n-1, and for
    t = n-1 back to the first stage where the chain is closed into a loop: a change costs the least, over the tables,
    of left plus right. free[t], where given, is place[t] without what keeps rule out:
    paths obey place, but every state is priced by free, so that a kept chord still shows its other ways.
    """

    place: list[Table]
    left: list[Tables]
    right: list[Tables]
    loop: bool = False
    free: tuple[Table, ...] = ()

    def open_place(self, t: int) -> Table:
        """What states of a stage would cost if none of them were ruled out by a keep."""
        return self.free[t] if self.free else self.place[t]

    def __len__(self) -> int:
        return len(self.place)


class Cheapest:
    """path: the (l, r) of every stage; cost: its sum; exact: the path is proven cheapest; tried: first states of a loop
    that were closed. chain and behind are what it was solved from and the costs after each state, itself left out (none
    in a loop); the next solve takes from them what an edit left as it was.
    """

    def __init__(self, path: Path, cost: int, chain: Chain, behind: list[Table]) -> None:
        self.path, self.cost, self.chain, self.behind = path, cost, chain, behind
        self.exact, self.tried = True, 1
        self.closed: list[Table] = []
        self._reached: list[Table] = []
        self._guard = Lock()  # two threads may ask for prices

    def known(self, stages: int) -> list[Table]:
        """What is there of the costs up to the first `stages` stages."""
        return self._reached[:stages]

    def take_over(self, reached: list[Table]) -> None:
        """Begin with costs up to the first stages that an earlier answer knew."""
        self._reached = reached

    def reached(self, t: int) -> Table:
        """Cheapest cost from the first stage up to each state of stage t, itself left out; made when asked for."""
        with self._guard:
            if len(self._reached) <= t:
                self._reached = forward(self.chain, self.chain.place[0], self._reached, t + 1)
            return self._reached[t]

    def price(self, t: int) -> Table:
        """(L, R): the cheapest whole path through each state of stage t, priced by the open place. In a loop it is
        exact for the states of the cheapest loops and an estimate for others, since only `tried` first states were
        closed: a lower bound at the stage where the loop was cut, an upper one elsewhere.
        """
        if self.closed:
            return self.closed[t]
        return way_through(self.chain, t, self.reached(t), self.behind[t])


def step(ahead: Table, left: Tables, right: Tables) -> Table:
    """min over (l, r) and tables k of ahead[l, r] + left[k][l, l2] + right[k][r, r2], as (l2, r2), in two factors."""
    best: Table | None = None
    for l, r in zip(left, right, strict=True):
        half = (ahead[:, None, :] + l[:, :, None]).min(0)
        np.minimum(half, INFINITE, out=half)
        turned = np.ascontiguousarray(half.T)
        full: Table = (turned[:, :, None] + r[:, None, :]).min(0)
        best = np.minimum(full, INFINITE if best is None else best, out=full)
    assert best is not None
    return best


def forward(chain: Chain, first: Table, known: list[Table] | None = None, stages: int = 0) -> list[Table]:
    """Cheapest cost from the first stage up to each state, not included, of the first `stages` stages (0: of all);
    `first` is what first states cost, `known` what is already there of the answer's beginning.
    """
    reached = list(known or [np.zeros_like(first)])
    for t in range(len(reached) - 1, (stages or len(chain)) - 1):
        ahead = np.minimum(reached[t] + chain.place[t], INFINITE) if t else first
        reached.append(step(ahead, chain.left[t], chain.right[t]))
    return reached


def way_through(chain: Chain, t: int, reached: Table, behind: Table) -> Table:
    """Cheapest whole path through each state of stage t, priced by the open place."""
    beside = np.minimum(reached + behind, INFINITE)
    whole: Table = np.minimum(beside + chain.open_place(t), INFINITE)
    return whole
