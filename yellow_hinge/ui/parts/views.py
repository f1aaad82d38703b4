"""What a view is told, and a stack of pages that are made when they are first shown."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from yellow_hinge.app.edits.touched import Touched
from yellow_hinge.ui.paint.theme import Theme


class ListPage(Protocol):
    """What a page of a stack is told."""

    def solved(self) -> None:
        """Another solution, or none."""

    def reselect(self) -> None:
        """Another chord was selected."""

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""


class View(ListPage, Protocol):
    """What the window tells a view."""

    def changed(self, what: Touched) -> None:
        """Another state of the song, and what is other in it."""

    def remark(self) -> None:
        """Other chords are marked, or none."""


class ToldView(QWidget):
    """A view that decides nothing: what the window tells it becomes a signal for what works for it. `seen`: it is
    looked at, `left`: it is no more.
    """

    changed_ = Signal(object)
    solved_ = Signal()
    reselected = Signal()
    remarked = Signal()
    seen = Signal()
    left = Signal()

    def changed(self, what: Touched) -> None:
        """The song or what is asked of it was edited."""
        self.changed_.emit(what)

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


class Pages(QStackedWidget):
    """Pages by their names, each made by its maker when it is first asked for."""

    def __init__(self, makers: Mapping[str, Callable[[], QWidget]]) -> None:
        super().__init__()
        self._makers = makers
        self._made: dict[str, QWidget] = {}

    def page(self, name: str) -> QWidget:
        """The page of a name. Raises KeyError."""
        if name not in self._made:
            self._made[name] = self._makers[name]()
            self.addWidget(self._made[name])
        return self._made[name]

    def made(self) -> list[ListPage]:
        """The pages that there are by now."""
        return list(self._made.values())  # type: ignore[arg-type]

    @property
    def current(self) -> str:
        """The name of the page that is shown."""
        return next(name for name, page in self._made.items() if page is self.currentWidget())

    def show_page(self, name: str) -> None:
        """Show the page of a name."""
        self.setCurrentWidget(self.page(name))
