"""The price of one chord's voicings: every pair of a left and a right hand, without its neighbours."""

from __future__ import annotations

import itertools
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.leading.weights import INFINITE, Weights, quantised
from yellow_hinge.core.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms
from yellow_hinge.core.shapes.palette import Palette
from yellow_hinge.core.shapes.placing import HandSet, Ints

# The lowest MIDI number that may stand under an interval (semitones) before it sounds muddy; an octave is free.
LOW_LIMIT = {
    1: 52, 2: 51, 3: 48, 4: 46, 5: 46, 6: 46, 7: 34, 8: 43, 9: 41, 10: 41, 11: 41, 13: 40, 14: 39, 15: 36, 16: 34,
}  # fmt: skip
# Colours asked for at each colour level, beyond what is written.
COLOURS_ASKED = (0, 0, 1, 2)


class PlaceTable(NamedTuple):
    """cost (L, R) in thousandths, INFINITE where the pair is no voicing; family (L, R) index into the shapes."""

    cost: Ints
    family: Ints


class Scene(NamedTuple):
    """What a chord's voicings are judged by, its melody apart. `root` pitch class; `level` of colour."""

    root: int
    palette: Palette
    level: int
    hands: Hands
    mine: bool


@lru_cache(maxsize=16)
def _mud_table(weights: Weights) -> Ints:
    """Price of an interval (row 0..127) over its lower note (column 0..127)."""
    table = np.zeros((128, 128), np.int32)
    for interval, limit in LOW_LIMIT.items():
        below = np.maximum(0, limit - np.arange(128))
        table[interval] = np.round(below * quantised(weights.mud)).astype(np.int32)
    return table


def mud(notes: tuple[int, ...], weights: Weights) -> int:
    """Price of the muddy intervals between neighbouring notes (MIDI, ascending), in thousandths."""
    table = _mud_table(weights)
    return sum(int(table[b - a, a]) for a, b in itertools.pairwise(notes))


def _bits(pcs: set[int]) -> int:
    return sum(1 << pc % 12 for pc in pcs)


def _rotated(mask: Ints, by: int) -> Ints:
    """A mask of twelve pitch classes moved up by `by` semitones."""
    return ((mask << by) | (mask >> (12 - by))) & 0xFFF


def _hand_cost(hand: HandSet, name: str, scene: Scene, weights: Weights) -> Ints:
    """Price of each placing of one hand by itself: mud, stretch, minor seconds."""
    lower, upper = hand.pitches[:, :-1], hand.pitches[:, 1:]
    apart = np.maximum(upper - lower, 0)  # 0 where there is no upper note, and that costs nothing
    cost: Ints = _mud_table(weights)[apart, lower].sum(1, dtype=np.int32)
    close = apart == 1
    cost += quantised(weights.rub) * close.sum(1, dtype=np.int32)
    seconds = ((apart == 1) | (apart == 2)).sum(1, dtype=np.int32)
    cost += quantised(weights.cluster) * np.maximum(0, seconds - 1)
    if name == "right":
        cost += quantised(weights.top_rub) * (close & (upper == hand.high[:, None])).any(1)
    reach = reach_mm(scene.hands.left_reach if name == "left" else scene.hands.right_reach)
    span = np.where(hand.count > 1, KEY_X[hand.high] - KEY_X[np.minimum(hand.low, 127)], 0.0)
    over = np.maximum(0.0, span - weights.comfort * reach)
    cost += np.round(over * quantised(weights.stretch)).astype(np.int32)
    return cost


def tune_cost(hand: HandSet, tune: tuple[int, ...], weights: Weights) -> Ints:
    """Price of each placing of one hand under long melody notes (pitch classes): half steps beside them."""
    beside = _bits({pc + 1 for pc in tune} | {pc - 1 for pc in tune}) & ~_bits(set(tune))
    cost: Ints = quantised(weights.tune) * np.bitwise_count(hand.mask & beside).astype(np.int32)
    return cost


def _family_cost(
    hand: HandSet, forms: tuple[Forms, ...], shapes: tuple[Shape, ...], side: int, weights: Weights
) -> Ints:
    """(rules, n) price of each placing under each rule: distance from the family's home register, notes short of its
    fullness, and, on the left side 0, what the family costs; half of INFINITE where the rule lacks the placing.
    """
    homes = np.array([2 * shapes[f.family].home[side] for f in forms], np.int32)[:, None]
    full = np.array([shapes[f.family].full[side] for f in forms], np.int32)[:, None]
    own = [quantised(shapes[f.family].prefer) if side == 0 else 0 for f in forms]
    middle = np.where(hand.count > 0, hand.low + hand.high, homes)  # twice the middle
    away = np.maximum(0, np.abs(middle - homes) - 2 * weights.home_near)
    cost = away * (quantised(weights.home) // 2) + np.maximum(0, full - hand.count) * quantised(weights.thin)
    cost += np.array(own, np.int32)[:, None]
    allowed = (hand.rules[None, :] >> np.arange(len(forms), dtype=np.int32)[:, None]) & 1
    return np.where(allowed, cost, INFINITE // 2).astype(np.int32)


def _pair_cost(left: HandSet, right: HandSet, scene: Scene, weights: Weights) -> Ints:
    """Price of what the two hands do to each other; half of INFINITE where they cross or what must sound is missing."""
    lmask, rmask = left.mask[:, None], right.mask[None, :]
    gap = right.low[None, :] - left.high[:, None]
    resting = (left.count == 0)[:, None] | (right.count == 0)[None, :]
    between = np.maximum(np.where(resting, 0, gap), 0)
    cost = _mud_table(weights)[between, left.high[:, None]]
    cost += quantised(weights.gap) * np.maximum(0, between - weights.gap_over)
    cost += quantised(weights.doubled) * np.bitwise_count(lmask & rmask).astype(np.int32)
    root = 1 << scene.root
    rubbing = left.mask & ~root if scene.palette.flat_nine else left.mask
    cost += quantised(weights.ninth) * ((_rotated(rubbing, 1)[:, None] & rmask) != 0)
    sounding = lmask | rmask
    pcs = {degree: (scene.root + degree_pc(degree)) % 12 for degree in (*scene.palette.must, *scene.palette.colours)}
    written = {(scene.root + degree_pc(degree)) % 12 for degree in scene.palette.tones}
    colours = np.bitwise_count(sounding & _bits({pcs[d] for d in scene.palette.colours} - written)).astype(np.int32)
    asked = min(COLOURS_ASKED[scene.level], len(scene.palette.colours))
    cost += quantised(weights.bare) * np.maximum(0, asked - colours)
    cost += quantised(weights.crowded) * np.maximum(0, colours - asked)
    must = _bits({pcs[d] for d in scene.palette.must})
    given = 0 if scene.mine else 1 << (scene.root + scene.palette.bass) % 12
    whole = ((sounding | given) & must) == must
    cost[~whole | (~resting & (gap <= 0))] = INFINITE // 2
    return cost


def place_table(
    left: HandSet, right: HandSet, forms: tuple[Forms, ...], shapes: tuple[Shape, ...], scene: Scene, weights: Weights
) -> PlaceTable:
    """Price and family of every pair of hands. A pair is a voicing only where one rule allows both hands; of several
    families the cheapest counts, the first in catalogue order among equals.
    """
    lcost = _family_cost(left, forms, shapes, 0, weights)
    rcost = _family_cost(right, forms, shapes, 1, weights)
    both = lcost[:, :, None] + rcost[:, None, :]
    rule = both.argmin(0)
    family = np.array([entry.family for entry in forms], np.int32)[rule]
    total = both.min(0)
    total += _hand_cost(left, "left", scene, weights)[:, None] + _hand_cost(right, "right", scene, weights)[None, :]
    total += _pair_cost(left, right, scene, weights)
    total[total >= INFINITE // 2] = INFINITE
    return PlaceTable(total, family)
