"""Starting the window: fonts, settings, what opens, and what happens when a bug gets through."""

from __future__ import annotations

import contextlib
import gc
import os
import signal
import sys
import traceback
from pathlib import Path
from types import FrameType, TracebackType

from PySide6.QtCore import QEventLoop, QSocketNotifier, QTimer, QtMsgType, qInstallMessageHandler
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from yellow_hinge.app.keeping.settings import Places, load_settings, user_places
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.errors import UserError
from yellow_hinge.paper.fonts import load_fonts
from yellow_hinge.ui.loading import load_next, look_up_first, modules_of
from yellow_hinge.ui.paint.theme import BODY, font, set_large_text
from yellow_hinge.ui.shell.table import ROOMS
from yellow_hinge.ui.shell.window import MainWindow

COLLECT_MS = 2000  # after the window shows
PAUSE_MS = 60  # between two modules that are loaded then
NO_SCREEN = (
    "yellow-hinge: no screen can be reached. Start it in a desktop session (or set DISPLAY or WAYLAND_DISPLAY), or "
    "work without a window: yellow-hinge voice SONG, yellow-hinge --help.\n"
)


def _told(kind: QtMsgType, _context: object, words: str) -> None:
    """Qt's own messages; without a screen it would end in a crash."""
    with contextlib.suppress(OSError):
        os.write(2, NO_SCREEN.encode() if kind == QtMsgType.QtFatalMsg else f"{words}\n".encode())
    if kind == QtMsgType.QtFatalMsg:
        os._exit(2)


def make_app(words: list[str]) -> QApplication:
    """The application with its look, before any window. Without a screen the process ends with status 2."""
    qInstallMessageHandler(_told)
    app = QApplication(words)
    qInstallMessageHandler(None)
    app.setApplicationName("Yellow Hinge")
    app.setDesktopFileName("yellow-hinge")
    app.setWindowIcon(QIcon(str(ASSETS / "desktop" / "yellow-hinge.png")))
    app.setStyle("Fusion")
    load_fonts()
    app.setFont(font(BODY))
    return app


def open_song(window: MainWindow, song: str | None, demo: bool) -> None:
    """Open what was asked for; else what a crash left behind, the last song, or the demo song. What else was left
    behind is offered.
    """
    window.own_data.begin()  # what names of styles and manners mean
    window.rescues.look()
    if song or not window.rescues.open_newest():
        _open_asked(window, song, demo)
    window.rescues.offer()
    window.staging.look()
    window.helping.look()


def _open_asked(window: MainWindow, song: str | None, demo: bool) -> None:
    if song and window.files.open_named(song):
        return
    last = Path(window.preferences.settings.last_file) if window.preferences.settings.last_file else None
    if not song and not demo and last is not None and last.exists() and window.files.open_path(last):
        window.desk.selection.begin_at(window.preferences.settings.chord)
        return
    window.files.open_demo()


def install_hook(window: MainWindow, places: Places) -> None:
    """A bug is logged with its traceback, what is unsaved is kept aside, and the window says so."""
    from yellow_hinge.app.keeping import logbook

    logbook.begin(places)

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        logbook.bug("".join(traceback.format_exception(kind, error, trace)))
        window.autosave.flush()
        from yellow_hinge.ui.dialogs import asking

        last = str(error).strip().splitlines()[-1:] or [""]
        words = f"This is a bug in the program. Your song is kept.\n\n{kind.__name__}: {last[0]}"
        asking.bug(window, f"{words}\n\nThe log is {places.state / logbook.LOG}")

    sys.excepthook = hook


def end_on_signals(window: MainWindow) -> None:
    """Ctrl+C in the terminal, or the end of the desktop's session: unsaved work is kept aside and comes back."""
    import socket  # slow to load, and not needed before the window shows

    ours, theirs = socket.socketpair()
    for end in (ours, theirs):
        end.setblocking(False)
    signal.set_wakeup_fd(theirs.fileno())
    came: list[int] = []

    def end_now() -> None:
        window.autosave.flush()
        os._exit(128 + (came or [signal.SIGTERM])[0])

    notifier = QSocketNotifier(ours.fileno(), QSocketNotifier.Type.Read, window)
    notifier.activated.connect(end_now)
    window.destroyed.connect(lambda: (ours, theirs, notifier))  # they live as long as the window

    def caught(number: int, _frame: FrameType | None) -> None:
        came.append(number)

    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, caught)


SEARCHES = (10_000, 5, 200)  # new objects until they are searched, then how often until what survived is


class LoadingOn(QTimer):
    """Loads what the rooms need and makes them, bit by bit while nothing else is to be done, before they are shown."""

    def __init__(self, window: MainWindow) -> None:
        super().__init__(window)
        self._rooms = window.rooms
        self._names = modules_of(room.make.__module__.rpartition(".")[0] for room in ROOMS)
        self.setInterval(PAUSE_MS)
        self.timeout.connect(self._on)

    def _on(self) -> None:
        if not (load_next(self._names) or self._rooms.make_next()):
            self.stop()
            look_up_first()


def collect() -> None:
    """Look for garbage from now on, often among what is new and seldom among all: a song of a thousand chords would be
    searched as long as it takes to play a short note. What was loaded to start with stays and need not be searched.
    """
    gc.freeze()
    gc.set_threshold(*SEARCHES)
    gc.enable()


def open_window(song: str | None, demo: bool) -> int:
    """Open the window and run until it closes; returns the exit status."""
    app = make_app(sys.argv[:1])
    places = user_places()
    try:
        settings = load_settings(places)
        set_large_text(settings.large_text)
        app.setFont(font(BODY))
        window = MainWindow(places, settings)
    except UserError as error:
        print(f"yellow-hinge: {error}", file=sys.stderr)
        return 2
    window.show()
    app.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)  # the frame is seen before a song is read
    install_hook(window, places)
    end_on_signals(window)
    QTimer.singleShot(0, lambda: open_song(window, song, demo))
    QTimer.singleShot(COLLECT_MS, collect)
    later = LoadingOn(window)
    QTimer.singleShot(COLLECT_MS, later.start)
    return app.exec()
