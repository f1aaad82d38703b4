"""The Playing view: patterns taken, strokes changed, rhythms tapped, fills taken, all heard and undone."""

from fractions import Fraction as F

import pytest
import soundfile
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.app.desk.playing.asking import PLACES, take_pattern, toggle_fill, with_swing
from yellow_hinge.app.desk.playing.own import on_grid, tapped, with_hit
from yellow_hinge.core.rhythm.pattern.patterns import TICK, Hit, patterns, read_hits
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.ui.playing.bar_scene import LANE_H
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.playing.scene import bar_scene

Key, Mods, LEFT = Qt.Key, Qt.KeyboardModifier, Qt.MouseButton.LeftButton


@pytest.fixture
def playing(window, qtbot):
    window.rooms.show_room(PLAYING)
    window.rooms.room(PLAYING).view.setFocus()
    qtbot.waitUntil(lambda: window.rooms.room(PLAYING).view.canvas.scene is not None, timeout=40_000)
    return window


def names(window):
    return [
        window.rooms.room(PLAYING).view.patterns.list.item(i).data(Qt.ItemDataRole.UserRole).id
        for i in range(window.rooms.room(PLAYING).view.patterns.list.count())
    ]


def choose(window, pattern):
    window.rooms.room(PLAYING).view.patterns.list.setCurrentRow(names(window).index(pattern))
    QTest.keyClick(window.rooms.room(PLAYING).view, Key.Key_Return)


def struck(window, place):
    return [s for s in window.listening.performance.struck if s.place == place and s.part in ("left", "right")]


def test_a_pattern_is_taken_for_song_section_bar_chord_and_hand_and_undone(playing):
    desk, view, before = playing.desk, playing.rooms.room(PLAYING).view, playing.desk.state.playing
    solution = desk.solution
    choose(playing, "eighths")
    assert desk.state.playing.wishes[0].pattern == "eighths"
    assert len({s.onset for s in struck(playing, 0) if s.part == "right"}) == 8
    desk.selection.go(5)
    for place, hand, pattern in (
        ("section", "both", "ballad"),
        ("bar", "left", "stride"),
        ("chord", "right", "rolled"),
    ):
        index = PLACES.index(place)
        view.place.setCurrentIndex(index)
        view.place.activated.emit(index)
        view.hands[hand].click()
        choose(playing, pattern)
    row = playing.listening.performance.row
    assert (row[0].patterns["left"].id, row[5].patterns["left"].id, row[5].patterns["right"].id) == (
        "ballad",
        "stride",
        "rolled",
    )
    assert row[20].patterns["right"].id == "eighths"
    assert playing.ribbon.scene.patterns
    assert desk.solution is solution  # hands are not searched again for a pattern
    assert "rolled" in view.told.text().lower()
    view.usual.click()
    assert playing.listening.performance.row[5].patterns["right"].id == "ballad"
    for _ in range(5):
        desk.document.undo()
    assert desk.state.playing == before


def test_the_bar_shows_every_stroke_at_its_time_and_pitch(playing):
    choose(playing, "ballad")
    playing.desk.selection.go(3)
    scene, performance = playing.rooms.room(PLAYING).view.canvas.scene, playing.listening.performance
    assert [head.place for head in scene.heads] == [3, 4]
    inside = [
        s for s in performance.struck if s.part in ("left", "right") and scene.bar.start <= s.onset < scene.bar.end
    ]
    assert [p.midi for p in scene.plates] == [s.midi for s in inside]
    assert all(round(p.x - scene.x_of(s.onset), 3) in (0, 23.92) for p, s in zip(scene.plates, inside, strict=True))
    assert [c.text for c in scene.counts if c.text] == ["1", "2", "3", "4"]
    for plate in scene.plates:
        assert 0 < plate.x < plate.held <= plate.rings <= scene.width
        assert scene.plate_at(plate.x + 3, plate.y) is not None
    assert scene.tick_at(scene.x_of(scene.bar.start + 480)) == scene.bar.start + 480
    assert bar_scene(performance, 999, 500, 400) is None


def test_a_copy_is_edited_by_click_and_keys_heard_at_once_and_undone_in_one_step(playing, qtbot):
    desk, view = playing.desk, playing.rooms.room(PLAYING).view
    choose(playing, "held")
    before = desk.state.playing
    scene = view.canvas.scene
    at = QPoint(int(scene.x_of(scene.bar.start + 2 * TICK)), int(scene.lanes["right"] + 10))
    view.canvas.chosen.emit("right", 0, 0)
    QTest.keyClick(view.canvas, Key.Key_BracketLeft)  # shorter, so that there is room
    for _ in range(8):
        QTest.keyClick(view.canvas, Key.Key_BracketLeft)
    scene = view.canvas.scene
    QTest.mouseClick(view.canvas, Qt.MouseButton.LeftButton, pos=at)
    (own,) = desk.state.playing.patterns
    hits = read_hits(own.right, "right")
    assert [hit.at for hit in hits] == [0, 2]
    assert {s.onset for s in struck(playing, 0) if s.part == "right"} == {0, 2 * TICK}
    assert view.canvas.hit[0] == "right"
    QTest.keyClick(view.canvas, Key.Key_Down)
    QTest.keyClick(view.canvas, Key.Key_Plus)
    QTest.keyClick(view.canvas, Key.Key_Right, Mods.ShiftModifier)
    (own,) = desk.state.playing.patterns
    changed = read_hits(own.right, "right")[-1]
    assert (changed.at, changed.what, changed.louder) == (F(9, 4), "low", 12)
    QTest.keyClick(view.canvas, Key.Key_Left)
    assert view.canvas.hit[2] == 0
    QTest.keyClick(view.canvas, Key.Key_Right)
    QTest.keyClick(view.canvas, Key.Key_Delete)
    (own,) = desk.state.playing.patterns
    assert [hit.at for hit in read_hits(own.right, "right")] == [0]
    assert names(playing)[0] == own.id
    desk.document.undo()
    assert desk.state.playing == before


def test_a_rhythm_is_tapped_in(playing, qtbot):
    desk, view = playing.desk, playing.rooms.room(PLAYING).view
    view.tap.click()
    qtbot.waitUntil(lambda: bool(playing.output.started), timeout=40_000)
    sheet = playing.output.started[0]
    assert {note.part for note in sheet.notes} == {"click"}
    beat = 60 / desk.state.song.tempo * RATE
    playing.output.pull(sheet.back)  # the count
    for key, gap in ((Key.Key_F, 0), (Key.Key_J, 1.02), (Key.Key_J, 1.97)):
        playing.output.pull(max(0, int(gap * beat) - (playing.listening.player.frame - sheet.back)))
        QTest.keyClick(view, key)
    canvas = view.canvas
    assert [(hand, round(tick / TICK)) for hand, tick in canvas.taps] == [("left", 0), ("right", 1), ("right", 2)]
    spots = [(canvas.scene.x_of(tick), canvas.scene.lanes[hand] + LANE_H / 2) for hand, tick in canvas.taps]
    shot = canvas.grab().toImage()
    assert [shot.pixelColor(int(x), int(y)) for x, y in spots] == [canvas.theme.hand(h) for h, _ in canvas.taps]
    QTest.keyClick(view, Key.Key_Return)
    assert not canvas.taps
    (own,) = desk.state.playing.patterns
    assert ([h.at for h in read_hits(own.left, "left")], [h.at for h in read_hits(own.right, "right")]) == ([0], [1, 2])
    assert not view.tap.isChecked()
    assert {s.onset for s in struck(playing, 0) if s.part == "right"} == {TICK, 2 * TICK}
    view.tap.click()
    QTest.keyClick(view, Key.Key_Escape)
    assert len(desk.state.playing.patterns) == 1


def test_the_mark_follows_and_a_pattern_taken_while_it_plays_is_heard(playing, qtbot):
    QTest.keyClick(playing.rooms.room(PLAYING).view, Key.Key_Space)
    qtbot.waitUntil(lambda: bool(playing.output.started), timeout=40_000)
    playing.output.pull(RATE)
    qtbot.waitUntil(lambda: bool(playing.rooms.room(PLAYING).view.canvas.mark), timeout=40_000)
    tick = playing.rooms.room(PLAYING).view.canvas.mark
    assert abs(tick - playing.listening.performance.clock.tick(1.0)) < 60
    choose(playing, "tremolo")
    qtbot.waitUntil(lambda: len(playing.output.started) == 2, timeout=40_000)
    first, second = ({(n.start, n.midi) for n in sheet.notes} for sheet in playing.output.started)
    assert first != second
    assert playing.listening.player.frame >= RATE - 2048
    QTest.keyClick(playing.rooms.room(PLAYING).view, Key.Key_Space)
    assert playing.rooms.room(PLAYING).view.canvas.mark is None


@pytest.mark.parametrize("view", ["playing", "hinges"])
def test_a_fill_is_taken_seen_heard_and_undone(playing, view, qtbot):
    desk = playing.desk
    desk.selection.go(2)
    playing.rooms.show_room(playing.rooms.named(view))
    page = playing.rooms.room(PLAYING).view.fills
    if view == "playing":
        playing.rooms.room(PLAYING).view.tabs.mark("fills")
    else:
        playing.home.view.side.show_page("fills")
        page = playing.home.view.side.pages.page("fills")
    qtbot.waitUntil(lambda: page.list.count() > 5, timeout=40_000)
    rows = [page.list.item(i).data(Qt.ItemDataRole.UserRole) for i in range(page.list.count())]
    page.list.setCurrentRow([row.id for row in rows].index("top-around"))
    before = struck(playing, 1)
    QTest.keyClick(playing.rooms.currentWidget(), Key.Key_Return)
    assert [fill.kind for fill in desk.state.playing.fills] == ["top-around"]
    assert struck(playing, 1) != before
    desk.selection.go(1)
    assert len(playing.keys.canvas.fills) == 2
    assert len(playing.home.view.map.canvas.fills) == 2
    page.refresh()
    desk.document.undo()
    assert desk.state.playing.fills == ()
    assert playing.keys.canvas.fills == ()


def test_a_lead_in_is_dragged_in_time_and_moved_by_keys(playing, qtbot):
    room, desk = playing.rooms.room(PLAYING), playing.desk
    desk.selection.go(2)
    toggle_fill(desk, "top-around")
    desk.selection.go(1)
    canvas = room.view.canvas
    added = [plate for plate in canvas.scene.plates if plate.added]
    beat = 480 * canvas.scene.scale
    held = QPoint(round(added[0].x + 4), round(added[0].y))
    QTest.mousePress(canvas, LEFT, pos=held)
    QTest.mouseMove(canvas, held - QPoint(round(beat / 2), 0))
    QTest.mouseRelease(canvas, LEFT, pos=held)
    (fill,) = desk.state.playing.fills
    moved = [plate for plate in canvas.scene.plates if plate.added]
    assert [plate.midi for plate in moved] == [plate.midi for plate in added]
    assert added[0].x - moved[0].x == pytest.approx(beat / 2, abs=2)
    onsets = [s.onset for s in playing.listening.performance.struck if s.added]
    assert onsets == [performance_start(playing, 2) - 120 * (fill.quarters - n * fill.quarters // 2) for n in (0, 1)]
    assert desk.document.history.undo_label == "move around the top"
    desk.selection.go(2)
    room.view.tabs.mark("fills")
    page = room.view.fills
    qtbot.waitUntil(lambda: page.list.count() > 5, timeout=40_000)
    rows = [page.list.item(i).data(Qt.ItemDataRole.UserRole).id for i in range(page.list.count())]
    page.list.setCurrentRow(rows.index("top-around"))
    page.shift(1)
    assert desk.state.playing.fills[0].quarters == fill.quarters - 1
    desk.document.undo()
    assert [own.quarters for own in desk.state.playing.fills] == [0]  # what is moved in a row is one step


def performance_start(window, place):
    return window.listening.performance.starts[place]


def test_an_own_pattern_is_named_known_to_other_songs_and_forgotten(playing, qtbot, monkeypatch):
    playing.rooms.room(PLAYING).view.copy.click()
    (own,) = playing.desk.state.playing.patterns
    monkeypatch.setattr("yellow_hinge.ui.dialogs.asking.name", lambda *_: "Rocking chair")
    playing.rooms.room(PLAYING).view.name.click()
    assert playing.desk.state.playing.patterns[0].name == "Rocking chair"
    playing.desk.document.saved = playing.desk.state
    playing.files.open_demo("paper-lantern-waltz")
    settle(playing, qtbot)
    assert playing.desk.state.playing.patterns == ()
    assert not playing.rooms.room(PLAYING).view.forget.isVisible()
    choose(playing, own.id)
    assert playing.desk.state.playing.patterns[0].name == "Rocking chair"
    playing.rooms.room(PLAYING).view.forget.click()
    assert playing.desk.state.playing == type(playing.desk.state.playing)()
    assert own.id not in names(playing)
    assert playing.preferences.patterns == ()


def test_sound_is_exported_with_progress_and_can_be_stopped(playing, tmp_path, monkeypatch):
    assert playing.saving.export_to(tmp_path / "a.flac")
    assert soundfile.info(tmp_path / "a.flac").duration > 60
    monkeypatch.setattr(
        "yellow_hinge.ui.dialogs.asking.patiently",
        lambda _w, _t, done, stop, _s: (stop(), [None for _ in iter(done, True)]),
    )
    assert not playing.saving.export_to(tmp_path / "b.wav")
    assert not (tmp_path / "b.wav").exists()
    assert "not written" in playing.teller.line.text()


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
def test_tempo_levels_and_switches_of_what_is_heard(playing, qtbot):
    header = playing.header
    header.tempo.setValue(100)
    settle(playing, qtbot)
    assert playing.desk.state.song.tempo == 100
    header.half.click()
    assert playing.listening.heard.half
    assert playing.preferences.settings.heard.half
    header.heard.click()
    panel = header.heard_panel
    panel.boxes["drums"].click()
    panel.sliders["drums"].setValue(5)
    assert playing.listening.levels()["drums"] == 0.25
    assert playing.actions_["hear_drums"].isChecked()
    panel.close()
    QTest.keyClick(playing.rooms.room(PLAYING).view, Key.Key_Space)
    qtbot.waitUntil(lambda: bool(playing.output.started), timeout=40_000)
    sheet = playing.output.started[0]
    assert {note.part for note in sheet.notes} == {"left", "right", "drums"}
    half = float(playing.listening.performance.clock.faster(50).seconds(playing.listening.performance.length))
    assert sheet.length == pytest.approx(half * RATE, rel=1e-3)


@pytest.mark.parametrize("what", ["hinge", "bar", "section"])
def test_hinge_bar_and_section_go_round(playing, qtbot, what):
    playing.desk.selection.go(3)
    playing.listening.loop(what)
    qtbot.waitUntil(lambda: bool(playing.output.started), timeout=40_000)
    sheet, performance = playing.output.started[0], playing.listening.performance
    assert sheet.back == 0
    places = [place for _, place in sheet.places]
    section = [
        i for i, v in enumerate(playing.desk.solution.voicings) if playing.desk.solution.moments[v.moment].section == 0
    ]
    assert places == {"hinge": [3, 4], "bar": [3, 4], "section": section}[what]
    assert performance.starts[3] in {bar.start for bar in performance.bars}


def test_taps_fall_on_the_grid():
    made = tapped([("left", F(1, 50)), ("right", F(52, 100)), ("right", F(399, 100))], 4, False, 1)
    assert (made.left, made.right, made.bar) == ("0/4 all", "0/.5 all; .5/3.5 all", True)
    swung = tapped([("right", F(66, 100)), ("right", F(2))], F(4), False, 1, swings=True)
    assert (swung.right, swung.swing) == (".5/1.5 all; 2/2 all", True)  # written straight, played late
    assert tapped([], 4, False, 1) is None
    assert on_grid(F(35, 100), True) == F(1, 3)
    assert with_hit((Hit(F(0), F(1), "all"),), F(0), F(2), "top") == (Hit(F(0), F(2), "top"),)


def test_map_ribbon_and_keyboards_follow_what_sounds(window, qtbot):
    window.desk.type_text("tempo: 240\n" + window.desk.state.text.partition("tempo: 74\n")[2])
    settle(window, qtbot)
    window.home.view.map.setFocus()
    QTest.keyClick(window.home.view.map, Key.Key_Space)
    qtbot.waitUntil(lambda: bool(window.output.started), timeout=40_000)
    beats = [place for start, place in window.output.started[0].places if start > RATE * 4]
    window.output.pull(RATE * 4)
    qtbot.waitUntil(lambda: window.ribbon.playing > 3, timeout=40_000)
    playing = window.ribbon.playing
    assert window.home.view.map.canvas.playing == playing
    assert window.keys._shown[0] is window.desk.solution.voicings[playing]
    column = window.home.view.map.canvas.scene.columns[playing]
    left = window.home.view.map.horizontalScrollBar().value()
    assert left <= column.x <= left + window.home.view.map.viewport().width()
    assert beats
    QTest.keyClick(window.home.view.map, Key.Key_Space)
    assert window.home.view.map.canvas.playing == -1
    assert window.keys._shown[0] is window.desk.selection.voicing


def test_straight_or_swung_is_chosen_for_the_song_or_a_section(playing, qtbot):
    view = playing.rooms.room(PLAYING).view
    view.swing.setCurrentText("light")
    view.swing.activated.emit(view.swing.currentIndex())
    settle(playing, qtbot)
    assert playing.desk.state.song.swing == "light"
    assert "swing: light" in playing.desk.state.text
    assert {bar.swing for bar in playing.listening.performance.bars} == {58}
    view.place.setCurrentIndex(1)
    view.scoped.emit()
    view.swing.setCurrentText("straight")
    view.swing.activated.emit(view.swing.currentIndex())
    settle(playing, qtbot)
    assert playing.desk.state.song.sections[0].swing == "straight"
    assert {bar.swing for bar in playing.listening.performance.bars} == {50, 58}
    playing.desk.document.undo()
    playing.desk.document.undo()
    settle(playing, qtbot)
    assert playing.desk.state.song.swing == ""
    assert view.swing.currentText() == "as usual"
    view.place.setCurrentIndex(0)
    playing.desk.edit_chart("swing 62", lambda song: with_swing(song, "62"))
    settle(playing, qtbot)
    assert view.swing.currentText() == "62%"


def test_the_keyboard_shows_what_the_playing_adds_while_it_plays(playing):
    take_pattern(playing.desk, "song", "both", "walking")
    performance = playing.listening.performance
    place = next(n for n in range(len(performance.row)) if performance.added_at(n))
    playing.showing._playing(place)
    assert playing.keys.canvas.added == performance.added_at(place)
    plain = playing.keys.canvas.grab().toImage()
    playing.keys.canvas.added = ()
    assert playing.keys.canvas.grab().toImage() != plain
    playing.showing._playing(-1)
    assert playing.keys.canvas.added == ()


def test_a_pattern_opens_hands_says_what_it_costs_and_lets_them_be_kept(playing, qtbot):
    desk, view, plain = playing.desk, playing.rooms.room(PLAYING).view, playing.desk.solution
    choose(playing, "stride")
    settle(playing, qtbot)
    opened = desk.solution
    assert desk.answers.beside
    more = opened.totals.motion - plain.totals.motion
    assert f"{len(desk.answers.beside)} hands opened for it; {abs(more)} semitones" in playing.teller.line.text()
    assert view.keep.isVisible()
    changed = {i for i, (a, b) in enumerate(zip(plain.voicings, opened.voicings, strict=True)) if a.both != b.both}
    assert changed == set(desk.answers.beside)
    view.keep.click()
    settle(playing, qtbot)
    assert "Shift+O" not in playing.teller.line.text()  # it is done, and nothing is to be kept of what was there
    assert [v.both for v in desk.solution.voicings] == [v.both for v in plain.voicings]
    assert playing.listening.performance.row[3].patterns["left"].id == "stride"
    assert not view.keep.isVisible()
    assert desk.document.undo() == "keep the hands under the pattern"
    settle(playing, qtbot)
    assert [v.both for v in desk.solution.voicings] == [v.both for v in opened.voicings]
    desk.document.undo()  # pattern and hands are one step
    settle(playing, qtbot)
    assert [v.both for v in desk.solution.voicings] == [v.both for v in plain.voicings]
    assert desk.state.playing == desk.document.saved.playing


def test_strokes_edited_keep_the_hands_that_their_pattern_opened(playing, qtbot):
    choose(playing, "ballad")
    settle(playing, qtbot)
    hands = [v.both for v in playing.desk.solution.voicings]
    playing.rooms.room(PLAYING).view.copy.click()
    settle(playing, qtbot)
    assert playing.listening.performance.row[0].patterns["left"].id.startswith("mine-")
    assert [v.both for v in playing.desk.solution.voicings] == hands


def test_chords_come_half_a_beat_early_where_that_is_asked(playing, qtbot):
    view = playing.rooms.room(PLAYING).view
    assert not view.ahead.isChecked()
    view.ahead.click()
    settle(playing, qtbot)
    row = playing.listening.performance.row
    assert sum(bool(here.ahead) for here in row) > len(row) / 2
    assert playing.desk.state.playing.wishes[0].pattern == row[0].patterns["right"].id
    assert view.ahead.isChecked()
    choose(playing, "ballad")
    settle(playing, qtbot)
    hands = [v.both for v in playing.desk.solution.voicings]
    playing.rooms.room(PLAYING).view.copy.click()  # a stroke of one's own is early as well
    settle(playing, qtbot)
    assert view.ahead.isChecked()
    view.place.setCurrentIndex(1)
    view.place.activated.emit(1)
    view.ahead.click()
    settle(playing, qtbot)
    assert [v.both for v in playing.desk.solution.voicings] == hands  # and a part that comes early keeps its hands
    for _ in range(4):
        playing.desk.document.undo()
    view.place.setCurrentIndex(0)
    view.place.activated.emit(0)
    settle(playing, qtbot)
    assert not view.ahead.isChecked()
    assert not any(here.ahead for here in playing.listening.performance.row)


def test_a_pattern_is_seen_and_heard_before_it_is_taken_and_found_by_words(playing, qtbot):
    room, desk = playing.rooms.room(PLAYING), playing.desk
    listed, before = room.view.patterns, desk.state
    whole = listed.list.count()
    listed.wanted.setText("ballad")
    assert 0 < listed.list.count() < whole
    listed.wanted.setText("no such thing")
    assert listed.list.count() == 0
    listed.wanted.setText("")
    listed.here.setChecked(True)
    assert all(
        listed.list.item(i).data(Qt.ItemDataRole.UserRole).figure in ("4/4", "any", "mine")
        for i in range(listed.list.count())
    )
    listed.here.setChecked(False)
    listed.feel.setCurrentText("broken")
    listed.feel.activated.emit(listed.feel.currentIndex())
    felt = {listed.list.item(i).data(Qt.ItemDataRole.UserRole).id for i in range(listed.list.count())}
    assert felt == {pattern.id for pattern in patterns().values() if pattern.breaks}
    listed.feel.setCurrentIndex(0)
    listed.refresh(listed.used)
    own = [(p.x, p.midi) for p in room.view.canvas.scene.plates]
    room.point("stride")
    tried = [(p.x, p.midi) for p in room.view.canvas.scene.plates]
    assert tried != own
    assert "Enter takes it" in room.view.told.text()
    qtbot.keyClick(room.view, Key.Key_P)
    qtbot.waitUntil(lambda: bool(playing.output.started), timeout=40_000)
    beat = 60 / desk.state.song.tempo * RATE
    assert playing.output.started[-1].length == pytest.approx(5 * beat, abs=beat)  # the bar, and what rings on
    playing.listening.stop()
    assert desk.state is before
    qtbot.keyClick(room.view, Key.Key_Escape)
    assert [(p.x, p.midi) for p in room.view.canvas.scene.plates] == own
    for _ in range(4):
        qtbot.keyClick(room.view, Key.Key_Down)
    pointed = listed.list.currentItem().data(Qt.ItemDataRole.UserRole).id
    assert room._pointed == pointed
    qtbot.keyClick(room.view, Key.Key_Return)
    assert desk.state.playing.wishes[0].pattern == pointed


def test_notes_of_ones_own_are_written_lead_in_and_a_mistake_is_said(playing, qtbot):
    playing.desk.selection.go(2)
    room = playing.rooms.room(PLAYING)
    fills = room.view.fills
    before = playing.desk.state
    top = playing.desk.selection.voicing.right[-1]
    QTest.keyClicks(fills.own, f"{top - 3} x")
    QTest.keyClick(fills.own, Key.Key_Return)
    assert fills.hint.text().startswith("'x' is not a pitch")
    assert playing.desk.state == before
    fills.own.setText(f"{top - 3}, {top + 1}")
    QTest.keyClick(fills.own, Key.Key_Return)
    assert [fill.kind for fill in playing.desk.state.playing.fills if fill.kind.startswith("own")] == [
        "own top h-3 h+1"
    ]
    assert fills.own.text() == ""
    playing.autosave.mine.flush()
    assert (playing.places.mine / "fills" / "top-down3-up1.toml").is_file()  # and so other songs offer it too
    playing.desk.document.undo()
    assert playing.desk.state == before
