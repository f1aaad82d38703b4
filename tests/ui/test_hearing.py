"""What was just played becomes a take of the open song or a new one; nothing of it is left where nobody wants it."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.performances import perform
from tests.ui.conftest import settle
from yellow_hinge.app.edits.heard import NAME
from yellow_hinge.core.hearing.strikes import Tone
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.io.songs.demo import demo_song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.dialogs import heard_dialog
from yellow_hinge.ui.dialogs.heard_dialog import AGAIN, AS_SONG, AS_TAKE

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
    (own,) = state.playing.patterns  # and in the rhythm in which they were played
    assert (own.name, own.right) == (NAME, "0/4 all")
    assert [wish.pattern for wish in state.playing.wishes] == [own.id]
    open_song.desk.document.undo()
    assert open_song.desk.state == before


def test_something_else_becomes_a_song_and_keys_turn_its_beats(open_song, qtbot, monkeypatch):
    seen = acts(monkeypatch, press(Qt.Key.Key_M), press(Qt.Key.Key_Right), click(AS_SONG))
    monkeypatch.setattr(open_song.saving, "may_leave", lambda: True)
    play(open_song, perform("pop", "eighths").tones[:150])
    open_song.hearing.take_played()
    settle(open_song, qtbot)
    assert seen[0][1] == {AS_TAKE: False, AS_SONG: True, AGAIN: True, "Cancel": True}
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
    play(open_song, perform("pop", "eighths").tones[:60], 10.0)
    tones = perform("hymn", "held", late=0.0).tones
    play(open_song, tones, 300.0)
    captured = open_song.hearing.capture.played()
    assert len(captured.tones) == len(tones)
    assert captured.tones[0].on == 0.0


def test_what_was_played_is_sounded_again_over_its_beats_until_the_dialog_closes(open_song, qtbot, monkeypatch):
    def sounded(count):
        return lambda _: qtbot.waitUntil(lambda: len(open_song.output.started) == count)

    acts(monkeypatch, sounded(1), press(Qt.Key.Key_H), sounded(2), press(Qt.Key.Key_Escape))
    tones = perform(SONG, "held", late=0.0, drift=0.0).tones
    play(open_song, tones)
    open_song.hearing.take_played()
    first, second = ([n for n in score.notes if n.part == "click"] for score in open_song.output.started)
    assert len(first) > 1.8 * len(second) > 4
    hands = [(n.start, n.midi) for n in open_song.output.started[0].notes if n.part != "click"]
    assert hands == sorted((round((t.on - tones[0].on) * 48_000), t.midi) for t in tones)
    assert not open_song.listening.player.playing


def test_a_doubtful_chord_is_dotted_and_named_otherwise_and_a_bass_player_can_be_told(open_song, monkeypatch):
    def look(dialog):
        for button, chord in zip(dialog.chords, dialog.heard.chords, strict=True):
            assert ("dotted" in button.styleSheet()) == chord.chord.doubtful
        place = next(n for n, chord in enumerate(dialog.heard.chords) if chord.chord.others)
        other = dialog.heard.chords[place].chord.others[0]
        dialog.chords[place].menu().actions()[0].trigger()
        assert dialog.heard.chords[place].chord.symbol == other
        assert not dialog.heard.chords[place].chord.doubtful

    def bass(dialog):
        told, theirs = [chord.chord.symbol for chord in dialog.heard.chords], dialog.asked.theirs
        QTest.keyClick(dialog, Qt.Key.Key_B)
        assert dialog.asked.theirs is not theirs
        assert [chord.chord.symbol for chord in dialog.heard.chords] != told

    acts(monkeypatch, look, bass, press(Qt.Key.Key_Escape))
    tones = [tone for tone in perform("pop", "held").tones if tone.midi >= 52]  # without its roots
    play(open_song, tones)
    open_song.hearing.take_played()


def test_the_top_line_becomes_the_tune_of_a_new_song_where_that_is_asked(open_song, qtbot, monkeypatch):
    acts(monkeypatch, press(Qt.Key.Key_T), click(AS_SONG))
    monkeypatch.setattr(open_song.saving, "may_leave", lambda: True)
    played = perform("pop", "held", late=0.0, drift=0.0)
    play(open_song, played.tones)
    open_song.hearing.take_played()
    settle(open_song, qtbot)
    tune = [tone.pitch for section in open_song.desk.song.sections for bar in section.bars for tone in bar.tune]
    tops = {tone.midi for tone in played.tones}
    assert len(tune) >= 12
    assert {parse_pitch(name).midi for name in tune if name} <= tops


def test_played_again_what_was_played_before_is_forgotten(open_song, monkeypatch):
    acts(monkeypatch, click(AGAIN))
    play(open_song, perform("pop", "eighths").tones[:150])
    open_song.hearing.take_played()
    open_song.hearing.take_played()
    assert "Nothing was played yet" in open_song.teller.line.text()


def test_stiff_hinges_of_what_was_played_are_offered_to_be_improved(window, qtbot):
    desk = window.desk
    desk.selection.go(0)
    hands = [
        (v.left, tuple(m + (12 if n % 2 else 0) for m in v.right)) for n, v in enumerate(desk.solution.voicings[:4])
    ]
    times = (0.0, 1.0, 2.7, 3.3)  # in no time at all
    tones = [
        Tone(at, at + 0.5, midi, 70) for at, both in zip(times, hands, strict=True) for midi in (*both[0], *both[1])
    ]
    play(window, tones)
    window.actions_["enter_played"].trigger()
    settle(window, qtbot)
    assert [sorted((*k.left, *k.right)) for k in desk.state.keeps] == [sorted((*a, *b)) for a, b in hands]
    assert desk.document.history.undo_label == "enter my hands by playing"
    news = window.teller.news
    assert "stiff in what you played" in news.words.text()
    kept = len(desk.state.keeps)
    next(button for button in news.buttons if button.text() == "Improve").click()
    settle(window, qtbot)
    assert 0 < len(desk.state.keeps) < kept
    play(window, [Tone(0.0, 0.4, 60, 60), Tone(0.5, 0.9, 65, 60)], 900.0)
    window.desk.selection.go(0)
    window.actions_["enter_played"].trigger()
    assert "is not these chords" in window.teller.line.text()
