"""Controls that are seldom wanted fold behind a button, which says what they stand at."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QToolButton, QWidget

from yellow_hinge.ui.paint.controls import as_small, fit_text

SHUT, OPEN = "▸", "▾"


class Fold(QToolButton):
    """Shows or hides some widgets. `turned` tells its name and whether they are shown."""

    turned = Signal(str, bool)

    def __init__(self, name: str, words: str, tip: str, inside: Sequence[QWidget]) -> None:
        super().__init__()
        self.name, self._words, self._stands, self._inside = name, words, "", tuple(inside)
        self.setCheckable(True)
        as_small(self)
        self.setToolTip(tip)
        self.clicked.connect(lambda on=False: self.turned.emit(self.name, on))
        self.toggled.connect(lambda _: self._show())
        self._show()

    def say(self, stands: str) -> None:
        """What the widgets stand at, said while they are hidden; "" where that is as usual."""
        if stands != self._stands:
            self._stands = stands
            self._show()

    def _show(self) -> None:
        on = self.isChecked()
        text = self._words if on or not self._stands else self._stands
        self.setText(f"{text} {OPEN if on else SHUT}")
        self.setAccessibleName(f"{self._words}{f': {self._stands}' if self._stands else ''}")
        fit_text(self, 16)
        for widget in self._inside:
            widget.setVisible(on)
