"""Which hand played what: the cheapest way through a performance, by a beam over who holds which keys."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.hearing.strikes import Tone, grouped
from yellow_hinge.core.numerics import np

# Prices, searched on charts of ours: a stretch, and every mm of it; a crossing; a mm moved; the register; a semitone
# between the hands (taken off); more than five fingers; every key that the hand already holds.
_OVER, _PER_MM, _CROSS, _MOVE, _REGISTER, _GAP, _FIVE, _HELD = 3.0, 0.03, 2.5, 0.006, 0.55, 0.05, 4.0, 0.5
_BEAM = 8
_TOGETHER = 0.04
_LEFT, _RIGHT, _SPREAD = 50.0, 67.0, 9.0  # where hands lie before anything is known (MIDI numbers)
_ENOUGH, _LEARNED_SPREAD = 8, 7.0


class _Key(NamedTuple):
    midi: int
    off: float
    left: bool


class _Last(NamedTuple):
    """Where a hand was: its outermost keys, and when."""

    low: int
    high: int
    at: float


class _Way(NamedTuple):
    """Who played a strike: the way before it, its notes from the lowest, how many of these are the left hand's."""

    before: _Way | None
    order: list[int]
    lowest: int


class _State(NamedTuple):
    price: float
    held: tuple[_Key, ...]
    left: _Last | None
    right: _Last | None
    way: _Way | None


class _Prior(NamedTuple):
    left: float
    right: float
    spread: float


def left_hands(tones: list[Tone], hands: Hands) -> list[bool]:
    """Of every note whether the left hand plays it. `tones` in order of their striking. A second pass knows where both
    hands lie.
    """
    found = _split(tones, hands, _Prior(_LEFT, _RIGHT, _SPREAD))
    left = [tone.midi for tone, mine in zip(tones, found, strict=True) if mine]
    right = [tone.midi for tone, mine in zip(tones, found, strict=True) if not mine]
    if len(left) <= _ENOUGH or len(right) <= _ENOUGH:
        return found
    prior = _Prior(float(np.percentile(left, 65)), float(np.percentile(right, 35)), _LEARNED_SPREAD)
    return _split(tones, hands, prior)


def _split(tones: list[Tone], hands: Hands, prior: _Prior) -> list[bool]:
    reaches = (reach_mm(hands.left_reach) + 1, reach_mm(hands.right_reach) + 1)
    beam = [_State(0.0, (), None, None, None)]
    for group in grouped(tones, _TOGETHER, 0.0):
        order = sorted(group, key=lambda n: tones[n].midi)
        struck = [tones[n] for n in order]
        best: dict[object, _State] = {}
        for state in beam:
            for count in range(len(order) + 1):
                after = _after(state, struck, order, count, reaches, prior)
                key = (
                    tuple((k.midi, k.left) for k in after.held),
                    after.left and after.left[:2],
                    after.right and after.right[:2],
                )
                if key not in best or after.price < best[key].price:
                    best[key] = after
        beam = sorted(best.values(), key=lambda state: state.price)[:_BEAM]
    found = [False] * len(tones)
    way = beam[0].way
    while way is not None:
        for place, n in enumerate(way.order):
            found[n] = place < way.lowest
        way = way.before
    return found


def _after(
    state: _State, struck: list[Tone], order: list[int], count: int, reaches: tuple[float, float], prior: _Prior
) -> _State:
    """What is, once the left hand has struck the lowest `count` keys and the right hand the others."""
    now = min(tone.on for tone in struck)
    held = tuple(key for key in state.held if key.off > now + _TOGETHER)
    parts = ([t.midi for t in struck[:count]], [t.midi for t in struck[count:]])
    holds = ([k.midi for k in held if k.left], [k.midi for k in held if not k.left])
    price = state.price + _crossings(parts, holds)
    for new, old, reach, last, middle, sign in (
        (parts[0], holds[0], reaches[0], state.left, prior.left, 1),
        (parts[1], holds[1], reaches[1], state.right, prior.right, -1),
    ):
        price += _of_hand(new, old, reach, last, now) if new else 0.0
        away = (max(0.0, sign * (midi - middle) / prior.spread) for midi in new)
        price += sum(_REGISTER * far * far * 0.5 for far in away)
    if 0 < count < len(struck):
        price -= _GAP * min(14, struck[count].midi - struck[count - 1].midi)
    held += tuple(_Key(tone.midi, tone.off, place < count) for place, tone in enumerate(struck))
    left = _Last(min(parts[0] + holds[0]), max(parts[0] + holds[0]), now) if parts[0] else state.left
    right = _Last(min(parts[1] + holds[1]), max(parts[1] + holds[1]), now) if parts[1] else state.right
    return _State(price, held, left, right, _Way(state.way, order, count))


def _crossings(parts: tuple[list[int], list[int]], holds: tuple[list[int], list[int]]) -> float:
    under = sum(1 for midi in parts[0] for other in holds[1] if other < midi)
    over = sum(1 for midi in parts[1] for other in holds[0] if other > midi)
    return _CROSS * (under + over)


def _of_hand(new: list[int], old: list[int], reach: float, last: _Last | None, now: float) -> float:
    """What it costs a hand to strike some keys while it holds others."""
    every = new + old
    span = float(KEY_X[max(every)] - KEY_X[min(every)])
    price = _OVER + _PER_MM * (span - reach) if span > reach else 0.0
    price += _HELD * len(set(old) - set(new)) + (_FIVE if len(set(every)) > 5 else 0.0)
    if last is None:
        return price
    low, high = float(KEY_X[min(new)]), float(KEY_X[max(new)])
    was_low, was_high = float(KEY_X[last.low]), float(KEY_X[last.high])
    way = max(0.0, low - was_high) + max(0.0, was_low - high) + 0.25 * abs(low + high - was_low - was_high) / 2
    return price + _MOVE * way / (1 + max(0.0, now - last.at - 0.2))
