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


def clasp(painter: QPainter, theme: Theme, x: float, y: float) -> None:
    """The mark of a kept chord: a small closed clasp with its middle at (x, y)."""
    painter.setPen(hair(theme.color("ink"), 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(QRectF(x - 3.5, y - 7, 7, 8), 0, 180 * 16)
    painter.setBrush(theme.color("ink"))
    painter.drawRect(QRectF(x - 5, y - 2.5, 10, 7))


def warning_mark(painter: QPainter, theme: Theme, x: float, y: float) -> None:
    """A small triangle that says there is a sentence to read."""
    painter.setPen(hair(theme.color("error"), 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolygon(QPolygonF([QPointF(x, y - 5), QPointF(x + 6, y + 5), QPointF(x - 6, y + 5)]))
    painter.drawLine(QPointF(x, y - 1.5), QPointF(x, y + 2))


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
