"""What stands over and under a chord of the strand map."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from yellow_hinge.ui.paint.painting import clasp, hair, remark_mark
from yellow_hinge.ui.paint.strand.strands import (
    BESIDE,
    FOOT_H,
    HINGE_H,
    HINGE_TOP,
    HINGE_W,
    ONCE,
    RESTS,
    Column,
    Plate,
    StrandScene,
)
from yellow_hinge.ui.paint.strand.words import unique_kinds
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font

CENTRE = Qt.AlignmentFlag.AlignCenter
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def _plates_of(column: Column, part: str) -> list[Plate]:
    """The plates of the hand that a kept part belongs to."""
    hand = "left" if part in ("left", "bass") else "right"
    return [note for note in column.plates if note.mark.hand == hand]


def draw_foot(painter: QPainter, theme: Theme, scene: StrandScene, column: Column) -> None:
    """The tune and the words under a chord."""
    foot, wide = scene.height - FOOT_H, int(scene.column_w) - 10
    painter.setFont(font(SMALL))
    painter.setPen(theme.color("error" if column.clash else "muted"))
    metrics = painter.fontMetrics()
    tune = metrics.elidedText(column.tune, Qt.TextElideMode.ElideRight, wide)
    painter.drawText(QRectF(column.x + 8, foot + 2, wide, 18), LEFT, tune)
    painter.setPen(theme.color("ink"))
    cue = metrics.elidedText(column.cue, Qt.TextElideMode.ElideRight, wide)
    painter.drawText(QRectF(column.x + 8, foot + 20, wide, 18), LEFT, cue)


def draw_head(painter: QPainter, theme: Theme, scene: StrandScene, index: int, chosen: bool) -> None:
    """What stands over a chord: section, bar, symbol, remarks, the hinge that follows, and what is kept."""
    column, roomy = scene.columns[index], scene.roomy
    painter.setPen(theme.color("muted"))
    painter.setFont(font(SMALL, bold=True))
    if column.section:
        wide = max(90.0, 3 * scene.column_w)
        painter.drawText(QRectF(column.x + (8 if roomy else 3), 0, wide, 16), LEFT, column.section)
    if column.bar and roomy:
        after = painter.fontMetrics().horizontalAdvance(column.section) + 8 if column.section else 0
        painter.setFont(font(SMALL))
        painter.drawText(QRectF(column.x + 8 + after, 0, 40, 16), LEFT, column.bar)
    if not roomy and not chosen and scene.column_w < 44:
        return
    painter.setPen(theme.color("ink"))
    _names(painter, theme, scene, column, chosen)
    if roomy:
        _remarks(painter, theme, scene, index, chosen)
    if BESIDE in column.kept:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("brass"))
        painter.drawEllipse(QPointF(column.x + 3.5, 27), 2.6, 2.6)
    if column.kept - {BESIDE, ONCE}:
        _clasps(painter, theme, scene, column)


def _names(painter: QPainter, theme: Theme, scene: StrandScene, column: Column, chosen: bool) -> None:
    if not scene.roomy:
        painter.setFont(font(SMALL, bold=True))
        room = scene.column_w - 4 if not chosen else max(scene.column_w, 60.0)
        text = painter.fontMetrics().elidedText(column.symbol, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(QRectF(column.x + 2, 18, room, 18), LEFT, text)
        return
    wide = scene.column_w - 10 - 16 * len(unique_kinds(column))
    painter.setFont(font(LARGE if len(column.symbol) < 9 else BODY, bold=True))
    text = painter.fontMetrics().elidedText(column.symbol, Qt.TextElideMode.ElideRight, int(wide))
    painter.drawText(QRectF(column.x + 8, 16, wide, 22), LEFT, text)
    painter.setPen(theme.color("muted"))
    painter.setFont(font(SMALL))
    painter.drawText(QRectF(column.x + 8, 37, scene.column_w - 12, 16), LEFT, column.number)


def _remarks(painter: QPainter, theme: Theme, scene: StrandScene, index: int, chosen: bool) -> None:
    column = scene.columns[index]
    for place, remark in enumerate(unique_kinds(column)):
        remark_mark(painter, theme, remark, column.x + scene.column_w - 14 - 16 * place, 27)
    if column.hinge:
        _joint(painter, theme, scene, column, chosen)


def _clasps(painter: QPainter, theme: Theme, scene: StrandScene, column: Column) -> None:
    """A clasp at the head for a whole chord, one beside the hand or note where only a part is kept."""
    roomy = scene.roomy
    middle = column.x + (scene.column_w / 2 - 2 if roomy else 8)
    if RESTS in column.kept:
        clasp(painter, theme, middle + (16 if "chord" in column.kept else 0), 62, rests=True)
    if ONCE in column.kept:  # a figure beside the clasp: once
        painter.setPen(theme.color("ink"))
        painter.setFont(font(SMALL, bold=True))
        painter.drawText(QRectF(middle - 24, 54, 16, 16), CENTRE, "1×")
    if "chord" in column.kept:
        clasp(painter, theme, middle, 62)
        return
    for part in sorted(column.kept - {RESTS, BESIDE, ONCE}):
        found = _plates_of(column, part)
        if not found:
            continue
        y = {"top": found[-1].y, "bass": found[0].y}.get(part, sum(note.y for note in found) / len(found))
        x = max(note.x for note in found) + scene.plate_w / 2 + (9 if roomy else 3)
        clasp(painter, theme, x, y, 0.75)
        if part in ("left", "right"):
            painter.setPen(hair(theme.color("ink"), 1.4))
            painter.drawLine(QPointF(x, found[-1].y - 5), QPointF(x, found[0].y + 5))


def _joint(painter: QPainter, theme: Theme, scene: StrandScene, column: Column, chosen: bool) -> None:
    """The hinge's figure, astride the line between two chords; brass only where something moves."""
    middle = column.x + scene.column_w - 2
    area = QRectF(middle - HINGE_W / 2, HINGE_TOP, HINGE_W, HINGE_H)
    moves = column.hinge != "0"
    painter.setPen(hair(theme.color("brass" if moves else "line"), 1.6 if chosen else 1.0))
    painter.setBrush(theme.color("brass_fill") if chosen and moves else theme.color("paper"))
    painter.drawRoundedRect(area, 3, 3)
    painter.setFont(font(SMALL, bold=column.stiff or chosen))
    painter.setPen(theme.color("on_brass" if chosen and moves else "brass_text" if moves else "muted"))
    painter.drawText(area, CENTRE, column.hinge)
