"""Bars marked in every view; cut, copied, pasted and duplicated from the keys."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication

from tests.ui.conftest import settle
from tests.ui.test_marking import LEFT, NONE, SHIFT, drag, marking  # noqa: F401 - a fixture
from yellow_hinge.app.desk.playing.asking import PLACES
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.shell.clipboard import SONG
from yellow_hinge.ui.takes.room import TAKES

CTRL = Qt.KeyboardModifier.ControlModifier
Key = Qt.Key


def press(qtbot, window, key, modifier=NONE):
    qtbot.keyClick(window.rooms.currentWidget(), key, modifier)


def bars(window):
    return [" ".join(s.symbol for s in bar.slots) for part in window.desk.state.song.sections for bar in part.bars]


def test_takes_and_sheet_mark_with_the_mouse_and_every_view_shows_it(marking, qtbot):  # noqa: F811
    desk = marking.desk
    marking.rooms.show_room(TAKES)
    canvas = marking.rooms.room(TAKES).view.canvas
    qtbot.waitUntil(lambda: canvas.scene is not None, timeout=30_000)
    take = canvas.scene.takes[0]
    at = lambda n: QPoint(round(take.chords[n].x + 12), round(take.y + 8))  # noqa: E731
    drag(qtbot, canvas, at(1), at(3))
    assert desk.selection.marked == canvas.marked == range(1, 4)
    marking.rooms.show_room(SHEET)
    pages = marking.rooms.room(SHEET).view.canvas
    qtbot.waitUntil(lambda: bool(pages.pages), timeout=30_000)
    assert pages.marked == (1, 2, 3)
    middle = lambda n: pages.place_of(n).center().toPoint()  # noqa: E731
    qtbot.mouseClick(pages, LEFT, SHIFT, middle(5))
    assert desk.selection.marked == range(1, 6)
    drag(qtbot, pages, middle(0), middle(1))
    assert desk.selection.marked == range(2)
    assert "bars 1 to 2" in marking.teller.line.text()


def test_a_pattern_is_for_what_is_marked_or_every_section_of_a_name(marking, qtbot):  # noqa: F811
    desk = marking.desk
    marking.rooms.show_room(PLAYING)
    view = marking.rooms.room(PLAYING).view
    desk.selection.mark_places(range(2, 5))  # the second half of bar 2, bars 3 and 4's first
    view.place.setCurrentIndex(PLACES.index("mark"))
    marking.rooms.room(PLAYING).take_pattern("ballad")
    wanted = {
        desk.solution.voicings[2].here.ids[2],
        desk.solution.voicings[3].here.ids[1],
        desk.solution.voicings[4].here.ids[2],
    }
    assert {wish.at for wish in desk.state.playing.wishes} == wanted
    assert desk.document.history.undo_label.endswith("what is marked")
    text = "key: C\n[Verse]\n| C | F |\n[Chorus]\n| G | C |\n[Verse]\n| F | C |\n"
    desk.type_text(text)
    settle(marking, qtbot)
    every = PLACES.index("every")
    assert view.place.itemText(every) == "every Verse"
    view.place.setCurrentIndex(every)
    marking.rooms.room(PLAYING).take_pattern("stride")
    row = marking.listening.performance.row
    assert [here.patterns["left"].id == "stride" for here in row] == [True, True, False, False, True, True]
    desk.selection.go(2)
    assert not view.place.model().item(every).isEnabled()
    assert view.for_place == "section"


@pytest.mark.parametrize("handle", [HINGES, TAKES, PLAYING, SHEET], ids=lambda room: room.id)
def test_bars_are_cut_pasted_and_duplicated_by_key_in_every_view(marking, qtbot, handle):  # noqa: F811
    desk, first = marking.desk, bars(marking)
    marking.rooms.show_room(handle)
    desk.selection.go(1)
    press(qtbot, marking, Key.Key_B)
    press(qtbot, marking, Key.Key_C, CTRL)
    assert "| Am7 Dm7 |" in " ".join(QGuiApplication.clipboard().text().split())
    desk.selection.go(6)
    press(qtbot, marking, Key.Key_V, CTRL)
    settle(marking, qtbot)
    assert bars(marking) == [*first[:5], "Am7 Dm7", *first[5:]]
    assert [desk.solution.voicings[n].here.symbol for n in desk.selection.marked] == ["Am7", "Dm7"]
    press(qtbot, marking, Key.Key_X, CTRL)
    settle(marking, qtbot)
    assert bars(marking) == first
    press(qtbot, marking, Key.Key_D, CTRL)
    settle(marking, qtbot)
    assert len(bars(marking)) == 9
    for _ in range(3):
        desk.document.undo()
    assert bars(marking) == first


def test_hands_go_along_to_another_song_and_plain_text_is_bars_too(marking, qtbot):  # noqa: F811
    desk = marking.desk
    hands = [v.both for v in desk.solution.voicings[:3]]
    desk.selection.mark_places(range(3))
    press(qtbot, marking, Key.Key_C, CTRL)
    desk.type_text("title: Other\nkey: C\n| F | F |")
    settle(marking, qtbot)
    press(qtbot, marking, Key.Key_V, CTRL | SHIFT)
    settle(marking, qtbot)
    assert [v.both for v in desk.solution.voicings[1:4]] == hands
    assert len(desk.state.keeps) == 3
    QGuiApplication.clipboard().setText("| Ebmaj7 | Ab13 |")
    press(qtbot, marking, Key.Key_V, CTRL)
    settle(marking, qtbot)
    assert bars(marking)[3:5] == ["Ebmaj7", "Ab13"]  # a key that nobody said moves nothing
    for text, said in (("", "nothing is on the clipboard"), ("not a chart at all", "clipboard")):
        before = desk.state
        QGuiApplication.clipboard().setText(text)
        press(qtbot, marking, Key.Key_V, CTRL)
        assert desk.state is before
        assert said in marking.teller.line.text().lower() or said in desk.answers.fault.lower()


def test_a_copy_of_another_program_that_is_no_song_of_ours_is_refused(marking, qtbot):  # noqa: F811
    from PySide6.QtCore import QMimeData

    mime = QMimeData()
    mime.setData(SONG, b'{"version": 99}')
    QGuiApplication.clipboard().setMimeData(mime)
    before = marking.desk.state
    press(qtbot, marking, Key.Key_V, CTRL)
    assert marking.desk.state is before


def test_what_is_marked_goes_on_paper_alone(marking, qtbot):  # noqa: F811
    marking.rooms.show_room(SHEET)
    room = marking.rooms.room(SHEET)
    qtbot.waitUntil(lambda: bool(room.sheet.pages), timeout=30_000)
    assert not room.view.of.isVisible()
    marking.desk.selection.mark_places(range(6, 8))
    assert room.view.of.isVisible()
    room.view.of.setCurrentIndex(room.view.of.findData("mark"))
    room.view.asked.emit()
    qtbot.waitUntil(lambda: room.sheet.number == room.solver.asked and not room.sheet.picks, timeout=30_000)
    words = {text.words for page in room.sheet.pages for text in page.texts}
    assert {"Dm7", "G7"} <= words
    assert not {"Am7", "Em7", "A7"} & words
    hands = marking.desk.solution.voicings[6]
    assert room.part().keeps[0].left == hands.left
    marking.desk.selection.unmark()
    qtbot.waitUntil(lambda: room.sheet.picks, timeout=30_000)
