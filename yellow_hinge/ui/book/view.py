"""The parts of the Songbook view: search, the table of songs, and the set beside it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QListWidget,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.solving.songbook import SongRow
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.controls import ElidedLabel, level_rule, own_keys, tool_button, upright_rule
from yellow_hinge.ui.paint.rows import RowPainter
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView

COLUMNS = ("Title", "Key", "Tempo", "Time", "Manner", "Tags", "What is wrong")
WIDTHS = (230, 90, 64, 70, 130, 100, 120)
SIDE_W = 360
ROW_H = 30
NUMBERS = (2, 3)  # columns that are numbers
NO_FOLDER = "Choose a folder of songs: every song, chart, score and MIDI file in it is listed."


def clock(minutes: float) -> str:
    """Minutes and seconds, such as 3:05."""
    whole, seconds = divmod(round(minutes * 60), 60)
    return f"{whole}:{seconds:02}"


class SongItem(QTreeWidgetItem):
    """A song's line; numbers are sorted as such."""

    def __init__(self, row: SongRow) -> None:
        wrong = (row.problem or "").split(";")[0]
        tempo, minutes = str(row.tempo or ""), clock(row.minutes) if row.minutes else ""
        words = [row.title, pretty_signs(row.key), tempo, minutes, row.manner, ", ".join(row.tags), wrong]
        super().__init__(words)
        self.setSizeHint(0, QSize(0, ROW_H))
        self.row = row
        self.setToolTip(0, row.path)
        self.setToolTip(6, row.problem or "")
        for column in NUMBERS:
            self.setTextAlignment(column, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)

    def __lt__(self, other: object) -> bool:
        tree = self.treeWidget()
        column = tree.sortColumn() if tree is not None else 0
        if isinstance(other, SongItem) and column in NUMBERS:
            one, two = ((item.row.tempo, item.row.minutes) for item in (self, other))
            return one[column - 2] < two[column - 2]
        mine = self.text(column).casefold()
        return mine < (other.text(column).casefold() if isinstance(other, QTreeWidgetItem) else "")


class BookView(ToldView):
    """`searched` tells what is looked for, `opened` that a song is wanted."""

    searched = Signal(str)
    opened = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Songbook")
        self.table = QTreeWidget()
        self.table.setAccessibleName("Songs")
        self.table.setHeaderLabels(list(COLUMNS))
        self.table.setRootIsDecorated(False)
        self.table.setUniformRowHeights(True)
        self.table.setSortingEnabled(True)
        self.table.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setFrameShape(QTreeWidget.Shape.NoFrame)
        header = self.table.header()
        header.setStretchLastSection(True)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        for number, width in enumerate(WIDTHS):
            self.table.setColumnWidth(number, width)
        self.table.itemDoubleClicked.connect(lambda *_: self.opened.emit())
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addWidget(self.table, 1)
        body.addWidget(upright_rule())
        body.addWidget(self._side(theme))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._strip())
        column.addWidget(level_rule())
        column.addLayout(body, 1)
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 6, 8, 4)
        row.setSpacing(6)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find: title, key, section, words")
        self.search.setAccessibleName("Find songs")
        self.search.textChanged.connect(self.searched)
        self.told = ElidedLabel()
        self.told.setObjectName("muted")
        self.told.setFont(font(SMALL))
        self.folder = tool_button("Folder…", "Its songs are listed, and those inside", "A folder of songs")
        self.open = tool_button("Open", "Open the song under the cursor (Enter)", "Open the song")
        self.add = tool_button("Into the set", "To the end of tonight's set (Insert)", "Into the set")
        row.addWidget(self.search, 2)
        row.addWidget(self.told, 3)
        for button in (self.folder, self.open, self.add):
            button.setFont(font(SMALL))
            button.setProperty("small", True)
            row.addWidget(button)
        return row

    def _side(self, theme: Theme) -> QWidget:
        side = QWidget()
        side.setFixedWidth(SIDE_W)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(2)
        self.heading, self.foot = QLabel("Tonight"), QLabel()
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 2, 8, 0)
        self.foot.setFont(font(SMALL))
        self.foot.setWordWrap(True)
        self.foot.setContentsMargins(12, 4, 8, 6)
        self.set = QListWidget()
        self.set.setAccessibleName("The set")
        self.painter_ = RowPainter(theme, self.set, 44)
        self.set.setItemDelegate(self.painter_)
        self.key = tool_button("Key…", "The key of this song for tonight", "Key for tonight")
        self.take = tool_button("Take…", "The take of this song for tonight, or its mix", "Take for tonight")
        self.note = tool_button("Note…", "What stands before this song", "Note before the song")
        self.drop = tool_button("Out", "Take the song out of the set (Delete)", "Out of the set")
        self.print = tool_button("PDF…", "All sheets of the set in one file", "The set as one PDF")
        self.back = tool_button("Back", "The set as it was before the last change (Alt+Z)", "The set as it was")
        column.addWidget(self.heading)
        column.addWidget(self.set, 1)
        column.addWidget(self.foot)
        for row in ((self.key, self.take, self.note), (self.drop, self.back, self.print)):
            buttons = QHBoxLayout()
            buttons.setContentsMargins(10, 2, 8, 4)
            buttons.setSpacing(6)
            for button in row:
                button.setFont(font(SMALL))
                button.setProperty("small", True)
                buttons.addWidget(button)
            buttons.addStretch(1)
            column.addLayout(buttons)
        return side

    def show_songs(self, rows: Sequence[SongRow]) -> None:
        """List other songs, with the cursor where it was."""
        held = self.song.path if self.song is not None else ""
        self.table.setSortingEnabled(False)
        self.table.clear()
        items = [SongItem(row) for row in rows]
        self.table.addTopLevelItems(items)
        self.table.setSortingEnabled(True)
        there = next((item for item in items if item.row.path == held), self.table.topLevelItem(0))
        if there is not None:
            self.table.setCurrentItem(there)

    @property
    def song(self) -> SongRow | None:
        """The song under the cursor."""
        item = self.table.currentItem()
        return item.row if isinstance(item, SongItem) else None

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.set.viewport().update()
