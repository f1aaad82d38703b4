"""Starting the window: fonts, settings, what opens, and what happens when a bug gets through."""

from __future__ import annotations

import gc
import signal
import sys
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QEventLoop, QTimer
from PySide6.QtWidgets import QApplication

from yellow_hinge.app.keeping import Places, claim_rescue, find_rescue, load_settings, user_places
from yellow_hinge.core.errors import UserError
from yellow_hinge.ui.theme import BODY, font, load_fonts, set_large_text
from yellow_hinge.ui.window import MainWindow

COLLECT_MS = 2000  # after the window shows


def make_app(words: list[str]) -> QApplication:
    """The application with its look, before any window."""
    app = QApplication(words)
    app.setApplicationName("Yellow Hinge")
    app.setStyle("Fusion")
    load_fonts()
    app.setFont(font(BODY))
    return app


def open_song(window: MainWindow, song: str | None, demo: bool) -> None:
    """Open what was asked for; else what a crash left behind, the last song, or the demo song."""
    rescue = find_rescue(window.places)
    if rescue is not None and not song:
        claim_rescue(window.places)
        window.desk.rescued(rescue.file, Path(rescue.path) if rescue.path else None)
        window.keeper.keep_copy()
        window.say("The program did not close properly last time; your unsaved work is back.", lasting=True)
        return
    if song and window.files.open_named(song):
        return
    last = Path(window.settings.last_file) if window.settings.last_file else None
    if not song and not demo and last is not None and last.exists() and window.files.open_path(last):
        window.desk.selected = window.settings.chord
        return
    window.files.open_demo()


def install_hook(window: MainWindow, places: Places) -> None:
    """A bug is logged with its traceback, a rescue copy is written, and the window says so."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        text = "".join(traceback.format_exception(kind, error, trace))
        print(text, file=sys.stderr)
        window.keeper.keep_copy()
        try:
            places.state.mkdir(parents=True, exist_ok=True)
            with (places.state / "bugs.log").open("a", encoding="utf-8") as log:
                log.write(text + "\n")
        except OSError:
            print("the log could not be written", file=sys.stderr)
        from yellow_hinge.ui.dialogs import asking

        asking.bug(window, f"This is a bug in the program. Your song is kept.\n\n{kind.__name__}: {error}")

    sys.excepthook = hook


def collect() -> None:
    """Look for garbage from now on; what was loaded to start with stays and need not be searched."""
    gc.freeze()
    gc.enable()


def open_window(song: str | None, demo: bool) -> int:
    """Open the window and run until it closes; returns the exit status."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)  # Ctrl+C in the terminal ends it; unsaved work is kept aside
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
    install_hook(window, places)
    window.show()
    app.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)  # the frame is seen before a song is read
    QTimer.singleShot(0, lambda: open_song(window, song, demo))
    QTimer.singleShot(COLLECT_MS, collect)
    return app.exec()
