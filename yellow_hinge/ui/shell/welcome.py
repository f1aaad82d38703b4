"""What a first start offers, in a bar that blocks nothing: a manner, the player's hands, and something to play."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QMenu, QPushButton, QToolButton

from yellow_hinge.ui.commands import Actions
from yellow_hinge.ui.paint.controls import ElidedLabel, tool_button

WORDS = "Set these once, then play:"
STARTS = (  # command, words, what it is for
    ("hands", "My hands…", "How far your hands reach; a ninth and four notes until you say"),
    ("open_demo", "Demo song", "Open the song that ships"),
    ("new", "New song", "Four lines to type over, with how a chart is written"),
    ("open", "A file…", "A saved song, chart text, ChordPro, MusicXML or MIDI"),
    ("help", "Guide", "How everything works"),
)


class Welcome(QFrame):
    """The bar of the first start. `closed` tells that it was put away."""

    closed = Signal()

    def __init__(self, actions: Actions, last: QMenu, manner: QComboBox) -> None:
        super().__init__()
        self.setObjectName("offer")
        self.words = ElidedLabel()
        self.words.setText(WORDS)
        self.manner_ = manner
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 4, 10, 4)
        row.setSpacing(6)
        row.addWidget(self.words, 1)
        choose = tool_button("Manner ▾", "How you play: hymn, pop, gospel, jazz … sets what goes together", "Manner")
        choose.clicked.connect(manner.showPopup)
        self.buttons: dict[str, QToolButton | QPushButton] = {"manner": choose}
        for command, text, tip in STARTS:
            self.buttons[command] = tool_button(text, tip, text)
            self.buttons[command].clicked.connect(actions[command].trigger)
        self.last = tool_button("Last songs", "Songs that were open before", "Last songs")
        self.last.setMenu(last)
        self.last.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.last.setMinimumWidth(self.last.minimumWidth() + 16)
        close = tool_button("Close", "Put this bar away; all of it is in the menus too", "Close the offer")
        close.clicked.connect(self.put_away)
        self.buttons |= {"last": self.last, "close": close}
        for button in self.buttons.values():
            button.setProperty("small", True)
            row.addWidget(button)

    def put_away(self) -> None:
        """Hide it, for good."""
        self.hide()
        self.closed.emit()
