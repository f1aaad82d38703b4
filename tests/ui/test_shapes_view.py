"""The Shapes view: keys are read, stand over twelve basses and in twelve keys, and go into the song."""

import json

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.cli.main import main
from yellow_hinge.core.symbols.naming import name_notes
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.shapes.room import SHAPES

Key, LEFT, NONE = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def room(window, monkeypatch):
    monkeypatch.setattr(window.live.output, "start", lambda source: None)
    window.rooms.show_room(SHAPES)
    return window.rooms.room(SHAPES)


def click(room, midi):
    keys = room.view.keys.keys
    at = QPoint(round(keys.centre(midi)), round(keys.y + keys.height * (0.3 if midi % 12 in (1, 3, 6, 8, 10) else 0.9)))
    QTest.mouseClick(room.view.keys, LEFT, NONE, at)


def test_keys_are_held_by_mouse_by_midi_and_by_name_and_read_at_once(room, window):
    for midi in (48, 58, 64, 69):
        click(room, midi)
    assert (room.both.left, room.both.right) == ((48, 58), (64, 69))
    assert room.view.heading.text() == "C13"
    click(room, 69)
    assert room.midis == (48, 58, 64)
    window.live.notes.press(57)
    window.live.notes.press(60)
    window.live.notes.press(64)
    assert room.view.heading.text() == "Am"
    window.live.notes.lift(57)
    for midi in (60, 64):
        window.live.notes.lift(midi)
    assert room.midis  # what was held last stays to be looked at
    room.view.names.setText("Db3 F3 Cb4 G4")
    QTest.keyClick(room.view.names, Key.Key_Return)
    assert room.view.heading.text() == "D♭7♯11"
    assert [mark.name for mark in room.view.keys.marks] == ["D♭", "F", "C♭", "G"]
    room.view.names.setText("Db3 what")
    QTest.keyClick(room.view.names, Key.Key_Return)
    assert room.view.told.text().startswith("'what' is not a pitch")
    QTest.keyClick(room.view, Key.Key_Delete)
    assert room.midis == ()
    assert not room.view.put.isEnabled()


def test_room_and_verbs_say_the_same(room, window, capsys):
    room.view.names.setText("A3 C4 E4")
    QTest.keyClick(room.view.names, Key.Key_Return)
    room.toggle(57)  # the right hand alone: C4 E4
    room.toggle(57)
    key = str(room.key)
    hand = " ".join(["C4", "E4"])
    assert main(["ring", hand, "--key", key, "--json"]) == 0
    told = [row["symbol"] for row in json.loads(capsys.readouterr().out)["basses"]]
    rows = room.view.lists["basses"]
    room._fill()
    assert [rows.item(n).data(Qt.ItemDataRole.UserRole).id or None for n in range(rows.count())] == told
    room.view.show_page("keys")
    assert room.view.list.count() == 12
    assert main(["over", "L A3", "--key", key, "--json"]) == 0
    reads = [row["reads"] for row in json.loads(capsys.readouterr().out)["uppers"] if row["reads"]]
    room.view.show_page("above")
    above = room.view.list
    assert [above.item(n).data(Qt.ItemDataRole.UserRole).id for n in range(above.count())] == reads


def test_the_same_hand_over_another_bass_is_taken_into_the_song_and_undone(room, window, qtbot):
    window.desk.selection.go(2)
    before = window.desk.state
    QTest.keyClick(room.view, Key.Key_R)
    hand = room.hand
    qtbot.waitUntil(lambda: room.view.list.count() == 12, timeout=5_000)
    QTest.keyClick(room.view, Key.Key_Down)
    row = room.view.list.cursor_row
    assert room.view.ring.at == 1
    QTest.keyClick(room.view, Key.Key_Return)
    settle(window, qtbot)
    voicing = window.desk.solution.voicings[2]
    assert voicing.both.right == hand
    assert voicing.both.left == (row.notes[0][0],)
    assert name_notes((*voicing.both.left, *voicing.both.right), None, room.key)[0].symbol == row.id
    window.desk.document.undo()
    assert window.desk.state == before


def test_in_the_list_of_hinges_enter_takes_a_hand_over_another_bass_too(window, qtbot):
    window.desk.selection.go(2)
    hand = window.desk.selection.voicing.right
    window.home.view.side.show_page("basses")
    page = window.home.view.side.pages.page("basses")
    page.list.setCurrentRow(3)
    row = page.list.currentItem().data(Qt.ItemDataRole.UserRole)
    before = window.desk.state
    page.take()
    settle(window, qtbot)
    assert window.rooms.now_handle is HINGES
    assert window.desk.solution.voicings[2].both == ((row.notes[0][0],), hand)
    window.desk.document.undo()
    assert window.desk.state == before


def test_where_it_could_stand_is_found_with_its_cost_and_put_there(room, window, qtbot):
    window.desk.selection.go(5)
    room.read_chord()
    room.view.show_page("song")
    qtbot.waitUntil(lambda: room.view.list.item(0).data(Qt.ItemDataRole.UserRole).id == "stand", timeout=30_000)
    rows = [room.view.list.item(n).data(Qt.ItemDataRole.UserRole) for n in range(room.view.list.count())]
    assert all("costs" in row.words for row in rows)
    own = next(row for row in rows if row.chord == 5)
    assert own.words.endswith("costs +0.0")
    other = next(row for row in rows if row.chord != 5)
    room._take_row(other)
    settle(window, qtbot)
    assert window.desk.selection.index == other.chord
    both = window.desk.solution.voicings[other.chord].both
    assert (*both.left, *both.right) == tuple(midi for midi, _ in other.notes)


def test_hands_become_a_shape_of_mine(room, window, monkeypatch):
    monkeypatch.setattr(room, "shell", room.shell._replace(ask_name=lambda question, proposed: "Mine"))
    window.desk.selection.go(1)
    room.read_chord()
    QTest.keyClick(room.view, Key.Key_M)
    assert [shape.name for shape in window.desk.state.setup.player.shapes] == ["Mine"]
    assert [shape.name for shape in window.preferences.shapes] == ["Mine"]


def test_ten_keys_that_come_together_are_read_one_by_one_and_listed_once(room, window, qtbot, monkeypatch):
    filled = []
    monkeypatch.setattr(room.view.ring, "show_rows", lambda rows, at: filled.append(len(rows)))
    for midi in range(48, 58):
        window.live.notes.press(midi)
        assert room.midis == tuple(range(48, midi + 1))
        assert room.view.heading.text()
    qtbot.waitUntil(lambda: bool(filled), timeout=5_000)
    assert filled == [12]


def rows_of(room, qtbot, page):
    room.view.show_page(page)
    rows = room.view.lists[page]
    qtbot.waitUntil(
        lambda: rows.count() > 0 and rows.item(0).data(Qt.ItemDataRole.UserRole).title != "Looking", timeout=30_000
    )
    return [rows.item(n).data(Qt.ItemDataRole.UserRole) for n in range(rows.count())]


def test_one_idea_is_seen_on_every_chord_and_put_into_the_song(room, window, qtbot):
    window.desk.selection.go(2)
    room.read_chord()
    rows = rows_of(room, qtbot, "idea")
    slots = {voicing.here.slot_id for voicing in window.desk.solution.voicings}
    assert len(rows) == len(slots)
    assert sum(row.moving for row in rows) > len(rows) / 2
    row = next(row for row in rows if row.chord == 6)
    room._take_row(row)
    settle(window, qtbot)
    assert window.desk.selection.index == 6
    both = window.desk.solution.voicings[6].both
    assert (*both.left, *both.right) == tuple(midi for midi, _ in row.notes)
    room.toggle(30)  # too low for any hand of the song, and no chord's shape
    room.clear()
    assert room.view.list.count() == 0 or not room.midis


def test_every_shape_of_a_chord_is_that_chord(room, window, qtbot):
    room.write("C2 Bb2 E3 Ab3 Db4 Gb4")
    rows = rows_of(room, qtbot, "ways")
    assert len(rows) >= 3
    assert all("reads as C7alt" in row.words for row in rows)
    qtbot.keyClick(room.view, Key.Key_Down)
    assert room.view.foot.text().startswith(rows[0].title)


def test_marked_hands_go_onto_the_shelf_are_found_first_and_taken(room, window, qtbot, monkeypatch):
    monkeypatch.setattr(room.shelf, "shell", room.shell._replace(ask_name=lambda question, proposed: "My turn"))
    window.desk.selection.go(1)
    window.desk.selection.mark_to(3)
    hands = [voicing.both for voicing in window.desk.solution.voicings[1:4]]
    QTest.keyClick(room.view, Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    assert (window.places.config / "mine" / "shelf" / "my-turn.toml").is_file()
    assert "My turn is on the shelf" in window.teller.line.text()
    window.desk.selection.unmark()
    window.desk.selection.go(1)
    qtbot.waitUntil(lambda: not room._soon.isActive(), timeout=5_000)
    rows = rows_of(room, qtbot, "shelf")
    first = rows[0]
    assert (first.figure, first.title) == ("mine", "My turn")
    assert rows
    before = window.desk.state
    room.view.list.setCurrentRow(0)
    QTest.keyClick(room.view, Key.Key_Return)
    settle(window, qtbot)
    assert [voicing.both for voicing in window.desk.solution.voicings[1:4]] == hands
    assert len(window.desk.state.keeps) == 3
    window.desk.document.undo()
    assert window.desk.state == before
    window.rooms.show_room(HINGES)
    home = window.rooms.room(HINGES)
    window.desk.selection.go(0)
    window.desk.selection.go(1)
    qtbot.waitUntil(lambda: home.view.options.mine.isVisible(), timeout=5_000)
    assert home.view.options.mine.text() == "Mine: My turn, 3 chords"
    QTest.keyClick(home.view, Key.Key_M, Qt.KeyboardModifier.AltModifier)
    settle(window, qtbot)
    assert [voicing.both for voicing in window.desk.solution.voicings[1:4]] == hands
    window.desk.document.undo()
    window.desk.selection.go(0)
    assert not home.view.options.mine.isVisible()
    window.rooms.show_room(SHAPES)
    window.desk.selection.go(1)
    shelf = window.places.config / "mine" / "shelf"
    room.view.list.setCurrentRow(0)
    QTest.keyClick(room.view, Key.Key_Delete, Qt.KeyboardModifier.ShiftModifier)
    assert "My turn is off the shelf" in window.teller.line.text()
    assert (shelf / "off" / "my-turn.toml").is_file()
    assert "My turn" not in [row.title for row in rows_of(room, qtbot, "shelf")]
    room.view.list.setCurrentRow(0)
    room.shelf.take_off()
    assert room.view.foot.text().startswith("Only what is mine")
    (shelf / "bad.toml").write_text("id = ", "utf-8")
    room._fill()
    qtbot.waitUntil(lambda: room.view.foot.text().startswith("Left out: shelf/bad.toml, line 1"), timeout=5_000)


def test_the_catalogue_is_browsed_sifted_heard_and_taken(room, window, qtbot):
    room.view.show_page("atlas")
    page = room.view.atlas
    qtbot.waitUntil(lambda: len(page.model.rows) > 10, timeout=20_000)
    assert not room.view.side.isVisible()
    QTest.keyClick(room.view, Key.Key_Down)
    QTest.keyClick(room.view, Key.Key_BracketRight)
    cell = page.cell
    assert (page.table.currentIndex().row(), page.table.currentIndex().column()) == (1, 1)
    assert room.view.foot.text().startswith(f"{page.model.rows[1].shape.name} on ")
    before = window.desk.state
    QTest.keyClick(room.view, Key.Key_Return)
    settle(window, qtbot)
    assert window.desk.solution.voicings[window.desk.selection.index].both == cell.making.both
    window.desk.document.undo()
    assert window.desk.state == before
    every = len(page.model.rows)
    page.manner.setCurrentIndex(page.manner.findText("Pop"))
    page.manner.activated.emit(0)
    assert 0 < len(page.model.rows) < every
    page.sizes.setCurrentIndex(2)
    page.reach.setChecked(True)
    shown = [page.model.shown(page.model.index(r, c)) for r in range(len(page.model.rows)) for c in range(8)]
    assert all((len(own.making.both.left), len(own.making.both.right)) == (1, 4) for own in shown if own.making)
    page.bass.setCurrentIndex(1)
    page.bass.activated.emit(1)
    qtbot.waitUntil(lambda: all(row.shape.suits("theirs") for row in page.model.every), timeout=20_000)
    page.grab()
    room.view.show_page("basses")
    assert room.view.side.isVisible()


def test_one_idea_is_printed_as_a_page_of_its_own(room, window, qtbot, tmp_path):
    assert room.pages() == ()
    room.write("E3 D#4 G#4 B4 F#5")
    room.view.show_page("idea")
    qtbot.waitUntil(lambda: bool(room.idea), timeout=20_000)
    words = " ".join(text.words for page in room.pages() for text in page.texts)
    assert "one idea: the shape of Emaj9, E3 D♯4 G♯4 B4 F♯5" in words
    assert window.out.export_to(tmp_path / "idea.pdf")
    assert (tmp_path / "idea.pdf").read_bytes()[:4] == b"%PDF"
    room.view.show_page("basses")
    assert room.pages() == ()


def test_an_entry_of_the_shelf_goes_round_the_keys_and_is_remembered_by_itself(room, window, qtbot):
    window.desk.type_text("key: C\n| C | F | Fm | C |")
    settle(window, qtbot)
    window.desk.selection.go(1)
    qtbot.waitUntil(lambda: not room._soon.isActive(), timeout=5_000)
    rows = rows_of(room, qtbot, "shelf")
    at = next(n for n, row in enumerate(rows) if row.id.startswith("fit "))
    room.view.list.setCurrentRow(at)
    entry = room.shelf.entry
    QTest.keyClick(room.view, Key.Key_R, Qt.KeyboardModifier.ShiftModifier)
    practice = window.rooms.room(PRACTICE)
    qtbot.waitUntil(lambda: practice.session is not None, timeout=20_000)
    assert (practice.session.piece.song, practice.session.piece.title) == (f"shelf:{entry.id}", entry.name)
    assert len(practice.session.programme.found) == 12
    practice.session.end()
