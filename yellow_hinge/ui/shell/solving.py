"""The solver beside the window, and the bar that says that it works."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QProgressBar, QWidget

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.solver import Answer, Solver
from yellow_hinge.ui.paint.controls import PATIENCE_MS


class Solving(QObject):
    """Asks; `came` brings answers from the solver's thread to the window's."""

    came = Signal(object)

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(3)
        self.busy.setAccessibleName("Solving")
        self.busy.hide()
        self._solver = Solver(self.came.emit, "solver")
        self._asked = 0
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.setInterval(PATIENCE_MS)
        self._patience.timeout.connect(self.busy.show)
        self.came.connect(self._answered)

    def ask(self, state: State) -> int:
        """Put a state to the solver; the number of the question."""
        self._patience.start()
        self._asked = self._solver.ask(state)
        return self._asked

    def _answered(self, answer: Answer | Bug) -> None:
        if answer.number == self._asked:
            self._patience.stop()
            self.busy.hide()

    def close(self) -> None:
        """Stop the thread."""
        self._solver.close()
