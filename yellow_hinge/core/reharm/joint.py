"""The cheapest song through choices: every chord has some, each one chord or more, and all are solved together with
their voicings. The same factorised step as for a plain song, over a small graph instead of a chain; exact for its
stages and prices (see docs/decisions/swaps.md). What a chord hears of the one that follows is part of its stage, so a
chosen song costs here just what the song solver says of it, plus the prices of its choices.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator
from typing import NamedTuple

from yellow_hinge.core.errors import NoVoicingError, OvertakenError
from yellow_hinge.core.leading.chain.steps import Table, step
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.reharm.choice import Choice
from yellow_hinge.core.reharm.search import Hinge, Hinges, Moved, Search, Spot, cells_of, ears_of, following_of
from yellow_hinge.core.shapes.functions import heading
from yellow_hinge.core.symbols.chord import Chord


class Rules(NamedTuple):
    """`meets(i, a, b)`: whether choice a of chord i and choice b of the next may follow each other; `beside(i, a, b)`:
    what that costs, in thousandths.
    """

    meets: Callable[[int, Choice, Choice], bool]
    beside: Callable[[int, Choice, Choice], int]


class Course(NamedTuple):
    """The chosen choice of every chord (its index), the cost, and whether it is proven cheapest."""

    chosen: tuple[int, ...]
    cost: int
    exact: bool


AT_ONCE = 2_000_000  # entries of the change tables that are made in one pass and at hand together


class _Node(NamedTuple):
    """A chord of a choice in one search. `sources` are the nodes before it with what is added on the way from each,
    None at the song's start. `price`: of the choice, at its first chord.
    """

    choice: int
    place: int
    ear: str
    spot: Spot
    sources: Sources | None
    price: int
    number: int  # of those of one search


Sources = tuple[tuple[_Node, int], ...]


class _Steps:
    """The tables of some changes, and the steps that were made with them."""

    def __init__(self, search: Search, hinges: Hinges, costs: dict[int, Table]) -> None:
        self._search, self._costs, self._tables = search, costs, search.moved(hinges)
        self._stepped: dict[object, Table] = {}

    def arrive(self, node: _Node) -> Table:
        """Cheapest cost from the start to each state of a node that has sources, itself left out. Nodes with the same
        hand sets go through one step together.
        """
        merged: dict[Hinge, list[tuple[_Node, int]]] = {}
        for old, extra in node.sources or ():
            merged.setdefault(self._search.hinge(old.spot, node.spot), []).append((old, extra))
        found = [self._step(hinge, group) for hinge, group in merged.items()]
        least: Table = found[0] if len(found) == 1 else np.minimum.reduce(found)
        return least

    def _step(self, hinge: Hinge, group: list[tuple[_Node, int]]) -> Table:
        name = hinge, tuple((old.number, extra) for old, extra in group)
        if name not in self._stepped:
            costs = [self._costs[old.number] for old, _ in group]
            tables = [np.minimum(cost + extra, INFINITE) if extra else cost
                      for cost, (_, extra) in zip(costs, group, strict=True)]  # fmt: skip
            ahead = tables[0] if len(tables) == 1 else np.minimum.reduce(tables)
            self._stepped[name] = step(ahead, *self._tables[hinge])
        return self._stepped[name]

    def cost(self, node: _Node) -> Table:
        """Cheapest cost from the song's start up to and with each state of a node, (L, R)."""
        cost = node.spot.cost + node.price
        if node.sources is not None:
            cost += self.arrive(node)
        found: Table = np.minimum(cost, INFINITE, out=cost)
        return found


class _Graph:
    """The nodes of one search: for every written chord all of them and those of the last chords of its choices."""

    def __init__(self, search: Search, choices: list[tuple[Choice, ...]], rules: Rules) -> None:
        self._search, self._choices, self._rules = search, choices, rules
        self._numbers = itertools.count()
        self.nodes: list[list[_Node]] = []
        ends: list[_Node] = []
        for i, moment in enumerate(search.moments):
            following, here, new = following_of(choices, i), list[_Node](), list[_Node]()
            for number, choice in enumerate(choices[i]):
                made = self._through(i, number, choice, following, self._sources(i, ends, choice) if i else None)
                here += made
                new += [node for node in made if node.place == len(choice.chords) - 1]
            if not new:
                own = search.builder.place(moment, None, search.setup, ())
                search.builder.stage(i, moment, own, ())
                raise NoVoicingError(i, moment.symbol, "nothing leads to it", "ask for less")
            self.nodes.append(here)
            ends = new
        self.ends = ends

    @property
    def exact(self) -> bool:
        """Whether all voicings of all choices were looked at."""
        return all(not node.spot.stage.cut for nodes in self.nodes for node in nodes)

    def portions(self) -> Iterator[tuple[list[list[_Node]], Hinges]]:
        """The nodes of some written chords after the other, with the changes that lead to them: as many as may be at
        hand together.
        """
        some: list[list[_Node]] = []
        hinges: Hinges = {}
        for nodes in self.nodes:
            some.append(nodes)
            for node in nodes:
                for old, _ in node.sources or ():
                    hinges[self._search.hinge(old.spot, node.spot)] = old.spot, node.spot
            if sum(cells_of(*ends) for ends in hinges.values()) > AT_ONCE:
                yield some, hinges
                some, hinges = [], {}
        yield some, hinges

    def _sources(self, i: int, ends: list[_Node], choice: Choice) -> Sources:
        found = []
        for node in ends:
            before = self._choices[i - 1][node.choice]
            if node.ear == heading(before.chords[-1], choice.chords[0]) and self._rules.meets(i - 1, before, choice):
                found.append((node, self._rules.beside(i - 1, before, choice)))
        return tuple(found)

    def _through(
        self, i: int, number: int, choice: Choice, following: list[Chord], sources: Sources | None
    ) -> list[_Node]:
        """The nodes of a choice, of its last chord one for each way in which it can hear what follows; none where no
        hand can play it, or nothing leads to it.
        """
        if sources == ():
            return []
        made: list[_Node] = []
        price, last = choice.price, len(choice.chords) - 1
        for part, chord in enumerate(choice.chords[1:]):
            spot = self._search.spot(i, choice, part, chord)
            if spot is None:
                return []
            made.append(_Node(number, part, "", spot, sources, price, next(self._numbers)))
            sources, price = ((made[-1], 0),), 0
        for ear, heard in ears_of(choice.chords[-1], following).items():
            spot = self._search.spot(i, choice, last, heard)
            if spot is not None:
                made.append(_Node(number, last, ear, spot, sources, price, next(self._numbers)))
        return made


def cheapest(
    search: Search, choices: list[tuple[Choice, ...]], rules: Rules, told: Callable[[float], None] = lambda share: None
) -> Course:
    """The choices of least cost, one for every moment, solved together with their voicings; of equals the one with the
    first choices. `told` hears the share that is done. Raises OvertakenError, and NoVoicingError where a chord has no
    choice that a hand can play.
    """
    search.make_ready(choices)
    graph = _Graph(search, choices, rules)
    costs: dict[int, Table] = {}
    done = 0
    for some, hinges in graph.portions():
        steps = _Steps(search, hinges, costs)
        for nodes in some:
            if search.builder.overtaken():
                raise OvertakenError
            for node in nodes:
                costs[node.number] = steps.cost(node)
            done += 1
            told(done / len(graph.nodes))
    return _walked(search, graph, costs)


def _walked(search: Search, graph: _Graph, costs: dict[int, Table]) -> Course:
    """The cheapest way back from the song's end."""
    node = min(graph.ends, key=lambda end: int(costs[end.number].min()))
    own = costs[node.number]
    state = divmod(int(own.argmin()), own.shape[1])
    cost, chosen = int(own.min()), [node.choice]
    while node.sources:
        best: tuple[int, _Node, tuple[int, int]] | None = None
        hinges = [search.hinge(old.spot, node.spot) for old, _ in node.sources]
        tables = search.moved({h: (old.spot, node.spot) for h, (old, _) in zip(hinges, node.sources, strict=True)})
        for hinge, (source, extra) in zip(hinges, node.sources, strict=True):
            onward = _back(costs[source.number], tables[hinge], state) + extra
            least = int(onward.min())
            if best is None or least < best[0]:
                best = (least, source, divmod(int(onward.argmin()), onward.shape[1]))
        assert best is not None
        inside = node.place > 0
        _, node, state = best
        if not inside:
            chosen.append(node.choice)
    assert len(chosen) == len(graph.nodes)
    return Course(tuple(chosen[::-1]), cost, graph.exact)


def _back(cost: Table, moved: Moved, state: tuple[int, int]) -> NDArray[np.int64]:
    """What it costs to come from each state of a source to one state of a node."""
    ways = [a[:, state[0]].astype(np.int64)[:, None] + b[:, state[1]] for a, b in zip(*moved, strict=True)]
    whole: NDArray[np.int64] = cost + (ways[0] if len(ways) == 1 else np.minimum.reduce(ways))
    return whole
