"""Practice in the window: keys of every kind are heard and judged, sessions are kept, everything can be seen and left."""

from datetime import date
from random import Random

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.ui.conftest import settle
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.ports import SIMULATED
from yellow_hinge.app.practice.practising import CAUTION, REST
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.practice.partner import RIGHT
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.practice.scene import log_scene
from yellow_hinge.ui.practice.typed_keys import too_wide
from yellow_hinge.ui.practice.typing import _BY_LETTER, _CODES, REACH

Key = Qt.Key


class Silent:
    available = False

    def load(self):
        """Nothing is loaded."""

    def start(self, frames):
        self.frames = frames

    def stop(self):
        pass


@pytest.fixture
def room(window, qtbot):
    window.live.output = Silent()
    window.desk.type_text("title: Four\nkey: C\n[A]\n| C | Am7 | Dm7 | G7 | C |")
    settle(window, qtbot)
    window.rooms.show_room(PRACTICE)
    return window.rooms.room(PRACTICE)


def chord(window, midis):
    """Strike some keys and let them go."""
    for midi in midis:
        window.live.notes.press(midi)
    for midi in midis:
        window.live.notes.lift(midi)


def begin(window, room, qtbot):
    """Start; practice begins when it is known what is remembered."""
    window.rooms.room(PRACTICE).view.start.click()
    qtbot.waitUntil(lambda: room.session is not None, timeout=30_000)


def runs(window, room, simulated=False):
    """What is in the log by now."""
    room.keeper.close()
    log = PracticeLog(window.places.state)
    found = log.runs(simulated=simulated)
    log.close()
    return found


def play(window, room):
    chord(window, room.session.step.wanted(room.session.piece.hands))


def test_a_session_is_started_judged_kept_and_ended(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    assert not window.keys.isVisible()
    begin(window, room, qtbot)
    assert view.start.text() == "End"
    assert CAUTION in window.teller.line.text()
    play(window, room)
    first = room.session.step
    assert "→" in view.title.text()
    chord(window, (30,))
    play(window, room)
    assert view.told.text() == "1 wrong"
    kept = runs(window, room)
    assert [(run.first, run.last, run.extra) for run in kept] == [(*first.slots, 1)]
    assert kept[0].take == window.desk.state.name
    view.start.click()
    assert room.session is None
    assert view.start.text() == "Start"
    window.rooms.show_room(HINGES)
    assert window.keys.isVisible()
    assert runs(window, room) == kept


def test_the_caution_comes_once_and_a_rest_is_offered(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    told = []
    room.tell = told.append
    for _ in range(2):
        begin(window, room, qtbot)
        view.start.click()
    assert told == [CAUTION]
    begin(window, room, qtbot)
    room._stint._seconds = 60 * 25
    room._ticked()
    room._ticked()
    assert told == [CAUTION, REST]


def test_hands_apart_hidden_keys_and_other_octaves_are_shown(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    view.hands["right"].click()
    view.hidden.setChecked(True)
    begin(window, room, qtbot)
    wanted = room.session.step.wanted("right")
    assert set(wanted) == set(room.session.step.voicing.right)
    assert view.canvas.scene.asked.marks == ()
    window.live.notes.press(wanted[0])
    window.live.notes.press(wanted[1] + 12)
    scene = view.canvas.scene
    assert [mark.midi for mark in scene.asked.marks] == [wanted[0]]
    assert scene.right == (wanted[0],)
    assert scene.octave == (wanted[1] + 12,)
    window.live.notes.press(wanted[0] + 1)
    assert (wanted[0] + 1) in view.canvas.scene.extra
    assert not view.canvas.grab().isNull()


def test_the_mouse_plays_and_shift_holds(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    begin(window, room, qtbot)
    keys = view.canvas.scene.asked
    wanted = room.session.step.wanted("both")
    for midi in wanted:
        spot = QPoint(round(keys.centre(midi)), round(keys.y + keys.height * 0.5))
        qtbot.mouseClick(view.canvas, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, spot)
    assert room.session.at == 1


def send(window, kind, key, code=0):
    target = QApplication.focusWidget() or window
    event = QKeyEvent(kind, key, Qt.KeyboardModifier.NoModifier, code, 0, 0)
    QApplication.sendEvent(target, event)


def test_the_computers_keys_play_by_where_they_lie_and_only_in_a_session(window, room, qtbot):
    assert _CODES[52] == _BY_LETTER[ord("Z")] == 0
    assert _CODES[24] == _BY_LETTER[ord("Q")] == 12
    view = window.rooms.room(PRACTICE).view
    view.setFocus()
    send(window, QEvent.Type.KeyPress, Key.Key_Z)
    assert window.live.notes.down == frozenset()
    begin(window, room, qtbot)
    view.setFocus()
    send(window, QEvent.Type.KeyPress, Key.Key_W, 52)  # printed W, but where Z lies elsewhere
    assert window.live.notes.down == {48}
    send(window, QEvent.Type.KeyPress, Key.Key_Space)
    assert window.live.notes.pedal
    send(window, QEvent.Type.KeyPress, Key.Key_PageUp)
    send(window, QEvent.Type.KeyPress, Key.Key_Q, 24)
    assert window.live.notes.down == {48, 72}
    send(window, QEvent.Type.KeyRelease, Key.Key_W, 52)
    assert window.live.notes.down == {72}
    view.start.click()
    assert window.live.notes.down == frozenset()
    assert not window.live.notes.pedal


def test_a_simulated_player_plays_a_session_through_its_keyboard(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    window.live.listen()
    room.partner.skill, room.partner.chance = RIGHT._replace(thinks=0.01, spread=0.0), Random(1)
    view.simulated.setChecked(True)
    qtbot.waitUntil(lambda: SIMULATED in window.live.ports.names, timeout=5000)
    begin(window, room, qtbot)
    qtbot.waitUntil(lambda: len(runs(window, room, True)) >= 6, timeout=20_000)
    assert all(run.errors == 0 for run in runs(window, room, True))
    assert runs(window, room) == []
    assert SIMULATED in view.plugged.text()
    view.simulated.setChecked(False)
    qtbot.waitUntil(lambda: SIMULATED not in window.live.ports.names, timeout=5000)


def test_a_change_goes_round_the_keys(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    window.desk.selection.go(2)
    view.what.setCurrentIndex(view.what.findData("round"))
    begin(window, room, qtbot)
    keys = []
    for _ in range(6):
        keys.append(room.session.step.key)
        play(window, room)
    assert list(dict.fromkeys(keys)) == ["C major", "F major", "Bb major"]


def test_the_bass_is_named_by_button_or_key(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    view.what.setCurrentIndex(view.what.findData("bass"))
    begin(window, room, qtbot)
    question = room.session.step.question
    assert view.answer_row.count() >= 4
    view.answered.emit(question.answers.index(question.right))
    assert view.told.text().startswith("right")
    chord(window, ((room.session.step.question.right.pc + 1) % 12 + 60,))
    assert view.told.text().startswith("1 wrong: ")
    assert ", it makes " in view.told.text()
    assert [run.kind for run in runs(window, room)] == ["bass", "bass"]


def test_in_time_goes_on_by_itself(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    window.desk.put_tempo(400)
    settle(window, qtbot)
    view.paces["time"].click()
    begin(window, room, qtbot)
    qtbot.waitUntil(lambda: len(runs(window, room)) >= 2, timeout=20_000)
    assert all(run.missing for run in runs(window, room))


@pytest.mark.parametrize(("what", "count"), [("shape", 1), ("stretch", 5), ("two-five", 3)])
def test_a_chord_a_section_and_a_two_five_one_go_round_the_keys(window, room, qtbot, what, count):
    view = window.rooms.room(PRACTICE).view
    view.what.setCurrentIndex(view.what.findData(what))
    assert view.round.isVisible()
    view.round.setCurrentIndex(view.round.findData("half down"))
    begin(window, room, qtbot)
    keys = []
    for _ in range(3 * count):
        keys.append(room.session.step.key)
        play(window, room)
    assert list(dict.fromkeys(keys)) == ["C major", "B major", "Bb major"]
    assert keys.count("B major") == count


def test_escape_an_edit_and_another_choice_end_it(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    for end in (
        lambda: window.choosing.leave(),
        lambda: view.hands["left"].click(),
        lambda: window.desk.type_text("| C | F | G |"),
    ):
        begin(window, room, qtbot)
        end()
        settle(window, qtbot)
        assert room.session is None


def test_a_log_that_cannot_be_kept_is_told(window, room, qtbot):
    def refuse():
        raise UserError("the practice log cannot be kept")

    told = []
    room.keeper.close()
    room.tell, room.keeper.open_log = told.append, refuse
    window.rooms.room(PRACTICE).view.start.click()
    qtbot.waitUntil(lambda: "the practice log cannot be kept" in told, timeout=10_000)
    assert room.session is None


def test_a_pressed_key_is_lit_in_every_view_and_enters_own_hands(window, room, qtbot):
    window.rooms.show_room(HINGES)
    window.live.notes.press(60)
    assert window.keys.canvas.down == {60}
    assert not window.keys.canvas.grab().isNull()
    window.live.notes.lift(60)
    window.home.entering.toggle()
    window.live.notes.press(48)
    assert 48 in window.home.entering._both.left
    window.live.notes.lift(48)
    assert 48 in window.home.entering._both.left


def test_a_made_up_log_says_so_and_the_plots_are_within_their_frame(window, qtbot):
    window.live.output = Silent()
    window.files.open_demo("last-boat-to-marrow")
    settle(window, qtbot)
    window.rooms.show_room(PRACTICE)
    room, view = window.rooms.room(PRACTICE), window.rooms.room(PRACTICE).view
    qtbot.waitUntil(lambda: "made-up" in view.log_words.text(), timeout=10_000)
    assert not view.export.isEnabled()
    scene = view.log.scene
    for plot in scene.plots:
        assert plot.points
        assert all(0 <= x <= scene.width and plot.top - 1 <= y <= plot.base for x, y in plot.points)
    assert runs(window, room) == []
    assert log_scene((), date(2026, 5, 1), 200, 300).plots[0].points == ()


def test_the_log_is_exported(window, room, qtbot, tmp_path):
    view = window.rooms.room(PRACTICE).view
    begin(window, room, qtbot)
    play(window, room)
    play(window, room)
    room.log._ask_path = lambda: tmp_path / "log.csv"
    view.start.click()
    qtbot.waitUntil(view.export.isEnabled, timeout=10_000)
    view.export.click()
    room.keeper.close()
    assert (tmp_path / "log.csv").read_text().count("\n") == 2


def test_a_session_waits_while_another_view_is_looked_at(window, room, qtbot):
    begin(window, room, qtbot)
    session = room.session
    window.rooms.show_room(HINGES)
    assert session.paused
    left = session.seconds_left
    qtbot.wait(60)
    assert session.seconds_left == left
    window.rooms.show_room(PRACTICE)
    assert (room.session, session.paused, session.over) == (session, False, False)


def test_songs_of_one_title_that_were_never_saved_have_memories_of_their_own(window, room, qtbot):
    begin(window, room, qtbot)
    first = room.session.piece.song
    room.session.end()
    window.desk.document.open(song_file(parse_chart("title: Four\nkey: C\n| C | F |")), None)
    settle(window, qtbot)
    begin(window, room, qtbot)
    assert room.session.piece.song != first
    assert room.session.piece.title == "Four"


def test_no_bass_is_asked_for_where_nothing_sounds(window, room, qtbot):
    view = window.rooms.room(PRACTICE).view
    view.what.setCurrentIndex(view.what.findData("bass"))
    view.start.click()
    qtbot.waitUntil(lambda: room.session is not None or bool(view.told.text()))
    window.listening.player.note.emit("No sound device was found")
    assert room.session is None
    assert "No sound device" in view.told.text()


def test_what_is_marked_is_practised_in_time_and_the_simulated_player_is_told_what_came_of_it(
    window, qtbot, monkeypatch
):
    """Marked bars go round from half speed; a pass is judged hand by hand, drawn and kept."""
    from yellow_hinge.core.practice.partner import Feel

    qtbot.waitUntil(lambda: bool(window.live._backends), timeout=10_000)  # ports are opened anew then
    window.desk.change_tempo(200)
    settle(window, qtbot)
    window.desk.selection.mark_places(range(0, 2))
    window.rooms.show_room(PRACTICE)
    room, view = window.rooms.room(PRACTICE), window.rooms.room(PRACTICE).view
    view.what.setCurrentIndex(view.what.findData("piece"))
    assert view.in_time
    now = [50.0]
    room.piece._clock = lambda: now[0]
    room.piece._along._feel = Feel(late=0.09)
    room.partner.put(True)
    window.live.ports.look()
    view.start.click()
    run = room.piece.run
    assert run is not None
    assert view.rhythm.isVisible()
    monkeypatch.setattr(window.listening.player, "heard_at", lambda frame: 50.0)
    while not run.passes:
        now[0] += 0.05
        room.piece._ticked()
        qtbot.wait(1)
    assert "The left hand is late, by" in view.words.text()
    assert "The right hand is late, by" in view.words.text()
    assert {stroke.how for stroke in view.rhythm.scene.strokes} == {"late"}
    view.start.click()
    assert room.piece.run is None
    assert view.canvas.isVisible()
    log = room.keeper
    qtbot.waitUntil(lambda: kinds(log) == {("piece", 1)}, timeout=20_000)  # kept apart: nobody played it


def kinds(keeper):
    found = []
    rows = "SELECT kind, sample FROM runs"
    keeper.ask("test", lambda log: found.extend(map(tuple, log._base.execute(rows))) or found.append("end"))
    for _ in range(200):
        if found and found[-1] == "end":
            break
        QTest.qWait(5)
    return set(found) - {"end"}


def test_marked_bars_go_round_another_way_each_pass_shown_ahead_and_kept_as_a_mix(window, qtbot, monkeypatch):
    window.desk.selection.mark_places(range(0, 3))
    window.rooms.show_room(PRACTICE)
    room, view = window.rooms.room(PRACTICE), window.rooms.room(PRACTICE).view
    view.what.setCurrentIndex(view.what.findData("rounds"))
    view.ways.setCurrentIndex(view.ways.findData("higher"))
    now = [20.0]
    room.piece._clock = lambda: now[0]
    monkeypatch.setattr(window.listening.player, "heard_at", lambda frame: 20.0)
    view.start.click()
    qtbot.waitUntil(lambda: room.piece.run is not None, timeout=40_000)
    run = room.piece.run
    assert view.title.text().endswith(": as it is")
    assert view.words.text().startswith("Next: ")
    first = set(run.wanted)
    while len(run.passes) < 1:
        now[0] += 0.1
        room.piece._ticked()
    assert set(run.wanted) != first  # another way now
    assert "on top" in view.title.text()
    tops = [max(max(v.right) for v in turn.solution.voicings[:1]) for turn in room.piece.turns]
    assert tops == sorted(set(tops))
    view.mix.click()
    assert len(window.desk.state.takes) == len(room.piece.turns)
    assert [choice.take for choice in window.desk.state.mix] == [window.desk.state.take]  # the verse is played once
    window.desk.document.undo()
    assert len(window.desk.state.takes) == 1
    room.leave()


def test_the_computers_keys_are_pictured_and_go_to_what_is_asked(window, room, qtbot):
    view = room.view
    assert not view.typed.isVisible()
    begin(window, room, qtbot)
    wanted = set(room.session.step.wanted(room.session.piece.hands))
    assert view.typed.isVisible()
    assert view.typed.asked == wanted
    fits = max(wanted) - min(wanted) <= REACH
    assert all(0 <= midi - room.typed.octave <= REACH for midi in wanted) is fits
    assert view.typed.words().startswith("Press ")
    assert view.typed.accessibleDescription() == view.typed.words()
    assert not view.typed.grab().isNull()
    was = room.typed.octave
    QTest.keyClick(view, Key.Key_PageUp)
    assert view.typed.octave == room.typed.octave == was + 12
    view.hands["right"].click()
    begin(window, room, qtbot)
    assert all(0 <= midi - room.typed.octave <= REACH for midi in room.session.step.wanted("right"))
    assert view.told.text() == ""  # one hand fits always


def test_keys_that_cannot_reach_both_hands_say_so_before_it_starts():
    solution = solve_song(Builder(), timeline(parse_chart("key: C\n| C | F |")), Setup())
    assert too_wide(solution, "both") == too_wide(None, "both") == ""
    wide = solution._replace(voicings=(solution.voicings[0]._replace(both=Both((36,), (72, 76))),))
    assert "play one hand" in too_wide(wide, "both")
    assert too_wide(wide, "right") == ""
