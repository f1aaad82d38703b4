"""The longest stretch of the interface thread, in its processor time, for what a player does: at several lengths of song.

`python -m benchmarks.stretches [CHORDS ...]` prints the table.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import QEvent, QObject, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from benchmarks.songs import song_like_chart
from tools.offscreen import PLATFORM
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.io.songs.song_json import song_file, to_json
from yellow_hinge.paper.fonts import load_fonts
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.loading import load_next, look_up_first, modules_of
from yellow_hinge.ui.shell.start import collect
from yellow_hinge.ui.shell.table import ROOMS
from yellow_hinge.ui.shell.window import MainWindow

LENGTHS = (64, 200, 1000, 2000)
# At 1000 chords: what is wanted, in milliseconds; at 2000 twice that.
WANTED = {"a key in the chart": 25, "select": 16, "take": 25, "drag": 16, "undo": 40, "open": 60}
OTHERWISE = 50


class Watched(QApplication):
    """Keeps the longest time that one event took, with all that it led to at once."""

    def __init__(self) -> None:
        super().__init__([])
        self.longest, self._depth = 0.0, 0

    def notify(self, receiver: QObject, event: QEvent) -> bool:
        if self._depth:
            return super().notify(receiver, event)
        self._depth, before = 1, time.thread_time()
        try:
            return super().notify(receiver, event)
        finally:
            self._depth = 0
            self.longest = max(self.longest, time.thread_time() - before)

    def stretch(self, do: Callable[[], object], until: Callable[[], bool]) -> float:
        """Milliseconds of the longest stretch while something is done, until all that follows from it is."""
        self.longest, before = 0.0, time.thread_time()
        do()
        self.longest = time.thread_time() - before
        for _ in range(4000):
            QTest.qWait(5)
            if until():
                break
        QTest.qWait(400)  # what comes a little later
        return self.longest * 1e3


def figures(app: Watched, chords: int) -> dict[str, float]:
    """The longest stretches of everything that a player does with a song of so many chords, in milliseconds."""
    folder = Path(tempfile.mkdtemp())
    path = folder / "song.hinge"
    path.write_bytes(to_json(song_file(parse_chart(song_like_chart(chords)))))
    window = MainWindow(Places(folder, folder), Settings(theme="light", hands_offered=True))
    window.show()
    QTest.qWait(1500)
    names = modules_of(room.make.__module__.rpartition(".")[0] for room in ROOMS)
    while load_next(names) or window.rooms.make_next():  # as the program does while nothing else is to be done
        QTest.qWait(1)
    look_up_first()
    collect()
    desk = window.desk

    def solved() -> bool:
        return (
            desk.solution is not None
            and desk.answers.state.question == desk.state.question
            and not window.home.view.options.pending
        )

    found = {"open": app.stretch(lambda: window.files.open_path(path), solved)}

    def did(name: str, do: Callable[[], Any]) -> None:
        found[name] = app.stretch(do, solved)

    did("select", lambda: desk.selection.go(chords // 2))
    did("select again", lambda: desk.selection.go(chords // 2 + 1))
    option = desk.selection.options()[1]
    did("take", lambda: desk.take(option))
    did("undo", desk.document.undo)
    canvas = window.home.view.map.canvas
    index = desk.selection.index
    plate = canvas.scene.columns[index].plates[-1]
    start = QPointF(plate.x, plate.y)

    def drag() -> None:
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start.toPoint())
        QTest.mouseMove(canvas, (start - QPointF(0, 2 * canvas.scene.step)).toPoint())

    did("drag", drag)
    did("leave", window.home.leave)
    did("manner", lambda: window.header.choose_manner("gospel", "manner"))
    did("undo a manner", desk.document.undo)
    for room in ROOMS:
        did(f"{room.id} first", lambda room=room: window.rooms.show_room(room))
        did(f"{room.id} again", lambda room=room: (window.rooms.show_room(ROOMS[1]), window.rooms.show_room(room)))
    window.rooms.show_room(CHART)
    QTest.qWait(300)
    editor = window.rooms.room(CHART).view.editor
    cursor = editor.textCursor()
    cursor.setPosition(len(editor.toPlainText()) // 2)
    editor.setTextCursor(cursor)
    did("a key in the chart", lambda: QTest.keyClicks(editor, " "))
    window.rooms.show_room(ROOMS[1])
    did("play", lambda: window.actions_["play"].trigger())
    window.listening.stop()
    desk.document.saved = desk.state
    window.close()
    window.deleteLater()
    return found


def wanted(name: str, chords: int) -> float | None:
    """What is wanted at so many chords, in milliseconds; None where nothing was said."""
    at_1000 = WANTED.get(name.removesuffix(" again").removesuffix(" a manner"), OTHERWISE)
    return {1000: float(at_1000), 2000: 2.0 * at_1000}.get(chords)


def main(lengths: tuple[int, ...]) -> None:
    """Print the table in Markdown; a figure over what is wanted is in bold."""
    app = Watched()
    load_fonts()
    table = {chords: figures(app, chords) for chords in lengths}
    print(f"| longest stretch of the interface thread, ms of its processor time | {' | '.join(map(str, lengths))} |")
    print("|---|" + "---|" * len(lengths))
    for name in table[lengths[0]]:
        cells = []
        for chords in lengths:
            found, most = table[chords][name], wanted(name, chords)
            cells.append(f"{found:.0f}" if most is None or found <= most else f"**{found:.0f}** (wanted {most:.0f})")
        print(f"| {name} | {' | '.join(cells)} |")


if __name__ == "__main__":
    os.environ["QT_QPA_PLATFORM"] = PLATFORM
    main(tuple(map(int, sys.argv[1:])) or LENGTHS)
    os._exit(0)
