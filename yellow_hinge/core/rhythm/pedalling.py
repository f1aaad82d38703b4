"""The pedal: when it is down under what the hands strike."""

from __future__ import annotations

import itertools

from yellow_hinge.core.rhythm.holding import Stroke
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.rhythm.striking import Played

LOW_BLUR = 52  # E3: below it two notes a step apart blur under one pedal
LATE_MS = 110  # after a new bass, so that the old one does not ring on; at most a third of the span


def pedal_spans(row: list[Played], strokes: list[Stroke]) -> tuple[tuple[int, int], ...]:
    """When the pedal is down: with each chord, or with each stroke of the bass; lifted where low notes would blur, and
    where something that a pattern adds is over.
    """
    by_place: dict[int, list[Stroke]] = {}
    for stroke in strokes:
        by_place.setdefault(stroke.place, []).append(stroke)
    found: list[tuple[int, int]] = []
    for here, after in itertools.zip_longest(row, row[1:]):
        kind = here.patterns["left"].pedal
        if kind == "none":
            continue
        end = here.start + here.length
        end = min(end, after.began) if after is not None else end
        cuts = [*_cuts(here, by_place.get(here.place, []), kind == "bass", end), end]
        found += [span for span in itertools.pairwise(cuts) if span[0] < span[1]]
    return tuple(found)


def _blurs(midi: int, low: set[int]) -> bool:
    return midi < LOW_BLUR and any(0 < abs(midi - other) <= 2 for other in low)


def _cuts(here: Played, strokes: list[Stroke], by_bass: bool, end: int) -> list[int]:
    """Where the pedal changes over a chord, its beginning first."""
    cuts, low = [here.began], set[int]()
    for stroke in sorted(strokes, key=lambda s: (s.onset, s.midi)):
        onset = max(stroke.onset, here.began)
        new_bass = by_bass and here.chordal.left and stroke.midi <= here.chordal.left[0]
        if (new_bass or _blurs(stroke.midi, low)) and onset > cuts[-1]:
            cuts.append(onset)
            low = set()
        if stroke.midi < LOW_BLUR:
            low.add(stroke.midi)
    over = {stroke.end for stroke in strokes if stroke.added and here.began < stroke.end < end}
    return sorted({*cuts, *over})


def late(start: int, end: int, micros: int) -> int:
    """Where the pedal really goes down in a span that begins at a tick, at so many microseconds a quarter note."""
    return start + min(round(LATE_MS * 1000 * TICK / micros), (end - start) // 3)
