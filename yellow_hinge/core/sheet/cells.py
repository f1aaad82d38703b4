"""One chord of a sheet as a block: symbol and number, the keys of both hands, a little keyboard, words."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.content import Cell, Key
from yellow_hinge.core.sheet.drawing import Drawing, draw_keyboard, whites
from yellow_hinge.core.sheet.page import ClickArea, fitted, line_height, text_width, wrapped

POINTS = {"s": 7.0, "m": 8.5, "l": 11.5, "stage": 16.0}
GAP = 1.6  # mm between the parts of a cell
RESTS, FILL, MEMO = "–", "→", "» "


class CellStyle(NamedTuple):
    """Sizes in points that follow from the size chosen, the width of a cell inside in mm, whether its hands stand side
    by side, and the stretch of keys drawn.
    """

    ask: SheetAsk
    width: float
    beside: bool
    span: tuple[int, int]

    @property
    def base(self) -> float:
        """The size of the notes' names."""
        return POINTS[self.ask.size]

    @property
    def symbol(self) -> float:
        """The size of chord symbols."""
        return self.base * 1.6

    @property
    def small(self) -> float:
        """The size of words that are read second."""
        return self.base * 0.86

    @property
    def keys_height(self) -> float:
        """Height of a little keyboard in mm."""
        return min(max(self.width / whites(*self.span) * 4.6, 4.5), 13.0)


def _columns(keys: tuple[Key, ...], style: CellStyle) -> list[float]:
    """The width that each key of a hand needs."""
    gap = text_width("n", style.base) * 0.75
    found = []
    for key in keys:
        wide = text_width(key.name, style.base, True)
        if style.ask.shows("degrees"):
            wide = max(wide, text_width(key.degree, style.small))
        if style.ask.shows("fingers"):
            wide = max(wide, text_width(key.finger, style.small))
        found.append(wide + gap)
    return found


def hands_width(cell: Cell, style: CellStyle) -> float:
    """The width that both hands need side by side."""
    left, right = (sum(_columns(keys, style)) or text_width(RESTS, style.base) for keys in (cell.left, cell.right))
    return left + right + 2 * text_width("R", style.small, True) + 3 * GAP


def _rows(style: CellStyle) -> float:
    """Height of one hand's block."""
    rows = style.ask.shows("degrees") + style.ask.shows("fingers")
    return line_height(style.base) + rows * line_height(style.small) * 0.95


def _hand(on: Drawing | None, x: float, y: float, w: float, hand: str, keys: tuple[Key, ...], style: CellStyle,
          slot: int) -> None:  # fmt: skip
    """A hand's keys in columns: name, degree, finger; what stays is underlined and light."""
    if on is None:
        return
    sign = text_width("R", style.small, True) + 0.8
    on.text(x, y + 0.25, sign, "L" if hand == "left" else "R", style.small, hand, True, slot=slot)
    x, w = x + sign, w - sign
    if not keys:
        on.text(x, y, w, RESTS, style.base, "muted", slot=slot)
        return
    columns = _columns(keys, style)
    shrink = min(1.0, w / sum(columns))
    for key, wide in zip(keys, columns, strict=True):
        _key(on, x, y, wide * shrink, key, hand, style, slot)
        x += wide * shrink


def _key(on: Drawing, x: float, y: float, w: float, key: Key, hand: str, style: CellStyle, slot: int) -> None:
    holds = key.stays and style.ask.shows("holds")
    room = w - 0.25
    down = on.text(x, y, room, key.name, style.base, hand, not holds, slot=slot)
    if holds:
        size = fitted(key.name, style.base, room)
        on.level(x, y + down * 0.93, text_width(key.name, size), hand)
    y += down
    for part, words in (("degrees", key.degree), ("fingers", key.finger)):
        if style.ask.shows(part):
            y += on.text(x, y, room, words, style.small, "ink" if part == "fingers" else "muted", slot=slot) * 0.95


def _both(on: Drawing | None, x: float, y: float, left: tuple[Key, ...], right: tuple[Key, ...], style: CellStyle,
          slot: int) -> float:  # fmt: skip
    """Both hands; the height they take."""
    tall = _rows(style)
    if style.beside:
        sign = text_width("R", style.small, True) + 0.8
        needs = [sum(_columns(keys, style)) + sign for keys in (left, right)]
        room = style.width - GAP
        share = min(max(needs[0] / sum(needs), 0.25), 0.75) if sum(needs) > room else needs[0] / room
        split = max(room * share, min(style.width / 2, room - needs[1]))
        _hand(on, x, y, split, "left", left, style, slot)
        _hand(on, x + split + GAP, y, room - split, "right", right, style, slot)
        return tall
    _hand(on, x, y, style.width, "right", right, style, slot)
    _hand(on, x, y + tall + 0.5, style.width, "left", left, style, slot)
    return 2 * tall + 0.5


def _head(on: Drawing | None, x: float, y: float, cell: Cell, style: CellStyle) -> float:
    tall = line_height(style.symbol)
    if on is None:
        return tall
    number = cell.number if style.ask.shows("numbers") else ""
    room = min(text_width(number, style.base), style.width * 0.42) if number else 0.0
    on.text(x, y, style.width - room - (1.0 if room else 0.0), cell.symbol, style.symbol, "ink", True, slot=cell.slot)
    if number:
        lower = tall - line_height(style.base) - 0.3
        on.text(x + style.width - room, y + lower, room, number, style.base, "muted", align="right", slot=cell.slot)
    return tall


def _words(
    on: Drawing | None, x: float, y: float, words: str, style: CellStyle, role: str, slot: int, bold: bool = False
) -> float:
    at = y
    for line in wrapped(words, style.small, style.width, bold):
        if on is not None:
            on.text(x, at, style.width, line, style.small, role, bold, slot=slot)
        at += line_height(style.small)
    return at - y


def _said(
    on: Drawing | None, x: float, cell: Cell, style: CellStyle, rows: Sequence[tuple[str, str, str, str]]
) -> list[Callable[[float], float]]:
    """What writes the words at a chord that are there and shown, each from a height on: (what they are, the words, the
    sign before them, their role); the player's own are bold.
    """

    def writes(words: str, role: str) -> Callable[[float], float]:
        return lambda at: _words(on, x, at, words, style, role, cell.slot, words.startswith(MEMO))

    return [writes(sign + words, role) for shown, words, sign, role in rows if words and style.ask.shows(shown)]


def draw_cell(on: Drawing | None, x: float, y: float, cell: Cell, style: CellStyle) -> float:
    """A chord at a place; with no drawing it is only measured. Its height in mm."""
    at = y + _head(on, x, y, cell, style)
    parts = _said(on, x, cell, style, (("tune", cell.tune, "♪ ", "muted"), ("line", cell.line, "line: ", "ink")))
    if cell.voicing >= 0:
        parts.append(lambda at: _both(on, x, at, cell.left, cell.right, style, cell.slot))
        if style.ask.shows("keyboards"):
            parts.append(lambda at: _keys(on, x, at, cell.left, cell.right, style))
    below = [("rhythm", cell.fill, f"{FILL} ", "brass"), ("cues", cell.cue, "", "ink")]
    below.append(("notes", cell.memo, MEMO, "ink"))
    parts += _said(on, x, cell, style, below)
    for part in parts:
        at += part(at)
    for other in cell.otherwise:
        at += 0.6 + _words(on, x, at + 0.6, f"{other.when}:", style, "ink", cell.slot, True)
        at += _both(on, x, at, other.left, other.right, style, cell.slot)
        if style.ask.shows("keyboards"):
            at += _keys(on, x, at, other.left, other.right, style)
    if on is not None and cell.voicing >= 0:
        on.areas.append(ClickArea(x, y, style.width, at - y, cell.voicing))
    return at - y


def _keys(
    on: Drawing | None, x: float, y: float, left: tuple[Key, ...], right: tuple[Key, ...], style: CellStyle
) -> float:
    tall = style.keys_height
    if on is not None:
        notes = [tuple(key.midi for key in keys) for keys in (left, right)]
        draw_keyboard(on, (x, y + 0.8, style.width, tall), style.span, notes[0], notes[1])
    return tall + 2.2
