"""The home view: strand map and the panel beside it."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.touched import SLIGHT, Touched
from yellow_hinge.ui.hinges.side_panel import SidePanel
from yellow_hinge.ui.hinges.strand_map import StrandMap
from yellow_hinge.ui.hinges.wish_strip import WishStrip
from yellow_hinge.ui.paint.controls import own_keys, upright_rule
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.sound.listening import Listening


class HingesView(QWidget):
    """The song's hinges, and what there is to know and choose at the selected chord."""

    def __init__(self, desk: Desk, theme: Theme, listening: Listening) -> None:
        super().__init__()
        self.map = StrandMap(desk, theme)
        self.side = SidePanel(desk, theme, listening)
        self.options = self.side.options
        rule = upright_rule()
        self.wishes = WishStrip(desk)
        self.folds = self.wishes.more, self.options.filters
        middle = QVBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.wishes)
        middle.addWidget(self.map, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(middle, 1)
        row.addWidget(rule)
        row.addWidget(self.side)
        self.setFocusProxy(self.map)
        own_keys(self)
        self.set_theme(theme)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.map.set_theme(theme)
        self.side.set_theme(theme)

    def changed(self, what: Touched) -> None:
        """The song was edited."""
        if what & ~SLIGHT:
            self.wishes.refresh()
            self.side.changed()

    def solved(self) -> None:
        """Show the present solution."""
        self.map.refresh()
        self.wishes.refresh()
        self.side.refresh()

    def remark(self) -> None:
        """Other chords are marked, or none."""
        self.map.canvas.show_mark(self.map.desk.selection.marked)
        self.wishes.refresh()

    def reselect(self) -> None:
        """Another chord was selected."""
        self.map.reselect()
        self.wishes.refresh()
        self.side.reselect()
