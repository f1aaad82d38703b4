"""The cheapest song through choices: every chord has some, each one chord or more, and all are solved together with
their voicings. The same factorised step as for a plain song, over a small graph instead of a chain; exact for its
stages and prices (see docs/decisions/swaps.md). What a chord hears of the one that follows is part of its stage, so a
chosen song costs here just what the song solver says of it, plus the prices of its choices.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.errors import NoVoicingError, OvertakenError
from yellow_hinge.core.leading.asking.asked import climbed
from yellow_hinge.core.leading.asking.keeps import Keep, ruling
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.chain.stage import Place, Stage, way_between
from yellow_hinge.core.leading.chain.steps import Table, step
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.scenes import Outermost
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.reharm.choice import Choice
from yellow_hinge.core.reharm.splitting import split
from yellow_hinge.core.shapes.functions import heading
from yellow_hinge.core.shapes.regions import local_keys
from yellow_hinge.core.song.timeline import Moment
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


class _Node(NamedTuple):
    """A chord of a choice, heard as leading on in one way: where it comes from and what it costs to be there.

    `cost` (L, R): cheapest from the song's start up to and with each state. `sources` are the nodes before it with what
    is added on the way from each; None at the song's start.
    """

    choice: int
    place: int
    ear: str
    stage: Stage
    at: Place
    cost: Table
    sources: Sources | None
    number: int  # of those of one search


Sources = tuple[tuple[_Node, int], ...]


class _Work:
    """One run: the builder with its tables, and steps that were already made."""

    def __init__(self, builder: Builder, setup: Setup, keeps: tuple[Keep, ...], moments: tuple[Moment, ...]) -> None:
        self.builder, self.setup, self.keeps, self.moments = builder, climbed(setup, moments), keeps, moments
        self.local = local_keys(moments, setup.loop)
        self.numbers = itertools.count()
        self._stepped: dict[object, Table] = {}

    def forget(self) -> None:
        """Drop the steps of a chord that lies behind."""
        self._stepped.clear()

    def stage(
        self, index: int, moment: Moment, following: Chord | None, outermost: Outermost
    ) -> tuple[Stage, Place] | None:
        """A chord's stage and its place, None where no hand can play it; what is written is eased instead."""
        own = ruling(self.keeps, moment)
        at, ease = self.builder.place(moment, following, self.setup, own, outermost), False
        if moment.chord == self.moments[index].chord:  # as written, it is coloured and eased as in the song
            at, ease = at._replace(local=self.local[index]), True
        try:
            stage = self.builder.stage(index, moment, at, own, ease)
            return self.builder.cut(stage), at.unwanting if stage.unmet else at
        except NoVoicingError:
            return None

    def arrive(self, sources: Sources, stage: Stage, at: Place) -> Table:
        """Cheapest cost from the start to each state of a stage, itself left out. Nodes with the same hand sets go
        through one step together.
        """
        merged: dict[tuple[object, Way], list[tuple[_Node, int]]] = {}
        for node, extra in sources:
            merged.setdefault((node.stage.key, way_between(node.at, at)), []).append((node, extra))
        steps = [
            (tuple((node.number, extra) for node, extra in group), stage.key, way) for (_, way), group in merged.items()
        ]
        new = [(name, group) for name, group in zip(steps, merged.values(), strict=True) if name not in self._stepped]
        wanted = [(group[0][0].stage, stage, name[2]) for name, group in new]
        for (name, group), change in zip(new, self.builder.changes(wanted, self.setup.mine), strict=True):
            tables = [np.minimum(node.cost + extra, INFINITE) for node, extra in group]
            ahead = tables[0] if len(tables) == 1 else np.minimum.reduce(tables)
            self._stepped[name] = step(ahead, *change)
        found: Table = np.minimum.reduce([self._stepped[name] for name in steps])
        return found


def _node(
    work: _Work, index: int, name: tuple[int, int, str], moment: Moment, following: Chord | None,
    sources: Sources | None, price: int, last: bool,
) -> _Node | None:  # fmt: skip
    """None where no hand can play the chord, or nothing leads to it. `last`: no chord of its choice comes after it."""
    final = last and index == len(work.moments) - 1
    made = work.stage(index, moment, following, "last" if final else "first" if sources is None else "")
    if made is None or sources == ():
        return None
    stage, at = made
    cost = stage.place.cost.astype(np.int64) + price
    if sources is not None:
        cost += work.arrive(sources, stage, at)
    cost[stage.place.cost >= INFINITE] = INFINITE
    return _Node(*name, stage, at, np.minimum(cost, INFINITE).astype(np.int32), sources, next(work.numbers))


def _ears(chord: Chord, following: list[Chord]) -> dict[str, Chord | None]:
    """The ways in which a last chord can hear what follows, each with one chord that is heard so."""
    found: dict[str, Chord | None] = {}
    for chord_after in following:
        found.setdefault(heading(chord, chord_after), chord_after)
    return found or {"": None}


def cheapest(
    work_with: tuple[Builder, Setup, tuple[Keep, ...]], moments: tuple[Moment, ...],
    choices: list[tuple[Choice, ...]], rules: Rules, told: Callable[[float], None] = lambda share: None,
) -> Course:  # fmt: skip
    """The choices of least cost, one for every moment, solved together with their voicings; of equals the one with the
    first choices. `told` hears the share that is done. Raises OvertakenError, and NoVoicingError where a chord has no
    choice that a hand can play.
    """
    work = _Work(*work_with, moments)
    ends: list[_Node] = []  # the last chords of the choices of the moment before
    exact = True
    for i, moment in enumerate(moments):
        if work.builder.overtaken():
            raise OvertakenError
        following = [choice.chords[0] for choice in choices[i + 1]] if i + 1 < len(moments) else []
        new: list[_Node] = []
        for number, choice in enumerate(choices[i]):
            sources = _sources(i, ends, choice, choices, rules) if i else None
            new += _through(work, i, number, choice, moment, following, sources)
        if not new:
            own = work.builder.place(moment, None, work.setup, ())
            work.builder.stage(i, moment, own, ())
            raise NoVoicingError(i, moment.symbol, "nothing leads to it", "ask for less")
        exact = exact and all(not node.stage.cut for node in new)
        ends = new
        work.forget()
        told((i + 1) / len(moments))
    return _walked(work, ends, exact, len(moments))


def _sources(i: int, ends: list[_Node], choice: Choice, choices: list[tuple[Choice, ...]], rules: Rules) -> Sources:
    found = []
    for node in ends:
        before = choices[i - 1][node.choice]
        if node.ear == heading(before.chords[-1], choice.chords[0]) and rules.meets(i - 1, before, choice):
            found.append((node, rules.beside(i - 1, before, choice)))
    return tuple(found)


def _through(
    work: _Work, i: int, number: int, choice: Choice, moment: Moment, following: list[Chord], sources: Sources | None,
) -> list[_Node]:  # fmt: skip
    """The nodes of a choice's last chord, one for each way in which it can hear what follows."""
    parts, price = split(moment, choice.chords, choice.beats), choice.price
    for place, part in enumerate(parts[:-1]):
        node = _node(work, i, (number, place, ""), part, choice.chords[place + 1], sources, price, False)
        if node is None:
            return []
        sources, price = ((node, 0),), 0
    ears = _ears(choice.chords[-1], following).items()
    last = len(parts) - 1
    made = (_node(work, i, (number, last, ear), parts[-1], heard, sources, price, True) for ear, heard in ears)
    return [node for node in made if node is not None]


def _walked(work: _Work, ends: list[_Node], exact: bool, count: int) -> Course:
    """The cheapest way back from the song's end."""
    node = min(ends, key=lambda end: int(end.cost.min()))
    state = divmod(int(node.cost.argmin()), node.cost.shape[1])
    cost, chosen = int(node.cost.min()), [node.choice]
    while node.sources:
        best: tuple[int, _Node, tuple[int, int]] | None = None
        for source, extra in node.sources:
            onward = _back(work, source, node, state) + extra
            least = int(onward.min())
            if best is None or least < best[0]:
                best = (least, source, divmod(int(onward.argmin()), onward.shape[1]))
        assert best is not None
        inside = node.place > 0
        _, node, state = best
        if not inside:
            chosen.append(node.choice)
    assert len(chosen) == count
    return Course(tuple(chosen[::-1]), cost, exact)


def _back(work: _Work, source: _Node, node: _Node, state: tuple[int, int]) -> NDArray[np.int64]:
    """What it costs to come from each state of a source to one state of a node."""
    way = way_between(source.at, node.at)
    left, right = work.builder.changes([(source.stage, node.stage, way)], work.setup.mine)[0]
    ways = [a[:, state[0]].astype(np.int64)[:, None] + b[:, state[1]] for a, b in zip(left, right, strict=True)]
    whole: NDArray[np.int64] = source.cost + np.minimum.reduce(ways)
    return whole
