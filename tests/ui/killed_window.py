"""Run under Xvfb by test_real_window.py: a window that is killed with its song open, or the start after that."""

import json
import os
import signal
import sys
from collections.abc import Callable
from pathlib import Path

from PySide6.QtTest import QTest

from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.io.songs.song_json import from_json
from yellow_hinge.ui.shell.start import make_app, open_song
from yellow_hinge.ui.shell.window import MainWindow


def wait_until(there: Callable[[], bool]) -> None:
    for _ in range(500):
        if there():
            return
        QTest.qWait(20)
    raise TimeoutError("it never came")


def main(folder: Path, what: str) -> None:
    make_app(["yellow-hinge"])
    window = MainWindow(Places(folder, folder), Settings(theme="light"))
    window.show()
    QTest.qWaitForWindowExposed(window)
    open_song(window, None, True)
    if what == "die":
        window.desk.type_text("| Ebmaj9 | Ab13 |")
        wait_until(lambda: window.desk.answers.state.text == window.desk.state.text)
        window.desk.toggle_keep()
        copy = window.autosave.session.folder / "song.hinge"
        wait_until(lambda: copy.exists() and bool(from_json(copy.read_bytes(), "copy").keeps))
        os.kill(os.getpid(), signal.SIGKILL)
    state = window.desk.state
    print(json.dumps({"text": state.text.strip(), "keeps": len(state.keeps), "changed": window.desk.document.changed}))
    window.desk.document.saved = window.desk.state
    window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2])
