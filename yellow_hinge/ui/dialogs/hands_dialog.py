"""The player's hands: reach tried on a drawn keyboard, notes a hand, keyboard size, the singer's register."""

from __future__ import annotations

import msgspec
from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.core.hands import BLACK, KEYBOARDS, Hands, reach_mm
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.pitch.key import parse_key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs
from yellow_hinge.ui.paint.announcing import label_boxes
from yellow_hinge.ui.paint.controls import tool_button
from yellow_hinge.ui.paint.keys import Keyboard, keyboard
from yellow_hinge.ui.paint.notes import PlateMark
from yellow_hinge.ui.paint.painting import draw_keyboard, hair
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font

FIRST, LAST = 48, 83  # the keys drawn
LEAST, MOST = 6, 12
WORDS = {6: "a sixth", 7: "a seventh", 8: "an octave", 9: "a ninth", 10: "a tenth", 11: "an eleventh", 12: "a twelfth"}
PRESETS = {
    "A seventh": Hands(7, 7, 3, 3, 61),
    "An octave": Hands(8, 8, 3, 4, 61),
    "A ninth": Hands(),
    "A tenth": Hands(10, 10, 4, 4, 88),
    "An eleventh": Hands(11, 11, 5, 5, 88),
}
SINGERS = {"low": (45, 62), "middle": (52, 69), "high": (57, 76)}
CAUTION = (
    "Set what you hold without strain, not what you can just touch. Long practice of wide grips can hurt: rest often, "
    "roll what is too wide. Pain means stop; pain that stays belongs with a doctor or a physiotherapist."
)


def white_keys() -> list[int]:
    """The white keys of the drawn keyboard, from the left."""
    return [midi for midi in range(FIRST, LAST + 1) if midi % 12 not in BLACK]


class StretchKeys(QWidget):
    """A keyboard with the two keys of a reach held; a click on a white key stretches the hand to it."""

    changed = Signal(int)

    def __init__(self, hand: str, theme: Theme) -> None:
        super().__init__()
        self.hand, self.theme, self.reach = hand, theme, 9
        self.setFixedHeight(78)
        self.setMinimumWidth(460)
        self.setAccessibleName(f"Reach of the {hand} hand")
        self.setToolTip("Click the farthest white key that you hold together with the marked C")

    def sizeHint(self) -> QSize:
        return QSize(500, 78)

    def set_reach(self, reach: int) -> None:
        """Show a reach in white keys."""
        self.reach = reach
        self.setAccessibleDescription(WORDS[reach])
        self.update()

    def _keys(self) -> Keyboard:
        whites = white_keys()
        held = (whites[0], whites[self.reach - 1])
        fingers = ("5", "1") if self.hand == "left" else ("1", "5")
        marks = tuple(
            PlateMark(midi, self.hand, "", str(pitch_of(midi, spell_in_key(midi % 12, parse_key("C"))).note), finger)
            for midi, finger in zip(held, fingers, strict=True)
        )
        return keyboard(FIRST, LAST, 0.0, 0.0, self.width() - 1, 56.0, marks)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        midi = self._keys().key_at(event.position().x(), min(event.position().y(), 54.0))
        whites = white_keys()
        if midi in whites:
            self.changed.emit(min(MOST, max(LEAST, whites.index(midi) + 1)))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        keys = self._keys()
        draw_keyboard(painter, self.theme, keys, "names")
        whites = white_keys()
        left, right = keys.centre(whites[0]), keys.centre(whites[self.reach - 1])
        painter.setPen(hair(self.theme.hand(self.hand), 1.6))
        for x in (left, right):
            painter.drawLine(round(x), 60, round(x), 66)
        painter.drawLine(round(left), 63, round(right), 63)
        painter.setFont(font(SMALL))
        painter.setPen(self.theme.color("ink"))
        words = f"{WORDS[self.reach]}, {reach_mm(self.reach):.0f} mm"
        painter.fillRect(QRectF((left + right) / 2 - 58, 57, 116, 14), self.theme.color("paper"))
        painter.drawText(QRectF((left + right) / 2 - 90, 56, 180, 16), Qt.AlignmentFlag.AlignCenter, words)
        painter.end()


class HandsDialog(QDialog):
    """Asks for a player's hands. `hands` and `singer` are the answer."""

    def __init__(self, setup: Setup, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("My hands")
        self.hands, self.singer = setup.player.hands, setup.player.singer
        self.theme = theme
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.setSpacing(12)
        title = QLabel("Can you hold these two keys together?")
        title.setFont(font(LARGE, bold=True))
        column.addWidget(title)
        column.addLayout(self._presets())
        column.addLayout(self._stretches())
        column.addLayout(self._rest())
        caution = QLabel(CAUTION)
        caution.setFont(font(SMALL))
        caution.setObjectName("muted")
        caution.setWordWrap(True)
        column.addWidget(caution)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("&Use these hands")
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setText("&Cancel")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        label_boxes(self)
        self._show()

    def _presets(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addWidget(QLabel("I reach"))
        for name, hands in PRESETS.items():
            button = QPushButton(name)
            button.setAutoDefault(False)
            notes = f"{hands.left_notes} and {hands.right_notes} notes"
            button.setToolTip(f"{WORDS[hands.left_reach]} in both hands, {notes}, {hands.keys} keys")
            button.clicked.connect(lambda _=False, hands=hands: self._take(hands))
            row.addWidget(button)
        row.addStretch(1)
        return row

    def _stretches(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        self.stretch: dict[str, StretchKeys] = {}
        self.notes: dict[str, QComboBox] = {}
        for line, hand in enumerate(("left", "right")):
            keys, notes = StretchKeys(hand, self.theme), ListBox()
            keys.changed.connect(lambda reach, hand=hand: self._reach(hand, reach))
            notes.addItems(["1 note", *(f"{count} notes" for count in range(2, 6))])
            notes.setAccessibleName(f"Most notes of the {hand} hand")
            notes.activated.connect(lambda i, hand=hand: self._set(**{f"{hand}_notes": i + 1}))
            label = QLabel(f"{hand.capitalize()} hand")
            label.setFont(font(BODY, bold=True))
            narrower = tool_button("No", "A narrower grip", f"{hand} hand: no, narrower")
            wider = tool_button("Yes, wider", "Try one key more", f"{hand} hand: yes, wider")
            narrower.clicked.connect(lambda _=False, hand=hand: self._reach(hand, self.hands.reach(hand) - 1))
            wider.clicked.connect(lambda _=False, hand=hand: self._reach(hand, self.hands.reach(hand) + 1))
            for place, widget in enumerate((label, keys, narrower, wider, notes)):
                grid.addWidget(widget, line, place, Qt.AlignmentFlag.AlignVCenter)
            self.stretch[hand], self.notes[hand] = keys, notes
        return grid

    def _rest(self) -> QHBoxLayout:
        self.keys = ListBox()
        self.keys.setAccessibleName("Keys of the keyboard")
        self.keys.addItems([f"{count} keys" for count in KEYBOARDS])
        self.keys.activated.connect(lambda i: self._set(keys=list(KEYBOARDS)[i]))
        self.with_singer = QCheckBox("Leave room for a singer")
        self.with_singer.setToolTip("The right hand stays out of this register where it can")
        self.with_singer.clicked.connect(self._toggle_singer)
        self.voice = ListBox()
        self.voice.setAccessibleName("The singer's register")
        self.low, self.high = ListBox(), ListBox()
        names = [pretty_signs(str(pitch_of(m, spell_in_key(m % 12, parse_key("C"))))) for m in range(36, 97)]
        for box, word in ((self.low, "lowest"), (self.high, "highest")):
            box.addItems(names)
            box.setAccessibleName(f"The singer's {word} note")
            box.activated.connect(lambda _: self._singer_notes())
        self.voice.addItems(list(SINGERS))
        self.voice.activated.connect(lambda i: self._set_singer(list(SINGERS.values())[i]))
        self.rolls = QCheckBox("Roll tenths")
        self.rolls.setToolTip("Two or three left-hand notes may lie two keys wider, played from the lowest one up")
        self.rolls.clicked.connect(lambda on: self._set(roll=on))
        row = QHBoxLayout()
        row.addWidget(QLabel("Keyboard"))
        row.addWidget(self.keys)
        row.addWidget(self.rolls)
        row.addSpacing(24)
        row.addWidget(self.with_singer)
        self.to = QLabel("to")
        for widget in (self.voice, self.low, self.to, self.high):
            row.addWidget(widget)
        row.addStretch(1)
        return row

    # --- answers ---
    def _take(self, hands: Hands) -> None:
        self.hands = hands
        self._show()

    def _set(self, **fields: int) -> None:
        self.hands = msgspec.structs.replace(self.hands, **fields)
        self._show()

    def _reach(self, hand: str, reach: int) -> None:
        self._set(**{f"{hand}_reach": min(MOST, max(LEAST, reach))})

    def _toggle_singer(self, on: bool) -> None:
        self._set_singer(SINGERS["middle"] if on else None)

    def _set_singer(self, singer: tuple[int, int] | None) -> None:
        self.singer = singer
        self._show()

    def _singer_notes(self) -> None:
        low, high = self.low.currentIndex() + 36, self.high.currentIndex() + 36
        self._set_singer((min(low, high), max(low, high)))

    def _show(self) -> None:
        for hand in ("left", "right"):
            self.stretch[hand].set_reach(min(MOST, max(LEAST, self.hands.reach(hand))))
            self.notes[hand].setCurrentIndex(self.hands.most(hand) - 1)
        self.rolls.setChecked(self.hands.roll)
        self.keys.setCurrentIndex(list(KEYBOARDS).index(self.hands.keys))
        self.with_singer.setChecked(self.singer is not None)
        for widget in (self.voice, self.low, self.to, self.high):
            widget.setVisible(self.singer is not None)
        if self.singer is not None:
            self.low.setCurrentIndex(min(60, max(0, self.singer[0] - 36)))
            self.high.setCurrentIndex(min(60, max(0, self.singer[1] - 36)))
            known = list(SINGERS.values())
            self.voice.setCurrentIndex(known.index(self.singer) if self.singer in known else -1)
