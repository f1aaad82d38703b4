"""The strand map as plain geometry: columns of plates, strands between them, in pixels."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache, partial
from typing import NamedTuple

import msgspec

from yellow_hinge.core.fingering import Fingered
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.lines import WIDE_MOVE
from yellow_hinge.core.leading.prices.hinge import Both, Hinge
from yellow_hinge.core.leading.prices.remarks import Remark
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.fills.notes import Added
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import number_text, write_number
from yellow_hinge.ui.paint.lazily import Lazy
from yellow_hinge.ui.paint.notes import PlateMark, chord_marks, step_label, voicing_text

PLATE_W, PLATE_H = 28.0, 17.0
COLUMN_W = 104.0
LEAST_W, MOST_W = 0.1, 156.0  # of a column, where the whole song is seen at once
NARROWEST = 4.0  # of a column otherwise
ROOMY_W = 72.0  # narrower columns leave out names of plates and figures of strands
KEYS_W = 44.0
HEAD_H, FOOT_H = 76.0, 44.0
LEAST_STEP = 4.4  # pixels a semitone; below that the map scrolls
EDGE = 16.0  # space after the last column
STIFF = 9  # semitones from which a hinge is called stiff


HINGE_TOP, HINGE_W, HINGE_H = 54.0, 28.0, 17.0  # of a hinge's figure


class Plate(msgspec.Struct, frozen=True):
    """A note on the map: the centre of its plate."""

    x: float
    y: float
    mark: PlateMark


class Strand(msgspec.Struct, frozen=True):
    """The way of one note between two columns. `kind` as that of its step; `weight` 2 for the top line and the bass;
    `label` the semitones, or the fingers that change on its key.
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
    wide: bool = False


BESIDE = "beside"  # beside the kept parts: the last edit changed it though nobody touched it
ONCE = "once"  # beside the kept parts: it is kept for one pass alone
RESTS = "rests"  # beside the kept parts: something the player kept waits for its chord to come back


class Column(msgspec.Struct, frozen=True):
    """One chord: its left edge, names, cue, tune, plates, what of it is kept (with RESTS and BESIDE), what is remarked,
    and the figure of the hinge to its right ("" at the end).
    """

    x: float
    symbol: str
    number: str
    cue: str
    tune: str
    section: str
    plates: tuple[Plate, ...]
    kept: frozenset[str]
    remarks: tuple[Remark, ...]
    hinge: str
    stiff: bool
    clash: bool = False  # the tune does not fit
    bar: str = ""  # the number of the bar that begins here


class Between(NamedTuple):
    """A note of a fill on the map: its centre, its hand, and the order in which it comes."""

    x: float
    y: float
    hand: str
    number: int


def fills_between(grid: Grid, notes: Mapping[int, tuple[Added, ...]]) -> tuple[Between, ...]:
    """The notes of fills, by the index of the chord over which they sound, set out in the right half of its column."""
    found = []
    for place, added in sorted(notes.items()):
        row = sorted(added)
        for number, note in enumerate(row):
            x = grid.x_of(place) + grid.column_w * (0.56 + 0.36 * (number + 0.5) / len(row))
            found.append(Between(x, grid.y_of(note.midi), note.hand, number + 1))
    return tuple(found)


class Grid(NamedTuple):
    """Where pitches and chords lie: `high` the highest MIDI number shown, `step` pixels a semitone, `column_w` pixels a
    chord; `roomy` whether plates and strands have room for their text.
    """

    high: int
    step: float
    column_w: float
    plate_w: float
    plate_h: float
    roomy: bool

    def x_of(self, index: int) -> float:
        """The left edge of a chord's column."""
        return KEYS_W + index * self.column_w

    def y_of(self, midi: float) -> float:
        """Vertical centre of a pitch."""
        return HEAD_H + (self.high - midi + 0.5) * self.step


class StrandScene(msgspec.Struct, frozen=True):
    """The whole map on its grid, from the MIDI number `low` up; `hinges[i]` are the strands that leave chord i. Columns
    and strands are made where they are looked at.
    """

    columns: Sequence[Column]
    hinges: Lazy[list[Strand]]
    grid: Grid
    low: int
    width: float
    height: float

    @property
    def high(self) -> int:
        """The highest MIDI number shown."""
        return self.grid.high

    @property
    def step(self) -> float:
        """Pixels a semitone."""
        return self.grid.step

    @property
    def column_w(self) -> float:
        """Pixels a chord."""
        return self.grid.column_w

    @property
    def plate_w(self) -> float:
        """Width of a plate."""
        return self.grid.plate_w

    @property
    def plate_h(self) -> float:
        """Height of a plate."""
        return self.grid.plate_h

    @property
    def roomy(self) -> bool:
        """Whether plates and strands have room for their text."""
        return self.grid.roomy

    def between(self, first: int, last: int) -> tuple[Strand, ...]:
        """The strands that leave chords `first` to `last`."""
        return tuple(strand for hinge in self.hinges[first : last + 1] for strand in hinge)

    def y_of(self, midi: float) -> float:
        """Vertical centre of a pitch."""
        return self.grid.y_of(midi)

    def column_at(self, x: float) -> int:
        """The column under a horizontal place, the nearest at the ends."""
        return min(max(int((x - KEYS_W) // self.column_w), 0), max(0, len(self.columns) - 1))

    def hinge_at(self, x: float, y: float) -> int | None:
        """The chord whose hinge's figure lies at a point of the map with room for it."""
        if not self.roomy or not HINGE_TOP <= y <= HINGE_TOP + HINGE_H:
            return None
        index = self.column_at(x - HINGE_W / 2)
        column = self.columns[index]
        near = abs(x - (column.x + self.column_w - 2)) <= HINGE_W / 2
        return index if near and column.hinge else None

    def thing_at(self, x: float, y: float) -> tuple[str, int, Plate | None]:
        """What lies at a point, a "note", "hinge" or "chord", which chord it is of, and the note."""
        found = self.plate_at(x, y) if self.roomy else None
        if found is not None:
            return "note", *found
        hinge = self.hinge_at(x, y)
        return ("chord", self.column_at(x), None) if hinge is None else ("hinge", hinge, None)

    def words_at(self, x: float, y: float) -> tuple[str, int, tuple[float, float, float, float]] | None:
        """What is written at a point ("section", "symbol" or "cue"), of which chord, and where (x, y, w, h)."""
        if not self.columns or not self.roomy or self.hinge_at(x, y) is not None:
            return None
        index = self.column_at(x)
        column, wide = self.columns[index], self.column_w - 10
        if y < 16:
            begun = max((n for n, each in enumerate(self.columns[: index + 1]) if each.section), default=index)
            return "section", begun, (self.columns[begun].x + 4, 0.0, 140.0, 20.0)
        if y < 40:
            return "symbol", index, (column.x + 4, 14.0, max(wide, 110.0), 26.0)
        if y >= self.height - FOOT_H + 18:
            return "cue", index, (column.x + 4, self.height - FOOT_H + 16, max(wide, 160.0), 22.0)
        return None

    def plate_at(self, x: float, y: float) -> tuple[int, Plate] | None:
        """The column and plate under a point."""
        if not self.columns:
            return None
        for index in {self.column_at(x), self.column_at(x - PLATE_W)}:
            for plate in self.columns[index].plates:
                if abs(plate.x - x) <= self.plate_w / 2 + 1 and abs(plate.y - y) <= self.plate_h / 2 + 1:
                    return index, plate
        return None


def changed_columns(old: StrandScene, new: StrandScene) -> tuple[int, int] | None:
    """The first and the last column that are painted otherwise than before on the same grid, None for none. Columns and
    strands are kept from one scene to the next, so that it is enough to ask whether they are the same, where they were
    made at all.
    """
    count = max(len(old.columns), len(new.columns))
    common = min(len(old.columns), len(new.columns))
    seen = sorted(old.columns.made) if isinstance(old.columns, Lazy) else range(len(old.columns))
    other = [i for i in seen if i < common and (old.columns[i] is not new.columns[i] or not _same_strands(old, new, i))]
    if common < count:
        return (min([common, *other]), count - 1)
    return (other[0], other[-1]) if other else None


def _same_strands(old: StrandScene, new: StrandScene, index: int) -> bool:
    before, after = old.between(index, index), new.between(index, index)
    return len(before) == len(after) and all(a is b for a, b in zip(before, after, strict=True))


def width_for(count: int, width: float) -> float:
    """The column width at which `count` chords fill a map `width` pixels wide."""
    return min(COLUMN_W, max(LEAST_W, (width - KEYS_W - EDGE) / max(1, count)))


def _shifted(found: tuple[PlateMark, ...], step: float, plate_h: float) -> list[tuple[PlateMark, bool]]:
    """Marks, and whether each stands aside where a neighbour's plate would cover it, as seconds stand on a staff."""
    placed: list[tuple[PlateMark, bool]] = []
    for mark in sorted(found, key=lambda m: m.midi):
        close = bool(placed) and (mark.midi - placed[-1][0].midi) * step < plate_h + 1
        placed.append((mark, close and not placed[-1][1]))
    return placed


@lru_cache(maxsize=4096)
def _plates(
    grid: Grid, index: int, chord: Chord, both: Both, simple: bool, fingers: Fingered | None = None
) -> tuple[Plate, ...]:
    middle = grid.x_of(index) + grid.plate_w / 2 + (8 if grid.roomy else 2)
    return tuple(
        Plate(middle + (grid.plate_w * 0.92 if aside else 0.0), grid.y_of(mark.midi), mark)
        for mark, aside in _shifted(chord_marks(chord, both, simple, fingers), grid.step, grid.plate_h)
    )


def tried_plates(scene: StrandScene, solution: Solution, index: int, both: Both, simple: bool) -> tuple[Plate, ...]:
    """The plates of chord `index` played as `both`."""
    fingers = solution.fingers_for(index, both)
    return _plates(scene.grid, index, solution.voicings[index].chord, both, simple, fingers)


def strand_scene(
    solution: Solution,
    song: Song,
    kept: Callable[[int], frozenset[str]],
    height: float,
    simple: bool = False,
    column_w: float = COLUMN_W,
    span: tuple[int, int] | None = None,
    least_step: float = LEAST_STEP,
) -> StrandScene:
    """The map of a solution for a widget `height` pixels tall. `kept` says of every chord which parts are kept, `span`
    the MIDI numbers to show where another map has to fit beside it, `least_step` how flat it may be pressed.
    """
    low, high = span or sounding_span(solution)
    step = max(least_step, (height - HEAD_H - FOOT_H) / (high - low + 1))
    total = HEAD_H + FOOT_H + step * (high - low + 1)
    width = KEYS_W + column_w * len(solution.voicings) + EDGE
    roomy = column_w >= ROOMY_W
    plate = (PLATE_W, PLATE_H) if roomy else (max(3.0, min(14.0, column_w * 0.45)), 8.0)
    grid = Grid(high, step, column_w, *plate, roomy)
    columns = Lazy(len(solution.voicings), partial(_column_of, grid, solution, song, kept, simple))
    hinges = Lazy(max(0, min(len(solution.hinges), len(columns) - 1)), partial(_strands_of, grid, solution))
    return StrandScene(columns, hinges, grid, low, width, total)


def sounding_span(*solutions: Solution) -> tuple[int, int]:
    """The MIDI numbers that a map of some solutions has to show."""
    notes = [note for one in solutions for v in one.voicings for note in (*v.left, *v.right)] or [48, 72]
    return min(notes) - 2, max(notes) + 2


def _column_of(
    grid: Grid, solution: Solution, song: Song, kept: Callable[[int], frozenset[str]], simple: bool, index: int
) -> Column:
    voicing, moment = solution.voicings[index], solution.voicings[index].here
    tune = tuple(str(tone.pitch.note) for tone in moment.tune) if moment.tune else ()
    begins = index == 0 or solution.voicings[index - 1].here.section != moment.section
    head = song.sections[moment.section].name if begins else ""
    motion = solution.hinges[index].motion if index < len(solution.hinges) else -1
    bar = str(bar_number(song, moment.origin, moment.bar)) if moment.beat == 1 or head else ""
    return _column(grid, index, voicing, moment.key, moment.cue, tune, head, kept(index), motion, simple, bar)


@lru_cache(maxsize=2048)
def _column(
    grid: Grid, index: int, voicing: Voicing, key: Key, cue: str, tune: tuple[str, ...], section: str,
    kept: frozenset[str], motion: int, simple: bool, bar: str,
) -> Column:  # fmt: skip
    """One chord's column; `motion` is -1 where no hinge follows. Cached: an edit leaves most columns alone."""
    return Column(
        grid.x_of(index),
        voicing_text(voicing),
        number_text(write_number(voicing.chord, key)),
        cue,
        " ".join(map(pretty_signs, tune)),
        section,
        _plates(grid, index, voicing.chord, voicing.both, simple, voicing.fingers),
        kept,
        voicing.remarks,
        str(motion) if motion >= 0 else "",
        motion >= STIFF,
        bar=bar,
    )


def _strands_of(grid: Grid, solution: Solution, index: int) -> list[Strand]:
    return _between(grid, index, *solution.voicings[index : index + 2], solution.hinges[index])


def _outer(both: Both) -> set[tuple[str, int | None]]:
    return {*(("left", note) for note in both.left[:1]), *(("right", note) for note in both.right[-1:])}


@lru_cache(maxsize=2048)
def _between(grid: Grid, index: int, old: Voicing, new: Voicing, hinge: Hinge) -> list[Strand]:
    found = []
    half, stub = grid.plate_w / 2, 16.0 if grid.roomy else 3.0
    before, after = _outer(old.both), _outer(new.both)
    starts, goals = (
        {(p.mark.hand, p.mark.midi): p for p in _plates(grid, index + by, v.chord, v.both, False, v.fingers)}
        for by, v in ((0, old), (1, new))
    )
    for move in hinge.steps:
        outer = (move.hand, move.old) in before or (move.hand, move.new) in after
        start = starts.get((move.hand, move.old)) if move.old is not None else None
        end = goals.get((move.hand, move.new)) if move.new is not None else None
        either = start or end
        assert either is not None
        x1 = start.x + half if start else either.x - half - stub
        x2 = end.x - half if end else either.x + half + stub
        y1, y2 = (start or either).y, (end or either).y
        label = step_label(move) if grid.roomy else ""
        label_x = grid.x_of(index + 1) - 6  # clear of the plates, where the lines of neighbouring fingers lie apart
        wide = abs(move.semitones) >= WIDE_MOVE
        found.append(Strand(x1, y1, x2, y2, move.kind, move.hand, 2 if outer else 1, label, label_x, wide))
    return found
