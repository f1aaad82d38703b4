"""What is heard beside the hands, as a panel under its button: switches and levels."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QCheckBox, QFrame, QGridLayout, QLabel, QSlider, QWidget

from yellow_hinge.ui.paint.theme import SMALL, font
from yellow_hinge.ui.sound.listening import Listening

# What has a level, and the switch it has ("" for none).
ROWS = (
    ("hands", "Hands", ""),
    ("tune", "Tune", "tune"),
    ("bass", "Bass player", "bass"),
    ("drums", "Soft drums", "drums"),
    ("click", "Click", "click"),
)
SWITCHES = (("count_in", "Count in: a bar of clicks first"), ("half", "Half speed"))
STEPS = 20  # of a level
SLIDER_W = 130


class HeardPanel(QFrame):
    """Opens under a button, closes by Escape or a click elsewhere; what is changed is heard at once."""

    def __init__(self, parent: QWidget, listening: Listening, hands: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("box")
        self.listening = listening
        self.boxes: dict[str, QCheckBox] = {}
        self.sliders: dict[str, QSlider] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(14, 12, 14, 12)
        grid.setHorizontalSpacing(14)
        for row, (part, words, switch) in enumerate(ROWS):
            if switch:
                grid.addWidget(self._box(switch, words), row, 0)
            else:
                label = QLabel(words)
                label.setFont(font(SMALL))
                grid.addWidget(label, row, 0)
            grid.addWidget(self._slider(part, words), row, 1)
        grid.addWidget(hands, len(ROWS), 0, 1, 2, Qt.AlignmentFlag.AlignLeft)
        for row, (name, words) in enumerate(SWITCHES, len(ROWS) + 1):
            grid.addWidget(self._box(name, words), row, 0, 1, 2)
        listening.changed.connect(self.refresh)

    def _box(self, name: str, words: str) -> QCheckBox:
        box = self.boxes[name] = QCheckBox(words)
        box.setFont(font(SMALL))
        box.clicked.connect(lambda on: self.listening.put(**{name: on}))
        return box

    def _slider(self, part: str, words: str) -> QSlider:
        slider = self.sliders[part] = QSlider(Qt.Orientation.Horizontal)
        slider.setRange(0, STEPS)
        slider.setFixedWidth(SLIDER_W)
        slider.setAccessibleName(f"Level: {words}")
        slider.valueChanged.connect(lambda value: self._level(part, value / STEPS))
        return slider

    def _level(self, part: str, level: float) -> None:
        if round(self.listening.heard.level(part) * STEPS) != round(level * STEPS):
            self.listening.put(levels=self.listening.heard.levels | {part: level})

    def refresh(self) -> None:
        """Show what is heard."""
        heard = self.listening.heard
        for name, box in self.boxes.items():
            box.setChecked(getattr(heard, name))
        for part, slider in self.sliders.items():
            slider.setValue(round(heard.level(part) * STEPS))

    def open_below(self, button: QWidget) -> None:
        """Show the panel under a button, inside the screen."""
        self.refresh()
        self.adjustSize()
        at = button.mapToGlobal(QPoint(button.width() - self.width(), button.height() + 2))
        room = button.screen().availableGeometry()
        self.move(max(room.left(), min(at.x(), room.right() - self.width())), at.y())
        self.show()
        self.boxes["tune"].setFocus(Qt.FocusReason.PopupFocusReason)
