"""How everything looks: the theme and the size of the text, which a room that is made later begins with."""

from __future__ import annotations

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QAbstractButton, QApplication, QWidget

from yellow_hinge.ui.paint.controls import SPARE, fit_text
from yellow_hinge.ui.paint.theme import (
    BODY,
    Theme,
    font,
    palette,
    pick_theme,
    set_large_text,
    style_sheet,
    text_scale,
)
from yellow_hinge.ui.parts.preferences import Preferences


class Look(QObject):
    """The theme that is chosen, or the system's; `changed` tells another one."""

    changed = Signal(object)

    def __init__(self, window: QWidget, preferences: Preferences) -> None:
        super().__init__(window)
        self.window_, self._preferences = window, preferences
        self.theme: Theme = pick_theme(preferences.settings.theme)
        self._dress()
        QGuiApplication.styleHints().colorSchemeChanged.connect(self.refresh)

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

    def enlarge(self, large: bool) -> None:
        """Show larger text, or text as usual: what is there grows now, what is made later is made so."""
        before = text_scale()
        set_large_text(large)
        by = text_scale() / before
        if by == 1.0:
            return
        QApplication.setFont(font(BODY))
        self._dress()  # dressed widgets hear of the application's letters when they are dressed anew
        for widget in QApplication.allWidgets():
            _grow(widget, by)
        for widget in QApplication.allWidgets():
            spare = widget.property(SPARE)
            if spare is not None and isinstance(widget, QAbstractButton):
                fit_text(widget, int(spare))
        self.changed.emit(self.theme)


def _grow(widget: QWidget, by: float) -> None:
    """Make the letters of a widget that has a font of its own so many times as large."""
    if widget.testAttribute(Qt.WidgetAttribute.WA_SetFont):
        grown = widget.font()
        grown.setPointSizeF(grown.pointSizeF() * by)
        widget.setFont(grown)
