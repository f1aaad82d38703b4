"""The list of everything that is looked up by name, with where each is from; what is left out stands first."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QBrush
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHeaderView,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.mine.folder import Mine
from yellow_hinge.app.mine.kinds import KINDS
from yellow_hinge.app.mine.listing import every_row
from yellow_hinge.ui.paint.theme import Theme

SIZE = 760, 520
HEADS = ("Kind", "Name", "From")


class OwnList(QDialog):
    """Every entry in a table that is searched as one types."""

    folder_wanted = Signal()
    example_wanted = Signal(str)

    def __init__(self, parent: QWidget, theme: Theme, mine: Mine, folder: Path) -> None:
        super().__init__(parent)
        self.setWindowTitle("My own data")
        self.resize(*SIZE)
        self.theme, self.folder = theme, folder
        words = QLabel(f"One small file an entry, in folders of {folder}. A change there is read at once.")
        words.setWordWrap(True)
        words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Search a kind or a name")
        self.search.setAccessibleName("Search a kind or a name")
        self.search.textChanged.connect(self._sift)
        self.table = QTableWidget(0, len(HEADS))
        self.table.setHorizontalHeaderLabels(HEADS)
        self.table.setAccessibleName("Everything that is looked up by name")
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        self.table.verticalHeader().hide()
        self.table.setShowGrid(False)
        header = self.table.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(len(HEADS) - 1, QHeaderView.ResizeMode.Stretch)
        header.setMinimumSectionSize(104)
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.told = QLabel()
        self.told.setObjectName("muted")
        column = QVBoxLayout(self)
        for part in (words, self.search, self.table, self.told, self._buttons()):
            column.addWidget(part)
        self.fill(mine)
        self.search.setFocus()

    def _buttons(self) -> QDialogButtonBox:
        found = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        found.rejected.connect(self.reject)
        example = QPushButton("Put an example")
        menu = QMenu(example)
        for kind in KINDS:
            menu.addAction(f"{kind.name.capitalize()}: {kind.words}").triggered.connect(
                lambda _=False, name=kind.name: self.example_wanted.emit(name)
            )
        example.setMenu(menu)
        example.setAutoDefault(False)
        folder = QPushButton("Open the folder")
        folder.setAutoDefault(False)
        folder.clicked.connect(self.folder_wanted)
        found.addButton(example, QDialogButtonBox.ButtonRole.ActionRole)
        found.addButton(folder, QDialogButtonBox.ButtonRole.ActionRole)
        return found

    def fill(self, mine: Mine) -> None:
        """Show what a folder holds beside what ships."""
        rows = every_row(mine)
        own = [row for row in rows if row.mine]
        theirs = [row for row in rows if not row.mine]
        error = QBrush(self.theme.color("error"))
        table = self.table
        table.setRowCount(len(mine.wrong) + len(rows))
        for at, wrong in enumerate(mine.wrong):
            self._put(at, ("left out", str(wrong).partition(": ")[0], wrong.reason), error)
        for at, row in enumerate((*own, *theirs), len(mine.wrong)):
            place = str(Path(row.place).relative_to(self.folder)) if row.mine else row.place
            self._put(at, (row.kind, row.name, place), None)
        count = f"{len(own)} of your own, {len(theirs)} that ship"
        self.told.setText(f"{count}; {len(mine.wrong)} left out" if mine.wrong else count)
        self._sift(self.search.text())

    def _put(self, at: int, cells: tuple[str, str, str], brush: QBrush | None) -> None:
        for column, text in enumerate(cells):
            item = QTableWidgetItem(text)
            item.setToolTip(text)
            if brush is not None:
                item.setForeground(brush)
            self.table.setItem(at, column, item)

    def _sift(self, words: str) -> None:
        wanted = words.casefold().split()
        for at in range(self.table.rowCount()):
            items = (self.table.item(at, column) for column in range(len(HEADS)))
            text = " ".join(item.text() for item in items if item is not None).casefold()
            self.table.setRowHidden(at, not all(word in text for word in wanted))
