"""The parts of the Takes view: what can be done at the top, the takes in the middle, the mix below."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QMenu,
    QScrollArea,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QToolButton,
    QVBoxLayout,
)

from yellow_hinge.ui.paint.controls import ElidedLabel, as_small, level_rule, own_keys, strip_row, tool_button
from yellow_hinge.ui.paint.popups import OwnKeys
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.takes.cells import MixCells
from yellow_hinge.ui.takes.takes_canvas import TakesCanvas

BUTTONS = (
    ("new", "New take", "A copy of this take, after it (Ctrl+T)"),
    ("three", "Three takes for me", "A plain, a coloured and a high take made from this one"),
    ("rename", "Rename…", "Call this take something (F2)"),
    ("delete", "Delete", "Take this take away; undo brings it back"),
    ("up", "▲", "This take one up (Ctrl+Up)"),
    ("down", "▼", "This take one down (Ctrl+Down)"),
    ("compare", "Compare", "This take and the one above it, chord by chord"),
    ("turn", "In turn", "Hear this bar in this take and in the one above, again and again (I)"),
)
COLUMNS = ("Chord", "left", "right", "semitones", "Chord", "left", "right", "semitones", "otherwise")


class TakesView(ToldView):
    """The parts of the view; `asked` tells which of BUTTONS was pressed, `resized` that there is other room."""

    asked = Signal(str)
    resized = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Takes")
        self.canvas = TakesCanvas(theme)
        self.cells = MixCells(theme)
        self.maps_area = QScrollArea()
        self.maps_area.setWidget(self.canvas)
        self.maps_area.horizontalScrollBar().valueChanged.connect(lambda _: self.canvas.update())
        self.maps_area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setHorizontalHeaderLabels(list(COLUMNS))
        self.table.setAccessibleName("Two takes chord by chord")
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.verticalHeader().hide()
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.setFont(font(SMALL))
        self.pages = QStackedWidget()
        self.pages.addWidget(self.maps_area)
        self.pages.addWidget(self.table)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._strip())
        column.addWidget(level_rule())
        column.addWidget(self.pages, 1)
        column.addWidget(level_rule())
        column.addLayout(self._foot())
        column.addWidget(self.cells)
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.buttons: dict[str, QToolButton] = {}
        for name, text, tip in BUTTONS:
            button = tool_button(text, tip, tip)
            as_small(button)
            button.setCheckable(name == "compare")
            button.clicked.connect(lambda _=False, name=name: self.asked.emit(name))
            row.addWidget(button)
            self.buttons[name] = button
        self.copy = QToolButton()
        self.copy.setText("Section from…")
        self.copy.setToolTip("Play the section of the chord you are on as another take has it")
        self.copy.setAccessibleName("Copy a section from another take")
        as_small(self.copy)
        self.copy.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.copy.setMenu(QMenu(self.copy))
        OwnKeys(self.copy.menu())
        row.insertWidget(6, self.copy)
        row.addStretch(1)
        return row

    def _foot(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 4, 8, 0)
        row.setSpacing(8)
        title = QLabel("The mix")
        title.setFont(font(BODY, bold=True))
        self.words = ElidedLabel()
        self.words.setFont(font(SMALL))
        self.words.setObjectName("muted")
        self.easier = tool_button(
            "Begin easier", "Begin this pass as the sentence says, and keep it there", "Begin easier"
        )
        self.play = tool_button("▶ The mix", "Play the mix from this pass, or stop", "Play the mix")
        self.export = tool_button("Export…", "Write the mix as MIDI, sound, a table or a text sheet", "Export the mix")
        row.addWidget(title)
        row.addWidget(self.words, 1)
        for button in (self.easier, self.play, self.export):
            as_small(button)
            row.addWidget(button)
        return row

    def show_table(self, rows: list[tuple[str, ...]]) -> None:
        """Fill the table."""
        self.table.setRowCount(len(rows))
        for at, row in enumerate(rows):
            for column, text in enumerate(row):
                self.table.setItem(at, column, QTableWidgetItem(text))

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for part in (self.canvas, self.cells):
            part.theme = theme
            part.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()
