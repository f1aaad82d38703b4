"""Entering hands chord by chord: keys clicked, or typed on the computer's own; each chord becomes one that is kept."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.desk.moving import with_note_toggled
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs, sharp_note
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.hinges.moving import NoteMover

# The letters' middle row as white keys from C, the row above as black ones: semitones above the octave's C.
TYPED = {letter: at for at, letter in enumerate("AWSEDFTGYHUJKOLP")}
LOWEST, HIGHEST = 24, 84  # where the octave of A may begin


def split_of(both: Both) -> int:
    """The first key (MIDI) of the right hand: half way between two hands, beside one, middle C without notes."""
    if both.left and both.right:
        return (both.left[-1] + both.right[0] + 1) // 2
    return both.left[-1] + 1 if both.left else both.right[0] if both.right else 60


class Entering(QObject):
    """On, it takes keys for notes. They go to the hand on whose side of the split they lie, or to `hand`, where the
    player chose one for this chord. `split_` tells where the hands part, None while nothing is entered.
    """

    split_ = Signal(object)

    def __init__(self, desk: Desk, mover: NoteMover, say: Callable[..., None], struck: Callable[[int], None]) -> None:
        super().__init__(mover)
        self.desk, self.mover, self._say, self._struck = desk, mover, say, struck
        self.on, self.octave = False, 48
        self.hand: str | None = None
        self.split = 60
        self._both = Both((), ())
        desk.listeners.append(self._on_desk)

    def toggle(self) -> None:
        """Begin, or end."""
        self.on = not self.on and self.desk.selection.voicing is not None
        application = QApplication.instance()
        if application is not None:
            (application.installEventFilter if self.on else application.removeEventFilter)(self)
        self._begin()
        if not self.on:
            self.mover.forget()
            self._say("")

    def note(self, midi: int) -> None:
        """A key was pressed, drawn or typed: its note is added to the hand, or lifted."""
        hand = self.hand or ("left" if midi < self.split else "right")
        both = with_note_toggled(self._both, hand, midi)
        if both is None:
            self._say(f"The {hand} hand has five fingers, and each has a key.")
            return
        self._both = both
        self._struck(midi)
        if both.left or both.right:
            self.mover.try_hands(both, midi)
        else:
            self.mover.forget()

    def keep(self) -> None:
        """Keep the entered hands, as they are, and go on to the next chord."""
        tried = self.mover.trial
        if tried is None:
            return
        self.mover.forget()
        at = self.desk.selection.index
        self.desk.take(tried.option)
        self.desk.selection.go(at + 1)
        self._begin()

    def _begin(self) -> None:
        """Nothing of the chord is entered yet; the hands part, and the typed octave begins, where its hands lie now."""
        self._both, self.hand = Both((), ()), None
        voicing = self.desk.selection.voicing
        if voicing is not None:
            self.split = split_of(voicing.both)
            low = min((*voicing.left, *voicing.right), default=48)
            self.octave = min(HIGHEST, max(LOWEST, low // 12 * 12))
        self.split_.emit(self.split if self.on else None)
        self._tell()

    def put_split(self, midi: int) -> None:
        """The hands part below another key."""
        self.split, self.hand = midi, None
        self.split_.emit(midi)
        self._tell()

    def _tell(self) -> None:
        if self.on and self.desk.selection.voicing is not None:
            name = write_symbol(self.desk.selection.voicing.chord)
            at = pretty_signs(str(pitch_of(self.split, sharp_note(self.split % 12))))
            whose = f"Your {self.hand} hand" if self.hand else f"Your hands, parting below {at},"
            words = f"{whose} for {name}: click keys, or type A to P; Page Up and Down another octave, "
            self._say(f"{words}Tab one hand alone, Enter keeps it and goes on, Esc ends.", lasting=True)

    def _on_desk(self, what: Event) -> None:
        if self.on and what in (Event.SELECTION, Event.SOLUTION):
            if what == Event.SELECTION:
                self._begin()
            self._tell()

    # --- keys ---
    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent) or isinstance(QApplication.focusWidget(), (QLineEdit, QPlainTextEdit)):
            return False
        do = self._does(event)
        if do is None or QApplication.activeModalWidget() is not None:
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if event.type() == QEvent.Type.KeyPress:
            if not event.isAutoRepeat():
                do()
            return True
        return False

    def _does(self, event: QKeyEvent) -> Callable[[], None] | None:
        """What a key does while hands are entered."""
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            return None
        letter = chr(event.key()) if event.key() < 128 else ""
        if letter in TYPED:
            return lambda: self.note(self.octave + TYPED[letter])
        keys = Qt.Key
        return {
            keys.Key_Return: self.keep, keys.Key_Enter: self.keep, keys.Key_Escape: self.toggle,
            keys.Key_Tab: self._other_hand, keys.Key_Backspace: self._again,
            keys.Key_PageUp: lambda: self._shift(12), keys.Key_PageDown: lambda: self._shift(-12),
        }.get(keys(event.key()) if event.key() else keys.Key_unknown)  # fmt: skip

    def _other_hand(self) -> None:
        """The left hand alone, then the right one, then both by the split again."""
        self.hand = {None: "left", "left": "right", "right": None}[self.hand]
        self._tell()

    def _shift(self, by: int) -> None:
        self.octave = min(HIGHEST, max(LOWEST, self.octave + by))
        self._tell()

    def _again(self) -> None:
        self.mover.forget()
        self._begin()
