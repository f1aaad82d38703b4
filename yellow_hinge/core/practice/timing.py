"""Judging a rhythm: which key was struck for which stroke, how early or late, how long, what was left out."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from itertools import pairwise
from statistics import fmean, median
from typing import NamedTuple

ON_TIME = 0.050  # seconds: so near is on time
OFF = 0.25  # of a stroke's length: so much longer or shorter is too long or too short
LEAST_OFF = 0.060  # seconds: less is not heard of a short stroke's end
WINDOW = 0.35  # seconds: what is struck farther from a stroke is not for it
ALONE = 0.4  # seconds between two strokes of a key from which it is clear which one a press is for
FEW = 3  # strokes by which a player's lateness is known
SKIP = 1.0  # seconds that leaving out a stroke, or a press, weighs: whoever rushes leaves nothing out
SURE = 0.5  # share of what is uneven that a line must say before a player is told to rush or drag
WHOLE = 0.9  # of the strokes that are right, from which a pass is


class WantedStroke(NamedTuple):
    """A key that is to be struck: whose, MIDI, when and how long, in seconds from the beginning of the pass."""

    hand: str
    midi: int
    at: float
    length: float


class PlayedKey(NamedTuple):
    """A key that was struck: when, and when its sound ended, with the key or with the pedal that held it."""

    midi: int
    at: float
    end: float
    up: float  # when the key itself was let go


class JudgedStroke(NamedTuple):
    """What came of a stroke: seconds late (early below 0), None where it was left out, and seconds held too long (too
    short below 0), 0 where that is as it should be.
    """

    wanted: WantedStroke
    late: float | None
    over: float = 0.0

    @property
    def right(self) -> bool:
        """Whether it was struck in time."""
        return self.late is not None and abs(self.late) <= ON_TIME


def _costs(wanted: Sequence[float], played: Sequence[float]) -> list[list[float]]:
    """What pairing the first i strokes with the first j presses costs (len(wanted) + 1, len(played) + 1)."""
    cost = [[SKIP * (i + j) for j in range(len(played) + 1)] for i in range(len(wanted) + 1)]
    for i, at in enumerate(wanted, 1):
        for j, press in enumerate(played, 1):
            apart = abs(at - press)
            both = cost[i - 1][j - 1] + apart if apart <= WINDOW else math.inf
            cost[i][j] = min(both, cost[i - 1][j] + SKIP, cost[i][j - 1] + SKIP)
    return cost


def _paired(wanted: Sequence[float], played: Sequence[float], lean: float) -> list[tuple[int, int]]:
    """Which of some strokes of one key each press is for, in order, so that the fewest are left out and the rest lie
    nearest to `lean` seconds late. All are ascending seconds.
    """
    wanted = [at + lean for at in wanted]
    cost = _costs(wanted, played)
    found, i, j = [], len(wanted), len(played)
    while i and j:
        apart = abs(wanted[i - 1] - played[j - 1])
        if apart <= WINDOW and math.isclose(cost[i][j], cost[i - 1][j - 1] + apart):
            found.append((i - 1, j - 1))
            i, j = i - 1, j - 1
        elif math.isclose(cost[i][j], cost[i - 1][j] + SKIP):
            i -= 1
        else:
            j -= 1
    return found[::-1]


def _over(wanted: WantedStroke, played: PlayedKey) -> float:
    """Seconds that a key was held too long, or below 0 too short; what the pedal holds on is not too short."""
    off = max(LEAST_OFF, wanted.length * OFF)
    long, short = played.up - played.at - wanted.length, played.end - played.at - wanted.length
    return long if long > off else short if short < -off else 0.0


class Pass(NamedTuple):
    """What came of one time through: every stroke in order, and the keys that were struck for none."""

    strokes: tuple[JudgedStroke, ...]
    extra: tuple[PlayedKey, ...]

    def of(self, hand: str) -> Pass:
        """The strokes of one hand."""
        return Pass(tuple(each for each in self.strokes if each.wanted.hand == hand), ())

    @property
    def missing(self) -> tuple[JudgedStroke, ...]:
        """What was left out."""
        return tuple(each for each in self.strokes if each.late is None)

    @property
    def share(self) -> float:
        """The share of what was struck in time and as long as written, extra keys taken off."""
        good = sum(each.right and not each.over for each in self.strokes) - len(self.extra)
        return max(0.0, good / len(self.strokes)) if self.strokes else 1.0

    @property
    def whole(self) -> bool:
        """Whether it was right, but for a slip."""
        return self.share >= WHOLE


Own = tuple[list[int], list[int]]  # the strokes and the presses of one key, in order


def _found(
    wanted: Sequence[WantedStroke], played: Sequence[PlayedKey], keys: Sequence[Own], lean: float
) -> dict[int, int]:
    """The press that each stroke got."""
    return {
        strokes[i]: presses[j]
        for strokes, presses in keys
        for i, j in _paired([wanted[n].at for n in strokes], [played[n].at for n in presses], lean)
    }


def _lean(wanted: Sequence[WantedStroke], played: Sequence[PlayedKey], keys: Sequence[Own]) -> float:
    """How late a player is on the whole, by the strokes that no other of their key lies near: where a key is struck
    again and again, a player who is very late seems to be early for the next one.
    """
    alone = [
        own
        for own in keys
        if all(wanted[b].at - wanted[a].at > ALONE for a, b in pairwise(own[0])) and own[0] and own[1]
    ]
    late = [played[press].at - wanted[stroke].at for stroke, press in _found(wanted, played, alone, 0.0).items()]
    return median(late) if len(late) >= FEW else 0.0


def judged(wanted: Sequence[WantedStroke], played: Sequence[PlayedKey]) -> Pass:
    """What came of some strokes. Whoever strikes a key strikes it for both hands."""
    keys: dict[int, tuple[list[int], list[int]]] = defaultdict(lambda: ([], []))
    for n, each in enumerate(wanted):
        keys[each.midi][0].append(n)
    for n, press in enumerate(played):
        keys[press.midi][1].append(n)
    for strokes, presses in keys.values():
        strokes.sort(key=lambda n: wanted[n].at)
        presses.sort(key=lambda n: played[n].at)
    found = _found(wanted, played, [*keys.values()], _lean(wanted, played, [*keys.values()]))
    told = []
    for n, each in enumerate(wanted):
        own = played[found[n]] if n in found else None
        told.append(
            JudgedStroke(each, own.at - each.at, _over(each, own)) if own is not None else JudgedStroke(each, None)
        )
    used = set(found.values())
    extra = tuple(press for n, press in enumerate(played) if n not in used)
    return Pass(tuple(sorted(told, key=lambda each: (each.wanted.at, each.wanted.midi))), extra)


# --- in words ---


class Drift(NamedTuple):
    """How a hand lies against the beat: seconds late on average, how many more by the end than at the beginning, and
    the share of its unevenness (the variance) that this says.
    """

    late: float
    grows: float
    says: float = 0.0

    @property
    def steady(self) -> bool:
        """Whether it lies the same from beginning to end, as far as can be told."""
        return abs(self.grows) <= 2 * ON_TIME or self.says < SURE


def drift(strokes: Sequence[JudgedStroke]) -> Drift:
    """The straight line through the times of some strokes (least squares)."""
    spots = [(each.wanted.at, each.late) for each in strokes if each.late is not None]
    if not spots:
        return Drift(0.0, 0.0)
    x, y = fmean(at for at, _ in spots), fmean(late for _, late in spots)
    spread = sum((at - x) ** 2 for at, _ in spots)
    slope = sum((at - x) * (late - y) for at, late in spots) / spread if spread > 0 and len(spots) > 2 else 0.0
    uneven = sum((late - y) ** 2 for _, late in spots)
    says = slope * slope * spread / uneven if uneven > 0 else 0.0
    return Drift(y, slope * (spots[-1][0] - spots[0][0]), says)
