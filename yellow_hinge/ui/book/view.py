"""The parts of the Songbook view: search, the table of songs, and the set beside it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QModelIndex, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QListWidget,
    QTreeView,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.ui.book.known import KnownPainter
from yellow_hinge.ui.book.model import KNOWN, SongModel
from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    as_muted,
    as_small,
    own_keys,
    strip_over,
    strip_row,
    tool_button,
    upright_rule,
)
from yellow_hinge.ui.paint.rows import RowPainter
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView

WIDTHS = (220, 86, 64, 58, 92, 88, 120, 90, 110)
SIDE_W = 360
NO_FOLDER = "Choose a folder of songs: every song, chart, score and MIDI file in it is listed."


class BookView(ToldView):
    """`searched` tells what is looked for, `opened` that a song is wanted."""

    searched = Signal(str)
    opened = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Songbook")
        self.table, self.listed = QTreeView(), SongModel(self)
        self.table.setModel(self.listed)
        self.table.setAccessibleName("Songs")
        self.table.setRootIsDecorated(False)
        self.table.setUniformRowHeights(True)
        self.table.setSortingEnabled(True)
        self.table.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setFrameShape(QTreeView.Shape.NoFrame)
        self.known = KnownPainter(theme, self.table)
        self.table.setItemDelegateForColumn(KNOWN, self.known)
        header = self.table.header()
        header.setStretchLastSection(True)
        header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        for number, width in enumerate(WIDTHS):
            self.table.setColumnWidth(number, width)
        self.table.doubleClicked.connect(lambda *_: self.opened.emit())
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addWidget(self.table, 1)
        body.addWidget(upright_rule())
        body.addWidget(self._side(theme))
        strip_over(self, self._strip(), body)
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find: title, key, section, words")
        self.search.setAccessibleName("Find songs")
        self.search.textChanged.connect(self.searched)
        self.told = ElidedLabel()
        as_muted(self.told)
        self.book = tool_button(
            "The boat's book", "Our own songs and an evening's set, put into a folder", "The boat's book"
        )
        self.folder = tool_button("Folder…", "Its songs are listed, and those inside", "A folder of songs")
        self.open = tool_button("Open", "Open the song under the cursor (Enter)", "Open the song")
        self.add = tool_button("Into the set", "To the end of tonight's set (Insert)", "Into the set")
        row.addWidget(self.search, 2)
        row.addWidget(self.told, 3)
        for button in (self.book, self.folder, self.open, self.add):
            as_small(button)
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
        self.set.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.set.setAccessibleName("The set")
        self.painter_ = RowPainter(theme, self.set, 44)
        self.set.setItemDelegate(self.painter_)
        column.addWidget(self.heading)
        column.addWidget(self.set, 1)
        column.addWidget(self.foot)
        for row in self._buttons():
            buttons = QHBoxLayout()
            buttons.setContentsMargins(10, 2, 8, 4)
            buttons.setSpacing(6)
            for button in row:
                as_small(button)
                buttons.addWidget(button)
            buttons.addStretch(1)
            column.addLayout(buttons)
        return side

    def _buttons(self) -> tuple[tuple[QWidget, ...], ...]:
        """What is done with the set and a song of it, in rows."""
        self.key = tool_button("Key…", "The key of this song for tonight", "Key for tonight")
        self.take = tool_button("Take…", "The take of this song for tonight, or its mix", "Take for tonight")
        self.note = tool_button("Note…", "What stands before this song", "Note before the song")
        self.drop = tool_button("Out", "Take the song out of the set (Delete)", "Out of the set")
        self.files = tool_button("Files…", "Every song as MIDI or sound, in tonight's key and take", "The set as files")
        self.locate = tool_button("Find…", "Where the file of this song is now", "Find the file of the song")
        self.practise = tool_button(
            "Practise", "The song of the set with most that is due (F7)", "Practise before tonight"
        )
        self.print = tool_button("PDF…", "All sheets of the set in one file", "The set as one PDF")
        self.stage = tool_button("On stage…", "The set on stage, from this song on (Shift+F11)", "The set on stage")
        self.back = tool_button("Back", "The set as it was before the last change (Alt+Z)", "The set as it was")
        return (
            (self.key, self.take, self.note, self.locate),
            (self.drop, self.back, self.print),
            (self.files, self.practise, self.stage),
        )

    def show_songs(self, rows: Sequence[SongRow]) -> None:
        """List other songs, with the cursor where it was."""
        held = self.song.path if self.song is not None else ""
        self.listed.put(rows)
        self.go(next((n for n, row in enumerate(self.listed.rows) if row.path == held), 0))

    def go(self, at: int) -> None:
        """The cursor to a line, or to the nearest there is."""
        at = min(max(at, 0), len(self.listed.rows) - 1)
        self.table.setCurrentIndex(self.listed.index(at, 0) if at >= 0 else QModelIndex())

    @property
    def song(self) -> SongRow | None:
        """The song under the cursor."""
        at = self.table.currentIndex().row()
        return self.listed.rows[at] if 0 <= at < len(self.listed.rows) else None

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = self.known.theme = theme
        self.set.viewport().update()
        self.table.viewport().update()
