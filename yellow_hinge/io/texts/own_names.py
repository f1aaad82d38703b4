"""Chords above words in the names of their country or in the numbers of a key: set in letters before they are read."""

from __future__ import annotations

import re
from collections.abc import Callable

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.texts.names import GERMAN, LATIN, Names, names_of
from yellow_hinge.io.texts.over_words import FIELD, TOKEN, is_row, is_sign, number_of

_MOST_LINES = 2000


def _words(line: str) -> list[re.Match[str]]:
    return [match for match in TOKEN.finditer(line) if not is_sign(match[0])]


def _is_row_of(line: str, names: Names) -> bool:
    words = [match[0] for match in _words(line)]
    return bool(words) and all(word[:1].isupper() and names.read(word) for word in words)


def in_our_names(text: str) -> tuple[str, list[str]]:
    """The text with its rows of chords in the letters that are read here, each over the same words, and what has to be
    said of that.
    """
    lines = text.split("\n")
    head = lines[:_MOST_LINES]
    for kind in (LATIN, GERMAN):
        names = Names(kind)
        rows = [n for n, line in enumerate(head) if _is_row_of(line, names)]
        if rows and names_of(match[0] for n in rows for match in _words(lines[n])).kind == kind:
            return _with_rows(lines, rows, names.ours), names.said
    key = _key_of(lines)
    rows = [n for n, line in enumerate(head) if _is_numbers(line)]
    if rows and (key is not None or not any(map(is_row, head))):
        own = key or parse_key("C")
        return _with_rows(lines, rows, lambda word: _lettered(word, own)), [f"the numbers were read in {own}"]
    return text, []


def _with_rows(lines: list[str], rows: list[int], ours: Callable[[str], str]) -> str:
    for n in rows:
        lines[n] = _replaced(lines[n], ours)
    return "\n".join(lines)


def _key_of(lines: list[str]) -> Key | None:
    for line in lines[:40]:
        field = FIELD.match(line)
        if field and field[1].lower() == "key":
            try:
                return parse_key(field[2].strip())
            except UserError:
                return None
    return None


def _is_numbers(line: str) -> bool:
    """Whether a line is chords in numbers, and no counting in."""
    words = [match[0] for match in _words(line)]
    counted = [str(n) for n in range(1, len(words) + 1)]
    return len(words) > 1 and words != counted and all(map(number_of, words))


def _lettered(word: str, key: Key) -> str:
    try:
        return write_symbol(parse_symbol(word, key))
    except UserError:
        return word


def _replaced(line: str, ours: Callable[[str], str]) -> str:
    """A row with other words in the same places, as far as there is room."""
    made, at = "", 0
    for match in _words(line):
        between = line[at : match.start()]
        late = len(made) - at  # columns by which what was written is longer than it was
        made += between[late:] or between[:1] if late > 0 else between.rjust(match.start() - len(made))
        made += ours(match[0])
        at = match.end()
    return made + line[at:]
