"""Staves as pages: a score goes to the engraving process, and its SVG comes back as our own outlines and texts, so that
the one painter draws them in our fonts.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple
from xml.etree.ElementTree import Element, fromstring

from yellow_hinge.core.sheet.page import MM_PER_POINT, Box, Outline, Text, fitted, line_height, text_width
from yellow_hinge.core.sheet.staves.breaking import NARROW
from yellow_hinge.core.sheet.staves.systems import ENDING, SYMBOL, Bar, Stem, System
from yellow_hinge.io.apart import Limits, ReaderBugError, run_apart

LIMITS = Limits(60.0, 2048 * 1024**2)
UNIT = 0.01  # mm of the engraver's unit
SVG, XLINK = "{http://www.w3.org/2000/svg}", "{http://www.w3.org/1999/xlink}"
PATH, TEXT = f"{SVG}path", f"{SVG}text"
TALL = 5000.0  # mm of a page of the engraver: its lines are put onto ours one by one
BOLD = {ENDING, "fing", "reh", "tempo", "harm"}
ROLE = {"fing": "muted", "dir": "ink", "mNum": "muted", "label": "muted", "labelAbbr": "muted"}
# The engraver's own forms of signs in words, as the signs they are; everything else of its own is no text.
SIGNS = {0xE260: "♭", 0xE261: "♮", 0xE262: "♯", 0xE263: "x", 0xE264: "♭♭", 0xEA64: "♭", 0xEA65: "♮", 0xEA66: "♯"}
_COMMAND = re.compile(r"([MLHVCSZmlhvcsz])|(-?[0-9.]+(?:e-?[0-9]+)?)")
_POINT = re.compile(r"[ML](-?[\d.]+)[ ,](-?[\d.]+)")
_TRANSFORM = re.compile(r"(translate|scale|rotate)\(([^)]*)\)")
NUMBER = "mNum"
SMALLER = {"dir": 0.85}  # than the engraver has it
ASCENT = 0.97  # of a text's size above its base line, in the shipped font


@lru_cache(maxsize=4096)
def _steps(words: str) -> tuple[tuple[str, tuple[float, ...]], ...]:
    """The steps of a transform, with their numbers."""
    steps = _TRANSFORM.findall(words)
    return tuple((kind, tuple(map(float, re.split(r"[ ,]+", numbers.strip())))) for kind, numbers in steps)


class Transform(NamedTuple):
    """Where the engraver's units lie on the page, in mm: x = dx + xx * X + xy * Y, and y likewise."""

    dx: float
    dy: float
    xx: float
    yy: float
    xy: float = 0.0
    yx: float = 0.0

    @property
    def scale(self) -> float:
        """How long one of the units is, in mm."""
        return math.sqrt(abs(self.xx * self.yy - self.xy * self.yx))

    def at(self, x: float, y: float) -> tuple[float, float]:
        """A point on the page."""
        return self.dx + self.xx * x + self.xy * y, self.dy + self.yx * x + self.yy * y

    def moved(self, words: str) -> Transform:
        """The place inside an element with a transform."""
        found = self
        for kind, (x, *more) in _steps(words):
            if kind == "translate":
                found = found._shifted(x, more[0] if more else 0.0)
            elif kind == "scale":
                y = more[0] if more else x
                found = found._replace(xx=found.xx * x, yx=found.yx * x, xy=found.xy * y, yy=found.yy * y)
            else:  # a rotation, about a point
                cx, cy = more or (0.0, 0.0)
                found = found._shifted(cx, cy)._turned(math.radians(x))._shifted(-cx, -cy)
        return found

    def _shifted(self, x: float, y: float) -> Transform:
        dx, dy = self.at(x, y)
        return self._replace(dx=dx, dy=dy)

    def _turned(self, angle: float) -> Transform:
        cos, sin = math.cos(angle), math.sin(angle)
        return self._replace(
            xx=self.xx * cos + self.xy * sin, xy=self.xy * cos - self.xx * sin,
            yx=self.yx * cos + self.yy * sin, yy=self.yy * cos - self.yx * sin,
        )  # fmt: skip


Parts = tuple[tuple[str, tuple[tuple[float, float], ...]], ...]


@lru_cache(maxsize=4096)
def _parts(words: str) -> Parts:
    """An SVG path of lines and curves, in its own units: commands with their points. Signs come again and again."""
    found: list[tuple[str, tuple[tuple[float, float], ...]]] = []
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
        found.append((kind, tuple(points)))
    return tuple(found)


def outline_path(words: str, place: Transform) -> tuple[tuple[str, tuple[float, ...]], ...]:
    """An SVG path of lines and curves as one of ours."""
    at = place.at
    return tuple((kind, tuple(n for x, y in points for n in at(x, y))) for kind, points in _parts(words))


class Reader:
    """Reads the lines of staves of one SVG page, `w` mm wide where the engraver's size is changed by `scale`."""

    def __init__(self, svg: str, scale: float, w: float) -> None:
        root = fromstring(svg)
        self.place, self.w = Transform(0.0, 0.0, UNIT * scale, UNIT * scale), w
        self.shapes = {element.get("id"): element for element in root.iter(f"{SVG}g") if element.get("id")}
        self.lines = [element for element in root.iter(f"{SVG}g") if element.get("class") == "system"]
        self.system = System(w)
        self.on = self.system.on

    def systems(self) -> list[System]:
        """Its lines, each on a drawing of its own."""
        found = []
        for line in self.lines:
            self.system = System(self.w)
            self.on = self.system.on
            self._element(line, self.place, "")
            self.system.bars = [self._bar(bar) for bar in line.iter(f"{SVG}g") if bar.get("class") == "measure"]
            self.system.mend()
            found.append(self.system)
        return found

    def _bar(self, bar: Element) -> Bar:
        """Where a bar and its chords lie."""
        staves = [
            [(float(x), float(y)) for path in staff if path.tag == PATH for x, y in _POINT.findall(path.get("d", ""))]
            for staff in bar
            if staff.get("class") == "staff"
        ]
        points = [point for staff in staves for point in staff]
        (left, top), (right, bottom) = (
            self.place.at(pick(x for x, _ in points), pick(y for _, y in points)) for pick in (min, max)
        )
        between = self.place.at(0.0, max(y for _, y in staves[-2 if len(staves) > 1 else -1]))[1]
        symbols = [text for each in bar.iter(f"{SVG}g") if each.get("class") == SYMBOL for text in each.iter(TEXT)]
        chords = sorted(self.place.at(float(text.get("x", 0)), 0.0)[0] for text in symbols)
        return Bar(left, right, top, bottom, between, tuple(chords), tuple(self._notes(bar)))

    def _notes(self, bar: Element) -> Iterator[tuple[float, float, str]]:
        """Where the heads of a bar's notes lie, and what they are."""
        for note in bar.iter(f"{SVG}g"):
            head = next(note.iter(f"{SVG}use"), None) if note.get("data-pname") else None
            if head is not None:
                x, y = self.place.moved(head.get("transform", "").partition(" scale")[0]).at(0.0, 0.0)
                yield x, y, f"{note.get('data-pname')}{note.get('data-oct')}"

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
        pen = float(element.get("stroke-width") or 0) * place.scale
        line = all(command in "ML" for command, _ in path)
        if kind == "stem" and line:
            ys = [numbers[1] for _, numbers in path]
            self.system.stems.append(Stem(path[0][1][0], min(ys), max(ys)))
        self.system.brackets += [len(self.on.outlines)] if kind == ENDING else []
        if line or not pen:
            self.on.outlines.append(Outline(path, "ink", pen if line else 0.0))
        else:
            self.on.outlines += [Outline(path, "ink"), Outline(path, "ink", pen)]

    def _polygon(self, element: Element, place: Transform, kind: str) -> None:
        self.system.brackets += [len(self.on.outlines)] if kind == ENDING else []
        points = [tuple(map(float, point.split(","))) for point in element.get("points", "").split()]
        path = [("L" if index else "M", place.at(x, y)) for index, (x, y) in enumerate(points)]
        self.on.outlines.append(Outline((*path, ("Z", ())), "ink"))

    def _ellipse(self, element: Element, place: Transform, kind: str) -> None:
        cx, cy, rx, ry = (float(element.get(name, 0)) for name in ("cx", "cy", "rx", "ry"))
        x, y = place.at(cx, cy)
        w, h = rx * place.scale, ry * place.scale
        self.on.boxes.append(Box(x - w, y - h, 2 * w, 2 * h, "ink", "round"))

    def _rect(self, element: Element, place: Transform, kind: str) -> None:
        x, y, w, h = (float(element.get(name, 0)) for name in ("x", "y", "width", "height"))
        (x0, y0), (x1, y1) = place.at(x, y), place.at(x + w, y + h)
        corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
        path = [("L" if index else "M", point) for index, point in enumerate(corners)]
        pen = float(element.get("stroke-width") or 0) * place.scale
        self.on.outlines.append(Outline((*path, ("Z", ())), "ink", pen))

    def _text(self, element: Element, place: Transform, kind: str) -> None:
        words, sizes = "", [0.0]
        for part in element.iter(f"{SVG}tspan"):
            words += "".join(SIGNS.get(ord(sign), sign) for sign in part.text or "" if _is_text(sign))
            if not part.get("font-family"):  # signs of the music font have its size
                sizes.append(float((part.get("font-size") or "0").rstrip("px")))
        words = re.sub(r"\s+", " ", words).strip()
        x_words = element.get("x") or next((p.get("x") for p in element.iter() if p.get("x")), None)
        if x_words is None and kind == NUMBER:  # which stands where its system begins
            x_words = "0"
        if not words or not max(sizes) or x_words is None:
            return
        size = max(sizes) * place.scale / MM_PER_POINT * SMALLER.get(kind, 1.0)
        bold = kind in BOLD
        x, y = place.at(float(x_words), float(element.get("y") or 0))
        wide = text_width(words, size, bold)
        anchor = "start" if kind == NUMBER else element.get("text-anchor", "start")
        x -= wide / 2 if anchor == "middle" else wide if anchor == "end" else 0.0
        x = max(0.0, min(x, self.w - wide))
        size = fitted(words, size, self.w, bold)
        top = y - size * ASCENT * MM_PER_POINT
        text = Text(x, top, wide + 0.01, line_height(size), words, size, ROLE.get(kind, "ink"), bold)
        self.system.add_text(kind, text)


def _is_text(sign: str) -> bool:
    return ord(sign) in SIGNS or not 0xE000 <= ord(sign) < 0xF900


_DRAWN: dict[str, Callable[[Reader, Element, Transform, str], None]] = {
    "path": Reader._path, "polygon": Reader._polygon, "ellipse": Reader._ellipse, "rect": Reader._rect,
    "text": Reader._text, "style": lambda *_: None,
}  # fmt: skip


def engrave(
    score: bytes, widths: Sequence[float], cancelled: Callable[[], bool] = lambda: False
) -> list[tuple[str, ...]]:
    """The SVG pages of a score for each width in mm as the engraver measures it, as tall as can be. Raises FileFault
    where it takes too long, OvertakenError, and ReaderBugError where it cannot be done.
    """
    asked = {"score": score.decode(), "widths": [round(w / UNIT) for w in widths], "height": round(TALL / UNIT)}
    out = run_apart(
        "yellow_hinge.io.engraving.engraver", (), json.dumps(asked).encode(), "the staves", LIMITS, cancelled
    )
    if not out:
        raise ReaderBugError("the engraver died")
    return [tuple(pages) for pages in json.loads(out)]


def engraved_lines(
    score: bytes, width: float, scale: float, short: frozenset[int], cancelled: Callable[[], bool]
) -> list[System]:
    """The lines of a score, `width` mm wide at a `scale` of the engraver's size; those that are `short` (from 0) are
    narrower. Raises as `engrave`.
    """
    widths = [width, width * NARROW] if short else [width]
    ways = zip(widths, engrave(score, [own / scale for own in widths], cancelled), strict=True)
    found = [[line for svg in pages for line in Reader(svg, scale, own).systems()] for own, pages in ways]
    return [(found[-1] if n in short else lines)[n] for lines in found[:1] for n in range(len(lines))]
