"""The panel beside the map: ways to play the chord, stiff changes, the bass line, a hand over other basses."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QEvent, Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.hinges.options_panel import OptionsPanel
from yellow_hinge.ui.hinges.own_list import TIP, OwnList
from yellow_hinge.ui.hinges.song_lists import KINDS, SongList
from yellow_hinge.ui.hinges.wide_list import TIP as WIDE_TIP
from yellow_hinge.ui.hinges.wide_list import WideList
from yellow_hinge.ui.paint.controls import Tabs
from yellow_hinge.ui.paint.theme import Theme, text_scale
from yellow_hinge.ui.parts.fills_list import TIP as FILLS_TIP
from yellow_hinge.ui.parts.fills_list import FillsList
from yellow_hinge.ui.parts.views import Pages
from yellow_hinge.ui.sound.listening import Listening

WIDTH = 320
WAYS, OWN, FILLS, WIDE = "ways", "own", "fills", "wide"


class SidePanel(QWidget):
    """The ways to play and the lists of KINDS, one page at a time. `struck` asks for notes: (MIDI, hand) pairs."""

    struck = Signal(object)

    def __init__(self, desk: Desk, theme: Theme, listening: Listening) -> None:
        super().__init__()
        self.desk, self.theme, self.listening = desk, theme, listening
        self.options = OptionsPanel(desk, theme)
        self.pages = Pages(
            {WAYS: lambda: self.options}
            | {name: partial(self._make, name) for name in KINDS}
            | {OWN: lambda: OwnList(desk, self.theme), FILLS: self._make_fills, WIDE: self._make_wide}
        )
        shown = (
            {WAYS: ("Ways", "Ways to play this chord")}
            | {name: (kind.tab, kind.tip) for name, kind in KINDS.items()}
            | {OWN: ("Mine", TIP), FILLS: ("Fills", FILLS_TIP), WIDE: ("Wide", WIDE_TIP)}
        )
        self.tabs = Tabs(shown, "Lists")
        self.tabs.chosen.connect(self.show_page)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addSpacing(5)
        column.addWidget(self.tabs)
        column.addWidget(self.pages, 1)
        self._size()
        self.show_page(WAYS)

    def _size(self) -> None:
        self.setFixedWidth(round(WIDTH * (0.5 + 0.5 * text_scale())))

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange:
            self._size()

    def _make_fills(self) -> QWidget:
        made = FillsList(self.desk, self.listening, self.theme)
        made.struck.connect(self.struck.emit)
        return made

    def _make_wide(self) -> QWidget:
        made = WideList(self.desk, self.theme)
        made.struck.connect(self.struck.emit)
        return made

    def _make(self, name: str) -> QWidget:
        made = SongList(self.desk, self.theme, KINDS[name])
        made.struck.connect(self.struck.emit)
        return made

    def step(self, by: int) -> None:
        """Up or down the list that is shown."""
        self._page.step(by)

    def take(self) -> None:
        """Take what is under the cursor: a way, a fill; or go where a row leads."""
        self._page.take()

    @property
    def _page(self) -> OptionsPanel | FillsList | SongList:
        page = self.pages.currentWidget()
        return page if isinstance(page, FillsList | SongList) else self.options

    @property
    def page(self) -> str:
        """The page that is shown."""
        return self.pages.current

    def show_page(self, name: str) -> None:
        """Show "ways" or one of KINDS."""
        self.tabs.mark(name)
        self.pages.show_page(name)

    def close_room(self) -> None:
        """Stop what works beside the window."""
        for page in self.pages.made():
            if isinstance(page, OwnList):
                page.close_room()

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.theme = theme
        for page in self.pages.made():
            page.set_theme(theme)

    def changed(self) -> None:
        """The song or what is asked of it was edited."""
        page = self.pages.currentWidget()
        if isinstance(page, FillsList):
            page.changed()

    def refresh(self) -> None:
        """Show the present solution."""
        for page in self.pages.made():
            page.solved()

    def reselect(self) -> None:
        """Another chord was selected."""
        for page in self.pages.made():
            page.reselect()
