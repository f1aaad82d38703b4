"""The one painter of pages. It works in hundredths of a millimetre and computes nothing."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from functools import lru_cache
from math import inf
from typing import Any

import msgspec
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPainterPath, QPen

from yellow_hinge.core.sheet.page import MM_PER_POINT, Box, Outline, Page, Text
from yellow_hinge.paper.fonts import FAMILIES

UNIT = 100.0  # a millimetre
AT_ONCE = 16  # pieces of a page between two looks at the clock
ALIGN = {
    "left": Qt.AlignmentFlag.AlignLeft, "centre": Qt.AlignmentFlag.AlignHCenter, "right": Qt.AlignmentFlag.AlignRight,
}  # fmt: skip


class Inks(msgspec.Struct, frozen=True):
    """A colour, as #rrggbb, for each role of a page, and that of the page itself."""

    page: str
    ink: str
    muted: str
    left: str
    right: str
    line: str
    white: str
    black: str
    on_hand: str
    brass: str


PRINT = Inks(
    page="#FFFFFF", ink="#1A1916", muted="#5A554A", left="#1F5B4A", right="#7A2E55", line="#A39A87", white="#FFFFFF",
    black="#A79F8E", on_hand="#FFFFFF", brass="#8A5F00",
)  # fmt: skip
NIGHT = Inks(
    page="#16140F", ink="#F6F0E2", muted="#B5AD9B", left="#7CC9AE", right="#E6A4C4", line="#6A6252", white="#3D382F",
    black="#1E1B15", on_hand="#16140F", brass="#E9B949",
)  # fmt: skip


@lru_cache(maxsize=32)
def _color(inks: Inks, role: str) -> QColor:
    return QColor(getattr(inks, role))


@lru_cache(maxsize=256)
def _font(units: int, bold: bool) -> QFont:
    """The text font without kerning and joined signs, so that its widths are those that pages are laid out by."""
    made = QFont()
    made.setFamilies(FAMILIES)
    made.setPixelSize(max(1, units))
    made.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    made.setKerning(False)
    made.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    for feature in ("calt", "liga", "kern"):
        made.setFeature(QFont.Tag(feature), 0)
    return made


class Painting:
    """A page that is painted piece by piece, in its upper left corner. `ground`: with the colour of the page below."""

    def __init__(self, page: Page, inks: Inks, ground: bool = True) -> None:
        self._inks, self._todo = inks, _pieces(page, ground)

    def go_on(self, painter: QPainter, seconds: float = inf) -> bool:
        """Paint some more, for so many seconds; whether the page is done. The painter's unit is to be a hundredth of a
        millimetre; it may be another one each time.
        """
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ends = time.perf_counter() + seconds
        for number, (paint, piece) in enumerate(self._todo, 1):
            paint(painter, piece, self._inks)
            if number % AT_ONCE == 0 and time.perf_counter() > ends:
                return False
        return True


def paint_page(painter: QPainter, page: Page, inks: Inks, ground: bool = True) -> None:
    """All of a page, see `Painting`."""
    Painting(page, inks, ground).go_on(painter)


def _pieces(page: Page, ground: bool) -> Iterator[tuple[Callable[[QPainter, Any, Inks], None], Any]]:
    """What is painted of a page, one over the other."""
    yield from [(_ground, page)] if ground else []
    yield from ((_box, box) for box in page.boxes)
    yield from ((_outline, outline) for outline in page.outlines)
    yield from ((_text, text) for text in page.texts)


def _ground(painter: QPainter, page: Page, inks: Inks) -> None:
    painter.fillRect(QRectF(0, 0, page.w * UNIT, page.h * UNIT), _color(inks, "page"))


def _box(painter: QPainter, box: Box, inks: Inks) -> None:
    area = QRectF(box.x * UNIT, box.y * UNIT, box.w * UNIT, box.h * UNIT)
    painter.setBrush(_color(inks, box.role))
    painter.setPen(QPen(_color(inks, box.edge), 0.12 * UNIT) if box.edge else Qt.PenStyle.NoPen)
    if box.shape == "round":
        painter.drawEllipse(area)
    else:
        painter.drawRect(area)


@lru_cache(maxsize=8192)
def _path(outline: Outline) -> QPainterPath:
    made = QPainterPath()
    made.setFillRule(Qt.FillRule.WindingFill)
    for command, numbers in outline.path:
        points = [QPointF(x * UNIT, y * UNIT) for x, y in zip(numbers[::2], numbers[1::2], strict=True)]
        if command == "M":
            made.moveTo(points[0])
        elif command == "L":
            made.lineTo(points[0])
        elif command == "C":
            made.cubicTo(*points)
        else:
            made.closeSubpath()
    return made


def _outline(painter: QPainter, outline: Outline, inks: Inks) -> None:
    color = _color(inks, outline.role)
    painter.setPen(QPen(color, outline.pen * UNIT) if outline.pen else Qt.PenStyle.NoPen)
    painter.setBrush(Qt.BrushStyle.NoBrush if outline.pen else color)
    painter.drawPath(_path(outline))


def _text(painter: QPainter, text: Text, inks: Inks) -> None:
    painter.setPen(_color(inks, text.role))
    painter.setFont(_font(round(text.size * MM_PER_POINT * UNIT), text.bold))
    area = QRectF(text.x * UNIT, text.y * UNIT, text.w * UNIT, text.h * UNIT)
    flags = ALIGN[text.align] | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextDontClip | Qt.TextFlag.TextSingleLine
    painter.drawText(area, int(flags), text.words)
