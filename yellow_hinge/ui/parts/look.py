"""How everything looks: the theme, which a room that is made later begins with."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.paint.theme import Theme, palette, pick_theme, style_sheet
from yellow_hinge.ui.parts.preferences import Preferences


class Look(QObject):
    """The theme that is chosen, or the system's; `changed` tells another one."""

    changed = Signal(object)

    def __init__(self, window: QWidget, preferences: Preferences) -> None:
        super().__init__(window)
        self.window_, self._preferences = window, preferences
        self.theme: Theme = pick_theme(preferences.settings.theme)
        self._dress()
        QGuiApplication.styleHints().colorSchemeChanged.connect(lambda _: self.refresh())

    def _dress(self) -> None:
        """Colours of what is not painted."""
        self.window_.setPalette(palette(self.theme))
        self.window_.setStyleSheet(style_sheet(self.theme))

    def choose(self, choice: str) -> None:
        """Light, dark or the system's colours."""
        self._preferences.put(theme=choice)
        self.refresh()

    def refresh(self) -> None:
        """Take the theme that holds now."""
        self.theme = pick_theme(self._preferences.settings.theme)
        self._dress()
        self.changed.emit(self.theme)
