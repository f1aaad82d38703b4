"""The Takes view by mouse and by keys: takes made, shown, moved, compared, heard; the mix chosen, played, exported."""

import mido
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.takes import switched
from yellow_hinge.core.takes.mixing import choices
from yellow_hinge.core.takes.things import KEEPS
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.takes.room import TAKES

Key, Mods = Qt.Key, Qt.KeyboardModifier


@pytest.fixture
def three(window, qtbot):
    window.desk.type_text("tempo: 240\n[Verse]\n|: C | Am7 | F | G7 :|\n[Bridge]\n| Dm7 | G7 |\n")
    settle(window, qtbot)
    window.rooms.show_room(TAKES)
    QTest.mouseClick(window.rooms.room(TAKES).view.buttons["three"], Qt.MouseButton.LeftButton)
    ready(window, qtbot, 4)
    return window


def worker(window):
    return window.rooms.room(TAKES)


def ready(window, qtbot, count):
    """Every take of the desk's state is solved."""
    room = worker(window)
    qtbot.waitUntil(
        lambda: (
            room.found is not None
            and room.found.done
            and room.found.state == window.desk.state
            and len(room.found.rows) == count
        ),
        timeout=40_000,
    )


def test_takes_are_made_shown_renamed_moved_deleted_and_undone(three, qtbot, monkeypatch):
    desk, view, room = three.desk, three.rooms.room(TAKES).view, worker(three)
    assert [take.name for take in view.canvas.scene.takes] == ["Take 1", "Plain", "Coloured", "High"]
    first = desk.state
    QTest.keyClick(view, Key.Key_Down)
    QTest.keyClick(view, Key.Key_Down)
    QTest.keyClick(view, Key.Key_Return)
    settle(three, qtbot)
    assert desk.state.name == "Coloured"
    assert three.header.facts.text().startswith("Coloured")
    assert desk.state.setup.colour == 2
    ready(three, qtbot, 4)
    assert any(chord.differs for chord in view.canvas.scene.takes[2].chords)
    assert not any(chord.differs for chord in view.canvas.scene.takes[0].chords)
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.name", lambda *_: "Velvet")
    QTest.keyClick(three, Key.Key_F2)
    assert desk.state.name == "Velvet"
    QTest.keyClick(three, Key.Key_Up, Mods.ControlModifier)
    assert [take.name for take in desk.state.takes] == ["Take 1", "Velvet", "Plain", "High"]
    ready(three, qtbot, 4)
    QTest.mouseClick(view.buttons["delete"], Qt.MouseButton.LeftButton)
    assert [take.name for take in desk.state.takes] == ["Take 1", "Plain", "High"]
    QTest.keyClick(three, Key.Key_T, Mods.ControlModifier)
    assert len(desk.state.takes) == 4
    for _ in range(5):
        desk.document.undo()
    settle(three, qtbot)
    assert desk.state == first
    ready(three, qtbot, 4)
    assert room.at <= 3


def test_a_click_looks_at_a_take_a_double_click_shows_it_and_other_views_follow(three, qtbot):
    view = three.rooms.room(TAKES).view
    scene = view.canvas.scene
    at = QPoint(40, int(scene.takes[1].y + 30))
    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, pos=at)
    assert worker(three).at == 1
    assert three.desk.state.name == "Take 1"
    QTest.mouseDClick(view.canvas, Qt.MouseButton.LeftButton, pos=at)
    assert three.desk.state.name == "Plain"
    three.rooms.show_room(HINGES)
    QTest.keyClick(three, Key.Key_PageDown, Mods.ControlModifier)
    settle(three, qtbot)
    assert three.desk.state.name == "Coloured"
    assert "Coloured" in three.header.facts.text()
    three.desk.type_text(three.desk.state.text.replace("Dm7", "D7"))
    settle(three, qtbot)
    QTest.keyClick(three, Key.Key_PageUp, Mods.ControlModifier)
    assert "Dm7" in three.desk.state.text


def test_two_takes_are_compared_chord_by_chord_and_heard_in_turn(three, qtbot):
    view = three.rooms.room(TAKES).view
    QTest.keyClick(view, Key.Key_Down)
    QTest.keyClick(view, Key.Key_Down)
    view.buttons["compare"].click()
    table = view.table
    assert table.isVisible()
    assert table.rowCount() == len(three.desk.solution.voicings)
    assert table.item(1, 0).text() == "Am7"
    assert any(table.item(row, 8).text() for row in range(table.rowCount()))
    QTest.keyClick(view, Key.Key_Escape)
    assert not table.isVisible()
    view.buttons["turn"].click()
    qtbot.waitUntil(lambda: bool(three.output.started), timeout=40_000)
    assert three.output.started[0].back == 0
    three.listening.stop()


def test_a_section_is_taken_from_another_take(three, qtbot):
    desk = three.desk
    QTest.keyClick(three, Key.Key_PageDown, Mods.ControlModifier)
    desk.type_text(desk.state.text.replace("Dm7", "D7"))
    settle(three, qtbot)
    QTest.keyClick(three, Key.Key_PageUp, Mods.ControlModifier)
    settle(three, qtbot)
    ready(three, qtbot, 4)
    desk.selection.go(8)
    menu = three.rooms.room(TAKES).view.copy.menu()
    menu.aboutToShow.emit()
    names = [action.text() for action in menu.actions()]
    assert names == ["Bridge from Plain", "Bridge from Coloured", "Bridge from High"]
    menu.actions()[0].trigger()
    assert "D7" in desk.state.text


def test_the_mix_is_chosen_by_keys_heard_and_exported(three, qtbot, tmp_path):
    desk, view, room = three.desk, three.rooms.room(TAKES).view, worker(three)
    cells = view.cells
    assert [cell.name for cell in cells.cells] == ["Verse", "Verse 2", "Bridge"]
    cells.setFocus()
    QTest.keyClick(cells, Key.Key_3)
    QTest.keyClick(cells, Key.Key_Right)
    QTest.keyClick(cells, Key.Key_Down)
    QTest.keyClick(cells, Key.Key_Right)
    QTest.keyClick(cells, Key.Key_4)
    ready(three, qtbot, 4)
    assert [cell.take for cell in cells.cells] == ["Coloured", "Plain", "High"]
    assert [cell.joint for cell in cells.cells][2] == ""
    assert "semitones into this pass" in view.words.text()
    assert desk.selection.index == 0  # the arrows were the mix's
    view.play.click()
    qtbot.waitUntil(lambda: bool(three.output.started), timeout=40_000)
    assert three.output.started[0].length < three.listening.performance.length * 48
    three.listening.stop()
    assert three.saving.export_state(tmp_path / "mix.mid", takes.mix_state(desk.state))
    markers = [m.text for m in mido.MidiFile(tmp_path / "mix.mid").tracks[0] if m.type == "marker"]
    assert markers == ["Verse", "Verse", "Bridge"]
    joint = next((i for i, joint in enumerate(room.found.joints) if joint.easier is not None), None)
    if joint is not None:
        before = room.found.joints[joint].motion
        cells.at = joint + 1
        room.mix.tell()
        view.easier.click()
        ready(three, qtbot, 4)
        assert room.found.joints[joint].motion < before
        assert any(keep.only for take in desk.state.takes for keep in take.content.things.of(KEEPS))
    desk.document.save(tmp_path / "a.hinge")
    saved = desk.state
    three.files.open_path(tmp_path / "a.hinge")
    settle(three, qtbot)
    assert (desk.state.others, desk.state.mix, desk.state.take) == (saved.others, saved.mix, saved.take)
    assert (desk.state.song, desk.state.setup, desk.state.keeps) == (saved.song, saved.setup, saved.keeps)


def test_hands_are_set_for_every_take(three, qtbot):
    from yellow_hinge.core.hands import Hands
    from yellow_hinge.core.leading.asking.setup import with_player

    three.desk.put_setup("hands", with_player(three.desk.state.setup, hands=Hands(left_reach=7)))
    assert {switched(three.desk.state, take.id).setup.player.hands.left_reach for take in three.desk.state.takes} == {7}


def test_the_main_demo_opens_with_three_takes_and_a_mix(make_window, qtbot):
    from tools.demo_takes import NAMES, made
    from yellow_hinge.assets import ASSETS

    window = make_window()
    window.files.open_demo()
    settle(window, qtbot)
    state = window.desk.state
    assert tuple(take.name for take in state.takes) == NAMES
    assert len({choice.take for choice in choices(state)}) == 3
    assert len(window.desk.solution.voicings) == 72
    assert (ASSETS / "demo" / "last-boat-to-marrow.hinge").read_bytes() == made()


def test_takes_in_another_key_are_said_when_opened_and_brought_together(window, qtbot, tmp_path):
    from pathlib import Path

    old = Path(__file__).parents[1] / "io" / "old" / "song-v10.json"
    path = tmp_path / "old.hinge"
    path.write_bytes(old.read_bytes())
    window.files.open_path(path)
    settle(window, qtbot)
    assert "Longer has other bars and Flat is in E♭ major" in window.teller.news.words.text()
    window.rooms.show_room(TAKES)
    qtbot.waitUntil(lambda: (found := window.rooms.room(TAKES).found) is not None and found.done)
    rows = window.rooms.room(TAKES).found.rows
    assert [row.apart for row in rows] == ["", "other bars", "in Eb major", ""]
    window.teller.news.buttons[0].click()
    assert all(take.form is None for take in window.desk.state.takes)
    window.desk.document.undo()
    assert sum(take.form is not None for take in window.desk.state.takes) == 2


def test_a_bar_deleted_in_one_take_says_what_rests_in_another(window, qtbot):
    from yellow_hinge.core.chart import edit as chart_edit

    desk = window.desk
    desk.type_text("key: C\n| C | Am | F |")
    desk.document.do(Edit("new", takes.added(desk.state, "Warm")))
    desk.type_text(desk.state.text.replace("Am", "A7"))
    settle(window, qtbot)
    desk.edit_chart("delete the bar", lambda song: chart_edit.delete_bar(song, (0, 1)))
    assert desk.document.rested == "In Take 1 Am rests: its bar is gone."


def test_known_hands_are_said_shown_and_taken_as_one_step(window, qtbot, tmp_path, monkeypatch):
    import msgspec

    from tests.app.test_known_hands import moved
    from yellow_hinge.core.takes.known import hands_of, holds
    from yellow_hinge.io.songs.song_json import from_json, to_json
    from yellow_hinge.ui.dialogs.hands_beside import HandsBeside

    window.desk.document.save(tmp_path / "a.hinge")
    file = from_json((tmp_path / "a.hinge").read_bytes(), "a")
    assert file.hands == (hands_of(1, window.desk.solution),)
    old = msgspec.structs.replace(file, hands=(moved(file.hands[0], at=(1, 3)),))
    (tmp_path / "b.hinge").write_bytes(to_json(old))
    window.files.open_path(tmp_path / "b.hinge")
    settle(window, qtbot)
    qtbot.waitUntil(lambda: "the hands you know" in window.teller.news.words.text(), timeout=20_000)
    assert holds(window.desk.state)
    shown = []
    monkeypatch.setattr(HandsBeside, "exec", lambda dialog: shown.append(dialog.table.rowCount()) or 0)
    window.teller.news.buttons[0].click()
    assert shown[0] >= 2
    assert holds(window.desk.state)
    window.knowing.take()
    settle(window, qtbot)
    assert [voicing.both for voicing in window.desk.solution.voicings] == [
        (hand.left, hand.right) for hand in file.hands[0].hands
    ]
    assert window.desk.document.undo() == "take the new hands"
    assert holds(window.desk.state)
