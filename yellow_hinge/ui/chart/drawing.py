"""Painting a set-out chart."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from operator import attrgetter
from typing import TypeVar

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from yellow_hinge.core.song.song import Address
from yellow_hinge.ui.chart.scene import ROW_H, ChartBar, ChartCell, ChartScene
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font

P = TypeVar("P", ChartCell, ChartBar)
_top = attrgetter("y")
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


def draw_chart(
    painter: QPainter, theme: Theme, scene: ChartScene, width: float, sight: QRectF | None = None,
    selected: Address | None = None,
) -> None:  # fmt: skip
    """Paint what of a scene `width` pixels wide is in sight (None: all), with a chord selected."""
    painter.setFont(font(BODY, bold=True))
    painter.setPen(theme.color("ink"))
    for y, words in scene.heads:
        painter.drawText(QRectF(12, y, width - 24, 26), LEFT, words)

    for cell in in_sight(scene.cells, sight):
        _cell(painter, theme, cell, cell.address == selected)
    for bar in in_sight(scene.bars, sight):
        _bar(painter, theme, bar)


def in_sight(row: Sequence[P], sight: QRectF | None) -> Sequence[P]:
    """What is in sight of a row of cells or bars, which go down the page."""
    if sight is None:
        return row
    first = bisect_left(row, sight.top() - ROW_H, key=_top)
    return row[first : bisect_right(row, sight.bottom(), key=_top)]


def _cell(painter: QPainter, theme: Theme, cell: ChartCell, chosen: bool) -> None:
    x, wide = cell.x + 8, cell.width - 10
    if chosen:
        painter.fillRect(QRectF(cell.x + 1, cell.y + 2, cell.width - 1, ROW_H - 6), theme.color("chosen"))

    def line(y: float, text: str, role: str, size: float, bold: bool = False) -> None:
        painter.setFont(font(size, bold))
        painter.setPen(theme.color(role))
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(wide))
        painter.drawText(QRectF(x, cell.y + y, wide, 18), LEFT, shown)

    line(2, cell.tune, "muted", SMALL)
    line(19, cell.symbol, "ink", LARGE if cell.width > 70 else BODY, bold=True)
    line(37, cell.number, "muted", SMALL)
    line(53, f"was {cell.was}" if cell.was else cell.notes, "muted", SMALL)
    line(69, cell.cue, "ink", SMALL)


def _bar(painter: QPainter, theme: Theme, bar: ChartBar) -> None:
    heavy = bar.mark.startswith("|:")
    painter.setPen(hair(theme.color("ink" if heavy else "line"), 2.5 if heavy else 1.0))
    painter.drawLine(QPointF(bar.x, bar.y + 4), QPointF(bar.x, bar.y + ROW_H - 8))
    painter.setPen(hair(theme.color("ink" if bar.close else "line"), 2.5 if bar.close else 1.0))
    painter.drawLine(QPointF(bar.x + bar.width, bar.y + 4), QPointF(bar.x + bar.width, bar.y + ROW_H - 8))
    area = QRectF(bar.x + 4, bar.y + 2, bar.width - 8, 16)
    painter.setFont(font(SMALL))
    painter.setPen(theme.color("muted"))
    painter.drawText(area, RIGHT, bar.label)
    painter.setFont(font(SMALL, bold=True))
    painter.setPen(theme.color("ink"))
    words = " · ".join(filter(None, (bar.mark.replace("|:", "").strip(), bar.close.replace(":|", "repeat"))))
    painter.drawText(area.adjusted(0, 0, -20, 0), RIGHT, words)
