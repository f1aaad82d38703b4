"""The catalogue of hand shapes as a table to browse and hear: a family a row, a class of chords a column."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, QRectF, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.core.hands import BLACK
from yellow_hinge.core.leading.atlas import COLUMNS, AtlasRow, Cell
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.controls import as_small, strip_row
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import SMALL, Theme, font

Index = QModelIndex | QPersistentModelIndex
ROW_H, KEYS_H, MARGIN = 40, 22, 5
LOW, HIGH = 31, 88  # keys that a tiny keyboard shows
ANY = "any"
SIZES = ((1, 3), (1, 4), (2, 2), (2, 3), (2, 4), (3, 3), (4, 0), (5, 0))


class Sieve(NamedTuple):
    """What is shown: within the reach only, usual in a manner (its name), so many notes in each hand."""

    reach: bool = False
    manner: str = ANY
    sizes: tuple[int, int] | None = None

    def lets(self, cell: Cell) -> bool:
        """Whether a cell is shown."""
        if cell.making is None or (self.reach and not cell.within):
            return False
        both = cell.making.both
        return self.sizes is None or self.sizes == (len(both.left), len(both.right))


class AtlasModel(QAbstractTableModel):
    """The rows that a sieve lets through."""

    def __init__(self) -> None:
        super().__init__()
        self._every: tuple[AtlasRow, ...] = ()
        self.rows: list[AtlasRow] = []
        self.sieve = Sieve()

    def show_rows(self, rows: tuple[AtlasRow, ...], sieve: Sieve) -> None:
        """Show others, or others of them."""
        self.beginResetModel()
        self._every, self.sieve = rows, sieve
        own = (row for row in rows if sieve.manner in (ANY, *row.manners))
        self.rows = [row for row in own if any(map(sieve.lets, row.cells)) or sieve == Sieve(manner=sieve.manner)]
        self.endResetModel()

    @property
    def every(self) -> tuple[AtlasRow, ...]:
        """All rows."""
        return self._every

    def cell(self, index: Index) -> Cell:
        """What stands at a place."""
        return self.rows[index.row()].cells[index.column()]

    def shown(self, index: Index) -> Cell:
        """The same, empty where the sieve holds it back."""
        cell = self.cell(index)
        return cell if self.sieve.lets(cell) else cell._replace(making=None)

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(COLUMNS)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role in (Qt.ItemDataRole.ToolTipRole, Qt.ItemDataRole.AccessibleTextRole):
            return self.words(index)
        return None

    def headerData(self, at: int, way: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role != Qt.ItemDataRole.DisplayRole or not self.rows:
            return None
        if way == Qt.Orientation.Horizontal:
            return pretty_signs(write_symbol(self.rows[0].cells[at].chord))
        return self.rows[at].shape.name

    def words(self, index: Index) -> str:
        """A cell in a sentence: its notes and what it is good for, or why there is none."""
        row, cell = self.rows[index.row()], self.cell(index)
        name = f"{row.shape.name} on {write_symbol(cell.chord)}"
        if cell.making is None:
            return pretty_signs(f"{name}: {cell.why}")
        both = cell.making.both
        hands = (" ".join(str(pitch_of(m, cell.chord.note_of(m % 12))) for m in hand) or "rests" for hand in both)
        left, right = hands
        usual = f"; usual in {', '.join(row.manners).lower()}" if row.manners else ""
        return pretty_signs(f"{name}: L {left}, R {right}{usual}{f'; {cell.why}' if cell.why else ''}")


class TinyKeys(QStyledItemDelegate):
    """Paints a cell as a tiny keyboard with the keys of each hand."""

    def __init__(self, theme: Theme, table: QTableView) -> None:
        super().__init__(table)
        self.theme, self.now = theme, table.currentIndex

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        model = index.model()
        assert isinstance(model, AtlasModel)
        theme, area, cell = self.theme, QRectF(option.rect), model.shown(index)
        painter.fillRect(area, theme.color("chosen" if self.now() == index else "paper"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        if cell.making is None:
            painter.setPen(theme.color("muted"))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "·")
            return
        keys = QRectF(area.left() + MARGIN, area.center().y() - KEYS_H / 2, area.width() - 2 * MARGIN, KEYS_H)
        painter.setOpacity(1.0 if cell.within else 0.45)
        _keyboard(painter, theme, keys, cell.making.both)
        painter.setOpacity(1.0)


def _keyboard(painter: QPainter, theme: Theme, area: QRectF, both: Both) -> None:
    width = area.width() / (HIGH - LOW + 1)
    painter.fillRect(area, theme.color("raised"))  # quieter than keys, so that the hands are seen first
    for midi in range(LOW, HIGH + 1):
        key = QRectF(area.left() + (midi - LOW) * width, area.top(), width, area.height())
        if midi % 12 in BLACK:
            painter.fillRect(QRectF(key.left(), key.top(), width, key.height() * 0.55), theme.color("line"))
    for hand, notes in zip(("left", "right"), both, strict=True):
        for midi in notes:
            at = area.left() + (min(max(midi, LOW), HIGH) - LOW) * width
            low = midi % 12 not in BLACK
            top = area.top() + (area.height() * 0.45 if low else 1)
            painter.fillRect(QRectF(at - width / 2, top, 2 * width, area.height() * 0.5), theme.color(hand))
    painter.setPen(hair(theme.color("key_line")))
    painter.drawRect(area)


class AtlasPage(QWidget):
    """`tried` tells a cell under the cursor with its sentence, `taken` one that was chosen; `bass_wanted` who has the
    bass in the table, "mine" or "theirs".
    """

    tried = Signal(object, str)
    taken = Signal(object)
    bass_wanted = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.model = AtlasModel()
        self.asked: int | None = None  # who was chosen to have the bass, None as the song has it
        self.table = QTableView()
        self.painter_ = TinyKeys(theme, self.table)
        self.table.setFrameShape(QFrame.Shape.NoFrame)
        self.table.setCornerButtonEnabled(False)
        self.table.setModel(self.model)
        self.table.setItemDelegate(self.painter_)
        self.table.setAccessibleName("Catalogue of hand shapes by class of chord")
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.table.setShowGrid(False)
        self.table.setWordWrap(False)
        across, down = self.table.horizontalHeader(), self.table.verticalHeader()
        across.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        across.setMinimumSectionSize(48)
        down.setDefaultSectionSize(ROW_H)
        down.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        down.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        down.setFixedWidth(190)
        for header in (across, down):
            header.setFont(font(SMALL))
            header.setHighlightSections(False)
            header.setSectionsClickable(False)
        self.table.selectionModel().currentChanged.connect(lambda now, _: self._moved(now))
        self.table.doubleClicked.connect(lambda index: self.taken.emit(self.model.shown(index)))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._strip())
        column.addWidget(self.table, 1)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.reach = QCheckBox("My reach only")
        self.reach.setToolTip("Hide what lies wider than the hands that My hands says")
        self.bass = ListBox()
        self.bass.setAccessibleName("Who has the bass in the table")
        self.bass.addItems(["with the bass", "beside a bass player"])
        self.manner = ListBox()
        self.manner.setAccessibleName("Manner in which the shapes are usual")
        self.manner.addItem("any manner", ANY)
        self.sizes = ListBox()
        self.sizes.setAccessibleName("Notes in each hand")
        self.sizes.addItem("any notes", None)
        for left, right in SIZES:
            self.sizes.addItem(f"{left} + {right} notes", (left, right))
        for box in (self.bass, self.manner, self.sizes):
            as_small(box)
            row.addWidget(box)
        as_small(self.reach)
        row.addWidget(self.reach)
        row.addStretch(1)
        self.reach.toggled.connect(lambda _: self._sift())
        self.manner.activated.connect(lambda _: self._sift())
        self.sizes.activated.connect(lambda _: self._sift())
        self.bass.activated.connect(self._bass)
        return row

    def _bass(self, index: int) -> None:
        self.asked = index
        self.bass_wanted.emit()

    @property
    def sieve(self) -> Sieve:
        """What the controls ask for."""
        return Sieve(self.reach.isChecked(), self.manner.currentData() or ANY, self.sizes.currentData())

    def show_rows(self, rows: tuple[AtlasRow, ...]) -> None:
        """Show a table."""
        names = list(dict.fromkeys(name for row in rows for name in row.manners))
        if names != [self.manner.itemData(n) for n in range(1, self.manner.count())]:
            while self.manner.count() > 1:
                self.manner.removeItem(1)
            for name in names:
                self.manner.addItem(name, name)
        self._show(rows)

    def _sift(self) -> None:
        self._show(self.model.every)

    def _show(self, rows: tuple[AtlasRow, ...]) -> None:
        now = self.table.currentIndex()
        self.model.show_rows(rows, self.sieve)
        if self.model.rows:
            at = min(max(now.row(), 0), len(self.model.rows) - 1)
            self.table.selectionModel().blockSignals(True)
            self.table.setCurrentIndex(self.model.index(at, max(now.column(), 0)))
            self.table.selectionModel().blockSignals(False)

    def _moved(self, index: QModelIndex) -> None:
        if index.isValid():
            self.tried.emit(self.model.shown(index), self.model.words(index))

    def step(self, down: int, across: int = 0) -> None:
        """Go to the cell beside."""
        now, model = self.table.currentIndex(), self.model
        if model.rows:
            row = min(max(now.row() + down, 0), len(model.rows) - 1)
            self.table.setCurrentIndex(model.index(row, min(max(now.column() + across, 0), len(COLUMNS) - 1)))

    @property
    def cell(self) -> Cell | None:
        """What is under the cursor, None where nothing is."""
        index = self.table.currentIndex()
        return self.model.shown(index) if index.isValid() else None

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.table.viewport().update()
