"""The songs of the book as a table: thousands of them are listed, sorted and searched without a line being made."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QObject, QPersistentModelIndex, QSize, Qt

from yellow_hinge.app.solving.book.sets import clock
from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.practice.standing import Standing, ago

COLUMNS = ("Title", "Key", "Tempo", "Time", "Known", "Played", "Manner", "Tags", "What is wrong")
KNOWN, PLAYED = 4, 5  # columns of what the practice log says
NUMBERS = (2, 3)  # columns that are numbers
ROW_H = 30
NOT_PLAYED = Standing()
_Index = QModelIndex | QPersistentModelIndex


def cells(row: SongRow, own: Standing = NOT_PLAYED) -> tuple[str, ...]:
    """What stands in every column of a song that stands so in the practice log."""
    wrong, minutes = (row.problem or "").split(";")[0], clock(row.minutes) if row.minutes else ""
    tags = ", ".join(row.tags)
    return (
        row.title, pretty_signs(row.key), str(row.tempo or ""), minutes, own.words,
        ago(own.last, datetime.now().astimezone()), row.manner, tags,
        wrong,
    )  # fmt: skip


class SongModel(QAbstractTableModel):
    """Songs in the order of a column."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.rows: list[SongRow] = []
        self.standings: Mapping[str, Standing] = {}  # by the ids that the practice log knows songs by
        self._column, self._down = 0, False

    def standing(self, row: SongRow) -> Standing:
        """How a song stands in the practice log."""
        return self.standings.get(row.id) or self.standings.get(f"file:{row.id}") or NOT_PLAYED

    def put(self, rows: Sequence[SongRow]) -> None:
        """List other songs."""
        self.beginResetModel()
        self.rows = sorted(rows, key=self._sorting(), reverse=self._down)
        self.endResetModel()

    def _sorting(self) -> Callable[[SongRow], tuple[float | str, ...]]:
        """By what the column is sorted; songs that are the same in it by their titles."""
        column = self._column
        if not column:
            return lambda row: (row.title.casefold(), row.path)
        if column in NUMBERS:
            return lambda row: ((row.tempo, row.minutes)[column - NUMBERS[0]], row.title.casefold())
        if column == KNOWN:  # what is to be practised first
            return lambda row: (*(-count for count in self.standing(row)[:2]), row.title.casefold())
        if column == PLAYED:
            return lambda row: (self.standing(row).last, row.title.casefold())
        return lambda row: (cells(row, self.standing(row))[column].casefold(), row.title.casefold())

    def sort(self, column: int, order: Qt.SortOrder = Qt.SortOrder.AscendingOrder) -> None:
        """List the same songs by a column."""
        self._column, self._down = column, order == Qt.SortOrder.DescendingOrder
        self.put(self.rows)

    # what the table asks
    def rowCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's name and way
        """How many songs there are."""
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's name and way
        """How many columns there are."""
        return 0 if parent.isValid() else len(COLUMNS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """The heading of a column."""
        across = orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole
        return COLUMNS[section] if across else None

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """What a cell says."""
        row, column = self.rows[index.row()], index.column()
        if role == Qt.ItemDataRole.DisplayRole:
            return cells(row, self.standing(row))[column]
        if role == Qt.ItemDataRole.UserRole:
            return self.standing(row)
        if role == Qt.ItemDataRole.ToolTipRole:
            return {0: row.path, KNOWN: self.standing(row).words, len(COLUMNS) - 1: row.problem}.get(column)
        if role == Qt.ItemDataRole.TextAlignmentRole and column in NUMBERS:
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        return QSize(0, ROW_H) if role == Qt.ItemDataRole.SizeHintRole else None
