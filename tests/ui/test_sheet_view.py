"""The Sheet view by mouse and by keys: kinds and choices, a chord picked, notes typed, twelve keys, files and paper."""

import pypdf
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtPrintSupport import QPrinter, QPrinterInfo
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.core.song.song import Memo
from yellow_hinge.ui.dialogs import asking, print_dialog
from yellow_hinge.ui.paint.theme import DARK
from yellow_hinge.ui.sheet import pages_canvas
from yellow_hinge.ui.sheet.room import SHEET

Key, Mods = Qt.Key, Qt.KeyboardModifier
CHART = "title: On the stand\nkey: C\n[Verse]\n|: C | Am7 | Dm9 G13 | C :|\ncue: | one | two | three / four | five |\n"


@pytest.fixture
def sheet(window, qtbot):
    window.desk.type_text(CHART)
    settle(window, qtbot)
    window.rooms.show_room(SHEET)
    ready(window, qtbot)
    return window


def room(window):
    return window.rooms.room(SHEET)


def view(window):
    return window.rooms.room(SHEET).view


def ready(window, qtbot):
    """What was asked for last is shown."""
    works = room(window)
    qtbot.waitUntil(lambda: works.sheet.number == works.solver.asked and bool(works.sheet.pages), timeout=60_000)


def choose(window, qtbot, box, value):
    """Choose a value of a box as a player does."""
    index = box.findData(value)
    assert index >= 0
    box.setCurrentIndex(index)
    box.activated.emit(index)
    ready(window, qtbot)


def words(window):
    return [text.words for page in room(window).sheet.pages for text in page.texts]


def test_the_sheet_shows_the_song_and_follows_edits(sheet, qtbot):
    assert "On the stand" in words(sheet)
    assert {"C", "Am7", "Dm9", "G13"} <= set(words(sheet))
    assert view(sheet).told.text() == "1 page"
    sheet.desk.type_text(CHART.replace("Am7", "Em7"))
    settle(sheet, qtbot)
    ready(sheet, qtbot)
    assert "Em7" in words(sheet)
    assert "Am7" not in words(sheet)


def test_kinds_sizes_papers_and_parts_are_chosen_and_remembered(sheet, qtbot):
    parts = view(sheet)
    choose(sheet, qtbot, parts.kind, "line")
    assert "L" not in words(sheet)
    choose(sheet, qtbot, parts.kind, "staves")
    assert room(sheet).sheet.pages[0].outlines
    choose(sheet, qtbot, parts.kind, "cheat")
    choose(sheet, qtbot, parts.paper, "tablet")
    choose(sheet, qtbot, parts.lies, "1")
    page = room(sheet).sheet.pages[0]
    assert (page.w, page.h) == (216.0, 162.0)
    boxes = len(page.boxes)
    QTest.mouseClick(parts.shown["keyboards"], Qt.MouseButton.LeftButton)
    ready(sheet, qtbot)
    assert len(room(sheet).sheet.pages[0].boxes) < boxes
    kept = sheet.preferences.settings.sheet
    assert (kept.paper, kept.landscape, "keyboards" in kept.show) == ("tablet", True, False)


def test_another_key_is_written_without_changing_the_song(sheet, qtbot):
    before = sheet.desk.state
    choose(sheet, qtbot, view(sheet).key, "Eb")
    assert sheet.desk.state == before
    choose(sheet, qtbot, view(sheet).sounds, "E")
    assert {"E♭", "Cm7", "Fm9", "B♭13"} <= set(words(sheet))
    assert any("transpose set to +1" in text for text in words(sheet))
    assert sheet.desk.state.song == before.song
    assert sheet.preferences.settings.sheet.key == ""  # for this song and now


def test_a_transposed_keyboard_is_heard_so_and_undone(sheet, qtbot):
    sheet.desk.selection.go(0)
    low = sheet.desk.selection.voicing.left[0]
    choose(sheet, qtbot, view(sheet).sounds, "D")
    QTest.keyClick(view(sheet), Key.Key_P)
    qtbot.waitUntil(lambda: bool(sheet.output.started), timeout=40_000)
    assert min(note.midi for note in sheet.output.started[-1].notes) == low + 2
    assert sheet.listening.performance.sounding(sheet.listening.performance.struck[0]) - 2 == (
        sheet.listening.performance.struck[0].midi
    )
    sheet.desk.document.undo()
    assert sheet.desk.state.playing.sounds == ""
    assert view(sheet).sounds.currentData() == ""
    assert sheet.listening.player.shift == 0


def test_a_click_picks_the_chord_and_arrows_go_on(sheet, qtbot):
    canvas = view(sheet).canvas
    place = canvas.place_of(2)
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, Mods.NoModifier, place.center().toPoint())
    assert sheet.desk.selection.index == 2
    assert canvas.selected == 2
    QTest.keyClick(view(sheet), Key.Key_Right)
    assert (sheet.desk.selection.index, canvas.selected) == (3, 3)
    for _ in range(3):
        QTest.keyClick(view(sheet), Key.Key_Right)
    assert (sheet.desk.selection.index, canvas.selected) == (6, 1)  # the second pass stands where it is written
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, Mods.NoModifier, QPoint(2, 2))
    assert sheet.desk.selection.index == 6


def test_notes_are_typed_shown_undone_and_saved(sheet, qtbot, tmp_path):
    parts = view(sheet)
    sheet.desk.selection.go(1)
    assert "Am7, bar 2" in parts.chord_words.text()
    parts.chord_note.setFocus()
    QTest.keyClicks(parts.chord_note, "let it ring")
    QTest.keyClick(parts.chord_note, Key.Key_Return)
    ready(sheet, qtbot)
    slot = sheet.desk.selection.moment.slot_id
    assert sheet.desk.state.memos == (Memo(slot, "let it ring"),)
    assert "» let it ring" in words(sheet)
    parts.song_note.setFocus()
    QTest.keyClicks(parts.song_note, "slower tonight")
    QTest.keyClick(parts.song_note, Key.Key_Return)
    assert Memo(0, "slower tonight") in sheet.desk.state.memos
    sheet.desk.document.undo()
    assert sheet.desk.state.memos == (Memo(slot, "let it ring"),)
    assert parts.song_note.text() == ""
    sheet.desk.selection.go(0)
    assert parts.chord_note.text() == ""
    sheet.desk.document.save(tmp_path / "a.hinge")
    assert b"let it ring" in (tmp_path / "a.hinge").read_bytes()


def test_letters_in_a_note_are_no_commands(sheet, qtbot):
    parts = view(sheet)
    before = sheet.desk.state.keeps
    parts.chord_note.setFocus()
    QTest.keyClicks(parts.chord_note, "k p space 1+")
    assert parts.chord_note.text() == "k p space 1+"
    assert sheet.desk.state.keeps == before
    assert not sheet.listening.player.playing


def test_twelve_keys_follow_the_selected_chord(sheet, qtbot):
    parts = view(sheet)
    assert parts.stretch.isHidden()
    choose(sheet, qtbot, parts.kind, "twelve")
    assert not parts.stretch.isHidden()
    assert {"C", "F", "B♭", "E♭"} <= set(words(sheet))
    sheet.desk.selection.go(1)
    ready(sheet, qtbot)
    assert {"Am7", "Dm7", "Gm7"} <= set(words(sheet))
    choose(sheet, qtbot, parts.stretch, "section")
    QTest.mouseClick(parts.a_page, Qt.MouseButton.LeftButton)
    ready(sheet, qtbot)
    assert len(room(sheet).sheet.pages) == 12


def test_the_mix_is_offered_where_there_are_takes(sheet, qtbot):
    parts = view(sheet)
    assert parts.of.isHidden()
    sheet.desk.document.do(Edit("three", takes.three(sheet.desk.state)))
    settle(sheet, qtbot)
    ready(sheet, qtbot)
    assert not parts.of.isHidden()
    choose(sheet, qtbot, parts.of, "mix")
    assert any("the mix" in text for text in words(sheet))


def test_a_page_is_painted_once_for_its_size_and_colours(sheet, qtbot, monkeypatch):
    canvas, painted = view(sheet).canvas, []
    real = pages_canvas.Painting
    monkeypatch.setattr(pages_canvas, "Painting", lambda *asked: painted.append(asked[1]) or real(*asked))
    monkeypatch.setattr(pages_canvas, "PIECE_S", 0.0)
    canvas._kept.clear()
    pieces = []

    def seen():
        pieces.append(canvas.grab().toImage())
        return seen() if canvas.unfinished else pieces[-1]

    first = seen()
    assert len(set(map(bytes, (image.constBits() for image in pieces)))) > 1  # piece by piece
    count = len(painted)
    assert count == len(canvas.pages)
    sheet.desk.selection.go(2)
    marked = seen()
    assert marked != first  # the frame is another one, on the same picture
    assert len(painted) == count
    sheet.desk.selection.go(0)
    assert seen() == first
    view(sheet).set_theme(DARK)
    seen()
    assert len(painted) == 2 * count
    whole, paint = [], pages_canvas.paint_page
    monkeypatch.setattr(pages_canvas, "paint_page", lambda *asked: whole.append(asked[1]) or paint(*asked))
    monkeypatch.setattr(pages_canvas, "MOST_KEPT", 1000)
    canvas.grab()  # painted as they are seen, all at once
    assert (whole, len(painted), canvas.unfinished) == (list(canvas.pages), 2 * count, False)


def test_zoom_and_pages_by_keys(sheet, qtbot):
    canvas, shown = view(sheet).canvas, view(sheet)
    shown.setFocus()
    first = canvas.scale
    QTest.keyClick(shown, Key.Key_Plus)
    assert canvas.scale == pytest.approx(first * 1.25)
    QTest.keyClick(shown, Key.Key_Escape)
    assert canvas.scale == pytest.approx(first)
    sheet.desk.type_text("[A]\n| " + " | ".join(["C F G Am"] * 40) + " |\n")
    settle(sheet, qtbot)
    ready(sheet, qtbot)
    bar = shown.pages_area.verticalScrollBar()
    QTest.keyClick(shown, Key.Key_PageDown)
    assert bar.value() == round(canvas.tops()[1]) - 14
    QTest.keyClick(shown, Key.Key_PageUp)
    assert bar.value() == 0


@pytest.mark.parametrize("ending", [".pdf", ".svg", ".png", ".musicxml"])
def test_the_pages_are_exported_as_they_are_shown(sheet, qtbot, tmp_path, monkeypatch, ending):
    choose(sheet, qtbot, view(sheet).key, "D")
    target = tmp_path / f"out{ending}"
    monkeypatch.setattr(asking, "file_to_write", lambda *_: (str(target), ""))
    QTest.mouseClick(view(sheet).export, Qt.MouseButton.LeftButton)
    data = target.read_bytes()
    if ending == ".pdf":
        assert "Bm7" in pypdf.PdfReader(target).pages[0].extract_text()
    elif ending == ".svg":
        assert b"Bm7" in data
    elif ending == ".musicxml":
        assert b"<fifths>2</fifths>" in data
    else:
        assert data.startswith(b"\x89PNG")


def test_the_pages_are_printed(sheet, qtbot, tmp_path, monkeypatch):
    target = tmp_path / "paper.pdf"

    def printed(dialog):
        assert dialog.printers.currentText() == "Harbour office"
        assert dialog.last.maximum() == 1
        dialog.copies.setValue(2)
        dialog.both_sides.setChecked(True)
        dialog.buttons[print_dialog.PRINT].click()
        return dialog.result()

    def to_file(dialog, printer):
        tell(dialog, printer)
        assert (printer.fromPage(), printer.toPage()) == (1, 1)
        assert printer.copyCount() == 2
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(target))

    tell = print_dialog.PrintDialog.tell
    names = ["Galley", "Harbour office"]
    monkeypatch.setattr(QPrinterInfo, "availablePrinterNames", lambda: names)
    monkeypatch.setattr(QPrinterInfo, "defaultPrinterName", lambda: "Harbour office")
    monkeypatch.setattr(print_dialog.PrintDialog, "exec", printed)
    monkeypatch.setattr(print_dialog.PrintDialog, "tell", to_file)
    sheet.actions_["print_sheet"].trigger()
    assert len(pypdf.PdfReader(target).pages) == 1
    names.clear()  # no printer: it says what to do, and offers nothing that cannot be done
    shown = []
    monkeypatch.setattr(print_dialog.PrintDialog, "exec", lambda dialog: shown.append(list(dialog.buttons)))
    sheet.actions_["print_sheet"].trigger()
    assert shown == [[asking.AWAY]]


def test_notes_on_staves_are_heard_where_they_are_clicked_and_the_sheet_follows_playing(sheet, qtbot):
    parts = view(sheet)
    choose(sheet, qtbot, parts.kind, "staves")
    canvas = parts.canvas
    page, top = canvas.pages[0], canvas.tops()[0]
    area = next(area for area in page.areas if area.midi >= 0 and area.voicing == 2)
    at = canvas._area(area, top).center().toPoint()
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    assert sheet.desk.selection.index == 2
    assert area.midi in (*sheet.desk.selection.voicing.left, *sheet.desk.selection.voicing.right)
    qtbot.waitUntil(lambda: bool(sheet.output.started), timeout=40_000)
    assert [note.midi for note in sheet.output.started[-1].notes] == [area.midi]
    sheet.listening.player.at.emit(8)  # the second pass of what stands there once
    assert canvas.playing == 3
    assert not canvas.place_of(3).isEmpty()
    sheet.listening.player.at.emit(-1)
    assert canvas.playing == -1


def test_what_is_marked_goes_through_twelve_keys(sheet, qtbot):
    parts = view(sheet)
    sheet.desk.selection.mark_places(range(1, 4))
    choose(sheet, qtbot, parts.kind, "twelve")
    choose(sheet, qtbot, parts.stretch, "mark")
    assert "Verse, Am7 to G13" in words(sheet)
