"""The parts of the Lines view: what is asked at the top, the rail and the line, the line in degrees, the scales."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QListWidget, QScrollArea, QVBoxLayout, QWidget

from yellow_hinge.core.lines.grid import STEPS
from yellow_hinge.core.lines.rails import RAILS, RANGES
from yellow_hinge.ui.lines.canvas import LineCanvas
from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    as_muted,
    as_small,
    choice,
    own_keys,
    strip_over,
    strip_row,
    tool_button,
    upright_rule,
)
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.rows import RowPainter
from yellow_hinge.ui.paint.theme import BODY, Theme, font
from yellow_hinge.ui.parts.views import ToldView

SIDE_W = 316
SEEN = 24  # pixels beside a chord that is brought into view
PARTS = ("this section", "whole song", "what is marked")
RAIL_TIPS = {
    "3-7": "From the third of a chord to the seventh of the next, by half steps where roots fall by fifths",
    "7-3": "From the seventh to the third", "9": "Ninths and thirteenths", "tune": "As near to the tune as it goes",
}  # fmt: skip
BOLD = (
    ("0", "inside", "Notes of the scales alone"), ("1", "coloured", "Half steps from outside into what is landed on"),
    ("2", "bold", "Darker scales over dominants too"),
)  # fmt: skip


class LinesView(ToldView):
    """`asked` tells that something else is wanted, `typed` what was written as degrees, `resized` that there is other
    room.
    """

    asked = Signal()
    typed = Signal(str)
    resized = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Lines")
        self.canvas = LineCanvas(theme)
        self.area = QScrollArea()
        self.area.setWidget(self.canvas)
        self.area.setFrameShape(QScrollArea.Shape.NoFrame)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.told = ElidedLabel()
        as_muted(self.told)
        self.written_ = QLineEdit()
        self.written_.setAccessibleName("The line in degrees")
        self.written_.setToolTip("A degree a step; . holds, r rests, ' and , an octave up or down, | between bars")
        self.written_.returnPressed.connect(lambda: self.typed.emit(self.written_.text()))
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addWidget(self.area, 1)
        body.addWidget(upright_rule())
        body.addWidget(self._side(theme))
        strip_over(self, self._strip(), body, self._foot())
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.part, self.density, self.range = ListBox(), ListBox(), ListBox()
        self.part.addItems(list(PARTS))
        self.part.setAccessibleName("What the line is for")
        self.density.addItems(list(STEPS))
        self.density.setCurrentText("eighths")
        self.density.setAccessibleName("How dense the line is")
        rails, self.rail = choice(tuple((name, name, RAIL_TIPS[name]) for name in RAILS), lambda _: self.asked.emit())
        bolds, self.bold = choice(BOLD, lambda _: self.asked.emit())
        self.rail[RAILS[0]].setChecked(True)
        self.bold["0"].setChecked(True)
        self.range.addItems(list(RANGES))
        self.range.setAccessibleName("The range of the line")
        for box in (self.part, self.density, self.range):
            box.activated.connect(lambda _: self.asked.emit())
        for words, widget in (("For", self.part), ("Rail", rails), ("", self.density), ("", self.range), ("", bolds)):
            if words:
                label = QLabel(words)
                as_muted(label)
                label.setBuddy(widget)
                row.addWidget(label)
            row.addWidget(widget)
        as_small(self.part, self.density, self.range, *self.rail.values(), *self.bold.values())
        row.addStretch(1)
        return row

    def _side(self, theme: Theme) -> QWidget:
        side = QWidget()
        side.setFixedWidth(SIDE_W)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(2)
        self.heading = QLabel()
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 4, 8, 2)
        self.heading.setWordWrap(True)
        self.scales = QListWidget()
        self.scales.setAccessibleName("Scales that fit the chord")
        self.painter_ = RowPainter(theme, self.scales, 30)
        self.scales.setItemDelegate(self.painter_)
        column.addWidget(self.heading)
        column.addWidget(self.scales, 1)
        return side

    def _foot(self) -> QVBoxLayout:
        """The line in degrees, and what can be done with it."""
        row = QHBoxLayout()
        row.setContentsMargins(12, 4, 8, 6)
        row.setSpacing(6)
        self.next = tool_button("Next best", "The line that costs a little more (X)", "Next best line")
        self.free = tool_button("Let go", "Hold no note fast any more", "Let held notes go")
        words = "Hide every note but those to land on, and find your own way between them"
        self.bare = tool_button("Landings only", words, "Landings only")
        self.bare.setCheckable(True)
        self.bare.toggled.connect(self._bared)
        self.play = tool_button("▶ Hear it", "The line over your hands (P)", "Hear the line")
        self.along = tool_button("Play along", "The hands go round; land on a note with every chord", "Play along")
        self.along.setCheckable(True)
        self.keep = tool_button("Keep", "", "Keep the line")
        self.tune = tool_button("As the tune", "The line becomes the song's tune here", "Line as the tune")
        policy = self.written_.sizePolicy()
        policy.setRetainSizeWhenHidden(True)
        self.written_.setSizePolicy(policy)
        row.addWidget(self.written_, 1)
        for button in (self.next, self.free, self.bare, self.along, self.play, self.tune, self.keep):
            as_small(button)
            row.addWidget(button)
        column = QVBoxLayout()
        column.setSpacing(0)
        self.told.setContentsMargins(12, 2, 8, 0)
        column.addWidget(self.told)
        column.addLayout(row)
        return column

    def _bared(self, bare: bool) -> None:
        """The line is hidden but for its landings, in the picture and in the text."""
        self.canvas.show_bare(bare)
        self.written_.setVisible(not bare)

    def bring(self, chord: int) -> None:
        """Scroll so that a chord of the part is seen."""
        scene = self.canvas.scene
        if scene is not None and 0 <= chord < len(scene.heads):
            head = scene.heads[chord]
            self.area.ensureVisible(round(head.x + head.width / 2), 0, round(head.width / 2) + SEEN, 0)

    def show_chord(self, chord: int) -> None:
        """Mark a chord of the part, -1 for none; another one than before is brought into view."""
        if chord != self.canvas.chord:
            self.canvas.chord = chord
            self.bring(chord)
        self.canvas.update()

    @property
    def chosen_rail(self) -> str:
        """The rail that is asked for."""
        return next(name for name, button in self.rail.items() if button.isChecked())

    @property
    def boldness(self) -> int:
        """How bold the line may be."""
        return int(next(name for name, button in self.bold.items() if button.isChecked()))

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = self.painter_.theme = theme
        self.canvas.update()
        self.scales.viewport().update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.resized.emit()
