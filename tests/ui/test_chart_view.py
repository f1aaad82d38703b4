"""The Chart view: text, the set-out page, tools, keys, opening files."""

from random import Random

import pytest
from PySide6.QtCore import QPoint, QRectF, Qt

from tests.cli.made_up import chart as made_up
from tests.io.test_imports import CHORDPRO, WHOLE
from tests.ui.conftest import settle
from yellow_hinge.core.chart.edit import move_bar
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.song.following import followed
from yellow_hinge.core.song.song import Song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.chart.drawing import in_sight
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.chart.scene import ROW_H, chart_scene
from yellow_hinge.ui.dialogs import looked_over

Key, Left = Qt.Key, Qt.MouseButton.LeftButton


@pytest.fixture
def chart(window, qtbot):
    window.actions_["view_chart"].trigger()
    window.desk.type_text("key: C\n[A]\n| C | Am7 D7 | G | F |\n[B]\n| Dm |")
    window.desk.document.history.end_group()
    settle(window, qtbot)
    return window.rooms.room(CHART).view


def centre(cell):
    return QPoint(int(cell.x + cell.width / 2), int(cell.y + 40))


def symbols(window):
    return [c.symbol for c in window.rooms.room(CHART).view.page.canvas.scene.cells]


def test_the_page_shows_number_notes_cue_and_tune(window):
    window.rooms.show_room(CHART)
    cell = window.rooms.room(CHART).view.page.canvas.scene.cells[1]
    assert (cell.symbol, cell.number, cell.notes, cell.cue, cell.tune) == (
        "C♯m7", "6\u2009m7", "C♯ E G♯ B", "every one a name", "B G♯ E",
    )  # fmt: skip


def test_a_click_on_a_chord_selects_it_in_text_and_song(chart, window, qtbot):
    cell = chart.page.canvas.scene.cells[2]
    qtbot.mouseClick(chart.page.canvas, Left, pos=centre(cell))
    assert window.desk.selection.index == 2
    assert chart.editor.textCursor().selectedText() == "D7"
    assert chart.page.canvas.selected == (0, 1, 1)


def test_the_cursor_in_the_text_selects_the_chord(chart, window):
    cursor = chart.editor.textCursor()
    cursor.setPosition(chart.editor.toPlainText().index("| G") + 3)
    chart.editor.setTextCursor(cursor)
    assert window.desk.selection.index == 3
    assert chart.page.canvas.selected == (0, 2, 0)


def test_bars_and_chords_are_edited_with_keys_and_undone(chart, window, qtbot):
    before = window.desk.state
    qtbot.mouseClick(chart.page.canvas, Left, pos=centre(chart.page.canvas.scene.cells[0]))
    chart.page.setFocus()
    qtbot.keyClick(chart.page, Key.Key_Insert)
    assert symbols(window) == ["C", "C", "Am7", "D7", "G", "F", "Dm"]
    qtbot.keyClick(chart.page, Key.Key_Slash)
    qtbot.keyClick(chart.page, Key.Key_Delete, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(chart.page, Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert "move a bar" in window.actions_["undo"].text()
    settle(window, qtbot)
    for _ in range(4):
        window.actions_["undo"].trigger()
    assert window.desk.state == before


def test_a_bar_is_dragged_to_another_place(chart, window, qtbot):
    canvas = chart.page.canvas
    first, third = canvas.scene.bars[0], canvas.scene.bars[2]
    start, end = (QPoint(int(b.x + 30), int(b.y + 40)) for b in (first, third))
    qtbot.mousePress(canvas, Left, pos=start)
    qtbot.mouseMove(canvas, end)
    qtbot.mouseRelease(canvas, Left, pos=end)
    assert symbols(window) == ["Am7", "D7", "G", "C", "F", "Dm"]


def test_a_chord_changes_places_by_key_and_by_mouse(chart, window, qtbot):
    canvas = chart.page.canvas
    qtbot.mouseClick(canvas, Left, pos=centre(canvas.scene.cells[1]))
    chart.page.setFocus()
    qtbot.keyClick(chart.page, Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert symbols(window) == ["C", "D7", "Am7", "G", "F", "Dm"]
    start, end = centre(canvas.scene.cells[1]), centre(canvas.scene.cells[2])
    qtbot.mousePress(canvas, Left, pos=start)
    qtbot.mouseMove(canvas, end)
    qtbot.mouseRelease(canvas, Left, pos=end)
    assert symbols(window) == ["C", "Am7", "D7", "G", "F", "Dm"]


def test_the_keys_own_chords_stand_over_the_page_and_a_found_key_is_told(chart, window):
    assert chart.scale.text() == "1 C   2 Dm   3 Em   4 F   5 G   6 Am   7 Bdim"
    assert "Bm7♭5" in chart.scale.toolTip()
    window.desk.type_text("| F | Gm7 | C7 | F |")
    assert "Found F major" in chart.help.text()
    assert chart.scale.text().startswith("1 F")


def choose_key(chart, name):
    """Choose another key in the box over the chart."""
    box = chart.tools.key
    place = next(n for n in range(box.count()) if box.itemText(n).startswith(f"{name} "))
    box.setCurrentIndex(place)
    box.activated.emit(place)


def test_another_key_shows_both_names_and_is_taken(chart, window, qtbot):
    choose_key(chart, "E♭")
    cell = chart.page.canvas.scene.cells[0]
    assert (cell.symbol, cell.was) == ("E♭", "C")
    assert window.desk.state.song.key == "C major"
    qtbot.mouseClick(chart.tools.take, Left)
    settle(window, qtbot)
    assert window.desk.state.song.key == "Eb major"
    assert chart.page.canvas.scene.cells[0].was == ""
    assert window.actions_["undo"].text() == "&Undo: play in E♭ major"


def test_typing_while_a_key_is_tried_tries_the_new_chart(chart, window, qtbot):
    choose_key(chart, "E♭")
    window.desk.type_text("key: C\n| F | G7 |")
    assert [(c.symbol, c.was) for c in chart.page.canvas.scene.cells] == [("A♭", "F"), ("B♭7", "G7")]
    qtbot.mouseClick(chart.tools.take, Left)
    assert symbols(window) == ["A♭", "B♭7"]


def test_simple_names_say_b_and_f(window, qtbot):
    window.rooms.show_room(CHART)
    window.desk.document.open(song_file(parse_chart("key: Gb\n| Cb | Gb |")), None)
    settle(window, qtbot)
    assert window.rooms.room(CHART).view.page.canvas.scene.cells[0].notes == "C♭ E♭ G♭"
    window.actions_["simple"].trigger()
    assert window.rooms.room(CHART).view.page.canvas.scene.cells[0].notes == "B E♭ G♭"
    names = {plate.mark.name for plate in window.home.view.map.canvas.scene.columns[0].plates}
    assert "C♭" not in names
    assert "B" in names


def test_tools_rest_while_the_text_is_at_fault(chart, window):
    assert chart.tools.buttons["insert"].isEnabled()
    window.desk.type_text("| C | Qq |")
    assert not chart.tools.buttons["insert"].isEnabled()


@pytest.mark.parametrize(
    ("name", "data", "title"), [("x.cho", CHORDPRO.encode(), "Quay Song"), ("x.musicxml", WHOLE, "By Hand")]
)
def test_a_foreign_song_opens_with_its_report(window, qtbot, tmp_path, monkeypatch, name, data, title):
    shown = []
    monkeypatch.setattr(looked_over.LookedOver, "exec", lambda self: shown.append(self.windowTitle()))
    path = tmp_path / name
    path.write_bytes(data)
    assert window.files.open_path(path)
    settle(window, qtbot)
    assert window.desk.state.song.title == title
    assert window.desk.document.path is None  # saving must not write over it
    assert path.read_bytes() == data
    assert len(shown) == (1 if name == "x.cho" else 0)


def test_the_page_fits_narrow_windows():
    song = parse_chart("| C | F | G | Am | C |")
    wide, narrow = chart_scene(song, 800), chart_scene(song, 320)
    assert max(c.x + c.width for c in narrow.cells) <= 320
    assert narrow.height > wide.height
    assert wide.cell_at(wide.cells[3].x + 5, wide.cells[3].y + 5).address == (0, 3, 0)


@pytest.mark.parametrize("seed", range(12))
def test_a_page_laid_out_over_edits_is_the_page_laid_out_anew(seed):
    by, laid, song = Random(seed), {}, Song()
    rows = made_up(by).splitlines()
    for _ in range(8):
        song = followed(song, read_chart("\n".join(rows)).song)  # as it is typed: bars stay who they are
        scene = chart_scene(song, 800, laid=laid)
        assert scene == chart_scene(song, 800)
        for row in (scene.cells, scene.bars):
            top = by.uniform(-50, scene.height)
            seen = [each for each in row if top - ROW_H <= each.y <= top + 200]
            assert list(in_sight(row, QRectF(0, top, 800, 200))) == seen
        at = by.randrange(len(rows))
        rows[at : at + by.randint(0, 1)] = [
            by.choice((*rows, "|: C | F |1. G :|2. C |", "[New]", "| (3/4) Am | Dm :|x3"))
        ]


@pytest.mark.parametrize(
    "texts",
    [
        ("| C |1. F | G :|2. A |", "| C | F |1. G :|2. A |"),
        ("key: C\n| C |\n[B]\n| G |", "key: C\n| C | F |\n[B]\n| G |"),
    ],
)
def test_signs_and_numbers_that_other_bars_decide_are_laid_out_anew(texts):
    laid, song = {}, Song()
    for text in texts:
        song = followed(song, parse_chart(text))
        assert chart_scene(song, 800, laid=laid) == chart_scene(song, 800)


def test_the_cursor_in_a_bar_that_only_the_faulty_text_has_does_no_harm(chart, window, qtbot):
    window.desk.type_text("| C |")
    settle(window, qtbot)
    text = "| C | F |\n[New]\n| G | Qm7 Am |"
    chart.editor.setPlainText(text)
    for place in range(len(text)):
        cursor = chart.editor.textCursor()
        cursor.setPosition(place)
        chart.editor.setTextCursor(cursor)
        names = "bar_insert chord_split chord_delete chord_earlier chord_later bar_earlier bar_later"
        for name in names.split():
            window.actions_[name].trigger()
        assert chart.editor.toPlainText() == text
    assert "has to wait" in window.teller.line.text()


def test_an_edit_that_cannot_be_done_says_why(chart, window, qtbot):
    window.desk.type_text("pickup: 1\n| C | F | G |")
    settle(window, qtbot)
    window.desk.edit_chart("move a bar", lambda song: move_bar(song, (0, 0), 2))
    assert "the pickup is the song's first bar" in window.teller.line.text()
    assert window.desk.state.text == "pickup: 1\n| C | F | G |"


def test_letters_over_a_number_are_a_mistake_with_what_is_meant(chart, window, qtbot):
    for count in range(1, len("| F7/4 | F |") + 1):
        chart.editor.setPlainText("| F7/4 | F |"[:count])
    settle(window, qtbot)
    assert [fault.suggestion for fault in window.desk.document.reading.faults] == ["F7sus4"]


def test_chords_above_words_are_pasted_as_a_chart(chart, window, qtbot):
    from PySide6.QtCore import QMimeData

    pasted = QMimeData()
    pasted.setText("Ferry\n\n[Verse]\nC     Am\nhome again\nF   G7\nby night\n")
    chart.editor.selectAll()
    chart.editor.insertPlainText("")
    chart.editor.insertFromMimeData(pasted)
    settle(window, qtbot)
    assert window.desk.state.song.title == "Ferry"
    assert [slot.symbol for bar in window.desk.state.song.sections[0].bars for slot in bar.slots] == [
        "C",
        "Am",
        "F",
        "G7",
    ]
    assert "bars are guessed" in window.teller.warning.words.text()
    plain = QMimeData()
    plain.setText("| D | % |\n")
    chart.editor.moveCursor(chart.editor.textCursor().MoveOperation.End)
    chart.editor.insertFromMimeData(plain)
    assert window.desk.state.text.endswith("| D | % |\n")


def test_more_than_a_song_holds_is_pasted_as_it_is_and_said(chart, window):
    from PySide6.QtCore import QMimeData

    pasted = QMimeData()
    pasted.setText("C G Am F C G Am F C G\nla la la\n" * 420)
    chart.editor.selectAll()
    chart.editor.insertFromMimeData(pasted)
    assert chart.editor.toPlainText() == pasted.text()
    assert "more than 4000 chords" in window.teller.warning.words.text()
