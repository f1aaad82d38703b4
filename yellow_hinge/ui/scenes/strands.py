"""The strand map as plain geometry: columns of plates, strands between them, in pixels."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.song import Song
from yellow_hinge.core.writing import write_number, write_symbol
from yellow_hinge.ui.scenes.notes import Mark, marks, number_text, signed

PLATE_W, PLATE_H = 28.0, 17.0
COLUMN_W = 104.0
KEYS_W = 44.0
HEAD_H, FOOT_H = 76.0, 44.0


class Plate(msgspec.Struct, frozen=True):
    """A note on the map: the centre of its plate. `moved` says that it came here by moving."""

    x: float
    y: float
    mark: Mark


class Strand(msgspec.Struct, frozen=True):
    """The way of one note between two columns. `kind`: held, moves, enters or leaves; `weight` 2 for the top line and
    the bass; `label` the semitones.
    """

    x1: float
    y1: float
    x2: float
    y2: float
    kind: str
    hand: str
    weight: int
    label: str
    label_x: float


class Column(msgspec.Struct, frozen=True):
    """One chord: its left edge, names, cue, tune, plates, and the figure of the hinge to its right ("" at the end)."""

    x: float
    symbol: str
    number: str
    cue: str
    tune: str
    section: str
    plates: tuple[Plate, ...]
    kept: bool
    warning: str
    hinge: str
    stiff: bool


class StrandScene(msgspec.Struct, frozen=True):
    """The whole map. `low`..`high` MIDI numbers shown, `step` pixels a semitone."""

    columns: tuple[Column, ...]
    strands: tuple[Strand, ...]
    low: int
    high: int
    step: float
    width: float
    height: float

    def y_of(self, midi: float) -> float:
        """Vertical centre of a pitch."""
        return HEAD_H + (self.high - midi + 0.5) * self.step

    def column_at(self, x: float) -> int:
        """The column under a horizontal place, the nearest at the ends."""
        return min(max(int((x - KEYS_W) // COLUMN_W), 0), max(0, len(self.columns) - 1))


STIFF = 9  # semitones from which a hinge is called stiff


def _shifted(found: tuple[Mark, ...], step: float) -> list[tuple[Mark, float]]:
    """Marks with a sideways shift where a neighbour's plate would cover them, as seconds stand on a staff."""
    placed: list[tuple[Mark, float]] = []
    for mark in sorted(found, key=lambda m: m.midi):
        close = placed and (mark.midi - placed[-1][0].midi) * step < PLATE_H + 1
        placed.append((mark, PLATE_W * 0.92 if close and not placed[-1][1] else 0.0))
    return placed


def strand_scene(
    solution: Solution, song: Song, kept: frozenset[int], height: float, simple: bool = False
) -> StrandScene:
    """The map of a solution for a widget `height` pixels tall. `kept` are indices of kept chords."""
    sounding = [note for v in solution.voicings for note in (*v.left, *v.right)] or [48, 72]
    low, high = min(sounding) - 2, max(sounding) + 2
    step = max(6.0, (height - HEAD_H - FOOT_H) / (high - low + 1))
    total = HEAD_H + FOOT_H + step * (high - low + 1)
    blank = StrandScene((), (), low, high, step, KEYS_W, total)
    columns, places, section = [], [], -1
    for index, voicing in enumerate(solution.voicings):
        x = KEYS_W + index * COLUMN_W
        moment = solution.moments[voicing.moment]
        plates = [
            Plate(x + PLATE_W / 2 + 8 + shift, blank.y_of(mark.midi), mark)
            for mark, shift in _shifted(marks(voicing, simple), step)
        ]
        places.append({(plate.mark.hand, plate.mark.midi): plate for plate in plates})
        hinge = solution.hinges[index] if index < len(solution.hinges) else None
        columns.append(
            Column(
                x,
                pretty_signs(write_symbol(voicing.chord)),
                number_text(write_number(voicing.chord, moment.key)),
                moment.cue,
                " ".join(pretty_signs(str(tone.pitch.note)) for tone in moment.tune),
                song.sections[moment.section].name if moment.section != section else "",
                tuple(plates),
                index in kept,
                "; ".join(voicing.warnings),
                str(hinge.motion) if hinge else "",
                hinge is not None and hinge.motion >= STIFF,
            )
        )
        section = moment.section
    width = KEYS_W + COLUMN_W * len(columns) + 16
    strands = _strands(solution, places, [column.x for column in columns])
    return StrandScene(tuple(columns), strands, low, high, step, width, total)


def _strands(solution: Solution, places: list[dict[tuple[str, int], Plate]], lefts: list[float]) -> tuple[Strand, ...]:
    found = []
    for index, hinge in enumerate(solution.hinges[: len(places) - 1]):
        old, new = solution.voicings[index], solution.voicings[index + 1]
        ends = {(v, "left"): v.left[:1] for v in (old, new)} | {(v, "right"): v.right[-1:] for v in (old, new)}
        for move in hinge.steps:
            outer = (move.old,) == ends[old, move.hand] or (move.new,) == ends[new, move.hand]
            start = places[index].get((move.hand, move.old)) if move.old is not None else None
            end = places[index + 1].get((move.hand, move.new)) if move.new is not None else None
            kind = "held" if move.holds else "moves" if start and end else "leaves" if start else "enters"
            x1 = start.x + PLATE_W / 2 if start else lefts[index + 1] - 18
            x2 = end.x - PLATE_W / 2 if end else (start.x + PLATE_W / 2 + 16 if start else 0.0)
            y1, y2 = (start or end).y, (end or start).y  # type: ignore[union-attr]
            if kind == "enters" and end:
                x1 = end.x - PLATE_W / 2 - 16
            label = signed(move.semitones) if kind == "moves" else ""
            label_x = lefts[index + 1] - 6  # clear of the plates, where the lines of neighbouring fingers lie apart
            found.append(Strand(x1, y1, x2, y2, kind, move.hand, 2 if outer else 1, label, label_x))
    return tuple(found)
