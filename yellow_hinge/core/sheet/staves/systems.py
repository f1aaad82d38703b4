"""Lines of engraved staves: what stands on each, where its bars and chords lie, and how they come onto pages."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.core.sheet.drawing import Drawing
from yellow_hinge.core.sheet.flow import Flow
from yellow_hinge.core.sheet.page import ClickArea, Outline, Text, fitted, line_height, text_width

STACK = 0.4  # mm: the middles of the fingers of one stack lie no farther apart
SIGN = 1.5  # mm that a finger may stand left of its bar's line
BESIDE = 0.3  # mm between a finger and a stem
APART = 0.8  # mm between two chord symbols, or a cue and what follows it
BETWEEN = 3.4  # mm from one line of staves to the next
FINGER, SYMBOL, CUE, ENDING = "fing", "harm", "dir", "voltaBracket"


class Stem(NamedTuple):
    """Where a stem stands, in mm."""

    x: float
    y0: float
    y1: float


class Bar(NamedTuple):
    """Where a bar lies, in mm: left, right, the top and bottom line of its staves, the bottom line of the right hand's;
    where each chord of it begins; and every note: x and y of its head, its letter and octave as in "c4".
    """

    left: float
    right: float
    top: float
    bottom: float
    between: float
    chords: tuple[float, ...]
    notes: tuple[tuple[float, float, str], ...] = ()


class Stack(NamedTuple):
    """Fingers over each other: whose, where their middle lies in mm, and the places of their texts from above."""

    hand: str
    middle: float
    texts: list[int]


class System:
    """One line of staves while it is read: its drawing, the places of its texts by what they are, stems and bars."""

    def __init__(self, w: float) -> None:
        self.on = Drawing(w, 0.0)
        self.kinds: dict[str, list[int]] = {}
        self.brackets: list[int] = []  # places of the outlines over endings
        self.stems: list[Stem] = []
        self.bars: list[Bar] = []

    def add_text(self, kind: str, text: Text) -> None:
        """A text of a kind (the engraver's word for it)."""
        self.kinds.setdefault(kind, []).append(len(self.on.texts))
        self.on.texts.append(text)

    def of(self, kind: str) -> list[tuple[int, Text]]:
        """The texts of a kind with their places."""
        return [(n, self.on.texts[n]) for n in self.kinds.get(kind, ())]

    @property
    def top(self) -> float:
        """How far up there is something, in mm."""
        edges = [text.y for text in self.on.texts] + [box.y for box in self.on.boxes]
        edges += [y for outline in self.on.outlines for _, numbers in outline.path for y in numbers[1::2]]
        return min(edges, default=0.0)

    @property
    def height(self) -> float:
        """How tall it is, in mm."""
        return self.on.foot - self.top

    def mend(self) -> None:
        """Set right what the engraver does not see to: fingers in their order and beside stems, no symbol or cue over
        another.
        """
        for stack in self.stacks():
            self._in_order(stack)
            self._beside_stems(stack)
        self._clear()
        self._fit(SYMBOL, in_bar=False)
        self._fit(CUE, in_bar=True)

    def stacks(self) -> list[Stack]:
        """Fingers that stand over each other, hand by hand, from left to right."""
        found: list[Stack] = []
        for n, text in sorted(self.of(FINGER), key=lambda each: (each[1].x + each[1].w / 2, each[1].y)):
            middle, low = text.x + text.w / 2, text.y + text.h * 0.7
            below = any(bar.left - SIGN <= middle < bar.right - SIGN and low > bar.between for bar in self.bars)
            hand = "left" if below else "right"
            own = next((s for s in reversed(found) if s.hand == hand and abs(s.middle - middle) < STACK), None)
            if own is None:
                found.append(Stack(hand, middle, [n]))
            else:
                own.texts.append(n)
        return [stack._replace(texts=sorted(stack.texts, key=lambda n: self.on.texts[n].y)) for stack in found]

    def _in_order(self, stack: Stack) -> None:
        """Put the fingers of a stack in the order of their keys, the highest key's above."""
        words = sorted((self.on.texts[n].words for n in stack.texts), reverse=stack.hand == "right")
        for n, word in zip(stack.texts, words, strict=True):
            text = self.on.texts[n]
            wide = text_width(word, text.size, text.bold) + 0.01
            self.on.texts[n] = msgspec.structs.replace(text, words=word, w=wide, x=stack.middle - wide / 2)

    def _beside_stems(self, stack: Stack) -> None:
        """Move fingers to the left of a stem that would go through them."""
        texts = [self.on.texts[n] for n in stack.texts]
        left, right = min(t.x for t in texts), max(t.x + t.w for t in texts)
        top, bottom = texts[0].y, texts[-1].y + texts[-1].h
        through = [s.x for s in self.stems if left - BESIDE < s.x < right + BESIDE and s.y0 < bottom and s.y1 > top]
        if through:
            for n, text in zip(stack.texts, texts, strict=True):
                self.on.texts[n] = msgspec.structs.replace(text, x=text.x + min(through) - BESIDE - right)

    def _clear(self) -> None:
        """Move all chord symbols up where one would stand over fingers, and what lies above them."""
        fingers = [text for _, text in self.of(FINGER)]
        while under := [a.y + a.h - b.y for _, a in self.of(SYMBOL) for b in fingers if _over(a, b)]:
            up = max([*under, STACK])
            for n, text in (*self.of(SYMBOL), *self.of(ENDING)):
                self.on.texts[n] = msgspec.structs.replace(text, y=text.y - up)
            for n in self.brackets:
                self.on.outlines[n] = moved(self.on.outlines[n], 0.0, -up)

    def _fit(self, kind: str, in_bar: bool) -> None:
        """Make texts smaller that would run into the next one, or with `in_bar` out of their bar."""
        row = sorted(self.of(kind), key=lambda each: each[1].x)
        for place, (n, text) in enumerate(row):
            later = (other.x for _, other in row[place + 1 :] if abs(other.y - text.y) < text.h and other.x > text.x)
            bar = next((bar.right for bar in self.bars if bar.left <= text.x < bar.right), self.on.w)
            end = min((*later, bar if in_bar else self.on.w), default=self.on.w) - APART
            if text.x + text.w > end:
                size = fitted(text.words, text.size, max(end - text.x, 2.0), text.bold)
                y = text.y + (line_height(text.size) - line_height(size)) * 0.8
                wide = text_width(text.words, size, text.bold) + 0.01
                self.on.texts[n] = msgspec.structs.replace(text, y=y, w=wide, h=line_height(size), size=size)


def _over(one: Text, other: Text) -> bool:
    beside = one.x + one.w <= other.x or other.x + other.w <= one.x
    return not beside and one.y < other.y + other.h and other.y < one.y + one.h


def moved(outline: Outline, dx: float, dy: float) -> Outline:
    """An outline, moved by so many mm."""
    path = tuple(
        (command, tuple(n + (dy if at % 2 else dx) for at, n in enumerate(numbers)))
        for command, numbers in outline.path
    )
    return Outline(path, outline.role, outline.pen)


def put(drawing: Drawing, on: Drawing, dx: float, dy: float) -> None:
    """Everything of one drawing on another, moved by so many mm."""
    new = msgspec.structs.replace
    on.texts += [new(text, x=text.x + dx, y=text.y + dy) for text in drawing.texts]
    on.boxes += [new(box, x=box.x + dx, y=box.y + dy) for box in drawing.boxes]
    on.areas += [new(area, x=area.x + dx, y=area.y + dy) for area in drawing.areas]
    on.outlines += [moved(outline, dx, dy) for outline in drawing.outlines]


def chord_areas(bar: Bar, voicings: list[int]) -> list[ClickArea]:
    """Where each chord of a bar lies, from its place to the next one's; `voicings` are their places in the solution."""
    starts = [*bar.chords[: len(voicings)]] or [bar.left]
    ends = [*starts[1:], bar.right]
    starts[0] = bar.left
    return [
        ClickArea(start, bar.top, end - start, bar.bottom - bar.top, voicing)
        for start, end, voicing in zip(starts, ends, voicings, strict=False)
        if voicing >= 0
    ]


NOTE = (2.2, 1.8)  # mm of a note's head at the engraver's own size


def note_areas(bar: Bar, chords: list[ClickArea], keys: dict[str, int], scale: float) -> list[ClickArea]:
    """Where the notes of a bar lie that have a key (MIDI, by letter and octave), each with the chord it is over."""
    wide, tall = NOTE[0] * scale, NOTE[1] * scale
    found = []
    for x, y, name in bar.notes:
        own = next((area for area in chords if area.x <= x < area.x + area.w), None)
        if own is not None and name in keys:
            found.append(ClickArea(x, y - tall / 2, wide, tall, own.voicing, keys[name]))
    return found


def place_system(flow: Flow, system: System, left: float) -> None:
    """Put a line of staves below what is on the page, on the next one where there is no room."""
    flow.need(system.height)
    put(system.on, flow.on, left, flow.y - system.top)
    flow.y += system.height + BETWEEN
