"""The index of the songbook: known again at the next start, made anew where it is damaged, shared by windows."""

import shutil
import threading

import pytest

from yellow_hinge.app.solving.book import finding as of_book
from yellow_hinge.app.solving.book.finding import BookReader
from yellow_hinge.app.solving.book.index import NAME, BookIndex
from yellow_hinge.app.solving.book.songbook import song_row, songbook
from yellow_hinge.assets import ASSETS


@pytest.fixture
def folder(tmp_path):
    found = tmp_path / "songs"
    found.mkdir()
    for path in (ASSETS / "demo").glob("*.chart"):
        shutil.copy(path, found / path.name)
    return found


@pytest.fixture
def read(folder, tmp_path, monkeypatch):
    """What a new reader finds is what the verb finds; the names of the files that it opened for it."""
    opened = []
    monkeypatch.setattr(of_book, "song_row", lambda path: (opened.append(path.name), song_row(path))[1])

    def reading():
        opened.clear()
        done, came = threading.Event(), []
        reader = BookReader(lambda found: (came.append(found), found.whole and done.set()), "test", BookIndex(tmp_path))
        reader.ask([folder])
        assert done.wait(30)
        reader.close()
        assert came[-1].rows == tuple(songbook([folder]))
        return sorted(opened)

    return reading


def test_what_was_read_is_known_at_the_next_start_and_what_changed_is_read_again(read, folder, tmp_path):
    names = sorted(path.name for path in folder.iterdir())
    assert read() == names
    assert read() == []
    (folder / names[0]).write_text((folder / names[0]).read_text() + "\n# another line\n")
    (folder / names[1]).unlink()
    (folder / names[2]).rename(folder / "moved.chart")
    assert read() == sorted([names[0], "moved.chart"])
    assert read() == []
    assert BookIndex(tmp_path).known().keys() == {str(path) for path in folder.iterdir()}


@pytest.mark.parametrize("hurt", [b"", b"no database at all", b"SQLite format 3\x00" + b"\xff" * 4000])
def test_a_damaged_index_is_made_anew(read, tmp_path, hurt):
    names = read()
    (tmp_path / NAME).write_bytes(hurt)
    assert read() == names
    assert read() == []


def test_an_index_that_cannot_be_kept_harms_nothing(read, tmp_path):
    (tmp_path / NAME).mkdir()
    names = read()
    assert names
    assert read() == names


def test_two_windows_share_an_index(folder, tmp_path):
    rows = [(str(path), ((1, n), song_row(path))) for n, path in enumerate(sorted(folder.iterdir()))]
    windows = [
        threading.Thread(target=lambda own=own: [BookIndex(tmp_path).keep([one]) for one in own])
        for own in (rows[::2], rows[1::2])
    ]
    for each in windows:
        each.start()
    for each in windows:
        each.join()
    assert BookIndex(tmp_path).known() == dict(rows)
