"""What a new player meets: a song to type over, help, every command by name, nothing that is missed."""

from html import escape

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QTabBar, QWhatsThis, QWidget

from tests.ui.conftest import settle
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.io.formats import WRITERS
from yellow_hinge.ui.chart.lesson import LESSON
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.help.pages import answering, chapters
from yellow_hinge.ui.help.what import MEANT, described
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.shell.table import COMMANDS
from yellow_hinge.ui.sound.player import NO_SOUND

Key = Qt.Key


def run(window, qtbot, words):
    """Do a command by typing a part of its name."""
    window.activateWindow()
    QTest.keyClick(QApplication.focusWidget() or window, Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(QApplication.focusWidget(), words)
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)
    settle(window, qtbot)


def test_the_command_box_knows_songs_keys_files_manners_takes_and_sections(window, qtbot):
    known = {command.title: command.menu for command in window.drawers._offers()}
    assert known["Slack Tide"] == "Song > Songs that ship"
    for ending in WRITERS:
        assert any(title.endswith(f"({ending})") for title in known)
    for title in ("Manner: Gospel", "Colour: ninths and sixths", "Style: Still top", "Go to Chorus"):
        assert title in known
    assert any(title.startswith("Play in G  up 3") for title in known)
    for words in ("loop", "bass", "tune", "dark", "key", "midi"):
        assert window.drawers.box is not None
        window.drawers.box.open()
        window.drawers.box.line.setText(words)
        assert window.drawers.box.list.count(), words
        window.drawers.box.close_box()


def test_commands_of_the_box_are_done(window, qtbot):
    run(window, qtbot, "play in g up")
    assert window.desk.state.song.key == "G major"
    run(window, qtbot, "manner gospel")
    assert window.desk.state.asked.manner == "gospel"
    assert window.header.manner.currentText() == "Gospel"
    run(window, qtbot, "go to chorus")
    assert window.desk.state.song.sections[window.desk.selection.moment.section].name == "Chorus"
    window.desk.document.saved = window.desk.state
    run(window, qtbot, "slack tide")
    assert window.desk.state.song.title == "Slack Tide"


def test_a_new_song_is_four_lines_to_type_over_with_examples_beside(window, qtbot):
    window.desk.document.saved = window.desk.state
    window.actions_["new"].trigger()
    chart = window.rooms.room(CHART).view
    assert window.rooms.now_handle is CHART
    assert chart.editor.hasFocus() or QApplication.focusWidget() is None
    assert len(window.desk.state.text.splitlines()) == 4
    assert chart.editor.textCursor().selectedText() == "New song"
    assert chart.lesson.isVisible()
    assert not window.desk.document.changed
    QTest.keyClicks(chart.editor, "Ferry")
    settle(window, qtbot)
    assert window.desk.state.song.title == "Ferry"
    chart.lesson.close_button.click()
    assert not chart.lesson.isVisible()
    window.actions_["how_to_write"].trigger()
    assert chart.lesson.isVisible()


def test_every_example_of_the_lesson_is_read_without_a_fault():
    for example in LESSON:
        assert not read_chart(example.text).faults, example.text


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
def test_help_holds_the_guide_the_keys_and_the_words_and_is_searched(window, qtbot):
    window.actions_["help"].trigger()
    shown = window.helping.shown
    assert shown.isVisible()
    titles = [shown.list.item(n).text() for n in range(shown.list.count())]
    assert {"The idea", "Takes: versions of one song", "Chart text: What can go wrong", "Keys: Keys"} <= set(titles)
    shown.line.setText("twelve keys")
    assert shown.list.item(0).text() == "Twelve keys"
    assert "Twelve keys" in shown.text.toPlainText()
    shown.line.setText("no such words anywhere")
    assert shown.list.count() == 0
    window.actions_["help_keys"].trigger()
    for command in COMMANDS:
        assert command.title in shown.text.toPlainText()
    shown.close()


def test_chapters_have_no_pictures_and_no_bare_links():
    for chapter in chapters(COMMANDS):
        assert "](" not in chapter.text
        assert answering(chapters(COMMANDS), chapter.title)


def test_what_is_this_tells_of_any_control(window, qtbot, monkeypatch):
    told = []
    monkeypatch.setattr(QWhatsThis, "showText", lambda at, text, widget=None: told.append(text))
    window.activateWindow()
    window.home.view.wishes.style_.setFocus()
    qtbot.waitUntil(window.home.view.wishes.style_.hasFocus)
    window.actions_["what_is"].trigger()
    assert told[-1].startswith("<b>Style of the voice leading</b>")
    window.actions_["what_is_there"].trigger()
    for widget in (window.header.half, window.home.view.map.canvas, window.keys.canvas, window.ribbon):
        event = QHelpEvent(QEvent.Type.WhatsThis, QPoint(2, 2), widget.mapToGlobal(QPoint(2, 2)))
        QApplication.sendEvent(widget, event)
        assert "<b>" in told[-1]
    QWhatsThis.leaveWhatsThisMode()


def test_what_matters_stays_until_it_is_answered(window, qtbot):
    window.desk.type_text("| C | Qx |")
    window.desk.put_tempo(80)
    assert "has to wait" in window.teller.warning.words.text()
    assert window.teller.warning.isVisible()
    window.teller.warning.buttons[0].click()
    assert not window.teller.warning.isVisible()


def test_a_passing_word_gives_way_to_the_lasting_one(window, qtbot):
    window.teller.say("lasting", lasting=True)
    window.teller.say("passing")
    assert window.teller.line.text() == "passing"
    window.teller._passing.timeout.emit()
    assert window.teller.line.text() == "lasting"


def test_no_sound_device_is_said_at_every_play(window, qtbot):
    for _ in range(2):
        window.listening.player.note.emit(NO_SOUND)
        assert window.teller.silence.isVisible()
        window.listening.player.at.emit(-1)
        assert not window.teller.silence.isVisible()


def test_wishes_can_be_for_any_section_from_anywhere(window, qtbot):
    strip, desk = window.home.view.wishes, window.desk
    items = [strip.scope.itemText(n) for n in range(strip.scope.count())]
    assert items == ["whole song", "Verse", "Chorus", "this bar", "E"]
    strip.scope.activated.emit(2)
    assert desk.state.song.sections[desk.selection.moment.section].name == "Chorus"
    strip.colour["3"].click()
    settle(window, qtbot)
    assert [wish.colour for wish in desk.state.setup.wishes] == [3]
    assert desk.state.setup.wishes[0].at == desk.selection.moment.ids[0]


def test_bars_are_numbered_alike_everywhere(window, qtbot):
    window.rooms.show_room(CHART)
    window.rooms.show_room(HINGES)
    desk = window.desk
    scene, ribbon = window.home.view.map.canvas.scene, window.ribbon.scene
    labels = {(bar.section, bar.bar): bar.label for bar in window.rooms.room(CHART).view.page.canvas.scene.bars}
    for column, voicing in zip(scene.columns, desk.solution.voicings, strict=True):
        here = voicing.here
        assert column.bar in ("", labels[here.origin, here.bar])
    assert {number for _, number in ribbon.bars} <= set(labels.values())
    desk.selection.go(4)
    assert f"bar {labels[desk.selection.address[:2]]}" in window.keys.figures.text()
    window.home.view.side.show_page("stiff")
    assert all(", bar " in window.home.view.side.pages.page("stiff").list.item(n).text() for n in range(3))


def test_a_singer_gets_a_key(window, qtbot, monkeypatch):
    asked = []
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.name", lambda *a: asked.append(a) or "C4 C5")
    window.actions_["for_singer"].trigger()
    tools = window.rooms.room(CHART).view.tools
    assert asked
    assert tools.trying is not None
    assert "tune fits" in window.teller.line.text() or "too wide" in window.teller.line.text()
    tools.take.click()
    settle(window, qtbot)
    assert window.desk.state.song.the_key.tonic == tools.desk.document.reading.song.the_key.tonic != "E"
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.name", lambda *a: "low high")
    window.actions_["for_singer"].trigger()
    assert window.teller.warning.isVisible()


@pytest.mark.parametrize("bars", [12, 900])
def test_the_whole_song_is_fitted_whatever_its_length(window, qtbot, bars):
    window.desk.type_text("key: C\n" + "\n".join(["| C | F | G | C |"] * (bars // 4)))
    qtbot.waitUntil(lambda: window.desk.solved and not window.desk.answers.solving, timeout=60_000)
    window.home.view.map.fit()
    scene = window.home.view.map.canvas.scene
    assert scene.width <= window.home.view.map.viewport().width() + 1
    window.home.view.map.fit()


@pytest.mark.parametrize(("words", "first"), [
    ("loop", "Listening"), ("reach", "Hands"), ("print", "Sheet: what lies on the stand"), ("copy", "Marking"),
    ("mix", "Takes: versions of one song"), ("export", "Files"),
])  # fmt: skip
def test_the_guide_finds_a_word_in_its_own_chapter_first(words, first):
    assert answering(chapters(COMMANDS), words)[0].title == first


def test_words_that_need_telling_are_told(window):
    for handle in window.rooms.handles:
        window.rooms.room(handle)
    told = " ".join(described(each) for each in window.findChildren(QWidget))
    bars = [bar for bar in window.findChildren(QTabBar)]
    told += " ".join(described(bar, bar.tabRect(n).center()) for bar in bars for n in range(bar.count()))
    assert not [word for word, means in MEANT.items() if escape(means) not in told]
