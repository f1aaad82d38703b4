"""The views of the window, one at a time. A view is built when it is first shown, so that the window opens sooner."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

from PySide6.QtWidgets import QStackedWidget, QWidget

from yellow_hinge.ui.theme import Theme


class View(Protocol):
    """What the window tells a view."""

    def changed(self) -> None:
        """Another state of the song."""

    def solved(self) -> None:
        """Another solution, or none."""

    def reselect(self) -> None:
        """Another chord was selected."""

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""


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
