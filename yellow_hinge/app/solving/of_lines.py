"""What the right hand can play over a part of the song, found beside the interface."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.lines.lines import Line, lines_over, over
from yellow_hinge.core.lines.onsets import Asked, Over
from yellow_hinge.core.own.lines import OWN_LINES, LineFit, line_fits

MOST = 6  # lines that are looked at one after the other
APART = 3  # notes at which each is another than those before it: one note alone is dragged sooner than looked for


class FoundLines(NamedTuple):
    """What was found over the chords `first` to `last` of a solution; `fault` says why there is no line."""

    number: int
    solution: Solution
    first: int
    last: int
    asked: Asked
    chords: tuple[Over, ...]
    lines: tuple[Line, ...]
    fault: str
    mine: tuple[LineFit, ...] = ()  # of the player's own, wherever they fit


def found_lines(number: int, solution: Solution, first: int, last: int, asked: Asked) -> FoundLines:
    """What there is to play over some chords of a solution now."""
    part = solution.voicings[first : last + 1]
    moments = [voicing.here for voicing in part]
    tops = [voicing.left[-1] if voicing.left else 0 for voicing in part]
    chords = over(moments, asked.rail, tops, asked.within)
    try:
        found, fault = lines_over(chords, tops, asked, MOST, APART), ""
    except UserError as error:
        found, fault = (), str(error)
    mine = line_fits(OWN_LINES.values(), moments, tops)
    return FoundLines(number, solution, first, last, asked, chords, found, fault, mine)


class LineFinder(Newest[FoundLines]):
    """Finds lines."""

    def ask(self, solution: Solution, first: int, last: int, asked: Asked) -> int:
        """Put a part of a solution to the worker; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundLines:
            return found_lines(number, solution, first, last, asked)

        return self.put(work)
