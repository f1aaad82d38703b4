"""How close and how far notes may lie: low intervals that are muddy, and the room between the hands."""

from __future__ import annotations

import itertools
from functools import lru_cache

from yellow_hinge.core.leading.prices.flat import Pairs
from yellow_hinge.core.leading.prices.weights import UNIT, Weights, quantised
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.shapes.placing import HandSet, Ints

# The lowest MIDI number that may stand under an interval (semitones) before it sounds muddy; an octave is free.
LOW_LIMIT = {
    1: 52, 2: 51, 3: 48, 4: 46, 5: 43, 6: 43, 7: 34, 8: 40, 9: 39, 10: 38, 11: 38, 13: 40, 14: 39, 15: 36, 16: 34,
}  # fmt: skip
WIDE, WIDER = 16, 20  # semitones between the hands that are a gap, and one that nobody plays


@lru_cache(maxsize=16)
def mud_table(weights: Weights) -> Ints:
    """Price of an interval (row 0..127) over its lower note (column 0..127)."""
    table = np.zeros((128, 128), np.int32)
    for interval, limit in LOW_LIMIT.items():
        below = np.maximum(0, limit - np.arange(128))
        table[interval] = np.round(below * quantised(weights.mud)).astype(np.int32)
    return table


def mud(notes: tuple[int, ...], weights: Weights) -> int:
    """Price of the muddy intervals between neighbouring notes (MIDI, ascending), in thousandths."""
    table = mud_table(weights)
    return sum(int(table[b - a, a]) for a, b in itertools.pairwise(notes))


def resting(pairs: Pairs) -> NDArray[np.bool_]:
    """Where (pairs,) one of the hands rests."""
    left, right = pairs.hands
    found: NDArray[np.bool_] = (left.count == 0)[pairs.rows] | (right.count == 0)[pairs.columns]
    return found


@lru_cache(maxsize=64)
def _gap_table(weights: Weights, climbs: int) -> Ints:
    """Price by the semitones between the hands."""
    between = np.arange(128)
    price = quantised(weights.gap) * np.maximum(0, between - weights.gap_over)
    if not weights.parallel:  # four parts may open
        price += quantised(weights.gap_wide) * np.maximum(0, between - max(WIDE, weights.gap_over) - climbs)
        price += quantised(weights.gap_wider) * np.maximum(0, between - WIDER - climbs)
    found: Ints = price.astype(np.int32)
    return found


def space_terms(pairs: Pairs, climbs: int, weights: Weights) -> dict[str, Ints]:
    """Prices (pairs,) of the room between the hands, and of both as low as they lie; `climbs`: semitones that the right
    hand's register is lifted, by which a gap may be wider.
    """
    left, right = pairs.hands
    high = left.high[pairs.rows]
    between = np.where(resting(pairs), 0, np.maximum(right.low[pairs.columns] - high, 0))
    table = mud_table(weights)
    mud = table[between, high]
    lows = [_inside(hand, table) for hand in pairs.hands]
    whole = mud + lows[0][pairs.rows] + lows[1][pairs.columns]
    gap = _gap_table(weights, climbs)[between]
    return {"mud": mud, "gap": gap, "muddy": quantised(weights.muddy) * (whole >= UNIT).astype(np.int32)}


def _inside(hand: HandSet, table: Ints) -> Ints:
    """Prices (n,) of the muddy intervals inside one hand."""
    lower = hand.pitches[:, :-1]
    found: Ints = table[np.maximum(hand.pitches[:, 1:] - lower, 0), lower].sum(1, dtype=np.int32)
    return found
