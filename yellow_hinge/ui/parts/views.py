"""The table of views, in the order of work, and the stack that shows one of them at a time. A view is made when it is
first shown, so that the window opens sooner.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

import msgspec
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from yellow_hinge.ui.paint.theme import Theme


class ViewEntry(msgspec.Struct, frozen=True):
    """A view of the window: its id, name, key and tip; `module` has `make(room)`, which gives the view and what works
    for it; `keys` are commands of the desk whose keys work in it too; `keyboards`: the two of the desk stand below.
    """

    id: str
    title: str
    key: str
    tip: str
    module: str
    keys: tuple[str, ...] = ()
    keyboards: bool = True


LISTENING = ("play", "play_chord", "play_before", "loop_hinge", "loop_mark", "hear_tune")
GOING = ("previous", "next", "first", "last", "mark_back", "mark_on", "mark_bar")
CHOOSING = ("option_up", "option_down", "take", "forget")
HOME = "hinges"
VIEWS = (
    ViewEntry("chart", "Chart", "Ctrl+1", "Type the chart", "yellow_hinge.ui.chart.room"),
    ViewEntry(HOME, "Hinges", "Ctrl+2", "Choose how the hands play every chord", "yellow_hinge.ui.hinges.room"),
    ViewEntry(
        "swaps", "Swaps", "Ctrl+3", "Other chords, for one or the whole song", "yellow_hinge.ui.swaps.room",
        (*GOING, *LISTENING, *CHOOSING, "play_turn", "exchange"),
    ),
    ViewEntry(
        "takes", "Takes", "Ctrl+4", "Versions of the song, and a mix of them", "yellow_hinge.ui.takes.room",
        (*GOING, "play", *CHOOSING, "play_turn"),
    ),
    ViewEntry(
        "playing", "Playing", "Ctrl+5", "How the hands are struck: patterns, fills, one bar in time",
        "yellow_hinge.ui.playing.room", (*GOING, *LISTENING, *CHOOSING, "loop_bar", "loop_section"),
    ),
    ViewEntry(
        "sheet", "Sheet", "Ctrl+6", "What lies on the stand: both hands, staves, symbols, twelve keys",
        "yellow_hinge.ui.sheet.room", (*GOING, *LISTENING, *CHOOSING),
    ),
    ViewEntry(
        "practice", "Practice", "Ctrl+7", "Play it until the hands know it", "yellow_hinge.ui.practice.room",
        ("take", "forget"), False,
    ),
)  # fmt: skip
VIEW = {view.id: view for view in VIEWS}


class View(Protocol):
    """What the window tells a view."""

    def changed(self) -> None:
        """Another state of the song."""

    def solved(self) -> None:
        """Another solution, or none."""

    def reselect(self) -> None:
        """Another chord was selected."""

    def remark(self) -> None:
        """Other chords are marked, or none."""

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""


class ToldView(QWidget):
    """A view that decides nothing: what the window tells it becomes a signal for what works for it. `seen`: it is
    looked at, `left`: it is no more.
    """

    changed_ = Signal()
    solved_ = Signal()
    reselected = Signal()
    remarked = Signal()
    seen = Signal()
    left = Signal()

    def changed(self) -> None:
        """The song or what is asked of it was edited."""
        self.changed_.emit()

    def solved(self) -> None:
        """There is another solution."""
        self.solved_.emit()

    def reselect(self) -> None:
        """Another chord was selected."""
        self.reselected.emit()

    def remark(self) -> None:
        """Other chords are marked, or none."""
        self.remarked.emit()

    def showEvent(self, event: object) -> None:
        self.seen.emit()

    def hideEvent(self, event: object) -> None:
        self.left.emit()


class Views(QStackedWidget):
    """Views by their names, each made by its maker when it is first asked for."""

    def __init__(self, makers: Mapping[str, Callable[[], QWidget]]) -> None:
        super().__init__()
        self._makers = makers
        self._made: dict[str, QWidget] = {}

    def view(self, name: str) -> QWidget:
        """The view of a name. Raises KeyError."""
        if name not in self._made:
            self._made[name] = self._makers[name]()
            self.addWidget(self._made[name])
        return self._made[name]

    def made(self) -> list[View]:
        """The views that there are by now."""
        return list(self._made.values())  # type: ignore[arg-type]

    @property
    def current(self) -> str:
        """The name of the view that is shown."""
        return next(name for name, view in self._made.items() if view is self.currentWidget())

    def show_view(self, name: str) -> None:
        """Show the view of a name."""
        self.setCurrentWidget(self.view(name))
