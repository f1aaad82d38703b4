"""The right button, the Menu key and the double click: on chords, hinges, notes, strokes, takes, mix cells, sections and
sheets.
"""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from tests.ui.conftest import settle
from tests.ui.test_marking import marking  # noqa: F401 - a fixture
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.parts.pointing.in_place import Line
from yellow_hinge.ui.parts.pointing.things import HEADING
from yellow_hinge.ui.parts.ribbon import SIDE
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.shell.table import COMMANDS
from yellow_hinge.ui.takes.room import TAKES

Key, LEFT, NONE = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
pytestmark = pytest.mark.qt_log_ignore("This plugin does not support", extend=True)


def asked(widget, at=None):
    """The Menu key of a widget, or the right button at a point of it."""
    reason = QContextMenuEvent.Reason.Keyboard if at is None else QContextMenuEvent.Reason.Mouse
    point = widget.rect().center() if at is None else at
    QApplication.sendEvent(widget, QContextMenuEvent(reason, point, widget.mapToGlobal(point)))
    return QApplication.activePopupWidget()


def titles(menu):
    own = [action for action in menu.actions() if not action.isSeparator() and action.data() != HEADING]
    return [action.text().replace("&", "") for action in own]


def of(thing):
    return [command.title for command in COMMANDS if thing in command.on]


def reached(menu):
    """The entries that Down comes to."""
    found = []
    for _ in menu.actions():
        QTest.keyClick(menu, Key.Key_Down)
        found.append(menu.activeAction().text().replace("&", ""))
    return set(found)


@pytest.mark.parametrize(("handle", "thing"), [(HINGES, "chord"), (TAKES, "take"), (PLAYING, "chord"), (SHEET, "sheet"), (CHART, "chord")],
                         ids=lambda value: getattr(value, "id", value))  # fmt: skip
def test_the_menu_key_opens_what_can_be_done_and_every_entry_is_reached(marking, qtbot, handle, thing):  # noqa: F811
    marking.rooms.show_room(handle)
    before = marking.desk.state
    menu = asked(marking.rooms.currentWidget())
    assert menu is not None
    assert titles(menu) == of(thing)
    able = {
        action.text().replace("&", "") for action in menu.actions() if action.isEnabled() and not action.isSeparator()
    }
    assert able <= reached(menu)
    QTest.keyClick(menu, Key.Key_Escape)
    assert QApplication.activePopupWidget() is None
    assert marking.desk.state is before


def test_the_right_button_tells_notes_hinges_and_chords_of_the_map_apart(marking, qtbot):  # noqa: F811
    canvas, desk = marking.home.view.map.canvas, marking.desk
    scene = canvas.scene
    plate = scene.columns[2].plates[-1]
    middle = round(scene.columns[1].x + scene.column_w - 2)
    for at, thing, index in (
        (QPoint(round(plate.x), round(plate.y)), "note", 2), (QPoint(middle, 60), "hinge", 1),
        (QPoint(round(scene.columns[3].x + 20), 25), "chord", 3),
    ):  # fmt: skip
        menu = asked(canvas, at)
        assert titles(menu) == of(thing)
        assert desk.selection.index == index
        menu.close()
    asked(canvas, QPoint(round(plate.x), round(plate.y))).close()
    assert marking.home.mover.note == (plate.mark.hand, plate.mark.midi)
    before = len(desk.state.keeps)
    menu = asked(canvas, QPoint(round(scene.columns[3].x + 20), 25))
    next(action for action in menu.actions() if action.text().replace("&", "") == "The chord").trigger()
    menu.close()
    assert len(desk.state.keeps) == before + 1


def test_takes_cells_sections_and_strokes_have_theirs(marking, qtbot):  # noqa: F811
    ribbon = marking.ribbon
    menu = asked(ribbon, QPoint(round(SIDE + ribbon.scene.sections[1][0] + 8), 6))
    assert titles(menu) == of("section")
    assert marking.desk.selection.moment.section == 1
    menu.close()
    marking.rooms.show_room(TAKES)
    room = marking.rooms.room(TAKES)
    room.do("new")
    qtbot.waitUntil(lambda: room.found is not None and room.found.done and len(room.found.rows) == 2, timeout=30_000)
    menu = asked(room.view.canvas, QPoint(30, round(room.view.canvas.scene.takes[0].y + 10)))
    assert titles(menu) == of("take")
    menu.close()
    menu = asked(room.view.cells, QPoint(30, 20))
    assert titles(menu) == [*(f"Play {row.name}" for row in room.found.rows), *of("cell")]
    menu.actions()[0].trigger()
    menu.close()
    assert marking.desk.state.mix
    marking.rooms.show_room(PLAYING)
    playing = marking.rooms.room(PLAYING)
    playing.editing.copy()
    menu = asked(playing.view.canvas)
    assert titles(menu) == [words for words, _ in playing.editing.ways()]
    before = marking.desk.state.playing
    next(action for action in menu.actions() if action.text() == "Louder").trigger()
    menu.close()
    assert marking.desk.state.playing != before


def written(parent, text):
    line = next(line for line in parent.findChildren(QLineEdit) if line.isVisible() and line.parent() is parent)
    line.setText(text)
    QTest.keyClick(line, Key.Key_Return)


def test_a_double_click_writes_symbols_words_and_names_anew_in_their_place(marking, qtbot):  # noqa: F811
    canvas, desk = marking.home.view.map.canvas, marking.desk
    x = round(canvas.scene.columns[1].x + 20)
    qtbot.mouseDClick(canvas, LEFT, NONE, QPoint(x, 26))
    written(canvas, "Fmaj7")
    settle(marking, qtbot)
    assert desk.state.song.sections[0].bars[1].slots[0].symbol == "Fmaj7"
    qtbot.mouseDClick(canvas, LEFT, NONE, QPoint(x, round(canvas.scene.height) - 12))
    written(canvas, "here we are")
    settle(marking, qtbot)
    assert desk.state.song.sections[0].bars[1].slots[0].cue == "here we are"
    qtbot.mouseDClick(canvas, LEFT, NONE, QPoint(x, 6))
    written(canvas, "Verse")
    settle(marking, qtbot)
    assert desk.state.song.sections[0].name == "Verse"
    for _ in range(3):
        desk.document.undo()
    settle(marking, qtbot)
    assert desk.state.song.sections[0].name == "A"
    before = desk.state
    qtbot.mouseDClick(canvas, LEFT, NONE, QPoint(x, 26))
    written(canvas, "Hx9")
    assert desk.state is before  # said, and nothing is changed
    assert "Hx9" in desk.answers.fault or "Hx9" in marking.teller.line.text()


def test_takes_sections_and_the_chart_are_renamed_in_their_place(marking, qtbot):  # noqa: F811
    desk, ribbon = marking.desk, marking.ribbon
    qtbot.mouseDClick(ribbon, LEFT, NONE, QPoint(round(SIDE + ribbon.scene.sections[1][0] + 6), 6))
    written(ribbon, "Bridge")
    settle(marking, qtbot)
    assert desk.state.song.sections[1].name == "Bridge"
    marking.rooms.show_room(TAKES)
    canvas = marking.rooms.room(TAKES).view.canvas
    qtbot.waitUntil(lambda: canvas.scene is not None, timeout=30_000)
    qtbot.mouseDClick(canvas, LEFT, NONE, QPoint(40, round(canvas.scene.takes[0].y + 10)))
    written(canvas, "At the quay")
    assert desk.state.name == "At the quay"
    marking.rooms.show_room(CHART)
    page = marking.rooms.room(CHART).view.page.canvas
    cell = page.scene.cells[2]
    qtbot.mouseDClick(page, LEFT, NONE, QPoint(round(cell.x + 12), round(cell.y + 24)))
    written(page, "D7")
    settle(marking, qtbot)
    assert desk.state.song.sections[0].bars[1].slots[1].symbol == "D7"


def drag(qtbot, widget, start, end):
    qtbot.mousePress(widget, LEFT, NONE, start)
    qtbot.mouseMove(widget, end)
    qtbot.mouseRelease(widget, LEFT, NONE, end)


def test_the_song_s_name_and_tempo_are_written_anew_where_they_stand(marking, qtbot):  # noqa: F811
    header, desk = marking.header, marking.desk
    was = desk.state.song.title
    for label, new in (
        (header.title, "Slack Water"),
        (header.facts, "96"),
        (header.facts, "quick"),
        (header.title, ""),
    ):
        QTest.mouseDClick(header, LEFT, pos=label.geometry().center())
        line = header.findChildren(Line)[-1]
        line.setText(new)
        QTest.keyClick(line, Key.Key_Return)
    assert (desk.state.song.title, desk.state.song.tempo) == ("Slack Water", 96)
    assert desk.state.text.startswith("title: Slack Water")
    assert desk.answers.fault == "the song needs a name"
    desk.document.undo()
    desk.document.undo()
    assert desk.state.song.title == was


def test_strokes_takes_and_mix_cells_are_dragged(marking, qtbot):  # noqa: F811
    desk = marking.desk
    marking.rooms.show_room(PLAYING)
    playing = marking.rooms.room(PLAYING)
    playing.editing.copy()
    canvas = playing.view.canvas
    flag = next(f for f in canvas.scene.flags if f.hand == "right" and f.index == 0)
    start = QPoint(round(flag.x + 3), round(flag.y + 6))
    before = desk.state.playing
    beat = round(canvas.scene.scale * 4 * canvas.step)
    drag(qtbot, canvas, start, start + QPoint(beat + 4, 0))
    own = desk.state.playing.patterns[-1]
    assert desk.state.playing != before
    assert any(hit.at == 1 for form in own.forms for hit in form.hits("right"))
    marking.rooms.show_room(TAKES)
    room = marking.rooms.room(TAKES)
    for _ in range(2):
        room.do("new")
    qtbot.waitUntil(lambda: room.found is not None and room.found.done and len(room.found.rows) == 3, timeout=30_000)
    order = [take.id for take in desk.state.takes]
    at = lambda n: QPoint(30, round(room.view.canvas.scene.takes[n].y + 12))  # noqa: E731
    drag(qtbot, room.view.canvas, at(0), at(2))
    assert [take.id for take in desk.state.takes] == [order[1], order[2], order[0]]
    qtbot.waitUntil(lambda: [row.id for row in room.found.rows] == [order[1], order[2], order[0]], timeout=30_000)
    room.mix.choose(0, 1)
    qtbot.waitUntil(lambda: room.found.mix.passes[0].take == room.found.rows[1].id, timeout=30_000)
    takes = [own.take for own in room.found.mix.passes]
    assert takes[0] != takes[1]
    cells = room.view.cells
    wide = round(cells._width())
    drag(qtbot, cells, QPoint(20, 20), QPoint(20 + wide, 20))
    qtbot.waitUntil(lambda: [own.take for own in room.found.mix.passes] == takes[::-1], timeout=30_000)
    desk.document.undo()
