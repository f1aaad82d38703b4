"""The offer that a new player sees once: it asks nothing that cannot wait."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton

WORDS = "How far do your hands reach? Voicings are chosen for a ninth and four notes until you say."


class HandsOffer(QFrame):
    """A bar with two buttons."""

    def __init__(self, set_hands: Callable[[], object], later: Callable[[], object]) -> None:
        super().__init__()
        self.setObjectName("offer")
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 10, 6)
        row.addWidget(QLabel(WORDS), 1)
        for text, do in (("Set my hands", set_hands), ("Later", later)):
            button = QPushButton(text)
            button.clicked.connect(lambda _=False, do=do: do())
            row.addWidget(button)
