"""The prices of chords' voicings: every pair of a left and a right hand, without its neighbours. What has prices for
one voicing has them for those of many chords, one after the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.hands import KEY_X, reach_mm
from yellow_hinge.core.leading.prices.doubling import Doubling
from yellow_hinge.core.leading.prices.flat import Pairs, alone, of_one
from yellow_hinge.core.leading.prices.scenes import PlacingContext, Scenes
from yellow_hinge.core.leading.prices.sets import Terms, set_terms, sets_of, unfit
from yellow_hinge.core.leading.prices.spacing import mud_table, resting, space_terms
from yellow_hinge.core.leading.prices.weights import INFINITE, Weights, quantised
from yellow_hinge.core.numerics import NDArray, later, np
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, Rows, tied_rows

HALF = INFINITE // 2  # what a rule costs that does not take a hand
MOST_AT_ONCE = 1_000_000  # prices of pairs by rules that are looked at together


class PlaceTable(NamedTuple):
    """cost (L, R) in thousandths, INFINITE where the pair is no voicing; family (L, R) index into the shapes. Of many
    chords one after the other, (pairs,).
    """

    cost: Ints
    family: Ints


def total_of(terms: Terms) -> Ints:
    """The sum of prices."""
    values = list(terms.values())
    total = values[0].astype(np.int32)
    for value in values[1:]:
        total = total + value
    return total


def hand_terms(rows: Rows, name: str, scenes: Scenes, weights: Weights) -> Terms:
    """Prices (n,) of each placing of one hand by itself."""
    hand, one, root = rows.hand, scenes.one, scenes.root[rows.of]
    lower, upper = hand.pitches[:, :-1], hand.pitches[:, 1:]
    apart = np.maximum(upper - lower, 0)  # 0 where there is no upper note, and that costs nothing
    close = apart == 1
    seconds = (close | (apart == 2)).sum(1, dtype=np.int32)
    reach = reach_mm(one.hands.reach(name))
    span = np.where(hand.count > 1, KEY_X[np.maximum(hand.high, 0)] - KEY_X[np.minimum(hand.low, 127)], 0.0)
    over = np.maximum(0.0, span - weights.comfort * reach)
    above = (upper - root[:, None]) % 12
    third = scenes.all(lambda scene: scene.third)[rows.of]
    terms: Terms = {
        "mud": mud_table(weights)[apart, lower].sum(1, dtype=np.int32),
        "rub": quantised(weights.rub) * close.sum(1, dtype=np.int32),
        "seven_rub": quantised(weights.seven_rub) * (close & (above == 0)).any(1).astype(np.int32),
        "cluster": quantised(weights.cluster) * np.maximum(0, seconds - 1),
        "stretch": np.round(over * quantised(weights.stretch)).astype(np.int32),
        "doubled": _octaves(rows, name, scenes, weights),
        "crushed": quantised(weights.crushed) * third * (close & (above == 4)).any(1),
    }
    if name == "right":
        terms["top_rub"] = quantised(weights.top_rub) * (close & (upper == hand.high[:, None])).any(1).astype(np.int32)
    if name == "right" and one.singer is not None:
        inside = (hand.pitches >= one.singer[0]) & (hand.pitches <= one.singer[1])
        terms["singer"] = quantised(weights.singer) * inside.sum(1, dtype=np.int32)
    if name == "left" and one.mine:
        other = (hand.count > 0) & (hand.low % 12 != scenes.all(lambda scene: scene.bass_pc)[rows.of])
        terms["inverted"] = quantised(weights.inverted) * other.astype(np.int32)
    return terms


@lru_cache(maxsize=1024)
def _twice(doubling: Doubling, root: int, name: str, doubled: float) -> Ints:
    """Prices of a pitch class that one hand has twice (12,)."""
    table = doubling.within if name == "right" else doubling.between
    return np.array([quantised(doubled * table[(pc - root) % 12]) for pc in range(12)], np.int32)


def _octaves(rows: Rows, name: str, scenes: Scenes, weights: Weights) -> Ints:
    """Prices (n,) of the notes that a hand has twice: the bass by its own price where the left hand has it."""
    hand, price = rows.hand, np.zeros(len(rows.hand), np.int32)
    twice = np.flatnonzero(np.bitwise_count(hand.mask) < hand.count)
    if not len(twice):
        return price
    notes, of = hand.pitches[twice], rows.of[twice]
    by_pc = np.array([_twice(scene.doubling, scene.root, name, weights.doubled) for scene in scenes.each])
    pcs = np.where(notes == PAD, -1 - np.arange(notes.shape[1]), notes % 12)  # what is no note equals no other
    same = (pcs[:, :, None] == pcs[:, None, :]) & _LATER
    own = by_pc[of[:, None], notes % 12]
    if name == "left" and scenes.one.mine:
        own[:, 0] = scenes.all(lambda scene: quantised(weights.doubled * scene.doubling.bass))[of]
    price[twice] = (same.sum(2, dtype=np.int32) * own).sum(1, dtype=np.int32)
    return price


_LATER: NDArray[np.bool_] = later(lambda: np.triu(np.ones((SIZE, SIZE), bool), 1))  # [lower, upper]


class _Rules(NamedTuple):
    """The family of every rule of some chords, (rules, chords), or of every family; `there` where a chord has so many
    rules. Homes of both hands, fullnesses, and what the family costs.
    """

    family: Ints
    there: NDArray[np.bool_]
    home: tuple[Ints, Ints]
    full: tuple[Ints, Ints]
    prefer: Ints


def _rules(families: Sequence[Sequence[int]], shapes: Sequence[Sequence[Shape]]) -> _Rules:
    """`families` and `shapes` of every chord: the number of the shape that each rule belongs to."""
    most = max(map(len, families))
    numbers = np.array([[*each, *(-1,) * (most - len(each))] for each in families], np.int32).T
    width = max(map(len, shapes))
    facts = np.zeros((len(shapes), width, 5), np.int32)
    before: Sequence[Shape] = ()
    found: list[tuple[int, ...]] = []
    for own, every in zip(facts, shapes, strict=True):
        if every is not before:  # most chords of a song have the same families
            found = [(*shape.home, *shape.full, quantised(shape.prefer)) for shape in every]
        own[: len(found)], before = found, every
    each = facts[np.arange(len(shapes)), numbers]
    left, right, left_full, right_full, prefer = (each[:, :, fact] for fact in range(5))
    return _Rules(numbers, numbers >= 0, (left, right), (left_full, right_full), prefer)


def _family_terms(rows: Rows, rules: _Rules, side: int, scenes: Scenes, weights: Weights) -> Terms:
    """Prices (rules, n) of one hand (side 0 left, 1 right) under every rule: distance from the home register of its
    family, notes short of its fullness and, on the left side, what the family costs.
    """
    hand, of, one = rows.hand, rows.of, scenes.one
    home = 2 * (rules.home[side][:, of] + (one.lift if side else one.lift // 2))  # twice the middle, as below
    middle = np.where(hand.count > 0, hand.low + hand.high, home)
    near, price = weights.home_near[side], weights.home[side]
    if one.anchored:
        near, price = weights.anchored_near, weights.anchored
    away = np.maximum(0, np.abs(middle - home) - 2 * near) * (quantised(price) // 2)
    outer = scenes.all(lambda scene: _OUTER[scene.outermost])
    if side and outer.any():  # so that no song ends much lower than it began
        away = away + np.maximum(0, outer[of] * (middle - home)) * (quantised(weights.outermost) // 2)
    return {
        "home": away.astype(np.int32),
        "thin": (np.maximum(0, rules.full[side][:, of] - hand.count) * quantised(weights.thin)).astype(np.int32),
        "prefer": rules.prefer[:, of] * (1 - side),
    }


_OUTER = {"": 0, "first": 1, "last": -1}  # the way in which a hand may not lie from its home


def _by_rule(rows: Rows, side: int, rules: _Rules, scenes: Scenes, weights: Weights) -> Ints:
    """What one hand's placings cost under every rule, (rules, n); HALF where it does not take them."""
    prices = total_of(_family_terms(rows, rules, side, scenes, weights))
    found: Ints = np.where(rows.rules.T & rules.there[:, rows.of], prices, HALF)
    return found


def family_terms(hand: HandSet, shape: Shape, side: int, scene: PlacingContext, weights: Weights) -> Terms:
    """Prices (n,) of one hand of a chord in a family."""
    terms = _family_terms(of_one(hand), _rules([[0]], [[shape]]), side, Scenes((scene,)), weights)
    return {name: table[0] for name, table in terms.items()}


def own_terms(left: HandSet, right: HandSet, scene: PlacingContext, weights: Weights) -> tuple[Terms, Terms, Terms]:
    """The prices of one voicing (hand sets of one row each), whatever family it belongs to: of the left hand, of the
    right one, and of what they do to each other.
    """
    pairs, scenes = alone(left, right), Scenes((scene,))
    return (
        hand_terms(pairs.left, "left", scenes, weights),
        hand_terms(pairs.right, "right", scenes, weights),
        _pair_terms(pairs, scenes, weights),
    )


def _pair_terms(pairs: Pairs, scenes: Scenes, weights: Weights) -> Terms:
    """Prices (pairs,) of what the two hands do to each other."""
    sets = sets_of(pairs, scenes)
    spread = {name: table[sets.at] for name, table in set_terms(sets, scenes, weights).items()}
    return space_terms(pairs, max(0, scenes.one.lift), weights) | spread


def own_price(left: HandSet, right: HandSet, shapes: tuple[Shape, ...], scene: PlacingContext, weights: Weights) -> int:
    """Price of one voicing that belongs to no family (hand sets of one row each), in thousandths: register and fullness
    count as in the family that judges them mildest.
    """
    mildest = 0
    if shapes:
        rules, scenes = _rules([range(len(shapes))], [shapes]), Scenes((scene,))
        pairs = alone(left, right)
        one, two = (_family_terms(hand, rules, side, scenes, weights) for side, hand in enumerate(pairs[:2]))
        mildest = int((one["home"] + one["thin"] + two["home"] + two["thin"]).min())
    return mildest + sum(int(total_of(terms)[0]) for terms in own_terms(left, right, scene, weights))


def place_tables(
    pairs: Pairs,
    forms: Sequence[tuple[Forms, ...]],
    shapes: Sequence[tuple[Shape, ...]],
    scenes: Scenes,
    weights: Weights,
) -> PlaceTable:
    """Price and family of every pair of hands of some chords. A pair is a voicing only where one rule allows both
    hands; of several families the cheapest counts, the first in catalogue order among equals.
    """
    table = _in_families(pairs, forms, _rules([[e.family for e in each] for each in forms], shapes), scenes, weights)
    total = table.cost
    total += total_of(hand_terms(pairs.left, "left", scenes, weights))[pairs.rows]
    total += total_of(hand_terms(pairs.right, "right", scenes, weights))[pairs.columns]
    sets = sets_of(pairs, scenes)
    total += total_of(space_terms(pairs, max(0, scenes.one.lift), weights))
    total += total_of(set_terms(sets, scenes, weights))[sets.at]
    total[_crossed(pairs) | unfit(sets, scenes)[sets.at]] = INFINITE
    total[total >= HALF] = INFINITE
    return table


def _in_families(
    pairs: Pairs, forms: Sequence[tuple[Forms, ...]], rules: _Rules, scenes: Scenes, weights: Weights
) -> PlaceTable:
    """What every pair of hands costs in the family that costs it least."""
    sides = [_by_rule(hand, side, rules, scenes, weights) for side, hand in enumerate(pairs[:2])]
    tied = np.array([[bool(entry.pairs) for entry in each] + [False] * (len(rules.there) - len(each))
                     for each in forms]).T  # fmt: skip
    left = np.where(tied[:, pairs.left.of], HALF, sides[0]) if tied.any() else sides[0]
    total, family = np.empty(len(pairs.of), np.int32), np.empty(len(pairs.of), np.int32)
    at_once = max(1, MOST_AT_ONCE // len(left))
    for first in range(0, len(total), at_once):
        part = slice(first, first + at_once)
        ways = left[:, pairs.rows[part]] + sides[1][:, pairs.columns[part]]
        least = ways.argmin(0)  # the first family among equals
        total[part] = ways[least, np.arange(len(least))]
        family[part] = rules.family[least, pairs.of[part]]
    np.minimum(total, HALF, out=total)
    if tied.any():
        _tied(PlaceTable(total, family), pairs, forms, scenes, sides)
    return PlaceTable(total, family)


def _tied(
    table: PlaceTable, pairs: Pairs, forms: Sequence[tuple[Forms, ...]], scenes: Scenes, sides: list[Ints]
) -> None:
    """Lay the rules on whose hands go together in pairs only."""
    total, family = table
    hands = [hand.of_each(len(forms)) for hand in pairs[:2]]
    begins = [hand.edges(len(forms)) for hand in pairs[:2]]
    first = np.cumsum([0, *(len(l) * len(r) for l, r in zip(*hands, strict=True))])
    for chord, entries in enumerate(forms):
        left, right = hands[0][chord], hands[1][chord]
        for index, entry in enumerate(entries):
            if entry.pairs:
                l, r = tied_rows(entry, scenes.each[chord].root, left, right)
                cost = sides[0][index, l + begins[0][chord]] + sides[1][index, r + begins[1][chord]]
                at = first[chord] + l * len(right) + r
                better = (cost < total[at]) | (cost == total[at]) & (entry.family < family[at])
                family[at] = np.where(better, entry.family, family[at])
                total[at] = np.where(better, cost, total[at])


def _crossed(pairs: Pairs) -> NDArray[np.bool_]:
    """Where the hands cross or meet."""
    left, right = pairs.hands
    found: NDArray[np.bool_] = ~resting(pairs) & (right.low[pairs.columns] <= left.high[pairs.rows])
    return found
