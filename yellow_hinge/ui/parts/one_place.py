"""One place for what is told and offered: at the foot of the window, over the quiet line, one strip at a time. Nothing
moves under the pointer when one comes or goes.
"""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QRect, Qt
from PySide6.QtWidgets import QWidget


class OnePlace(QObject):
    """Lays strips over the foot of a window; of those that are not hidden the first is seen and has the keys."""

    def __init__(self, over: QWidget, strips: Sequence[QWidget]) -> None:
        super().__init__(over)
        self._over, self._strips = over, tuple(strips)
        over.installEventFilter(self)
        for strip in self._strips:
            shown = not (strip.isHidden() and strip.testAttribute(Qt.WidgetAttribute.WA_WState_ExplicitShowHide))
            strip.setParent(over)
            strip.installEventFilter(self)
            strip.setVisible(shown)
        self.lay_out()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        kinds = (QEvent.Type.ShowToParent, QEvent.Type.HideToParent, QEvent.Type.LayoutRequest, QEvent.Type.Resize)
        if event.type() in kinds and (watched is not self._over or event.type() == QEvent.Type.Resize):
            self.lay_out()
        return False

    def lay_out(self) -> None:
        """Put the strips that are told into their place."""
        first = True
        for strip in self._strips:
            if strip.isHidden():
                continue
            wide, foot = self._over.width(), self._over.height()
            tall = strip.heightForWidth(wide) if strip.hasHeightForWidth() else strip.sizeHint().height()
            tall = max(tall, strip.sizeHint().height())
            place = QRect(0, foot - tall if first else foot, wide, tall)  # below the foot: not seen
            if strip.geometry() != place:
                strip.setGeometry(place)
            strip.setEnabled(first)
            if first:
                strip.raise_()
            first = False
