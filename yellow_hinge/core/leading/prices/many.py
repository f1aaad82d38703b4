"""The price tables of many small changes in one pass: what each costs by itself is mostly that it is asked for."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from yellow_hinge.core.leading.prices.flat import laid
from yellow_hinge.core.leading.prices.motion import Way, band, change_tables, in_parts, moved, prices, with_terms
from yellow_hinge.core.leading.prices.moves import Prices, Side
from yellow_hinge.core.numerics import np
from yellow_hinge.core.shapes.placing import SIZE, HandSet, Ints

LARGE = 6000  # entries of a table from which on it is made by itself, by rows and columns
MOST_AT_ONCE = 300_000  # entries of the tables that are made in one pass


class Change(NamedTuple):
    """One hand's way from its placings for a chord to those for the next; `mine`: the left hand has the bass."""

    old: HandSet
    new: HandSet
    hand: str
    mine: bool
    way: Way

    @property
    def cells(self) -> int:
        """Entries of its table."""
        return len(self.old) * len(self.new)


def portions(changes: Sequence[Change]) -> Iterator[Sequence[Change]]:
    """Changes in their order, as many at a time as are worth one pass: who makes them may stop in between."""
    first, cells = 0, 0
    for number, each in enumerate(changes):
        if number > first and cells + each.cells > MOST_AT_ONCE:
            yield changes[first:number]
            first, cells = number, 0
        cells += each.cells
    if changes:
        yield changes[first:]


def tables_of(changes: Sequence[Change]) -> list[tuple[Ints, ...]]:
    """The tables of each change as `change_tables` gives them, to the last figure."""
    found: list[tuple[Ints, ...]] = [()] * len(changes)
    alike: dict[tuple[str, bool, bool, Way], list[int]] = {}
    for number, each in enumerate(changes):
        if each.cells >= LARGE:
            found[number] = change_tables(*each[:4], prices(each.way))
        else:
            priced = each.way.basses is not None
            alike.setdefault((each.hand, each.mine, priced, each.way._replace(basses=None)), []).append(number)
    for numbers in alike.values():
        for number, tables in zip(numbers, _one_pass([changes[n] for n in numbers]), strict=True):
            found[number] = tables
    return found


def _one_pass(changes: list[Change]) -> list[tuple[Ints, ...]]:
    """The tables of changes that differ in their placings and basses only."""
    first = changes[0]
    price = prices(first.way)
    old, new = _laid(changes)
    table = with_terms(_matched(old, new, first, price), old, new, first.hand, first.mine, price)
    parts = in_parts(table, old, new, first.hand, price)
    edges = np.cumsum([0, *(each.cells for each in changes)]).tolist()
    return [
        tuple(part[a:b].reshape(len(each.old), len(each.new)).copy() for part in parts)
        for each, (a, b) in zip(changes, itertools.pairwise(edges), strict=True)
    ]


def _laid(changes: list[Change]) -> tuple[Side, Side]:
    """Both ends of all entries, table after table and row after row."""
    rows, columns = [len(each.old) for each in changes], [len(each.new) for each in changes]
    old, new = laid(rows, columns)
    before, after = np.array([each.way.basses or (0, 0) for each in changes], np.int32).T
    return (
        Side(_together([each.old for each in changes]), old, np.repeat(before, rows)),
        Side(_together([each.new for each in changes]), new, np.repeat(after, columns)),
    )


def _together(hands: list[HandSet]) -> HandSet:
    """The placings of some hand sets, one after the other."""
    names = HandSet.__struct_fields__
    return HandSet(*(np.concatenate([getattr(hand, name) for hand in hands]) for name in names))


def _matched(old: Side, new: Side, change: Change, price: Prices) -> Ints:
    """The cheapest matching of every entry, those with as many notes on either side at a time."""
    led = change.hand == "left" and change.mine
    (before, had), (after, has) = moved(old.hand, led), moved(new.hand, led)
    numbers = (old.of(had) * (SIZE + 1) + new.of(has)).astype(np.int8)
    order = np.argsort(numbers, kind="stable")
    counts = numbers[order]
    edges = [0, *(np.flatnonzero(np.diff(counts)) + 1).tolist(), len(counts)]
    table = np.empty(len(order), np.int32)
    for a, b in itertools.pairwise(edges):
        entries = order[a:b]
        few, more = divmod(int(counts[a]), SIZE + 1)
        rows, others = before[old.at[entries]], after[new.at[entries]]
        surplus = price.enter
        if few > more:
            few, more, rows, others, surplus = more, few, others, rows, price.leave
        table[entries] = _block(few, more, rows, others, surplus, price)
    return table


def _block(few: int, more: int, rows: Ints, others: Ints, surplus: int, price: Prices) -> Ints:
    """The matching of rows with `few` notes and others with `more`, entry by entry."""
    pair, starts, ends = price.pair.ravel(), (rows * 128).T.copy(), others.T.copy()
    return band(few, more, surplus, lambda note, other: pair.take(starts[note] + ends[other]))
