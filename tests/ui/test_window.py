"""The window driven by mouse and keys."""

import gc
import weakref
from pathlib import Path

import miniaudio
import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from tests.ui.conftest import settle
from yellow_hinge import __version__
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.io.opening import read_song
from yellow_hinge.sound.device import DeviceOutput
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.files.many import OPEN, SAVE, ManyFiles
from yellow_hinge.ui.help.pages import NEWS
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.paint.strand.strands import COLUMN_W, KEYS_W
from yellow_hinge.ui.paint.theme import DARK, LIGHT
from yellow_hinge.ui.shell.table import COMMANDS
from yellow_hinge.ui.shell.window import MainWindow

Key = Qt.Key


def press(qtbot, window, *keys):
    for key in keys:
        qtbot.keyClick(window.home.view.map, key)


def test_the_demo_opens_solved_with_its_first_chord_selected(window):
    assert window.desk.solution.voicings
    assert window.desk.selection.index == 0
    assert "Last Boat to Marrow" in window.windowTitle()
    assert window.home.view.map.canvas.scene.columns[0].symbol == "E"
    assert window.keys.words.text().endswith(".")
    assert len(window.home.view.options.model.rows) > 8


def test_up_and_down_try_options_and_enter_takes_one(window, qtbot):
    before = window.desk.selection.voicing.both
    press(qtbot, window, Key.Key_Down, Key.Key_Down, Key.Key_Down, Key.Key_Up)
    option = window.home.view.options.current
    assert option is window.home.view.options.model.rows[2].option
    shown = {mark.midi for mark in window.keys.canvas.scene.upper.marks}
    assert shown == {*option.both.left, *option.both.right}
    assert window.desk.selection.voicing.both == before
    assert "Whole song +" in window.keys.figures.text()
    press(qtbot, window, Key.Key_P)  # hears the option that is tried
    assert window.listening.player.playing
    press(qtbot, window, Key.Key_Return)
    settle(window, qtbot)
    assert window.desk.selection.voicing.both == option.both
    assert window.home.view.map.canvas.scene.columns[0].kept
    assert window.actions_["undo"].text() == "&Undo: take another way to play E"
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    assert window.desk.selection.voicing.both == before
    assert not window.home.view.map.canvas.scene.columns[0].kept


def test_a_click_on_a_column_or_the_ribbon_goes_there(window, qtbot):
    canvas = window.home.view.map.canvas
    qtbot.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(int(KEYS_W + 3.5 * COLUMN_W), 60))
    assert window.desk.selection.index == 3
    qtbot.mouseClick(window.ribbon, Qt.MouseButton.LeftButton, pos=QPoint(window.ribbon.width() - 14, 40))
    assert window.desk.selection.index == len(window.desk.solution.voicings) - 1


def test_typing_in_the_chart_solves_at_once(window, qtbot):
    window.actions_["view_chart"].trigger()
    editor = window.rooms.room(CHART).view.editor
    editor.selectAll()
    qtbot.keyClicks(editor, "| Dm7 | G7 | C |")
    settle(window, qtbot)
    assert [c.symbol for c in window.home.view.map.canvas.scene.columns] == ["Dm7", "G7", "C"]
    qtbot.keyClicks(editor, " K ")  # letters are letters while the chart is typed
    assert "K" in window.desk.state.text
    assert not window.desk.state.keeps


def test_a_fault_is_underlined_and_corrected_with_one_key(window, qtbot):
    window.actions_["view_chart"].trigger()
    good = window.desk.solution
    window.rooms.room(CHART).view.editor.setPlainText("| C | Cmjr7 |")
    assert "Line 1, column 7" in window.rooms.room(CHART).view.fault.text()
    (mark,) = window.rooms.room(CHART).view.editor.extraSelections()
    assert mark.cursor.selectedText() == "Cmjr7"
    assert window.desk.solution is good
    qtbot.keyClick(window.rooms.room(CHART).view.editor, Key.Key_Period, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.state.text == "| C | Cmaj7 |"
    settle(window, qtbot)
    assert window.rooms.room(CHART).view.fault.text() == ""


def test_space_plays_from_here_and_stops(window, qtbot):
    press(qtbot, window, Key.Key_Right)
    with qtbot.waitSignal(window.listening.player.at, check_params_cb=lambda i: i == 1, timeout=40_000):
        press(qtbot, window, Key.Key_Space)
    assert len(window.output.started) == 1
    assert window.output.started[0].length > 60 * RATE
    assert window.ribbon.playing == 1
    assert window.header.play.text().endswith("Stop")
    press(qtbot, window, Key.Key_Space)
    assert not window.listening.player.playing
    assert window.ribbon.playing == -1


def test_a_hinge_loops_with_one_hand(window, qtbot):
    window.desk.type_text("tempo: 400\n| C / / G |")
    settle(window, qtbot)
    qtbot.mouseClick(window.header.hear["left"], Qt.MouseButton.LeftButton)
    assert set(window.listening.levels()) == {"left", "bass"}
    press(qtbot, window, Key.Key_L)
    qtbot.waitUntil(lambda: len(window.output.started) == 1, timeout=40_000)
    (sheet,) = window.output.started
    assert (sheet.back, sheet.places) == (0, ((0, 0), (round(0.45 * RATE), 1)))
    window.output.pull(3 * sheet.length)
    assert window.listening.player.playing
    press(qtbot, window, Key.Key_Space)


def test_a_struck_key_sounds(window, qtbot):
    keys = window.keys.canvas.scene.upper
    key = next(k for k in keys.keys if not k.black)
    with qtbot.waitSignal(window.keys.canvas.struck) as caught:
        qtbot.mouseClick(
            window.keys.canvas, Qt.MouseButton.LeftButton, pos=QPoint(int(key.x + 4), int(keys.height - 4))
        )
    assert caught.args == [key.midi]
    qtbot.waitUntil(lambda: len(window.output.started) == 1, timeout=40_000)


def test_without_a_device_playing_goes_on_in_silence_and_says_so(make_window, qtbot, monkeypatch):
    window = make_window()
    window.desk.type_text("tempo: 400\n| C | F |")
    settle(window, qtbot)
    window.listening.player._output = DeviceOutput([miniaudio.Backend.JACK])
    with qtbot.waitSignals([window.listening.player.note, window.listening.player.at], timeout=40_000):
        press(qtbot, window, Key.Key_Space)
    assert "No sound device" in window.teller.line.text()
    qtbot.waitUntil(lambda: not window.listening.player.playing, timeout=40_000)


def test_saving_opening_and_exporting_through_the_dialogs(window, qtbot, tmp_path, monkeypatch):
    target = tmp_path / "mine.hinge"

    def chosen(path, kind=""):
        monkeypatch.setattr(QFileDialog, "selectedFiles", lambda self: [str(path)])
        monkeypatch.setattr(QFileDialog, "selectedNameFilter", lambda self: kind)

    monkeypatch.setattr(QFileDialog, "exec", lambda self: 1)
    chosen(target.with_suffix(""), "Song (*.hinge)")
    window.desk.toggle_keep()
    assert "not saved" in window.header.facts.text()
    window.actions_["save"].trigger()
    assert read_song(str(target)).keeps == window.desk.state.keeps
    assert "not saved" not in window.header.facts.text()
    midi = tmp_path / "mine.mid"
    chosen(midi.with_suffix(""), "MIDI (*.mid)")
    settle(window, qtbot)
    window.actions_["export"].trigger()
    assert midi.read_bytes()[:4] == b"MThd"
    kept = window.desk.state
    window.desk.document.open(read_song("demo:slack-tide"), None)
    chosen(target)
    window.actions_["open"].trigger()
    assert window.desk.state.song == kept.song
    assert window.desk.document.path == target


def test_one_file_that_is_dropped_opens_and_of_several_there_is_a_report(window, qtbot, tmp_path, monkeypatch):
    one, other, broken = tmp_path / "one.chart", tmp_path / "other.cho", tmp_path / "broken.hinge"
    one.write_text("title: One\n| C | F |\n")
    other.write_text("{title: Other}\n[G]There and [C]back again\n[D]there and [G]home\n")
    broken.write_bytes(b"{")
    where, button, none = QPointF(400, 300), Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier

    def drop(*paths):
        window.desk.document.saved = window.desk.state
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path)) for path in paths])
        enter = QDragEnterEvent(where.toPoint(), Qt.DropAction.CopyAction, mime, button, none)
        QApplication.sendEvent(window, enter)
        assert enter.isAccepted()
        QApplication.sendEvent(window, QDropEvent(where, Qt.DropAction.CopyAction, mime, button, none))

    drop(one)
    qtbot.waitUntil(lambda: window.desk.state.song.title == "One")
    seen = []

    def looked(dialog):
        ready = lambda: dialog.buttons[SAVE].isEnabled()  # noqa: E731
        qtbot.waitUntil(ready, timeout=20_000)
        seen.extend(row.result for row in dialog.rows)
        monkeypatch.setattr(asking, "folder", lambda parent, heading, known: tmp_path / "songs")
        dialog.buttons[SAVE].click()
        qtbot.waitUntil(lambda: "saved in" in dialog.heading.text(), timeout=20_000)
        dialog.buttons[OPEN].click()

    monkeypatch.setattr(ManyFiles, "exec", looked)
    drop(other, one, broken)
    qtbot.waitUntil(lambda: window.desk.state.song.title == "Other", timeout=20_000)
    assert seen == ["guessed", "right", "refused"]
    assert window.desk.document.path == tmp_path / "songs" / "other.hinge"
    assert sorted(path.name for path in (tmp_path / "songs").iterdir()) == ["one.hinge", "other.hinge"]
    plain = QMimeData()
    plain.setText("| C |")
    enter = QDragEnterEvent(where.toPoint(), Qt.DropAction.CopyAction, plain, button, none)
    enter.ignore()
    QApplication.sendEvent(window, enter)
    assert not enter.isAccepted()


def test_a_damaged_file_is_refused_and_the_open_song_stays(window, tmp_path, monkeypatch):
    said = []
    monkeypatch.setattr(QMessageBox, "exec", lambda self: said.append(self.text()))
    bad = tmp_path / "bad.json"
    bad.write_bytes(b'{"format": "yellow-hinge-song", "version": 1, "song": {}, "keeps": 3}')
    before = window.desk.state
    assert not window.files.open_path(bad)
    assert "bad.json: is damaged" in said[0]
    assert window.desk.state == before
    assert bad.read_bytes().endswith(b"3}")


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
@pytest.mark.parametrize(("letter", "stays"), [("c", True), ("d", False)])
def test_closing_with_unsaved_work_asks_and_is_answered_by_a_letter(window, monkeypatch, qtbot, letter, stays):
    window.desk.toggle_keep()

    def answer(box):
        box.open()
        assert all(button.icon().isNull() for button in box.buttons())

        qtbot.waitUntil(lambda: box.buttons()[0].hasFocus() or box.defaultButton().hasFocus())
        qtbot.keyClicks(QApplication.focusWidget(), letter)
        qtbot.waitUntil(lambda: not box.isVisible())

    monkeypatch.setattr(QMessageBox, "exec", answer)
    assert window.close() is not stays
    assert window.isVisible() is stays


def test_themes_repaint_everything_and_brass_means_motion(window, qtbot):
    for name, theme in (("light", LIGHT), ("dark", DARK)):
        window.actions_[name].trigger()
        image = window.grab().toImage()
        colors = {
            QColor(image.pixel(x, y)).name() for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)
        }
        for role in ("paper", "brass", "left", "right", "chosen"):
            assert getattr(theme, role).lower() in colors, (name, role)
    window.desk.type_text("| C | C | C |")
    settle(window, qtbot)
    canvas = window.home.view.map.canvas.grab().toImage()
    colors = {QColor(canvas.pixel(x, y)).name() for x in range(canvas.width()) for y in range(0, canvas.height(), 2)}
    assert DARK.brass.lower() not in colors  # nothing moves, so nothing is brass


def test_every_song_that_ships_opens_from_the_menu(window, qtbot):
    window.submenus["shipped"].aboutToShow.emit()
    window.submenus["shipped"].aboutToShow.emit()
    titles = [action.text() for action in window.submenus["shipped"].actions()]
    assert titles[:2] == ["Last Boat to Marrow", "Last Boat to Marrow, bolder"]
    assert len(titles) == 12
    window.submenus["shipped"].actions()[1].trigger()
    settle(window, qtbot)
    assert window.desk.state.song.title == titles[1]


def test_every_command_has_one_place_and_no_shortcut_is_taken_twice(window):
    everywhere = {key for command in COMMANDS if not command.where for key in command.keys}
    keys = [(key, area) for c in COMMANDS for key in c.keys for area in c.where or (None,)]
    assert len(keys) == len(set(keys))
    assert not everywhere & {key for key, area in keys if area is not None}
    assert set(window.actions_) == {command.id for command in COMMANDS}
    assert all(command.tip for command in COMMANDS)


def test_the_keyboards_fold_to_a_strip_view_by_view(window):
    assert window.keys.canvas.isVisible()
    window.actions_["fold_keys"].trigger()
    assert not window.keys.canvas.isVisible()
    assert "→" in window.keys.line.text()
    assert window.keys.height() < 60
    window.rooms.show_room(CHART)
    assert not window.keys.canvas.isVisible()  # the chart needs the room
    window.actions_["fold_keys"].trigger()
    assert window.keys.canvas.isVisible()
    window.rooms.show_room(HINGES)
    assert not window.keys.canvas.isVisible()
    assert window.preferences.settings.keyboards == {"hinges": False, "chart": True}


def test_in_a_very_low_window_the_keyboards_fold_unless_the_player_wants_them(window):
    window.seeing.fit(560)
    assert window.keys.folded
    window.actions_["fold_keys"].trigger()
    assert not window.keys.folded
    window.seeing.fit(900)
    window.seeing.fit(560)
    assert not window.keys.folded


def test_the_page_of_shortcuts_is_the_table_of_commands():
    from yellow_hinge.ui.help.pages import keys_page

    written = Path(__file__).parents[2] / "docs" / "shortcuts.md"
    assert written.read_text("utf-8") == keys_page(COMMANDS)


def test_a_keep_that_costs_the_song_shows_what_would_be_easier(window, qtbot):
    press(qtbot, window, Key.Key_Right, *[Key.Key_Down] * 4, Key.Key_Return)
    settle(window, qtbot)
    prices = [row.price for row in window.home.view.options.model.rows]
    assert prices[0] == "now"
    assert prices[1].startswith("−")
    assert window.home.view.options.model.rows[0].option.both == window.desk.selection.voicing.both


def test_a_new_version_is_said_once_to_those_who_used_another_and_a_report_has_nothing_private(
    make_window, monkeypatch
):
    fresh = make_window()
    fresh.helping.look()
    assert fresh.teller.news.isHidden()
    assert fresh.preferences.settings.seen == __version__
    for settings in ({"seen": "0.0.9"}, {"recent": ("/home/somebody/private song.hinge",)}):
        window = make_window(**settings)
        window.helping.look()
        assert __version__ in window.teller.news.words.text()
        opened = []
        monkeypatch.setattr(window.helping, "open", opened.append)
        window.teller.news.buttons[0].click()
        assert opened == [NEWS]
        window.teller.news.hide()
        window.helping.look()
        assert window.teller.news.isHidden()
    window.files.open_demo()
    window.actions_["help_report"].trigger()
    text = QApplication.clipboard().text()
    assert text.startswith(f"Yellow Hinge: {__version__}\n")
    assert all(name in text for name in ("Python", "Screen", "Sound", "Keyboards"))
    assert not any(word in text for word in ("somebody", "private", "/home", "Marrow"))


def test_a_closed_window_is_let_go_with_all_its_rooms(tmp_path, qapp):
    """What is tied to things that outlive it would repaint what is gone, and keep every song that it showed."""
    window = MainWindow(Places(tmp_path / "config", tmp_path / "state"), Settings())
    for handle in window.rooms.handles:
        window.rooms.show_room(handle)
    gone = weakref.ref(window)
    window.close()
    window.deleteLater()
    del window, handle
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    gc.collect()
    assert gone() is None
