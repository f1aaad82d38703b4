"""The song ribbon as plain geometry: cells in proportion to their beats, joints as tall as their hinge is stiff."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.ui.paint.notes import voicing_text

HEAD = 18.0
EVERY, APART = 4, 40.0  # bars between numbers, and pixels at least
LEAST_NAMED = 8.0  # pixels of a cell that may have room for a name
TALLEST = 14.0  # semitones that fill a joint's mark


class RibbonCell(msgspec.Struct, frozen=True):
    """One chord on the ribbon; `joint` is the height 0..1 of the mark on its right edge."""

    x: float
    width: float
    text: str
    joint: float
    at: Address  # where it is written


class RibbonScene(msgspec.Struct, frozen=True):
    """Cells of every voicing, (x, width, name) of the sections, the same of the patterns that hold, where the song has
    more than the usual one, and (x, number) of every fourth bar of a section that has room.
    """

    cells: tuple[RibbonCell, ...]
    sections: tuple[tuple[float, float, str], ...]
    patterns: tuple[tuple[float, float, str], ...] = ()
    bars: tuple[tuple[float, str], ...] = ()

    def cell_at(self, x: float) -> int:
        """The cell under a horizontal place, the nearest at the ends."""
        for index, cell in enumerate(self.cells):
            if x < cell.x + cell.width:
                return index
        return max(0, len(self.cells) - 1)


def pattern_runs(cells: tuple[RibbonCell, ...], names: list[str]) -> tuple[tuple[float, float, str], ...]:
    """(x, width, name) of every run of chords in one pattern; `names` has one for each cell."""
    found: list[tuple[float, float, str]] = []
    for cell, name in zip(cells, names, strict=True):
        if found and found[-1][2] == name:
            found[-1] = (found[-1][0], cell.x + cell.width - found[-1][0], name)
        else:
            found.append((cell.x, cell.width, name))
    return tuple(found)


def _cell(solution: Solution, index: int, scale: float) -> RibbonCell:
    voicing = solution.voicings[index]
    moment = voicing.here
    motion = solution.hinges[index].motion if index < len(solution.hinges) else 0
    x, wide = float(moment.start) * scale, float(moment.beats) * scale
    text = voicing_text(voicing) if wide >= LEAST_NAMED else ""
    return RibbonCell(x, wide, text, min(1.0, motion / TALLEST), moment.address)


def ribbon_scene(solution: Solution, song: Song, width: float, names: list[str] | None = None) -> RibbonScene:
    """The whole song within `width` pixels; `names` of the pattern that each chord is played in, if they are shown."""
    total = sum(float(moment.beats) for moment in solution.moments) or 1.0
    scale, sections = width / total, []
    cells = [_cell(solution, index, scale) for index in range(len(solution.voicings))]
    bars: list[tuple[float, str]] = []
    begun = -1
    for moment in solution.moments:
        x, wide = float(moment.start) * scale, float(moment.beats) * scale
        if moment.section != begun:
            sections.append((x, wide, song.sections[moment.section].name))
            begun = moment.section
        else:
            left, sofar, name = sections[-1]
            sections[-1] = (left, sofar + wide, name)
        if moment.slot == 0 and moment.bar % EVERY == 0 and moment.bar and (not bars or x - bars[-1][0] >= APART):
            bars.append((x, str(bar_number(song, moment.origin, moment.bar))))
    runs = pattern_runs(tuple(cells), names) if names else ()
    return RibbonScene(tuple(cells), tuple(sections), runs, tuple(bars))
