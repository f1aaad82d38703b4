"""The header: what the song is, who has the bass, how colourful, and playing it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QAction, QPainter, QPaintEvent
from PySide6.QtWidgets import QButtonGroup, QFrame, QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.leading.setup import COLOUR_LEVELS
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.ui.theme import BODY, LARGE, SMALL, font

COLOUR_WORDS = ("plain", "7", "9", "13")
HANDS = (("left", "L", "left hand alone"), ("both", "L+R", "both hands"), ("right", "R", "right hand alone"))


class ElidedLabel(QLabel):
    """One line that ends in … where there is no room, with the whole text as its tooltip."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(self.font())
        painter.setPen(self.palette().color(self.foregroundRole()))
        text = painter.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, text)
        painter.end()

    def minimumSizeHint(self) -> QSize:
        return QSize(90, super().minimumSizeHint().height())

    def setText(self, text: str) -> None:
        super().setText(text)
        self.setToolTip(text)


def _button(text: str, tip: str, name: str) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setToolTip(tip)
    button.setAccessibleName(name)
    button.setFont(font(BODY))
    button.setMinimumWidth(button.fontMetrics().horizontalAdvance(text) + 22)  # never cut its text
    return button


def _choice(
    options: tuple[tuple[str, str, str], ...], chosen: Callable[[str], None]
) -> tuple[QWidget, dict[str, QToolButton]]:
    """A row of buttons of which one is down: (value, text, tip)."""
    holder, group = QWidget(), QButtonGroup()
    group.setParent(holder)
    row = QHBoxLayout(holder)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(2)
    buttons = {}
    for value, text, tip in options:
        button = _button(text, tip, tip)
        button.setCheckable(True)
        button.clicked.connect(lambda _=False, value=value: chosen(value))
        group.addButton(button)
        row.addWidget(button)
        buttons[value] = button
    return holder, buttons


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
        holder, self.bass = _choice(bass, self._bass)
        self._labelled(row, "Bass", holder)
        holder, self.colour = _choice(
            tuple((str(level), word, f"Colour: {COLOUR_LEVELS[level]}") for level, word in enumerate(COLOUR_WORDS)),
            self._colour,
        )
        self._labelled(row, "Colour", holder)
        self.loop = _button("Loop", "The last chord leads back to the first, and is solved so", "Loop the song")
        self.loop.setCheckable(True)
        self.loop.clicked.connect(lambda on: desk.change_setup("loop the song" if on else "play once", loop=on))
        row.addWidget(self.loop)
        holder, self.hear = _choice(tuple((v, t, "Hear " + tip) for v, t, tip in HANDS), hear)
        self._labelled(row, "Hear", holder)
        self.play = _button("▶ Play", actions["play"].toolTip(), "Play or stop")
        self.play.clicked.connect(actions["play"].trigger)
        self.play.setMinimumWidth(78)
        row.addWidget(self.play)
        for name, text in (("undo", "\u21b6"), ("redo", "\u21b7")):
            button = _button(text, actions[name].toolTip(), name.capitalize())
            button.setFont(font(LARGE))
            button.clicked.connect(actions[name].trigger)
            row.addWidget(button)
            setattr(self, name, button)
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
        self.bass[state.setup.bass].setChecked(True)
        self.colour[str(state.setup.colour)].setChecked(True)
        self.loop.setChecked(state.setup.loop)

    def set_playing(self, playing: bool) -> None:
        """The play button says what a press does."""
        self.play.setText("■ Stop" if playing else "▶ Play")

    def _bass(self, value: str) -> None:
        self.desk.change_setup(f"bass {value}", bass=value)

    def _colour(self, value: str) -> None:
        level = int(value)
        self.desk.change_setup(f"colour {COLOUR_LEVELS[level]}", colour=level)
