"""What is told to a screen reader: names of boxes, and what changes without the keys moving there."""

from __future__ import annotations

from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QComboBox, QLabel, QWidget


def label_boxes(area: QWidget) -> None:
    """Give every box that has no label one that is not seen: readers take a box's own text for its value, and its
    name from its label.
    """
    labelled = {label.buddy() for label in area.findChildren(QLabel)}
    for box in area.findChildren(QComboBox):
        if box not in labelled:
            label = QLabel(box.accessibleName(), box.parentWidget())
            label.setBuddy(box)
            label.hide()


class Announcer:
    """Announces for a window; `last` is what it said last."""

    def __init__(self, window: QWidget) -> None:
        self.window_ = window
        self.last = ""

    def say(self, words: str) -> None:
        """Announce words, where a reader listens."""
        self.last = words
        if words and QAccessible.isActive():
            QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(self.window_, words))
