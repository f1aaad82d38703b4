"""The simulated player: plays what is asked for on a simulated keyboard, nearly right."""

from __future__ import annotations

from random import Random

from PySide6.QtCore import QObject, QTimer

from yellow_hinge.app.practice.ports import SIMULATED, SimulatedBackend
from yellow_hinge.app.practice.practising import Practising
from yellow_hinge.core.practice.partner import NEARLY, Skill, Touch, touches
from yellow_hinge.ui.sound.live import LiveKeys

LOUD = 74
AGAIN_MS = 1500  # after which a chord that was not heard is played again


class Partner(QObject):
    """Plays while it is on: what it presses goes through the simulated keyboard like anybody's keys."""

    def __init__(self, parent: QObject, live: LiveKeys, skill: Skill = NEARLY) -> None:
        super().__init__(parent)
        self.live, self.skill, self.chance = live, skill, Random(11)
        self.backend = SimulatedBackend()
        self.on = False
        self._session: Practising | None = None
        self._waiting: list[tuple[float, Touch]] = []
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._play)
        self._held: set[int] = set()

    def put(self, on: bool) -> None:
        """Play along, or rest."""
        self.on = on
        self.backend.plugged = [SIMULATED] if on else []
        if self.live.ports is not None:
            self.live.ports.look()
        if on and self._session is not None and not self._session.over:
            self.asked(self._session)
        elif not on:
            self.rest()

    def asked(self, session: Practising) -> None:
        """Another chord is asked for."""
        self._session = session
        self._timer.stop()
        self._waiting = []
        step = session.step
        if not self.on or step is None:
            return
        if step.question is not None:
            wanted: tuple[int, ...] = (60 + step.question.right.pc,)
        else:
            wanted = step.wanted(session.piece.hands)
        if set(wanted) <= self._held:
            self._let_go()
        begun = 0.0
        for touch in touches(wanted, self.skill, self.chance, sorted(self._held)):
            self._waiting.append((touch.at - begun, touch))
            begun = touch.at
        self._arm()

    def rest(self) -> None:
        """Let everything go."""
        self._timer.stop()
        self._waiting = []
        self._let_go()

    def _let_go(self) -> None:
        for midi in sorted(self._held):
            self.backend.send(0x80, midi, 0)
        self._held.clear()

    def _arm(self) -> None:
        self._timer.start(max(0, round(self._waiting[0][0] * 1000)) if self._waiting else AGAIN_MS)

    def _play(self) -> None:
        if not self._waiting:  # what was played was not heard: the keyboard was away
            if self.on and self._session is not None and not self._session.over:
                self._let_go()
                self.asked(self._session)
            return
        _, touch = self._waiting.pop(0)
        press = touch.kind == "press"
        (self._held.add if press else self._held.discard)(touch.midi)
        self.backend.send(0x90 if press else 0x80, touch.midi, LOUD if press else 0)
        self._arm()
