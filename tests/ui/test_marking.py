"""Marked chords: drawn with the mouse or keys on ribbon, map and chart, looped, and let go."""

import pytest
from PySide6.QtCore import QPoint, Qt

from tests.ui.conftest import settle
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.parts.ribbon import SIDE

LEFT, SHIFT, NONE = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.NoModifier
TEXT = "key: C\n[A]\n| C | Am7 Dm7 | G7 | Em7 A7 |\n[B]\n| Dm7 | G7 | C | C |\n"


@pytest.fixture
def marking(make_window, qtbot):
    window = make_window()
    window.desk.document.open(song_file(parse_chart(TEXT)), None, TEXT)
    settle(window, qtbot)
    return window


def cell(window, index):
    found = window.ribbon.scene.cells[index]
    return QPoint(round(SIDE + found.x + found.width / 2), 40)


def column(window, index):
    scene = window.home.view.map.canvas.scene
    return QPoint(round(scene.columns[index].x + scene.column_w / 2), 8)


def drag(qtbot, widget, start, end):
    qtbot.mousePress(widget, LEFT, NONE, start)
    qtbot.mouseMove(widget, end)
    qtbot.mouseRelease(widget, LEFT, NONE, end)


def test_a_drag_on_the_ribbon_marks_and_a_click_outside_lets_go(marking, qtbot):
    desk, ribbon = marking.desk, marking.ribbon
    drag(qtbot, ribbon, cell(marking, 1), cell(marking, 3))
    assert desk.selection.marked == range(1, 4)
    assert "bars 2 to 3" in marking.teller.line.text()
    qtbot.mouseClick(ribbon, LEFT, NONE, cell(marking, 2))
    assert desk.selection.marked == range(1, 4)  # a chord inside is looked at
    drag(qtbot, ribbon, cell(marking, 2), cell(marking, 0))
    assert desk.selection.marked == range(3)  # a drag begins anew
    qtbot.mouseClick(ribbon, LEFT, NONE, cell(marking, 7))
    assert not desk.selection.marked


def test_map_chart_and_keys_mark_the_same(marking, qtbot):
    desk, canvas = marking.desk, marking.home.view.map.canvas
    drag(qtbot, canvas, column(marking, 4), column(marking, 5))
    assert canvas.marked == desk.selection.marked == range(4, 6)
    qtbot.mouseClick(canvas, LEFT, SHIFT, column(marking, 7))
    assert desk.selection.marked == range(4, 8)
    qtbot.keyClick(marking, Qt.Key.Key_Left, SHIFT)
    assert desk.selection.marked == range(4, 7)
    qtbot.keyClick(marking, Qt.Key.Key_Escape)
    assert not desk.selection.marked
    marking.rooms.show_room(CHART)
    page = marking.rooms.room(CHART).view.page
    desk.selection.go(0)
    last = page.canvas.scene.cells[3]
    qtbot.mouseClick(page.canvas, LEFT, SHIFT, QPoint(round(last.x + 9), round(last.y + 30)))
    assert desk.selection.marked == range(4)
    assert len(page.canvas.marked) == 4
    assert len(page.canvas.scene.runs(page.canvas.marked)) >= 1


def test_the_mark_lasts_when_the_song_is_solved_anew_and_is_looped_slow_with_a_count(marking, qtbot):
    desk = marking.desk
    desk.selection.go(2)
    desk.selection.mark_bars()
    assert desk.selection.marked == range(1, 3)
    desk.selection.mark_bars()
    assert desk.selection.marked == range(1, 4)
    desk.change_setup("colour rich", colour=3)
    settle(marking, qtbot)
    assert desk.selection.marked == range(1, 4)
    marking.listening.put(half=True, count_in=True)
    qtbot.keyClick(marking, Qt.Key.Key_G)
    qtbot.waitUntil(lambda: bool(marking.output.started))
    played = marking.output.started[-1]
    performance = marking.listening.performance
    beats = (performance.ends[3] - performance.starts[1]) / 480
    seconds = beats * 60 / desk.song.tempo * 2
    assert played.length - played.places[0][0] == pytest.approx(seconds * RATE, rel=0.01)
    assert played.places[0][0] > 0  # the count before it
    marking.listening.stop()


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_a_ribbon_over_its_still_picture_is_the_ribbon_painted_whole(make_window, qtbot, theme):
    window = make_window(theme=theme)
    window.files.open_demo()
    settle(window, qtbot)
    ribbon, count = window.ribbon, len(window.desk.solution.voicings)
    nowhere = frozenset({(999, 0, 0)})
    for wide, at, playing in [(900, 0, -1), (900, 5, 6), (140, count - 1, 3), (140, 7, 7), (61, 20, 21)]:
        ribbon.setFixedWidth(wide)
        qtbot.wait(1)
        window.desk.selection.go(at)
        ribbon.set_playing(playing)
        over = ribbon.grab().toImage()
        ribbon.mark(nowhere)  # which paints all of it
        whole = ribbon.grab().toImage()
        ribbon.mark(frozenset())
        assert over == whole, (wide, at, playing)
