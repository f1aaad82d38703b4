"""What comes back at the next start, and what every room shows of a song that has nothing in it."""

import sys

import msgspec
import pytest
from PySide6.QtWidgets import QAbstractButton, QToolButton

from tests.ui.conftest import settle
from yellow_hinge.app.keeping.settings import load_settings
from yellow_hinge.ui.shell import start
from yellow_hinge.ui.shell.table import ROOMS

# What is done, and what of the next window tells that it came back.
DONE = {
    "theme": (lambda w: w.actions_["dark"].trigger(), lambda w: w.look.theme.name),
    "view": (lambda w: w.actions_["view_chart"].trigger(), lambda w: w.rooms.now_handle.id),
    "keys": (lambda w: w.actions_["fold_keys"].trigger(), lambda w: dict(w.preferences.settings.keyboards)),
    "labels": (lambda w: w.actions_["labels"].trigger(), lambda w: w.home.view.map.canvas.labels),
    "zoom": (lambda w: w.home.view.map.zoom(-2), lambda w: w.home.view.map.column_w),
    "names": (lambda w: w.actions_["simple"].trigger(), lambda w: w.desk.simple_names),
    "heard": (lambda w: w.actions_["hear_click"].trigger(), lambda w: w.listening.heard.click),
    "size": (lambda w: w.resize(1100, 720), lambda w: (w.width(), w.height())),
    "manner": (lambda w: w.header.choose_manner("hymn", "hymn"), lambda w: w.preferences.settings.manner),
    "welcome": (lambda w: w.welcome.put_away(), lambda w: w.welcome.isHidden()),
    "chord": (lambda w: w.desk.selection.go(4), lambda w: w.desk.selection.index),
    "file": (lambda w: None, lambda w: w.desk.document.path),
    "last": (lambda w: None, lambda w: w.files.last_songs()),
}


def test_everything_comes_back_at_the_next_start(window, make_window, qtbot, tmp_path):
    before = {name: tell(window) for name, (_, tell) in DONE.items()}
    window.saving._save_to(tmp_path / "evening.hinge")
    for do, _ in DONE.values():
        do(window)
    settle(window, qtbot)
    window.desk.document.save(tmp_path / "evening.hinge")
    there = {name: tell(window) for name, (_, tell) in DONE.items()}
    assert not {name for name in DONE if there[name] == before[name]} - {"last"}
    window.close()
    again = make_window(
        **{name: getattr(load_settings(window.places), name) for name in load_settings(window.places).__struct_fields__}
    )
    start.open_song(again, None, False)
    settle(again, qtbot)
    assert {name: tell(again) for name, (_, tell) in DONE.items()} == there
    assert msgspec.structs.asdict(again.preferences.settings)["recent"] == (str(tmp_path / "evening.hinge"),)


@pytest.mark.parametrize("room", ROOMS, ids=lambda room: room.id)
def test_an_empty_song_has_nothing_in_any_room_and_no_button_does_harm(make_window, qtbot, room, monkeypatch):
    for way in ("file_to_open", "file_to_write", "choose", "name"):
        monkeypatch.setattr(
            f"yellow_hinge.ui.dialogs.asking.{way}", lambda *_, way=way: ("", "") if way == "file_to_write" else ""
        )
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.folder", lambda *_: None)
    window = make_window(hands_offered=True)
    window.files.new()
    window.desk.type_text("")
    assert "demo song" in window.teller.line.text()
    window.rooms.show_room(room)
    view = window.rooms.room(room).view
    for button in view.findChildren(QAbstractButton):
        opens = isinstance(button, QToolButton) and button.menu() is not None
        if button.isVisible() and button.isEnabled() and not opens:
            button.click()
    assert window.desk.state.emptied
    assert window.desk.solution is None
    assert window.home.view.map.canvas.scene is None
    window.grab()


def test_what_every_room_needs_is_loaded_and_rooms_are_made_while_nothing_else_is_to_be_done(window, qtbot):
    state, now = window.desk.state, window.rooms.now_handle
    loading = start.LoadingOn(window)
    loading.setInterval(0)
    loading.start()
    qtbot.waitUntil(lambda: not loading.isActive(), timeout=20_000)  # a fault would reach the test
    folders = {room.make.__module__.rpartition(".")[0] for room in ROOMS}
    assert len(folders) == len(ROOMS)
    assert all(f"{folder}.view" in sys.modules for folder in folders)
    assert len(window.rooms.views()) == len([room for room in ROOMS if room.ahead]) == len(ROOMS) - 1
    assert (window.desk.state, window.rooms.now_handle) == (state, now)
    assert [view.isVisible() for view in window.rooms.views()].count(True) == 1
    window.desk.type_text("title: A\nkey: C\n| C | Am7 | G7 | C |")
    settle(window, qtbot)
    for room in ROOMS:  # what was made before is what is shown
        window.rooms.show_room(room)
        settle(window, qtbot)
        window.grab()
