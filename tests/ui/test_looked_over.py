"""The report of an opened file: what a reader had to choose is chosen otherwise with one click or one key."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.io.test_corpus import CORPUS
from yellow_hinge.ui.dialogs import looked_over
from yellow_hinge.ui.dialogs.looked_over import LookedOver
from yellow_hinge.ui.paint.popups import ListBox

pytestmark = pytest.mark.qt_log_ignore("This plugin does not support", extend=True)


def answers(monkeypatch, *acts):
    """Act on the reports that come, one after the other; those after the last act are only read."""
    shown = []

    def exec_(dialog):
        dialog.show()
        QApplication.processEvents()
        shown.append(dialog._offers)
        if len(shown) <= len(acts):
            acts[len(shown) - 1](dialog)

    monkeypatch.setattr(looked_over.LookedOver, "exec", exec_)
    return shown


def pick(name, words):
    def act(dialog):
        offer = next(offer for offer in dialog._offers if offer.name == name)
        box = dialog.findChildren(ListBox)[dialog._offers.index(offer)]
        box.setCurrentIndex(box.findText(words))
        box.activated.emit(box.currentIndex())

    return act


def press(key):
    return lambda dialog: QTest.keyClick(dialog, key)


def bars(window):
    song = window.desk.document.state.song
    return [[slot.symbol for slot in bar.slots] for section in song.sections for bar in section.bars]


def test_bars_a_line_are_set_by_one_key(window, monkeypatch):
    shown = answers(monkeypatch, press(Qt.Key.Key_1))
    assert window.files.open_path(CORPUS / "pasted" / "title-only.txt")
    assert bars(window) == [["C", "F"], ["G", "C"]]
    assert [dict((o.id, o.chosen) for o in offers) for offers in shown] == [{"bars": "0"}, {"bars": "1"}]


def test_the_tune_is_taken_from_another_part(window, monkeypatch):
    answers(monkeypatch, pick("Tune", "Bass"))
    assert window.files.open_path(CORPUS / "scores" / "mid-chord-part.musicxml")
    tune = [
        tone.pitch for section in window.desk.document.state.song.sections for bar in section.bars for tone in bar.tune
    ]
    assert tune == ["C3", "F3", "G3"]


@pytest.mark.parametrize(("name", "words", "wanted"), [
    ("A chord lasts at least", "a bar", 3), ("Bar one begins on", "beat 3 of the file", 4)])  # fmt: skip
def test_grid_and_bar_one_of_a_midi_file_are_chosen(window, monkeypatch, name, words, wanted):
    shown = answers(monkeypatch, pick(name, words))
    assert window.files.open_path(CORPUS / "midi" / "beat-by-beat.mid")
    assert len(bars(window)) == wanted
    assert all(len(bar) == 1 for bar in bars(window)) == (name == "A chord lasts at least")
    assert len(shown) == 2


def test_the_words_of_another_verse_are_read(window, monkeypatch):
    answers(monkeypatch, pick("Words of verse", "3"))
    assert window.files.open_path(CORPUS / "scores" / "three-verses.musicxml")
    song = window.desk.document.state.song
    assert [slot.cue for section in song.sections for bar in section.bars for slot in bar.slots] == ["Night is", "done"]


def test_one_of_several_songs_is_chosen(window, monkeypatch):
    answers(monkeypatch, pick("Song", "Second Song"))
    assert window.files.open_path(CORPUS / "chordpro" / "new-song.cho")
    assert window.desk.document.state.song.title == "Second Song"


def test_good_changes_nothing(window, monkeypatch):
    shown = answers(monkeypatch, press(Qt.Key.Key_Return))
    assert window.files.open_path(CORPUS / "pasted" / "title-only.txt")
    assert len(shown) == 1
    assert len(bars(window)) == 4


def test_all_of_the_report_can_be_read(window):
    dialog = LookedOver(window, "x.txt", tuple(f"line {n} of what was found, which is long" for n in range(60)), (), ())
    dialog.show()
    QApplication.processEvents()
    assert dialog.height() < 620
    dialog.close()
