"""Small painting helpers shared by the views."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from yellow_hinge.ui.scenes.keys import BLACK_LONG, Keyboard
from yellow_hinge.ui.theme import SMALL, Theme, font


def hair(color: QColor, width: float = 1.0) -> QPen:
    """A pen that stays sharp at any scale."""
    pen = QPen(color, width)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    return pen


def plate(painter: QPainter, theme: Theme, area: QRectF, hand: str, text: str, size: float = SMALL) -> None:
    """A note: square for the left hand, round for the right, so that grey tells them apart too."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.hand(hand))
    radius = 1.5 if hand == "left" else area.height() / 2
    painter.drawRoundedRect(area, radius, radius)
    painter.setPen(theme.color("on_plate"))
    painter.setFont(font(size, bold=True))
    painter.drawText(area, Qt.AlignmentFlag.AlignCenter, text)


def clasp(painter: QPainter, theme: Theme, x: float, y: float, size: float = 1.0) -> None:
    """The mark of what is kept: a small closed clasp with its middle at (x, y)."""
    painter.setPen(hair(theme.color("ink"), 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(QRectF(x - 3.5 * size, y - 7 * size, 7 * size, 8 * size), 0, 180 * 16)
    painter.setBrush(theme.color("ink"))
    painter.drawRect(QRectF(x - 5 * size, y - 2.5 * size, 10 * size, 7 * size))


# The strokes of each kind of remark, in a square of side 2 around the middle.
_STROKES: dict[str, tuple[tuple[tuple[float, float], ...], ...]] = {
    "stretch": (((-1, 0), (1, 0)), ((-0.5, -0.5), (-1, 0), (-0.5, 0.5)), ((0.5, -0.5), (1, 0), (0.5, 0.5))),
    "mud": (((-1, -0.4), (-0.4, -0.8), (0.2, -0.2), (1, -0.7)), ((-1, 0.5), (-0.4, 0.1), (0.2, 0.7), (1, 0.2))),
    "collision": (((-1, -0.9), (-0.1, 0), (-1, 0.9)), ((1, -0.9), (0.1, 0), (1, 0.9))),
    "clash": (((-0.8, -0.8), (0.8, 0.8)), ((-0.8, 0.8), (0.8, -0.8))),
    "note": (((0, -0.9), (0, 0.2)), ((0, 0.7), (0, 0.9))),
}


def remark_mark(painter: QPainter, theme: Theme, kind: str, x: float, y: float) -> None:
    """A small sign that there is a sentence to read: arrows for a stretch, waves for mud, two hands that meet, a cross
    for a clash with the melody, a stroke and a dot for what had to give way.
    """
    painter.setPen(hair(theme.color("error"), 1.5))
    for line in _STROKES[kind]:
        painter.drawPolyline(QPolygonF([QPointF(x + 6 * dx, y + 6 * dy) for dx, dy in line]))


def draw_keyboard(painter: QPainter, theme: Theme, keys: Keyboard, label: str, plates: bool = True) -> None:
    """A keyboard with its sounding keys coloured by hand; `label` is the kind of text on the plates, "" for none."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    hands = {mark.midi: mark for mark in keys.marks}
    for key in keys.keys:
        tall = keys.height * (BLACK_LONG if key.black else 1.0)
        area = QRectF(round(key.x), round(keys.y), round(key.x + key.width) - round(key.x), round(tall))
        mark = hands.get(key.midi)
        role = "black_key" if key.black else "white_key"
        painter.setBrush(theme.hand(mark.hand) if mark else theme.color(role))
        painter.setPen(hair(theme.color("key_line")))
        painter.drawRect(area)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
    if not plates:
        return
    painter.setFont(font(SMALL))
    for key in keys.keys:
        tall = keys.height * (BLACK_LONG if key.black else 1.0)
        middle = key.x + key.width / 2
        mark = hands.get(key.midi)
        if mark:
            area = QRectF(middle - 11, keys.y + tall - 19, 22, 16)
            painter.setPen(theme.color("on_plate"))
            painter.setFont(font(SMALL, bold=True))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, mark.label(label))
        elif key.midi == 60:
            painter.setPen(theme.color("black_key"))
            painter.setFont(font(SMALL))
            area = QRectF(middle - 11, keys.y + tall - 19, 22, 16)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "C4")


def draw_fingers(painter: QPainter, theme: Theme, keys: Keyboard, y: float, height: float) -> None:
    """The finger of every sounding key in a line at `y`."""
    painter.setFont(font(SMALL, bold=True))
    for mark in keys.marks:
        painter.setPen(theme.hand(mark.hand))
        area = QRectF(keys.centre(mark.midi) - 10, y, 20, height)
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, mark.finger)
