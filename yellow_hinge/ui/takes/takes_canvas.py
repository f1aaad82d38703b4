"""Paints takes under each other: the current one and the one under the cursor are marked."""

from __future__ import annotations

from PySide6.QtCore import QLineF, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.paint.painting import hair, mark_bracket, small_plates, small_width
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font, text_scale
from yellow_hinge.ui.parts.pointing.marking import MarkDrag
from yellow_hinge.ui.takes.scene import CHORD_H, HEAD_H, NAME_W, PLATE_H, PLATE_W, TakeScene, TakesScene, spoken

LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
LINE_H = 15


class TakesCanvas(QWidget):
    """Paints a TakesScene. `picked` tells a take's index and the index of its chord (-1: none), `opened` a take that is
    wanted on the desk, `drawn` the mark to a chord of the take shown (anew or farther), `asked` the menu of a "take" or
    a "chord" at a point of the screen, `named` that a take is to be called otherwise, over an area, `ordered`
    that a take was dragged to the place of another one.
    """

    picked = Signal(int, int)
    drawn = Signal(int, bool)
    asked = Signal(str, object)
    named = Signal(int, object)
    ordered = Signal(int, int)
    opened = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: TakesScene | None = None
        self.cursor_, self.current, self.selected = 0, 0, -1  # indices of takes, and of the current one's chord
        self.marked = range(0)  # chords of the current take
        self._drag = MarkDrag(self.drawn.emit)
        self._taken = -1  # the take whose name is dragged
        self.words = "Looking at the takes…"
        self.setAccessibleName("Takes under each other")

    def show_scene(self, scene: TakesScene | None) -> None:
        """Paint other takes."""
        self.scene = scene
        if scene is not None:
            self.setFixedSize(int(scene.width), int(scene.height))
        self.setAccessibleDescription(spoken(scene) if scene is not None else self.words)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is not None:
            at = event.position()
            index = self.scene.take_at(at.y())
            self._taken = index if at.x() < self._names_end() else -1
            if index >= 0 and not self._drag.pressed(self._own_chord(at), event):
                self.picked.emit(index, self.scene.chord_at(at.x(), at.y()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._drag.moved(self._own_chord(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag.lifted()
        over = self.scene.take_at(event.position().y()) if self.scene is not None else -1
        if self._taken >= 0 and over >= 0 and over != self._taken:
            self.ordered.emit(self._taken, over)
        self._taken = -1

    def _names_end(self) -> float:
        """Where the names of the takes end, that stay while the takes scroll."""
        return self.visibleRegion().boundingRect().left() + NAME_W - 10

    def _own_chord(self, at: QPointF) -> int:
        """The chord of the current take at a point, -1 for none."""
        if self.scene is None or self.scene.take_at(at.y()) != self.current:
            return -1
        return self.scene.chord_at(at.x(), at.y())

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        index = self.scene.take_at(event.position().y()) if self.scene is not None else -1
        if self.scene is None or index < 0:
            return
        left, take = self.visibleRegion().boundingRect().left(), self.scene.takes[index]
        if index == self.current and event.position().x() < self._names_end() and event.position().y() < take.y + 24:
            self.named.emit(index, QRect(left + 8, round(take.y), round(NAME_W) - 22, 26))
        else:
            self.opened.emit(index)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        index = self.scene.take_at(event.pos().y()) if self.scene is not None else -1
        if event.reason() == QContextMenuEvent.Reason.Keyboard or self.scene is None or index < 0:
            event.ignore()
            return
        chord = self.scene.chord_at(event.pos().x(), event.pos().y())
        self.picked.emit(index, chord)
        self.asked.emit("chord" if index == self.current and chord >= 0 else "take", event.globalPos())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        scene = self.scene
        if scene is None:
            painter.setPen(self.theme.color("muted"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.words)
            painter.end()
            return
        painter.setPen(hair(self.theme.color("line")))
        painter.drawLines([QLineF(x + 0.5, HEAD_H, x + 0.5, scene.height) for x in scene.lines])
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(self.theme.color("muted"))
        for x, name in scene.sections:
            painter.drawText(QRectF(x + 3, 1, 300, HEAD_H - 2), LEFT, name)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for index, take in enumerate(scene.takes):
            if take.y < event.rect().bottom() and take.y + take.height > event.rect().top():
                self._take(painter, scene, take, index)
        painter.end()

    def _take(self, painter: QPainter, scene: TakesScene, take: TakeScene, index: int) -> None:
        theme, left = self.theme, self.visibleRegion().boundingRect().left()  # names stay while the takes scroll
        self._chords(painter, take, index)
        self._notes(painter, take)
        side = QRectF(left, take.y, NAME_W - 10, take.height)
        painter.fillRect(side, theme.color("chosen" if index == self.cursor_ else "paper"))
        if index == self.current:
            painter.fillRect(QRectF(left, take.y, 4, take.height), theme.color("ink"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(QPointF(0, take.y + take.height + 2), QPointF(scene.width, take.y + take.height + 2))
        painter.setPen(theme.color("ink"))
        painter.setFont(font(BODY, bold=True))
        title = f"{index + 1}  {take.name}"
        title = painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, int(side.width()) - 18)
        painter.drawText(QRectF(left + 12, take.y + 3, side.width() - 14, 20), LEFT, title)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        for n, words in enumerate(take.words):
            painter.drawText(QRectF(left + 12, take.y + 24 + n * LINE_H, side.width() - 14, LINE_H), LEFT, words)

    def _chords(self, painter: QPainter, take: TakeScene, index: int) -> None:
        theme = self.theme
        painter.setFont(font(SMALL, bold=True))
        for place, chord in enumerate(take.chords):
            if index == self.current and place == self.selected:
                painter.fillRect(QRectF(chord.x, take.y, chord.width, take.height), theme.color("chosen"))
            if chord.differs:  # a bar over the chord: played otherwise than above
                painter.fillRect(QRectF(chord.x + 1, take.y + 1, chord.width - 2, 3), theme.color("ink"))
            painter.setPen(theme.color("ink" if chord.differs else "muted"))
            if small_width(chord.text, text_scale()) < chord.width - 2:
                painter.drawText(QRectF(chord.x + 3, take.y + 4, chord.width, CHORD_H - 4), LEFT, chord.text)
        if index == self.current and self.marked and self.marked[-1] < len(take.chords):
            first, last = take.chords[self.marked[0]], take.chords[self.marked[-1]]
            mark_bracket(painter, theme, first.x + 2, last.x + last.width - 2, take.y)

    def _notes(self, painter: QPainter, take: TakeScene) -> None:
        for moves, colour, wide in ((False, "line", 1.4), (True, "brass", 1.6)):
            painter.setPen(hair(self.theme.color(colour), wide))
            painter.drawLines([QLineF(*strand[:4]) for strand in take.strands if strand[4] is moves])
        for hand in ("left", "right"):
            spots = [(x, y) for x, y, whose in take.plates if whose == hand]
            small_plates(painter, self.theme, (PLATE_W, PLATE_H), hand, spots)
