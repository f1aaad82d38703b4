"""The views of this window by name, each made with what it needs when it is first shown."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.ui.commands import page_actions, swap_actions
from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.keys_panel import KeysPanel
from yellow_hinge.ui.listening import Listening
from yellow_hinge.ui.ribbon import Ribbon
from yellow_hinge.ui.theme import Theme
from yellow_hinge.ui.views import Views

if TYPE_CHECKING:
    from yellow_hinge.ui.chart.view import ChartView
    from yellow_hinge.ui.swaps.swapping import Swapping
    from yellow_hinge.ui.swaps.view import SwapsView

NAMES = ("hinges", "chart", "swaps")
HOME = NAMES[0]


class Rooms(Views):
    """The home view is there from the start. `furnish` has to be called before another one is shown."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__({HOME: self._make_hinges, "chart": self._make_chart, "swaps": self._make_swaps})
        self.desk, self.theme = desk, theme
        self._swapping: Swapping | None = None
        self.view(HOME)

    def furnish(self, actions: dict[str, QAction], keys: KeysPanel, ribbon: Ribbon, listening: Listening) -> None:
        """What other views need of the window."""
        self.actions_, self.keys, self.ribbon, self.listening = actions, keys, ribbon, listening

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme; views that are made later begin with it."""
        self.theme = theme
        for view in self.made():
            view.set_theme(theme)

    def close_rooms(self) -> None:
        """Stop what works for a view."""
        if self._swapping is not None:
            self._swapping.close()

    def _make_hinges(self) -> QWidget:
        return HingesView(self.desk, self.theme)

    def _make_chart(self) -> QWidget:
        from yellow_hinge.ui.chart.view import ChartView

        made = ChartView(self.desk, self.theme)
        made.page.addActions(page_actions(self.actions_))
        made.changed()
        made.solved()
        return made

    def _make_swaps(self) -> QWidget:
        from yellow_hinge.ui.swaps.swapping import Swapping
        from yellow_hinge.ui.swaps.view import SwapsView

        made = SwapsView(self.theme)
        made.addActions(swap_actions(self.actions_))
        self._swapping = Swapping(self.desk, made, self.keys, self.ribbon, self.listening)
        return made

    @property
    def hinges(self) -> HingesView:
        """The home view."""
        return cast(HingesView, self.view(HOME))

    @property
    def chart(self) -> ChartView:
        """The view of the chart."""
        return cast("ChartView", self.view("chart"))

    @property
    def swaps(self) -> SwapsView:
        """The view of swaps."""
        return cast("SwapsView", self.view("swaps"))

    @property
    def swapping(self) -> Swapping:
        """What the view of swaps does."""
        self.view("swaps")
        return cast("Swapping", self._swapping)
