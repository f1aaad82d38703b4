"""Run under Xvfb by test_real_window.py: a real window, real key events, a picture of the screen. Prints JSON."""

import json
import sys
from pathlib import Path

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.ui.shell.start import make_app, open_song
from yellow_hinge.ui.shell.window import MainWindow


def placed(window: MainWindow) -> dict[str, object]:
    """Whether the window has its frame by now, and all of it is on the screen."""
    outer = window.frameGeometry()
    room = window.screen().availableGeometry()
    return {"framed": outer.height() > window.height(), "inside": room.contains(outer), "outer": outer.getRect()}


def fitted(folder: Path, *size: int) -> dict[str, object]:
    """A window of a kept size."""
    app = make_app(["yellow-hinge"])
    window = MainWindow(Places(folder, folder), Settings(theme="light", window=size))
    window.show()
    QTest.qWait(1200)
    found = placed(window)
    window.close()
    app.processEvents()
    return found


def main(folder: Path) -> dict[str, object]:
    app = make_app(["yellow-hinge"])
    window = MainWindow(Places(folder, folder), Settings(theme="light"))
    window.show()
    window.activateWindow()
    QTest.qWaitForWindowActive(window)
    open_song(window, None, True)
    for _ in range(300):
        QTest.qWait(20)
        if window.desk.solution is not None:
            break
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Right)
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_K)
    QTest.qWait(600)
    canvas = window.home.view.map.canvas
    plate = canvas.scene.columns[2].plates[-1]
    start = QPoint(round(plate.x), round(plate.y))
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    for by in (6, 14, 22):
        QTest.mouseMove(canvas, QPoint(start.x(), start.y() + by), 30)
    tried = canvas.tried is not None
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Escape)
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_F)
    QTest.qWait(200)
    screen = app.primaryScreen().grabWindow(window.winId())
    found = {
        "platform": app.platformName(),
        "selected": window.desk.selection.index,
        "tried": tried,
        "fits": canvas.scene.width <= window.home.view.map.viewport().width() + 1,
        "undo": window.desk.document.history.undo_label,
        "sentence": window.keys.words.text(),
        **placed(window),
        "colors": len({screen.toImage().pixel(x, y) for x in range(0, 1000, 7) for y in range(0, 700, 7)}),
        "rescue": len(list((folder / "open").glob("*/song.hinge"))),
    }
    window.desk.document.saved = window.desk.state
    window.close()
    return found


if __name__ == "__main__":
    folder, *size = sys.argv[1:]
    print(json.dumps(fitted(Path(folder), *map(int, size)) if size else main(Path(folder))))
