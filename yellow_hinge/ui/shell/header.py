"""The header: what the song is, who has the bass, how colourful, and playing it."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker, Qt, QTimer, Signal
from PySide6.QtGui import QMouseEvent, QResizeEvent
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QLabel, QSpinBox, QToolButton, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.asking.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import chosen_manner
from yellow_hinge.core.leading.asking.wishes import WISHES
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.song import TEMPOS
from yellow_hinge.ui.commands import Actions
from yellow_hinge.ui.paint.controls import ElidedLabel, as_muted, choice, fit_text, tool_button
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import LARGE, SMALL, font
from yellow_hinge.ui.parts.pointing.in_place import InPlace
from yellow_hinge.ui.sound.heard_panel import HeardPanel
from yellow_hinge.ui.sound.listening import Listening

HANDS = (("left", "left", "left hand alone"), ("both", "both", "both hands"), ("right", "right", "right hand alone"))


ROOMY = 1150  # pixels from which every control has its label
NEEDED = ("Bass", "Tune")
MUCH, NARROW, SLIM = 16_777_215, 96, 34  # the most of the manner's box, and of undo and redo: with room and without
LATER_MS = 250
MANNER_TIP = "Manner of playing: sets bass, colour, style, hands and notes at once"


class Header(QFrame):
    """Controls of the whole song. `chosen` tells the manner that was chosen."""

    chosen = Signal(str)

    def __init__(self, desk: Desk, actions: Actions, listening: Listening) -> None:
        super().__init__()
        self.desk, self._in_place = desk, InPlace(desk)
        self.setObjectName("bar")
        self._labels: list[QLabel] = []
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
        self.hands = tool_button("My hands…", actions["hands"].toolTip(), "My hands")
        self.hands.clicked.connect(actions["hands"].trigger)
        row.addWidget(self.hands)
        self._build_manner()
        self._labelled(row, "Manner", self.manner)
        self._build_sound(row, actions, listening)

    def _build_sound(self, row: QHBoxLayout, actions: Actions, listening: Listening) -> None:
        """Tempo, what is heard, playing, undo and redo."""
        self._build_tempo(row, actions)
        holder, self.hear = choice(tuple((v, t, "Hear " + tip) for v, t, tip in HANDS), listening.hear)
        self.heard = tool_button(
            "Heard ▾", "What is heard: hands, tune, bass, click, drums, and how loud", "What is heard"
        )
        self.heard_panel = HeardPanel(self, listening, holder)
        self.heard.clicked.connect(lambda: self.heard_panel.open_below(self.heard))
        row.addWidget(self.heard)
        self.play = tool_button("▶ Play", actions["play"].toolTip(), "Play or stop")
        self.play.clicked.connect(actions["play"].trigger)
        fit_text(self.play, 36)
        row.addWidget(self.play)
        self.undo, self.redo = tool_button("\u21b6", "", "Undo"), tool_button("\u21b7", "", "Redo")
        for button, action in ((self.undo, actions["undo"]), (self.redo, actions["redo"])):
            button.setFont(font(LARGE))
            fit_text(button, 22)
            button.clicked.connect(action.trigger)
            row.addWidget(button)
        self.hear["both"].setChecked(True)

    def _build_tempo(self, row: QHBoxLayout, actions: Actions) -> None:
        self.tempo = QSpinBox()
        self.tempo.setRange(*TEMPOS)
        self.tempo.setKeyboardTracking(False)
        self.tempo.setAccessibleName("Beats a minute")
        self.tempo.setToolTip("Tempo in beats a minute (Ctrl+, and Ctrl+;)")
        self.tempo.valueChanged.connect(self.desk.put_tempo)
        self.half = QToolButton()
        self.half.setText("½")
        self.half.setAccessibleName("Half speed")
        self.half.setCheckable(True)
        self.half.setToolTip(actions["half_speed"].toolTip())
        self.half.clicked.connect(actions["half_speed"].trigger)
        actions["half_speed"].toggled.connect(self.half.setChecked)
        self._labelled(row, "Tempo", self.tempo)
        row.addWidget(self.half)

    def _build_manner(self) -> None:
        self.manner = ListBox()
        self.manner.setAccessibleName("Manner of playing")
        self.manner.setToolTip(MANNER_TIP)
        self.manner.setMinimumContentsLength(8)
        self.manner.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.manner.addItem("No manner", NO_MANNER)
        QTimer.singleShot(LATER_MS, self.fill_manners)  # read once the window stands
        self.manner.activated.connect(self._manner)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        for label in self._labels:  # the song's name needs the room
            label.setVisible(event.size().width() >= ROOMY or label.text() in NEEDED)
        self.hands.setVisible(event.size().width() >= ROOMY)  # also in the Edit menu
        for button in (self.undo, self.redo):
            button.setMaximumWidth(MUCH if event.size().width() >= ROOMY else SLIM)
        self.manner.setMaximumWidth(MUCH if event.size().width() >= ROOMY else NARROW)

    def _labelled(self, row: QHBoxLayout, text: str, widget: QWidget) -> None:
        label = QLabel(text)
        as_muted(label)
        label.setAlignment(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight)
        label.setBuddy(widget)
        self._labels.append(label)
        row.addWidget(label)
        row.addWidget(widget)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """The song's name and its tempo are written anew where they stand."""
        at = event.position().toPoint()
        for label, write in ((self.title, self._in_place.title), (self.facts, self._in_place.tempo)):
            if label.geometry().contains(at):
                write(self, label.geometry())

    def refresh(self) -> None:
        """Show the desk's song and wishes."""
        state = self.desk.state
        self.title.setText(state.song.title)
        mark = " · not saved" if self.desk.document.changed else ""
        take = f"{state.name} · " if state.others else ""
        facts = f"{take}{pretty_signs(state.song.key)} · {state.song.meter} · {state.song.tempo} beats a minute{mark}"
        with QSignalBlocker(self.tempo):
            self.tempo.setValue(state.song.tempo)
        self.facts.setText(facts)
        self.bass[state.asked.bass or "mine"].setChecked(True)
        self.melody[state.asked.melody or "free"].setChecked(True)
        self._show_manner()

    def show_history(self, undo: str, redo: str) -> None:
        """Say what undo and redo would do; "" where there is nothing."""
        for button, name, label in ((self.undo, "Undo", undo), (self.redo, "Redo", redo)):
            button.setEnabled(bool(label))
            button.setToolTip(pretty_signs(f"{name}: {label}") if label else f"Nothing to {name.lower()}")

    def set_playing(self, playing: bool) -> None:
        """The play button says what a press does."""
        self.play.setText("■ Stop" if playing else "▶ Play")

    def fill_manners(self, anew: bool = False) -> None:
        """Offer the manners there are, `anew` where they are others."""
        if anew:
            while self.manner.count() > 1:
                self.manner.removeItem(1)
        elif self.manner.count() > 1:
            return
        for index, manner in enumerate(manners().values(), 1):
            self.manner.addItem(manner.name, manner.id)
            self.manner.setItemData(index, manner.words, Qt.ItemDataRole.ToolTipRole)

    def _show_manner(self) -> None:
        name = self.desk.state.asked.manner or NO_MANNER
        if name != NO_MANNER:
            self.fill_manners()
        found = max(0, self.manner.findData(name))
        self.manner.setCurrentIndex(found)
        words = self.manner.itemData(found, Qt.ItemDataRole.ToolTipRole)
        self.manner.setToolTip(f"{MANNER_TIP}: {words}" if words else MANNER_TIP)

    def _manner(self, index: int) -> None:
        words = f"manner {self.manner.itemText(index).lower()}" if index else "no manner"
        self.choose_manner(self.manner.itemData(index), words)

    def choose_manner(self, name: str, words: str) -> None:
        """Play in a manner, or in none; `words` say so in the list of edits."""
        self.desk.put_setup(words, chosen_manner(self.desk.state.setup, name))
        self.chosen.emit(name)

    def _bass(self, value: str) -> None:
        self.desk.change_setup(WISHES["bass"].label(value), bass=value)

    def _melody(self, value: str) -> None:
        self.desk.change_setup(WISHES["melody"].label(value), melody=value)
