"""What was just played becomes a take of the open song or a new one; nothing of it is left where nobody wants it."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.performances import perform
from tests.ui.conftest import settle
from yellow_hinge.app.edits.heard import NAME
from yellow_hinge.io.songs.demo import demo_song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.dialogs import heard_dialog
from yellow_hinge.ui.dialogs.heard_dialog import AS_SONG, AS_TAKE

pytestmark = pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
SONG = "kettle-on-the-stove"


def play(window, tones, begin=100.0):
    """Play notes on a simulated keyboard, at times that are told."""
    notes = window.live.notes
    events = sorted([(t.on, 1, t.midi, t.velocity) for t in tones] + [(t.off, 0, t.midi, 0) for t in tones])
    for at, down, midi, velocity in events:
        notes.message(bytes((0x90, midi, velocity if down else 0)), "test", begin + at)


@pytest.fixture
def open_song(window, qtbot):
    window.desk.document.open(song_file(demo_song(SONG)), None, "")
    settle(window, qtbot)
    return window


def acts(monkeypatch, *things):
    seen = []

    def exec_(dialog):
        dialog.show()
        QApplication.processEvents()
        seen.append((dialog.words.text(), {name: b.isEnabled() for name, b in dialog.buttons.items()}))
        for thing in things:
            thing(dialog)
        seen.append((dialog.words.text(), {}))

    monkeypatch.setattr(heard_dialog.HeardDialog, "exec", exec_)
    return seen


def press(key):
    return lambda dialog: QTest.keyClick(dialog, key)


def click(name):
    return lambda dialog: dialog.buttons[name].click()


def test_the_open_song_that_was_played_becomes_a_take_of_it(open_song, qtbot, monkeypatch):
    played = perform(SONG, "held", late=0.0, drift=0.0)
    seen = acts(monkeypatch, click(AS_TAKE))
    play(open_song, played.tones)
    before = open_song.desk.state
    open_song.actions_["take_played"].trigger()
    settle(open_song, qtbot)
    state = open_song.desk.state
    assert "of this song" in seen[0][0]
    assert [take.name for take in state.takes][-1] == NAME
    assert len(state.keeps) >= 0.7 * sum(len(bar.slots) for s in state.song.sections for bar in s.bars)
    struck = {tone.midi for tone in played.tones}
    assert all(set(keep.left) | set(keep.right) <= struck for keep in state.keeps)
    hands = {v.here.slot_id: v.both for v in open_song.desk.solution.voicings}
    assert sum(hands[k.slot] == (k.left, k.right) for k in state.keeps) >= 0.9 * len(state.keeps)
    open_song.desk.document.undo()
    assert open_song.desk.state == before


def test_something_else_becomes_a_song_and_keys_turn_its_beats(open_song, qtbot, monkeypatch):
    seen = acts(monkeypatch, press(Qt.Key.Key_M), press(Qt.Key.Key_Right), click(AS_SONG))
    monkeypatch.setattr(open_song.saving, "may_leave", lambda: True)
    play(open_song, perform("pop", "eighths").tones)
    open_song.hearing.take_played()
    settle(open_song, qtbot)
    assert seen[0][1] == {AS_TAKE: False, AS_SONG: True, "Cancel": True}
    assert seen[0][0] != seen[1][0]
    assert open_song.desk.song.title == "As played"
    assert open_song.desk.state.keeps


def test_the_simulated_player_is_heard_as_the_song_that_it_plays(open_song, monkeypatch):
    seen = acts(monkeypatch, press(Qt.Key.Key_Escape))
    open_song.actions_["take_example"].trigger()
    assert "of this song" in seen[0][0]


def test_nothing_is_left_of_it_where_it_is_put_away_and_nothing_played_is_said(open_song, monkeypatch):
    acts(monkeypatch, press(Qt.Key.Key_Escape))
    before = open_song.desk.state
    open_song.hearing.take_played()
    assert "Nothing was played yet" in open_song.teller.line.text()
    play(open_song, perform("pop", "eighths").tones[:12])
    open_song.hearing.take_played()
    assert open_song.desk.state == before


def test_only_what_was_played_after_the_last_rest_is_taken(open_song):
    play(open_song, perform("pop", "eighths").tones, 10.0)
    tones = perform("hymn", "held", late=0.0).tones
    play(open_song, tones, 300.0)
    captured = open_song.hearing.capture.played()
    assert len(captured.tones) == len(tones)
    assert captured.tones[0].on == 0.0
