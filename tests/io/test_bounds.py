"""Files made to take time or memory: a song, or a refusal that says so, within what a reader may take."""

import io
import os
import subprocess
import sys
import threading
import time

import mido
import pytest

from tests import some
from tests.fuzz.seeds import score_xml
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.io import apart
from yellow_hinge.io.apart import USUAL, ReaderBugError
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.opening import read_data

HEAD = b'{"format":"yellow-hinge-song","version":5,"song":'


def midi(messages):
    file, track = mido.MidiFile(), mido.MidiTrack()
    file.tracks.append(track)
    track.extend(messages)
    held = io.BytesIO()
    file.save(file=held)
    return held.getvalue()


def overlapping(count):
    for number in range(count):
        yield mido.Message("note_on", note=number % 128, channel=number // 128 % 9, time=0 if number % 7 else 1)
    for number in range(count):
        yield mido.Message("note_off", note=number % 128, channel=number // 128 % 9, time=1)


ENDLESS = {
    "blanks in a directive": ("x.cho", lambda: b"[C]a\n{title:" + b" " * 1_000_000 + b"\n"),
    "60 000 brackets": ("x.cho", lambda: b"[C]x\n" + b"[" * 60_000),
    "31 MB of brackets": ("x.cho", lambda: b"[C]x\n" + b"[" * 31_000_000),
    "brackets in a chart": ("x.txt", lambda: b"| C |\n" + b"[" * 390_000),
    "one bar of chords": ("x.txt", lambda: b"| " + b"C " * 190_000 + b"|"),
    "overlapping notes": ("x.mid", lambda: midi(overlapping(50_000))),
    "32 MB of notes": ("x.mid", lambda: b"MThd\0\0\0\6\0\1\0\1\1\xe0MTrk\x01\xff\0\0" + b"\0\x90\x3c\x40" * 7_900_000),
    "lists": ("x.hinge", lambda: HEAD + b"[" + b"[]," * 10_300_000 + b"[]]}"),
    "deep lists": ("x.hinge", lambda: HEAD + b"[" * 15_000_000),
    "bars": ("x.hinge", lambda: HEAD + b'{"sections":[{"name":"a","bars":[' + b'{"slots":[]},' * 900_000 + b'{"slots":[]}]}]}}'),
    "beats": ("x.xml", lambda: score_xml().replace(b"<beats>4", b"<beats>99999999")),
}  # fmt: skip


@pytest.mark.parametrize("what", some(ENDLESS, 3))
def test_a_file_made_to_take_long_is_bounded(what, monkeypatch):
    """Under tighter limits than the player's, for the sake of the tests' time."""
    name, make = ENDLESS[what]
    data = make()
    limit = apart.Limits(1.0, USUAL.memory)
    monkeypatch.setattr(apart, "USUAL", limit)
    began = os.times().children_user
    try:
        read_data(data, name)
    except UserError as error:
        assert str(error)
    assert os.times().children_user - began < limit.seconds + 2


def test_reading_is_cancelled_at_once():
    stop = threading.Event()
    data = b"[C]x\n" + b"[" * 31_000_000
    ended = []

    def read():
        with pytest.raises(OvertakenError):
            read_data(data, "x.cho", stop.is_set)
        ended.append(time.monotonic())

    thread = threading.Thread(target=read)
    thread.start()
    time.sleep(1.0)
    assert not ended
    asked = time.monotonic()
    stop.set()
    thread.join(5)
    assert ended[0] - asked < 2


def test_a_readers_process_ends_with_its_parent(tmp_path):
    """The parent is killed while its child reads: nothing of it is left."""
    code = (
        "from yellow_hinge.io.opening import read_data\n"
        "print('reading', flush=True)\nread_data(b'[C]x\\n' + b'[' * 31_000_000, 'killed-with-its-parent.cho')\n"
    )
    parent = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE)

    def children():
        found = []
        for pid in filter(str.isdecimal, os.listdir("/proc")):
            try:
                with open(f"/proc/{pid}/cmdline", "rb") as words:
                    found += [pid] if b"yellow_hinge.io.child\0text\0killed-with" in words.read() else []
            except OSError:
                continue
        return found

    deadline = time.monotonic() + 60
    while not children() and time.monotonic() < deadline:
        time.sleep(0.05)
    assert children()
    parent.kill()
    parent.communicate()
    deadline = time.monotonic() + 20
    while children() and time.monotonic() < deadline:
        time.sleep(0.02)
    assert children() == []


def test_a_reader_that_takes_too_much_memory_is_a_refusal_that_says_so(monkeypatch):
    monkeypatch.setattr(apart, "USUAL", apart.Limits(5.0, 80 * 1024**2))
    with pytest.raises(FileFault, match="or 80 MB to read and was given up"):
        read_data(b"[C]x\n" + b"x" * 31_000_000, "x.cho")


def test_a_bug_in_a_reader_is_no_damaged_file(monkeypatch):
    """The child's traceback comes back as a bug."""
    monkeypatch.setattr(apart, "_wait", lambda *_: apart.msgspec.json.encode(apart.Outcome(bug="Traceback: KeyError")))
    with pytest.raises(ReaderBugError, match="KeyError"):
        read_data(b"[C]x\n" + b"x" * 60_000, "x.cho")
