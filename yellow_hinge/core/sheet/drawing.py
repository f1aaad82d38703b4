"""A page as it fills: texts, boxes and little keyboards are put on it one by one."""

from __future__ import annotations

from yellow_hinge.core.hands import BLACK, KEY_X, WHITE_MM
from yellow_hinge.core.sheet.page import Box, ClickArea, Outline, Page, Text, fitted, line_height

BLACK_LONG, BLACK_WIDE = 0.62, 0.58  # of a white key
HAIR = 0.18  # mm


class Drawing:
    """One page of `w` x `h` mm."""

    def __init__(self, w: float, h: float) -> None:
        self.w, self.h = w, h
        self.texts: list[Text] = []
        self.boxes: list[Box] = []
        self.outlines: list[Outline] = []
        self.areas: list[ClickArea] = []

    def text(
        self,
        x: float,
        y: float,
        w: float,
        words: str,
        size: float,
        role: str = "ink",
        bold: bool = False,
        align: str = "left",
        slot: int = -1,
    ) -> float:
        """Words in one line, made smaller where they would be wider than `w`; the height of the line in mm."""
        if words:
            small = fitted(words, size, w, bold)
            drop = (line_height(size) - line_height(small)) * 0.6
            self.texts.append(Text(x, y + drop, w, line_height(small), words, small, role, bold, align, slot))
        return line_height(size)

    def box(
        self, x: float, y: float, w: float, h: float, role: str = "ink", shape: str = "box", edge: str = ""
    ) -> None:
        """A filled shape."""
        self.boxes.append(Box(x, y, w, h, role, shape, edge))

    def level(self, x: float, y: float, w: float, role: str = "line", thick: float = HAIR) -> None:
        """A horizontal line."""
        self.box(x, y, w, thick, role)

    def upright(self, x: float, y: float, h: float, role: str = "line", thick: float = HAIR) -> None:
        """A vertical line."""
        self.box(x, y, thick, h, role)

    @property
    def foot(self) -> float:
        """How far down the page there is something, in mm."""
        edges = [text.y + text.h for text in self.texts] + [box.y + box.h for box in self.boxes]
        edges += [y for outline in self.outlines for _, numbers in outline.path for y in numbers[1::2]]
        return max(edges, default=0.0)

    def page(self) -> Page:
        """What was put on it."""
        return Page(self.w, self.h, tuple(self.texts), tuple(self.boxes), tuple(self.outlines), tuple(self.areas))


def whites(low: int, high: int) -> int:
    """How many white keys lie from `low` to `high`."""
    return sum(1 for midi in range(low, high + 1) if midi % 12 not in BLACK)


def keyboard_span(low: int, high: int) -> tuple[int, int]:
    """The stretch of keys to draw for some notes: from a C or F to an E or B, where no black key is cut."""
    while low % 12 not in (0, 5):
        low -= 1
    while high % 12 not in (4, 11):
        high += 1
    return low, high


def _draw_whites(
    on: Drawing, area: tuple[float, float, float, float], unit: float, centre: dict[int, float], hands: dict[int, str]
) -> None:
    x, y, _, h = area
    for midi, at in centre.items():
        edge = at - unit / 2
        if midi in hands:
            on.box(edge, y, unit, h, hands[midi])
        if edge > x + HAIR:
            on.upright(edge, y, h)


def draw_keyboard(
    on: Drawing,
    area: tuple[float, float, float, float],
    span: tuple[int, int],
    left: tuple[int, ...],
    right: tuple[int, ...],
) -> None:
    """Keys `span` (MIDI) in an area (x, y, w, h): a hand's keys are filled in its colour, the left one's with a square
    and the right one's with a round in them; a tick stands under middle C.
    """
    x, y, w, h = area
    low, high = span
    unit = w / whites(low, high)
    origin = float(KEY_X[low]) - WHITE_MM / 2
    centre = {midi: x + (float(KEY_X[midi]) - origin) / WHITE_MM * unit for midi in range(low, high + 1)}
    hands = dict.fromkeys(left, "left") | dict.fromkeys(right, "right")
    on.box(x, y, w, h, "white", edge="line")
    tall, wide = h * BLACK_LONG, unit * BLACK_WIDE
    _draw_whites(on, area, unit, {midi: at for midi, at in centre.items() if midi % 12 not in BLACK}, hands)
    for midi in range(low, high + 1):
        if midi % 12 in BLACK:
            on.box(centre[midi] - wide / 2, y, wide, tall, hands.get(midi, "black"), edge="line")
    for midi, hand in hands.items():
        black = midi % 12 in BLACK
        side = min(wide * 0.62 if black else unit * 0.5, h * 0.16)
        foot = y + (tall if black else h) - side * 1.5
        on.box(centre[midi] - side / 2, foot - side / 2, side, side, "on_hand", "round" if hand == "right" else "box")
    if low <= 60 <= high:
        on.upright(centre[60] - HAIR, y + h, 0.9, "ink", 2 * HAIR)
