"""What a player waits for in the window: painting the map, and an edit until its new hands are on screen."""

from __future__ import annotations

import statistics
import tempfile
import time
from pathlib import Path

from PySide6.QtCore import QPoint
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from benchmarks.songs import song_like_chart
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.ui.shell.start import make_app
from yellow_hinge.ui.shell.window import MainWindow


def _until_solved(app: QApplication, window: MainWindow) -> None:
    desk = window.desk
    for _ in range(20_000):
        app.processEvents()
        if desk.solution is not None and desk.answers.state is desk.state:
            return
        time.sleep(0.0002)
    raise RuntimeError("never solved")


def _painted(window: MainWindow, runs: int = 15) -> float:
    """Median milliseconds of painting what the map's viewport shows."""
    view = window.home.view.map
    image = QImage(view.viewport().size(), QImage.Format.Format_ARGB32_Premultiplied)
    found = []
    for _ in range(runs):
        started = time.perf_counter()
        view.viewport().render(image, QPoint())
        found.append(time.perf_counter() - started)
    return statistics.median(found) * 1e3


def window_figures() -> dict[str, float]:
    """Milliseconds: "paint" and "paint fitted" of 200 chords, "edit" and "bass" at 64 chords."""
    app = QApplication.instance() or make_app(["bench"])
    folder = Path(tempfile.mkdtemp())
    window = MainWindow(Places(folder, folder), Settings(theme="light", hands_offered=True))
    window.show()
    window.desk.type_text(song_like_chart(200))
    _until_solved(app, window)
    found = {"paint": _painted(window)}
    window.home.view.map.fit()
    found["paint fitted"] = _painted(window)
    window.home.view.map.fit()
    window.desk.type_text(song_like_chart(64))
    _until_solved(app, window)
    edits = []
    for word in ("Ebm9", "F#7b9", "Bbmaj7", "Ab13", "C#m7b5", "Gsus4", "Eb6"):
        lines = window.desk.state.text.split("\n")
        lines[-30] = f"| {word} |"
        started = time.perf_counter()
        window.desk.type_text("\n".join(lines))
        _until_solved(app, window)
        app.processEvents()
        edits.append(time.perf_counter() - started)
    found["edit"] = statistics.median(edits) * 1e3
    window.desk.document.saved = window.desk.state
    window.close()
    return found
