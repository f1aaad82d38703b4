"""The strip over the swaps: how bold the whole song may become, what stays, and taking it."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QProgressBar, QSizePolicy, QWidget

from yellow_hinge.core.reharm.boldness import BOLDNESS, PROTECTED, Protected
from yellow_hinge.ui.paint.controls import ElidedLabel, as_small, choice, fit_text, tool_button

WORDS = ("as written", "colours", "two-fives", "tritones", "chains")
STAYS: dict[Protected, str] = {"starts": "starts stay", "cadences": "cadences stay"}
ROOMY, NARROW = 1040, 960  # pixels from which the figures have room, and what the strip is about


def _progress() -> QProgressBar:
    """A thin bar for the share that is done."""
    made = QProgressBar()
    made.setRange(0, 100)
    made.setTextVisible(False)
    made.setFixedSize(90, 4)
    made.setAccessibleName("Reharmonising")
    return made


class BoldStrip(QWidget):
    """`asked` tells that the boldness or what stays was changed, `taken` and `left` what becomes of the preview."""

    asked = Signal()
    taken = Signal()
    left = Signal()

    def __init__(self) -> None:
        super().__init__()
        levels = tuple((str(i), word, f"Boldness {i}: {BOLDNESS[i]}") for i, word in enumerate(WORDS))
        holder, self.levels = choice(levels, lambda _: self.asked.emit())
        self.levels["0"].setChecked(True)
        label = self.label = QLabel("Whole song")
        label.setObjectName("muted")
        label.setBuddy(holder)
        self.stays = {}
        for name, words in STAYS.items():
            box = QCheckBox(words)
            box.setChecked(True)
            box.setToolTip(f"Where the whole song changes, {PROTECTED[name]}")
            box.clicked.connect(lambda _=False: self.asked.emit())
            self.stays[name] = box
        self.apart = QCheckBox("repeats apart")
        self.apart.setToolTip("Every pass of a repeat may become otherwise; the song is written out")
        self.apart.clicked.connect(lambda _=False: self.asked.emit())
        self.progress = _progress()
        self.told = ElidedLabel()
        self.told.setObjectName("muted")
        self.take = tool_button("Take these", "Make the song so: one edit, which undo takes back (Ctrl+Enter)", "Take")
        self.leave = tool_button("Leave", "Leave the song as it is (Escape)", "Leave the preview")
        self.take.clicked.connect(self.taken.emit)
        self.leave.clicked.connect(self.left.emit)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 8, 5)
        row.setSpacing(8)
        for part in (label, holder, *self.stays.values(), self.apart, self.progress):
            part.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
            row.addWidget(part)
        row.addWidget(self.told, 1)
        row.addStretch(0)
        row.addWidget(self.take)
        row.addWidget(self.leave)
        small = (label, *self.stays.values(), self.apart, self.told, self.take, self.leave, *self.levels.values())
        for widget in small:
            as_small(widget)
        for button in self.levels.values():
            fit_text(button, 18)
        self.show_working(False)
        self.show_preview("", False)

    @property
    def boldness(self) -> int:
        """What is asked for."""
        return next(int(level) for level, button in self.levels.items() if button.isChecked())

    @property
    def protect(self) -> frozenset[Protected]:
        """What stays as it is."""
        return frozenset(name for name, box in self.stays.items() if box.isChecked())

    def set_boldness(self, level: int) -> None:
        """Show another boldness; nothing is asked."""
        self.levels[str(level)].setChecked(True)

    def show_working(self, working: bool) -> None:
        """Whether the song is being worked on; that can be stopped."""
        self.progress.setVisible(working)
        self.leave.setText("Stop" if working else "Leave")
        if working:
            self.progress.setValue(0)
            self.leave.setVisible(True)

    def show_preview(self, words: str, ready: bool) -> None:
        """Say what the preview is, and whether it can be taken."""
        self.told.setText(words)
        self.take.setVisible(ready)
        self.leave.setVisible(ready)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.told.setVisible(event.size().width() >= ROOMY)
        self.label.setVisible(event.size().width() >= NARROW)
