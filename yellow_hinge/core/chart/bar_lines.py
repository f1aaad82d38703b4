"""Bar lines of a chart: the bars and cells between them, and what they say of repeats and endings."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.song.road import signs_in
from yellow_hinge.core.song.words import masked

_LINE, _TIMES, _ENDING = (
    r"(?P<mark>\|:|:\||\|\|?)",
    r"(?:\s*x\s*(?P<times>\d{1,2}))?",
    r"(?P<ending>[1-9](?:\s?[,+]\s?[1-9])*)\.",
)
_BAR_LINE = re.compile(rf"{_LINE}{_TIMES}(?:\s*{_ENDING}(?!\d))?")
_CELL_LINE = re.compile(rf"{_LINE}{_TIMES}(?:{_ENDING})?")  # words may begin with "1."
# How often a whole line is played, after its last bar line: x2, (2x).
_LINE_TIMES = re.compile(r"(?<=\|)\s*\(?\s*(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\s*\)?\s*$")
_NUMBERED = re.compile(r"(?<=\|)([12])\s(?=\s*[A-G(])")  # |1 C :|2 F |: endings without their dots
_NUMBER_ROW = re.compile(r"\s*[b#]?[1-7][^\s|]*(?:\s+[b#]?[1-7][^\s|]*){2,}\s*")  # 6 2 5 1
_NEXT_CHORD = re.compile(" / ")


LONGEST_PLAIN = 400  # characters of a line that is remembered


class LinePart(NamedTuple):
    """The text between two bar lines with its 0-based column, and what the bar lines around it say."""

    text: str
    column: int
    opens: bool
    repeats: int
    ending: int


def number_row(line: str) -> str:
    """A row of numbers without bar lines as a bar each, a column later than they stand; "" for any other line."""
    if not _NUMBER_ROW.fullmatch(line):
        return ""
    bare = re.sub(r"\s+", lambda gap: "|" + " " * (len(gap[0]) - 1), line.strip())
    return f"{line[: len(line) - len(line.lstrip())]}|{bare}|"


def played_line(line: str) -> tuple[str, int]:
    """A chord line with the dots of its endings, without what is said of how often it is played, and that number."""
    return line_times(dotted(line))


def line_times(line: str) -> tuple[str, int]:
    """A chord line without what is said after its last bar line of how often it is played, and that number; 1 where
    nothing is said, or a repeat sign stands there: it is told then.
    """
    found = _LINE_TIMES.search(line)
    if found is None:
        return line, 1
    before, times = line[: found.start()], int(found[1] or found[2])
    return (f"{before}x{times}", 1) if before.endswith(":|") else (before, times)


def dotted(line: str) -> str:
    """A chord line, as long as before, with the dots of a first and a second ending that stand right at their bar
    lines without them.
    """
    endings = [found[1] for found in _NUMBERED.finditer(line)]
    return _NUMBERED.sub(r"\1.", line) if endings == ["1", "2"] and re.search(r":\|2\s", line) else line


def _ending(text: str) -> int:
    """The passes of an ending as one number: its digits in order."""
    return int("".join(sorted(set(re.findall(r"[1-9]", text)))) or 0)


class Endings:
    """Which ending bars belong to: one lasts until a repeat sign, a double bar line or the next ending."""

    def __init__(self) -> None:
        self.now = 0

    def pieces(self, line: str) -> Iterator[LinePart]:
        """The bars of a chord line."""
        at, opens, closed = 0, False, False
        for mark in [*_BAR_LINE.finditer(line), None]:
            end = mark.start() if mark else len(line)
            sign = mark["mark"] if mark else ""
            beside = closed or sign == "|:"  # between :| and |: there is no bar
            if line[at:end].strip() or (at > 0 and mark is not None and not beside):
                times = int((mark["times"] if mark else None) or 2) if sign == ":|" else 0
                yield LinePart(line[at:end], at, opens, times, self.now)
            if mark is None:
                return
            if sign in (":|", "||", "|:") or mark["ending"]:
                self.now = _ending(mark["ending"] or "")
            at, opens, closed = mark.end(), sign == "|:", sign == ":|"


@lru_cache(maxsize=1 << 14)
def plain_bars(line: str) -> tuple[LinePart, ...]:
    """The bars of a line that has nothing but chords between single bar lines, one before them; () for any other."""
    if len(line) > LONGEST_PLAIN or ":" in line or "||" in line or not line.lstrip().startswith("|"):
        return ()
    if signs_in(line)[0] or played_line(line) != (line, 1):
        return ()
    endings = Endings()
    found = tuple(endings.pieces(line))
    return () if endings.now else found


def cells(line: str, start: int) -> Iterator[tuple[str, int]]:
    """(text, column) between bar lines of a tune or cue line; a leading bar line opens no cell."""
    at = start
    for mark in [*_CELL_LINE.finditer(masked(line), start), None]:
        end = mark.start() if mark else len(line)
        if line[at:end].strip() or (mark is not None and line[start:at].strip()):
            yield line[at:end], at
        if mark is not None:
            at = mark.end()


def cue_parts(text: str) -> Iterator[str]:
    """The words of a bar for each of its chords."""
    at = 0
    for mark in _NEXT_CHORD.finditer(masked(text)):
        yield text[at : mark.start()]
        at = mark.end()
    yield text[at:]
