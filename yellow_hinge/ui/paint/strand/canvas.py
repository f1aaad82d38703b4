"""The painted part of the strand map, and what the mouse does on it: pick a chord, hear and move a note."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QEvent, QLineF, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QHelpEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QToolTip, QWidget

from yellow_hinge.ui.paint.painting import (
    STAYING,
    hair,
    mark_bracket,
    plate,
    small_plates,
    strand_pen,
)
from yellow_hinge.ui.paint.strand.heads import CENTRE, draw_foot, draw_head
from yellow_hinge.ui.paint.strand.strands import (
    BESIDE,
    KEYS_W,
    Between,
    Column,
    Plate,
    Strand,
    StrandScene,
    changed_columns,
)
from yellow_hinge.ui.paint.strand.words import describe
from yellow_hinge.ui.paint.theme import SMALL, Theme, font

GRIP = 4  # pixels of the mouse before a press on a plate becomes a drag


class Tried(NamedTuple):
    """A voicing tried in a column: its plates, the moved note (MIDI, None for none), and whether it can be played."""

    column: int
    plates: tuple[Plate, ...]
    moved: int | None
    words: str
    playable: bool


class StrandCanvas(QWidget):
    """Paints a StrandScene; only the columns in sight. `picked` a chord, `drawn` the mark to one (anew or farther),
    `struck` a note, `dragged` and `dropped` a plate: hand, its MIDI number, the one it is over; `ringed_` a note that
    is pointed at, `asked` the menu of a "chord", "hinge" or "note" of a column at a point of the screen, `edited` that
    a "symbol", "cue" or "section" of a column is to be written anew in an area.
    """

    picked = Signal(int)
    drawn = Signal(int, bool)
    struck = Signal(int)
    dragged = Signal(str, int, int)
    dropped = Signal(str, int, int)
    ringed_ = Signal(str, int)
    asked = Signal(str, int, object)
    edited = Signal(str, int, object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: StrandScene | None = None
        self.selected = 0
        self.labels = "degrees"
        self.tried: Tried | None = None
        self.ringed: tuple[str, int] | None = None  # the note that keys move
        self.movable = True  # notes can be dragged
        self.fills: tuple[Between, ...] = ()
        self.playing = -1  # the chord that sounds
        self.marked = range(0)
        self._drawing: bool | None = None  # a drag: over no note yet, marking
        self._grip: tuple[Plate, float] | None = None
        self._over: int | None = None
        self.setAccessibleName("Strand map")
        self.setMouseTracking(True)

    def show_scene(self, scene: StrandScene | None, selected: int) -> None:
        """Paint another map; columns that are as they were are not painted again."""
        old, changed = self.scene, self.selected != selected or self.tried is not None or self.ringed is not None
        self.scene, self.selected, self.tried, self.ringed = scene, selected, None, None
        if scene is not None:
            self.resize(int(scene.width), int(scene.height))
            self.setAccessibleDescription(describe(scene, selected) if scene.columns else "")
        if scene is None or old is None or changed or old.grid != scene.grid or old.height != scene.height:
            self.update()
            return
        changed_run = changed_columns(old, scene)
        if changed_run is not None:  # strands and figures reach into the columns beside
            x, end = scene.grid.x_of(changed_run[0] - 1), scene.grid.x_of(changed_run[1] + 2)
            self.update(int(x), 0, int(end - x) + 1, int(scene.height))

    def show_playing(self, index: int) -> None:
        """Mark the chord that sounds, -1 for none; only its column and the one before are painted again."""
        old, self.playing = self.playing, index
        if self.scene is not None:
            for column in {old, index} & set(range(len(self.scene.columns))):
                x = int(self.scene.columns[column].x)
                self.update(x, 0, int(self.scene.column_w) + 1, int(self.scene.height))

    def show_tried(self, tried: Tried | None) -> None:
        """Paint a voicing that is tried in place of the one there."""
        self.tried = tried
        self.update()

    # --- input ---
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is None or not self.scene.columns or event.button() != Qt.MouseButton.LeftButton:
            return
        at = event.position()
        found = self.scene.plate_at(at.x(), at.y())
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.drawn.emit(self.scene.column_at(at.x()), False)
            return
        self.picked.emit(found[0] if found else self.scene.column_at(at.x()))
        self._drawing = False if found is None else None
        if found and self.scene.roomy:
            self._grip, self._over = (found[1], at.y()), None

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The right button: of a note, the hinge after a chord, or the chord."""
        if event.reason() == QContextMenuEvent.Reason.Keyboard or self.scene is None or not self.scene.columns:
            event.ignore()
            return
        thing, index, note = self.scene.thing_at(event.pos().x(), event.pos().y())
        if index not in self.marked:
            self.picked.emit(index)
        if note is not None:
            self.ringed_.emit(note.mark.hand, note.mark.midi)
        self.asked.emit(thing, index, event.globalPos())

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """What is written over and under a chord is written anew in its place."""
        found = self.scene.words_at(event.position().x(), event.position().y()) if self.scene is not None else None
        if found is not None:
            what, index, area = found
            self.edited.emit(what, index, QRectF(*area).toRect())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.scene is None or not self.scene.columns:
            return
        at = event.position()
        if self._drawing is not None:
            if self.scene.column_at(at.x()) != self.selected:
                self.drawn.emit(self.scene.column_at(at.x()), not self._drawing)
                self._drawing = True
        elif self._grip is None:
            over = self.scene.plate_at(at.x(), at.y()) if self.scene.roomy else None
            up_and_down = over is not None and self.movable
            self.setCursor(Qt.CursorShape.SizeVerCursor if up_and_down else Qt.CursorShape.ArrowCursor)
        elif self.movable:
            self._drag(*self._grip, at.y(), self.scene.step)

    def _drag(self, held: Plate, start: float, y: float, step: float) -> None:
        if self._over is None and abs(y - start) < GRIP:
            return
        over_midi = held.mark.midi + round((start - y) / step)
        if over_midi != self._over:
            self._over = over_midi
            self.dragged.emit(held.mark.hand, held.mark.midi, over_midi)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        grip, over, self._grip, self._over = self._grip, self._over, None, None
        self._drawing = None
        if grip is not None and over is None:
            self.struck.emit(grip[0].mark.midi)
        elif grip is not None and over is not None:
            self.dropped.emit(grip[0].mark.hand, grip[0].mark.midi, over)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent) and self.scene and self.scene.columns:
            QToolTip.showText(event.globalPos(), self._tip(event.pos().x(), event.pos().y()), self)
            return True
        return super().event(event)

    def _tip(self, x: float, y: float) -> str:
        assert self.scene is not None
        found = self.scene.plate_at(x, y)
        if found:
            mark = found[1].mark
            drag = "; drag it to move the note" if self.movable else ""
            return f"{mark.hand} {mark.name}, {mark.degree}, finger {mark.finger}{drag}"
        column = self.scene.columns[self.scene.column_at(x)]
        told = "\n".join(remark.words for remark in column.remarks)
        if BESIDE in column.kept:
            told = "\n".join(filter(None, (told, "changed though nobody touched it; Shift+O keeps it as it was")))
        return told if self.scene.roomy else "\n".join(filter(None, (f"{column.symbol}  {column.number}", told)))

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        scene = self.scene
        if scene is None or not scene.columns:
            painter.end()
            return
        first, last = scene.column_at(event.rect().left() - scene.column_w), scene.column_at(event.rect().right())
        self._ground(painter, scene, first, last)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._strands(painter, scene.between(max(0, first - 1), last))
        if not scene.roomy:
            self._small_plates(painter, scene, first, last)
        for index in range(first, last + 1):
            self._column(painter, scene, index)
        self._fills(painter, scene)
        if self.marked and self.marked[-1] < len(scene.columns):
            ends = scene.columns[self.marked[0]].x, scene.columns[self.marked[-1]].x + scene.column_w
            mark_bracket(painter, self.theme, ends[0] + 2, ends[1] - 2, 0.0)
        painter.end()

    def show_mark(self, marked: range) -> None:
        """Draw a bracket over the chords that are marked."""
        self.marked = marked
        self.update()

    def _fills(self, painter: QPainter, scene: StrandScene) -> None:
        """Notes that lead on between the chords: small, in the colour of motion, joined in their order."""
        painter.setBrush(self.theme.color("paper"))
        size = 4.0 if scene.roomy else 2.6
        for at, note in enumerate(self.fills):
            painter.setPen(hair(self.theme.color("brass"), 1.4))
            before = self.fills[at - 1] if at and note.number > 1 else None
            if before is not None:
                painter.drawLine(QPointF(before.x + size, before.y), QPointF(note.x - size, note.y))
            painter.setPen(hair(self.theme.color("brass"), 2.0))
            if note.hand == "left":
                painter.drawRect(QRectF(note.x - size, note.y - size, 2 * size, 2 * size))
            else:
                painter.drawEllipse(QPointF(note.x, note.y), size, size)

    def _small_plates(self, painter: QPainter, scene: StrandScene, first: int, last: int) -> None:
        """All notes of each hand at once, but those of a column where others are tried."""
        spots: dict[str, list[tuple[float, float]]] = {"left": [], "right": []}
        for index in range(first, last + 1):
            if self.tried is None or self.tried.column != index:
                for note in scene.columns[index].plates:
                    spots[note.mark.hand].append((note.x, note.y))
        for hand, found in spots.items():
            small_plates(painter, self.theme, (scene.plate_w, scene.plate_h), hand, found)

    def _ground(self, painter: QPainter, scene: StrandScene, first: int, last: int) -> None:
        chosen = scene.columns[self.selected]
        painter.fillRect(QRectF(chosen.x, 0, scene.column_w, scene.height), self.theme.color("chosen"))
        painter.setPen(hair(self.theme.color("line")))
        for midi in range(scene.low, scene.high + 1):
            if midi % 12 == 0:
                y = round(scene.y_of(midi)) + 0.5
                painter.drawLine(QPointF(KEYS_W, y), QPointF(scene.width, y))
        for column in scene.columns[first : last + 1]:
            if column.section:
                painter.drawLine(QPointF(column.x + 0.5, 0), QPointF(column.x + 0.5, scene.height))

    def _strands(self, painter: QPainter, strands: tuple[Strand, ...]) -> None:
        """Lines of one kind at once, what is held below what moves; then the figures."""
        theme, lines = self.theme, dict[tuple[str, int, bool], list[QLineF]]()
        for s in strands:
            lines.setdefault((s.kind, s.weight, s.wide), []).append(QLineF(s.x1, s.y1, s.x2, s.y2))
        for look in sorted(lines, key=lambda look: (look[0] not in STAYING, look)):
            painter.setPen(strand_pen(theme.brass, theme.muted, *look))
            painter.drawLines(lines[look])
        for strand in strands:
            if strand.label:
                self._strand_label(painter, strand)

    def _strand_label(self, painter: QPainter, strand: Strand) -> None:
        assert self.scene is not None
        x = strand.label_x
        y = strand.y1 + (strand.y2 - strand.y1) * (x - strand.x1) / max(1.0, strand.x2 - strand.x1)
        area = QRectF(x - 11, y - 7, 22, 14)
        column = self.scene.columns[self.selected]
        chosen = column.x <= x < column.x + self.scene.column_w
        painter.fillRect(area, self.theme.color("chosen" if chosen else "paper"))
        painter.setPen(self.theme.color("muted" if strand.kind == "passes" else "brass_text"))
        painter.setFont(font(SMALL, bold=True))
        painter.drawText(area, CENTRE, strand.label)

    def _column(self, painter: QPainter, scene: StrandScene, index: int) -> None:
        column = scene.columns[index]
        if index == self.playing:
            foot = QRectF(column.x + 1, scene.height - 5, scene.column_w - 2, 4)
            painter.fillRect(foot, self.theme.color("ink"))
        draw_head(painter, self.theme, scene, index, index == self.selected)
        tried = self.tried if self.tried is not None and self.tried.column == index else None
        shown = tried.plates if tried else column.plates if scene.roomy else ()
        for note in shown:
            self._plate(painter, scene, note, tried)
        if tried:
            self._tried_words(painter, scene, column, tried)
        elif index == self.selected and self.ringed is not None:
            self._ring(painter, scene, column)
        if scene.roomy:
            draw_foot(painter, self.theme, scene, column)

    def _plate(self, painter: QPainter, scene: StrandScene, note: Plate, tried: Tried | None) -> None:
        area = QRectF(note.x - scene.plate_w / 2, note.y - scene.plate_h / 2, scene.plate_w, scene.plate_h)
        plate(painter, self.theme, area, note.mark.hand, note.mark.label(self.labels) if scene.roomy else "")
        if tried is not None and note.mark.midi == tried.moved:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(hair(self.theme.color("brass" if tried.playable else "error"), 2.4))
            painter.drawRect(area.adjusted(-3, -3, 3, 3))

    def _ring(self, painter: QPainter, scene: StrandScene, column: Column) -> None:
        for note in column.plates:
            if (note.mark.hand, note.mark.midi) == self.ringed:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(hair(self.theme.color("ink"), 1.6))
                wide, tall = scene.plate_w + 6, scene.plate_h + 6
                painter.drawRect(QRectF(note.x - wide / 2, note.y - tall / 2, wide, tall))

    def _tried_words(self, painter: QPainter, scene: StrandScene, column: Column, tried: Tried) -> None:
        painter.setFont(font(SMALL, bold=True))
        wide = painter.fontMetrics().horizontalAdvance(tried.words) + 14
        near = next((note for note in tried.plates if note.mark.midi == tried.moved), None)
        y = near.y - scene.plate_h - 16 if near else 60.0
        area = QRectF(min(column.x + 4, scene.width - wide - 4), max(56.0, y), wide, 19)
        painter.setPen(hair(self.theme.color("brass" if tried.playable else "error")))
        painter.setBrush(self.theme.color("raised"))
        painter.drawRect(area)
        painter.setPen(self.theme.color("ink" if tried.playable else "error"))
        painter.drawText(area, CENTRE, tried.words)
