"""A rail and a line over it as plain geometry: time across, pitch upward, chords in proportion to their beats."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.lines.onsets import Over
from yellow_hinge.core.lines.rails import HIGH, LOW
from yellow_hinge.core.pitch.pitch import degree_pc, pretty_signs
from yellow_hinge.ui.paint.notes import chord_text

EDGE, HEAD_H, FOOT_H = 16.0, 46.0, 26.0
LEAST_QUARTER = 44.0  # pixels
PLATE_W, PLATE_H = 30.0, 16.0
DOT = 5.0


class RailPlate(msgspec.Struct, frozen=True):
    """A note to land on: its place, what it says, and whether the rail goes through it."""

    x: float
    y: float
    text: str
    on: bool


class RailStrand(msgspec.Struct, frozen=True):
    """The rail from one landing note to the next, and by how many semitones."""

    x1: float
    y1: float
    x2: float
    y2: float
    by: int


class LineDot(msgspec.Struct, frozen=True):
    """A note of the line: its place, where it ends, its degree, and why it is there."""

    x: float
    end: float
    y: float
    degree: str
    why: str
    lands: bool


class LineHead(msgspec.Struct, frozen=True):
    """A chord over its stretch of time: its name, its scale, and whether it begins a bar."""

    x: float
    width: float
    text: str
    scale: str
    bar: bool


class LineScene(msgspec.Struct, frozen=True):
    """All of it."""

    heads: tuple[LineHead, ...]
    plates: tuple[RailPlate, ...]
    strands: tuple[RailStrand, ...]
    dots: tuple[LineDot, ...]
    width: float
    height: float
    step: float
    high: int = HIGH  # the pitch at the top

    def chord_at(self, x: float) -> int:
        """The chord under a horizontal place, -1 for none."""
        return next((n for n, head in enumerate(self.heads) if head.x <= x < head.x + head.width), -1)

    def dot_at(self, x: float, y: float) -> int:
        """The note of the line at a point, -1 for none."""
        near = ((abs(dot.x - x) + abs(dot.y - y), n) for n, dot in enumerate(self.dots))
        far, found = min(near, default=(2 * DOT + 1, -1))
        return found if far <= 2 * DOT else -1

    def midi_at(self, y: float) -> int:
        """The pitch at a height."""
        return min(HIGH, max(LOW, round(self.high - (y - HEAD_H) / self.step + 0.5)))


def _landings(over: Over) -> list[tuple[int, str]]:
    """Where a chord's line can land: (MIDI number, degree), the rail's own last."""
    assert over.moment.chord is not None
    root, rail = over.moment.chord.root.pc, over.landed
    found = [
        (midi, degree)
        for degree in over.land_on[:3]
        for midi in range(LOW, HIGH + 1)
        if (midi - root - degree_pc(degree)) % 12 == 0 and midi != rail.midi
    ]
    return [*found, (rail.midi, rail.degree)]


def line_scene(chords: tuple[Over, ...], line: Line | None, room: float, height: float) -> LineScene | None:
    """The chords of a part with their landing notes, and a line, in `room` pixels or what they need; None for none."""
    if not chords:
        return None
    first = chords[0].moment.quarter
    last = chords[-1].moment
    total = float(last.quarter + last.quarters - first)
    scale = max(LEAST_QUARTER, (room - 2 * EDGE) / total)
    notes = line.notes if line is not None else ()
    midis = [note.midi for note in notes]  # one's own line may lie outside
    low, high = min([LOW, *midis]), max([HIGH, *midis])
    step = max(6.0, (height - HEAD_H - FOOT_H) / (high - low + 1))

    def x_of(quarter: object) -> float:
        return EDGE + float(quarter - first) * scale  # type: ignore[operator]

    def y_of(midi: int) -> float:
        return HEAD_H + (high - midi + 0.5) * step

    heads, strands, plates = list[LineHead](), list[RailStrand](), list[RailPlate]()
    for at, each in enumerate(chords):
        moment, chord = each.moment, each.moment.chord
        assert chord is not None
        x = x_of(moment.quarter)
        wide, name = float(moment.quarters) * scale, pretty_signs(chord_text(chord))
        heads.append(LineHead(x, wide, name, each.scales[0].name, moment.beat == 1))
        plates += [
            RailPlate(x + PLATE_W / 2, y_of(midi), pretty_signs(degree), midi == each.landed.midi)
            for midi, degree in _landings(each)
        ]
        if at + 1 < len(chords):
            after = chords[at + 1]
            strands.append(RailStrand(
                x + PLATE_W, y_of(each.landed.midi), x_of(after.moment.quarter), y_of(after.landed.midi),
                after.landed.midi - each.landed.midi,
            ))  # fmt: skip
    dots = tuple(
        LineDot(
            x_of(note.onset) + PLATE_W / 2, x_of(note.onset + note.quarters) + PLATE_W / 2, y_of(note.midi),
            pretty_signs(note.degree), note.why, note.why == "landing",
        )
        for note in notes
    )  # fmt: skip
    width, tall = 2 * EDGE + total * scale + PLATE_W, HEAD_H + FOOT_H + step * (high - low + 1)
    return LineScene(tuple(heads), tuple(plates), tuple(strands), dots, width, tall, step, high)
