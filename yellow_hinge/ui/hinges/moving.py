"""Moving notes by mouse or keys: every step is tried with its price, only a drop or Enter takes it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.moving import Trial, trial, with_note_moved, with_note_toggled
from yellow_hinge.core.leading.prices.hinge import HANDS, Both


class NoteMover(QObject):
    """`tried` tells the trial (None when it is over) and which note (MIDI) moved; `ringed` the note that keys move."""

    tried = Signal(object, object)
    ringed = Signal(object)

    def __init__(self, desk: Desk, say: Callable[[str], None], parent: QObject) -> None:
        super().__init__(parent)
        self.desk, self._say = desk, say
        self.trial: Trial | None = None
        self.note: tuple[str, int] | None = None

    # --- the mouse ---
    def drag(self, hand: str, old: int, over: int) -> None:
        """A note of the selected chord is held over another pitch."""
        voicing = self.desk.selection.voicing
        if voicing is not None:
            self._try(with_note_moved(voicing.both, hand, old, over), over)

    def drop(self, hand: str, old: int, over: int) -> None:
        """The note was let go there: it is taken if it can be played."""
        if over == old:
            self.forget()
            return
        self.drag(hand, old, over)
        self.take()

    def toggle(self, hand: str, midi: int) -> None:
        """Add a note to a hand, or lift it."""
        voicing = self.desk.selection.voicing
        if voicing is not None:
            both = with_note_toggled(voicing.both, hand, midi)
            if both is None:
                self._say(f"The {hand} hand has five fingers, and each has a key.")
            else:
                self._try(both, midi)
                self.take()

    # --- keys ---
    def next_note(self) -> None:
        """Ring the next note of the chord from the bass up."""
        both = self._present()
        notes = [(hand, midi) for hand in HANDS for midi in both.of(hand)] if both else []
        if notes:
            at = notes.index(self.note) + 1 if self.note in notes else 0
            self.note = notes[at % len(notes)]
            self.ringed.emit(self.note)

    def ring(self, hand: str, midi: int) -> None:
        """Ring a note of the chord, for the keys to move."""
        self.note = (hand, midi)
        self.ringed.emit(self.note)

    def nudge(self, by: int) -> None:
        """Move the ringed note by a half step, over keys that are taken; without one, the top note."""
        both = self._present()
        if both is None:
            return
        if self.note is None:
            hand = "right" if both.right else "left"
            self.note = (hand, both.of(hand)[-1])
        hand, old = self.note
        new = old + by
        while new in (*both.left, *both.right):
            new += by
        moved = with_note_moved(both, hand, old, new)
        if moved is not None:
            self.note = (hand, new)
            self._try(moved, new)

    def _present(self) -> Both | None:
        if self.trial is not None:
            return self.trial.option.both
        return self.desk.selection.voicing.both if self.desk.selection.voicing else None

    # --- the trial ---
    def try_hands(self, both: Both, midi: int) -> None:
        """Try both hands as they are entered, `midi` last: they are the player's, whatever they lack so far."""
        if self.desk.solution is not None:
            self.trial = trial(both, self.desk.solution, self.desk.selection.index)._replace(faults=())
            self.tried.emit(self.trial, midi)

    def _try(self, both: Both | None, moved: int) -> None:
        if both is None or self.desk.solution is None:
            return
        self.trial = trial(both, self.desk.solution, self.desk.selection.index)
        self.tried.emit(self.trial, moved)

    def take(self) -> bool:
        """Take what is tried if it can be played, else say why not; False where nothing is tried."""
        found = self.trial
        if found is None:
            return False
        self.forget()
        if found.faults:
            self._say(f"That cannot be played: {'; '.join(found.faults)}.")
        else:
            self.desk.take(found.option)
        return True

    def forget(self) -> bool:
        """Leave the chord as it is; False where nothing is tried."""
        if self.trial is None and self.note is None:
            return False
        self.trial = self.note = None
        self.tried.emit(None, None)
        return True
