"""The Songbook view: songs of a folder found as one types, opened, and put into tonight's set."""

import json
import shutil
import threading
from datetime import datetime, timedelta
from pathlib import Path

import pypdf
import pytest
from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtTest import QTest

from tests.ui.conftest import settle
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.solving.book import sets
from yellow_hinge.app.solving.book.sets import SongSet, read_set, write_set
from yellow_hinge.assets import ASSETS
from yellow_hinge.cli.main import main
from yellow_hinge.core.practice.marking import Mark
from yellow_hinge.core.practice.memory import reviewed
from yellow_hinge.core.song.song import Meter
from yellow_hinge.ui.book.model import KNOWN, PLAYED
from yellow_hinge.ui.book.room import BOOK
from yellow_hinge.ui.hinges.room import HINGES

Key = Qt.Key


@pytest.fixture
def folder(tmp_path):
    found = tmp_path / "songs"
    found.mkdir()
    for name in ("harbour-bell.chart", "kettle-on-the-stove.hinge", "paper-lantern-waltz.chart", "slack-tide.chart"):
        shutil.copy(ASSETS / "demo" / name, found / name)
    (found / "damaged.hinge").write_bytes(b"{")
    return found


@pytest.fixture
def room(window, folder, qtbot):
    window.preferences.put(songbook=str(folder))
    window.rooms.show_room(BOOK)
    found = window.rooms.room(BOOK)
    qtbot.waitUntil(lambda: len(found.rows) == 5, timeout=30_000)
    return found


def titles(room):
    return [room.view.listed.index(n, 0).data() for n in range(room.view.listed.rowCount())]


def put(room, qtbot, *names):
    for name in names:
        room.view.search.setText(name)
        QTest.keyClick(room.view, Key.Key_Insert)
    room.view.search.setText("")
    qtbot.waitUntil(lambda: len(room.tonight.row) == len(names), timeout=30_000)


def test_songs_are_listed_found_as_one_types_sorted_and_opened(room, window, qtbot):
    assert titles(room) == ["damaged", "Harbour Bell", "Kettle on the Stove", "Paper Lantern Waltz", "Slack Tide"]
    assert "damaged" in room.view.listed.index(0, 8).data()
    QTest.keyClicks(room.view.search, "nothing maj")
    assert titles(room) == []
    room.view.search.setText("lantern major")
    assert titles(room) == ["Paper Lantern Waltz"]
    assert room.view.told.text().startswith("1 of 5 songs")
    room.view.search.setText("")
    room.view.table.sortByColumn(2, Qt.SortOrder.DescendingOrder)
    assert titles(room)[0] == "Kettle on the Stove"  # 132
    room.view.go(0)
    window.desk.document.saved = window.desk.state
    QTest.keyClick(room.view, Key.Key_Return)
    settle(window, qtbot)
    assert window.desk.state.song.title == "Kettle on the Stove"
    assert window.desk.document.path.name == "kettle-on-the-stove.hinge"


def test_a_set_is_made_by_keys_written_at_once_and_told_as_the_verb_tells_it(room, folder, qtbot, capsys, monkeypatch):
    put(room, qtbot, "harbour", "kettle", "slack")
    path = folder / "tonight.set"
    assert [song.path for song in read_set(path).songs] == [
        "harbour-bell.chart",
        "kettle-on-the-stove.hinge",
        "slack-tide.chart",
    ]
    room.view.set.setCurrentRow(2)
    QTest.keyClick(room.view, Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert [song.path for song in read_set(path).songs][1] == "slack-tide.chart"
    assert room.tonight.at == 1
    answers = iter(["Eb", "With a line", "no such take", "talk"])
    monkeypatch.setattr(room.tonight, "shell", room.shell._replace(ask_name=lambda question, proposed: next(answers)))
    room.view.set.setCurrentRow(0)
    room.tonight.ask_key()
    room.view.set.setCurrentRow(2)
    room.tonight.ask_take()
    room.tonight.ask_take()
    assert "is not a take of this song" in room.view.foot.text()
    room.tonight.ask_note()
    songs = read_set(path).songs
    assert (songs[0].key, songs[2].take, songs[2].note) == ("Eb", "With a line", "talk")
    qtbot.waitUntil(
        lambda: "Hardest join" in room.view.foot.text() and room.tonight.row[2].song == songs[2], timeout=30_000
    )
    assert main(["set", str(path), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [(own.title, own.key, own.minutes) for own in room.tonight.row] == [
        (s["title"], s["key"], s["minutes"]) for s in told["songs"]
    ]
    assert f"Hardest join, {max(join['motion'] for join in told['joins'])} semitones" in room.view.foot.text()
    QTest.keyClick(room.view, Key.Key_Delete)
    assert len(read_set(path).songs) == 2
    QTest.keyClick(room.view, Key.Key_Z, Qt.KeyboardModifier.AltModifier)
    assert read_set(path).songs == songs
    for _ in range(30):
        room.tonight.back()
    assert not read_set(path).songs


def test_nothing_is_opened_or_solved_for_the_set_in_the_window_itself(room, folder, qtbot, monkeypatch):
    threads = set()
    for name in ("song_row", "solve_song", "read_data"):
        real = getattr(sets, name)
        monkeypatch.setattr(
            sets,
            name,
            lambda *args, real=real, **more: (threads.add(threading.current_thread()), real(*args, **more))[1],
        )
    put(room, qtbot, "harbour", "kettle")
    monkeypatch.setattr(room.tonight, "shell", room.shell._replace(ask_name=lambda question, proposed: "no key"))
    room.tonight.ask_key()
    assert "key" in room.view.foot.text()
    assert threads
    assert threading.main_thread() not in threads
    room.view.search.setText("damaged")
    room.tonight.add()
    assert "damaged" in room.view.foot.text()
    assert len(read_set(folder / "tonight.set").songs) == 2


def test_a_set_that_is_another_one_or_none_is_not_written_over(room, folder, window, qtbot):
    put(room, qtbot, "harbour", "slack")
    path = folder / "tonight.set"
    write_set(path, SongSet(songs=read_set(path).songs[1:]))  # by another window
    room.tonight.drop()
    assert [song.path for song in read_set(path).songs] == ["slack-tide.chart"]
    assert "changed elsewhere" in window.teller.line.text()
    assert len(room.tonight.songs.songs) == 1
    path.write_text("{ no set")
    room.tonight.add()
    room.read()
    room.tonight.add()
    assert path.read_text() == "{ no set"
    assert "is no set" in room.view.foot.text()
    assert not room.tonight.songs.songs


def test_the_set_is_printed_beside_the_window(room, folder, window, qtbot):
    put(room, qtbot, "harbour", "slack")
    told = []
    room.tonight.solved.connect(lambda found: told.append(room.view.foot.text()))
    room.tonight.print_set()
    qtbot.waitUntil(lambda: (folder / "tonight.pdf").is_file(), timeout=30_000)
    assert any("%" in words for words in told)
    pages = [page.extract_text() for page in pypdf.PdfReader(folder / "tonight.pdf").pages]
    assert f"{len(pages)} pages are in" in window.teller.line.text()
    assert all(title in pages[0] for title in ("Harbour Bell", "Slack Tide"))  # the order of the evening
    assert "Harbour Bell" in pages[1]
    assert "Slack Tide" in pages[-1]


def test_without_a_folder_one_is_asked_for_and_a_damaged_set_is_said(window, folder, qtbot, monkeypatch):
    window.rooms.show_room(BOOK)
    room = window.rooms.room(BOOK)
    assert "Choose a folder" in room.view.told.text()
    (folder / "tonight.set").write_bytes(b"[]")
    monkeypatch.setattr(room, "shell", room.shell._replace(ask_folder=lambda: folder))
    room.view.folder.click()
    assert window.preferences.settings.songbook == str(folder)
    qtbot.waitUntil(lambda: len(room.rows) == 5, timeout=30_000)
    assert "is no set" in room.view.foot.text()
    assert (folder / "tonight.set").read_bytes() == b"[]"  # nothing is written over it unasked
    other = folder.parent / "more"
    other.mkdir()
    shutil.copy(ASSETS / "evening" / "ropewalk.chart", other)
    monkeypatch.setattr(room, "shell", room.shell._replace(ask_folder=lambda: other))
    room.ask_more()
    qtbot.waitUntil(lambda: "Ropewalk" in titles(room), timeout=30_000)
    room.ask_more()
    qtbot.waitUntil(lambda: len(room.rows) == 5, timeout=30_000)
    (folder / "slack-tide.chart").unlink()
    (folder / "harbour-bell.chart").rename(folder / "bell.chart")
    room.read()
    qtbot.waitUntil(lambda: len(room.rows) == 4, timeout=30_000)
    assert "Harbour Bell" in titles(room)


def test_songs_moved_doubled_deleted_and_damaged_while_the_window_is_open_are_said(room, folder, window, qtbot):
    put(room, qtbot, "kettle", "slack", "lantern")
    (folder / "old").mkdir()
    (folder / "kettle-on-the-stove.hinge").rename(folder / "old" / "kettle.hinge")
    shutil.copy(folder / "harbour-bell.chart", folder / "the-same.chart")
    (folder / "slack-tide.chart").unlink()
    (folder / "paper-lantern-waltz.chart").write_bytes(b"\x00\xff not music")
    window.rooms.show_room(HINGES)
    window.rooms.show_room(BOOK)
    wrong = {"harbour-bell.chart": None, "kettle.hinge": None, "the-same.chart": "the same song"}

    def listed():
        rows = {Path(row.path).name: row.problem for row in room.rows}
        assert rows.keys() == wrong.keys() | {"paper-lantern-waltz.chart", "damaged.hinge"}
        assert rows["paper-lantern-waltz.chart"]
        assert all(words is None or words in rows[name] for name, words in wrong.items())
        assert [own.problem is None for own in room.tonight.row] == [True, False, False]

    qtbot.waitUntil(listed, timeout=30_000)
    assert room.tonight.row[0].path.name == "kettle.hinge"  # found by its id
    assert "is not at slack-tide.chart" in room.view.set.item(1).text() + str(room.tonight.row[1].problem)
    assert len(read_set(folder / "tonight.set").songs) == 3  # nothing goes by itself


def test_notes_have_rows_of_their_own_rows_are_dragged_and_songs_are_written(room, folder, qtbot, monkeypatch):
    put(room, qtbot, "harbour", "kettle", "slack")
    shell = room.shell._replace(ask_name=lambda words, was: "lamp off", ask_which=lambda words, values: "mid")
    monkeypatch.setattr(room.tonight, "shell", shell)
    room.tonight._go(2)
    room.tonight.ask_note()
    rows = room.view.set
    assert [rows.item(n).text().split(":")[0] for n in range(4)] == [
        "1 Harbour Bell", "2 Kettle on the Stove", " lamp off", "3 Slack Tide",
    ]  # fmt: skip
    rows.setCurrentRow(2)
    assert room.tonight.at == 2
    rows.model().moveRows(QModelIndex(), 3, 1, QModelIndex(), 0)  # what a drag does
    songs = read_set(folder / "tonight.set").songs
    assert [(song.path, song.note) for song in songs] == [
        ("slack-tide.chart", "lamp off"), ("harbour-bell.chart", ""), ("kettle-on-the-stove.hinge", ""),
    ]  # fmt: skip
    qtbot.waitUntil(lambda: len(room.tonight.row) == 3 and room.tonight.row[0].song == songs[0], timeout=30_000)
    room.view.files.click()
    qtbot.waitUntil(lambda: len(list((folder / "tonight" / "mid").glob("*.mid"))) == 3, timeout=30_000)
    assert (folder / "tonight" / "mid" / "01 Slack Tide.mid").is_file()


def test_what_is_due_is_seen_in_the_table_said_of_the_set_and_practised(room, folder, window, qtbot, monkeypatch):
    now = datetime.now().astimezone()
    kettle = next(row for row in room.rows if row.title == "Kettle on the Stove")
    harbour = next(row for row in room.rows if row.title == "Harbour Bell")
    log = window.shell.open_log()
    for song, item, ago in (
        (kettle.id, "1", 20),
        (kettle.id, "2", 20),
        (kettle.id, "3", 0),
        (f"file:{harbour.id}", "1", 1),
    ):
        at = now - timedelta(days=ago)
        run = Run(at, song, "t", "Take 1", "hinge", item, 1, 2, "", "C", "both", 0.5)
        log.add(run, reviewed("", item, Mark(seconds=0.5), at))
    log.close()
    put(room, qtbot, "harbour", "kettle")
    room.read()
    qtbot.waitUntil(lambda: room.view.listed.standing(kettle).due == 2, timeout=30_000)
    assert room.view.listed.standing(kettle)[:3] == (2, 0, 1)
    assert room.view.listed.standing(harbour)[:3] == (0, 0, 1)
    room.view.table.sortByColumn(KNOWN, Qt.SortOrder.AscendingOrder)
    assert titles(room)[0] == "Kettle on the Stove"
    cell = room.view.listed.index(0, KNOWN)
    assert (cell.data(), room.view.listed.index(0, PLAYED).data()) == ("2 due, 1 safe", "today")
    assert room.view.table.grab().toImage() != room.view.grab().toImage()
    qtbot.waitUntil(lambda: "To practise before tonight" in room.view.foot.text(), timeout=30_000)
    assert "Kettle on the Stove (2)" in room.view.foot.text()
    begun = []
    monkeypatch.setattr(
        room.tonight, "shell", room.shell._replace(practise=lambda: begun.append(window.desk.song.title))
    )
    QTest.keyClick(room.view, Key.Key_F7)
    assert begun == ["Kettle on the Stove"]


def test_the_boats_book_comes_into_a_folder_and_a_lost_song_is_found(window, tmp_path, qtbot, monkeypatch):
    place = tmp_path / "boat"
    place.mkdir()
    window.rooms.show_room(BOOK)
    room = window.rooms.room(BOOK)
    monkeypatch.setattr(room, "shell", room.shell._replace(ask_folder=lambda: place))
    room.view.book.click()
    qtbot.waitUntil(lambda: len(room.rows) >= 11 and len(room.tonight.row) == 11, timeout=60_000)
    assert not any(row.problem for row in room.rows)
    assert not any(own.problem for own in room.tonight.row)
    assert len({row.key for row in room.rows}) >= 10
    assert len({row.manner for row in room.rows}) == 8
    assert {own.state.song.meter for own in room.tonight.row} >= {Meter(4, 4), Meter(5, 4), Meter(7, 8), Meter(12, 8)}
    (tmp_path / "away").mkdir()
    (place / "ropewalk.chart").rename(tmp_path / "away" / "walk.chart")
    room.read()
    qtbot.waitUntil(lambda: room.tonight.row[6].problem is not None, timeout=60_000)
    assert room.view.locate.isVisible()
    found = room.shell._replace(ask_file=lambda: tmp_path / "away" / "walk.chart")
    monkeypatch.setattr(room.tonight, "shell", found)
    room.tonight._go(6)
    room.view.locate.click()
    qtbot.waitUntil(lambda: room.tonight.row[6].problem is None, timeout=60_000)
    monkeypatch.setattr(room.tonight, "shell", room.shell._replace(ask_file=lambda: tmp_path / "away" / "none.chart"))
    before = room.tonight.songs
    room.tonight.find()
    qtbot.waitUntil(lambda: "none.chart" in window.teller.line.text(), timeout=30_000)
    assert room.tonight.songs == before
    assert read_set(place / "tonight.set").songs[6].note == "no bass player from here on"
