"""Words under rows of chords with bar lines: written as chart text, row by row as it stands, so that repeats, endings,
signs and mistakes are read and named as in any chart. No row is left out.
"""

from __future__ import annotations

import re
from typing import NamedTuple

from yellow_hinge.core.chart.bar_lines import Endings, LinePart, dotted, line_times
from yellow_hinge.core.chart.faults import ChartFault
from yellow_hinge.core.song.road import signs_in
from yellow_hinge.core.song.words import cue_escaped, name_escaped, plain
from yellow_hinge.io.texts.over_words import (
    FIELD,
    chords_of,
    cut_words,
    has_bars,
    heading,
    is_chord_or_sign,
    is_drawn,
    is_row,
    sung,
    times_of,
)

_NO_CHORD = re.compile(r"/|%|\(\s*\d+\s*/\s*\d+\s*\)|[-–—~*.,]+")
_HEADERS = {"title": "title", "key": "key", "tempo": "tempo", "bpm": "tempo"}


class Written(NamedTuple):
    """Chart text, the line of the source (from 1) that each of its lines comes from, and what has to be said."""

    text: str
    origins: tuple[int, ...]
    report: tuple[str, ...]

    def in_source(self, faults: tuple[ChartFault, ...]) -> tuple[ChartFault, ...]:
        """The faults of the text, with the lines of its source."""
        last = len(self.origins)
        return tuple(fault._replace(line=self.origins[min(fault.line, last) - 1]) for fault in faults)


class _Writer:
    def __init__(self, lines: list[str]) -> None:
        self.lines = lines
        self.head: list[tuple[str, int]] = []
        self.body: list[tuple[str, int]] = []
        self.report: list[str] = []

    def write(self) -> None:
        number = 0
        while number < len(self.lines):
            line = self.lines[number]
            below = self.lines[number + 1] if number + 1 < len(self.lines) else ""
            if is_row(line):
                words = below if sung(below) else ""
                self.row(line, words, number + 1)
                number += 2 if words else 1
                continue
            self.other(line, number + 1)
            number += 1

    def row(self, line: str, words: str, number: int) -> None:
        """A row of chords with the words under it. One without bar lines has a bar for every chord."""
        if has_bars(line):
            self.body.append((line, number))
            cells = _cells(line, words)
        else:
            chords = [(column, word) for column, word in chords_of(line) if not _NO_CHORD.fullmatch(word)]
            times = times_of(chords[-1][1]) if chords else 1
            chords = chords[:-1] if times > 1 else chords
            self.body.append((f"| {' | '.join(w for _, w in chords)} |" + (f" x{times}" if times > 1 else ""), number))
            cells = [cue_escaped(cue) for cue in cut_words(words, [column for column, _ in chords])]
        if any(cells):
            self.body.append((f"cue: | {' | '.join(cells)} |", number + 1))
        elif words.strip():
            self._without_chords(words, number + 1)

    def _without_chords(self, words: str, number: int) -> None:
        self.report.append(f"line {number}: words without chords were left out: {words.strip()[:40]!r}")

    def other(self, line: str, number: int) -> None:
        """A line that is no row: a heading, a field, the title, or words that have no chords."""
        found, field = heading(line), FIELD.match(line)
        if not line.strip() or is_drawn(line):
            return
        if found:
            beside = found[3] if is_row(found[3]) or has_bars(found[3]) else ""
            more = "" if beside or not found[3] else f" {found[3]}"
            name = plain((found[1] or found[2].title()) + more)
            self.body.append((f"[{name_escaped(name)}]", number))
            if beside:
                self.row(" " * (len(line) - len(line.rstrip()) + line.rstrip().rfind(beside)) + beside, "", number)
        elif field:
            name, value = field[1].lower(), plain(field[2])
            self.head.append((f"{_HEADERS[name]}: {value}" if name in _HEADERS else f"also: {name} = {value}", number))
        elif not self.body and not any(text.startswith("title:") for text, _ in self.head):
            self.head.append((f"title: {plain(line)}", number))
        else:
            self._without_chords(line, number)


def _pieces(row: str) -> list[LinePart]:
    """The bars of a row, without what is a sign alone."""
    found = Endings().pieces(line_times(dotted(row))[0])
    return [piece for piece in found if signs_in(piece.text)[1].strip()]


def _cells(row: str, words: str) -> list[str]:
    """The words under a row, bar by bar as a cue line has them."""
    bars = []
    for piece in _pieces(row):
        tokens = re.finditer(r"\S+", signs_in(piece.text)[1])
        bars.append([piece.column + token.start() for token in tokens if not _NO_CHORD.fullmatch(token[0])])
    cues = iter(cut_words(words, [column for bar in bars for column in bar]))
    return [" / ".join(cue_escaped(next(cues)) for _ in bar).rstrip(" /") for bar in bars]


def written_as_chart(text: str) -> Written:
    """Chords above words as chart text."""
    writer = _Writer(text.expandtabs(8).splitlines())
    writer.write()
    rows = [*writer.head, *writer.body]
    said = ("bars are where the bar lines stand; a row without any has a bar for every chord", *writer.report)
    return Written("\n".join(row for row, _ in rows) + "\n", tuple(number for _, number in rows) or (1,), said)


def needs_chart(text: str) -> bool:
    """Whether a text of chords above words has rows that say more than chords: endings, signs, meters, numbers, or
    something that is not understood.
    """
    rows = (line for line in text.expandtabs(8).splitlines() if is_row(line))
    return any(has_bars(line) and not _all_understood(line) for line in rows)


def _all_understood(line: str) -> bool:
    """Whether a row holds chords and plain bar lines alone."""
    return bool(chords_of(line)) and all(is_chord_or_sign(word) for _, word in chords_of(line))
