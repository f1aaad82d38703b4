"""What it costs one hand to go from one set of notes to another: every note of the smaller set goes to a note of the
other one, low to low and high to high where they have as many, and else by the cheapest matching without crossings.
Only what is left over begins or ends.

`change_table` prices all pairs of two hand sets at once; `match` prices one pair with the same rules and tells which
note went where.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.leading.prices.moves import MOST_LEAP, Prices, Side, extras, sides
from yellow_hinge.core.leading.prices.weights import INFINITE, Weights, distance_table, move_table, quantised
from yellow_hinge.core.numerics import np
from yellow_hinge.core.shapes.placing import HandSet, Ints


class Way(NamedTuple):
    """What a change is led by: prices, and what of the two chords they need. `repeats`: both are one chord; `basses`
    their written basses (pitch classes) where the left hand has them and parallels are priced; `scale` the key's pitch
    classes where shapes slide along the key; `line` the pitch class that goes and the one that comes, where one voice
    moves inside a chord that is held, and whether the first one stays too; `leads` the hand whose highest note and
    inner lines are heard: the left one where the right is free; `anew`: a section begins, and its line with it.
    """

    weights: Weights
    repeats: bool = False
    basses: tuple[int, int] | None = None
    scale: tuple[int, ...] = ()
    line: tuple[int, int, bool] | None = None
    leads: str = "right"
    anew: bool = False


@lru_cache(maxsize=512)
def prices(way: Way) -> Prices:
    """The tables of a way to lead."""
    weights = way.weights
    move = move_table(weights)
    return Prices(
        move,
        move[np.abs(np.arange(128)[:, None] - np.arange(128)[None, :])],
        _bass_prices(weights),
        _top_prices(weights, way.anew),
        distance_table(weights.inner, weights.inner_beyond, MOST_LEAP) if weights.inner else None,
        weights.inner_voice == "lowest",
        quantised(weights.enter),
        quantised(weights.leave),
        quantised(weights.slide),
        quantised(weights.slide_count),
        _steps(way.scale),
        quantised(weights.repeat) if way.repeats else 0,
        quantised(weights.parallel),
        quantised(weights.outer_parallel),
        way.basses,
        way.line if weights.strand else None,
        quantised(weights.strand),
        way.leads,
        _outer_prices(weights),
    )


def _top_prices(weights: Weights, anew: bool) -> Ints:
    if anew and weights.top_anew:
        table = distance_table(weights.top_anew, 0.0, MOST_LEAP + 1)
        return np.concatenate([table[:0:-1], table])
    table = distance_table(weights.top, weights.top_beyond, MOST_LEAP + 1)
    down, up = table[:0:-1] + quantised(weights.top_fall), table.copy()
    up[1:] += quantised(weights.top_rise)
    return np.concatenate([down, up])


def _steps(scale: tuple[int, ...]) -> Ints:
    """Semitones, or twice the number of a key's step, with what lies between two steps between them."""
    if not scale:
        return np.arange(129, dtype=np.int32)
    ordered = sorted(scale)
    within = [sum(pc <= place for pc in ordered) * 2 - (place in scale) for place in range(12)]
    return np.array([within[midi % 12] + midi // 12 * 2 * len(ordered) for midi in range(129)], np.int32)


def _bass_prices(weights: Weights) -> Ints:
    up = distance_table(weights.bass, weights.bass_beyond, MOST_LEAP + 1)
    for octaves in (12, 24):
        for step in (-2, -1, 1, 2):
            up[octaves + step] += quantised(weights.bass_octave)
    down = up[:0:-1].copy()
    down[-2:] += quantised(weights.fall)
    rising = up.copy()
    rising[1:] += quantised(weights.rise)
    return np.concatenate([down, rising])


def _outer_prices(weights: Weights) -> tuple[tuple[int, ...], ...]:
    if not weights.similar and not weights.oblique:
        return ()
    similar, oblique = quantised(weights.similar), quantised(weights.oblique)
    return (similar, oblique, 0), (oblique, 0, oblique), (0, oblique, similar)


def outer_price(bass: int, top: int, price: Prices) -> int:
    """Price of the outer voices' directions: `bass` and `top` are signed distances in semitones."""
    return price.outer[np.sign(bass) + 1][np.sign(top) + 1] if price.outer else 0


def _runs(count: Ints) -> list[tuple[int, slice]]:
    """(notes, rows) of the stretches of placings with as many notes; hand sets are sorted so that they are few."""
    if not len(count):
        return []
    edges = [0, *(np.flatnonzero(count[1:] != count[:-1]) + 1).tolist(), len(count)]
    return [(int(count[a]), slice(a, b)) for a, b in itertools.pairwise(edges)]


def moved(hand: HandSet, led: bool) -> tuple[Ints, Ints]:
    """(pitches, count) of the notes that are matched: all of them, or where the bass is `led` by itself, the others."""
    return (hand.pitches[:, 1:], np.maximum(hand.count - 1, 0)) if led else (hand.pitches, hand.count)


def _matched(old: tuple[Ints, Ints], new: tuple[Ints, Ints], price: Prices) -> Ints:
    """Cheapest matching of every row of `old` (pitches (n, k), count) with every row of `new` (m, j); (n, m)."""
    table = np.empty((len(old[0]), len(new[0])), np.int32)
    for a, rows in _runs(old[1]):
        for b, columns in _runs(new[1]):
            if a <= b:
                table[rows, columns] = _block(old[0][rows, :a], new[0][columns, :b], price.enter, price).T
            else:
                table[rows, columns] = _block(new[0][columns, :b], old[0][rows, :a], price.leave, price)
    return table


def _block(fewer: Ints, more: Ints, surplus: int, price: Prices) -> Ints:
    """Matching of rows of `fewer` (n, a) with rows of `more` (m, b), a <= b, each note left over for `surplus`. Returns
    (m, n), so that the prices of a note are copied as whole rows.
    """
    prices_of = [price.pair.take(fewer[:, note], 1) for note in range(fewer.shape[1])]  # (128, n) each
    found = band(fewer.shape[1], more.shape[1], surplus, lambda note, other: prices_of[note].take(more[:, other], 0))
    return np.broadcast_to(found, (len(more), len(fewer)))


def band(fewer: int, more: int, surplus: int, price_of: Callable[[int, int], Ints]) -> Ints:
    """The cheapest way to match so many notes with so many others, fewer <= more, without crossings, each note left
    over for `surplus`: a programme over how many of the lower notes are left over so far. `price_of(note, other)` is
    what the ways from a note to another one cost, as a new table.
    """
    spare = more - fewer
    best: list[Ints] = [np.zeros(1, np.int32)] * (spare + 1)
    for note in range(fewer):
        for over in range(spare + 1):
            go = price_of(note, note + over)
            go += best[over]
            best[over] = np.minimum(go, best[over - 1], out=go) if over else go
    found: Ints = best[spare] + np.int32(spare * surplus)
    return found


def change_table(old: HandSet, new: HandSet, hand: str, mine: bool, price: Prices) -> Ints:
    """Price of every change of one hand, (len(old), len(new)) in thousandths.

    `mine`: the left hand has the bass, so its lowest notes are matched with each other and priced by the bass table.
    The highest notes of the hand that leads carry the price of the top line beside their own motion.
    """
    led = hand == "left" and mine
    table = _matched(moved(old, led), moved(new, led), price)
    return with_terms(table, *sides(old, new, price), hand, mine, price)


def with_terms(table: Ints, old: Side, new: Side, hand: str, mine: bool, price: Prices) -> Ints:
    """A table of what the matching costs, to which is added what bass, top line and style cost."""
    before, after = old.counts > 0, new.counts > 0
    both = before & after
    if hand == "left" and mine:
        table += np.where(both, price.bass[new.of(new.hand.low) - old.of(old.hand.low) + MOST_LEAP], 0)
        if not both.all():  # a bass that begins or ends with its hand
            table += price.leave * (before & ~both) + price.enter * (after & ~both)
    if hand == price.leads:
        table += price.top[new.of(new.hand.high) - old.of(old.hand.high) + MOST_LEAP] * both
    for extra in extras(old, new, hand, price):
        table += extra
    return table


def in_parts(table: Ints, old: Side, new: Side, hand: str, price: Prices) -> tuple[Ints, ...]:
    """The prices of one hand's change as tables whose least sum over both hands, table by table, is the price of a
    change: one where the hands are free of each other, three (bass falls, stays, rises) where the outer voices are
    priced and lie in two hands.
    """
    if not price.outer:
        return (table,)
    both = (old.counts > 0) & (new.counts > 0)
    bass, top = (
        np.sign(new.of(b) - old.of(a)) * both for a, b in ((old.hand.low, new.hand.low), (old.hand.high, new.hand.high))
    )
    if price.leads == "left":
        return (table + np.array(price.outer, np.int32)[bass + 1, top + 1] * (hand == "left"),)
    if hand == "left":
        return tuple(np.where(bass == sign, table, INFINITE).astype(np.int32) for sign in (-1, 0, 1))
    return tuple(table + np.array(row, np.int32)[top + 1] for row in price.outer)


def change_tables(old: HandSet, new: HandSet, hand: str, mine: bool, price: Prices) -> tuple[Ints, ...]:
    """The tables of one hand's change, see `in_parts`."""
    table = change_table(old, new, hand, mine, price)
    return in_parts(table, *sides(old, new, price), hand, price)
