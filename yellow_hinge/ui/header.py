"""The header: what the song is, who has the bass, how colourful, and playing it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.ui.controls import ElidedLabel, choice, tool_button
from yellow_hinge.ui.theme import LARGE, SMALL, font

HANDS = (("left", "L", "left hand alone"), ("both", "L+R", "both hands"), ("right", "R", "right hand alone"))


class Header(QFrame):
    """Controls of the whole song."""

    def __init__(self, desk: Desk, actions: dict[str, QAction], hear: Callable[[str], None]) -> None:
        super().__init__()
        self.desk = desk
        self.setObjectName("bar")
        self.title, self.facts = ElidedLabel(), ElidedLabel()
        self.title.setFont(font(LARGE, bold=True))
        self.facts.setFont(font(SMALL))
        self.facts.setObjectName("muted")
        names = QVBoxLayout()
        names.setSpacing(0)
        names.addWidget(self.title)
        names.addWidget(self.facts)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 6, 14, 6)
        row.setSpacing(7)
        row.addLayout(names, 1)
        bass = (("mine", "mine", "The bass is in my left hand"), ("theirs", "theirs", "Somebody else has the bass"))
        holder, self.bass = choice(bass, self._bass)
        self._labelled(row, "Bass", holder)
        tune = (
            ("free", "sung", "Somebody else has the tune; the right hand stays clear of the singer's register"),
            ("top", "on top", "The tune is the highest note of my right hand"),
        )
        holder, self.melody = choice(tune, self._melody)
        self._labelled(row, "Tune", holder)
        self.hands = tool_button("Hands…", actions["hands"].toolTip(), "Hands and keyboard")
        self.hands.clicked.connect(actions["hands"].trigger)
        row.addWidget(self.hands)
        self.loop = tool_button("Loop", "The last chord leads back to the first, and is solved so", "Loop the song")
        self.loop.setCheckable(True)
        self.loop.clicked.connect(lambda on: desk.change_setup("loop the song" if on else "play once", loop=on))
        row.addWidget(self.loop)
        holder, self.hear = choice(tuple((v, t, "Hear " + tip) for v, t, tip in HANDS), hear)
        self._labelled(row, "Hear", holder)
        self.play = tool_button("▶ Play", actions["play"].toolTip(), "Play or stop")
        self.play.clicked.connect(actions["play"].trigger)
        self.play.setMinimumWidth(78)
        row.addWidget(self.play)
        self.undo, self.redo = tool_button("\u21b6", "", "Undo"), tool_button("\u21b7", "", "Redo")
        for button, action in ((self.undo, actions["undo"]), (self.redo, actions["redo"])):
            button.setFont(font(LARGE))
            button.clicked.connect(action.trigger)
            row.addWidget(button)
        self.hear["both"].setChecked(True)

    @staticmethod
    def _labelled(row: QHBoxLayout, text: str, widget: QWidget) -> None:
        label = QLabel(text)
        label.setObjectName("muted")
        label.setFont(font(SMALL))
        label.setAlignment(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight)
        label.setBuddy(widget)
        row.addWidget(label)
        row.addWidget(widget)

    def refresh(self) -> None:
        """Show the desk's song and wishes."""
        state = self.desk.state
        self.title.setText(state.song.title)
        mark = " · not saved" if self.desk.changed else ""
        facts = f"{pretty_signs(state.song.key)} · {state.song.meter} · {state.song.tempo} beats a minute{mark}"
        self.facts.setText(facts)
        self.bass[state.asked.bass or "mine"].setChecked(True)
        self.melody[state.setup.melody].setChecked(True)
        self.loop.setChecked(state.setup.loop)

    def show_history(self, undo: str, redo: str) -> None:
        """Say what undo and redo would do; "" where there is nothing."""
        for button, name, label in ((self.undo, "Undo", undo), (self.redo, "Redo", redo)):
            button.setEnabled(bool(label))
            button.setToolTip(f"{name}: {label}" if label else f"Nothing to {name.lower()}")

    def set_playing(self, playing: bool) -> None:
        """The play button says what a press does."""
        self.play.setText("■ Stop" if playing else "▶ Play")

    def _bass(self, value: str) -> None:
        self.desk.change_setup(f"bass {value}", bass=value)

    def _melody(self, value: str) -> None:
        self.desk.change_setup("tune on top" if value == "top" else "tune sung", melody=value)
