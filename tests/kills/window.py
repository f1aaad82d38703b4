"""A window that edits without a pause until it is killed, run by `tests.kills.run` on a screen of its own.

`python -m tests.kills.window FOLDER LOG SEED WHAT`: opens what was left behind in FOLDER, then types, drags plates or
takes swaps (WHAT) with real events, and writes a line to LOG after every edit: when, and what there is to lose.
"""

import hashlib
import os
import random
import sys
import time
from pathlib import Path

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.io.songs.demo import demo_text
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.shell.start import make_app, open_song
from yellow_hinge.ui.shell.window import MainWindow
from yellow_hinge.ui.swaps.room import SWAPS

Key = Qt.Key
TYPED = ("| C | ", "Am7 ", "D7 ", "| G | ", "Qx ", "F#m7b5 | B7 | ", "/ ", "\n", "[New]\n| Eb | ", "cue: | la |\n")


def token(text: str, keeps: tuple[Keep, ...]) -> str:
    """What there is to lose, in short."""
    return hashlib.sha256(f"{text}\0{keeps}".encode("utf-8", "surrogatepass")).hexdigest()[:16]


class Player:
    """Edits a window as fast as it goes."""

    def __init__(self, window: MainWindow, log: int, chance: random.Random) -> None:
        self.window, self.log, self.chance = window, log, chance
        self.last = ""

    def note(self) -> None:
        """Log what there is now."""
        desk = self.window.desk
        now = token(desk.document.typed, desk.state.keeps)
        if now != self.last:
            self.last = now
            os.write(self.log, f"{time.time():.4f} {now}\n".encode())

    def solved(self) -> None:
        """Wait until there are hands to work with."""
        for _ in range(400):
            if self.window.desk.solved and not self.window.desk.answers.solving:
                return
            QTest.qWait(10)

    def typing(self) -> None:
        """Into the chart, letter by letter."""
        if self.window.rooms.now_handle.id != "chart":
            self.window.rooms.show_room(CHART)
            self.window.rooms.room(CHART).view.editor.selectAll()
        for sign in self.chance.choice(TYPED):
            QTest.keyClicks(self.window.rooms.room(CHART).view.editor, sign) if sign != "\n" else QTest.keyClick(
                self.window.rooms.room(CHART).view.editor, Key.Key_Return
            )
            self.note()
        QTest.qWait(1)

    def dragging(self) -> None:
        """A plate of the map to another pitch, or a chord kept or let go."""
        self.solved()
        desk, canvas = self.window.desk, self.window.home.view.map.canvas
        if canvas.scene is None or self.chance.random() < 0.4:
            desk.selection.go(self.chance.randrange(12))
            QTest.keyClick(
                QApplication.focusWidget() or self.window, self.chance.choice((Key.Key_K, Key.Key_H, Key.Key_Down))
            )
            self.note()  # what is kept is an edit by itself, and may be what is left
            QTest.keyClick(QApplication.focusWidget() or self.window, Key.Key_Return)
        else:
            plates = canvas.scene.columns[min(desk.selection.index, len(canvas.scene.columns) - 1)].plates
            plate = self.chance.choice(plates)
            start = QPoint(round(plate.x), round(plate.y))
            QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
            for by in (8, 16, 24):
                QTest.mouseMove(canvas, start + QPoint(0, self.chance.choice((-by, by))), 2)
            QTest.mouseRelease(
                canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(0, self.chance.choice((-24, 24, 12)))
            )
        QTest.qWait(5)
        self.note()

    def swapping(self) -> None:
        """Another chord for one of the song's, undone now and then."""
        self.solved()
        desk, window = self.window.desk, self.window
        if self.chance.random() < 0.2:
            desk.document.undo()
        else:
            desk.selection.go(self.chance.randrange(16))
            window.rooms.show_room(SWAPS)
            for _ in range(200):
                if window.rooms.room(SWAPS).view.swaps.count():
                    break
                QTest.qWait(10)
            for _ in range(self.chance.randrange(4)):
                window.rooms.now.step(1)
            window.rooms.now.take()
        QTest.qWait(5)
        self.note()


def main(folder: Path, log: Path, seed: str, what: str) -> None:
    make_app(["yellow-hinge"])
    window = MainWindow(Places(folder, folder), Settings(theme="light", hands_offered=True))
    window.show()
    QTest.qWaitForWindowExposed(window)
    open_song(window, None, True)
    player = Player(window, os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND), random.Random(seed))
    player.note()
    if what != "typing":  # with a whole chart
        window.desk.type_text(demo_text("last-boat-to-marrow") + "\n[Tag]\n| E | A |\n")
        player.note()
    while True:
        getattr(player, what)()


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]), *sys.argv[3:])
