"""The window fits its screen: with its frame it is never larger than the room that the desktop leaves."""

from __future__ import annotations

from PySide6.QtCore import QElapsedTimer, QEvent, QObject, QRect, QSize, Qt, QTimer
from PySide6.QtWidgets import QMainWindow

LEAST = QSize(900, 600)  # under which parts of the views would be cut
FRAME = QSize(8, 40)  # of most window managers, until it is known
SETTLING_MS = 2000  # after showing: the window manager puts its frame around the window meanwhile


def within(wanted: QSize, room: QSize, frame: QSize) -> QSize:
    """The size of a window's inside that with its frame lies in a room, all in device-independent units."""
    return wanted.boundedTo(room - frame).expandedTo(QSize(1, 1))


def moved_inside(outer: QRect, room: QRect) -> QRect:
    """A window with its frame where all of it is seen; its upper left corner where it is too large."""
    x = max(room.x(), min(outer.x(), room.x() + room.width() - outer.width()))
    y = max(room.y(), min(outer.y(), room.y() + room.height() - outer.height()))
    return QRect(x, y, outer.width(), outer.height())


class Fitting(QObject):
    """Keeps a window within its screen while it is shown for the first time; afterwards it is where the player puts
    it.
    """

    def __init__(self, window: QMainWindow, wanted: tuple[int, int]) -> None:
        super().__init__(window)
        self._window, self._since = window, QElapsedTimer()
        self._later = QTimer(self, singleShot=True, interval=0)
        self._later.timeout.connect(self.fit)
        room = window.screen().availableGeometry().size()
        window.setMinimumSize(within(LEAST, room, FRAME))
        window.resize(within(QSize(*wanted), room, FRAME))
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Show and not self._since.isValid():
            self._since.start()
        placed = event.type() in (QEvent.Type.Show, QEvent.Type.Move, QEvent.Type.Resize)
        if placed and self._since.isValid() and self._since.elapsed() < SETTLING_MS:
            self._later.start()
        return False

    def fit(self) -> None:
        """Bring the window with the frame that it has into the screen."""
        window = self._window
        if window.windowState() & (Qt.WindowState.WindowMaximized | Qt.WindowState.WindowFullScreen):
            return
        outer, room = window.frameGeometry(), window.screen().availableGeometry()
        frame = outer.size() - window.size()
        size = within(window.size(), room.size(), frame)
        if size != window.size():
            window.setMinimumSize(window.minimumSize().boundedTo(size))
            window.resize(size)
        inside = moved_inside(QRect(outer.topLeft(), size + frame), room)
        if inside.topLeft() != outer.topLeft():
            window.move(inside.topLeft())
