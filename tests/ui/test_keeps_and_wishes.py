"""Keeps and wishes in the home view, what rests of them, and the hands dialog."""

import pytest
from PySide6.QtCore import QPoint, Qt

from tests.songs import BUILDER
from tests.ui.conftest import settle
from tests.ui.test_window import press
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.edits.wishing import with_wish
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.opening import read_song
from yellow_hinge.ui.dialogs.hands_dialog import PRESETS, HandsDialog, white_keys
from yellow_hinge.ui.paint.strand.strands import BESIDE, RESTS
from yellow_hinge.ui.paint.strand.words import describe

Key, LEFT, SHIFT = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier


@pytest.mark.parametrize(
    ("key", "part"), [(Key.Key_K, "right"), (Key.Key_L, "left"), (Key.Key_T, "top"), (Key.Key_B, "bass")]
)
def test_parts_are_kept_by_key_and_shown(window, qtbot, key, part):
    qtbot.keyClick(window.home.view.map, key, SHIFT)
    settle(window, qtbot)
    assert window.home.view.map.canvas.scene.columns[0].kept == {part}
    qtbot.keyClick(window.home.view.map, key, SHIFT)
    settle(window, qtbot)
    assert not window.home.view.map.canvas.scene.columns[0].kept


def test_a_top_is_held_chord_by_chord(window, qtbot):
    top = window.desk.selection.voicing.right[-1]
    for length in (2, 3, 4):
        press(qtbot, window, Key.Key_H)
        settle(window, qtbot)
        voicings = window.desk.solution.voicings[:length]
        assert all(v.right[-1] == top or any("top note" in w for w in v.warnings) for v in voicings)
    assert window.desk.answers.kept_parts(3) == {"top"}
    qtbot.keyClick(window.home.view.map, Key.Key_H, SHIFT)
    settle(window, qtbot)
    assert window.desk.answers.kept_parts(3) == frozenset()


def test_a_wish_is_for_the_bars_that_are_marked(window, qtbot, tmp_path):
    strip, desk = window.home.view.wishes, window.desk
    desk.selection.go(1)
    item = strip.scope.count() - 2
    assert strip.scope.itemText(item) == "this bar"
    window.home.view.map.setFocus()
    qtbot.keyClick(window.home.view.map, Key.Key_B)
    qtbot.keyClick(window.home.view.map, Key.Key_B)
    bars = {desk.solution.voicings[at].here.ids[1] for at in desk.selection.marked}
    assert len(bars) == 2
    assert strip.scope.itemText(item) == "what is marked"
    strip.scope.activated.emit(item)
    qtbot.mouseClick(strip.colour["0"], LEFT)
    settle(window, qtbot)
    assert {(wish.at, wish.colour) for wish in desk.state.setup.wishes} == {(bar, 0) for bar in bars}
    assert desk.document.history.undo_label == "colour as written for what is marked"
    desk.document.save(tmp_path / "marked.hinge")
    again = state_of(read_song(str(tmp_path / "marked.hinge")))
    assert again.setup.wishes == desk.state.setup.wishes
    solution = solve_song(BUILDER, timeline(again.song), again.asked, again.standing)
    assert [voicing.both for voicing in solution.voicings] == [voicing.both for voicing in desk.solution.voicings]
    struck = performed(solution, again.song, again.playing).struck
    assert struck == performed(desk.solution, desk.state.song, desk.state.playing).struck
    assert strip.clear.isVisible()
    strip.clear.click()
    settle(window, qtbot)
    assert desk.state.setup.wishes == ()


def test_the_hands_dialog_stretches_on_its_keyboard(window, qtbot):
    dialog = HandsDialog(window.desk.state.setup, window.look.theme, window)
    qtbot.addWidget(dialog)
    keys = dialog.stretch["left"]
    keys.resize(460, 78)
    tenth = keys._keys().centre(white_keys()[9])
    qtbot.mouseClick(keys, LEFT, pos=QPoint(round(tenth), 50))
    assert dialog.hands.left_reach == 10
    next(
        b for b in dialog.findChildren(type(window.header.play)) if b.accessibleName() == "right hand: no, narrower"
    ).click()
    assert dialog.hands.right_reach == 8
    dialog.notes["right"].activated.emit(2)
    assert dialog.hands.right_notes == 3
    dialog.keys.activated.emit(0)
    assert dialog.hands.keys == 49
    dialog.with_singer.click()
    dialog.voice.activated.emit(2)
    assert dialog.singer == (57, 76)


def test_a_preset_is_taken_by_the_song_and_kept_for_new_ones(window, qtbot, monkeypatch):
    assert window.welcome.isVisible()

    def answer(dialog):
        dialog._take(PRESETS["A seventh"])
        return 1

    monkeypatch.setattr(HandsDialog, "exec", answer)
    window.actions_["hands"].trigger()
    settle(window, qtbot)
    assert window.desk.state.setup.player.hands == PRESETS["A seventh"]
    assert all(len(v.right) <= 3 for v in window.desk.solution.voicings)
    window.desk.document.saved = window.desk.state
    window.files.open_demo("slack-tide")
    assert window.desk.state.setup.player.hands == PRESETS["A seventh"]


def test_the_offer_of_the_first_start_is_made_once_and_blocks_nothing(make_window, qtbot):
    first = make_window()
    assert first.welcome.isVisible()
    first.welcome.buttons["new"].click()
    assert (first.rooms.now_handle.id, first.desk.state.song.title) == ("chart", "New song")
    first.welcome.buttons["open_demo"].click()
    assert first.desk.state.song.title == "Last Boat to Marrow"
    first.welcome.buttons["close"].click()
    assert not first.welcome.isVisible()
    assert first.preferences.settings.hands_offered
    assert not make_window(hands_offered=True).welcome.isVisible()


def test_what_rests_is_shown_told_and_comes_back(window, qtbot):
    window.desk.type_text("| C | Am7 | F |")
    settle(window, qtbot)
    window.desk.selection.go(1)
    window.desk.toggle_keep()
    settle(window, qtbot)
    window.desk.type_text("| C | D7 | F |")
    settle(window, qtbot)
    column = window.home.view.map.canvas.scene.columns[1]
    assert column.kept == {RESTS}
    assert "Am7 rests: the chord is D7 now. It comes back with its chord." in window.teller.line.text()
    assert "rests" in describe(window.home.view.map.canvas.scene, 1)
    window.home.view.options._tell_reason()
    assert "Kept for Am7, and rests: the chord is D7 now." in window.home.view.options.why.text()
    window.desk.type_text("| C | Am7 | F |")
    settle(window, qtbot)
    assert window.home.view.map.canvas.scene.columns[1].kept == {"chord"}
    window.desk.type_text("| C | D7 | F |")
    settle(window, qtbot)
    window.actions_["free_resting"].trigger()
    settle(window, qtbot)
    assert window.home.view.map.canvas.scene.columns[1].kept == frozenset()
    assert window.desk.document.history.undo_label == "let go what rests"


def test_chords_that_change_beside_a_wish_are_marked_and_said(window, qtbot):
    """A wish for one part may move its neighbours: the map says which, and an edit of another kind clears that."""
    desk = window.desk
    before = [voicing.both for voicing in desk.solution.voicings]
    section = desk.solution.moments[desk.solution.voicings[20].moment].section
    desk.selection.go(20)
    desk.put_setup("lift", with_wish(desk.state.setup, desk.selection.moment, "section", lift=9))
    settle(window, qtbot)
    after = [voicing.both for voicing in desk.solution.voicings]
    outside = {
        index
        for index, voicing in enumerate(desk.solution.voicings)
        if before[index] != after[index] and desk.solution.moments[voicing.moment].section != section
    }
    assert outside
    assert desk.answers.beside == outside
    columns = window.home.view.map.canvas.scene.columns
    assert {index for index, column in enumerate(columns) if BESIDE in column.kept} == outside
    assert "elsewhere changed too" in window.teller.line.text()
    assert "nobody touched it" in describe(window.home.view.map.canvas.scene, min(outside))
    desk.change_setup("colour", colour=0)
    settle(window, qtbot)
    assert desk.answers.beside == frozenset()


def test_notes_in_the_hands_and_a_free_right_hand_are_asked_for_in_the_menu(window, qtbot):
    strip, desk = window.home.view.wishes, window.desk

    def entry(menu, words):
        strip.shapes.menu().aboutToShow.emit()
        inner = next(inner for inner in strip._inner if inner.title() == menu)
        return next(action for action in inner.actions() if words in action.text())

    entry("Notes in the hands", "2 + 3").trigger()
    settle(window, qtbot)
    assert {(len(v.left), len(v.right)) for v in desk.solution.voicings} == {(2, 3)}
    assert strip.shapes.text().startswith("2+3")
    assert entry("Notes in the hands", "2 + 3").isChecked()
    desk.change_setup("bass theirs", bass="theirs")
    settle(window, qtbot)
    entry("Notes in the hands", "As many").trigger()
    entry("Right hand", "free").trigger()
    settle(window, qtbot)
    assert sum(not v.right for v in desk.solution.voicings) > len(desk.solution.voicings) // 2
    assert desk.document.history.undo_label == "the right hand is free"


def test_a_way_is_taken_for_one_pass_or_for_all_and_its_plate_says_so(window, qtbot):
    desk = window.desk
    desk.type_text("[Verse]\n|: C | Am7 | F | G7 :|\n")
    settle(window, qtbot)
    desk.selection.go(5)
    box = window.home.view.options.passes
    assert box.isVisible()
    assert "of 2" in box.toolTip()
    before = desk.solution.voicings[1].both
    press(qtbot, window, Key.Key_A)
    assert box.isChecked()
    press(qtbot, window, Key.Key_Down, Key.Key_Return)
    settle(window, qtbot)
    assert desk.state.keeps[0].only == desk.selection.moment.pass_id
    assert "this pass" in desk.document.history.undo_label
    assert "once" in desk.answers.kept_parts(5)
    assert desk.answers.kept_parts(1) == frozenset()
    other = desk.solution.voicings[5].both
    desk.selection.go(1)
    press(qtbot, window, Key.Key_A)
    press(qtbot, window, Key.Key_K)
    settle(window, qtbot)
    assert [keep.only for keep in desk.state.keeps] == [None]  # the last word, for all passes
    assert desk.solution.voicings[5].both == desk.solution.voicings[1].both
    desk.document.undo()
    settle(window, qtbot)
    assert desk.solution.voicings[5].both == other
    desk.document.undo()
    settle(window, qtbot)
    assert desk.solution.voicings[1].both == before
    desk.type_text("| C | F |")
    settle(window, qtbot)
    assert not box.isVisible()
