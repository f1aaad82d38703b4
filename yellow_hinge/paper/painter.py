"""The one painter of pages. It works in hundredths of a millimetre and computes nothing."""

from __future__ import annotations

from functools import lru_cache

import msgspec
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPainterPath, QPen

from yellow_hinge.core.sheet.page import MM_PER_POINT, Box, Outline, Page, Text
from yellow_hinge.paper.fonts import FAMILIES

UNIT = 100.0  # a millimetre
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


def paint_page(painter: QPainter, page: Page, inks: Inks, ground: bool = True) -> None:
    """A page in its upper left corner. The painter's unit is to be a hundredth of a millimetre. `ground`: with the
    colour of the page below.
    """
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    if ground:
        painter.fillRect(QRectF(0, 0, page.w * UNIT, page.h * UNIT), _color(inks, "page"))
    for box in page.boxes:
        _box(painter, box, inks)
    for outline in page.outlines:
        _outline(painter, outline, inks)
    for text in page.texts:
        _text(painter, text, inks)


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
