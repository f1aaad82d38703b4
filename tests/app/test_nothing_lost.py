"""Copies of unsaved songs, their locks, saved versions, the log."""

import logging
import signal
import subprocess
import sys
import threading
import time
from datetime import UTC, datetime, timedelta

import pytest

from yellow_hinge import __version__
from yellow_hinge.app.keeping import logbook
from yellow_hinge.app.keeping.copying import Copier
from yellow_hinge.app.keeping.sessions import Session, claim, forget, left_behind
from yellow_hinge.app.keeping.settings import Places, Settings, load_settings
from yellow_hinge.app.keeping.versions import MOST, keep_version, read_version, versions
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.songs.song_json import song_file, to_json

DOCUMENT = "0123456789abcdef" * 2


def file_of(text, title="A Song"):
    return song_file(parse_chart(f"title: {title}\n{text}"))


@pytest.fixture
def places(tmp_path):
    return Places(tmp_path / "config", tmp_path / "state")


def left_by_a_killed_process(places, text, path="/music/x.hinge"):
    """A process keeps a song and is killed: SIGKILL, as the machine's or the player's."""
    code = (
        "import sys, time\nfrom pathlib import Path\nfrom yellow_hinge.app.keeping.settings import Places\n"
        "from yellow_hinge.app.keeping.sessions import Session\nfrom yellow_hinge.io.songs.song_json import song_file\n"
        "from yellow_hinge.core.chart.text import parse_chart\n"
        "config, state, text, path = sys.argv[1:]\nsession = Session(Places(Path(config), Path(state)))\n"
        "session.keep_song(song_file(parse_chart(text)))\nsession.keep_text(text)\nsession.tell_path(path)\n"
        "print('kept', flush=True)\ntime.sleep(60)\n"
    )
    words = [sys.executable, "-c", code, str(places.config), str(places.state), text, path]
    process = subprocess.Popen(words, stdout=subprocess.PIPE)
    assert process.stdout.readline() == b"kept\n"
    return process


def test_a_killed_program_leaves_its_song_behind_and_a_living_one_does_not(places):
    with left_by_a_killed_process(places, "| C | Am |") as process:
        assert left_behind(places) == ([], [])
        assert Session(places).open_elsewhere("/music/x.hinge")
        process.send_signal(signal.SIGKILL)
        process.wait()
    (left,), wrong = left_behind(places)
    assert wrong == []
    assert (left.path, left.text) == ("/music/x.hinge", "| C | Am |")
    assert left.file.song == parse_chart("| C | Am |")
    assert not Session(places).open_elsewhere("/music/x.hinge")
    lock = claim(left)
    assert left_behind(places) == ([], [])  # it is being taken over
    assert claim(left) is None
    lock.close()
    assert len(left_behind(places)[0]) == 1  # who took it died before it had a copy of its own
    forget(left)
    assert left_behind(places) == ([], [])


def test_every_song_left_behind_is_offered_the_newest_first(places):
    for text in ("| C |", "| D |", "| E |"):
        with left_by_a_killed_process(places, text) as process:
            process.kill()
        time.sleep(0.02)
    assert [left.text for left in left_behind(places)[0]] == ["| E |", "| D |", "| C |"]


@pytest.mark.parametrize(("name", "data"), [("song.hinge", b"{broken"), ("song.hinge", b"\xff\xfe"), ("chart.txt",
    b"\xff\xfex\x00\x00"), ("chart.txt", b"| C \x00|"), ("song.hinge",
    b'{"format":"yellow-hinge-song","version":5,"song":{"sections":7}}')])  # fmt: skip
def test_a_damaged_copy_is_set_aside_and_said(places, name, data):
    session = Session(places)
    session.keep_song(file_of("| C |"))
    session._lock.close()
    (session.folder / name).write_bytes(data)
    found, wrong = left_behind(places)
    assert found == []
    assert "set aside" in wrong[0]
    (aside,) = (places.state / "open").glob("damaged-*")
    assert (aside / name).read_bytes() == data
    assert left_behind(places) == ([], [])  # said once


def test_copies_of_the_first_program_are_found(places):
    folder = places.state / "open"
    folder.mkdir(parents=True)
    (folder / "4711.json").write_bytes(to_json(file_of("| C | F |")))
    (folder / "4711.path").write_text("/music/old.json")
    (left,), _ = left_behind(places)
    assert left.path == "/music/old.json"
    forget(left)
    assert list(folder.iterdir()) == []


def test_an_edit_is_kept_within_a_second_though_others_follow_without_a_pause(places):
    session = Session(places)
    copier = Copier(session, pytest.fail)
    began, late, seen = time.monotonic(), 0.0, {0: time.monotonic()}
    count, stalled = 0, 0.0  # the longest that the machine itself stood still
    while time.monotonic() < began + 1.6:
        count += 1
        copier.keep_text(f"| C | {count}")
        seen[count] = time.monotonic()
        stalled = max(stalled, seen[count] - seen[count - 1])
        time.sleep(0.01)
        kept = (session.folder / "chart.txt").read_text() if (session.folder / "chart.txt").exists() else "| C | 0"
        late = max(late, time.monotonic() - seen.get(int(kept.split()[-1]) + 1, time.monotonic()))
    assert late < 1.0 + stalled
    copier.close()
    assert not session.folder.exists()


def test_a_copier_keeps_the_newest_and_drops_what_is_saved(places):
    session = Session(places)
    copier = Copier(session, pytest.fail)
    threads = []

    def make():
        threads.append(threading.current_thread().name)
        return file_of("| D |")

    copier.keep(make, "| D |", "/a.hinge")
    copier.flush()
    assert (session.folder / "chart.txt").read_text() == "| D |"
    copier.drop("/b.hinge")
    copier.flush()
    assert {path.name for path in session.folder.iterdir()} == {"lock", "path"}
    assert (session.folder / "path").read_text() == "/b.hinge"
    copier.close()


def test_what_cannot_be_kept_is_told(tmp_path):
    (tmp_path / "state").write_text("in the way")
    said = []
    copier = Copier(Session(Places(tmp_path, tmp_path / "state")), said.append)
    copier.keep_text("| C |")
    copier.flush()
    copier.close()
    assert "cannot be" in said[0]


def test_the_last_ten_versions_of_a_song_are_there(places):
    start = datetime(2026, 11, 1, tzinfo=UTC)
    for n in range(13):
        data = to_json(file_of("| C |", f"Version {n}"))
        keep_version(places, DOCUMENT, data, start + timedelta(minutes=n))
    found = versions(places, DOCUMENT)
    assert len(found) == MOST
    assert [read_version(version).song.title for version in found[:2]] == ["Version 12", "Version 11"]
    assert found[0].when == start + timedelta(minutes=12)
    assert versions(places, "f" * 32) == versions(places, "../../etc") == []
    with pytest.raises(FileFault, match="no document"):
        keep_version(places, "../../etc", b"", start)
    found[1].path.write_bytes(b"{")
    with pytest.raises(FileFault, match="damaged"):
        read_version(found[1])


@pytest.mark.parametrize(
    "data",
    [
        b'{"theme": "\xff"}', b'{"chord": 1e400}', b'{"chord": 99999999999999999999999}', b'{"window": [-5, 10000000]}',
        b'{"column_w": 1e308}', b"[" * 90_000, b'{"chord": -1}', b"\xff\xfe{", b"",
    ],
)  # fmt: skip
def test_settings_that_nobody_wrote_give_fresh_ones(places, data):
    places.config.mkdir()
    (places.config / "settings.json").write_bytes(data)
    found = load_settings(places)
    assert found == Settings()


def test_the_log_has_its_version_and_turns_over(places, monkeypatch):
    monkeypatch.setattr(logbook, "_log_crashes", lambda places: None)  # pytest watches for crashes itself
    logbook.begin(places)
    try:
        logbook.bug("Traceback: one")
        text = (places.state / logbook.LOG).read_text()
        assert f"Yellow Hinge {__version__}" in text
        assert "Traceback: one" in text
        for _ in range(30):
            logbook.note("x" * (logbook.LARGEST // 10))
        logs = sorted(path.name for path in places.state.glob(f"{logbook.LOG}*"))
        assert logs == [logbook.LOG, *(f"{logbook.LOG}.{n}" for n in range(1, logbook.KEPT + 1))]
        assert all(path.stat().st_size <= logbook.LARGEST for path in places.state.glob(f"{logbook.LOG}*"))
    finally:
        for handler in logging.getLogger("yellow_hinge").handlers[:]:
            handler.close()
            logging.getLogger("yellow_hinge").removeHandler(handler)


def test_a_crash_of_the_interpreter_is_logged(places):
    code = (
        "import sys; from pathlib import Path; from yellow_hinge.app.keeping import logbook; "
        "from yellow_hinge.app.keeping.settings import Places; import os, signal; "
        "logbook.begin(Places(Path(sys.argv[1]), Path(sys.argv[1]))); os.kill(os.getpid(), signal.SIGSEGV)"
    )
    done = subprocess.run([sys.executable, "-c", code, str(places.state)], check=False, capture_output=True)
    assert done.returncode == -signal.SIGSEGV
    assert "Segmentation fault" in (places.state / logbook.CRASHES).read_text()
