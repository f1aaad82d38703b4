"""The computer's keys as two rows of a piano, by where they lie and not by what is printed on them."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPlainTextEdit

from yellow_hinge.app.practice.notes_in import NotesIn

# Scan codes of the four rows as X11 and Wayland give them, from their left: 1 to =, Q to ], A to ', Z to /.
_ROWS = (range(10, 22), range(24, 36), range(38, 49), range(52, 62))
LETTERS = ("1234567890-=", "QWERTYUIOP[]", "ASDFGHJKL;'", "ZXCVBNM,./")
# Semitones above the row's C for the keys of a white row, and of the black row above it.
_WHITE = (0, 2, 4, 5, 7, 9, 11, 12, 14, 16, 17, 19)
_BLACK = (None, 1, 3, None, 6, 8, 10, None, 13, 15, None, 18)
OCTAVES = (24, 72)  # where the lower row's C may lie
SOURCE = "computer keys"


def _steps() -> tuple[dict[int, int], dict[int, int]]:
    """Semitones above the lower C by scan code, and by the letter of an English keyboard."""
    codes, letters = {}, {}
    for row, base, steps in ((3, 0, _WHITE), (2, 0, _BLACK), (1, 12, _WHITE), (0, 12, _BLACK)):
        for code, letter, step in zip(_ROWS[row], LETTERS[row], steps, strict=False):
            if step is not None:
                codes[code], letters[ord(letter)] = base + step, base + step
    return codes, letters


_CODES, _BY_LETTER = _steps()
STEPS = tuple((chr(letter), step) for letter, step in _BY_LETTER.items())  # (key, semitones above the lower C)
REACH = max(_BY_LETTER.values())  # semitones that the keys span


class TypedNotes(QObject):
    """While it is on, the computer's keys are notes, and the space bar is the pedal. `shifted`: they are others now."""

    shifted = Signal()

    def __init__(self, notes: NotesIn, parent: QObject) -> None:
        super().__init__(parent)
        self.notes = notes
        self.on, self.octave = False, 48
        self._down: dict[int, int] = {}  # the note that each key began

    def fit(self, wanted: Iterable[int]) -> bool:
        """Lay the keys where they have the most of some notes; whether they have all of them. They stay where they are
        as long as they have all.
        """
        notes = set(wanted)
        if all(0 <= note - self.octave <= REACH for note in notes):
            return True
        places = range(OCTAVES[0], OCTAVES[1] + 1, 12)
        self.octave = max(
            places, key=lambda at: (sum(0 <= note - at <= REACH for note in notes), -abs(at - self.octave))
        )
        return all(0 <= note - self.octave <= REACH for note in notes)

    def put(self, on: bool) -> None:
        """Turn it on or off."""
        application = QApplication.instance()
        if application is None or on == self.on:
            return
        self.on = on
        (application.installEventFilter if on else application.removeEventFilter)(self)
        if not on:
            self.leave()

    def leave(self) -> None:
        """Every key goes up."""
        self._down.clear()
        self.notes.let_go(SOURCE)
        self.notes.put_pedal(False)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.WindowDeactivate:
            self.leave()
            return False
        if not isinstance(event, QKeyEvent) or event.modifiers() & (
            Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
        ):
            return False
        if isinstance(QApplication.focusWidget(), (QLineEdit, QPlainTextEdit, QComboBox)):
            return False
        kind = event.type()
        if not self._knows(event):
            return False
        if kind == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if kind == QEvent.Type.KeyPress and not event.isAutoRepeat():
            self._press(event)
        elif kind == QEvent.Type.KeyRelease and not event.isAutoRepeat():
            self._lift(event)
        return True

    def _step(self, event: QKeyEvent) -> int | None:
        code = event.nativeScanCode()
        return _CODES.get(code) if code else _BY_LETTER.get(event.key())

    def _knows(self, event: QKeyEvent) -> bool:
        other = (Qt.Key.Key_Space, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown)
        return self._step(event) is not None or event.key() in other

    def _press(self, event: QKeyEvent) -> None:
        step = self._step(event)
        if step is not None:
            midi = self.octave + step
            self._down[event.key()] = midi
            self.notes.press(midi, source=SOURCE)
        elif event.key() == Qt.Key.Key_Space:
            self.notes.put_pedal(True)
        else:
            by = 12 if event.key() == Qt.Key.Key_PageUp else -12
            self.octave = min(OCTAVES[1], max(OCTAVES[0], self.octave + by))
            self.shifted.emit()

    def _lift(self, event: QKeyEvent) -> None:
        if event.key() in self._down:
            self.notes.lift(self._down.pop(event.key()), SOURCE)
        elif event.key() == Qt.Key.Key_Space:
            self.notes.put_pedal(False)
