"""A window on a made-up user's folders, with a silent output that remembers what it was given."""

import pytest
from PySide6.QtWidgets import QDialog, QFileDialog, QMessageBox

from yellow_hinge.app.keeping import Places, Settings
from yellow_hinge.ui.theme import load_fonts
from yellow_hinge.ui.window import MainWindow


class SilentOutput:
    def __init__(self):
        self.started, self.stopped = [], 0

    def start(self, pcm):
        self.started.append(pcm)

    def stop(self):
        self.stopped += 1


@pytest.fixture(autouse=True)
def _no_unasked_dialog(monkeypatch):
    """A dialog that no test answers would stand there for ever: it fails instead."""

    def stand_still(*words, **_):
        raise AssertionError(f"a dialog that nobody answers: {words[:3]}")

    for kind, names in (
        (QMessageBox, ("exec", "warning", "critical", "information", "question")),
        (QFileDialog, ("getOpenFileName", "getSaveFileName")),
        (QDialog, ("exec",)),
    ):
        for name in names:
            monkeypatch.setattr(kind, name, stand_still)


@pytest.fixture
def make_window(qtbot, qapp, tmp_path):
    load_fonts()
    made = []

    def make(**settings):
        window = MainWindow(
            Places(tmp_path / "config", tmp_path / "state"), Settings(**({"theme": "light"} | settings))
        )
        window.output = SilentOutput()
        window.listening.player._make_output = lambda: window.output
        made.append(window)
        window.show()
        return window

    yield make
    for window in made:
        window.desk.saved = window.desk.state  # nothing to ask about
        window.close()
        window.deleteLater()
    qapp.processEvents()


@pytest.fixture
def window(make_window, qtbot):
    found = make_window()
    found.files.open_demo()
    settle(found, qtbot)
    return found


def settle(window, qtbot):
    """Wait until the desk's song is solved."""
    desk = window.desk

    def solved():
        assert desk.solution is not None
        assert (desk.solved_state.song, desk.solved_state.setup, desk.solved_state.keeps) == (
            desk.state.song, desk.state.setup, desk.state.keeps,
        )  # fmt: skip
        assert not window.hinges.options.pending

    qtbot.waitUntil(solved, timeout=10_000)
