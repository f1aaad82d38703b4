"""The Playing view: what is asked at the top, the bar in the middle, patterns and fills at the right."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QStandardItemModel
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import PLACES
from yellow_hinge.core.song.swing import SWINGS
from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    Tabs,
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
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.parts.fills_list import FillsList
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.playing.bar_canvas import BarCanvas
from yellow_hinge.ui.playing.pattern_list import PatternList
from yellow_hinge.ui.sound.listening import Listening

SIDE_W = 336
USUAL_SWING = "as usual"
PAGES = {"patterns": ("Patterns", "Patterns to play in"), "fills": ("Fills", "Lead-ins and fills at this chord")}
HANDS = (
    ("both", "both", "The pattern is for both hands"),
    ("left", "left", "The pattern is for the left hand"),
    ("right", "right", "The pattern is for the right hand"),
)


class PlayingView(ToldView):
    """The parts of the view; `scoped` tells that patterns are asked for another place or hand."""

    scoped = Signal()

    def __init__(self, desk: Desk, listening: Listening, theme: Theme) -> None:
        super().__init__()
        self.canvas = BarCanvas(theme)
        self.patterns = PatternList(desk, theme)
        self.fills = FillsList(desk, listening, theme)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Playing")
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addWidget(self.canvas, 1)
        body.addWidget(upright_rule())
        body.addWidget(self._side())
        self.told = ElidedLabel()
        as_muted(self.told)
        self.keep = tool_button(
            "Keep the hands instead",
            "The pattern stays, and opens no hands for itself (Shift+O)",
            "Keep the hands instead",
        )
        as_small(self.keep)
        foot = QHBoxLayout()
        foot.setContentsMargins(12, 2, 8, 4)
        foot.addWidget(self.told, 1)
        foot.addWidget(self.keep)
        strip_over(self, self._strip(), body, foot)
        own_keys(self)

    def _buttons(self) -> None:
        """What is chosen from and pressed above the bar."""
        self.place = ListBox()
        self.place.addItems(["whole song", "section", "every section", "bar", "chord", "what is marked"])
        self.place.setAccessibleName("What the pattern is for")
        self.place.activated.connect(lambda _: self.scoped.emit())
        self.ahead = tool_button(
            "Early",
            "Chords come half a beat early: the right hand's, and the left's beside a bass player",
            "Half a beat early",
        )
        self.ahead.setCheckable(True)
        self.usual = tool_button("As usual", "Ask for no pattern here: what holds around it is played", "As usual")
        self.copy = tool_button("Edit a copy", "Make this pattern your own, and change its strokes (E)", "Edit a copy")
        self.name = tool_button("Name…", "Call this pattern of yours something", "Name this pattern")
        self.forget = tool_button("Forget", "Take this pattern of yours away", "Forget this pattern")
        self.tap = tool_button(
            "Tap it in", "The bar goes round: tap F for the left hand and J for the right, then stop", "Tap it in"
        )
        self.tap.setCheckable(True)
        self.swing = ListBox()
        self.swing.addItems([USUAL_SWING, *SWINGS])
        self.swing.setAccessibleName("Straight or swung")
        self.swing.setToolTip(
            "How late the second half of a beat comes, for all who play: in the song, or in a section"
        )

    @property
    def for_place(self) -> str:
        """What a pattern is for, as it is chosen."""
        return PLACES[self.place.currentIndex()]

    def name_places(self, section: str, alike: int) -> None:
        """Call the section by its name; several of that name can be meant together."""
        name, every = section or "section", PLACES.index("every")
        self.place.setItemText(PLACES.index("section"), name)
        self.place.setItemText(every, f"every {name}")
        model = self.place.model()
        assert isinstance(model, QStandardItemModel)
        model.item(every).setEnabled(alike > 1)
        if alike < 2 and self.for_place == "every":
            self.place.setCurrentIndex(PLACES.index("section"))

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self._buttons()
        holder, self.hands = choice(HANDS, lambda _: self.scoped.emit())
        self.hands["both"].setChecked(True)
        for text, widget in (("For", self.place), ("Hand", holder), ("Swing", self.swing)):
            label = QLabel(text)
            as_muted(label)
            label.setBuddy(widget)
            row.addWidget(label)
            row.addWidget(widget)
            if widget is holder:
                row.addWidget(self.usual)
            if widget is self.swing:
                row.addWidget(self.ahead)
        row.addStretch(1)
        buttons = (self.name, self.forget, self.copy, self.tap)
        for button in buttons:
            row.addWidget(button)
        as_small(self.place, self.swing, self.ahead, self.usual, *buttons, *self.hands.values())
        return row

    def _side(self) -> QWidget:
        side = QWidget()
        self.pages = QStackedWidget()
        self.tabs = Tabs(PAGES, "Lists")
        self.tabs.chosen.connect(lambda name: self.pages.setCurrentIndex(list(PAGES).index(name)))
        self.pages.addWidget(self.patterns)
        self.pages.addWidget(self.fills)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.tabs)
        column.addWidget(self.pages, 1)
        side.setFixedWidth(SIDE_W)
        return side

    @property
    def hand(self) -> str:
        """The hand that a pattern is for: "both", "left" or "right"."""
        return next(hand for hand, button in self.hands.items() if button.isChecked())

    @property
    def list(self) -> PatternList | FillsList:
        """The list that is shown."""
        return self.patterns if self.pages.currentIndex() == 0 else self.fills

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = theme
        self.canvas.update()
        self.patterns.set_theme(theme)
        self.fills.set_theme(theme)
