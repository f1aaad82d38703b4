"""Files that are dropped on the window: one is opened, several are reported on."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent, QMimeData, QObject, QTimer
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.paint.theme import Theme


def paths_in(mime: QMimeData) -> list[Path]:
    """The files of this computer that are carried."""
    return [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()]


class Dropping(QObject):
    """`open_file` opens one after asking for what is not saved; whether it did."""

    def __init__(self, window: QWidget, theme: Callable[[], Theme], open_file: Callable[[Path], bool]) -> None:
        super().__init__(window)
        self._window, self._theme, self._open_file = window, theme, open_file
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
        """Open one; of several show the report, and open the one that is wanted then."""
        if len(paths) == 1:
            self._open_file(paths[0])
            return
        from yellow_hinge.ui.files.many import ManyFiles  # with the first of many

        dialog = ManyFiles(self._window, self._theme(), paths)
        dialog.exec()
        if dialog.first is not None:
            self._open_file(dialog.first)
