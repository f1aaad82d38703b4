"""One bar of both hands as it is struck, as plain geometry: the map's plates and pitches, with time across."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.performing import BarLine, Performance, Struck
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.covering import names
from yellow_hinge.core.rhythm.pattern.fitting import Timed
from yellow_hinge.core.rhythm.pattern.patterns import SOFTER
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.rhythm.striking import Played
from yellow_hinge.ui.paint.notes import chord_text
from yellow_hinge.ui.playing.bar_scene import (
    HEAD_H,
    LANE_H,
    PEDAL_H,
    PLATE_H,
    PLATE_W,
    BarHead,
    BarScene,
    Count,
    Flag,
    StruckPlate,
)

KEYS_W, EDGE = 44.0, 22.0
LEAST_STEP, MOST_STEP = 1.5, 17.0
LEAST_TALL = 13.0  # of a plate, so that its name can be read
ROOM = 2  # semitones above the highest and below the lowest key
LOUD = 67  # a stroke as loud as most
# What a stroke names, as its lane says it.
WORDS = {
    "all": "all", "low": "lowest", "top": "highest", "2": "second", "3": "third", "4": "fourth", "2?": "second",
    "3?": "third", "4?": "fourth", "second": "next to top", "rest": "above the lowest", "in": "below the top",
    "pair": "lowest two", "guides": "guide tones", "alt": "other bass", "up": "broken up", "down": "broken down",
    "arc": "up and down", "+walk": "walk", "+approach": "lead-in", "+fifth": "fifth", "+six": "with sixth",
    "+step": "step up", "+below": "from below", "+sus": "suspended", "+grace": "grace note", "": "the rest",
}  # fmt: skip
# Twelfths of a beat after its count, as they are said.
PARTS_SAID = {3: "a quarter", 4: "a third", 6: "a half", 8: "two thirds", 9: "three quarters"}
NOTHING = "none"  # the hand has no such note


def bar_scene(performance: Performance, selected: int, width: float, height: float) -> BarScene | None:
    """The bar in which chord `selected` begins, in a widget of that size; None where there is none."""
    if not 0 <= selected < len(performance.starts):
        return None
    bar = performance.bar_at(performance.starts[selected])
    if bar is None:
        return None
    inside = [s for s in performance.struck if s.part in ("left", "right") and s.onset < bar.end and s.end > bar.start]
    keys = [s.midi for s in inside] or [48, 72]
    low, high = min(keys) - ROOM, max(keys) + ROOM
    foot = 2 * LANE_H + PEDAL_H + 8
    room = max(1.0, height - HEAD_H - foot)
    step = min(MOST_STEP, max(LEAST_STEP, room / (high - low + 1)))
    top = HEAD_H + max(0.0, (room - step * (high - low + 1)) / 2)
    left = KEYS_W + EDGE
    scale = (width - left - EDGE) / (bar.end - bar.start)
    lanes = {"right": height - foot + 4, "left": height - foot + 4 + LANE_H}
    frame = BarScene(
        (), (), _counts(bar, left, scale), (), (), low, high, step, top, lanes, height - PEDAL_H / 2 - 2, bar, left,
        scale, width, height,
    )  # fmt: skip
    return msgspec.structs.replace(
        frame,
        plates=_plates(frame, performance, inside),
        flags=_flags(frame, performance),
        heads=_heads(frame, performance),
        pedals=_pedals(frame, performance),
    )


def spoken(scene: BarScene, names: dict[int, str]) -> str:
    """The bar as it is struck, in words: at each count, or so far after one, what each hand strikes. `names` are what
    the keys are called, by MIDI number.
    """
    beat = ticks(scene.bar.meter.beat_quarters)
    times: dict[int, dict[str, list[int]]] = {}
    for plate in scene.plates:
        tick = round((plate.x - scene.left) / scene.scale) + scene.bar.missing
        times.setdefault(tick, {}).setdefault(plate.hand, []).append(plate.midi)
    said = []
    for tick, hands in sorted(times.items()):
        count, rest = divmod(tick, beat)
        part = round(12 * rest / beat)
        after = f" and {PARTS_SAID.get(part, f'{part} twelfths')}" if part else ""
        keys = (f"{hand} {' '.join(names.get(m, '') for m in sorted(midis))}" for hand, midis in sorted(hands.items()))
        said.append(f"{count + 1}{after}: {', '.join(keys)}")
    chords = ", ".join(head.text for head in scene.heads)
    return f"{chords}. {'; '.join(said)}" if said else f"{chords}. Nothing is struck"


def _counts(bar: BarLine, left: float, scale: float) -> tuple[Count, ...]:
    """The counts, with the halves or thirds between them; halves late where it swings."""
    beat = ticks(bar.meter.beat_quarters)
    parts = 3 if bar.meter.compound else 2
    found = []
    first = bar.missing
    for n in range(0, (bar.end - bar.start + first) // beat + 1):
        for part in range(parts):
            tick = swung(n * beat + part * beat // parts, bar.meter, bar.swing) - first
            if 0 <= tick < bar.end - bar.start:
                found.append(Count(left + tick * scale, str(n + 1) if part == 0 else ""))
    return tuple(found)


def _plates(frame: BarScene, performance: Performance, inside: list[Struck]) -> tuple[StruckPlate, ...]:
    """What is struck in the bar, out of what sounds `inside` it."""
    found: list[StruckPlate] = []
    bar, downs = frame.bar, [down for down, _ in performance.pedals]
    last: dict[int, tuple[int, bool]] = {}  # of every onset the key below, and whether it stands aside
    for s in inside:
        if s.onset < bar.start:
            continue
        below, was_aside = last.get(s.onset, (-99, False))
        aside = (s.midi - below) * frame.step < LEAST_TALL and not was_aside  # as seconds stand on a staff
        last[s.onset] = (s.midi, aside)
        end = min(s.end, bar.end)
        ring = performance.sounding_end(s, downs)
        louder = max(-1.0, min(1.0, (s.velocity - LOUD) / 24))
        found.append(
            StruckPlate(
                frame.x_of(s.onset) + (PLATE_W * 0.92 if aside else 0.0),
                frame.y_of(s.midi),
                frame.x_of(end),
                frame.x_of(min(max(ring, end), bar.end)),
                PLATE_H * (1 + 0.22 * louder),
                s.part,
                s.midi,
                s.place,
                str(s.finger or ""),
                s.added,
            )
        )
    return tuple(found)


def _flags(frame: BarScene, performance: Performance) -> tuple[Flag, ...]:
    """The strokes of the patterns, as the lanes show them."""
    found = []
    for here in performance.row:
        if here.start >= frame.bar.end or here.start + here.length <= frame.bar.start:
            continue
        for hand in frame.lanes:
            for index, hit in enumerate(here.hits[hand]):
                start = here.start + hit.at
                signs = ">" * (hit.louder > 0) + "·" * (hit.louder <= SOFTER) + "‹" * hit.early
                x, end = frame.x_of(start), frame.x_of(start + hit.length)
                what = "all" if hit.early else hit.what  # what comes early strikes the next hand whole
                words = f"{WORDS[what]}{signs}" if _strikes(here, hand, hit) else NOTHING
                y = frame.lanes[here.hand_of(hand)]
                found.append(Flag(x, max(8.0, end - x - 2), y, words, hand, here.place, index))
    return tuple(found)


def _strikes(here: Played, hand: str, hit: Timed) -> bool:
    """Whether a stroke strikes a key: an opening hand of two notes has no third."""
    return hit.early or (hand == "right" and bool(here.tones)) or bool(names(hit, hand, here.chordal)) or hit.added


def _heads(frame: BarScene, performance: Performance) -> tuple[BarHead, ...]:
    found = []
    for here in performance.row:
        if frame.bar.start <= here.start < frame.bar.end:
            names = [here.patterns[hand].name for hand in ("right", "left")]
            pattern = names[0] if names[0] == names[1] else f"{names[0]} / {names[1]}"
            text = pretty_signs(chord_text(here.chordal.chord))
            found.append(BarHead(frame.x_of(here.start), here.length * frame.scale, text, pattern, here.place))
    return tuple(found)


def _pedals(frame: BarScene, performance: Performance) -> tuple[tuple[float, float], ...]:
    bar = frame.bar
    spans = ((max(down, bar.start), min(up, bar.end)) for down, up in performance.pedals)
    return tuple((frame.x_of(down), frame.x_of(up)) for down, up in spans if down < up)
