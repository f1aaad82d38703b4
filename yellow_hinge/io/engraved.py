"""Staves as pages: a score goes to the engraving process, and its SVG comes back as our own outlines and texts, so that
the one painter draws them in our fonts.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import NamedTuple
from xml.etree.ElementTree import Element, fromstring

import msgspec

from yellow_hinge.core.sheet.drawing import Drawing
from yellow_hinge.core.sheet.page import MM_PER_POINT, Box, Outline, Text, fitted, line_height, text_width
from yellow_hinge.io.apart import Limits, ReaderBugError, run_apart

LIMITS = Limits(60.0, 2048 * 1024**2)
UNIT = 0.01  # mm of the engraver's unit
SVG, XLINK = "{http://www.w3.org/2000/svg}", "{http://www.w3.org/1999/xlink}"
BOLD = {"ending", "fing", "reh", "tempo", "harm"}
ROLE = {"fing": "muted", "dir": "ink", "mNum": "muted", "label": "muted", "labelAbbr": "muted"}
# The engraver's own forms of signs in words, as the signs they are; everything else of its own is no text.
SIGNS = {0xE260: "♭", 0xE261: "♮", 0xE262: "♯", 0xE263: "x", 0xE264: "♭♭", 0xEA64: "♭", 0xEA65: "♮", 0xEA66: "♯"}
_COMMAND = re.compile(r"([MLHVCSZmlhvcsz])|(-?[0-9.]+(?:e-?[0-9]+)?)")
_TRANSFORM = re.compile(r"(translate|scale)\(([^)]*)\)")
STACK = (0.4, 1.6)  # fingers of one stack: mm apart at most, and heights of a text from one to the next
BESIDE = 0.3  # mm between a finger and a stem
AT_LEFT = {"reh", "mNum"}  # inside the margins
SMALLER = {"dir": 0.85}  # than the engraver has it
ASCENT = 0.97  # of a text's size above its base line, in the shipped font


class Stem(NamedTuple):
    """Where a stem stands, in mm."""

    x: float
    y0: float
    y1: float


class Transform(NamedTuple):
    """Where the engraver's units lie on the page: x = dx + sx * X, in mm."""

    dx: float
    dy: float
    sx: float
    sy: float

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A point on the page."""
        return self.dx + self.sx * x, self.dy + self.sy * y

    def moved(self, words: str) -> Transform:
        """The place inside an element with a transform."""
        found = self
        for kind, numbers in _TRANSFORM.findall(words):
            x, *more = (float(number) for number in re.split(r"[ ,]+", numbers.strip()))
            y = more[0] if more else (x if kind == "scale" else 0.0)
            if kind == "translate":
                found = Transform(*found.at(x, y), found.sx, found.sy)
            else:
                found = found._replace(sx=found.sx * x, sy=found.sy * y)
        return found


def outline_path(words: str, place: Transform) -> tuple[tuple[str, tuple[float, ...]], ...]:
    """An SVG path of lines and curves as one of ours."""
    found: list[tuple[str, tuple[float, ...]]] = []
    tokens = [m[1] or float(m[2]) for m in _COMMAND.finditer(words)]
    here = start = control = (0.0, 0.0)
    command, at = "", 0
    while at < len(tokens):
        if isinstance(tokens[at], str):
            command, at = str(tokens[at]), at + 1
        base = here if command.islower() else (0.0, 0.0)
        kind = command.upper()
        count = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Z": 0}[kind]
        numbers = [float(token) for token in tokens[at : at + count]]
        at += count
        if kind == "Z":
            found.append(("Z", ()))
            here = start
            continue
        if kind in "HV":
            point = (base[0] + numbers[0], here[1]) if kind == "H" else (here[0], base[1] + numbers[0])
            points, kind = [point], "L"
        else:
            points = [(base[0] + x, base[1] + y) for x, y in zip(numbers[::2], numbers[1::2], strict=True)]
        if kind == "S":
            points, kind = [(2 * here[0] - control[0], 2 * here[1] - control[1]), *points], "C"
        here = points[-1]
        control = points[-2] if kind == "C" else here
        if kind == "M":
            start, command = here, "l" if command.islower() else "L"
        found.append((kind, tuple(n for point in points for n in place.at(*point))))
    return tuple(found)


class Reader:
    """Puts one SVG page on a drawing with margins of so many mm."""

    def __init__(self, svg: str, on: Drawing, margin: float = 0.0) -> None:
        self.on, self.margin = on, margin
        self.fingers: list[int] = []  # places of their texts
        self.stems: list[Stem] = []
        root = fromstring(svg)
        self.shapes = {element.get("id"): element for element in root.iter(f"{SVG}g") if element.get("id")}
        self.inner = next(element for element in root.iter(f"{SVG}svg") if element.get("class") == "definition-scale")

    def read(self, place: Transform) -> None:
        """Everything, in its place."""
        self._element(self.inner, place, "")
        for stack in self._stacks():
            self._beside_stems(stack)

    def _stacks(self) -> list[list[int]]:
        """Fingers that stand over each other, from above, as places of their texts."""
        found: list[list[int]] = []
        for n in sorted(self.fingers, key=lambda n: self.on.texts[n].y):
            own = next((stack for stack in found if self._stacked(self.on.texts[stack[-1]], self.on.texts[n])), None)
            if own is None:
                found.append([n])
            else:
                own.append(n)
        return found

    @staticmethod
    def _stacked(above: Text, text: Text) -> bool:
        apart = abs(above.x + above.w / 2 - text.x - text.w / 2)
        return apart < STACK[0] and text.y - above.y < STACK[1] * text.h

    def _beside_stems(self, stack: list[int]) -> None:
        """Move fingers to the left of a stem that would go through them."""
        texts = [self.on.texts[n] for n in stack]
        left, right = min(t.x for t in texts), max(t.x + t.w for t in texts)
        top, bottom = texts[0].y, texts[-1].y + texts[-1].h
        through = [s.x for s in self.stems if left - BESIDE < s.x < right + BESIDE and s.y0 < bottom and s.y1 > top]
        if through:
            for n, text in zip(stack, texts, strict=True):
                self.on.texts[n] = msgspec.structs.replace(text, x=text.x + min(through) - BESIDE - right)

    def _element(self, element: Element, place: Transform, kind: str) -> None:
        tag = element.tag.removeprefix(SVG)
        place = place.moved(element.get("transform", ""))
        names = (element.get("class") or "").split()
        if "placeholder" in names:
            return
        kind = names[0] if names else kind
        if tag == "use":
            for inside in self.shapes.get(element.get(f"{XLINK}href", "").lstrip("#"), ()):
                self._element(inside, place, kind)
        elif tag in _DRAWN:
            _DRAWN[tag](self, element, place, kind)
        else:
            for inside in element:
                self._element(inside, place, kind)

    def _path(self, element: Element, place: Transform, kind: str) -> None:
        path = outline_path(element.get("d", ""), place)
        pen = float(element.get("stroke-width") or 0) * abs(place.sx)
        line = all(command in "ML" for command, _ in path)
        if kind == "stem" and line:
            ys = [numbers[1] for _, numbers in path]
            self.stems.append(Stem(path[0][1][0], min(ys), max(ys)))
        if line or not pen:
            self.on.outlines.append(Outline(path, "ink", pen if line else 0.0))
        else:
            self.on.outlines += [Outline(path, "ink"), Outline(path, "ink", pen)]

    def _polygon(self, element: Element, place: Transform, kind: str) -> None:
        points = [tuple(map(float, point.split(","))) for point in element.get("points", "").split()]
        path = [("L" if index else "M", place.at(x, y)) for index, (x, y) in enumerate(points)]
        self.on.outlines.append(Outline((*path, ("Z", ())), "ink"))

    def _ellipse(self, element: Element, place: Transform, kind: str) -> None:
        cx, cy, rx, ry = (float(element.get(name, 0)) for name in ("cx", "cy", "rx", "ry"))
        x, y = place.at(cx, cy)
        w, h = abs(rx * place.sx), abs(ry * place.sy)
        self.on.boxes.append(Box(x - w, y - h, 2 * w, 2 * h, "ink", "round"))

    def _rect(self, element: Element, place: Transform, kind: str) -> None:
        x, y, w, h = (float(element.get(name, 0)) for name in ("x", "y", "width", "height"))
        (x0, y0), (x1, y1) = place.at(x, y), place.at(x + w, y + h)
        if kind == "reh":  # a section's name stands without a frame
            return
        corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
        path = [("L" if index else "M", point) for index, point in enumerate(corners)]
        pen = float(element.get("stroke-width") or 0) * place.sx
        self.on.outlines.append(Outline((*path, ("Z", ())), "ink", pen))

    def _text(self, element: Element, place: Transform, kind: str) -> None:
        words, sizes = "", [0.0]
        for part in element.iter(f"{SVG}tspan"):
            words += "".join(SIGNS.get(ord(sign), sign) for sign in part.text or "" if _is_text(sign))
            if not part.get("font-family"):  # signs of the music font have its size
                sizes.append(float((part.get("font-size") or "0").rstrip("px")))
        words = re.sub(r"\s+", " ", words).strip()
        x_words = element.get("x") or next((p.get("x") for p in element.iter() if p.get("x")), None)
        if x_words is None and kind == "mNum":  # which stands where its system begins
            x_words = "0"
        if not words or not max(sizes) or x_words is None:
            return
        size = max(sizes) * abs(place.sy) / MM_PER_POINT * SMALLER.get(kind, 1.0)
        bold = kind in BOLD
        x, y = place.at(float(x_words), float(element.get("y") or 0))
        wide = text_width(words, size, bold)
        anchor = "start" if kind in AT_LEFT else element.get("text-anchor", "start")
        x -= wide / 2 if anchor == "middle" else wide if anchor == "end" else 0.0
        least, most = (place.at(0.0, 0.0)[0], self.on.w - self.margin) if kind in AT_LEFT else (0.5, self.on.w - 0.5)
        x = max(least, min(x, most - wide))
        size = fitted(words, size, self.on.w - 1.0, bold)
        top = y - size * ASCENT * MM_PER_POINT
        role = ROLE.get(kind, "ink")
        self.fingers += [len(self.on.texts)] if kind == "fing" else []
        self.on.texts.append(Text(x, top, wide + 0.01, line_height(size), words, size, role, bold))


def _is_text(sign: str) -> bool:
    return ord(sign) in SIGNS or not 0xE000 <= ord(sign) < 0xF900


_DRAWN: dict[str, Callable[[Reader, Element, Transform, str], None]] = {
    "path": Reader._path, "polygon": Reader._polygon, "ellipse": Reader._ellipse, "rect": Reader._rect,
    "text": Reader._text, "style": lambda *_: None,
}  # fmt: skip


def engrave(
    score: bytes, width: float, height: float, cancelled: Callable[[], bool] = lambda: False
) -> tuple[str, ...]:
    """The SVG pages of a score; `width` and `height` of a page in mm as the engraver measures it. Raises FileFault
    where it takes too long, OvertakenError, and ReaderBugError where it cannot be done.
    """
    asked = {"score": score.decode(), "width": round(width / UNIT), "height": round(height / UNIT)}
    out = run_apart("yellow_hinge.io.engraver", (), json.dumps(asked).encode(), "the staves", LIMITS, cancelled)
    if not out:
        raise ReaderBugError("the engraver died")
    return tuple(json.loads(out))
