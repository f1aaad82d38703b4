"""The Lines view: lines found for a part, turned over, held, written, heard, and kept as the tune."""

import json

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.cli.main import main
from yellow_hinge.core.lines.rails import HIGH, RANGES
from yellow_hinge.core.performing import performed
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.opening import read_song
from yellow_hinge.ui.lines.room import LINES
from yellow_hinge.ui.lines.scene import HEAD_H
from yellow_hinge.ui.practice.room import PRACTICE

Key, LEFT, NONE = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def room(window, qtbot):
    window.rooms.show_room(LINES)
    found = window.rooms.room(LINES)
    qtbot.waitUntil(lambda: found.line is not None, timeout=30_000)
    return found


def again(room, qtbot, before):
    qtbot.waitUntil(lambda: room.found is not before and room.found is not None, timeout=30_000)


def test_a_line_of_the_section_is_shown_with_its_scales_and_follows_what_is_asked(room, qtbot):
    view, found = room.view, room.found
    assert [head.text for head in view.canvas.scene.heads][:3] == ["E", "C♯m7", "F♯m7"]
    assert len(view.canvas.scene.dots) == len(room.line.notes)
    assert "land on 3" in view.heading.text()
    assert view.scales.item(0).text().startswith("1 major: E F♯ G♯ A B C♯ D♯")
    room.desk.selection.go(1)
    assert "land on" in view.heading.text()
    assert view.canvas.chord == 1
    last = len(found.chords) - 1
    room.desk.selection.go(last)
    head = view.canvas.scene.heads[last]
    bar = view.area.horizontalScrollBar()
    assert head.x + head.width <= bar.value() + view.area.viewport().width()
    room.desk.selection.go(1)
    for change in (
        lambda: view.rail["7-3"].click(), lambda: view.bold["1"].click(),
        lambda: (view.density.setCurrentText("quarters"), view.asked.emit()),
        lambda: (view.part.setCurrentIndex(1), view.asked.emit()),
    ):  # fmt: skip
        before = room.found
        change()
        again(room, qtbot, before)
    assert (room.found.asked.rail, room.found.asked.bold, room.found.asked.density) == ("7-3", 1, "quarters")
    assert room.found.last == len(room.desk.solution.voicings) - 1
    assert found.last < room.found.last


def test_the_next_best_and_a_note_held_fast(room, qtbot):
    first = room.line
    QTest.keyClick(room.view, Key.Key_X)
    assert room.line != first
    assert "Line 2 of" in room.view.told.text()
    QTest.keyClick(room.view, Key.Key_X)
    scene, number = room.view.canvas.scene, 5
    dot, note, before = scene.dots[number], room.line.notes[number], room.found
    goal = note.midi + 2
    start = QPoint(round(dot.x), round(dot.y))
    end = QPoint(round(dot.x), round(HEAD_H + (HIGH - goal + 0.5) * scene.step))
    QTest.mousePress(room.view.canvas, LEFT, NONE, start)
    QTest.mouseRelease(room.view.canvas, LEFT, NONE, end)
    again(room, qtbot, before)
    held = next(each for each in room.line.notes if each.onset == note.onset)
    assert held.midi == goal
    assert not room.view.free.isHidden()
    before = room.found
    room.view.free.click()
    again(room, qtbot, before)
    assert not room.held


def test_a_line_is_written_in_degrees_heard_and_becomes_the_tune_in_one_step(room, qtbot, window):
    room.view.written_.setText("3 5 x")
    QTest.keyClick(room.view.written_, Key.Key_Return)
    assert room.view.told.text().startswith("column 5")
    room.view.written_.setText("3 . 5 . 1' . r r")
    QTest.keyClick(room.view.written_, Key.Key_Return)
    assert [note.degree for note in room.line.notes] == ["3", "5", "1"]
    assert "of yours" in room.view.told.text()
    room.view.bare.click()
    assert not room.view.written_.isVisible()
    dot = room.view.canvas.scene.dots[0]
    QTest.mouseClick(room.view.canvas, LEFT, NONE, QPoint(round(dot.x), round(dot.y)))
    assert room.view.canvas.note == (0 if dot.lands else -1)
    room.view.bare.click()
    QTest.mouseClick(room.view.canvas, LEFT, NONE, QPoint(round(dot.x), round(dot.y)))
    assert room.view.canvas.note == 0
    room.view.play.click()
    qtbot.waitUntil(lambda: bool(window.output.started), timeout=20_000)
    sung = [note.midi for note in window.output.started[-1].notes if note.part == "tune"]
    assert sung == [note.midi for note in room.line.notes]
    room.view.play.click()
    before = room.desk.state
    notes = [note.midi for note in room.line.notes]
    room.view.tune.click()
    settle(window, qtbot)
    tune = [tone.pitch.midi for tone in room.desk.solution.moments[0].tune]
    assert tune == notes
    assert room.desk.document.history.undo_label == "a line as the tune of Verse"
    room.desk.document.undo()
    assert room.desk.state == before


def test_a_line_keeps_to_the_range_that_is_chosen(room, window, qtbot):
    for name, (low, high) in RANGES.items():
        room.view.range.setCurrentText(name)
        room.view.range.activated.emit(room.view.range.currentIndex())
        qtbot.waitUntil(lambda: room.found is not None and room.found.number == room.finder.asked, timeout=20_000)
        assert all(low <= note.midi <= high for line in room.found.lines for note in line.notes)


def test_room_and_verb_and_the_kept_tune_are_one_line(room, window, qtbot, tmp_path, capsys):
    path = tmp_path / "song.hinge"
    room.desk.document.save(path)
    assert main(["solo", str(path), "--at", "Verse", "--json"]) == 0
    best = json.loads(capsys.readouterr().out)["lines"][0]
    mine = [(note.midi, float(note.onset), note.degree, note.why) for note in room.line.notes]
    assert mine == [(note["midi"], note["onset"], note["degree"], note["why"]) for note in best["notes"]]
    room.as_tune()
    settle(window, qtbot)
    room.desk.document.save(path)
    kept = read_song(str(path)).song
    last = room.moments[-1].quarter + room.moments[-1].quarters
    tones = [(m, tone) for m in timeline(kept) if m.quarter < last for tone in m.tune if tone.begins]
    assert [(t.pitch.midi, float(m.quarter + t.onset)) for m, t in tones] == [(midi, onset) for midi, onset, *_ in mine]
    struck = window.listening.performance or performed(room.desk.solution, kept, room.desk.state.playing)
    sung = [s for s in struck.struck if s.part == "tune" and s.onset < ticks(last)]
    assert [(s.midi, s.onset) for s in sung] == [(n.midi, ticks(n.onset)) for n in room.line.notes]


def test_a_line_is_kept_in_the_take_let_go_and_undone_by_keys_alone(room, window, qtbot):
    before, line = room.desk.state, room.line
    QTest.keyClick(room.view, Key.Key_Return)
    assert room.desk.document.history.undo_label == "a line over Verse"
    assert room.shows_kept
    same = [(note.onset, note.quarters, note.midi, note.degree) for note in line.notes]
    assert [(note.onset, note.quarters, note.midi, note.degree) for note in room.line.notes] == same
    assert room.view.keep.text() == "Let it go"
    qtbot.waitUntil(lambda: any(s.part == "line" for s in window.listening.performance.struck), timeout=20_000)
    first = room.moments[-1].quarter + room.moments[-1].quarters  # the verse comes again, with its line
    struck = [s for s in window.listening.performance.struck if s.part == "line" and s.onset < ticks(first)]
    assert [(s.onset, s.midi) for s in struck] == [(ticks(note.onset), note.midi) for note in line.notes]
    QTest.keyClick(room.view, Key.Key_X)
    assert not room.shows_kept
    QTest.keyClick(room.view, Key.Key_Delete)
    assert room.desk.state.playing.lines == ()
    room.desk.document.undo()
    room.desk.document.undo()
    assert room.desk.state == before
    rail = room.view.chosen_rail
    QTest.keyClick(room.view, Key.Key_Down)
    assert room.view.chosen_rail != rail


def test_a_note_is_chosen_moved_and_held_by_keys(room, qtbot):
    QTest.keyClick(room.view, Key.Key_N)
    QTest.keyClick(room.view, Key.Key_N)
    number = room.view.canvas.note
    note, before = room.line.notes[number], room.found
    assert "Shift+Up" in room.view.told.text()
    QTest.keyClick(room.view, Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    again(room, qtbot, before)
    assert {each.onset: each.midi for each in room.line.notes}[note.onset] == note.midi + 1
    assert room.held == {note.onset: note.midi + 1}
    before = room.found
    QTest.keyClick(room.view, Key.Key_N)
    QTest.keyClick(room.view, Key.Key_H)
    again(room, qtbot, before)
    assert len(room.held) == 2


def test_playing_along_every_landing_is_landed_or_missed(room, window, qtbot, monkeypatch):
    monkeypatch.setattr(window.live.output, "start", lambda source: None)
    room.view.along.setChecked(True)
    player, along = window.listening.player, room.along
    qtbot.waitUntil(lambda: player.score is not None, timeout=20_000)
    score = player.score
    assert not [note for note in score.notes if note.part in ("tune", "line")]
    player.heard_at = lambda frame: 1000.0  # the first chord sounds then
    chord = room.found.chords[0]
    pc = (chord.moment.chord.root.pc + degree_pc(chord.land_on[0])) % 12
    window.live.notes.press(60 + pc, at=1000.1)
    along.clock = lambda: 1000.0 + (score.places[2][0] - score.back) / 48_000 - 0.1
    along.look()
    assert room.view.canvas.marks == {0: True, 1: False}
    assert room.view.told.text() == "Round 1: 1 of 2 landed, 1 missed"
    room.view.along.setChecked(False)
    assert room.view.canvas.marks == {}
    assert not player.playing


def test_a_line_goes_onto_the_shelf_is_offered_first_kept_over_its_chords_and_drilled(room, window, qtbot, monkeypatch):
    shift, desk, told = Qt.KeyboardModifier.ShiftModifier, room.desk, window.teller.line
    QTest.keyClick(room.view, Key.Key_R, shift)
    assert room.view.told.text().startswith("Show a line that is mine")
    monkeypatch.setattr(room.shelf, "shell", room.shell._replace(ask_name=lambda question, proposed: "My turn"))
    desk.selection.go(1)
    desk.selection.mark_to(2)
    put, before = [n for n in room.line.notes if n.at in (1, 2)], room.found
    QTest.keyClick(room.view, Key.Key_M, shift)
    assert (window.places.config / "mine" / "lines" / "my-turn.toml").is_file()
    assert "My turn is on the shelf" in told.text()
    again(room, qtbot, before)
    assert room.fit.entry.name == "My turn"
    assert (room.fit.first, [(n.midi, n.onset) for n in room.line.notes]) == (1, [(n.midi, n.onset) for n in put])
    assert room.view.told.text().startswith("Mine: My turn, over 2 chords from bar ")
    room.view.play.click()
    qtbot.waitUntil(lambda: bool(window.output.started), timeout=20_000)
    assert [n.midi for n in window.output.started[-1].notes if n.part == "tune"] == [n.midi for n in put]
    room.view.play.click()
    state = desk.state
    QTest.keyClick(room.view, Key.Key_Return)
    slots = [voicing.here.slot_id for voicing in desk.solution.voicings[1:3]]
    assert [piece.slot for piece in desk.state.playing.lines] == slots
    first = desk.solution.voicings[3].here.quarter  # the verse comes again, with its line
    qtbot.waitUntil(lambda: any(s.part == "line" for s in window.listening.performance.struck), timeout=20_000)
    struck = [s for s in window.listening.performance.struck if s.part == "line" and s.onset < ticks(first)]
    assert [(s.midi, s.onset) for s in struck] == [(n.midi, ticks(n.onset)) for n in put]
    desk.document.undo()
    assert desk.state == state
    qtbot.waitUntil(lambda: room.fit is not None, timeout=20_000)
    written, state = room.view.written_.text(), desk.state
    room.view.written_.setText(f"3 {written.split(' ', 1)[1]}")  # one note of mine is written otherwise
    QTest.keyClick(room.view.written_, Key.Key_Return)
    assert (room.own.notes[0].degree, [n.at for n in room.own.notes]) == ("3", [n.at for n in put])
    assert [moment.slot_id for moment in room.moments] == slots
    room.take()
    assert [piece.slot for piece in desk.state.playing.lines] == slots
    assert [(n.midi, n.onset) for n in room.kept.notes][1:] == [(n.midi, n.onset) for n in put][1:]
    desk.document.undo()
    assert desk.state == state
    qtbot.waitUntil(lambda: room.fit is not None, timeout=20_000)
    QTest.keyClick(room.view, Key.Key_X)
    assert room.fit is None or room.fit.first != 1
    room.at = 0
    entry = room.fit.entry
    room.shelf.drill()
    practice = window.rooms.room(PRACTICE)
    qtbot.waitUntil(lambda: practice.session is not None, timeout=20_000)
    assert (practice.session.piece.song, practice.session.piece.title) == (f"line:{entry.id}", "My turn")
    asked = practice.session.step.wanted("both")
    assert asked[-1] % 12 == put[0].midi % 12
    practice.leave()
    window.rooms.show_room(LINES)
    qtbot.waitUntil(lambda: room.fit is not None, timeout=20_000)
    before = room.found
    QTest.keyClick(room.view, Key.Key_Delete, shift)
    assert "My turn is off the shelf" in told.text()
    again(room, qtbot, before)
    assert room.fit is None
    assert (window.places.config / "mine" / "lines" / "off" / "my-turn.toml").is_file()


def test_an_empty_song_has_no_line(window, qtbot):
    window.rooms.show_room(LINES)
    room = window.rooms.room(LINES)
    window.desk.type_text("title: Nothing\n")
    qtbot.waitUntil(lambda: room.line is None, timeout=20_000)
    assert room.view.canvas.scene is None
    assert not room.view.keep.isEnabled()
    assert not room.hear()
