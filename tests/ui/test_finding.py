"""What players type into the box is found: keys, how far, bars, tempo, chords, words and notes; or it is said."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.ui.conftest import settle
from yellow_hinge.app.desk.finding import key_said

Key, CTRL = Qt.Key, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def typed(window, qtbot):
    window.activateWindow()
    qtbot.waitActive(window)
    window.home.view.setFocus()

    def type_in(words, key=Key.Key_K):
        QTest.keyClick(QApplication.focusWidget(), key, CTRL)
        window.drawers.box.line.insert(words)
        rows = window.drawers.box.list
        return [rows.item(n).text() for n in range(rows.count())]

    return type_in


def enter(window, qtbot):
    QTest.keyClick(window.drawers.box.line, Key.Key_Return)
    settle(window, qtbot)


@pytest.mark.parametrize(("words", "key"), [
    ("Eb major", "Eb major"), ("E flat", "Eb major"), ("e-flat minor", "Eb minor"), ("in G", "G major"),
    ("f sharp minor", "F# minor"), ("Bb", "Bb major"), ("B♭", "Bb major"), ("transpose to A", "A major"),
])  # fmt: skip
def test_keys_are_read_as_players_say_them(words, key):
    assert str(key_said(words)) == key


@pytest.mark.parametrize("words", ["h", "bar", "flat", "keep", "Abc", "e flat major seven", ""])
def test_what_is_no_key_is_none(words):
    assert key_said(words) is None


def test_a_key_and_a_way_are_one_edit(window, qtbot, typed):
    assert "E♭" in typed("E flat")[0]
    enter(window, qtbot)
    assert window.desk.state.song.key == "Eb major"
    typed("up two")
    enter(window, qtbot)
    assert window.desk.state.song.key == "F major"
    typed("tempo 96")
    enter(window, qtbot)
    assert window.desk.state.song.tempo == 96


def test_bars_are_gone_to_marked_and_looped(window, qtbot, typed):
    assert typed("bar 12")[0].startswith("Go to bar 12")
    enter(window, qtbot)
    assert window.desk.selection.moment.bar == 11
    typed("loop 5-8")
    enter(window, qtbot)
    marked = window.desk.selection.marked
    assert [window.desk.solution.voicings[n].here.bar for n in (marked[0], marked[-1])] == [4, 7]
    assert window.listening.player.playing
    window.listening.stop()


@pytest.mark.parametrize(("words", "symbol", "why"), [
    ("am6", "Am6", "the chord"), ("railing", "F#m7", "words"), ("G#4", "E", "in the tune"), ("C♯m7", "C#m7", "the chord"),
])  # fmt: skip
def test_chords_words_and_notes_are_found_in_the_song(window, qtbot, typed, words, symbol, why):
    rows = typed(words, Key.Key_F)
    assert why in rows[0]
    enter(window, qtbot)
    assert window.desk.selection.moment.symbol == symbol


def test_where_nothing_is_found_that_is_said_and_nothing_is_done(window, qtbot, typed):
    before = window.desk.state
    for words, key in (("xyzzy", Key.Key_K), ("Gb13", Key.Key_F)):
        rows = typed(words, key)
        assert len(rows) == 1
        assert f"answers to “{words}”" in rows[0]
        enter(window, qtbot)
        assert window.drawers.box.isVisible()
        QTest.keyClick(window.drawers.box.line, Key.Key_Escape)
    assert window.desk.state is before
