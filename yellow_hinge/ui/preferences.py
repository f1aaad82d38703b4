"""What the player likes and the program remembers: labels, names, text size, hands."""

from __future__ import annotations

from typing import Any

import msgspec
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.app.keeping import Settings
from yellow_hinge.ui.scenes.notes import LABELS
from yellow_hinge.ui.theme import Theme


class Preferences:
    """The settings, and changing them."""

    def __init__(self, settings: Settings, desk: Desk) -> None:
        self.settings, self.desk = settings, desk
        desk.simple_names = settings.simple_names

    def put(self, **fields: Any) -> None:
        """Remember something else."""
        self.settings = msgspec.structs.replace(self.settings, **fields)

    def next_labels(self, shown: str) -> str:
        """The labels after those on the plates: degrees, then names, then fingers."""
        kind = LABELS[(LABELS.index(shown) + 1) % len(LABELS)]
        self.put(labels=kind)
        return kind

    def simple_names(self, simple: bool) -> None:
        """Say B and F, or Cb and E#."""
        self.desk.simple_names = simple
        self.put(simple_names=simple)

    @property
    def offers_hands(self) -> bool:
        """Whether a new player is still to be asked."""
        return not self.settings.hands_offered and self.settings.hands is None

    def ask_hands(self, theme: Theme, parent: QWidget) -> None:
        """The dialog on the player's hands; its answer is one edit."""
        from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog  # loaded when first asked for, to start sooner

        dialog = HandsDialog(self.desk.state.setup, theme, parent)
        self.put(hands_offered=True)
        if dialog.exec():
            self.put(hands=dialog.hands)
            setup = self.desk.state.setup
            self.desk.put_setup("hands", msgspec.structs.replace(setup, hands=dialog.hands, singer=dialog.singer))
