"""The songs of the book as a table: thousands of them are listed, sorted and searched without a line being made."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, QSize, Qt

from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.core.pitch.pitch import pretty_signs

COLUMNS = ("Title", "Key", "Tempo", "Time", "Manner", "Tags", "What is wrong")
NUMBERS = (2, 3)  # columns that are numbers
ROW_H = 30
_Index = QModelIndex | QPersistentModelIndex


def clock(minutes: float) -> str:
    """Minutes and seconds, such as 3:05."""
    whole, seconds = divmod(round(minutes * 60), 60)
    return f"{whole}:{seconds:02}"


def cells(row: SongRow) -> tuple[str, ...]:
    """What stands in every column of a song."""
    wrong, minutes = (row.problem or "").split(";")[0], clock(row.minutes) if row.minutes else ""
    tags = ", ".join(row.tags)
    return row.title, pretty_signs(row.key), str(row.tempo or ""), minutes, row.manner, tags, wrong


def _sorting(column: int) -> Callable[[SongRow], tuple[float | str, ...]]:
    """By what a column is sorted; songs that are the same in it by their titles."""
    if not column:
        return lambda row: (row.title.casefold(), row.path)
    if column in NUMBERS:
        return lambda row: ((row.tempo, row.minutes)[column - NUMBERS[0]], row.title.casefold())
    return lambda row: (cells(row)[column].casefold(), row.title.casefold())


class SongModel(QAbstractTableModel):
    """Songs in the order of a column."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[SongRow] = []
        self._column, self._down = 0, False

    def put(self, rows: Sequence[SongRow]) -> None:
        """List other songs."""
        self.beginResetModel()
        self.rows = sorted(rows, key=_sorting(self._column), reverse=self._down)
        self.endResetModel()

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
            return cells(row)[column]
        if role == Qt.ItemDataRole.ToolTipRole:
            return {0: row.path, len(COLUMNS) - 1: row.problem}.get(column)
        if role == Qt.ItemDataRole.TextAlignmentRole and column in NUMBERS:
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        return QSize(0, ROW_H) if role == Qt.ItemDataRole.SizeHintRole else None
