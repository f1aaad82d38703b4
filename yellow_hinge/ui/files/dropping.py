"""Files that are dropped on the window are opened: one at once, several one after the other."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent, QMimeData, QObject, QTimer
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.parts.telling import Teller

LEAVE = "Leave them"


def paths_in(mime: QMimeData) -> list[Path]:
    """The files of this computer that are carried."""
    return [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()]


class Dropping(QObject):
    """`open_file` opens one after asking for what is not saved; whether it did."""

    def __init__(self, window: QWidget, teller: Teller, open_file: Callable[[Path], bool]) -> None:
        super().__init__(window)
        self._teller, self._open_file = teller, open_file
        window.setAcceptDrops(True)
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() not in (QEvent.Type.DragEnter, QEvent.Type.DragMove, QEvent.Type.Drop):
            return False
        if not isinstance(event, QDropEvent) or not paths_in(event.mimeData()):
            return False
        event.acceptProposedAction()
        if event.type() == QEvent.Type.Drop:
            QTimer.singleShot(0, self, partial(self.open, paths_in(event.mimeData())))  # it need not wait
        return True

    def open(self, paths: list[Path]) -> None:
        """Open the first, and offer the next."""
        first, *rest = paths
        done = self._open_file(first)
        if rest and done:
            count = len(rest)
            words = f"{count} more file{'' if count == 1 else 's'} {'was' if count == 1 else 'were'} dropped."
            self._teller.news.tell(words, {f"Open {rest[0].name}": partial(self.open, rest), LEAVE: lambda: None})
