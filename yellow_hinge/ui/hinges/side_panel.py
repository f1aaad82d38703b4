"""The panel beside the map: ways to play the chord, stiff changes, the bass line, a hand over other basses."""

from __future__ import annotations

from typing import cast

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.ui.hinges.options_panel import OptionsPanel
from yellow_hinge.ui.hinges.song_lists import KINDS, SongList
from yellow_hinge.ui.theme import SMALL, Theme, font, text_scale
from yellow_hinge.ui.views import Views

WIDTH = 308
WAYS = "ways"


class SidePanel(QWidget):
    """The ways to play and the lists of KINDS, one page at a time. `struck` asks for notes: (MIDI, hand) pairs."""

    struck = Signal(object)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.options = OptionsPanel(desk, theme)
        makers = {name: lambda name=name: self._make(name) for name in KINDS}
        self.pages = Views({WAYS: lambda: self.options, **makers})
        self.tabs: dict[str, QToolButton] = {}
        group = QButtonGroup(self)
        row = QHBoxLayout()
        row.setContentsMargins(8, 6, 8, 2)
        row.setSpacing(2)
        shown = {WAYS: ("Ways", "Ways to play this chord")} | {
            name: (kind.tab, kind.tip) for name, kind in KINDS.items()
        }
        for name, (text, tip) in shown.items():
            button = QToolButton()
            button.setText(text)
            button.setToolTip(tip)
            button.setAccessibleName(tip)
            button.setCheckable(True)
            button.setObjectName("tab")
            button.setFont(font(SMALL))
            button.clicked.connect(lambda _=False, name=name: self.show_page(name))
            group.addButton(button)
            row.addWidget(button)
            self.tabs[name] = button
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(self.pages, 1)
        self.setFixedWidth(round(WIDTH * (0.5 + 0.5 * text_scale())))
        self.show_page(WAYS)

    def _make(self, name: str) -> QWidget:
        made = SongList(self.desk, self.theme, KINDS[name])
        made.struck.connect(self.struck.emit)
        return made

    def list_of(self, name: str) -> SongList:
        """The list of one of KINDS."""
        return cast(SongList, self.pages.view(name))

    def move(self, by: int) -> None:  # type: ignore[override]
        """Up or down the ways to play."""
        self.options.move(by)

    def take(self) -> None:
        """Take the way under the cursor."""
        self.options.take()

    @property
    def page(self) -> str:
        """The page that is shown."""
        return self.pages.current

    def show_page(self, name: str) -> None:
        """Show "ways" or one of KINDS."""
        self.tabs[name].setChecked(True)
        self.pages.show_view(name)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.theme = theme
        for page in self.pages.made():
            page.set_theme(theme)

    def refresh(self) -> None:
        """Show the present solution."""
        for page in self.pages.made():
            page.solved()

    def reselect(self) -> None:
        """Another chord was selected."""
        for page in self.pages.made():
            page.reselect()
