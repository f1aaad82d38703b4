"""The list of other chords for the selected one: what they are, why, what the melody becomes, what moves."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.ui.paint.painting import hair, is_current
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.swaps.scene import GroupHead, More, Row, SwapRow, swap_rows

Index = QModelIndex | QPersistentModelIndex
HEIGHTS: dict[type, int] = {GroupHead: 28, More: 24, SwapRow: 58}
ROLE = Qt.ItemDataRole.UserRole
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
ELIDE = Qt.TextElideMode.ElideRight
SIDE_W, BASS_W = 104, 34  # pixels for the figures and the bass line, and for the line alone


class SwapPainter(QStyledItemDelegate):
    """Paints a row; a swap in three lines, struck through where the melody clashes."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row: Row = index.data(ROLE)
        area: QRect = option.rect
        painter.fillRect(area, self.theme.color("chosen" if is_current(option, index) else "paper"))
        if isinstance(row, SwapRow):
            self._swap(painter, row, area)
            return
        head = isinstance(row, GroupHead)
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(self.theme.color("ink" if head else "muted"))
        painter.drawText(area.adjusted(12, 4 if head else 0, -8, 0), LEFT, row.words if head else f"▾ {row.words}")
        if head:
            self._rule(painter, area)

    def _rule(self, painter: QPainter, area: QRect) -> None:
        painter.setPen(hair(self.theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())

    def _swap(self, painter: QPainter, row: SwapRow, area: QRect) -> None:
        theme, fits = self.theme, row.swap.fits
        title = font(BODY, bold=True)
        if not fits:
            title = type(title)(title)
            title.setStrikeOut(True)
        painter.setFont(title)
        painter.setPen(theme.color("ink" if fits else "muted"))
        metrics, wide = painter.fontMetrics(), area.width() - SIDE_W - 16
        chords = metrics.elidedText(row.chords, ELIDE, wide)
        painter.drawText(area.adjusted(12, 2, -SIDE_W, -38), LEFT, chords)
        rest = wide - metrics.horizontalAdvance(chords) - 12
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        small = painter.fontMetrics()
        if rest > 20:
            left = 24 + metrics.horizontalAdvance(chords)
            painter.drawText(area.adjusted(left, 3, -SIDE_W, -38), LEFT, small.elidedText(row.numbers, ELIDE, rest))
        painter.drawText(area.adjusted(12, 20, -10, -20), LEFT, small.elidedText(row.reason, ELIDE, area.width() - 22))
        painter.setPen(theme.color("muted" if fits else "error"))
        painter.drawText(area.adjusted(12, 37, -10, -3), LEFT, small.elidedText(row.melody, ELIDE, area.width() - 22))
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(theme.color("brass_text"))
        painter.drawText(area.adjusted(12, 2, -10, -38), RIGHT, f"here {row.motion}")
        figures = painter.fontMetrics().horizontalAdvance(f"here {row.motion}")
        self._bass(painter, row.bass, QRectF(area.right() - figures - BASS_W - 18, area.top() + 4, BASS_W, 14))
        self._rule(painter, area)

    def _bass(self, painter: QPainter, line: tuple[int, ...], area: QRectF) -> None:
        """The bass line as a small picture: brass where it moves."""
        if len(line) < 2:
            return
        low, high = min(line), max(line)
        step, tall = area.width() / (len(line) - 1), area.height() / max(4, high - low)
        middle = (low + high) / 2
        points = [
            QPointF(area.left() + i * step, area.center().y() - (at - middle) * tall) for i, at in enumerate(line)
        ]
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(hair(self.theme.color("brass" if high > low else "muted"), 1.6))
        painter.drawPolyline(QPolygonF(points))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.color("left"))
        for point in points:
            painter.drawRect(QRectF(point.x() - 1.5, point.y() - 1.5, 3, 3))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)


class SwapsList(QListWidget):
    """`tried` tells the swap under the cursor (None for none), `taken` the chosen one."""

    tried = Signal(object)
    taken = Signal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._swaps: list[Swap] = []
        self._key: Key | None = None
        self._opened: frozenset[str] = frozenset()
        self.fitting = False
        self.painter_ = SwapPainter(theme, self)
        self.setItemDelegate(self.painter_)
        self.setAccessibleName("Other chords for this one")
        self.setToolTip(
            "Up and down or a click try a swap, Enter or a double click takes it. The figures are the semitones of all "
            "fingers at this chord and its neighbours, before and after; the small line is the bass."
        )
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.currentRowChanged.connect(lambda _: self.tried.emit(self.current))
        self.itemClicked.connect(self._clicked)
        self.itemDoubleClicked.connect(lambda _: self.take())

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.viewport().update()

    def show_swaps(self, swaps: list[Swap], key: Key | None, more: bool = False) -> None:
        """List other swaps, in short lists; `more` of the same chord, with what was opened."""
        self._swaps, self._key = swaps, key
        self._opened = self._opened if more else frozenset()
        self.refill()

    def refill(self) -> None:
        """List what is asked for, with the cursor where it was."""
        held = self.current
        self.blockSignals(True)
        self.clear()
        swaps = [swap for swap in self._swaps if swap.fits or not self.fitting]
        for row in swap_rows(swaps, self._key, self._opened) if self._key else []:
            item = QListWidgetItem(row.words)
            item.setData(ROLE, row)
            item.setSizeHint(QSize(10, HEIGHTS[type(row)]))
            if isinstance(row, SwapRow):
                item.setToolTip(row.words)
            if isinstance(row, GroupHead):
                item.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self.addItem(item)
            if held is not None and isinstance(row, SwapRow) and row.swap is held:
                self.setCurrentItem(item)
        if self.current is None:
            self.setCurrentRow(-1)
        self.blockSignals(False)

    @property
    def rows(self) -> list[Row]:
        """The rows that are listed."""
        return [self.item(i).data(ROLE) for i in range(self.count())]

    @property
    def current(self) -> Swap | None:
        """The swap under the cursor."""
        item = self.currentItem()
        row = item.data(ROLE) if item is not None else None
        return row.swap if isinstance(row, SwapRow) else None

    @property
    def swaps(self) -> list[Swap]:
        """Every swap of the chord, listed or not."""
        return self._swaps

    def go_to(self, swap: Swap) -> None:
        """Put the cursor on a swap, in a group that may have to be opened."""
        self._opened |= {swap.kind.group}
        self.refill()
        row = next((i for i, row in enumerate(self.rows) if isinstance(row, SwapRow) and row.swap is swap), -1)
        self.setCurrentRow(row)

    def step(self, by: int) -> None:
        """Go up or down; a row that hides more opens on the way, headings are passed over."""
        at = self.currentRow()
        while 0 <= at + by < self.count():
            at += by
            row = self.item(at).data(ROLE)
            if isinstance(row, More):
                self._open(row)
            if isinstance(self.item(at).data(ROLE), SwapRow):
                self.setCurrentRow(at)
                return

    def take(self) -> None:
        """Put the swap under the cursor into the song."""
        if self.current is not None:
            self.taken.emit(self.current)

    def leave(self) -> bool:
        """Try none of them any more; whether one was tried."""
        tried = self.current is not None
        self.setCurrentRow(-1)
        return tried

    def _clicked(self, item: QListWidgetItem) -> None:
        row = item.data(ROLE)
        if isinstance(row, More):
            self._open(row)

    def _open(self, row: More) -> None:
        self._opened |= {row.group}
        self.refill()
