"""How the stage looks: the line that was left small at the top, the present one the largest, the next one below it."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from yellow_hinge.core.onstage.lines import ShownBar, ShownLine
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.onstage.cells import (
    AIR,
    SYMBOL,
    Seen,
    draw_cell,
    draw_fitted,
    draw_words,
    keys_of,
    letters,
    width_of,
)
from yellow_hinge.ui.paint.keys import octave_span
from yellow_hinge.ui.paint.theme import Theme

HEAD, LEFT, PRESENT, FOOT = 0.085, 0.10, 0.46, 0.05  # shares of the height; the next line has the rest
PAD = 0.012  # of the width
# How tall each row of a chord is, in heights of its symbol.
ROWS = {"numbers": 0.42, "words": 0.42, "hands": 0.84, "keyboards": 0.95, "notes": 0.38}
SMALLER = 0.88  # of the present line's symbols, what those of the others may be
MOST_GROWN = 1.8  # how much taller rows are where a line has room
WIDEST = {"left": 0.18, "present": 0.44, "next": 0.32}  # of a symbol's height, in the width of one of four bars
A_ROW = 4  # bars side by side


def paint_stage(painter: QPainter, area: QRectF, seen: Seen) -> None:
    """The whole screen."""
    paint_still(painter, area, seen)
    paint_moving(painter, area, seen)


def paint_still(painter: QPainter, area: QRectF, seen: Seen) -> None:
    """All that stays until the next turn."""
    theme, wide, tall = seen.theme, area.width(), area.height()
    painter.fillRect(area, theme.color("paper"))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _head(painter, QRectF(area.x(), area.y(), wide, tall * HEAD), seen)
    if seen.problem:
        draw_words(painter, area, seen.problem, letters(tall * 0.04), theme.color("ink"), Qt.AlignmentFlag.AlignCenter)
    span, boxes, largest = _span(seen), _boxes(area, seen), float("inf")
    for large in ("present", "left", "next"):  # the others are smaller than the present one
        if large in boxes:
            place, box = boxes[large]
            unit = _line(painter, box, seen, place, large, span, largest)
            largest = min(largest, unit * SMALLER)
    _foot(painter, QRectF(0, tall * (1 - FOOT), wide, tall * FOOT), seen)


def paint_moving(painter: QPainter, area: QRectF, seen: Seen) -> None:
    """What moves over it: how much of a bar has sounded, how long Escape is held."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for place, box in _boxes(area, seen).values():
        if seen.spot is not None and seen.spot.line == place:
            _sounding(painter, _bar_box(_inner(box), seen, seen.spot.bar), seen.spot.share, seen.theme)
    if seen.held > 0:
        _ring(painter, area, seen)


def same_still(one: Seen, other: Seen) -> bool:
    """Whether what stays is the same in both."""
    same = one.run.lines is other.run.lines and one.run.at == other.run.at and one.following is other.following
    return same and one._replace(run=other.run, spot=None, held=0.0) == other._replace(spot=None, held=0.0)


def _boxes(area: QRectF, seen: Seen) -> dict[str, tuple[int, QRectF]]:
    """Each line that is seen by how it is shown: which one it is, and where."""
    wide, tall, found = area.width(), area.height(), dict[str, tuple[int, QRectF]]()
    top = tall * HEAD
    for place, share, large in _places(seen):
        found[large] = place, QRectF(wide * PAD, top, wide * (1 - 2 * PAD), tall * share)
        top += tall * share
    return found


def _inner(box: QRectF) -> QRectF:
    return box.adjusted(0, box.height() * 0.05, 0, -box.height() * 0.05)


def _bar_box(inner: QRectF, seen: Seen, number: int) -> QRectF:
    """Where a bar of a line stands: side by side, eight in two rows."""
    a_row = min(A_ROW, seen.ask.bars)
    wide, tall = inner.width() / a_row, inner.height() / (seen.ask.bars / a_row)
    return QRectF(inner.x() + number % a_row * wide, inner.y() + number // a_row * tall, wide, tall * 0.97)


def _places(seen: Seen) -> list[tuple[int, float, str]]:
    """The lines that are seen with their share of the height, and how they are shown; the first line has the room of
    the one that was left.
    """
    run = seen.run._replace(lines=seen.lines)
    shares = {run.at - 1: ("left", LEFT), run.at: ("present", PRESENT if run.at else PRESENT + LEFT / 2)}
    found: list[tuple[int, float, str]] = []
    for at in run.on_screen():
        rest = 1 - HEAD - FOOT - sum(share for _, share, _ in found)
        large, share = shares.get(at, ("next", rest))
        found.append((at, share, large))
    return found


def _span(seen: Seen) -> tuple[int, int]:
    """The keys of every little keyboard on the screen."""
    cells = [cell for at, _, _ in _places(seen) for bar in seen.lines[at].bars for cell in bar.cells]
    return octave_span([key.midi for cell in cells for key in keys_of(cell)])


def _head(painter: QPainter, box: QRectF, seen: Seen) -> None:
    """The section, the song, and near its end the next one."""
    theme, pad = seen.theme, box.width() * PAD
    inner = box.adjusted(pad, 0, -pad, 0)
    line = seen.run.line
    third = inner.width() / 3
    left, right = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight
    middle = Qt.AlignmentFlag.AlignVCenter
    if line is not None:
        section = " · ".join(filter(None, (line.section, line.time)))
        place = QRectF(inner.x(), inner.y(), third, inner.height())
        draw_words(
            painter, place, pretty_signs(section), letters(box.height() * 0.62, True), theme.color("ink"), left | middle
        )
    facts = pretty_signs("   ".join(filter(None, (seen.title, seen.facts, seen.after))))
    place = QRectF(inner.x() + third, inner.y(), third, inner.height())
    role = "brass_text" if seen.after else "muted"
    draw_words(
        painter, place, facts, letters(box.height() * 0.38), theme.color(role), Qt.AlignmentFlag.AlignHCenter | middle
    )
    if seen.run.ending:
        words = f"then {pretty_signs(seen.coming)}" if seen.coming else "the last song" if seen.run.lines else ""
        place = QRectF(inner.right() - third, inner.y(), third, inner.height())
        draw_words(painter, place, words, letters(box.height() * 0.5, True), theme.color("ink"), right | middle)


def _line(
    painter: QPainter, box: QRectF, seen: Seen, at: int, large: str, span: tuple[int, int], largest: float
) -> float:
    """One line: its bars side by side, each as wide as the others, eight in two rows; how tall its symbols are, which
    is no more than `largest`.
    """
    line, inner = seen.lines[at], _inner(box)
    if large == "next" and line.begins:
        inner = _name(painter, inner, seen, line)
    one = _bar_box(inner, seen, 0)
    unit, rows = _sizes(seen, line, large, one.width(), one.height() / 0.97, largest)
    painter.setOpacity(0.55 if large == "left" else 1.0)
    for number, bar in enumerate(line.bars):
        _bar(painter, _bar_box(inner, seen, number), seen, bar, unit, rows, span)
        _marks(painter, _bar_box(inner, seen, number), seen, at, number)
    painter.setOpacity(1.0)
    return unit


def _sizes(
    seen: Seen, line: ShownLine, large: str, wide: float, tall: float, largest: float
) -> tuple[float, dict[str, float]]:
    """How tall the symbols of a line are whose bars are `wide` x `tall`, and every row under them."""
    shown = [part for part in ROWS if seen.ask.shows(part) and _has(line, part)] if large != "left" else []
    most = tall / (SYMBOL + AIR + sum(ROWS[row] + AIR / 3 for row in shown))
    unit = min(min(most, wide * WIDEST[large]) * _shrink(line, most, wide), largest)
    below = sum(ROWS[row] + AIR / 3 for row in shown) * unit
    grown = min(MOST_GROWN, (tall - unit * (SYMBOL + AIR)) / below) if below else 1.0
    return unit, {row: ROWS[row] * unit * grown for row in shown}


def _marks(painter: QPainter, box: QRectF, seen: Seen, at: int, number: int) -> None:
    """Where a line turns by itself, in its last bar."""
    last = at == seen.run.at and number == len(seen.lines[at].bars) - 1
    if seen.ask.turns and last and at + 1 < len(seen.run.lines):
        _turn(painter, box, seen.theme)


def _name(painter: QPainter, box: QRectF, seen: Seen, line: ShownLine) -> QRectF:
    """The name of a section that begins, over its line; the room that is left."""
    tall = min(box.height() * 0.18, box.width() * 0.03)
    words = pretty_signs(" · ".join(filter(None, (line.section, line.time))))
    place = QRectF(box.x(), box.y(), box.width(), tall)
    align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    draw_words(painter, place, words, letters(tall * 0.9, True), seen.theme.color("muted"), align)
    return box.adjusted(0, tall, 0, 0)


def _has(line: ShownLine, part: str) -> bool:
    """Whether a line has anything of a kind; what it has not takes no room."""
    cells = [cell for bar in line.bars for cell in bar.cells]
    if part == "words":
        return any(cell.cue for cell in cells)
    if part == "notes":
        return any(cell.memo for cell in cells)
    return any(cell.voicing >= 0 for cell in cells)


def _shrink(line: ShownLine, unit: float, wide: float) -> float:
    """By how much the symbols of a line are smaller so that most of its bars have room for them; a bar that is fuller
    than most is squeezed by itself.
    """
    needs = sorted(sum(width_of(cell.symbol, unit, True) + unit * 0.3 for cell in bar.cells) for bar in line.bars)
    need = needs[(len(needs) * 3 - 1) // 4]
    return max(0.4, min(1.0, (wide - unit * 0.3) / need)) if need else 1.0


def _bar(
    painter: QPainter,
    box: QRectF,
    seen: Seen,
    bar: ShownBar,
    unit: float,
    rows: dict[str, float],
    span: tuple[int, int],
) -> None:
    """A bar: its line, its meter where that is another, its chords as wide as they need, the rest by their beats."""
    theme = seen.theme
    painter.setPen(QPen(theme.color("line"), max(1.5, unit * 0.03)))
    painter.drawLine(box.topLeft(), box.bottomLeft())
    inner = box.adjusted(unit * 0.18, 0, -unit * 0.08, 0)
    if bar.meter and bar.quarter:
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop
        place = QRectF(inner.x(), box.y() - unit * 0.05, inner.width(), unit * 0.34)
        draw_words(painter, place, bar.meter, letters(unit * 0.3, True), theme.color("muted"), align)
    needs = [width_of(cell.symbol, unit, True) + unit * 0.2 for cell in bar.cells]
    spare = max(0.0, inner.width() - sum(needs))
    squeeze = min(1.0, inner.width() / max(1.0, sum(needs)))
    x = inner.x()
    for cell, need, beats in zip(bar.cells, needs, bar.beats, strict=True):
        wide = need * squeeze + spare * beats / sum(bar.beats)
        draw_cell(painter, QRectF(x, inner.y(), wide - unit * 0.1, inner.height()), seen, cell, unit, rows, span)
        x += wide


def _sounding(painter: QPainter, box: QRectF, share: float, theme: Theme) -> None:
    """How much of the bar that sounds has sounded."""
    painter.setPen(
        QPen(theme.color("brass"), max(4.0, box.width() * 0.02), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap)
    )
    y = box.bottom() + box.width() * 0.01
    painter.drawLine(QPointF(box.x(), y), QPointF(box.x() + max(4.0, box.width() * share), y))


def _turn(painter: QPainter, box: QRectF, theme: Theme) -> None:
    """Where the line turns by itself: half way through its last bar."""
    painter.setPen(QPen(theme.color("brass"), 2, Qt.PenStyle.DashLine))
    x = box.x() + box.width() / 2
    painter.drawLine(QPointF(x, box.y() + 4), QPointF(x, box.bottom() - 4))


def _foot(painter: QPainter, box: QRectF, seen: Seen) -> None:
    """How far the song is, and for a while what can be done."""
    theme, count = seen.theme, len(seen.run.lines)
    if count:
        painter.fillRect(QRectF(0, box.bottom() - 3, box.width(), 3), theme.color("line"))
        done = box.width() * (seen.run.at + 1) / count
        painter.fillRect(QRectF(0, box.bottom() - 3, done, 3), theme.color("muted"))
    if seen.hint:
        pad = box.width() * PAD
        draw_fitted(painter, box.adjusted(pad, 0, -pad, -4), seen.hint, box.height() * 0.5, theme.color("muted"))


def _ring(painter: QPainter, area: QRectF, seen: Seen) -> None:
    """How long Escape is held already."""
    side = area.height() * 0.2
    box = QRectF(area.center().x() - side / 2, area.center().y() - side / 2, side, side)
    painter.setBrush(seen.theme.color("paper"))
    painter.setPen(QPen(seen.theme.color("line"), side * 0.12))
    painter.drawEllipse(box)
    painter.setPen(QPen(seen.theme.color("ink"), side * 0.12, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(box, 90 * 16, -round(seen.held * 360 * 16))
    made, align = letters(side * 0.13), Qt.AlignmentFlag.AlignCenter
    draw_words(painter, box.adjusted(side * 0.15, 0, -side * 0.15, 0), "leaving", made, seen.theme.color("ink"), align)
