"""The home view as players use it: notes moved by hand, lists, filters, the map, the list of edits."""

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QCursor, QWheelEvent
from PySide6.QtWidgets import QApplication

from tests.ui.conftest import settle
from tests.ui.test_window import press
from yellow_hinge.app.desk.moving import with_note_moved
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.price import worth
from yellow_hinge.ui.hinges.song_lists import Row
from yellow_hinge.ui.paint.notes import price_text
from yellow_hinge.ui.paint.strand.strands import COLUMN_W, NARROWEST

Key, LEFT, SHIFT = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier


def plate_point(canvas, index, place, by=0):
    """Where a plate of chord `index` is, moved by some semitones."""
    plate = canvas.scene.columns[index].plates[place]
    return QPoint(round(plate.x), round(plate.y - by * canvas.scene.step))


def drag(qtbot, canvas, start, end, drop=True):
    qtbot.mousePress(canvas, LEFT, pos=start)
    for part in (0.3, 0.7, 1.0):
        at = QPointF(start) + (QPointF(end) - QPointF(start)) * part
        qtbot.mouseMove(canvas, at.toPoint())
    if drop:
        qtbot.mouseRelease(canvas, LEFT, pos=end)


# --- moving notes ---


def playable_move(desk, index):
    """(place of a plate, semitones, the voicing it makes) of some note that can be moved."""
    both = desk.solution.voicings[index].both
    for place, midi in enumerate(both.right):
        for by in (1, 2, 3, 4, 5, 6, 7, -1, -2, -3):
            moved = with_note_moved(both, "right", midi, midi + by)
            if moved and not worth(moved, desk.solution, index).faults:
                return len(both.left) + place, by, moved
    raise AssertionError("no note of this chord can be moved")


def test_a_dragged_plate_shows_its_price_and_is_taken_when_dropped(window, qtbot):
    canvas, desk = window.home.view.map.canvas, window.desk
    desk.selection.go(1)
    before = desk.selection.voicing.both
    place, by, moved = playable_move(desk, 1)
    drag(qtbot, canvas, plate_point(canvas, 1, place), plate_point(canvas, 1, place, by), drop=False)
    assert canvas.tried.playable
    assert price_text(worth(moved, desk.solution, 1).extra) in canvas.tried.words
    assert desk.selection.voicing.both == before
    qtbot.mouseRelease(canvas, LEFT, pos=plate_point(canvas, 1, place, by))
    settle(window, qtbot)
    assert desk.selection.voicing.both == moved
    assert desk.document.history.undo_label == "take another way to play C#m7"
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    assert desk.selection.voicing.both == before


def test_a_plate_dropped_where_it_cannot_be_played_goes_back_and_says_why(window, qtbot):
    canvas, desk = window.home.view.map.canvas, window.desk
    desk.selection.go(1)
    before = desk.selection.voicing.both
    drag(qtbot, canvas, plate_point(canvas, 1, 0), plate_point(canvas, 1, 0, 2))  # the bass of another chord
    assert desk.selection.voicing.both == before
    assert "cannot be played" in window.teller.line.text()
    assert canvas.tried is None
    assert not desk.state.keeps


def test_a_click_on_a_plate_sounds_it_and_moves_nothing(window, qtbot):
    canvas = window.home.view.map.canvas
    struck = []
    canvas.struck.connect(struck.append)
    qtbot.mouseClick(canvas, LEFT, pos=plate_point(canvas, 2, 1))
    assert window.desk.selection.index == 2
    assert struck == [canvas.scene.columns[2].plates[1].mark.midi]
    assert window.desk.document.history.undo_label == ""


def test_keys_move_a_note_and_escape_leaves_no_trace(window, qtbot):
    desk, mover = window.desk, window.home.mover
    before = desk.selection.voicing.both
    press(qtbot, window, Key.Key_N)
    assert mover.note == ("left", before.left[0])
    for _ in range(len(before.left)):
        press(qtbot, window, Key.Key_N)
    assert mover.note == ("right", before.right[0])
    qtbot.keyClick(window.home.view.map, Key.Key_Down, SHIFT)
    assert mover.trial is not None
    press(qtbot, window, Key.Key_Escape)
    assert mover.trial is None
    assert window.home.view.map.canvas.tried is None
    assert desk.selection.voicing.both == before
    assert {m.midi for m in window.keys.canvas.scene.upper.marks} == {*before.left, *before.right}


def test_a_key_is_dragged_and_notes_are_added_on_the_keyboard(window, qtbot):
    canvas, desk = window.keys.canvas, window.desk
    desk.change_setup("as written", colour=0)
    settle(window, qtbot)
    desk.selection.go(1)

    def point(midi):
        keys = canvas.scene.upper
        return QPoint(round(keys.centre(midi)), round(keys.y + keys.height * 0.4))

    before = desk.selection.voicing.both
    span = canvas.scene.span
    drag(qtbot, canvas, point(before.right[0]), point(before.right[0] - 1), drop=False)
    assert canvas.refused or window.home.mover.trial.option.both != before
    assert canvas.scene.span == span  # nothing jumps while a note is tried
    qtbot.mouseRelease(canvas, LEFT, pos=point(before.right[0]))
    window.actions_["forget"].trigger()
    low, high = max(before.right[-1] - 12, before.left[-1] + 1), before.right[0] + 12
    added = next(m for m in range(low, high) if m % 12 in (1, 4, 8, 11) and m not in before.right)
    qtbot.mouseClick(canvas, LEFT, SHIFT, point(added))
    settle(window, qtbot)
    assert added in desk.selection.voicing.right
    qtbot.mouseClick(canvas, LEFT, SHIFT, point(added))
    settle(window, qtbot)
    assert added not in desk.selection.voicing.right


# --- the map ---


def test_a_sixth_note_for_a_hand_is_refused_in_words(window, qtbot):
    window.desk.type_text("| C |")
    settle(window, qtbot)
    window.desk.take(
        window.desk.selection.options()[0]._replace(
            both=window.desk.selection.voicing.both._replace(right=(60, 62, 64, 65, 67))
        )
    )
    settle(window, qtbot)
    before = window.desk.state
    window.home.mover.toggle("right", 69)
    assert "five fingers" in window.teller.line.text()
    window.home.mover.toggle("right", 128)
    window.home.mover.toggle("left", 200)
    assert window.desk.state == before


def test_zoom_by_keys_and_wheel_and_the_whole_song_at_once(window, qtbot):
    view = window.home.view.map
    view.zoom(1)
    assert view.column_w > COLUMN_W
    press(qtbot, window, Key.Key_F)
    scene = view.canvas.scene
    assert scene.width <= view.viewport().width() + 1
    assert not scene.roomy
    press(qtbot, window, Key.Key_F)
    assert view.column_w == COLUMN_W
    at = QPointF(200, 100)
    turn = QWheelEvent(
        at, view.mapToGlobal(at), QPoint(), QPoint(0, -120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(view.viewport(), turn)
    assert view.column_w < COLUMN_W
    for _ in range(30):
        view.zoom(-1)
    assert view.column_w == NARROWEST
    window.desk.selection.go(len(window.desk.solution.voicings) - 1)
    x = view.canvas.scene.columns[-1].x - view.horizontalScrollBar().value()
    assert 0 <= x < view.viewport().width()


def test_the_map_says_in_words_what_it_shows(window, qtbot):
    words = window.home.view.map.canvas.accessibleDescription()
    assert words.startswith("E: left E 1")
    assert "semitones to the next chord" in words
    window.desk.toggle_keep("top")
    settle(window, qtbot)
    assert "kept: top" in window.home.view.map.canvas.accessibleDescription()


# --- lists ---


def test_the_stiff_list_leads_to_the_hardest_change(window, qtbot):
    press(qtbot, window, Key.Key_2)
    page = window.home.view.side.pages.page("stiff")
    rows = [page.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(page.list.count())]
    hinges = window.desk.solution.hinges
    assert int(rows[0].figure) == max(hinge.motion for hinge in hinges)
    page.list.itemClicked.emit(page.list.item(0))
    assert hinges[window.desk.selection.index].motion == int(rows[0].figure)


def test_the_bass_line_and_the_other_basses_are_listed(window, qtbot):
    press(qtbot, window, Key.Key_3)
    bass = window.home.view.side.pages.page("bass").list
    assert bass.count() == len(window.desk.solution.hinges)
    bass.itemClicked.emit(bass.item(4))
    assert window.desk.selection.index == 4
    press(qtbot, window, Key.Key_4)
    page = window.home.view.side.pages.page("basses")
    assert page.list.count() == 12
    struck = []
    page.struck.connect(struck.append)
    page.list.itemClicked.emit(page.list.item(3))
    row: Row = page.list.item(3).data(Qt.ItemDataRole.UserRole)
    assert struck == [row.notes]
    assert {note for note, hand in row.notes if hand == "right"} == set(window.desk.selection.voicing.right)


# --- options ---


def test_filters_leave_what_they_say(window, qtbot):
    panel, desk = window.home.view.options, window.desk
    desk.change_setup("no manner", manner="none")
    settle(window, qtbot)
    everything = len(panel.model.rows)
    panel.same_top.click()
    rows = panel.model.rows
    assert 0 < len(rows) < everything
    assert {row.option.both.right[-1] for row in rows} == {desk.selection.voicing.right[-1]}
    panel.same_top.click()
    panel.family.setCurrentIndex(2)
    panel.family.activated.emit(2)
    assert {row.family for row in panel.model.rows} == {panel.family.currentText()}
    desk.change_setup("bass theirs", bass="theirs", right="free")
    settle(window, qtbot)
    panel.family.setCurrentIndex(0)
    panel.one_hand.click()
    assert panel.model.rows
    assert all(not row.option.both.right or not row.option.both.left for row in panel.model.rows)


def test_the_reason_is_told_and_two_ways_are_compared(window, qtbot):
    panel = window.home.view.options
    window.desk.selection.go(2)
    qtbot.waitUntil(lambda: panel.why.text().startswith("Why:"))
    told = reason(window.desk.solution, 2).replace("#", "♯")
    assert panel.why.text() == f"Why: {told}."
    press(qtbot, window, Key.Key_Down, Key.Key_C, Key.Key_Down)
    lines = panel.why.text().split("\n")
    assert lines[0].startswith("Held: ")
    assert lines[1].startswith("This: ")
    assert panel.model.rows[1].left[0].replace("#", "♯") in lines[0]
    assert panel.model.rows[2].left[0].replace("#", "♯") in lines[1]


def test_the_mouse_over_a_way_shows_it(window, qtbot):
    panel = window.home.view.options
    QCursor.setPos(QCursor.pos() + QPoint(3, 3))
    panel.list.entered.emit(panel.model.index(3))
    shown = {mark.midi for mark in window.keys.canvas.scene.upper.marks}
    both = panel.model.rows[3].option.both
    assert shown == {*both.left, *both.right}


# --- every command ---


def test_the_list_of_edits_goes_back_and_forth(window, qtbot):
    desk = window.desk
    window.actions_["history"].trigger()
    desk.toggle_keep()
    desk.selection.go(1)
    desk.toggle_keep("top")
    desk.change_setup("bass theirs", bass="theirs")
    texts = [window.drawers.history.list.item(i).text() for i in range(window.drawers.history.list.count())]
    assert texts == ["As opened", "Keep E", "Keep the top note of C♯m7", "Bass theirs"]
    window.drawers.history.go(1)
    assert [keep.part for keep in desk.state.keeps] == ["chord"]
    window.drawers.history.go(3)
    assert desk.state.setup.bass == "theirs"
    window.drawers.history.go(0)
    assert desk.state.keeps == ()


def test_play_just_after_a_preview_plays(window, qtbot):
    window.choosing.hear()
    assert window.listening.player.playing
    window.listening.toggle()
    qtbot.waitUntil(
        lambda: len(window.output.started) > 0 and bool(window.listening.player.score.places), timeout=10_000
    )
    assert window.listening.player.playing
    window.listening.toggle()
    assert not window.listening.player.playing


def test_a_hint_goes_with_what_it_is_about(window, qtbot):
    before = window.teller.line.text()
    window.home.mover.next_note()
    assert "Shift+Up" in window.teller.line.text()
    window.choosing.leave()
    assert window.teller.line.text() == before


def test_a_row_under_a_resting_pointer_does_not_replace_the_chord_that_was_taken(window, qtbot):
    options, shown = window.home.view.options, []
    options.previewed.connect(shown.append)
    QCursor.setPos(window.mapToGlobal(QPoint(40, 40)))
    options.refresh()
    options._hovered(options.model.index(2))  # the list came to lie under the pointer
    assert shown == []
    QCursor.setPos(window.mapToGlobal(QPoint(60, 60)))
    options._hovered(options.model.index(2))
    assert len(shown) == 1


def test_chords_typed_over_the_template_have_no_story(window, qtbot):
    window.files.new()
    window.desk.type_text(window.desk.state.text.replace("| C | Am |", "| Eb | Fm7 |"))
    window.desk.document.history.end_group()
    window.desk.type_text(window.desk.state.text.replace("Dm", "Bb7 Eb7"))
    assert window.desk.state.was == ()
    window.desk.document.history.end_group()
    window.desk.type_text(window.desk.state.text.replace("Fm7", "F7"))
    assert [was.symbols for was in window.desk.state.was] == [("Fm7",)]


def test_what_is_too_wide_is_left_away_in_order_here_and_in_the_whole_song(window, qtbot):
    desk, side = window.desk, window.home.view.side
    press(qtbot, window, Key.Key_7)
    page = side.pages.currentWidget()
    assert not any(button.isEnabled() for button in page.buttons.values())
    wide = {}
    for at in (0, 2):
        desk.selection.go(at)
        both = desk.selection.voicing.both
        tenth = both.left[0] + 16
        wide[at] = both._replace(left=(*(n for n in both.left if n < tenth), tenth))
        desk.leave_away(wide[at])  # any hands can be kept
        settle(window, qtbot)
    rows = [page.list.item(n).data(Qt.ItemDataRole.UserRole) for n in range(page.list.count())]
    assert [row.chord for row in rows if row.chord >= 0] == [0, 2]
    assert rows[0].title.startswith("left: ")
    page.lighten("chord")
    settle(window, qtbot)
    assert desk.selection.voicing.left == wide[2].left[:-1]
    assert desk.solution.voicings[0].both == wide[0]
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    page.buttons["song"].click()
    settle(window, qtbot)
    assert [desk.solution.voicings[at].left for at in wide] == [both.left[:-1] for both in wide.values()]
    assert desk.document.history.undo_label == "leave away what is too wide in the song"
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    page.list.setCurrentRow(0)
    page._act(page.list.item(0))
    settle(window, qtbot)
    assert desk.selection.voicing.left == wide[2].left[:-1]
