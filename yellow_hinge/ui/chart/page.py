"""The chart set out in bars: click a chord to go there, drag a bar to move it, keys to insert, split and delete."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QScrollArea, QWidget

from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.ui.chart.drawing import draw_chart
from yellow_hinge.ui.chart.scene import ROW_H, ChartBar, ChartCell, ChartScene, Laid, chart_scene
from yellow_hinge.ui.paint.painting import hair, mark_bracket
from yellow_hinge.ui.paint.theme import Theme

DRAG = 8  # pixels before a press becomes a drag


class ChartCanvas(QWidget):
    """Paints a ChartScene. `picked` gives the address of a clicked chord, `drawn` one that the mark is drawn to,
    `moved` a bar and where it was dropped, `swapped` two chords of a bar, `asked` the menu of a chord at a point of the
    screen, `edited` the address of a chord whose symbol is to be written anew in an area.
    """

    picked = Signal(object)
    drawn = Signal(object)
    moved = Signal(object, int)
    swapped = Signal(object, object)
    asked = Signal(str, object)
    edited = Signal(object, object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene = ChartScene((), (), (), 0.0)
        self.selected: Address | None = None
        self.drop: ChartBar | None = None
        self.marked: frozenset[Address] = frozenset()
        self._pressed: tuple[QPointF, ChartBar] | None = None
        self._held: ChartCell | None = None
        self.setAccessibleName("Chart set out in bars")
        self.setToolTip(
            "Click a chord to go there, Shift and click to mark up to it. Drag a bar to move it within its section, a "
            "chord to swap it within its bar."
        )

    # --- input ---
    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        cell = self.scene.cell_at(event.pos().x(), event.pos().y())
        if event.reason() == QContextMenuEvent.Reason.Keyboard or cell is None:
            event.ignore()
            return
        if cell.address not in self.marked:
            self.picked.emit(cell.address)
        self.asked.emit("chord", event.globalPos())

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """The chord's symbol is written anew in its place."""
        cell = self.scene.cell_at(event.position().x(), event.position().y())
        self._pressed = self._held = None
        if cell is not None:
            self.edited.emit(
                cell.address, QRect(round(cell.x) + 2, round(cell.y) + 18, max(110, round(cell.width) - 8), 30)
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        at = event.position()
        cell, bar = self.scene.cell_at(at.x(), at.y()), self.scene.bar_at(at.x(), at.y())
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            if cell is not None:
                self.drawn.emit(cell.address)
            return
        if cell is not None:
            self.picked.emit(cell.address)
        self._pressed, self._held = ((at, bar) if bar is not None else None), cell

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None or (event.position() - self._pressed[0]).manhattanLength() < DRAG:
            return
        over = self.scene.bar_at(event.position().x(), event.position().y())
        same = over is not None and over.section == self._pressed[1].section
        self.drop = over if same else None
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None and self.drop is not None and self.drop is not self._pressed[1]:
            bar = self._pressed[1]
            self.moved.emit((bar.section, bar.bar), self.drop.bar)
        elif self._held is not None:
            over = self.scene.cell_at(event.position().x(), event.position().y())
            if over is not None and over is not self._held and over.address[:2] == self._held.address[:2]:
                self.swapped.emit(self._held.address, over.address)
        self._pressed = self.drop = None
        self.update()

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        draw_chart(painter, theme, self.scene, self.width(), QRectF(event.rect()), self.selected)
        for first, last in self.scene.runs(self.marked):
            mark_bracket(painter, theme, first.x + 2, last.x + last.width - 2, first.y)
        if self.drop is not None:
            bar = self.drop
            painter.setPen(hair(theme.color("ink"), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(bar.x + 2, bar.y + 3, bar.width - 4, ROW_H - 10))
        painter.end()


class ChartPage(QScrollArea):
    """The scrolling page."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.canvas = ChartCanvas(theme)
        self.setWidget(self.canvas)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Chart page")
        self._laid: dict[tuple[int, int], Laid] = {}
        self._song, self._before, self._simple = Song(), None, False  # type: tuple[Song, Song | None, bool]

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = theme
        self.canvas.update()

    def show_song(self, song: Song, before: Song | None, simple: bool) -> None:
        """Set a song out; `before` is what it was before transposing."""
        self._song, self._before, self._simple = song, before, simple
        self._lay_out()

    def select(self, address: Address | None) -> None:
        """Mark a chord and bring it into sight."""
        self.canvas.selected = address
        cell = next((c for c in self.canvas.scene.cells if c.address == address), None)
        if cell is not None:
            self.ensureVisible(int(cell.x + cell.width / 2), int(cell.y + ROW_H / 2), 10, int(ROW_H / 2) + 8)
        self.canvas.update()

    def show_mark(self, marked: frozenset[Address]) -> None:
        """Draw a bracket over the chords that are marked."""
        self.canvas.marked = marked
        self.canvas.update()

    def _lay_out(self) -> None:
        width = self.viewport().width()
        self.canvas.scene = chart_scene(self._song, width, self._simple, self._before, laid=self._laid)
        self.canvas.resize(width, max(int(self.canvas.scene.height), self.viewport().height()))
        self.canvas.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.isVisible():
            self._lay_out()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._lay_out()
