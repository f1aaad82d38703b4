"""The strand map: the song as columns of plates with strands between them, pitch upward."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QHelpEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QScrollArea, QToolTip, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.hands import BLACK
from yellow_hinge.ui.painting import clasp, hair, plate, warning_mark
from yellow_hinge.ui.scenes.strands import COLUMN_W, FOOT_H, KEYS_W, PLATE_H, PLATE_W, Column, Strand, StrandScene
from yellow_hinge.ui.scenes.strands import strand_scene as make_scene
from yellow_hinge.ui.theme import BODY, LARGE, SMALL, Theme, font

CENTRE = Qt.AlignmentFlag.AlignCenter
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


class StrandCanvas(QWidget):
    """Paints a StrandScene; only the columns in sight."""

    picked = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: StrandScene | None = None
        self.selected = 0
        self.labels = "degrees"
        self.setAccessibleName("Strand map")
        self.setMouseTracking(True)

    def show_scene(self, scene: StrandScene | None, selected: int) -> None:
        """Paint another map."""
        self.scene, self.selected = scene, selected
        if scene is not None:
            self.resize(int(scene.width), int(scene.height))
            column = scene.columns[selected] if scene.columns else None
            self.setAccessibleDescription(describe(scene, selected) if column else "")
        self.update()

    # --- input ---
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is not None and self.scene.columns and event.button() == Qt.MouseButton.LeftButton:
            self.picked.emit(self.scene.column_at(event.position().x()))

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent) and self.scene and self.scene.columns:
            column = self.scene.columns[self.scene.column_at(event.pos().x())]
            QToolTip.showText(event.globalPos(), column.warning, self)
            return True
        return super().event(event)

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        scene = self.scene
        if scene is None or not scene.columns:
            painter.end()
            return
        first, last = scene.column_at(event.rect().left() - COLUMN_W), scene.column_at(event.rect().right())
        self._ground(painter, scene)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right = scene.columns[first].x, scene.columns[last].x + 2 * COLUMN_W
        for strand in scene.strands:
            if strand.x2 >= left and strand.x1 <= right:
                self._strand(painter, strand)
        for index in range(first, last + 1):
            self._column(painter, scene, index)
        painter.end()

    def _ground(self, painter: QPainter, scene: StrandScene) -> None:
        chosen = scene.columns[self.selected]
        painter.fillRect(QRectF(chosen.x, 0, COLUMN_W, scene.height), self.theme.color("chosen"))
        painter.setPen(hair(self.theme.color("line")))
        for midi in range(scene.low, scene.high + 1):
            if midi % 12 == 0:
                y = round(scene.y_of(midi)) + 0.5
                painter.drawLine(QPointF(KEYS_W, y), QPointF(scene.width, y))
        for column in scene.columns:
            if column.section:
                painter.drawLine(QPointF(column.x + 0.5, 0), QPointF(column.x + 0.5, scene.height))

    def _strand(self, painter: QPainter, strand: Strand) -> None:
        moving = strand.kind != "held"
        color = self.theme.color("brass" if moving else "muted")
        if not moving:
            color.setAlphaF(0.75 if strand.weight > 1 else 0.5)
        pen = hair(color, (2.0 if moving else 1.2) + 0.8 * (strand.weight - 1))
        if strand.kind in ("enters", "leaves"):
            pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        painter.drawLine(QPointF(strand.x1, strand.y1), QPointF(strand.x2, strand.y2))
        if strand.label:
            self._strand_label(painter, strand)

    def _strand_label(self, painter: QPainter, strand: Strand) -> None:
        x = strand.label_x
        y = strand.y1 + (strand.y2 - strand.y1) * (x - strand.x1) / max(1.0, strand.x2 - strand.x1)
        area = QRectF(x - 11, y - 7, 22, 14)
        column = self.scene.columns[self.selected] if self.scene else None
        chosen = column is not None and column.x <= x < column.x + COLUMN_W
        painter.fillRect(area, self.theme.color("chosen" if chosen else "paper"))
        painter.setPen(self.theme.color("brass_text"))
        painter.setFont(font(SMALL, bold=True))
        painter.drawText(area, CENTRE, strand.label)

    def _column(self, painter: QPainter, scene: StrandScene, index: int) -> None:
        column, theme = scene.columns[index], self.theme
        self._head(painter, column, index == self.selected)
        for note in column.plates:
            area = QRectF(note.x - PLATE_W / 2, note.y - PLATE_H / 2, PLATE_W, PLATE_H)
            plate(painter, theme, area, note.mark.hand, note.mark.label(self.labels))
        foot = scene.height - FOOT_H
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        metrics = painter.fontMetrics()
        wide = int(COLUMN_W) - 10
        tune = metrics.elidedText(column.tune, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(column.x + 8, foot + 2, wide, 18), LEFT, tune)
        painter.setPen(theme.color("ink"))
        cue = metrics.elidedText(column.cue, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(column.x + 8, foot + 20, wide, 18), LEFT, cue)
        if column.warning:
            warning_mark(painter, theme, column.x + COLUMN_W - 14, 27)

    def _head(self, painter: QPainter, column: Column, chosen: bool) -> None:
        theme = self.theme
        painter.setPen(theme.color("muted"))
        painter.setFont(font(SMALL, bold=True))
        if column.section:
            painter.drawText(QRectF(column.x + 8, 0, 3 * COLUMN_W, 16), LEFT, column.section)
        painter.setPen(theme.color("ink"))
        size = LARGE if len(column.symbol) < 9 else BODY
        painter.setFont(font(size, bold=True))
        text = painter.fontMetrics().elidedText(column.symbol, Qt.TextElideMode.ElideRight, int(COLUMN_W) - 12)
        painter.drawText(QRectF(column.x + 8, 16, COLUMN_W - 10, 22), LEFT, text)
        painter.setPen(theme.color("muted"))
        painter.setFont(font(SMALL))
        painter.drawText(QRectF(column.x + 8, 37, COLUMN_W - 12, 16), LEFT, column.number)
        if column.kept:
            clasp(painter, theme, column.x + COLUMN_W / 2 - 2, 62)
        if column.hinge:
            self._joint(painter, column, chosen)

    def _joint(self, painter: QPainter, column: Column, chosen: bool) -> None:
        """The hinge's figure, astride the line between two chords; brass only where something moves."""
        theme, middle = self.theme, column.x + COLUMN_W - 2
        area = QRectF(middle - 14, 54, 28, 17)
        moves = column.hinge != "0"
        painter.setPen(hair(theme.color("brass" if moves else "line"), 1.6 if chosen else 1.0))
        painter.setBrush(theme.color("brass") if chosen and moves else theme.color("paper"))
        painter.drawRoundedRect(area, 3, 3)
        painter.setFont(font(SMALL, bold=column.stiff or chosen))
        painter.setPen(theme.color("on_brass" if chosen and moves else "brass_text" if moves else "muted"))
        painter.drawText(area, CENTRE, column.hinge)


def describe(scene: StrandScene, index: int) -> str:
    """The selected column in words, for screen readers."""
    column = scene.columns[index]
    notes = ", ".join(f"{p.mark.hand} {p.mark.name} {p.mark.degree}" for p in column.plates)
    return f"{column.symbol}: {notes}; {column.hinge or 'no'} semitones to the next chord"


class PitchKeys(QWidget):
    """The thin upright keyboard at the left edge; it stays while the map scrolls."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme
        self.scene: StrandScene | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None or not self.scene.columns:
            painter.end()
            return
        painter.setFont(font(SMALL))
        for midi in range(self.scene.low, self.scene.high + 1):
            y, step = self.scene.y_of(midi) - self.scene.step / 2, self.scene.step
            black = midi % 12 in BLACK
            area = QRectF(20.0, y, 12.0 if black else 20.0, step)
            painter.fillRect(area, self.theme.color("black_key" if black else "white_key"))
            if midi % 12 in (0, 5):
                painter.setPen(hair(self.theme.color("key_line")))
                painter.drawLine(QPointF(20, y + step), QPointF(40, y + step))
            if midi % 12 == 0:
                painter.setPen(self.theme.color("muted"))
                painter.drawText(QRectF(0, y - 4, 18, step + 8), CENTRE, f"C{midi // 12 - 1}")
        painter.setPen(hair(self.theme.color("key_line")))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        top = self.scene.y_of(self.scene.high) - self.scene.step / 2
        painter.drawRect(QRectF(20.5, top, 20, self.scene.step * (self.scene.high - self.scene.low + 1)))
        painter.end()


class StrandMap(QScrollArea):
    """The scrolling map of the desk's solution."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self.canvas = StrandCanvas(theme)
        self.setWidget(self.canvas)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Hinges of the song")
        self.keys = PitchKeys(theme, self.viewport())
        self.canvas.picked.connect(desk.select)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = self.keys.theme = theme
        self.viewport().setStyleSheet(f"background: {theme.paper};")
        self.canvas.update()
        self.keys.update()

    def set_labels(self, kind: str) -> None:
        """Show degrees, names or fingers on the plates."""
        self.canvas.labels = kind
        self.canvas.update()

    def refresh(self) -> None:
        """Lay the present solution out anew."""
        solution = self.desk.solution
        if solution is None:
            self.canvas.show_scene(None, 0)
            return
        kept = frozenset(i for i in range(len(solution.voicings)) if self.desk.kept(i))
        height = float(self.viewport().height())
        scene = make_scene(solution, self.desk.solved_state.song, kept, height, self.desk.simple_names)
        self.canvas.show_scene(scene, self.desk.selected)
        self.keys.scene = scene
        self.keys.setGeometry(0, 0, int(KEYS_W), int(scene.height))
        self.keys.update()
        self.reveal()

    def reselect(self) -> None:
        """Another chord was selected."""
        if self.canvas.scene is not None:
            self.canvas.show_scene(self.canvas.scene, self.desk.selected)
            self.reveal()

    def reveal(self) -> None:
        """Keep the selected chord and its neighbours in sight."""
        scene, bar = self.canvas.scene, self.horizontalScrollBar()
        if scene is None or not scene.columns:
            return
        x = int(scene.columns[self.desk.selected].x)
        left, right = bar.value() + int(KEYS_W + COLUMN_W), bar.value() + self.viewport().width() - 2 * int(COLUMN_W)
        if x < left:
            bar.setValue(x - int(KEYS_W + COLUMN_W))
        elif x > right:
            bar.setValue(x - self.viewport().width() + 2 * int(COLUMN_W))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()
