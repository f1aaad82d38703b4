"""Paints the pages of a sheet under each other at a zoom; a click picks a chord."""

from __future__ import annotations

from math import ceil

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import QWidget

from yellow_hinge.core.sheet.page import ClickArea, Page
from yellow_hinge.paper.painter import NIGHT, PRINT, UNIT, Inks, Painting, paint_page
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.parts.pointing.marking import MarkDrag

GAP = 14  # pixels around pages
MOST_KEPT = 16_000_000  # pixels of all pictures of pages; where more are seen, they are painted as they are seen
PIECE_S = 0.01  # that pages are painted for at once: what is not there yet follows with the next picture
ON_PAPER = QColor("#8A8170")  # what is selected, marked or sounds, on white in every theme


class _Kept:
    """A page's picture; `painting` while some of it is not painted yet."""

    def __init__(self, page: Page, asked: tuple[float, float, bool], inks: Inks) -> None:
        self.page, self.asked = page, asked
        scale, ratio, _ = asked
        self.picture = QPixmap(ceil(page.w * scale * ratio), ceil(page.h * scale * ratio))
        self.picture.setDevicePixelRatio(ratio)
        self.picture.fill(QColor(inks.page))
        self.painting: Painting | None = Painting(page, inks)

    @property
    def pixels(self) -> int:
        """How large it is."""
        return self.picture.width() * self.picture.height()

    def go_on(self) -> None:
        """Paint some more of it."""
        if self.painting is not None:
            painter = QPainter(self.picture)
            painter.scale(self.asked[0] / UNIT, self.asked[0] / UNIT)
            if self.painting.go_on(painter, PIECE_S):
                self.painting = None
            painter.end()


class PagesCanvas(QWidget):
    """Pages at `scale` pixels a millimetre. `picked` tells the chord (its place in the solution) that was clicked,
    `struck` the key (MIDI) whose note was, `drawn` the mark to a chord (anew or farther), `asked` the menu of the
    sheet or of a chord on it at a point of the screen.
    """

    picked = Signal(int)
    drawn = Signal(int, bool)
    asked = Signal(str, object)
    struck = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.pages: tuple[Page, ...] = ()
        self.scale = 3.0
        self.selected = self.playing = -1
        self.marked: tuple[int, ...] = ()
        self._kept: list[_Kept] = []
        self.unfinished = False  # some of the pages that are seen are not painted yet
        self._drag = MarkDrag(self.drawn.emit)
        self.words = "Writing the sheet…"
        self.setAccessibleName("Pages of the sheet")

    def show_pages(self, pages: tuple[Page, ...]) -> None:
        """Show other pages."""
        self.pages = pages
        self._fit()

    def zoom(self, scale: float) -> None:
        """Show them at another size."""
        self.scale = scale
        self._fit()

    def _fit(self) -> None:
        if self.pages:
            wide = max(page.w for page in self.pages) * self.scale + 2 * GAP
            tall = sum(page.h * self.scale + GAP for page in self.pages) + GAP
            self.setFixedSize(round(wide), round(tall))
        self.update()

    def tops(self) -> list[float]:
        """Where each page begins, in pixels."""
        found, y = [], float(GAP)
        for page in self.pages:
            found.append(y)
            y += page.h * self.scale + GAP
        return found

    def place_of(self, voicing: int) -> QRectF | None:
        """Where a chord lies, in pixels."""
        for page, top in zip(self.pages, self.tops(), strict=True):
            for area in page.areas:
                if area.voicing == voicing and area.midi < 0:
                    return self._area(area, top)
        return None

    def _area(self, area: ClickArea, top: float) -> QRectF:
        scale = self.scale
        return QRectF(GAP + area.x * scale, top + area.y * scale, area.w * scale, area.h * scale)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for page, top in zip(self.pages, self.tops(), strict=True):
            for area in page.areas:
                if self._area(area, top).contains(event.position()):
                    if self._drag.pressed(area.voicing, event):
                        return
                    self.picked.emit(area.voicing)
                    if area.midi >= 0:
                        self.struck.emit(area.midi)
                    return

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._drag.moved(self._chord_at(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._drag.lifted()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        if event.reason() == QContextMenuEvent.Reason.Keyboard:
            event.ignore()
            return
        chord = self._chord_at(QPointF(event.pos()))
        if chord >= 0:
            self.picked.emit(chord)
        self.asked.emit("sheet", event.globalPos())

    def _chord_at(self, point: QPointF) -> int:
        for page, top in zip(self.pages, self.tops(), strict=True):
            for area in page.areas:
                if self._area(area, top).contains(point):
                    return area.voicing
        return -1

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        ground = self.theme.color("line") if self.theme.name == "light" else QColor("#0D0C0A")
        painter.fillRect(event.rect(), ground)
        if not self.pages:
            painter.setPen(self.theme.color("ink"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self.words)
            painter.end()
            return
        inks = PRINT if self.theme.name == "light" else NIGHT
        self.unfinished = False
        placed = [
            (page, QRectF(GAP, top, page.w * self.scale, page.h * self.scale))
            for page, top in zip(self.pages, self.tops(), strict=True)
        ]
        seen = [(page, area) for page, area in placed if area.intersects(QRectF(event.rect()))]
        pixels = sum(area.width() * area.height() for _, area in seen) * self.devicePixelRatioF() ** 2
        for page, area in seen:
            if pixels <= MOST_KEPT:
                painter.drawPixmap(area.topLeft().toPoint(), self._picture(page, inks))  # sharp on whole pixels
                continue
            painter.save()
            painter.setClipRect(area)
            painter.translate(area.topLeft())
            painter.scale(self.scale / UNIT, self.scale / UNIT)
            paint_page(painter, page, inks)
            painter.restore()
        self._mark(painter)
        painter.end()
        if self.unfinished:
            self.update()

    def _picture(self, page: Page, inks: Inks) -> QPixmap:
        """A page as far as it is painted, kept until it, its size or its colours are others: what is selected and
        sounds is drawn over it many times a second. One page is painted at a time.
        """
        asked = self.scale, self.devicePixelRatioF(), inks is PRINT
        kept = next((one for one in self._kept if one.page is page and one.asked == asked), None)
        kept = kept or _Kept(page, asked, inks)
        if not self.unfinished:
            kept.go_on()
            self.unfinished = kept.painting is not None
        rest, room = [one for one in self._kept if one is not kept], MOST_KEPT - kept.pixels
        while rest and sum(one.pixels for one in rest) > room:
            rest.pop()
        self._kept = [kept, *rest]
        return kept.picture

    def _mark(self, painter: QPainter) -> None:
        """A frame around the chord that is selected on the desk, a heavy line under the one that sounds, and one over
        those that are marked.
        """
        for cell in filter(None, map(self.place_of, self.marked)):
            painter.fillRect(QRectF(cell.left() - 2, cell.top() - 5, cell.width(), 3), ON_PAPER)
        sounding = self.place_of(self.playing) if self.playing >= 0 else None
        if sounding is not None:
            painter.fillRect(QRectF(sounding.left(), sounding.bottom() + 1, sounding.width(), 4), ON_PAPER)
        place = self.place_of(self.selected)
        if place is not None:
            painter.setPen(hair(ON_PAPER, 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(place.adjusted(-3, -2, 1, 2), 3, 3)
