"""A simulated player: what hands would make of a performance, early and late, louder and softer, not in strict time."""

from __future__ import annotations

import math
import random

from yellow_hinge.core.hearing.strikes import Tone
from yellow_hinge.core.performing import Performance
from yellow_hinge.core.rhythm.pattern.patterns import TICK

HANDS = ("left", "right")
_SHORTEST, _WAVE = 0.05, 8.0  # seconds of a note at least; quarters of a wave of the tempo


def by_hand(
    performance: Performance,
    quarter: float,
    seed: int | str = 1,
    late: float = 0.015,
    drift: float = 0.02,
    loud: float = 0.15,
) -> list[tuple[Tone, bool]]:
    """Notes (seconds) with whether the left hand plays them, in order. `quarter` are its seconds; `late` the spread of
    onsets in seconds, `drift` and `loud` shares of tempo and velocity. The same seed plays the same.
    """
    chance = random.Random(seed)
    found = []
    for struck in performance.struck:
        if struck.part in HANDS:
            on = max(0.0, _second(struck.onset / TICK, quarter, drift) + chance.gauss(0, late))
            off = max(on + _SHORTEST, _second(struck.end / TICK, quarter, drift) + chance.gauss(0, late))
            velocity = max(20, min(127, int(struck.velocity * chance.uniform(1 - loud, 1 + loud))))
            found.append((Tone(on, off, struck.midi, velocity), struck.part == "left"))
    return sorted(found)


def _second(quarters: float, quarter: float, drift: float) -> float:
    """When a place of a song comes, in a tempo that goes on and holds back."""
    return quarter * (quarters + drift * _WAVE * (1 - math.cos(quarters / _WAVE)))
