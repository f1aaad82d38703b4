"""Small painting helpers shared by the views."""

from __future__ import annotations

from functools import lru_cache
from math import ceil

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetrics, QPainter, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QAbstractItemView, QStyleOptionViewItem

from yellow_hinge.core.hands import BLACK
from yellow_hinge.ui.paint.keys import BLACK_LONG, Keyboard, KeyShape, keyboard
from yellow_hinge.ui.paint.theme import SMALL, Theme, font, text_scale

STAYING = ("held", "passes")  # kinds of strands on which no finger moves


def hair(color: QColor, width: float = 1.0) -> QPen:
    """A pen that stays sharp at any scale."""
    pen = QPen(color, width)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    return pen


def plate(painter: QPainter, theme: Theme, area: QRectF, hand: str, text: str, hollow: bool = False) -> None:
    """A note: square for the left hand, round for the right, so that grey tells them apart too; `hollow` where no hand
    that is shown holds it.
    """
    ratio = painter.device().devicePixelRatioF()
    picture = _plate(theme, round(area.width() * 4), round(area.height() * 4), hand, text, text_scale(), ratio, hollow)
    painter.drawPixmap(QPointF(round(area.x() * ratio) / ratio, round(area.y() * ratio) / ratio), picture)


def small_plates(
    painter: QPainter, theme: Theme, size: tuple[float, float], hand: str, spots: list[tuple[float, float]]
) -> None:
    """Many notes of a hand without text, with their middles at `spots`."""
    ratio = painter.device().devicePixelRatioF()
    wide, tall = size
    picture = _plate(theme, round(wide * 4), round(tall * 4), hand, "", text_scale(), ratio, False)
    for x, y in spots:
        left, top = x - wide / 2, y - tall / 2
        painter.drawPixmap(QPointF(round(left * ratio) / ratio, round(top * ratio) / ratio), picture)


@lru_cache(maxsize=512)
def _plate(
    theme: Theme, wide: int, tall: int, hand: str, text: str, scale: float, ratio: float, hollow: bool
) -> QPixmap:
    """A plate as a picture: drawn once, shown often. `wide` and `tall` in quarters of a pixel."""
    made = QPixmap(ceil(wide / 4 * ratio), ceil(tall / 4 * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _draw_plate(painter, theme, QRectF(0, 0, wide / 4, tall / 4), hand, text, hollow)
    painter.end()
    return made


def _draw_plate(painter: QPainter, theme: Theme, area: QRectF, hand: str, text: str, hollow: bool) -> None:
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.hand(hand))
    if hollow:
        area = area.adjusted(1, 1, -1, -1)
        painter.setPen(hair(theme.hand(hand), 1.8))
        painter.setBrush(theme.color("raised"))
    if hand == "left" and not text:
        painter.drawRect(area)
        return
    radius = 1.5 if hand == "left" else area.height() / 2
    painter.drawRoundedRect(area, radius, radius)
    if not text:
        return
    painter.setPen(theme.hand(hand) if hollow else theme.color("on_plate"))
    painter.setFont(font(SMALL, bold=True))
    painter.drawText(area, Qt.AlignmentFlag.AlignCenter, text)


@lru_cache(maxsize=1024)
def small_width(text: str, scale: float) -> int:
    """Width of a small text in pixels, at a scale of all text."""
    return QFontMetrics(font(SMALL)).horizontalAdvance(text)


def clasp(painter: QPainter, theme: Theme, x: float, y: float, size: float = 1.0, rests: bool = False) -> None:
    """The mark of what is kept: a small closed clasp with its middle at (x, y); open and hollow where it rests."""
    color = theme.color("muted" if rests else "ink")
    painter.setPen(hair(color, 1.6))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(QRectF(x - (0.5 if rests else 3.5) * size, y - 7 * size, 7 * size, 8 * size), 0, 180 * 16)
    if not rests:
        painter.setBrush(color)
    painter.drawRect(QRectF(x - 5 * size, y - 2.5 * size, 10 * size, 7 * size))


# The strokes of each kind of remark, in a square of side 2 around the middle.
_STROKES: dict[str, tuple[tuple[tuple[float, float], ...], ...]] = {
    "stretch": (((-1, 0), (1, 0)), ((-0.5, -0.5), (-1, 0), (-0.5, 0.5)), ((0.5, -0.5), (1, 0), (0.5, 0.5))),
    "mud": (((-1, -0.4), (-0.4, -0.8), (0.2, -0.2), (1, -0.7)), ((-1, 0.5), (-0.4, 0.1), (0.2, 0.7), (1, 0.2))),
    "collision": (((-1, -0.9), (-0.1, 0), (-1, 0.9)), ((1, -0.9), (0.1, 0), (1, 0.9))),
    "clash": (((-0.8, -0.8), (0.8, 0.8)), ((-0.8, 0.8), (0.8, -0.8))),
    "reading": (((-0.8, -0.35), (0.8, -0.35)), ((-0.8, 0.35), (0.8, 0.35)), ((0.5, -0.9), (-0.5, 0.9))),
    "note": (((0, -0.9), (0, 0.2)), ((0, 0.7), (0, 0.9))),
}


def remark_mark(painter: QPainter, theme: Theme, kind: str, x: float, y: float) -> None:
    """A small sign that there is a sentence to read: arrows for a stretch, waves for mud, two hands that meet, a cross
    for a clash with the melody, a crossed equals sign for another chord, a stroke and a dot for what gave way.
    """
    painter.setPen(hair(theme.color("error"), 1.5))
    for line in _STROKES[kind]:
        painter.drawPolyline(QPolygonF([QPointF(x + 6 * dx, y + 6 * dy) for dx, dy in line]))


def draw_keyboard(painter: QPainter, theme: Theme, keys: Keyboard, label: str, plates: bool = True) -> None:
    """A keyboard with its sounding keys coloured by hand; `label` is the kind of text on the plates, "" for none."""
    ratio = painter.device().devicePixelRatioF() if painter.device() is not None else 1.0
    first, last = keys.keys[0], max(keys.keys, key=lambda key: key.x)
    size = (first.midi, last.midi, round(first.width * 64), round(keys.height * 64))
    painter.drawPixmap(QPointF(round(first.x), round(keys.y)), _blank(theme, size, ratio))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    hands = {mark.midi: mark for mark in keys.marks}
    sounding = {midi + by for midi in hands for by in (-1, 0, 1)}  # with the black keys that lie over a white one
    for key in keys.keys:
        mark = hands.get(key.midi)
        if key.midi in sounding and (mark or key.black):
            painter.setBrush(theme.hand(mark.hand) if mark else theme.color("black_key"))
            painter.setPen(hair(theme.color("key_line")))
            painter.drawRect(_key_area(keys, key))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
    if plates:
        _plates(painter, theme, keys, label)


def _key_area(keys: Keyboard, key: KeyShape) -> QRectF:
    tall = keys.height * (BLACK_LONG if key.black else 1.0)
    return QRectF(round(key.x), round(keys.y), round(key.x + key.width) - round(key.x), round(tall))


@lru_cache(maxsize=48)
def _blank(theme: Theme, size: tuple[int, int, int, int], ratio: float) -> QPixmap:
    """The keys of a keyboard with none held. `size`: lowest and highest key, width of a white key and height in 64ths
    of a pixel.
    """
    low, high, unit, tall = size
    whites = sum(1 for midi in range(low, high + 1) if midi % 12 not in BLACK)
    keys = keyboard(low, high, 0.0, 0.0, whites * unit / 64, tall / 64, ())
    made = QPixmap(round((whites * unit / 64 + 2) * ratio), round((tall / 64 + 2) * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setPen(hair(theme.color("key_line")))
    for key in keys.keys:
        painter.setBrush(theme.color("black_key" if key.black else "white_key"))
        painter.drawRect(_key_area(keys, key))
    painter.end()
    return made


def _plates(painter: QPainter, theme: Theme, keys: Keyboard, label: str) -> None:
    hands = {mark.midi: mark for mark in keys.marks}
    for key in keys.keys:
        mark = hands.get(key.midi)
        if mark is None and key.midi != 60:
            continue
        tall = keys.height * (BLACK_LONG if key.black else 1.0)
        area = QRectF(key.x + key.width / 2 - 11, keys.y + tall - 20, 22, 16)
        painter.setPen(theme.color("on_plate" if mark else "black_key"))
        painter.setFont(font(SMALL, bold=mark is not None))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, mark.label(label) if mark else "C4")
        if mark is not None:
            _hand_sign(painter, theme, mark.hand, QPointF(area.center().x(), area.top() - 4))


def _hand_sign(painter: QPainter, theme: Theme, hand: str, middle: QPointF) -> None:
    """Over a held key's name: a square for the left hand, a round for the right, so that grey tells them apart."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("on_plate"))
    if hand == "left":
        painter.drawRect(QRectF(middle.x() - 3.5, middle.y() - 3.5, 7, 7))
    else:
        painter.drawEllipse(middle, 3.5, 3.5)


def is_current(option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> bool:
    """Whether a list's row is the chosen one; asked of the list, since the style's own flags are slow to load."""
    view = option.widget
    return isinstance(view, QAbstractItemView) and view.currentIndex().row() == index.row()


def draw_fingers(painter: QPainter, theme: Theme, keys: Keyboard, y: float, height: float) -> None:
    """The finger of every sounding key in a line at `y`."""
    painter.setFont(font(SMALL, bold=True))
    for mark in keys.marks:
        painter.setPen(theme.hand(mark.hand))
        area = QRectF(keys.centre(mark.midi) - 10, y, 20, height)
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, mark.finger)


def tick_box(painter: QPainter, theme: Theme, area: QRectF, on: bool) -> None:
    """A box with a tick in it, or without."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(hair(theme.color("ink" if on else "muted"), 1.2))
    painter.setBrush(theme.color("raised"))
    painter.drawRoundedRect(area, 2, 2)
    if on:
        x, y, wide = area.x(), area.y(), area.width()
        painter.setPen(hair(theme.color("ink"), 1.8))
        spots = ((0.22, 0.52), (0.43, 0.74), (0.8, 0.26))
        painter.drawPolyline(QPolygonF([QPointF(x + wide * dx, y + wide * dy) for dx, dy in spots]))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


def mark_bracket(painter: QPainter, theme: Theme, left: float, right: float, top: float) -> None:
    """The bracket over what is marked: a heavy line with its ends turned down."""
    for x, wide, tall in ((left, right - left, 3.0), (left, 3.0, 9.0), (right - 3.0, 3.0, 9.0)):
        painter.fillRect(QRectF(x, top, wide, tall), theme.color("ink"))


@lru_cache(maxsize=64)
def strand_pen(moving: str, held: str, kind: str, weight: int, wide: bool) -> QPen:
    """The pen of a strand; brass where something moves, a little stronger for outer voices and wide moves."""
    stays = kind in STAYING
    color = QColor(held if stays else moving)
    if stays:
        color.setAlphaF(0.75 if weight > 1 else 0.5)
    pen = hair(color, (1.2 if stays else 2.0) + 0.8 * (weight - 1) + (0.8 if wide else 0.0))
    if kind in ("enters", "leaves"):
        pen.setStyle(Qt.PenStyle.DotLine)
    return pen
