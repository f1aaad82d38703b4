"""The panel beside the map: ways to play the chord, stiff changes, the bass line, a hand over other basses."""

from __future__ import annotations

from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QStackedWidget, QToolButton, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.ui.options_panel import OptionsPanel
from yellow_hinge.ui.song_lists import SongList, bass_rows, other_bass_rows, stiff_rows
from yellow_hinge.ui.swaps_page import SwapsPage
from yellow_hinge.ui.theme import SMALL, Theme, font, text_scale

WIDTH = 308
PAGES = {
    "ways": ("Ways", "Ways to play this chord"),
    "swaps": ("Swaps", "Other chords for this one, judged by the melody"),
    "stiff": ("Stiff", "The hardest changes of the song; a click goes there"),
    "bass": ("Bass line", "How the bass goes from chord to chord; a click goes there"),
    "basses": ("Basses", "This hand over all twelve basses; a click sounds it"),
}


class SidePanel(QWidget):
    """The pages of PAGES, one at a time."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.options = OptionsPanel(desk, theme)
        self.lists = {
            "stiff": SongList(desk, theme, "Stiff changes", PAGES["stiff"][1], stiff_rows),
            "bass": SongList(desk, theme, "The bass line", PAGES["bass"][1], bass_rows),
            "basses": SongList(desk, theme, "This hand over other basses", PAGES["basses"][1], other_bass_rows),
        }
        self.stack = QStackedWidget()
        self.swaps = SwapsPage(desk, theme)
        self.stack.addWidget(self.options)
        self.stack.addWidget(self.swaps)
        for page in self.lists.values():
            self.stack.addWidget(page)
        self.tabs: dict[str, QToolButton] = {}
        group = QButtonGroup(self)
        row = QHBoxLayout()
        row.setContentsMargins(8, 6, 8, 2)
        row.setSpacing(2)
        for name, (text, tip) in PAGES.items():
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
        column.addWidget(self.stack, 1)
        self.setFixedWidth(round(WIDTH * (0.5 + 0.5 * text_scale())))
        self.tabs["ways"].setChecked(True)

    def move(self, by: int) -> None:
        """Up or down the list that is shown, where that has ways or swaps to try."""
        (self.swaps if self.page == "swaps" else self.options).move(by)

    def take(self) -> None:
        """Take what is under the cursor of that list."""
        (self.swaps if self.page == "swaps" else self.options).take()

    @property
    def page(self) -> str:
        """The page that is shown."""
        return list(PAGES)[self.stack.currentIndex()]

    def show_page(self, name: str) -> None:
        """Show one of PAGES."""
        self.tabs[name].setChecked(True)
        self.stack.setCurrentIndex(list(PAGES).index(name))

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for page in (self.options, self.swaps, *self.lists.values()):
            page.set_theme(theme)

    def refresh(self) -> None:
        """Show the present solution."""
        self.options.refresh()
        self.swaps.refresh()
        for page in self.lists.values():
            page.refresh()

    def reselect(self) -> None:
        """Another chord was selected."""
        self.options.refresh()
        self.swaps.refresh()
        self.lists["basses"].refresh()
