"""The song ribbon: the whole song as one strip that stays in all views."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import pattern_names
from yellow_hinge.core.song.song import Address
from yellow_hinge.ui.paint.painting import hair, mark_bracket, small_width
from yellow_hinge.ui.paint.theme import SMALL, Theme, font, text_scale
from yellow_hinge.ui.parts.pointing.marking import MarkDrag
from yellow_hinge.ui.parts.ribbon_scene import HEAD, RibbonCell, RibbonScene, ribbon_scene

SIDE = 12.0
PATTERN_H = 15.0  # of the words that say what is played
NEAR = 3.0  # pixels beside a chord's box that it may reach into


def filled(painter: QPainter, areas: Sequence[QRectF], color: QColor) -> None:
    """Fill many boxes at once."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(color)
    painter.drawRects(list(areas))


class Ribbon(QWidget):
    """Click to go to a chord; `playing` is the chord that sounds, -1 for none. `asked` is for the menu of a "chord" or
    a "section" at a point of the screen, `named` for another name of a chord's section over an area.
    """

    asked = Signal(str, object)
    named = Signal(int, object)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.scene: RibbonScene | None = None
        self.playing = -1
        self._drag = MarkDrag(lambda at, anew: desk.selection.mark_to(at, anew))
        self.marked: frozenset[Address] = frozenset()  # written chords that would change
        self._kept: tuple[RibbonScene, object, QPixmap] | None = None
        self.setFixedHeight(66)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Song ribbon")
        self.setToolTip("The whole song: a taller brass mark is a stiffer hinge. Click to go there, drag to mark.")

    def refresh(self) -> None:
        """Lay the present solution out anew."""
        solution = self.desk.solution
        width = max(10.0, self.width() - 2 * SIDE)
        song, playing = self.desk.answers.state.song, self.desk.state.playing
        names = pattern_names(solution, song, playing) if solution and playing.wishes else None
        self.scene = ribbon_scene(solution, song, width, names) if solution else None
        self.update()

    def set_playing(self, index: int) -> None:
        """Mark the chord that sounds."""
        self.playing = index
        self.update()

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.theme = theme
        self.update()

    def mark(self, written: frozenset[Address]) -> None:
        """Mark the chords that would change."""
        self.marked = written
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self.scene is not None and self.scene.cells:
            at = self.scene.cell_at(event.position().x() - SIDE)
            if not self._drag.pressed(at, event):
                self.desk.selection.go(at)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """A drag marks what it goes over."""
        if self.scene is not None and self.scene.cells:
            self._drag.moved(self.scene.cell_at(event.position().x() - SIDE))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag.lifted()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """The whole bar; on a section's name, its name."""
        if event.position().y() < HEAD and self.scene is not None:
            x = event.position().x() - SIDE
            found = next((at for at, wide, _ in self.scene.sections if at <= x < at + wide), None)
            if found is not None:
                self.named.emit(self.scene.cell_at(x), QRect(round(SIDE + found), 0, 160, round(HEAD) + 4))
            return
        self.desk.selection.mark_bars()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        if event.reason() != QContextMenuEvent.Reason.Keyboard and self.scene is not None and self.scene.cells:
            at = self.scene.cell_at(event.pos().x() - SIDE)
            if at not in self.desk.selection.marked:
                self.desk.selection.go(at)
            self.asked.emit("section" if event.pos().y() < HEAD else "chord", event.globalPos())
        else:
            event.ignore()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, at = QPainter(self), self.desk.selection.index
        if self.scene is None or not self.scene.cells:
            painter.fillRect(event.rect(), self.theme.color("paper"))
            if self.scene is not None:
                self._head(painter, self.scene)
            return
        cells = self.scene.cells
        if self.marked:
            self._whole(painter, self.scene, at)
        else:
            painter.drawPixmap(0, 0, self._still(self.scene))
            painter.translate(SIDE, 0)
            for index in {at, self.playing}.intersection(range(len(cells))):
                self._again(painter, self.scene, index, at)
        self._mark(painter, HEAD + 2)
        painter.setPen(hair(self.theme.color("ink"), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        top, bottom = self._between
        painter.drawRect(QRectF(cells[at].x + 0.5, top, cells[at].width - 1, bottom - top))

    @property
    def _between(self) -> tuple[float, float]:
        """Where the boxes begin and end."""
        return HEAD + 2, float(self.height() - 6)

    def _still(self, scene: RibbonScene) -> QPixmap:
        """The ribbon with nothing chosen and nothing sounding, painted when it becomes another one: of a long song it
        takes as long as all else that a change of chord does.
        """
        looks = self.theme, self.size(), text_scale(), self.devicePixelRatioF()
        if self._kept is None or self._kept[0] is not scene or self._kept[1] != looks:
            picture = QPixmap(self.size() * looks[3])
            picture.setDevicePixelRatio(looks[3])
            painter = QPainter(picture)
            self._whole(painter, scene, -1)
            painter.end()
            self._kept = scene, looks, picture
        return self._kept[2]

    def _whole(self, painter: QPainter, scene: RibbonScene, chosen: int) -> None:
        """All of it but what lies over the boxes; from here on `painter` counts from the first box."""
        painter.fillRect(self.rect(), self.theme.color("paper"))
        painter.translate(SIDE, 0)
        self._head(painter, scene)
        self._boxes(painter, scene, range(len(scene.cells)), chosen)

    def _again(self, painter: QPainter, scene: RibbonScene, index: int, chosen: int) -> None:
        """One chord over the still picture, with what of its neighbours lies there."""
        cell, (top, bottom) = scene.cells[index], self._between
        box = QRectF(cell.x - NEAR, top, cell.width + 2 * NEAR, bottom - top)
        first, last = index, index + 1
        while first > 0 and scene.cells[first].x > box.left() - NEAR:
            first -= 1
        while last < len(scene.cells) and scene.cells[last].x < box.right() + NEAR:
            last += 1
        painter.save()
        painter.setClipRect(box)
        painter.fillRect(box, self.theme.color("paper"))
        self._boxes(painter, scene, range(first, last), chosen)
        painter.restore()

    def _head(self, painter: QPainter, scene: RibbonScene) -> None:
        """Sections and bars."""
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(self.theme.color("muted"))
        for x, width, name in scene.sections:
            after = next((at for at, _ in scene.bars if at > x), x + width)  # a bar's number comes next
            room = int(min(width, after - x)) - 4
            text = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, room)
            painter.drawText(QRectF(x + 2, 2, width, HEAD - 2), Qt.AlignmentFlag.AlignVCenter, text)
        painter.setFont(font(SMALL))
        for x, number in scene.bars:
            painter.drawText(QRectF(x + 2, 2, 30, HEAD - 2), Qt.AlignmentFlag.AlignVCenter, number)

    def _boxes(self, painter: QPainter, scene: RibbonScene, some: range, chosen: int) -> None:
        """Some of the chords with their joints, and what is played."""
        cells, (top, bottom) = scene.cells, self._between
        painter.setFont(font(SMALL))
        self._cells(painter, cells, some, chosen)
        painter.setPen(hair(self.theme.color("line")))
        painter.drawLine(QPointF(0, bottom + 0.5), QPointF(self.width() - 2 * SIDE, bottom + 0.5))
        foot = bottom - (PATTERN_H if scene.patterns else 0)  # the words of the patterns lie below the joints
        reach = foot - top - 6
        near = (cells[index] for index in some)
        joints = [
            QRectF(cell.x + cell.width - 1.5, foot - 4 - cell.joint * reach, 3, 4 + cell.joint * reach)
            for cell in near
            if cell.joint > 0
        ]
        filled(painter, joints, self.theme.color("brass"))
        self._patterns(painter, bottom)

    def _cells(self, painter: QPainter, cells: Sequence[RibbonCell], some: range, chosen: int) -> None:
        """The chords: their boxes at once, names where there is room, what would change, what sounds."""
        theme, (top, bottom) = self.theme, self._between
        tall = bottom - top
        boxes = {i: QRectF(cells[i].x + 0.5, top, max(0.5, cells[i].width - 1), tall) for i in some}
        filled(painter, [*boxes.values()], theme.color("raised"))
        filled(painter, [boxes[chosen]] if chosen in boxes else [], theme.color("chosen"))
        for index in some:
            cell = cells[index]
            if cell.text and small_width(cell.text, text_scale()) < cell.width - 4:
                painter.setPen(theme.color("ink" if index == chosen else "muted"))
                area = QRectF(cell.x + 3, top, cell.width - 3, tall - 14)
                painter.drawText(area, Qt.AlignmentFlag.AlignVCenter, cell.text)
        other = [cells[i] for i in some if cells[i].at in self.marked]
        filled(painter, [QRectF(cell.x + 1, top, cell.width - 2, 3) for cell in other], theme.color("ink"))
        sounds = [cells[self.playing]] if chosen >= 0 and self.playing in some else []
        filled(painter, [QRectF(cell.x + 1, bottom - 3, cell.width - 2, 3) for cell in sounds], theme.color("ink"))

    def _mark(self, painter: QPainter, top: float) -> None:
        """The bracket over what is marked."""
        cells, marked = self.scene.cells if self.scene is not None else (), self.desk.selection.marked
        if marked and marked[-1] < len(cells):
            first, last = cells[marked[0]], cells[marked[-1]]
            mark_bracket(painter, self.theme, first.x + 1, last.x + last.width - 1, top)

    def _patterns(self, painter: QPainter, bottom: float) -> None:
        """What the song is played in, at the foot of the first chord of every run."""
        assert self.scene is not None
        painter.setFont(font(SMALL))
        painter.setPen(self.theme.color("muted"))
        for x, width, name in self.scene.patterns:
            words = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, int(width) - 8)
            area = QRectF(x + 1, bottom - 16, painter.fontMetrics().horizontalAdvance(words) + 5, 14)
            painter.fillRect(area, self.theme.color("raised"))
            painter.drawText(area.adjusted(2, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, words)
