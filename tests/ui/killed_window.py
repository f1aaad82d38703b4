"""Run under Xvfb by test_real_window.py: a window that is killed with its song open, or the start after that."""

import json
import os
import signal
import sys
from pathlib import Path

from PySide6.QtTest import QTest

from yellow_hinge.app.keeping import Places, Settings
from yellow_hinge.ui.start import make_app, open_song
from yellow_hinge.ui.window import MainWindow


def main(folder: Path, what: str) -> None:
    make_app(["yellow-hinge"])
    window = MainWindow(Places(folder, folder), Settings(theme="light"))
    window.show()
    QTest.qWaitForWindowExposed(window)
    open_song(window, None, True)
    if what == "die":
        window.desk.type_text("| Ebmaj9 | Ab13 |")
        for _ in range(200):
            QTest.qWait(20)
            if window.desk.solved_state.text == window.desk.state.text:
                break
        window.desk.toggle_keep()
        QTest.qWait(900)  # longer than the wait of the autosave
        os.kill(os.getpid(), signal.SIGKILL)
    state = window.desk.state
    print(json.dumps({"text": state.text.strip(), "keeps": len(state.keeps), "changed": window.desk.changed}))
    window.desk.saved = window.desk.state
    window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2])
