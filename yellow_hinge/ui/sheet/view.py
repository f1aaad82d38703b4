"""The parts of the Sheet view: the pages, and beside them what they show."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.core.sheet.asks import HANDS_AS, KINDS, MOST_COLUMNS, PAPERS, SHOWN, SIZES
from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    as_small,
    level_rule,
    own_keys,
    strip_row,
    tool_button,
    upright_rule,
)
from yellow_hinge.ui.paint.popups import list_box
from yellow_hinge.ui.paint.theme import SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.sheet.pages_canvas import PagesCanvas

SIDE_W = 268
TWELVE = "twelve"
STRETCHES = {
    "chord": "this chord", "change": "this hinge", "bar": "this bar", "section": "this section",
    "mark": "what is marked",
}  # fmt: skip
KEYS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")


def _box(options: list[tuple[str, str]], name: str) -> QComboBox:
    box = list_box(name, options)
    as_small(box)
    return box


class SheetView(ToldView):
    """The parts of the view; `asked` tells that something else is to be shown, `noted` that a note was typed (for the
    "chord" or the "song"), `sounded` that the keyboard sounds in another key.
    """

    asked = Signal()
    noted = Signal(str)
    sounded = Signal()
    resized = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Sheet")
        self.canvas = PagesCanvas(theme)
        self.pages_area = QScrollArea()
        self.pages_area.setWidget(self.canvas)
        self.pages_area.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        self.pages_area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.pages_area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)  # so that its width stays
        self.labels: list[QLabel] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addLayout(self._strip())
        left.addWidget(level_rule())
        left.addWidget(self.pages_area, 1)
        row.addLayout(left, 1)
        row.addWidget(upright_rule())
        row.addWidget(self._side())
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.kind = _box([*KINDS.items(), (TWELVE, "Twelve keys")], "Kind of sheet")
        self.of = _box([("take", "this take"), ("mix", "the mix"), ("mark", "what is marked")], "What it is of")
        self.stretch = _box(list(STRETCHES.items()), "What goes through twelve keys")
        self.a_page = QCheckBox("a page a key")
        self.a_page.setFont(font(SMALL))
        self.told = ElidedLabel()
        self.told.setFont(font(SMALL))
        self.told.setObjectName("muted")
        self.out = tool_button("−", "Show the pages smaller (−)", "Smaller pages")
        self.into = tool_button("+", "Show the pages larger (+)", "Larger pages")
        self.print_ = tool_button("Print…", "Print these pages (Ctrl+P)", "Print the sheet")
        self.stage = tool_button("On stage…", "Very large, full screen, turned by a foot switch (F11)", "On stage")
        self.export = tool_button("Export…", "These pages as PDF, SVG or pictures, or the score", "Export the sheet")
        for widget in (self.kind, self.of, self.stretch, self.a_page):
            row.addWidget(widget)
        row.addWidget(self.told, 1)
        for button in (self.out, self.into, self.stage, self.print_, self.export):
            as_small(button)
            row.addWidget(button)
        for box in (self.kind, self.of, self.stretch):
            box.activated.connect(lambda _: self.asked.emit())
        self.a_page.clicked.connect(lambda _: self.asked.emit())
        return row

    def _side(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(SIDE_W)
        column = QVBoxLayout(side)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(7)
        column.addLayout(self._choices())
        column.addWidget(level_rule())
        column.addLayout(self._shown())
        column.addWidget(level_rule())
        self.chord_words = self._label("Note on this chord")
        self.song_words = self._label("Note on the song")
        self.chord_note, self.song_note = self._note("chord"), self._note("song")
        for words, note in ((self.chord_words, self.chord_note), (self.song_words, self.song_note)):
            words.setBuddy(note)
            column.addWidget(words)
            column.addWidget(note)
        column.addStretch(1)
        area = QScrollArea()
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidget(side)
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        side.setAutoFillBackground(False)  # which a scroll area turns on
        area.setFixedWidth(SIDE_W + 12)
        return area

    def _label(self, text: str) -> QLabel:
        label = QLabel(text)
        label.setFont(font(SMALL))
        label.setObjectName("muted")
        return label

    def _choices(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        rows = [("", "as many as fit"), *((str(n), str(n)) for n in range(1, MOST_COLUMNS + 1))]
        self.size_ = _box(list(SIZES.items()), "Size")
        self.paper = _box([(value, name) for value, (name, _, _) in PAPERS.items()], "Paper")
        self.lies = _box([("", "upright"), ("1", "on its side")], "How the page lies")
        self.columns = _box(rows, "Bars of a row")
        self.key = _box([("", "the song's"), *((key, key) for key in KEYS)], "Key it is written in")
        self.sounds = _box([("", "as written"), *((key, key) for key in KEYS)], "Key it sounds in")
        self.hands = _box(list(HANDS_AS.items()), "What staves show of the hands")
        boxes = (
            ("Size", self.size_), ("Paper", self.paper), ("Page", self.lies), ("Bars of a row", self.columns),
            ("Fingers in", self.key), ("Sounds in", self.sounds), ("Staves", self.hands),
        )  # fmt: skip
        for number, (text, box) in enumerate(boxes):
            label = self._label(text)
            label.setBuddy(box)
            grid.addWidget(label, number, 0)
            grid.addWidget(box, number, 1)
            told = self.sounded if box is self.sounds else self.asked
            box.activated.connect(lambda _, told=told: told.emit())
        return grid

    def _shown(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setVerticalSpacing(5)
        self.shown: dict[str, QCheckBox] = {}
        for number, (value, text) in enumerate(SHOWN.items()):
            box = QCheckBox(text)
            box.setFont(font(SMALL))
            box.clicked.connect(lambda _: self.asked.emit())
            grid.addWidget(box, number // 2, number % 2)
            self.shown[value] = box
        return grid

    def _note(self, of: str) -> QLineEdit:
        line = QLineEdit()
        line.setFont(font(SMALL))
        line.setMaxLength(400)
        line.setAccessibleName(f"Note on the {of}")
        line.editingFinished.connect(lambda: self.noted.emit(of))
        return line

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = theme
        self.canvas.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()
