"""A window on a made-up user's folders, with an output that remembers what it was given."""

import time
from functools import cache

import pytest
from PySide6.QtWidgets import QDialog, QFileDialog, QMessageBox

from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.io.songs.demo import FIRST, demo_song, demo_text
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.paper.fonts import load_fonts
from yellow_hinge.sound.instruments import Instruments
from yellow_hinge.ui.shell import showing
from yellow_hinge.ui.shell.window import MainWindow


class Output:
    """Remembers the scores it was given; `pull` plays some of the last one, as a device would."""

    def __init__(self):
        self.available, self.started, self.stopped, self._frames = True, [], 0, None

    def load(self):
        """Nothing is loaded."""

    def start(self, frames):
        self.started.append(frames.score)
        self._frames = frames

    def pull(self, count):
        """So many frames, as fast as they are mixed."""
        goal = self._frames.played + count
        while self._frames.played < goal and not self._frames.over:
            self._frames.pull(min(1024, goal - self._frames.played))
            time.sleep(0.001)

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


@pytest.fixture(scope="session", autouse=True)
def _one_store_of_tables():
    """What one window's worker made serves the next window's: a store holds nothing that is not made from its key."""
    free, begin, close = {}, Newest.__init__, Newest.close

    def with_tables(self, tell, name):
        begin(self, tell, name)
        found = free.pop(name, self._builder)
        found.overtaken, found.last, self._builder = self._builder.overtaken, None, found

    def given_back(self):
        close(self)
        free[self._name] = self._builder

    Newest.__init__, Newest.close = with_tables, given_back
    yield
    Newest.__init__, Newest.close = begin, close


@pytest.fixture(scope="session", autouse=True)
def _one_set_of_recordings():
    """What one window has read of the piano is there for the next: a recording never changes."""
    begin, shared = Instruments.__init__, Instruments()

    def with_recordings(self):
        begin(self)
        self._recorded, self._notes, self._lock = shared._recorded, shared._notes, shared._lock

    Instruments.__init__ = with_recordings
    yield
    Instruments.__init__ = begin


@pytest.fixture(scope="session", autouse=True)
def _notes_are_read_when_they_are_played():
    """No test waits long enough to have use of notes that are read beforehand."""
    usual, showing.READING_MS = showing.READING_MS, 60_000
    yield
    showing.READING_MS = usual


@cache
def first_song():
    """The main demo song as it is opened from its chart, without its takes."""
    return song_file(demo_song(FIRST)), None, demo_text(FIRST)


@pytest.fixture
def make_window(qtbot, qapp, tmp_path):
    load_fonts()
    made = []

    def make(**settings):
        window = MainWindow(
            Places(tmp_path / "config", tmp_path / "state"), Settings(**({"theme": "light"} | settings))
        )
        window.output = window.listening.player._output = Output()
        made.append(window)
        window.show()
        return window

    yield make
    for window in made:
        window.desk.document.saved = window.desk.state  # nothing to ask about
        window.close()
        window.deleteLater()
    qapp.processEvents()


@pytest.fixture
def window(make_window, qtbot):
    """A window on the chart of the main demo song, without its takes."""
    found = make_window()
    found.desk.document.open(*first_song())
    settle(found, qtbot)
    return found


def settle(window, qtbot):
    """Wait until the desk's song is solved."""
    desk = window.desk

    def solved():
        assert desk.solution is not None
        assert desk.answers.state.question == desk.state.question
        assert not window.home.view.options.pending

    qtbot.waitUntil(solved, timeout=40_000)
