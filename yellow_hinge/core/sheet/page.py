"""Pages as plain geometry: texts, boxes and outlines in millimetres from the upper left corner."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path

import msgspec

MM_PER_POINT = 25.4 / 72
LINE = 1.21  # height of a line of text, in its size
ROLES = ("ink", "muted", "left", "right", "line", "white", "black", "on_hand", "brass")


class Text(msgspec.Struct, frozen=True):
    """Words inside a box of `w` x `h` mm, `size` in points; `align` is "left", "centre" or "right"; `role` its colour
    out of ROLES. `slot` is the chord that it tells of, -1 for none.
    """

    x: float
    y: float
    w: float
    h: float
    words: str
    size: float
    role: str = "ink"
    bold: bool = False
    align: str = "left"
    slot: int = -1


class Box(msgspec.Struct, frozen=True):
    """A filled shape: "box", or "round" for an ellipse; with `edge` a hair line of another role around it."""

    x: float
    y: float
    w: float
    h: float
    role: str
    shape: str = "box"
    edge: str = ""


class Outline(msgspec.Struct, frozen=True):
    """A filled or drawn outline. `path` is a row of (command, numbers): "M" and "L" a point, "C" three points, "Z" to
    close, in mm; with `pen` (mm) it is drawn, else filled.
    """

    path: tuple[tuple[str, tuple[float, ...]], ...]
    role: str = "ink"
    pen: float = 0.0


class ClickArea(msgspec.Struct, frozen=True):
    """Where a chord (its place in the solution), or one of its notes (MIDI), lies on a page, for a click to find it."""

    x: float
    y: float
    w: float
    h: float
    voicing: int
    midi: int = -1


class Page(msgspec.Struct, frozen=True):
    """One page of `w` x `h` mm."""

    w: float
    h: float
    texts: tuple[Text, ...] = ()
    boxes: tuple[Box, ...] = ()
    outlines: tuple[Outline, ...] = ()
    areas: tuple[ClickArea, ...] = ()


@lru_cache(maxsize=1)
def _widths() -> dict[str, dict[str, int]]:
    found: dict[str, dict[str, int]] = json.loads((Path(__file__).parent / "widths.json").read_text())
    return found


@lru_cache(maxsize=16384)
def text_width(words: str, size: float, bold: bool = False) -> float:
    """Width of some words in mm, in the shipped text font without kerning; a character that it lacks counts an em."""
    table = _widths()["bold" if bold else "regular"]
    return sum(table.get(sign, 1000) for sign in words) / 1000 * size * MM_PER_POINT


def line_height(size: float) -> float:
    """Height of a line of text in mm."""
    return size * LINE * MM_PER_POINT


def fitted(words: str, size: float, room: float, bold: bool = False) -> float:
    """The size in points, `size` at most, at which some words are no wider than `room` mm."""
    wide = text_width(words, size, bold)
    return size if wide <= room or wide == 0 else size * room / wide * 0.999


def wrapped(words: str, size: float, room: float, bold: bool = False, most: int = 12) -> list[str]:
    """Words in lines no wider than `room` mm; a word that is too long is broken, and what `most` lines do not hold ends
    in "…".
    """
    lines: list[str] = []
    line = ""
    for word in words.split():
        trial = f"{line} {word}" if line else word
        if text_width(trial, size, bold) <= room:
            line = trial
            continue
        if line:
            lines.append(line)
        pieces = _broken(word, size, room, bold)
        lines += pieces[:-1]
        line = pieces[-1]
    lines += [line] if line else []
    if len(lines) > most:
        lines = [*lines[: most - 1], _ended(lines[most - 1], size, room, bold)]
    return lines


def _broken(word: str, size: float, room: float, bold: bool) -> list[str]:
    pieces, piece = [], ""
    for sign in word:
        if piece and text_width(piece + sign, size, bold) > room:
            pieces.append(piece)
            piece = ""
        piece += sign
    return [*pieces, piece]


def _ended(line: str, size: float, room: float, bold: bool) -> str:
    while line and text_width(line + "…", size, bold) > room:
        line = line[:-1]
    return line + "…"
