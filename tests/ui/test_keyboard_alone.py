"""The whole program by keyboard alone: a new song, its chart, hands, a way, keeps, a swap, another key, an export, saving
and opening again. After every key only what was meant has changed.
"""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMessageBox

from tests.ui.conftest import settle
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog
from yellow_hinge.ui.swaps.room import SWAPS

Key, Mod = Qt.Key, Qt.KeyboardModifier
CTRL, SHIFT, NONE = Mod.ControlModifier, Mod.ShiftModifier, Mod.NoModifier


class Keyboard:
    """Presses keys where the focus is; what may change is said with each."""

    def __init__(self, window, qtbot):
        self.window, self.qtbot = window, qtbot
        window.activateWindow()
        window.setFocus()

    def everything(self):
        """All that a key may change, by name."""
        w, state = self.window, self.window.desk.state
        return {
            "song": state.song, "text": state.text, "asked": state.setup, "keeps": state.keeps, "playing": state.playing,
            "takes": (state.take, state.others, state.mix), "chord": w.desk.selection.index, "view": w.rooms.now_handle.id,
            "sound": w.listening.player.playing, "heard": w.listening.heard, "page": w.home.view.side.page,
            "labels": w.home.view.map.canvas.labels, "path": w.desk.document.path, "folded": dict(w.preferences.settings.keyboards),
        }  # fmt: skip

    def press(self, key, modifiers=NONE, may=()):
        """Press a key, or type some text; only what is named in `may` changes."""
        before = self.everything()
        if QApplication.activeWindow() is None:  # a dialog closed, and no window manager is there
            self.window.activateWindow()
            self.qtbot.waitUntil(lambda: QApplication.focusWidget() is not None)
        target = QApplication.focusWidget() or self.window
        if isinstance(key, str):
            QTest.keyClicks(target, key)
        else:
            QTest.keyClick(target, key, modifiers)
        settle(self.window, self.qtbot)
        after = self.everything()
        changed = {name for name in before if before[name] != after[name]}
        assert changed <= set(may), (
            key,
            modifiers,
            changed,
            before["chord"],
            after["chord"],
            before["text"],
            after["text"],
        )
        return changed


@pytest.fixture
def keyboard(window, qtbot, monkeypatch):
    window.desk.document.saved = window.desk.state
    return Keyboard(window, qtbot)


TYPING = {"song", "text", "chord"}


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
def test_a_song_from_the_first_letter_to_the_file_and_back(keyboard, window, tmp_path, monkeypatch):
    names = iter([(str(tmp_path / "ferry.mid"), "MIDI (*.mid)"), (str(tmp_path / "ferry"), "Song (*.hinge)")])
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.file_to_write", lambda *_: next(names))
    press = keyboard.press
    # A new song: its title is typed over, then its chords.
    press(Key.Key_N, CTRL, {*TYPING, "asked", "keeps", "takes", "playing", "view"})
    assert window.rooms.now_handle is CHART
    press("Ferry", may=TYPING)
    assert window.desk.state.song.title == "Ferry"
    press(Key.Key_End, CTRL)
    press("| Em7 | A7 | Dm7 G7 | C |", may=TYPING)
    assert len(window.desk.solution.voicings) == 9
    press(Key.Key_Tab)
    assert QApplication.focusWidget() is not window.rooms.room(CHART).view.editor

    # The hands: the dialog is answered with keys.
    def answer(dialog):
        dialog.open()
        keyboard.qtbot.waitUntil(lambda: dialog.isAncestorOf(QApplication.focusWidget()))
        for _ in range(40):  # to the box with the left hand's notes
            if QApplication.focusWidget() is dialog.notes["left"]:
                break
            QTest.keyClick(QApplication.focusWidget(), Key.Key_Tab)
        QTest.keyClick(QApplication.focusWidget(), Key.Key_Home)
        for _ in range(2):
            QTest.keyClick(QApplication.focusWidget(), Key.Key_Down)
        QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)
        keyboard.qtbot.waitUntil(lambda: not dialog.isVisible())
        return dialog.result()

    monkeypatch.setattr(HandsDialog, "exec", answer)
    press(Key.Key_H, CTRL, {"asked"})
    assert window.desk.state.setup.player.hands.left_notes == 3
    # A way: down, Enter; K keeps the next chord, Shift+T a top, Escape leaves what is tried.
    press(Key.Key_2, CTRL, {"view"})
    press(Key.Key_Home, may={"chord"})
    press(Key.Key_Down)
    press(Key.Key_Return, may={"keeps"})
    assert len(window.desk.state.keeps) == 1
    press(Key.Key_Right, may={"chord"})
    press(Key.Key_K, may={"keeps"})
    press(Key.Key_Right, may={"chord"})
    press(Key.Key_T, SHIFT, {"keeps"})
    assert [keep.part for keep in window.desk.state.keeps] == ["chord", "chord", "top"]
    press(Key.Key_Down)
    press(Key.Key_Escape)
    for key in (Key.Key_D, Key.Key_3, Key.Key_1, Key.Key_C, Key.Key_N):
        press(key, may={"labels", "page", "sound"})
    # A swap for the A7.
    press(Key.Key_End, may={"chord"})
    press(Key.Key_Left, may={"chord"})
    press(Key.Key_S, may={"view"})
    keyboard.qtbot.waitUntil(lambda: window.rooms.room(SWAPS).listed, timeout=20_000)
    press(Key.Key_Down)
    changed = press(Key.Key_Return, may={"song", "text", "keeps", "asked", "chord", "view", "sound"})
    assert "song" in changed
    press(Key.Key_Z, CTRL, changed)
    # Another key, by its name.
    press(Key.Key_K, CTRL)
    press("play in f up")
    press(Key.Key_Return, may={"song", "text", "keeps", "asked"})
    assert window.desk.state.song.key == "F major"
    # Export, save, and open what was saved.
    press(Key.Key_E, CTRL)
    assert (tmp_path / "ferry.mid").stat().st_size > 100
    press(Key.Key_S, CTRL, {"path"})
    assert window.desk.document.path == tmp_path / "ferry.hinge"
    saved = window.desk.state
    press(Key.Key_K, CTRL)
    press("slack tide")
    press(Key.Key_Return, may={*TYPING, "asked", "keeps", "path", "playing", "takes"})
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.file_to_open", lambda *_: str(tmp_path / "ferry.hinge"))
    press(Key.Key_O, CTRL, {*TYPING, "asked", "keeps", "path", "playing", "takes"})
    assert (window.desk.state.song, window.desk.state.keeps) == (saved.song, saved.keeps)


def test_going_through_the_song_works_in_every_view(keyboard, window):
    for view in ("hinges", "swaps", "takes", "playing", "sheet"):
        window.rooms.show_room(window.rooms.named(view))
        settle(window, keyboard.qtbot)
        window.desk.selection.go(0)
        go_through(keyboard, window)


def go_through(keyboard, window):
    keyboard.press(Key.Key_Right, may={"chord"})
    assert window.desk.selection.index == 1
    keyboard.press(Key.Key_End, may={"chord"})
    assert window.desk.selection.index == len(window.desk.solution.voicings) - 1
    keyboard.press(Key.Key_Home, may={"chord"})
    keyboard.press(Key.Key_Down)
    keyboard.press(Key.Key_Up)
    keyboard.press(Key.Key_Escape, may={"view"})
    folded = window.keys.folded
    keyboard.press(Key.Key_J, CTRL, {"folded"})
    assert window.keys.folded is not folded
    keyboard.press(Key.Key_J, CTRL, {"folded"})


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
def test_unsaved_work_is_asked_about_and_a_letter_answers(keyboard, window, monkeypatch):
    asked = []

    def answer(box):
        asked.append(box.text())
        box.open()
        keyboard.qtbot.waitUntil(lambda: box.defaultButton().hasFocus())
        QTest.keyClicks(QApplication.focusWidget(), "c")
        keyboard.qtbot.waitUntil(lambda: not box.isVisible())

    monkeypatch.setattr(QMessageBox, "exec", answer)
    window.desk.toggle_keep()
    keyboard.press(Key.Key_N, CTRL)
    assert asked == ["Save Last Boat to Marrow?"]
    window.desk.document.saved = window.desk.state
