"""On stage: a foot switch or a clock drives a whole evening; what is shown was made before; a crash comes back there."""

import shutil

import pytest
from PySide6.QtCore import QEvent, QRectF, Qt
from PySide6.QtGui import QFocusEvent, QImage, QKeyEvent, QPainter
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.app.keeping.settings import ONSTAGE
from yellow_hinge.app.onstage.making import Entry
from yellow_hinge.app.onstage.mark import StageMark
from yellow_hinge.app.solving.book.sets import SetSong, SongSet
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.onstage.asks import SHOWN, StageAsk
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.ui.onstage import screen as screens
from yellow_hinge.ui.onstage.dialog import NONE, WAITING, StageDialog
from yellow_hinge.ui.onstage.painting import paint_stage
from yellow_hinge.ui.onstage.working import Programme

Key = Qt.Key
SONGS = ("slack-tide", "harbour-bell", "kettle-on-the-stove")


class Clock:
    now = 100.0

    def __call__(self):
        return self.now


@pytest.fixture
def folder(tmp_path):
    for name in SONGS:
        shutil.copy(ASSETS / "demo" / f"{name}.chart", tmp_path / f"{name}.chart")
    return tmp_path


@pytest.fixture
def clock():
    return Clock()


@pytest.fixture
def screen(window, folder, qtbot, clock):
    """The stage with a set of three songs, its first song shown."""
    entries = tuple(Entry(SetSong(path=f"{name}.chart"), name) for name in SONGS)
    found = on_stage(window, Programme(entries, folder), StageAsk(switch="controller 67"))
    found.stage.clock = clock
    ready(found, qtbot)
    yield found
    window.staging.close()


def on_stage(window, programme, ask, *words):
    window.staging.show(programme, ask, *words)
    return window.staging.screen


def ready(screen, qtbot):
    stage = screen.stage
    qtbot.waitUntil(lambda: stage.ready is not None and not stage.after, timeout=30_000)
    qtbot.waitUntil(lambda: stage.at + 1 in stage._ready or stage.at + 1 == len(stage.entries), timeout=30_000)


def press(window, screen, times=1):
    for _ in range(times):
        screen.stage.clock.now += 1
        window.live.message.emit(b"\xb0\x43\x7f", "pedal", 0.0)
        window.live.message.emit(b"\xb0\x43\x00", "pedal", 0.0)


def test_a_foot_switch_drives_a_whole_set(window, screen, qtbot):
    stage, seen, coming = screen.stage, [], []
    for name in SONGS:
        ready(screen, qtbot)
        seen.append(stage.ready.shown.title)
        while not stage.run.ending:
            press(window, screen)
        coming.append(stage.coming)
        while stage.at == SONGS.index(name) and (stage.run.at + 1 < len(stage.run.lines) or name != SONGS[-1]):
            press(window, screen)
    assert seen == ["Slack Tide", "Harbour Bell", "Kettle on the Stove"]
    assert coming == [*seen[1:], ""]
    last = stage.run.at
    press(window, screen)
    assert (stage.at, stage.run.at) == (2, last)  # there is nothing after the last line
    stage.song(-1)
    assert (stage.at, stage.run.at) == (1, 0)
    stage.turn(-1)
    assert (stage.at, stage.run.at) == (0, len(stage.run.lines) - 1)


def test_two_presses_go_back_and_notes_do_not_turn(window, screen, clock):
    stage = screen.stage
    press(window, screen, 3)
    assert stage.run.at == 3
    clock.now += 1
    stage.press()
    clock.now += 0.2
    stage.press()
    assert stage.run.at == 2
    window.live.message.emit(b"\x90\x40\x50", "keys", 0.0)
    window.live.message.emit(b"\xb0\x40\x7f", "keys", 0.0)
    assert stage.run.at == 2
    QTest.mouseClick(screen, Qt.MouseButton.RightButton)
    assert stage.run.at == 1


def test_a_press_that_was_one_too_many_is_taken_back_over_the_end_of_a_song(screen, clock):
    stage = screen.stage
    last = len(stage.run.lines) - 1
    for known in (True, False):
        stage.begin(0, -1)
        assert stage.run.at == last
        following = stage._ready[1]
        if not known:
            del stage._ready[1]  # as it is before the next song was found
        clock.now += 1
        stage.press()
        assert stage.at == 1
        clock.now += 0.2
        stage.press()
        assert (stage.at, stage.run.at) == (0, last - 1)
        stage._ready[1] = following


def test_by_the_clock_every_line_is_seen_and_a_touch_stops_it(window, screen, clock):
    stage = screen.stage
    QTest.keyClick(screen, Key.Key_Return)
    assert stage.goes
    whole, shown, sounding = sum(line.seconds for line in stage.run.lines), set(), set()
    begun = clock.now
    for step in range(int(whole / 0.4)):
        clock.now = begun + step * 0.4
        stage.tick()
        shown.add(stage.run.at)
        assert stage.spot.line in stage.run.on_screen()
        sounding.add((stage.spot.line, stage.spot.bar))
    assert shown == set(range(len(stage.run.lines)))
    assert sounding == {(n, bar) for n, line in enumerate(stage.run.lines) for bar in range(len(line.bars))}
    QTest.keyClick(screen, Key.Key_V)
    assert not stage.goes
    at = stage.run.at
    QTest.keyClick(screen, Key.Key_V)  # now it is a letter again
    assert stage.run.at != at
    QTest.keyClick(screen, Key.Key_Return)
    clock.now += whole + 0.1
    stage.tick()
    assert not stage.goes


def test_a_tone_and_a_section_again_are_there_when_they_are_ready(screen, qtbot):
    stage = screen.stage
    QTest.keyClick(screen, Key.Key_Period)
    lines = len(stage.run.lines)
    QTest.keyClick(screen, Key.Key_PageDown)
    was = stage.run
    QTest.keyClicks(screen, "+")
    assert stage.after
    assert stage.run == was  # the old stays until then
    QTest.keyClick(screen, Key.Key_PageDown)
    qtbot.waitUntil(lambda: not stage.after, timeout=30_000)
    assert stage.ready.shown.facts.startswith("C# minor")
    assert (stage.run.at, len(stage.run.lines)) == (2, lines)
    assert stage.run.lines[0].bars[0].cells[0].symbol == "C♯m11"
    assert stage.entries[0].song.key == "C# minor"
    QTest.keyClicks(screen, "[[")  # both, though the first is not ready yet
    qtbot.waitUntil(lambda: not stage.after, timeout=30_000)
    assert stage.run.lines[0].bars[0].cells[0].symbol == "Bm11"


def test_the_open_song_with_its_takes_from_the_selected_chord(window, qtbot, monkeypatch, make_window):
    window.files.open_named("demo:kettle-on-the-stove")
    settle(window, qtbot)
    window.desk.selection.go(9)
    monkeypatch.setattr(StageDialog, "exec", lambda self: True)
    window.actions_["stage"].trigger()
    screen = window.staging.screen
    ready(screen, qtbot)
    stage = screen.stage
    assert stage.run.at == 1
    hands = [
        tuple(key.midi for key in (*cell.left, *cell.right))
        for line in stage.run.lines for bar in line.bars for cell in bar.cells if cell.voicing >= 0
    ]  # fmt: skip
    assert hands == [(*voicing.left, *voicing.right) for voicing in window.desk.solution.voicings]
    name = stage.ready.entry.state.name
    QTest.keyClicks(screen, "/")
    qtbot.waitUntil(lambda: not stage.after, timeout=30_000)
    assert stage.ready.entry.state.name != name
    assert stage.entries[0].song.take == stage.ready.entry.state.name
    at = stage.run.at
    qtbot.waitUntil(lambda: StageMark(window.places.state).read().songs.songs[0].take != "", timeout=10_000)
    assert StageMark(window.places.state).read().line == at
    # the program dies here: another one, in the same folders, is on stage again
    again = make_window()
    again.staging.resume()
    back = again.staging.screen
    ready(back, qtbot)
    assert back.stage.run == stage.run
    back.close()
    screen.close()
    assert not (window.places.state / ONSTAGE).exists()
    assert window.staging.screen is None


def test_only_escape_held_leaves(window, screen, qtbot, monkeypatch):
    for key in (Key.Key_F5, Key.Key_Insert, Key.Key_Delete, Key.Key_F1):
        QTest.keyClick(screen, key)
    QTest.keyClick(screen, Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert screen.stage.run.at == 0
    QTest.keyClick(screen, Key.Key_Escape)
    assert window.staging.screen is screen
    monkeypatch.setattr(screens, "LEAVING_S", 0.15)
    screen.keyPressEvent(QKeyEvent(QEvent.Type.KeyPress, Key.Key_Escape, Qt.KeyboardModifier.NoModifier))
    assert screen.seen.held < 1
    screen.focusOutEvent(QFocusEvent(QEvent.Type.FocusOut))  # the release is heard elsewhere
    qtbot.wait(250)
    assert window.staging.screen is screen
    screen.keyPressEvent(QKeyEvent(QEvent.Type.KeyPress, Key.Key_Escape, Qt.KeyboardModifier.NoModifier))
    qtbot.waitUntil(lambda: window.staging.screen is None, timeout=5_000)


def test_a_song_that_cannot_be_read_is_said_and_passed(window, folder, qtbot):
    (folder / "broken.chart").write_text("key: H\n| ??? |")
    entries = (Entry(SetSong(path="broken.chart"), "Broken"), Entry(SetSong(path="slack-tide.chart"), "Tide"))
    screen = on_stage(window, Programme(entries, folder), StageAsk())
    qtbot.waitUntil(lambda: screen.stage.problem != "", timeout=30_000)
    painted(screen.seen)
    QTest.keyClick(screen, Key.Key_Space)
    ready(screen, qtbot)
    assert (screen.stage.at, screen.stage.problem) == (1, "")
    screen.close()


def painted(seen, wide=640, tall=400):
    image = QImage(wide, tall, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    paint_stage(painter, QRectF(0, 0, wide, tall), seen)
    painter.end()
    return image


def test_what_is_chosen_is_seen_and_the_present_line_is_the_largest(screen, clock):
    stage = screen.stage
    stage.turn(1)
    pictures = set()
    for show in ((), *((part,) for part in SHOWN), tuple(SHOWN)):
        stage.wanted = StageAsk(show=show, black=len(show) < 2)
        image = painted(screen.seen)
        pictures.add(bytes(image.constBits()))
    assert len(pictures) == len(SHOWN) + 1  # the song has no notes of the player's: nothing is shown of them
    stage.wanted = StageAsk(show=())
    image, ground = painted(screen.seen), 0
    ink = [sum(image.pixelColor(x, y).lightness() > 200 for x in range(0, 640, 2)) for y in range(400)]
    tops = [y for y in range(1, 400) if ink[y] > ground >= ink[y - 1]]
    rows = [next(y for y in range(top, 400) if not ink[y]) - top for top in tops]
    assert max(rows) == max(rows[1:3])
    stage.go()
    clock.now += 1
    stage.tick()
    brass = screen.seen.theme.color("brass")
    image = painted(screen.seen)
    assert any(image.pixelColor(x, y) == brass for x in range(640) for y in range(400))


def test_the_dialog_keeps_choices_and_learns_a_switch_by_one_press(qtbot):
    dialog = StageDialog(None, "Slack Tide", StageAsk(bars=2, show=("numbers",), black=False))
    qtbot.addWidget(dialog)
    assert dialog.wanted == StageAsk(bars=2, show=("numbers",), black=False)
    assert dialog.told.text() == NONE
    dialog.learn.click()
    assert dialog.told.text() == WAITING
    dialog.message(b"\x80\x24\x00")
    dialog.message(b"\x90\x24\x40")
    dialog.message(b"\x90\x25\x40")
    assert dialog.wanted.switch == "note 36"
    dialog.learn.click()
    assert dialog.wanted.switch == ""
    dialog.learn.click()
    QTest.keyClick(dialog, Key.Key_PageDown)
    assert dialog.wanted.switch == f"key {int(Key.Key_PageDown)}"
    assert "PgDown" in dialog.told.text()


def test_the_set_goes_on_stage_from_the_songbook(window, folder, qtbot, monkeypatch):
    monkeypatch.setattr(StageDialog, "exec", lambda self: self.black_out())
    monkeypatch.setattr(StageDialog, "black_out", lambda self: self.ground.setCurrentIndex(1) or True, raising=False)
    songs = SongSet(songs=tuple(SetSong(path=f"{name}.chart") for name in SONGS))
    window.shell.go_on_stage(songs, folder, (), 1)
    screen = window.staging.screen
    ready(screen, qtbot)
    assert screen.stage.ready.shown.title == "Harbour Bell"
    assert not window.preferences.settings.stage.black
    screen.close()
    window.shell.go_on_stage(SongSet(), folder, (), -1)
    assert window.staging.screen is None


@pytest.mark.parametrize("sound", ["click", "band"])
def test_with_a_click_the_first_bar_begins_after_a_bar_that_is_counted(window, screen, clock, sound):
    stage = screen.stage
    stage.wanted = StageAsk(sound=sound)
    stage.turn(1)
    stage.go()
    score, (_, since, lead) = window.listening.player.score, stage._base
    assert since is None
    first = stage.run.line.bars[0]
    assert lead == pytest.approx(first.seconds * RATE, abs=2)
    rest = sum(line.seconds for line in stage.run.lines[1:])
    assert score.length == pytest.approx(lead + rest * RATE, abs=len(stage.run.lines) * 2)
    parts = {note.part for note in score.notes}
    assert parts == {"click"} if sound == "click" else "drums" in parts
    assert not parts & {"left", "right", "tune"}
    clicks = [note.start for note in score.notes if note.part == "click"]
    assert clicks[0] == 0
    assert any(abs(start - lead) < 3 for start in clicks)
    stage.tick()  # not heard yet: one waits at the first bar
    assert (stage.spot, stage.run.at) == (None, 1)
    window.listening.player.heard_at = lambda frame: clock.now - first.seconds / 2
    stage.tick()
    assert (stage.spot.line, stage.spot.bar, stage.spot.share) == (1, 0, pytest.approx(0.5))
    assert stage.touched()
    assert not window.listening.player.playing
