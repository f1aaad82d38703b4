"""What of a performance is heard, in frames of audio: a stretch of it, some of its parts, at a tempo."""

from __future__ import annotations

import bisect
from collections.abc import Iterator, Mapping
from fractions import Fraction
from operator import attrgetter
from typing import NamedTuple

from yellow_hinge.core.performing import PARTS_A_SECOND, Clock, Performance, Struck
from yellow_hinge.core.rhythm.band import clicks
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.sound.instruments import RATE

HANDS = {"both": ("left", "right"), "left": ("left",), "right": ("right",)}
LOUDEST = 1.0
RUNNING = ("tune", "line")  # parts of which a note that sounds already is heard from where playing begins


class Note(NamedTuple):
    """A note in frames: where it starts, where it is let go, MIDI number, part, velocity and the part's level."""

    start: int
    end: int
    midi: int
    part: str
    velocity: int
    level: float = LOUDEST


class Score(NamedTuple):
    """Notes in order of their starts, the frames until the end, where it begins again (`back`, frames) if it loops, and
    where the solution's chords begin: (frame, index).
    """

    notes: tuple[Note, ...]
    length: int
    back: int | None = None
    places: tuple[tuple[int, int], ...] = ()

    def place_at(self, frame: int) -> int:
        """The chord that sounds at a frame, -1 for none."""
        found = -1
        for start, place in self.places:
            if start > frame:
                break
            found = place
        return found


def frame_of(clock: Clock, tick: int) -> int:
    """The frame in which a tick falls."""
    whole, rest = divmod(clock.parts(tick) * RATE, PARTS_A_SECOND)
    half = 2 * rest - PARTS_A_SECOND  # rounded as a fraction is: halves to the even one
    return whole + (half > 0 or (half == 0 and whole % 2))


class Span(NamedTuple):
    """A stretch of a performance in ticks."""

    first: int
    last: int


def score(
    performance: Performance, span: Span, levels: Mapping[str, float], loop: bool = False, count_in: bool = False
) -> Score:
    """The parts that have a level, from the first tick of a stretch to its last; with `loop` again and again. What was
    struck for its first chord before it sounds from its start; `count_in` has a bar of clicks before.
    """
    clock = performance.clock
    begin = frame_of(clock, span.first)
    before = _count_in(performance, span.first) if count_in else []
    lead = before[-1].end if before else 0
    first_place = performance.place_at(span.first)
    notes = list(before)
    downs = [down for down, _ in performance.pedals]
    for struck in _sounding(performance, span, first_place):
        level = levels.get(struck.part, 0.0)
        if level > 0:
            start = max(frame_of(clock, struck.onset), begin) - begin + lead
            end = frame_of(clock, min(performance.sounding_end(struck, downs), span.last)) - begin + lead
            if end > start:
                notes.append(Note(start, end, performance.sounding(struck), struck.part, struck.velocity, level))
    length = frame_of(clock, span.last) - begin + lead
    places = tuple(
        (max(0, frame_of(clock, performance.starts[place]) - begin) + lead, place)
        for place in range(first_place, bisect.bisect_left(performance.starts, span.last))
    )
    return Score(tuple(sorted(notes)), length, lead if loop else None, places)


def _sounding(performance: Performance, span: Span, first_place: int) -> Iterator[Struck]:
    """What is struck within a stretch; before that, notes of the tune and of lines that still sound, and what was
    struck for the first chord.
    """
    onset = attrgetter("onset")
    first, last = (bisect.bisect_left(performance.struck, tick, key=onset) for tick in span)
    for struck in performance.struck[:first]:
        if struck.onset + struck.length > span.first and (struck.part in RUNNING or struck.place == first_place):
            yield struck
    yield from performance.struck[first:last]


def _count_in(performance: Performance, first: int) -> list[Note]:
    """A bar of clicks as the one that begins at a tick is counted, as fast."""
    bar = performance.bar_at(first)
    if bar is None:
        return []
    whole = ticks(Fraction(bar.meter.beats) * bar.meter.beat_quarters)
    a_tick = performance.clock.at(first)
    frames = [
        round(Fraction(beat.at * a_tick, ticks(Fraction(1)) * 1_000_000) * RATE) for beat in clicks(bar.meter, whole)
    ]
    close = round(Fraction(whole * a_tick, ticks(Fraction(1)) * 1_000_000) * RATE)
    beats = clicks(bar.meter, whole)
    ends = (*frames[1:], close)
    return [
        Note(start, end, beat.midi, "click", beat.velocity)
        for start, end, beat in zip(frames, ends, beats, strict=True)
    ]
