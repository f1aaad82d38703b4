"""How a pattern feels, by what it strikes: what a player looks for before the name."""

from __future__ import annotations

from collections.abc import Callable
from types import MappingProxyType

from yellow_hinge.core.rhythm.pattern.patterns import Pattern

CALM, BUSY = 0.5, 1.5  # strokes of the busier hand a beat: at most, at least


def density(pattern: Pattern) -> float:
    """Strokes of the busier hand a beat, in the pattern's full form; a broken hand strikes its notes in eighths."""
    beats = float(pattern.beats) or 4.0
    counts = []
    for hand in ("left", "right"):
        hits = pattern.main.hits(hand)
        counts.append(sum(beats if hit.what in ("up", "down", "arc") else 1.0 for hit in hits) / beats)
    return max(counts)


FEELS: MappingProxyType[str, Callable[[Pattern], bool]] = MappingProxyType({
    "calm": lambda pattern: density(pattern) <= CALM,
    "busy": lambda pattern: density(pattern) >= BUSY,
    "broken": lambda pattern: pattern.breaks,
    "straight": lambda pattern: not pattern.swing,
    "swung": lambda pattern: pattern.swing,
})  # fmt: skip
