"""How the program ends where its surroundings fail: no room, no input, no screen, the player's Ctrl+C."""

import json
import os
import signal
import subprocess
import sys
import time

import pytest

WORDS = (sys.executable, "-m", "yellow_hinge")


def run(*words, **kwargs):
    kwargs = {"capture_output": True, "timeout": 60, "check": False} | kwargs
    return subprocess.run([*WORDS, *words], **kwargs)


def test_a_full_disk_under_the_output_is_said():
    with open("/dev/full", "w") as full:
        done = run("songs", stdout=full, stderr=subprocess.PIPE, capture_output=False)
    assert done.returncode == 2
    assert b"cannot be written (No space left on device)" in done.stderr
    assert b"Traceback" not in done.stderr
    assert b"Exception ignored" not in done.stderr


def test_a_closed_input_is_said():
    done = subprocess.run(
        ["sh", "-c", f"{sys.executable} -m yellow_hinge check - <&-"], capture_output=True, timeout=300, check=False
    )
    assert done.returncode == 2
    assert b"standard input: is closed" in done.stderr


def test_a_reader_that_goes_away_is_no_fault():
    done = subprocess.run(
        ["bash", "-c", f"{sys.executable} -m yellow_hinge songs | head -c 5; echo ${{PIPESTATUS[0]}}"],
        capture_output=True, timeout=300, check=False,
    )  # fmt: skip
    assert done.stdout.endswith(b"0\n")
    assert done.stderr == b""


@pytest.mark.parametrize("encoding", ["latin-1", "ascii"])
def test_a_title_that_the_terminal_cannot_write_is_written_otherwise(tmp_path, encoding):
    chart = tmp_path / "x.chart"
    chart.write_text("title: Жук é 🎹\n| C |\n", "utf-8")
    env = os.environ | {"PYTHONIOENCODING": encoding}
    done = run("check", str(chart), env=env)
    assert done.returncode == 0
    assert b"\\u0416" in done.stdout
    done = run("check", str(chart), "--json", env=env)
    assert json.loads(done.stdout.decode(encoding))["title"] == "Жук é 🎹"


def test_ctrl_c_ends_a_verb_quietly():
    process = subprocess.Popen(
        [*WORDS, "check", "-"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),  # a shell's background jobs ignore it
    )  # fmt: skip
    time.sleep(2.5)  # it waits for its input by then
    process.send_signal(signal.SIGINT)
    out, err = process.communicate(timeout=300)
    assert process.returncode == 130
    assert (out, err) == (b"", b"")


@pytest.mark.parametrize("display", [None, ":9977"])
def test_without_a_screen_it_is_said_what_to_do(tmp_path, display):
    gone = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    env = {name: value for name, value in os.environ.items() if name not in gone} | {"HOME": str(tmp_path)}
    done = run(env=env | ({"DISPLAY": display} if display else {}))
    assert done.returncode == 2
    assert b"no screen can be reached" in done.stderr
    assert b"yellow-hinge voice SONG" in done.stderr


def test_a_file_name_that_the_system_cannot_have_is_a_fault():
    done = run("check", "x\udcff\ud800.chart".encode("utf-8", "surrogatepass"))
    assert done.returncode == 2
    assert b"Traceback" not in done.stderr
