"""The cheapest line through a lattice of onsets and pitches, exactly: a note's price depends on the two before it, so
that a state is a pair of pitches.
"""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from yellow_hinge.core.lines.rails import HIGH, LOW
from yellow_hinge.core.numerics import Floats64, np

COUNT = HIGH - LOW + 1
NEVER = 1e6
# --- what going from note to note costs ---
REPEAT, THIRD, FOURTH, SIXTH, OCTAVE = 1.2, 0.5, 1.0, 1.8, 2.4
NO_TURN, LEAPS, TRILL, TURN, TRITONE = 2.0, 1.6, 0.9, 0.25, 1.0
WALKS = 30  # looked at for every line that is asked for
LEAP = 5  # semitones from which a note is leapt to


class Onset(NamedTuple):
    """A place of the lattice: the price of every pitch there (COUNT of them), and of every pitch going on to the next
    (COUNT by COUNT), which knows what is dissonant here.
    """

    own: Floats64
    onward: Floats64


@cache
def interval_prices() -> Floats64:
    """(COUNT, COUNT): what it costs to go from one pitch to another, as far as the interval alone says."""
    far = np.abs(np.arange(COUNT)[:, None] - np.arange(COUNT)[None, :])
    steps = np.array(
        [REPEAT, 0.0, 0.0, THIRD, THIRD, FOURTH, FOURTH + TRITONE, FOURTH, SIXTH, SIXTH, NEVER, NEVER, OCTAVE]
    )
    return _kept(np.asarray(np.where(far < len(steps), steps[np.minimum(far, len(steps) - 1)], NEVER), np.float64))


@cache
def turn_prices() -> Floats64:
    """(COUNT, COUNT, COUNT): what three notes in a row cost beyond their intervals: a leap that does not turn back by
    step or third, two leaps one way, a turn, going to and fro.
    """
    a, b, c = np.meshgrid(*[np.arange(COUNT)] * 3, indexing="ij")
    first, second = b - a, c - b
    leapt, back = np.abs(first) >= LEAP, (first * second < 0) & (np.abs(second) <= 4)
    prices = np.where(leapt & ~back & (second != 0), NO_TURN, 0.0)
    prices += np.where(leapt & (np.abs(second) >= LEAP) & (first * second > 0), LEAPS, 0.0)
    prices += np.where((a == c) & (a != b), TRILL, 0.0)
    prices += np.where(first * second < 0, TURN, 0.0)
    return _kept(prices)


def _kept(prices: Floats64) -> Floats64:
    """A table that everyone shares: nobody writes into it."""
    prices.flags.writeable = False
    return prices


class Found(NamedTuple):
    """A line: the places of its pitches over LOW, and its cost."""

    path: tuple[int, ...]
    cost: float


def cheapest(onsets: list[Onset], most: int, apart: int = 1) -> list[Found]:
    """The cheapest line and the next best ones, up to `most` in all, each at `apart` notes or more other than those
    before it; [] where none can be played. With `apart` 1 the second is the second best of all.
    """
    if len(onsets) < 3:
        return _few(onsets)[:most]
    ahead, behind = _ahead(onsets), _behind(onsets)
    through = [a + b for a, b in zip(ahead, behind, strict=True)]
    best = _walk(onsets, ahead, behind, None)
    if best is None:
        return []
    found = [best]
    offers = []
    for at, whole in enumerate(through):
        pair = whole.copy()
        pair[best.path[at], best.path[at + 1]] = NEVER * 10
        for flat in np.argsort(pair, axis=None)[: 2 * most]:
            offers.append((float(pair.flat[flat]), at, int(flat)))
    for cost, at, flat in sorted(offers)[: WALKS * most]:
        if len(found) == most or cost >= NEVER:
            break
        other = _walk(onsets, ahead, behind, (at, divmod(flat, COUNT)))
        if other is not None and all(_apart(other, each) >= apart for each in found):
            found.append(other)
    return found


def _apart(one: Found, other: Found) -> int:
    """At how many notes two lines differ."""
    return sum(a != b for a, b in zip(one.path, other.path, strict=True))


def _few(onsets: list[Onset]) -> list[Found]:
    """Lines of one or two notes."""
    intervals = interval_prices()
    if not onsets:
        return []
    if len(onsets) == 1:
        row = [Found((n,), float(cost)) for n, cost in enumerate(onsets[0].own)]
    else:
        pair = onsets[0].own[:, None] + onsets[0].onward + intervals + onsets[1].own[None, :]
        row = [Found((a, b), float(pair[a, b])) for a in range(COUNT) for b in range(COUNT)]
    return sorted((each for each in row if each.cost < NEVER), key=lambda each: each.cost)


def _pair(onsets: list[Onset], at: int) -> Floats64:
    """The price of going from onset `at` to the next one and of that one's own note."""
    return np.asarray(onsets[at].onward + interval_prices() + onsets[at + 1].own[None, :], np.float64)


def _ahead(onsets: list[Onset]) -> list[Floats64]:
    """For every onset but the last, the cheapest line up to each pair of its pitch and the next one's."""
    turns = turn_prices()
    rows = [onsets[0].own[:, None] + _pair(onsets, 0)]
    for at in range(1, len(onsets) - 1):
        rows.append((rows[-1][:, :, None] + turns).min(0) + _pair(onsets, at))
    return rows


def _behind(onsets: list[Onset]) -> list[Floats64]:
    """For every onset but the last, the cheapest way on from each pair, the pair itself left out."""
    turns = turn_prices()
    rows = [np.zeros((COUNT, COUNT))]
    for at in range(len(onsets) - 2, 0, -1):
        rows.append((turns + (_pair(onsets, at) + rows[-1])[None, :, :]).min(2))
    return rows[::-1]


def _walk(
    onsets: list[Onset], ahead: list[Floats64], behind: list[Floats64], fixed: tuple[int, tuple[int, int]] | None
) -> Found | None:
    """The cheapest line, or the cheapest through a pair of pitches at an onset."""
    turns = turn_prices()
    if fixed is None:
        at, pair = 0, divmod(int((ahead[0] + behind[0]).argmin()), COUNT)
    else:
        at, pair = fixed
    cost = float(ahead[at][pair] + behind[at][pair])
    if cost >= NEVER:
        return None
    path = [pair[0], pair[1]]
    for n in range(at + 1, len(onsets) - 1):
        path.append(int((turns[path[-2], path[-1]] + _pair(onsets, n)[path[-1]] + behind[n][path[-1]]).argmin()))
    for n in range(at - 1, -1, -1):
        path.insert(0, int((ahead[n][:, path[0]] + turns[:, path[0], path[1]]).argmin()))
    return Found(tuple(path), cost)


def cost_of(onsets: list[Onset], path: tuple[int, ...]) -> float:
    """What a line costs, note by note; for comparing."""
    total = sum(float(onsets[n].own[p]) for n, p in enumerate(path))
    intervals, turns = interval_prices(), turn_prices()
    for n in range(len(path) - 1):
        total += float(onsets[n].onward[path[n], path[n + 1]] + intervals[path[n], path[n + 1]])
    for n in range(len(path) - 2):
        total += float(turns[path[n], path[n + 1], path[n + 2]])
    return total
