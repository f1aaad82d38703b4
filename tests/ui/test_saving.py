"""Saving, exporting and what was left behind, through the window with its dialogs answered by a script."""

import os
import shutil
import sys

import pytest

from tests.ui.conftest import settle
from yellow_hinge.app.keeping.sessions import Session
from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.app.keeping.versions import versions
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.io.apart import ReaderBugError
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.files.saving import BEFORE, COPY, OTHER, OVER, THEIRS, THERE
from yellow_hinge.ui.shell import start


class Player:
    """Answers dialogs from lists, and remembers what was asked."""

    def __init__(self, monkeypatch):
        self.names, self.answers, self.asked, self.faults = [], [], [], []
        monkeypatch.setattr(asking, "file_to_write", lambda *a: (str(self.names.pop(0)), "MIDI (*.mid)"))
        monkeypatch.setattr(asking, "choose", self._choose)
        monkeypatch.setattr(asking, "fault", lambda parent, text: self.faults.append(text))

    def _choose(self, parent, words, answers):
        self.asked.append(words)
        answer = self.answers.pop(0) if self.answers else ""
        assert answer in ("", *answers)
        return answer


@pytest.fixture
def player(monkeypatch):
    return Player(monkeypatch)


def save_names(monkeypatch, *names):
    left = list(names)
    monkeypatch.setattr(asking, "file_to_write", lambda *a: (str(left.pop(0)), "Song (*.hinge)"))


def crashed(window, text, title="", **named):
    """A window's session that died with its process."""
    session = Session(window.places)
    session.keep_song(song_file(parse_chart(f"title: {title}\n{text}" if title else text)))
    session.keep_text(f"title: {title}\n{text}" if title else text)
    session.tell_path(named.get("path", ""))
    session._lock.close()
    return session


# --- exporting ---
def test_an_export_over_a_song_is_asked_about_with_its_ending_there(window, tmp_path, player):
    chart = tmp_path / "tune.chart"
    chart.write_text("| C | F |\n")
    assert window.files.open_path(chart)
    player.names, player.answers = [chart, tmp_path / "tune"], [OTHER]
    window.saving.export()
    assert "the song comes from" in player.asked[0]
    assert chart.read_text() == "| C | F |\n"
    assert (tmp_path / "tune.mid").read_bytes()[:4] == b"MThd"
    player.names, player.answers = [tmp_path / "tune"], [""]
    window.saving.export()
    assert player.asked[1].startswith("tune.mid: This is there already.")
    player.names, player.answers = [chart], [OVER]
    window.saving.export()
    assert chart.read_text() != "| C | F |\n"
    assert player.faults == []


def test_an_export_never_touches_the_open_songs_own_file(window, tmp_path, player):
    own = tmp_path / "mine.hinge"
    window.desk.document.save(own)
    before = own.read_bytes()
    window.saving.export_to(own)
    assert "the song comes from" in player.faults[0]
    assert own.read_bytes() == before


def test_a_mistake_in_the_chart_is_asked_about_before_an_export(window, qtbot, tmp_path, player):
    window.desk.type_text(window.desk.state.text + "\n| Qx |")
    window.saving.export()
    assert "mistake in line" in player.asked[0]
    player.answers = [THERE]
    window.saving.export()
    assert window.rooms.now_handle is CHART
    player.names, player.answers = [tmp_path / "before"], [BEFORE]
    window.saving.export()
    assert (tmp_path / "before.mid").exists()


def test_an_emptied_song_shows_and_exports_nothing_old(window, qtbot, tmp_path, player):
    window.desk.type_text("")
    window.saving.export()
    assert "nothing to export" in window.teller.line.text()
    assert window.desk.selection.voicing is None
    assert window.home.view.map.canvas.scene is None or not window.home.view.map.canvas.scene.columns
    assert window.ribbon.scene is None
    assert window.desk.document.changed


def test_exporting_while_solving_waits_for_the_hands(window, qtbot, tmp_path, player):
    window.desk.type_text("| Am7 | D7 | G |")
    assert window.desk.answers.solving
    player.names = [tmp_path / "new"]
    window.saving.export()
    assert window.desk.solved
    assert len(window.desk.solution.voicings) == 3
    assert (tmp_path / "new.mid").exists()


# --- a mistake is said wherever the chart is not seen ---
@pytest.mark.parametrize("view", ["hinges", "swaps"])
def test_every_view_says_that_the_chart_has_a_mistake(window, view):
    window.rooms.show_room(window.rooms.named(view))
    assert window.teller.mistake.isHidden()
    window.desk.type_text("| C | Qm7 |")
    assert not window.teller.mistake.isHidden()
    assert "Line 1" in window.teller.mistake.words.text()
    window.teller.mistake.buttons[0].click()
    assert window.rooms.now_handle is CHART
    assert window.teller.mistake.isHidden()
    assert window.rooms.room(CHART).view.editor.textCursor().selectedText() == "Qm7"
    window.rooms.show_room(window.rooms.named(view))
    assert not window.teller.mistake.isHidden()
    window.desk.type_text("| C | Em7 |")
    assert window.teller.mistake.isHidden()


def test_a_chart_with_a_mistake_opens_with_its_text(window, tmp_path, player):
    chart = tmp_path / "typo.txt"
    chart.write_text("key: C\n| C | Qm7 | G |\n")
    assert window.files.open_path(chart)
    assert "Qm7" in window.desk.state.text
    assert not window.teller.mistake.isHidden()
    assert player.faults == []


# --- saving ---
def test_a_file_that_was_changed_elsewhere_is_not_overwritten_unasked(window, qtbot, tmp_path, player, monkeypatch):
    own = tmp_path / "mine.hinge"
    assert window.desk.document.save(own)
    assert window.files.open_path(own)
    settle(window, qtbot)
    theirs = own.read_bytes().replace(b"Last Boat", b"Late Boat")
    own.write_bytes(theirs)
    window.desk.toggle_keep()
    window.actions_["save"].trigger()
    assert "was changed by something else" in player.asked[0]
    assert own.read_bytes() == theirs
    assert window.desk.document.changed
    player.answers = [COPY]
    save_names(monkeypatch, tmp_path / "copy")
    window.actions_["save"].trigger()
    assert own.read_bytes() == theirs
    assert read_song(str(tmp_path / "copy.hinge")).keeps == window.desk.state.keeps


def test_theirs_or_mine_is_the_players_choice(window, qtbot, tmp_path, player):
    own = tmp_path / "mine.hinge"
    window.desk.document.save(own)
    window.files.open_path(own)
    own.write_bytes(own.read_bytes() + b"\n")
    settle(window, qtbot)
    window.desk.toggle_keep()
    player.answers = [THEIRS]
    assert not window.saving.save()
    assert not window.desk.document.changed
    assert window.desk.state.keeps == ()
    settle(window, qtbot)
    window.desk.toggle_keep()
    assert window.saving.save()  # it is known now
    own.write_bytes(own.read_bytes() + b"\n")
    settle(window, qtbot)
    window.desk.toggle_keep()
    player.answers = [OVER]
    assert window.saving.save()
    assert read_song(str(own)).keeps == window.desk.state.keeps


def test_save_as_adds_the_ending_before_it_asks(window, tmp_path, player, monkeypatch):
    other = tmp_path / "other.hinge"
    window.desk.document.save(other)
    before = other.read_bytes()
    window.desk.document.path = None
    save_names(monkeypatch, tmp_path / "other", tmp_path / "third")
    player.answers = [OTHER]
    assert window.saving.save_as()
    assert "other.hinge: This is there already." in player.asked[0]
    assert other.read_bytes() == before
    assert (tmp_path / "third.hinge").exists()


def test_an_old_song_is_saved_beside_itself_after_a_word(window, qtbot, tmp_path, player):
    old = tmp_path / "old.json"
    shutil.copy("tests/io/old/song-v4.json", old)
    assert window.files.open_path(old)
    settle(window, qtbot)
    window.desk.toggle_keep()
    before = old.read_bytes()
    assert not window.saving.save()
    assert "Songs end in .hinge now" in player.asked[0]
    player.answers = ["Save"]
    assert window.saving.save()
    assert old.read_bytes() == before
    assert window.desk.document.path == tmp_path / "old.hinge"
    assert window.saving.save()
    assert len(player.asked) == 2


def test_earlier_versions_come_back_as_an_edit(window, qtbot, tmp_path, player):
    own = tmp_path / "mine.hinge"
    window.desk.document.path = own
    for text in ("| C |", "| D |", "| E |"):
        window.desk.type_text(text)
        assert window.saving.save()
        window.desk.document.history.end_group()
    assert len(versions(window.places, window.desk.document.own)) == 3
    window.submenus["earlier"].aboutToShow.emit()
    newest, _, oldest = window.submenus["earlier"].actions()
    oldest.trigger()
    assert window.desk.state.text.strip().endswith("| C |")
    assert window.desk.document.changed
    assert "go back to the version" in window.desk.document.history.undo_label
    window.desk.document.undo()
    assert window.desk.state.text.strip() == "| E |"
    assert newest.text()


def test_a_song_that_is_open_elsewhere_is_said(window, make_window, tmp_path, player):
    own = tmp_path / "mine.hinge"
    window.desk.document.save(own)
    window.autosave.flush()
    second = make_window()
    second.files.open_path(own)
    assert "open in another window" in second.teller.news.words.text()
    assert not second.teller.news.isHidden()


# --- undo ---
def test_typing_after_a_pause_is_an_edit_of_its_own_in_every_song(window, qtbot):
    window.rooms.show_room(CHART)
    window.files.open_demo("slack-tide")
    editor = window.rooms.room(CHART).view.editor
    editor.setPlainText("| C |")
    window.rooms.room(CHART).view._pause.timeout.emit()
    editor.setPlainText("| C | F |")
    window.desk.document.undo()
    assert window.desk.state.text == "| C |"


# --- rescue ---
def test_all_songs_left_behind_are_offered(window, make_window, qtbot, tmp_path, player):
    crashed(window, "| C |", "Oldest")
    crashed(window, "| D |", "Middle")
    newest = crashed(window, "| E |", "Newest")
    stamp = 2_000_000_000
    for name in ("song.hinge", "chart.txt"):
        os.utime(newest.folder / name, (stamp, stamp))
    second = make_window()
    start.open_song(second, None, False)
    assert second.desk.state.song.title == "Newest"
    assert second.desk.document.changed
    assert "unsaved work is back" in second.teller.line.text()
    assert "2 songs were left unsaved" in second.teller.news.words.text()
    assert not newest.folder.exists()
    second.submenus["unsaved"].aboutToShow.emit()
    assert {action.text() for action in second.submenus["unsaved"].actions()} == {"Oldest", "Middle"}
    second.desk.document.saved = second.desk.state
    while second.teller.warning.isVisible() or second.teller.mistake.isVisible():  # one strip at a time
        next(bar for bar in second.teller.bars if bar.isVisible()).buttons[-1].click()
    second.teller.news.buttons[0].click()
    assert second.desk.state.song.title in ("Oldest", "Middle")
    assert "left unsaved" in second.teller.news.words.text()


def test_a_named_song_leaves_what_was_left_behind_for_later(window, make_window):
    crashed(window, "| C |", "Left")
    second = make_window()
    start.open_song(second, "demo:slack-tide", False)
    assert second.desk.state.song.title == "Slack Tide"
    assert "“Left” was left unsaved" in second.teller.news.words.text()


def test_what_is_rescued_has_its_own_file_and_asks_where_that_changed(window, make_window, tmp_path, player):
    own = tmp_path / "mine.hinge"
    window.desk.document.save(own)
    session = crashed(window, "| C |", "Mine", path=str(own))
    later = 2_000_000_000
    os.utime(own, (later, later))
    second = make_window()
    start.open_song(second, None, False)
    assert second.desk.document.path == own
    assert not second.saving.save()
    assert "was changed by something else" in player.asked[0]
    assert not session.folder.exists()


def test_a_damaged_copy_is_said_and_the_start_goes_on(window, make_window):
    session = crashed(window, "| C |")
    (session.folder / "song.hinge").write_bytes(b"\xff{")
    second = make_window()
    start.open_song(second, None, True)
    assert "set aside" in second.teller.news.words.text()
    assert second.desk.state.song.title == "Last Boat to Marrow"


def test_typing_is_on_disk_before_the_song_is_read(window, qtbot, monkeypatch):
    """The chart's text goes to the copier first, and file_of never reads it again on the interface thread."""
    window.rooms.show_room(CHART)
    seen = []
    monkeypatch.setattr("yellow_hinge.app.edits.state.read_chart", lambda text: pytest.fail("read again"))
    monkeypatch.setattr(window.autosave.copier, "keep_text", lambda text: seen.append((text, window.desk.state.text)))
    window.rooms.room(CHART).view.editor.setPlainText("| C | Gb9 |")
    assert seen[0][0] == "| C | Gb9 |"
    assert "Gb9" not in seen[0][1]
    chart = window.autosave.session.folder / "chart.txt"
    qtbot.waitUntil(lambda: chart.exists() and chart.read_text() == "| C | Gb9 |", timeout=1000)


# --- bugs of readers ---
def test_a_bug_of_a_reader_is_a_bug_and_no_damaged_file(window, tmp_path, player, monkeypatch, qtbot):
    chart = tmp_path / "x.txt"
    chart.write_text("| C |")

    def broken(*_, **__):
        raise ReaderBugError("Traceback\nIndexError: list index out of range")

    monkeypatch.setattr("yellow_hinge.io.opening.read_data", broken)
    bugs, logged = [], []
    monkeypatch.setattr(asking, "bug", lambda parent, text: bugs.append(text))
    monkeypatch.setattr("yellow_hinge.app.keeping.logbook.bug", logged.append)
    monkeypatch.setattr("yellow_hinge.app.keeping.logbook.begin", lambda places: None)
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    start.install_hook(window, Places(tmp_path, tmp_path))
    with pytest.raises(ReaderBugError) as caught:
        window.files.open_path(chart)
    sys.excepthook(type(caught.value), caught.value, caught.tb)
    assert "IndexError: list index out of range" in bugs[0]
    assert "Traceback" in logged[0]
    assert player.faults == []


def test_a_text_that_was_guessed_is_read_as_something_else(window, qtbot, tmp_path, monkeypatch):
    from yellow_hinge.ui.dialogs import asking, looked_over

    chart = tmp_path / "song.txt"
    chart.write_text("[Verse one] [C]la\n[Chorus two] [G]lo [Refrain]li\n| C | Qm7 |\n")
    assert window.files.open_path(chart)
    assert "read as a chart with" in window.teller.news.words.text()
    monkeypatch.setattr(asking, "choose", lambda *words: "ChordPro")
    monkeypatch.setattr(looked_over.LookedOver, "exec", lambda dialog: 0)
    window.teller.news.buttons[0].click()
    settle(window, qtbot)
    assert "C" in [slot.symbol for bar in window.desk.song.sections[0].bars for slot in bar.slots]
    assert window.desk.song.sections[0].name == "Song"


def test_saving_over_ones_own_file_asks_only_where_something_else_changed_it(window, tmp_path, player, monkeypatch):
    own, other = tmp_path / "own.hinge", tmp_path / "other.hinge"
    save_names(monkeypatch, own, own, own, other, own)
    assert window.saving.save_as()
    assert window.saving.save_as()
    assert player.asked == []
    own.write_text("somebody else's")
    assert not window.saving.save_as()
    assert own.read_text() == "somebody else's"
    assert "changed by something else" in player.asked[-1]
    other.write_text("is there")
    assert not window.saving.save_as()
    assert "there already" in player.asked[-1]
    player.answers = ["Write over it"]
    assert window.saving.save_as()
    assert b"Last Boat" in own.read_bytes()


def test_a_song_stands_once_among_the_last_ones_the_newest_first(window, tmp_path):
    preferences = window.preferences
    for name in ("a", "b", "a", "c", "b"):
        preferences.remember_file(tmp_path / name)
    names = [path.rpartition("/")[2] for path in preferences.settings.recent]
    assert names == ["b", "c", "a"]
    there = (str(tmp_path / "a"), str(tmp_path / "d"))
    assert [path.rpartition("/")[2] for path in preferences.last_songs(there)] == ["b", "c", "a", "d"]
