"""A disk that fills and empties, files that are none, clocks set back, settings of two windows: nothing is lost."""

import contextlib
import errno
import json
import os
import subprocess
import threading
import time
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.songs import BUILDER
from yellow_hinge.app.keeping import copying, logbook
from yellow_hinge.app.keeping import settings as keeping
from yellow_hinge.app.keeping.copying import Copier
from yellow_hinge.app.keeping.sessions import Session, left_behind
from yellow_hinge.app.keeping.settings import (
    LAST,
    NAME,
    Places,
    Settings,
    SettingsWriter,
    load_settings,
    save_settings,
)
from yellow_hinge.app.keeping.versions import MOST, keep_version, versions
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io import files
from yellow_hinge.io.export import export
from yellow_hinge.io.files import FileFault, digest, read_bytes, write_atomic
from yellow_hinge.io.songs.song_json import song_file

FILE = song_file(parse_chart("title: Kept\n| C | F |"))


@pytest.fixture
def places(tmp_path):
    return Places(tmp_path / "config", tmp_path / "state")


@pytest.fixture
def disk(monkeypatch):
    """A disk that is full while `disk[0]` is true."""
    full, flush = [False], files._flush

    def perhaps(stream):
        if full[0]:
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        flush(stream)

    monkeypatch.setattr(files, "_flush", perhaps)
    return full


def wait_for(what):
    deadline = time.monotonic() + 10
    while not what():
        assert time.monotonic() < deadline
        time.sleep(0.005)


# --- the open song's copy ---
def test_what_a_full_disk_refuses_is_kept_once_there_is_room(places, disk, monkeypatch):
    monkeypatch.setattr(copying, "PATIENCE", 0.02)
    told, safe = [], []
    session = Session(places)
    copier = Copier(session, told.append)
    disk[0] = True
    copier.keep(lambda: FILE, "the text", "", "")
    copier.when_safe(lambda: safe.append(1))
    wait_for(lambda: told)
    time.sleep(0.08)
    assert (len(told), safe) == (1, [])
    copier.keep_text("newer text")
    disk[0] = False
    wait_for(lambda: safe)
    wait_for(
        lambda: (session.folder / "chart.txt").read_text() == "newer text"
    )  # it may come after what was kept first
    copier._ended.set()
    session._lock.close()
    session._lock = None
    (left,), wrong = left_behind(places)
    assert (left.text, left.file.song.title, wrong) == ("newer text", "Kept", [])


def test_the_copier_lives_through_a_bug_in_what_it_is_given(places, monkeypatch):
    said, told = [], []
    monkeypatch.setattr(logbook, "bug", said.append)
    monkeypatch.setattr(copying, "PATIENCE", 0.01)
    copier = Copier(Session(places), told.append)
    copier.keep(lambda: 1 / 0, "x", "", "")
    wait_for(lambda: said)
    safe = threading.Event()
    copier.keep(lambda: FILE, "y", "", "")
    copier.when_safe(safe.set)
    assert safe.wait(10)
    assert "ZeroDivisionError" in said[0]
    copier.close()


def test_a_small_disk_that_fills_and_empties(tmp_path):
    disk = tmp_path / "disk"
    disk.mkdir()
    made = subprocess.run(["mount", "-t", "tmpfs", "-o", "size=256k", "tmpfs", disk], capture_output=True, check=False)
    if made.returncode:
        pytest.skip("no disk of its own can be made here")
    try:
        session = Session(Places(disk / "config", disk / "state"))
        session.keep_song(FILE)
        with contextlib.suppress(OSError), (disk / "filler").open("wb", 0) as filler:
            while filler.write(b"x" * 4096):
                pass
        big = song_file(parse_chart("title: Newer\n| " + " | ".join(["Cmaj7", "F#m7b5"] * 300) + " |"))
        with pytest.raises(FileFault, match="No space"):
            session.keep_song(big)
        (left,), _ = _left_alone(session, disk)
        assert left.file.song.title == "Kept"
        (disk / "filler").unlink()
        session.keep_song(big)
        (left,), _ = _left_alone(session, disk)
        assert left.file.song.title == "Newer"
    finally:
        subprocess.run(["umount", "-l", disk], check=False)


def _left_alone(session, disk):
    session._lock.close()
    session._lock = None
    return left_behind(Places(disk / "config", disk / "state"))


def test_the_digest_that_the_window_knew_lies_with_the_copy(places):
    session = Session(places)
    session.keep_song(FILE)
    session.tell_path("/songs/a.hinge", "abc")
    session._lock.close()
    (left,), _ = left_behind(places)
    assert (left.path, left.known) == ("/songs/a.hinge", "abc")


# --- files ---
def test_a_file_with_two_names_keeps_its_new_content_beside_it_on_a_full_disk(tmp_path, disk, monkeypatch):
    one, two = tmp_path / "one.hinge", tmp_path / "two.hinge"
    one.write_bytes(b"old")
    two.hardlink_to(one)
    calls, flush = [], files._flush

    def second_fails(stream):
        calls.append(1)
        if len(calls) > 1:
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        flush(stream)

    monkeypatch.setattr(files, "_flush", second_fails)
    with pytest.raises(FileFault, match=r"one.hinge.safe-copy beside it"):
        write_atomic(one, b"new content")
    assert (tmp_path / "one.hinge.safe-copy").read_bytes() == b"new content"
    monkeypatch.setattr(files, "_flush", flush)
    write_atomic(two, b"newest")
    assert (one.read_bytes(), (tmp_path / "one.hinge.safe-copy").exists()) == (b"newest", True)


def test_pipes_and_devices_are_refused_at_once(tmp_path):
    os.mkfifo(tmp_path / "pipe.hinge")
    for path in (tmp_path / "pipe.hinge", files.Path("/dev/zero")):
        with pytest.raises(FileFault, match="pipe or a device"):
            read_bytes(path)
        assert digest(path) is None


def test_a_name_of_three_hundred_letters_is_a_message(tmp_path):
    song = FILE.song
    solution = solve_song(BUILDER, timeline(song), Setup())
    with pytest.raises(FileFault, match="name too long"):
        export(tmp_path / f"{'x' * 300}.chart", FILE, solution)
    with pytest.raises(FileFault, match="name too long"):
        read_bytes(tmp_path / ("x" * 300))


def test_a_clock_set_back_throws_no_version_away(places):
    document, now = "0" * 32, datetime(2026, 5, 1, tzinfo=UTC)
    for n in range(MOST):
        keep_version(places, document, f"{n}".encode(), now + timedelta(hours=n))
    keep_version(places, document, b"after the clock went back", now - timedelta(days=400))
    assert versions(places, document)[0].path.read_bytes() == b"after the clock went back"
    assert len(versions(places, document)) == MOST


# --- settings ---
def test_a_bad_field_of_the_settings_costs_that_field_alone(places):
    save_settings(places, Settings(theme="dark", chord=7, large_text=True))
    path = places.config / NAME
    fields = json.loads(path.read_text())
    path.write_text(json.dumps(fields | {"theme": 3, "chord": -5, "window": [1, 1], "stranger": 1}))
    assert load_settings(places) == Settings(large_text=True)


def test_a_shape_that_is_none_costs_that_shape_alone(places):
    save_settings(places, Settings(shapes=(MyShape("Wide", "1 5", "3 7"), MyShape("Close", "1", "3 5 7"))))
    path = places.config / NAME
    for strange in ("close 99999999", "1 2 3 4 5 6", "free", "1" + "'" * 99, "1 2 '" * 9):
        path.write_text(path.read_text().replace("3 7", json.dumps(strange)[1:-1]))
        assert [shape.name for shape in load_settings(places).shapes] == ["Close"]
        path.write_text(path.read_text().replace(json.dumps(strange)[1:-1], "3 7"))


STRANGE = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**12), 10**12) | st.floats() | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=6), inner, max_size=3), max_leaves=6,
)  # fmt: skip


@given(st.dictionaries(st.sampled_from(sorted(Settings.__struct_fields__)), STRANGE, max_size=8))
def test_any_settings_at_all_are_read_into_sensible_ones(tmp_path_factory, fields):
    places = Places(tmp_path_factory.mktemp("any"), tmp_path_factory.getbasetemp())
    (places.config / NAME).write_text(json.dumps(fields, allow_nan=True))
    found = load_settings(places)
    assert found.sensible
    save_settings(places, found)
    assert load_settings(places) == found


def test_settings_that_cannot_be_read_are_the_last_good_ones(places):
    save_settings(places, Settings(theme="dark"))
    save_settings(places, Settings(theme="light"))
    (places.config / NAME).write_bytes(b"\x00\x00")
    assert load_settings(places).theme == "dark"
    save_settings(places, Settings(theme="light", chord=2))
    assert json.loads((places.config / LAST).read_text())["theme"] == "dark"


def test_two_windows_change_fields_of_their_own_within_a_second(places, monkeypatch):
    monkeypatch.setattr(keeping, "SETTLE", 0.01)
    one, two = SettingsWriter(places, pytest.fail), SettingsWriter(places, pytest.fail)
    one.put(Settings(theme="dark", recent=("/a",)), frozenset({"theme", "recent"}))
    wait_for(lambda: load_settings(places).theme == "dark")
    two.put(Settings(labels="names", recent=("/b",)), frozenset({"labels", "recent"}))
    wait_for(lambda: load_settings(places).labels == "names")
    one.close()
    two.close()
    found = load_settings(places)
    assert (found.theme, found.labels, set(found.recent)) == ("dark", "names", {"/a", "/b"})


def test_a_copier_that_is_closed_works_no_more(tmp_path):
    copier = Copier(Session(Places(tmp_path / "config", tmp_path / "state")), pytest.fail)
    copier.keep_text("| C |")
    thread = copier._thread
    assert thread.is_alive()
    copier.close()
    assert not thread.is_alive()
