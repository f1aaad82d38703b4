"""What the screen on stage is to be like, asked before one goes there: on stage nothing is chosen."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.core.onstage.asks import BARS, SHOWN, SOUNDS, StageAsk, switch_of
from yellow_hinge.ui.dialogs.asking import AWAY, TITLE
from yellow_hinge.ui.paint.popups import list_box
from yellow_hinge.ui.parts.menus import lettered

GO, LEARN, FORGET = "Go on stage", "Learn a foot switch", "Forget it"
WAITING, NONE = "Press it once…", "none learned: the space bar turns"
GROUNDS = ((True, "black"), (False, "paper"))


def switch_words(switch: str) -> str:
    """A foot switch as the player reads it."""
    kind, _, number = switch.partition(" ")
    if kind == "key":
        return f"the key {QKeySequence(int(number)).toString(QKeySequence.SequenceFormat.NativeText) or number}"
    return f"MIDI {kind} {number}" if kind else NONE


class StageDialog(QDialog):
    """The choices; `wanted` is what was chosen."""

    def __init__(self, parent: QWidget | None, songs: str, ask: StageAsk) -> None:
        super().__init__(parent)
        self.setWindowTitle(TITLE)
        self.switch, self.learning = ask.switch, False
        whole = QVBoxLayout(self)
        whole.setSpacing(14)
        heading = QLabel(f"On stage: {songs}")
        heading.setWordWrap(True)
        whole.addWidget(heading)
        whole.addLayout(self._form(ask))
        whole.addLayout(self._buttons())
        self._show_switch()

    def _form(self, ask: StageAsk) -> QFormLayout:
        form = QFormLayout()
        form.setSpacing(10)
        self.bars = list_box("Bars of a line", [(n, f"{n} bars a line") for n in BARS], ask.bars)
        self.ground = list_box("Ground", GROUNDS, ask.black)
        self.sound = list_box("Heard where it turns by itself", SOUNDS.items(), ask.sound)
        self.turns = QCheckBox("Mark where lines turn by themselves, to rehearse the turns")
        self.turns.setChecked(ask.turns)
        self.shown = {part: QCheckBox(name) for part, name in SHOWN.items()}
        boxes = QVBoxLayout()
        for part, box in self.shown.items():
            box.setChecked(ask.shows(part))
            boxes.addWidget(box)
        self.learn, self.told = QPushButton(LEARN), QLabel()
        self.learn.setAutoDefault(False)
        self.learn.clicked.connect(self._learn)
        row = QHBoxLayout()
        row.addWidget(self.learn)
        row.addWidget(self.told, 1)
        for name, field in (("Lines", self.bars), ("On", self.ground), ("Under the symbols", boxes)):
            form.addRow(name, field)
        form.addRow("By itself, with", self.sound)
        form.addRow("", self.turns)
        form.addRow("Foot switch", row)
        return form

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for name, shown in lettered([GO, AWAY]).items():
            button = QPushButton(shown)
            button.setDefault(name == GO)
            button.clicked.connect(self.accept if name == GO else self.reject)
            row.addWidget(button)
            self.buttons[name] = button
        return row

    # --- the foot switch ---
    def _learn(self) -> None:
        """Take the next press as the foot switch; a second click forgets the one that was learned."""
        if self.learning or self.switch:
            self.switch, self.learning = "", False
        else:
            self.learning = True
            self.setFocus(Qt.FocusReason.OtherFocusReason)
        self._show_switch()

    def _learned(self, switch: str) -> None:
        self.switch, self.learning = switch, False
        self._show_switch()

    def _show_switch(self) -> None:
        self.learn.setText(FORGET if self.switch or self.learning else LEARN)
        self.told.setText(WAITING if self.learning else switch_words(self.switch))

    def message(self, data: bytes) -> None:
        """A MIDI message: the foot switch, where one is learned."""
        switch = switch_of(data)
        if self.learning and switch:
            self._learned(switch)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if self.learning and event.key() != Qt.Key.Key_Escape:
            self._learned(f"key {event.key()}")
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return False if self.learning else super().focusNextPrevChild(forward)

    @property
    def wanted(self) -> StageAsk:
        """What was chosen."""
        shown = tuple(part for part, box in self.shown.items() if box.isChecked())
        return StageAsk(
            self.bars.currentData(), shown, self.ground.currentData(), self.sound.currentData(), self.turns.isChecked(),
            self.switch,
        )  # fmt: skip
