"""A drag over chords that marks them, from the one that was pressed to the one under the pointer."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QMouseEvent


class MarkDrag:
    """Tells `draw` a chord and whether the mark begins anew; chords are numbers, -1 where there is none."""

    def __init__(self, draw: Callable[[int, bool], object]) -> None:
        self._draw = draw
        self._at: int | None = None  # the chord the pointer is over while it is down
        self._marks = False

    def pressed(self, at: int, event: QMouseEvent) -> bool:
        """The pointer went down; whether it marked (with Shift, on from the selected chord)."""
        self._at, self._marks = at, False
        if at >= 0 and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._draw(at, False)
            return True
        return False

    def moved(self, at: int) -> None:
        """The pointer is over another chord by now."""
        if self._at is not None and at >= 0 and at != self._at:
            self._draw(at, not self._marks)
            self._at, self._marks = at, True

    def lifted(self) -> None:
        """The pointer is up."""
        self._at = None
