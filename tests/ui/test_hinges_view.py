"""The home view as players use it: notes moved by hand, lists, filters, wishes, keeps, dialogs."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QWheelEvent
from PySide6.QtWidgets import QApplication

from tests.ui.conftest import settle
from tests.ui.test_window import press
from yellow_hinge.app.moving import with_note_moved
from yellow_hinge.app.wishing import with_wish
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.price import worth
from yellow_hinge.ui.dialogs.hands_dialog import PRESETS, HandsDialog, white_keys
from yellow_hinge.ui.hinges.song_lists import Row
from yellow_hinge.ui.painting import draw_keyboard, plate
from yellow_hinge.ui.scenes.keys import keyboard
from yellow_hinge.ui.scenes.notes import Mark, price_text
from yellow_hinge.ui.scenes.strands import BESIDE, COLUMN_W, LEAST_W, RESTS
from yellow_hinge.ui.strand_canvas import describe
from yellow_hinge.ui.theme import BODY, DARK, FAMILIES, LIGHT, font

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
    canvas, desk = window.hinges.map.canvas, window.desk
    desk.select(1)
    before = desk.voicing.both
    place, by, moved = playable_move(desk, 1)
    drag(qtbot, canvas, plate_point(canvas, 1, place), plate_point(canvas, 1, place, by), drop=False)
    assert canvas.tried.playable
    assert price_text(worth(moved, desk.solution, 1).extra) in canvas.tried.words
    assert desk.voicing.both == before
    qtbot.mouseRelease(canvas, LEFT, pos=plate_point(canvas, 1, place, by))
    settle(window, qtbot)
    assert desk.voicing.both == moved
    assert desk.history.undo_label == "take another voicing of C#m7"
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    assert desk.voicing.both == before


def test_a_plate_dropped_where_it_cannot_be_played_goes_back_and_says_why(window, qtbot):
    canvas, desk = window.hinges.map.canvas, window.desk
    desk.select(1)
    before = desk.voicing.both
    drag(qtbot, canvas, plate_point(canvas, 1, 0), plate_point(canvas, 1, 0, 2))  # the bass of another chord
    assert desk.voicing.both == before
    assert "cannot be played" in window.statusBar().currentMessage()
    assert canvas.tried is None
    assert not desk.state.keeps


def test_a_click_on_a_plate_sounds_it_and_moves_nothing(window, qtbot):
    canvas = window.hinges.map.canvas
    struck = []
    canvas.struck.connect(struck.append)
    qtbot.mouseClick(canvas, LEFT, pos=plate_point(canvas, 2, 1))
    assert window.desk.selected == 2
    assert struck == [canvas.scene.columns[2].plates[1].mark.midi]
    assert window.desk.history.undo_label == ""


def test_keys_move_a_note_and_escape_leaves_no_trace(window, qtbot):
    desk, mover = window.desk, window.mover
    before = desk.voicing.both
    press(qtbot, window, Key.Key_N)
    assert mover.note == ("left", before.left[0])
    for _ in range(len(before.left)):
        press(qtbot, window, Key.Key_N)
    assert mover.note == ("right", before.right[0])
    qtbot.keyClick(window.hinges.map, Key.Key_Down, SHIFT)
    assert mover.trial is not None
    press(qtbot, window, Key.Key_Escape)
    assert mover.trial is None
    assert window.hinges.map.canvas.tried is None
    assert desk.voicing.both == before
    assert {m.midi for m in window.keys.canvas.scene.upper.marks} == {*before.left, *before.right}


def test_keys_take_the_moved_note(window, qtbot):
    desk = window.desk
    desk.select(1)
    place, by, wanted = playable_move(desk, 1)
    for _ in range(place + 1):
        press(qtbot, window, Key.Key_N)
    for _ in range(abs(by)):
        qtbot.keyClick(window.hinges.map, Key.Key_Up if by > 0 else Key.Key_Down, SHIFT)
    assert window.mover.trial.option.both == wanted
    press(qtbot, window, Key.Key_Return)
    settle(window, qtbot)
    assert desk.voicing.both == wanted
    assert desk.kept(1)


def test_a_key_is_dragged_and_notes_are_added_on_the_keyboard(window, qtbot):
    canvas, desk = window.keys.canvas, window.desk
    desk.change_setup("as written", colour=0)
    settle(window, qtbot)
    desk.select(1)

    def point(midi):
        keys = canvas.scene.upper
        return QPoint(round(keys.centre(midi)), round(keys.y + keys.height * 0.4))

    before = desk.voicing.both
    span = canvas.scene.span
    drag(qtbot, canvas, point(before.right[0]), point(before.right[0] - 1), drop=False)
    assert canvas.refused or window.mover.trial.option.both != before
    assert canvas.scene.span == span  # nothing jumps while a note is tried
    qtbot.mouseRelease(canvas, LEFT, pos=point(before.right[0]))
    window.actions_["forget"].trigger()
    low, high = max(before.right[-1] - 12, before.left[-1] + 1), before.right[0] + 12
    added = next(m for m in range(low, high) if m % 12 in (1, 4, 8, 11) and m not in before.right)
    qtbot.mouseClick(canvas, LEFT, SHIFT, point(added))
    settle(window, qtbot)
    assert added in desk.voicing.right
    qtbot.mouseClick(canvas, LEFT, SHIFT, point(added))
    settle(window, qtbot)
    assert added not in desk.voicing.right


# --- the map ---


def test_a_sixth_note_for_a_hand_is_refused_in_words(window, qtbot):
    window.desk.type_text("| C |")
    settle(window, qtbot)
    window.desk.take(
        window.desk.options()[0]._replace(both=window.desk.voicing.both._replace(right=(60, 62, 64, 65, 67)))
    )
    settle(window, qtbot)
    before = window.desk.state
    window.mover.toggle("right", 69)
    assert "five fingers" in window.statusBar().currentMessage()
    window.mover.toggle("right", 128)
    window.mover.toggle("left", 200)
    assert window.desk.state == before


def test_zoom_by_keys_and_wheel_and_the_whole_song_at_once(window, qtbot):
    view = window.hinges.map
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
    assert view.column_w == LEAST_W
    window.desk.select(len(window.desk.solution.voicings) - 1)
    x = view.canvas.scene.columns[-1].x - view.horizontalScrollBar().value()
    assert 0 <= x < view.viewport().width()


def test_the_zoom_comes_back_at_the_next_start(make_window, qtbot):
    first = make_window()
    first.files.open_demo()
    settle(first, qtbot)
    first.hinges.map.zoom(-2)
    width = first.hinges.map.column_w
    first.desk.saved = first.desk.state
    first.close()
    from yellow_hinge.app.keeping import load_settings

    assert load_settings(first.places).column_w == width


def test_the_map_says_in_words_what_it_shows(window, qtbot):
    words = window.hinges.map.canvas.accessibleDescription()
    assert words.startswith("E: left E 1")
    assert "semitones to the next chord" in words
    window.desk.toggle_keep("top")
    settle(window, qtbot)
    assert "kept: top" in window.hinges.map.canvas.accessibleDescription()


# --- lists ---


def test_the_stiff_list_leads_to_the_hardest_change(window, qtbot):
    press(qtbot, window, Key.Key_2)
    page = window.hinges.side.list_of("stiff")
    rows = [page.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(page.list.count())]
    hinges = window.desk.solution.hinges
    assert int(rows[0].figure) == max(hinge.motion for hinge in hinges)
    page.list.itemClicked.emit(page.list.item(0))
    assert hinges[window.desk.selected].motion == int(rows[0].figure)


def test_the_bass_line_and_the_other_basses_are_listed(window, qtbot):
    press(qtbot, window, Key.Key_3)
    bass = window.hinges.side.list_of("bass").list
    assert bass.count() == len(window.desk.solution.hinges)
    bass.itemClicked.emit(bass.item(4))
    assert window.desk.selected == 4
    press(qtbot, window, Key.Key_4)
    page = window.hinges.side.list_of("basses")
    assert page.list.count() == 12
    struck = []
    page.struck.connect(struck.append)
    page.list.itemClicked.emit(page.list.item(3))
    row: Row = page.list.item(3).data(Qt.ItemDataRole.UserRole)
    assert struck == [row.notes]
    assert {note for note, hand in row.notes if hand == "right"} == set(window.desk.voicing.right)


# --- options ---


def test_filters_leave_what_they_say(window, qtbot):
    panel, desk = window.hinges.options, window.desk
    everything = len(panel.model.rows)
    panel.same_top.click()
    rows = panel.model.rows
    assert 0 < len(rows) < everything
    assert {row.option.both.right[-1] for row in rows} == {desk.voicing.right[-1]}
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
    panel = window.hinges.options
    window.desk.select(2)
    qtbot.waitUntil(lambda: panel.why.text().startswith("Why:"))
    told = reason(window.desk.solution, 2).replace("#", "♯")
    assert panel.why.text() == f"Why: {told}."
    press(qtbot, window, Key.Key_Down, Key.Key_C, Key.Key_Down)
    lines = panel.why.text().split("\n")
    assert lines[0].startswith("held: ")
    assert lines[1].startswith("this: ")
    assert panel.model.rows[1].left[0].replace("#", "♯") in lines[0]
    assert panel.model.rows[2].left[0].replace("#", "♯") in lines[1]


def test_the_mouse_over_a_way_shows_it(window, qtbot):
    panel = window.hinges.options
    panel.list.entered.emit(panel.model.index(3))
    shown = {mark.midi for mark in window.keys.canvas.scene.upper.marks}
    both = panel.model.rows[3].option.both
    assert shown == {*both.left, *both.right}


# --- keeps and wishes ---


@pytest.mark.parametrize(
    ("key", "part"), [(Key.Key_K, "right"), (Key.Key_L, "left"), (Key.Key_T, "top"), (Key.Key_B, "bass")]
)
def test_parts_are_kept_by_key_and_shown(window, qtbot, key, part):
    qtbot.keyClick(window.hinges.map, key, SHIFT)
    settle(window, qtbot)
    assert window.hinges.map.canvas.scene.columns[0].kept == {part}
    qtbot.keyClick(window.hinges.map, key, SHIFT)
    settle(window, qtbot)
    assert not window.hinges.map.canvas.scene.columns[0].kept


def test_a_top_is_held_chord_by_chord(window, qtbot):
    top = window.desk.voicing.right[-1]
    for length in (2, 3, 4):
        press(qtbot, window, Key.Key_H)
        settle(window, qtbot)
        voicings = window.desk.solution.voicings[:length]
        assert all(v.right[-1] == top or any("top note" in w for w in v.warnings) for v in voicings)
    assert window.desk.kept_parts(3) == {"top"}
    qtbot.keyClick(window.hinges.map, Key.Key_H, SHIFT)
    settle(window, qtbot)
    assert window.desk.kept_parts(3) == frozenset()


def test_a_wish_for_a_chord_overrides_the_song_and_is_cleared(window, qtbot):
    strip, desk = window.hinges.wishes, window.desk
    desk.select(1)
    strip.scope.setCurrentIndex(2)
    strip.scope.activated.emit(2)
    assert strip.scope.currentText() == "C♯m7"
    qtbot.mouseClick(strip.colour["0"], LEFT)
    settle(window, qtbot)
    assert desk.state.asked.colour == 2
    assert {n % 12 for n in (*desk.voicing.left, *desk.voicing.right)} <= set(desk.voicing.chord.pitch_classes)
    assert strip.told.text() == "C♯m7: as written"
    assert strip.clear.isVisible()
    assert desk.history.undo_label == "colour as written for C♯m7"
    strip.clear.click()
    settle(window, qtbot)
    assert desk.state.setup.wishes == ()
    assert not strip.clear.isVisible()


def test_style_shapes_and_register_are_asked_for_a_section(window, qtbot):
    strip, desk = window.hinges.wishes, window.desk
    strip.scope.setCurrentIndex(1)
    strip.scope.activated.emit(1)
    strip.style_.setCurrentIndex(2)
    strip.style_.activated.emit(2)
    strip.lift.activated.emit(2)
    strip.shapes.menu().aboutToShow.emit()
    next(a for a in strip.shapes.menu().actions() if a.text() == "Every shape").trigger()
    settle(window, qtbot)
    (wish,) = desk.state.setup.wishes
    assert (wish.at, wish.style, wish.lift, wish.families) == (
        desk.state.song.sections[0].id,
        "Singing top",
        5,
        ("all",),
    )
    last = len(desk.solution.voicings) - 1
    desk.select(last)  # the chorus has its own
    assert strip.style_.currentText() == "Smoothest"
    assert strip.scope.currentText() == "Chorus"


# --- hands ---


def test_the_hands_dialog_stretches_on_its_keyboard(window, qtbot):
    dialog = HandsDialog(window.desk.state.setup, window.theme, window)
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
    assert window.hands_offer.isVisible()

    def answer(dialog):
        dialog._take(PRESETS["Small"])
        return 1

    monkeypatch.setattr(HandsDialog, "exec", answer)
    window.actions_["hands"].trigger()
    settle(window, qtbot)
    assert window.desk.state.setup.hands == PRESETS["Small"]
    assert not window.hands_offer.isVisible()
    assert all(len(v.right) <= 3 for v in window.desk.solution.voicings)
    window.desk.saved = window.desk.state
    window.files.open_demo("slack-tide")
    assert window.desk.state.setup.hands == PRESETS["Small"]


def test_the_offer_to_set_hands_is_made_once(make_window):
    first = make_window()
    first.hands_offer.findChildren(type(first.hands_offer.layout().itemAt(2).widget()))[1].click()
    assert not first.hands_offer.isVisible()
    assert first.settings.hands_offered
    assert not make_window(hands_offered=True).hands_offer.isVisible()


# --- every command ---


def test_the_list_of_edits_goes_back_and_forth(window, qtbot):
    desk = window.desk
    window.actions_["history"].setChecked(True)
    window.show_history()
    desk.toggle_keep()
    desk.select(1)
    desk.toggle_keep("top")
    desk.change_setup("bass theirs", bass="theirs")
    texts = [window.history.list.item(i).text() for i in range(window.history.list.count())]
    assert texts == ["As opened", "Keep E", "Keep the top note of C#m7", "Bass theirs"]
    window.history.go(1)
    assert [keep.part for keep in desk.state.keeps] == ["chord"]
    window.history.go(3)
    assert desk.state.setup.bass == "theirs"
    window.history.go(0)
    assert desk.state.keeps == ()


# --- look ---


def luminance(color):
    parts = [
        v / 12.92 if v <= 0.03928 else ((v + 0.055) / 1.055) ** 2.4
        for v in (color.redF(), color.greenF(), color.blueF())
    ]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


def contrast(theme, one, other):
    a, b = sorted((luminance(theme.color(one)), luminance(theme.color(other))), reverse=True)
    return (a + 0.05) / (b + 0.05)


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_text_stands_out_enough(theme):
    for text, ground in (
        ("ink", "paper"), ("muted", "paper"), ("brass_text", "paper"), ("error", "paper"), ("ink", "chosen"), ("muted", "chosen"),
        ("on_plate", "left"), ("on_plate", "right"), ("brass_text", "chosen"), ("ink", "raised"), ("on_brass", "brass"),
    ):  # fmt: skip
        assert contrast(theme, text, ground) >= 4.5, (text, ground)


def test_no_part_of_the_window_changes_the_font_of_another(window):
    assert font(BODY).families() == FAMILIES
    assert window.header.bass["mine"].font().families() == FAMILIES
    assert LIGHT.color("muted").alphaF() == 1.0


def test_every_control_has_a_name_and_a_tip(window):
    from PySide6.QtWidgets import QAbstractButton, QComboBox

    for widget in window.findChildren(QAbstractButton) + window.findChildren(QComboBox):
        if widget.isVisible() and widget.objectName() != "qt_toolbar_ext_button":
            assert widget.accessibleName() or getattr(widget, "text", str)(), widget


def test_controls_in_a_view_are_used_by_keys_alone(window, qtbot):
    """Space, Enter and the arrows mean something in the view, but a control that has the focus keeps them."""
    wishes, desk = window.hinges.wishes, window.desk
    wishes.colour["3"].setFocus()
    qtbot.keyClick(wishes.colour["3"], Key.Key_Space)
    assert desk.state.setup.colour == 3
    qtbot.keyClick(wishes.colour["0"], Key.Key_Return)
    assert desk.state.setup.colour == 0
    settle(window, qtbot)
    style = wishes.style_.currentText()
    qtbot.keyClick(wishes.style_, Key.Key_Down)
    assert desk.state.setup.style == wishes.style_.currentText() != style
    settle(window, qtbot)
    assert not window.listening.player.playing
    assert not desk.state.keeps
    window.show_view("swaps")
    box = window.swaps.strip.stays["starts"]
    qtbot.keyClick(box, Key.Key_Space)
    assert not box.isChecked()
    qtbot.keyClick(window.swaps, Key.Key_Space)  # beside them it plays
    assert window.listening.player.playing
    window.listening.stop()


def on_screen(window):
    """The map as it stands on the screen; a grab of the widget would paint it whole."""
    port = window.hinges.map.viewport()
    corner = port.mapTo(window, QPoint(0, 0))
    seen = window.screen().grabWindow(window.winId(), corner.x(), corner.y(), port.width(), port.height())
    image = seen.toImage().convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint8).astype(int)


def test_the_map_painted_in_part_is_the_map_painted_whole(window, qtbot):
    """After every kind of edit the columns that were not painted again are still right."""
    canvas, desk = window.hinges.map.canvas, window.desk

    def edits():
        yield lambda: desk.type_text(desk.state.text.replace("| E | C#m7 | F#m7 |", "| E | C#m9 | F#m7 |", 1))
        yield lambda: desk.toggle_keep("top")
        yield lambda: desk.change_setup("style", style="Singing top")
        yield lambda: desk.type_text(desk.state.text.replace("| A | Am6 |", "| A | Am6 D9 |", 1))
        yield desk.undo
        yield lambda: desk.change_setup("bass theirs", bass="theirs")
        yield lambda: desk.change_setup("bass mine", bass="mine")

    for edit in edits():
        edit()
        settle(window, qtbot)
        QApplication.processEvents()
        partly = on_screen(window)
        canvas.update()
        QApplication.processEvents()
        assert abs(on_screen(window) - partly).max() < 12  # clipped lines are rounded a little otherwise


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_hands_are_told_apart_in_grey(theme, qapp):
    """By the form of a plate, and of the sign on a held key, not by its colour."""

    def painted(draw, wide, tall):
        image = QImage(wide, tall, QImage.Format.Format_RGB32)
        image.fill(theme.color("paper"))
        painter = QPainter(image)
        draw(painter)
        painter.end()
        return image.convertToFormat(QImage.Format.Format_Grayscale8)

    plates = {
        hand: painted(lambda p, h=hand: plate(p, theme, QRectF(0, 0, 28, 17), h, "5"), 28, 17)
        for hand in ("left", "right")
    }
    corners = {hand: image.pixelColor(1, 1).red() for hand, image in plates.items()}
    assert abs(corners["left"] - corners["right"]) > 60
    found = {}
    for hand in ("left", "right"):
        keys = keyboard(48, 59, 0.0, 0.0, 280.0, 80.0, (Mark(48, hand, "1", "C", "1"),))
        found[hand] = painted(lambda p, k=keys: draw_keyboard(p, theme, k, "names"), 290, 90)
    x, y = keys.centre(48), keys.height - 24  # the middle of the sign
    corner = {hand: image.pixelColor(round(x - 3), round(y - 3)).red() for hand, image in found.items()}
    middle = {hand: image.pixelColor(round(x), round(y)).red() for hand, image in found.items()}
    assert abs(middle["left"] - middle["right"]) < 40
    assert abs(corner["left"] - corner["right"]) > 40


# --- what was kept and rests ---
def test_what_rests_is_shown_told_and_comes_back(window, qtbot):
    window.desk.type_text("| C | Am7 | F |")
    settle(window, qtbot)
    window.desk.select(1)
    window.desk.toggle_keep()
    settle(window, qtbot)
    window.desk.type_text("| C | D7 | F |")
    settle(window, qtbot)
    column = window.hinges.map.canvas.scene.columns[1]
    assert column.kept == {RESTS}
    assert "Am7 rests: the chord is D7 now. It comes back with its chord." in window.statusBar().currentMessage()
    assert "rests" in describe(window.hinges.map.canvas.scene, 1)
    window.hinges.options._tell_reason()
    assert "Kept for Am7, and rests: the chord is D7 now." in window.hinges.options.why.text()
    window.desk.type_text("| C | Am7 | F |")
    settle(window, qtbot)
    assert window.hinges.map.canvas.scene.columns[1].kept == {"chord"}
    window.desk.type_text("| C | D7 | F |")
    settle(window, qtbot)
    window.actions_["free_resting"].trigger()
    settle(window, qtbot)
    assert window.hinges.map.canvas.scene.columns[1].kept == frozenset()
    assert window.desk.history.undo_label == "let go what rests"


def test_chords_that_change_beside_a_wish_are_marked_and_said(window, qtbot):
    """A wish for one part may move its neighbours: the map says which, and an edit of another kind clears that."""
    desk = window.desk
    before = [voicing.both for voicing in desk.solution.voicings]
    section = desk.solution.moments[desk.solution.voicings[20].moment].section
    desk.select(20)
    desk.put_setup("lift", with_wish(desk.state.setup, desk.moment, "section", lift=9))
    settle(window, qtbot)
    after = [voicing.both for voicing in desk.solution.voicings]
    outside = {
        index
        for index, voicing in enumerate(desk.solution.voicings)
        if before[index] != after[index] and desk.solution.moments[voicing.moment].section != section
    }
    assert outside
    assert desk.beside == outside
    columns = window.hinges.map.canvas.scene.columns
    assert {index for index, column in enumerate(columns) if BESIDE in column.kept} == outside
    assert "outside changed too" in window.statusBar().currentMessage()
    assert "lead into" in describe(window.hinges.map.canvas.scene, min(outside))
    desk.change_setup("colour", colour=0)
    settle(window, qtbot)
    assert desk.beside == frozenset()


def test_notes_in_the_hands_and_a_free_right_hand_are_asked_for_in_the_menu(window, qtbot):
    strip, desk = window.hinges.wishes, window.desk

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
    entry("Notes in the hands", "as many").trigger()
    entry("Right hand", "free").trigger()
    settle(window, qtbot)
    assert sum(not v.right for v in desk.solution.voicings) > len(desk.solution.voicings) // 2
    assert desk.history.undo_label == "the right hand is free, for a tune or a solo"
