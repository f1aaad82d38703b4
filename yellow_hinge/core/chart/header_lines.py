"""Changing one header of a chart's text, without writing or reading the rest of it anew."""

from __future__ import annotations

import re

from yellow_hinge.core.chart.headers import ALSO_CALLED
from yellow_hinge.core.chart.text import ChartReading

_LINE = re.compile(r"(\s*)([A-Za-z]+)(\s*:(?!\|)\s*)(.*?)(\s*)$")


def _names(line: str, name: str) -> re.Match[str] | None:
    """The parts of a line that is a header of a name, by whatever word it is called."""
    found = _LINE.match(line)
    word = found[2].lower() if found else ""
    return found if found and ALSO_CALLED.get(word, word) == name else None


def with_header(text: str, name: str, value: str) -> str:
    """The text with a header's value changed; a header that is not there goes to the top, below a title on line 1."""
    lines, there = text.split("\n"), False
    for at, line in enumerate(lines):
        found = _names(line, name)
        if found:
            lines[at], there = f"{found[1]}{found[2]}{found[3]}{value}{found[5]}", True
    if not there:
        lines.insert(1 if _names(lines[0], "title") else 0, f"{name}: {value}")
    return "\n".join(lines)


def moved_down(reading: ChartReading, lines: int) -> ChartReading:
    """A reading whose chords stand so many lines further down."""
    if not lines:
        return reading
    places = {address: (line + lines, column, length) for address, (line, column, length) in reading.places.items()}
    return reading._replace(places=places)
