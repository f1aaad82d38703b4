"""What it costs one hand to go from one set of notes to another: the cheapest non-crossing matching.

`change_table` prices all pairs of two hand sets at once; `match` prices one pair with the same rules and tells which
note went where. Both are a dynamic programme over notes from low to high.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from yellow_hinge.core.leading.weights import INFINITE, Weights, distance_table, move_table, quantised
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints


class Prices(NamedTuple):
    """The tables of a Weights record, made once: by distance in semitones, in thousandths of a unit."""

    move: Ints
    pair: NDArray[np.int16]  # (129, 129) by old and new MIDI number; row and column -1 forbid matching with no note
    bass: Ints  # by new minus old MIDI number, from -MOST_BASS on
    top: Ints
    enter: int
    leave: int
    slide: int
    slide_count: int
    outer: tuple[tuple[int, ...], ...]  # (bass sign + 1, top sign + 1); () where the outer voices are free


MOST_BASS = 160


@lru_cache(maxsize=32)
def prices(weights: Weights) -> Prices:
    """The tables of `weights`."""
    enter, leave = quantised(weights.enter), quantised(weights.leave)
    dear = enter + leave + 1  # never cheaper than to leave and enter
    if dear * SIZE + dear > np.iinfo(np.int16).max:
        raise ValueError("entering and leaving may cost at most 5 units together")
    move = np.minimum(move_table(weights), dear).astype(np.int32)
    pair = np.full((129, 129), dear, np.int16)
    pair[:128, :128] = move[np.abs(np.arange(128)[:, None] - np.arange(128)[None, :])]
    return Prices(
        move,
        pair,
        _bass_prices(weights),
        distance_table(weights.top, weights.top_beyond, 160),
        enter,
        leave,
        quantised(weights.slide),
        quantised(weights.slide_count),
        _outer_prices(weights),
    )


def _bass_prices(weights: Weights) -> Ints:
    up = distance_table(weights.bass, weights.bass_beyond, MOST_BASS + 1)
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


def _matched(old: Ints, new: Ints, price: Prices) -> Ints:
    """Cheapest matching of every row of `old` (n, k) with every row of `new` (m, j); PAD is no note. Returns (n, m).

    Runs in 16 bits: no cell exceeds (enter + leave) * SIZE + one capped move. Tables stand as (m, n), so that the
    prices of a new note are copied as whole rows.
    """
    n, m, rows, columns = len(old), len(new), old.shape[1], new.shape[1]
    if not rows or not columns:  # everything enters or leaves
        entering, leaving = (new != PAD).sum(1, dtype=np.int32), (old != PAD).sum(1, dtype=np.int32)
        alone: Ints = price.enter * entering[None, :] + price.leave * leaving[:, None]
        return alone
    leave = np.where(old == PAD, 0, price.leave).astype(np.int16).T
    enter = np.ascontiguousarray(np.where(new == PAD, 0, price.enter).astype(np.int16).T)[:, :, None]
    entered, gone = np.cumsum(enter, 0, dtype=np.int16), np.cumsum(leave, 0, dtype=np.int16)
    above = [np.zeros((1, 1), np.int16), *entered]
    spare = np.empty((m, n), np.int16)
    go = spare
    for i in range(rows):
        line = [gone[i][None, :]]
        prices_to = price.pair.take(old[:, i], 1)  # (129, n) by the new note's MIDI number
        for j in range(columns):
            go = prices_to.take(new[:, j], 0, mode="wrap")
            go += above[j]
            np.minimum(go, np.add(above[j + 1], leave[i], out=spare), out=go)
            np.minimum(go, np.add(line[j], enter[j], out=spare), out=go)
            line.append(go)
        above = line
    best: Ints = np.ascontiguousarray(go.T).astype(np.int32)
    return best


def _width(hand: HandSet) -> int:
    return max(1, int(hand.count.max(initial=0)))


def change_table(old: HandSet, new: HandSet, hand: str, mine: bool, price: Prices) -> Ints:
    """Price of every change of one hand, (len(old), len(new)) in thousandths.

    `mine`: the left hand has the bass, so its lowest notes are matched with each other and priced by the bass table.
    The right hand's highest notes carry the price of the top line beside their own motion.
    """
    before, after = old.pitches[:, : _width(old)], new.pitches[:, : _width(new)]
    if hand == "left" and mine:
        bass: Ints = price.bass[new.low[None, :] - old.low[:, None] + MOST_BASS]
        if before.shape[1] > 1 or after.shape[1] > 1:
            bass += _matched(before[:, 1:], after[:, 1:], price)
        return bass + _bent(old, new, price) if price.slide else bass
    table = _matched(before, after, price)
    if hand == "right":
        both = (old.count > 0)[:, None] & (new.count > 0)[None, :]
        table += price.top[np.abs(old.high[:, None] - new.high[None, :])] * both
    return table + _bent(old, new, price) if price.slide else table


def _bent(old: HandSet, new: HandSet, price: Prices) -> Ints:
    """What a hand pays for another shape: semitones by which its notes lie otherwise above its lowest one, and notes
    more or fewer.
    """
    shapes = [np.where(hand.pitches == PAD, 0, hand.pitches - hand.pitches[:, :1]) for hand in (old, new)]
    table = np.zeros((len(old), len(new)), np.int32)
    for note in range(1, SIZE):
        a, b = shapes[0][:, note, None], shapes[1][None, :, note]
        table += price.slide * np.where((a > 0) & (b > 0), np.abs(a - b), 0)
    table += price.slide_count * np.abs(old.count[:, None] - new.count[None, :])
    return table


def change_tables(old: HandSet, new: HandSet, hand: str, mine: bool, price: Prices) -> tuple[Ints, ...]:
    """The tables of one hand's change, whose least sum over both hands, table by table, is the price of a change: one
    where the hands are free of each other, three (bass falls, stays, rises) where the outer voices are priced.
    """
    table = change_table(old, new, hand, mine, price)
    if not price.outer:
        return (table,)
    if hand == "left":
        way = np.sign(new.low[None, :] - old.low[:, None]) * (old.count > 0)[:, None] * (new.count > 0)[None, :]
        return tuple(np.where(way == sign, table, INFINITE).astype(np.int32) for sign in (-1, 0, 1))
    way = np.sign(new.high[None, :] - old.high[:, None]) * (old.count > 0)[:, None] * (new.count > 0)[None, :]
    return tuple(table + np.array(row, np.int32)[way + 1] for row in price.outer)


class Move(NamedTuple):
    """One note's way: MIDI numbers, None where it enters or leaves."""

    old: int | None
    new: int | None

    @property
    def semitones(self) -> int:
        """Signed distance; 0 for a note that enters or leaves."""
        return 0 if self.old is None or self.new is None else self.new - self.old


def match(old: tuple[int, ...], new: tuple[int, ...], hand: str, mine: bool, price: Prices) -> tuple[int, list[Move]]:
    """(price, moves low to high) of one hand's change by the rules of `change_table`. Ties prefer matching over
    leaving and leaving over entering, from the top down.
    """
    total, moves = 0, []
    before, after = old, new
    if hand == "left" and mine and old and new:
        total += int(price.bass[new[0] - old[0] + MOST_BASS])
        moves.append(Move(old[0], new[0]))
        before, after = old[1:], new[1:]
    best = _grid(before, after, price)
    total += best[len(before)][len(after)]
    moves += _trace(before, after, best, price)
    if hand == "right" and old and new:
        total += int(price.top[abs(old[-1] - new[-1])])
    if price.slide:
        total += price.slide_count * abs(len(old) - len(new))
        bent = zip((n - old[0] for n in old), (n - new[0] for n in new), strict=False)
        total += price.slide * sum(abs(a - b) for a, b in bent)
    return total, moves


def _grid(old: tuple[int, ...], new: tuple[int, ...], price: Prices) -> list[list[int]]:
    best = [[0] * (len(new) + 1) for _ in range(len(old) + 1)]
    for i in range(len(old) + 1):
        for j in range(len(new) + 1):
            ways = [0] if i == j == 0 else []
            if i and j:
                ways.append(best[i - 1][j - 1] + int(price.move[abs(old[i - 1] - new[j - 1])]))
            if i:
                ways.append(best[i - 1][j] + price.leave)
            if j:
                ways.append(best[i][j - 1] + price.enter)
            best[i][j] = min(ways)
    return best


def _trace(old: tuple[int, ...], new: tuple[int, ...], best: list[list[int]], price: Prices) -> list[Move]:
    i, j = len(old), len(new)
    moves: list[Move] = []
    while i or j:
        here = best[i][j]
        if i and j and here == best[i - 1][j - 1] + int(price.move[abs(old[i - 1] - new[j - 1])]):
            i, j = i - 1, j - 1
            moves.append(Move(old[i], new[j]))
        elif i and here == best[i - 1][j] + price.leave:
            i -= 1
            moves.append(Move(old[i], None))
        else:
            j -= 1
            moves.append(Move(None, new[j]))
    return moves[::-1]
