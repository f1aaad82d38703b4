"""What is tried in the Hinges view (a way from the list, notes moved by hand) shown on map and keyboards, and heard."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject

from yellow_hinge.app.desk.moving import Trial
from yellow_hinge.ui.hinges.entering import Entering
from yellow_hinge.ui.hinges.moving import NoteMover
from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.sound.listening import Listening

MOVING = "Shift+Up and Shift+Down move this note, Enter takes it, Escape leaves it."


class Trying(QObject):
    """Wires the parts; it decides nothing."""

    def __init__(
        self, hinges: HingesView, keys: KeysPanel, mover: NoteMover, listening: Listening, say: Callable[[str], None],
        entering: Entering, unsay: Callable[[], None],
    ) -> None:  # fmt: skip
        super().__init__(hinges)
        self.hinges, self.keys, self.listening, self.say = hinges, keys, listening, say
        self.entering, self.unsay = entering, unsay
        self._hinted = False  # whether what is said is how a note is moved
        hinges.options.previewed.connect(keys.preview)
        for canvas in (keys.canvas, hinges.map.canvas):
            canvas.struck.connect(self._struck)
            canvas.dragged.connect(mover.drag)
            canvas.dropped.connect(mover.drop)
        keys.canvas.toggled.connect(mover.toggle)
        keys.canvas.parted.connect(entering.put_split)
        entering.split_.connect(self._split)
        mover.tried.connect(self._tried)
        mover.ringed.connect(self._ringed)
        hinges.side.struck.connect(listening.player.strike)

    def _struck(self, midi: int) -> None:
        if self.entering.on:
            self.entering.note(midi)
        else:
            self.listening.player.strike(((midi, "right"),))

    def _split(self, midi: int | None) -> None:
        self.keys.canvas.split = midi
        self.keys.canvas.update()

    def _tried(self, trial: Trial | None, moved: int | None) -> None:
        self.hinges.map.show_trial(trial, moved)
        if trial is None:
            if self._hinted and not self.entering.on:
                self.unsay()
            self._hinted = False
            self.hinges.map.canvas.ringed = None
            self.keys.refresh()
        else:
            self.keys.preview(trial.option, trial.faults)
            if moved is not None and not self.entering.on and not self.keys.canvas.underMouse():
                self.listening.player.strike(((moved, "right"),))

    def _ringed(self, note: tuple[str, int] | None) -> None:
        self.hinges.map.canvas.ringed = note
        self.hinges.map.canvas.update()
        if note is not None:
            self.listening.player.strike(((note[1], note[0]),))
            self.say(MOVING)
            self._hinted = True
