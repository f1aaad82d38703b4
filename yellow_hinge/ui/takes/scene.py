"""Takes under each other on one grid of beats, as plain geometry."""

from __future__ import annotations

import msgspec

from yellow_hinge.app.solving.of_takes import TakeRow
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.paint.notes import voicing_text

NAME_W, EDGE, HEAD_H = 168.0, 14.0, 20.0
ROW_H, GAP = 96.0, 6.0
CHORD_H = 18.0  # over the plates of a row
PLATE_W, PLATE_H = 9.0, 5.0
LEAST_BEAT = 7.0  # pixels
WORKING = "its hands are looked for…"


class TakeChord(msgspec.Struct, frozen=True):
    """A chord of a take: its left edge and width, its name, whether the take above plays it otherwise."""

    x: float
    width: float
    text: str
    differs: bool


class TakeScene(msgspec.Struct, frozen=True):
    """A take: its top, name and figures, chords, plates (x, y, hand) and strands (x1, y1, x2, y2, moves)."""

    id: int
    y: float
    height: float
    name: str
    words: tuple[str, ...]
    chords: tuple[TakeChord, ...]
    plates: tuple[tuple[float, float, str], ...]
    strands: tuple[tuple[float, float, float, float, bool], ...]


class TakesScene(msgspec.Struct, frozen=True):
    """All takes, and the sections over them: (x, name); `lines` are bar lines."""

    takes: tuple[TakeScene, ...]
    sections: tuple[tuple[float, str], ...]
    lines: tuple[float, ...]
    width: float
    height: float

    def take_at(self, y: float) -> int:
        """The index of the take under a height, -1 for none."""
        inside = (i for i, take in enumerate(self.takes) if take.y <= y < take.y + take.height)
        return next(inside, -1)

    def chord_at(self, x: float, y: float) -> int:
        """The index of the chord under a point in its take, -1 for none."""
        index = self.take_at(y)
        chords = self.takes[index].chords if index >= 0 else ()
        return next((i for i, chord in enumerate(chords) if chord.x <= x < chord.x + chord.width), -1)


def spoken(scene: TakesScene) -> str:
    """The takes in words: their figures, and the chords that are otherwise than above."""
    said = []
    for number, take in enumerate(scene.takes, 1):
        others = [chord.text for chord in take.chords if chord.differs]
        more = f"; otherwise than above: {', '.join(others)}" if number > 1 and others else ""
        said.append(f"{number} {take.name}: {'; '.join(take.words)}{more}")
    return ". ".join(said)


def figure_words(row: TakeRow, first: bool = False) -> tuple[str, ...]:
    """What a take is like, in a few short lines; `first`: none stands above it."""
    if row.figures is None:
        return (row.fault[:60] or WORKING,)
    f = row.figures
    changed = f"{f.changed} chord{'s' if f.changed > 1 else ''} otherwise" if f.changed else ""
    if not (first or changed or row.differs or row.apart):
        changed = "the same as above"
    return tuple(
        filter(
            None,
            (
                pretty_signs(row.apart),
                f"{semitones(f.motion)}, largest {f.largest_move}",
                f"stiffest {f.stiffest}, {f.colours} colours",
                f"widest {f.stretch_mm:g} mm",
                changed,
            ),
        )
    )


def takes_scene(rows: tuple[TakeRow, ...], song: Song, width: float, height: float) -> TakesScene:
    """Takes in a widget `width` pixels wide; rows share `height` where it is enough for all of them."""
    longest = max((_beats(row.solution) for row in rows if row.solution), default=1.0)
    scale = max(LEAST_BEAT, (width - NAME_W - EDGE) / max(1.0, longest))
    notes = [n for row in rows if row.solution for v in row.solution.voicings for n in (*v.left, *v.right)] or [48, 72]
    low, high = min(notes) - 1, max(notes) + 1
    count = max(1, len(rows))
    tall = min(ROW_H * 2.2, max(ROW_H, (height - HEAD_H) / count - GAP))
    takes = tuple(_take(row, HEAD_H + n * (tall + GAP), tall, scale, low, high) for n, row in enumerate(rows))
    first = next((row.solution for row in rows if row.solution), None)
    total = HEAD_H + count * (tall + GAP)
    return TakesScene(
        takes, _sections(first, song, scale), _lines(first, scale), NAME_W + longest * scale + EDGE, total
    )


def _beats(solution: Solution) -> float:
    last = solution.moments[-1] if solution.moments else None
    return float(last.start + last.beats) if last is not None else 1.0


def _sections(solution: Solution | None, song: Song, scale: float) -> tuple[tuple[float, str], ...]:
    found: list[tuple[float, str]] = []
    before = None
    for moment in solution.moments if solution else ():
        if moment.pass_id != before and moment.section < len(song.sections):
            name = song.sections[moment.section].name
            repeat = f" {moment.turn + 1}" if moment.turn else ""
            if not found or found[-1][1] != f"{name}{repeat}" or moment.section != getattr(before, "section", None):
                found.append((NAME_W + float(moment.start) * scale, f"{name}{repeat}"))
        before = moment.pass_id
    return tuple(found)


def _lines(solution: Solution | None, scale: float) -> tuple[float, ...]:
    moments = solution.moments if solution else ()
    return tuple(NAME_W + float(moment.start) * scale for moment in moments if moment.beat == 1)


def _take(row: TakeRow, y: float, tall: float, scale: float, low: int, high: int) -> TakeScene:
    if row.solution is None:
        return TakeScene(row.id, y, tall, row.name, figure_words(row), (), (), ())
    step = (tall - CHORD_H - 8) / (high - low + 1)
    solution = row.solution
    chords, plates, centres = [], [], []
    for index, voicing in enumerate(solution.voicings):
        moment = voicing.here
        x, wide = NAME_W + float(moment.start) * scale, float(moment.beats) * scale
        text = pretty_signs(voicing_text(voicing))
        chords.append(TakeChord(x, wide, text, index in row.differs))
        middle = x + min(wide / 2, PLATE_W)
        centres.append(middle)
        for hand in ("left", "right"):
            plates += [(middle, y + CHORD_H + (high - n + 0.5) * step, hand) for n in voicing.both.of(hand)]
    strands = []
    for index, hinge in enumerate(solution.hinges[: len(centres) - 1]):
        for move in hinge.steps:
            if move.old is not None and move.new is not None:
                y1, y2 = (y + CHORD_H + (high - n + 0.5) * step for n in (move.old, move.new))
                ends = centres[index] + PLATE_W / 2, centres[index + 1] - PLATE_W / 2
                strands.append((ends[0], y1, ends[1], y2, move.old != move.new))
    return TakeScene(
        row.id, y, tall, row.name, figure_words(row, y <= HEAD_H), tuple(chords), tuple(plates), tuple(strands)
    )
