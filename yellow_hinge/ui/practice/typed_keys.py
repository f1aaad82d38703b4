"""A picture of the computer's keys: which note each plays now, and which of them are asked for."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.app.practice.programmes import AskedChord
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs, sharp_note
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import SMALL, Theme, font, text_scale
from yellow_hinge.ui.practice.typing import LETTERS, REACH, STEPS, TypedNotes

ROW_H, KEY_W, SHIFT = 20, 40, 14  # a row, a key, and how far a row begins farther right than the one above


def too_wide(solution: Solution | None, hands: str) -> str:
    """That the computer's keys do not reach all that hands play in some chord, "" where they do."""
    voicings = solution.voicings if solution is not None else ()
    played = [(*v.left, *v.right) if hands == "both" else v.both.of(hands) for v in voicings]
    if all(not notes or max(notes) - min(notes) <= REACH for notes in played):
        return ""
    return "The computer's keys reach two octaves and a half: for the widest chords play one hand, or click the rest."


class TypedKeys(QWidget):
    """Four rows of keys; those of `asked` notes stand out."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme, self.octave = theme, 48
        self.asked: frozenset[int] = frozenset()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._size()
        self.setAccessibleName("The computer's keys as notes")
        self.setToolTip("Page Up and Page Down: another octave. The space bar is the pedal.")

    def _size(self) -> None:
        self.setFixedHeight(round(4 * ROW_H * text_scale()) + 8)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange:
            self._size()

    def sizeHint(self) -> QSize:
        return QSize(12 * KEY_W + 4 * SHIFT, self.height())

    def show_keys(self, octave: int, asked: frozenset[int]) -> None:
        """Show where the keys lie now, and which notes are asked for."""
        self.octave, self.asked = octave, asked
        self.setAccessibleDescription(self.words())
        self.update()

    def follow(self, typed: TypedNotes, step: AskedChord, hands: str, hidden: bool) -> None:
        """The keys go to where they have what is asked for, and show it unless it is to be `hidden`."""
        wanted = frozenset(step.wanted(hands)) if step.question is None else frozenset[int]()
        typed.fit(wanted)
        self.show_keys(typed.octave, frozenset() if hidden else wanted)

    def words(self) -> str:
        """Which keys are to be pressed, in words."""
        keys = [letter for letter, step in STEPS if self.octave + step in self.asked]
        return f"Press {', '.join(keys)}." if keys else ""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        tall = (self.height() - 8) / 4
        wide = min(float(KEY_W) * text_scale(), (self.width() - 4 * SHIFT - 16) / 12)
        left = max(8.0, (self.width() - 12 * wide - 4 * SHIFT) / 2)
        notes = dict(STEPS)
        painter.setFont(font(SMALL))
        for row, letters in enumerate(LETTERS):
            for column, letter in enumerate(letters):
                step = notes.get(letter)
                if step is None:
                    continue
                area = QRectF(left + row * SHIFT + column * wide, 4 + row * tall, wide - 3, tall - 3)
                midi = self.octave + step
                wanted = midi in self.asked
                painter.fillRect(area, theme.color("chosen" if wanted else "raised"))
                painter.setPen(hair(theme.color("ink" if wanted else "line"), 2.0 if wanted else 1.0))
                painter.drawRect(area)
                painter.setPen(theme.color("ink" if wanted else "muted"))
                note = pretty_signs(str(pitch_of(midi, sharp_note(midi % 12))))
                painter.drawText(area, Qt.AlignmentFlag.AlignCenter, f"{letter} {note}")
        painter.end()
