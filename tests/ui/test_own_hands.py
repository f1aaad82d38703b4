"""Manners in the header, shapes of one's own, and hands entered chord by chord, by the real window."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import chosen_manner
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.dialogs.own_list import OwnList


def hands(window):
    return [v.both for v in window.desk.solution.voicings]


def test_a_manner_is_chosen_in_the_header_undone_and_remembered(window, qtbot):
    box = window.header.manner
    qtbot.waitUntil(lambda: box.count() > 1)
    assert box.currentText() == "Pop"  # as the song's header asks
    box.setCurrentIndex(0)
    box.activated.emit(0)
    settle(window, qtbot)
    before = hands(window)
    for index in range(1, box.count()):
        box.setCurrentIndex(index)
        box.activated.emit(index)
        settle(window, qtbot)
        setup, manner = window.desk.state.asked, manners()[box.itemData(index)]
        assert (setup.bass, setup.colour, setup.style) == (manner.bass, manner.colour, manner.style)
        assert hands(window) != before
        assert box.currentText() == manner.name
        assert window.preferences.settings.manner == manner.id
        window.desk.document.undo()
        settle(window, qtbot)
        assert hands(window) == before
    assert box.currentText() == "No manner"
    window.desk.document.saved = window.desk.state
    window.files.new()
    window.desk.type_text("key: C\n| C | F | G7 | C |")
    settle(window, qtbot)
    assert window.desk.state.asked.manner == manner.id
    assert window.desk.state.asked.colour == 0
    box.setCurrentIndex(0)
    box.activated.emit(0)
    assert window.desk.state.setup == chosen_manner(window.desk.state.setup, "none")


def test_a_shape_is_captured_used_kept_for_new_songs_and_forgotten(window, qtbot, monkeypatch):
    window.desk.selection.go(0)
    both = window.desk.selection.voicing.both._replace(left=(40, 47, 54), right=(56, 59, 64))
    window.home.mover.try_hands(both, 54)
    window.home.mover.take()
    settle(window, qtbot)
    others = (MyShape("Of another song", "1", "3 5"),)
    window.preferences.remember_shape(*others)
    monkeypatch.setattr(asking, "name", lambda *_: "Wide nine")
    window.actions_["capture"].trigger()
    settle(window, qtbot)
    (shape,) = window.desk.state.setup.player.shapes
    assert (shape.left, shape.right) == ("1 5 9", "3 5 1")
    assert window.preferences.shapes == (*others, shape)
    assert any("mine:" in s.id for s in window.desk.solution.lattice.stages[2].shapes)
    told = []
    monkeypatch.setattr(asking, "fault", lambda _, words: told.append(words))
    monkeypatch.setattr(asking, "name", lambda *_: "Again")
    window.actions_["capture"].trigger()
    assert "among yours" in told[0]
    menu = window.home.view.wishes.shapes.menu()
    menu.aboutToShow.emit()
    forget = next(action for action in menu.actions() if action.text() == "Forget a shape of mine")
    forget.menu().actions()[0].trigger()
    assert window.desk.state.setup.player.shapes == ()
    assert window.preferences.shapes == others
    window.desk.document.undo()
    assert window.desk.state.setup.player.shapes == (shape,)


def test_entering_ends_with_its_view(window):
    window.home.entering.toggle()
    assert window.home.entering.on
    window.rooms.show_room(CHART)
    assert not window.home.entering.on


def typed(window, keys):
    for key in keys:
        QTest.keyClick(window.home.view.map, key)


def test_hands_are_entered_by_keys_and_only_chosen_changes_improved(window, qtbot):
    window.desk.selection.go(0)
    window.home.view.map.setFocus()
    keys = Qt.Key
    QTest.keyClick(window.home.view.map, keys.Key_E)
    assert window.home.entering.on
    low = [keys.Key_D, keys.Key_J, keys.Key_PageUp, keys.Key_PageUp]  # from where the chord's hands lie
    typed(window, [*low, keys.Key_D, keys.Key_Y, keys.Key_J, keys.Key_Return])
    settle(window, qtbot)
    assert (window.desk.solution.voicings[0].left, window.desk.solution.voicings[0].right) == ((40, 47), (64, 68, 71))
    assert window.desk.selection.index == 1
    typed(window, [keys.Key_W, keys.Key_Backspace, keys.Key_W])
    for midi in (61, 64, 76):
        window.keys.canvas.struck.emit(midi)
    window.keys.canvas.struck.emit(64)
    typed(window, [keys.Key_Return, keys.Key_Escape])
    settle(window, qtbot)
    assert not window.home.entering.on
    assert window.desk.solution.voicings[1].right == (61, 76)
    assert [keep.part for keep in window.desk.state.keeps] == ["chord", "chord"]
    window.home.view.side.show_page("own")
    page = window.home.view.side.pages.page("own")
    qtbot.waitUntil(lambda: page.list.count() == 2, timeout=40_000)
    words = [page.list.item(i).text() for i in range(page.list.count())]
    assert all("the best" in each for each in words)
    mine = window.desk.solution.voicings[0].both
    page.list.itemActivated.emit(page.list.item(0))
    assert page.improve.isEnabled()
    before = window.desk.solution.totals.cost
    page.improve.click()
    settle(window, qtbot)
    assert window.desk.solution.voicings[0].both == mine
    assert window.desk.solution.voicings[1].right != (61, 76)
    assert window.desk.solution.totals.cost < before


def test_where_the_hands_part_is_seen_and_dragged_and_one_hand_can_be_chosen(window, qtbot):
    window.desk.selection.go(0)
    canvas, entering = window.keys.canvas, window.home.entering
    assert canvas.split is None
    entering.toggle()
    voicing = window.desk.solution.voicings[0]
    assert voicing.left[-1] < canvas.split == entering.split <= voicing.right[0]
    upper = canvas.scene.upper
    start = QPoint(round(canvas._split_x(upper, canvas.split)), round(upper.y - 3))
    qtbot.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(canvas, QPoint(round(upper.centre(65)), start.y()))
    qtbot.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start)
    assert canvas.split == entering.split == 65
    canvas.struck.emit(64)
    assert entering._both.left == (64,)
    window.home.view.map.setFocus()
    typed(window, [Qt.Key.Key_Tab, Qt.Key.Key_Tab])
    canvas.struck.emit(62)
    assert entering._both.right == (62,)
    entering.toggle()
    assert canvas.split is None


def test_files_of_ones_own_are_read_again_while_the_window_stands(window, qtbot, monkeypatch):
    own, strip, folder = window.own_data, window.home.view.wishes, window.places.mine
    own.begin()
    own.look()
    monkeypatch.setattr(OwnList, "exec", lambda dialog: [dialog.example_wanted.emit(k) for k in ("style", "manner")])
    own.open()
    qtbot.waitUntil(lambda: strip.style_.findText("Quiet hands") >= 0, timeout=10_000)
    qtbot.waitUntil(lambda: window.header.manner.findText("Late service") >= 0, timeout=10_000)
    settle(window, qtbot)
    window.desk.change_setup("style", style="Quiet hands")
    settle(window, qtbot)
    before = window.desk.solution.totals.cost
    path = folder / "styles" / "Quiet-hands.toml"
    path.write_text(path.read_text("utf-8").replace("hold = -0.6", "hold = 3.0"), "utf-8")
    qtbot.waitUntil(lambda: window.desk.solution.totals.cost > before, timeout=10_000)
    path.write_text("name = 1", "utf-8")
    qtbot.waitUntil(lambda: "Left out: styles/Quiet-hands.toml" in window.teller.line.text(), timeout=10_000)
    shown = OwnList(window, window.look.theme, own.mine, folder)
    table = shown.table
    assert [table.item(0, n).text() for n in (0, 1)] == ["left out", "styles/Quiet-hands.toml, line 1"]
    shown.search.setText("late serv")
    rows = [table.item(at, 1).text() for at in range(table.rowCount()) if not table.isRowHidden(at)]
    assert rows == ["Late service"]
    assert strip.style_.findText("Quiet hands") < 0
    for each in folder.rglob("*.toml"):
        each.unlink()
    qtbot.waitUntil(lambda: window.header.manner.findText("Late service") < 0, timeout=10_000)
