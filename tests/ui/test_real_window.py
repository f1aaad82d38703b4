"""The window on a real (virtual) screen."""

import json
import os
import shutil
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests import some

pytestmark = pytest.mark.xvfb


def under_xvfb(*words, screen="1280x800", **env):
    """A command on a virtual screen with a window manager, and its surroundings."""
    assert all(map(shutil.which, ("xvfb-run", "openbox"))), "install xvfb and openbox; `make test` does"
    clean = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")}
    managed = ["sh", "-c", 'openbox >/dev/null 2>&1 & sleep 0.5; exec "$@"', "sh", *words]
    return ["xvfb-run", "-a", "-s", f"-screen 0 {screen}x24", *managed], clean | env


def test_keys_reach_a_real_window_and_its_picture_is_drawn(tmp_path):
    words, env = under_xvfb(sys.executable, str(Path(__file__).with_name("real_window.py")), str(tmp_path))
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout.splitlines()[-1])
    assert found["platform"] == "xcb"
    assert found["selected"] == 2
    assert found["tried"]
    assert found["fits"]
    assert found["undo"] == "keep C#m7"
    assert found["sentence"]
    assert (found["framed"], found["inside"]) == (True, True), found
    assert found["colors"] > 20
    assert found["rescue"] == 1


@pytest.mark.parametrize("hand", some(["keys", "mouse"], 2))
def test_fourteen_tasks_are_done_by_either_hand(tmp_path, hand):
    words, env = under_xvfb(sys.executable, "-m", "tests.ui.walk", str(tmp_path), hand)
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout.splitlines()[-1])
    assert len(found) == 15
    assert all(came is True for came in found.values()), found


SCREENS = [("1280x800", "1.5", (1280, 800)), ("1920x1080", "1", (4000, 3000))]


@pytest.mark.parametrize(("screen", "scale", "kept"), some(SCREENS, 2))
def test_the_window_with_its_frame_lies_within_any_screen(tmp_path, screen, scale, kept):
    code = str(Path(__file__).with_name("real_window.py"))
    words, env = under_xvfb(sys.executable, code, str(tmp_path), *map(str, kept), screen=screen, QT_SCALE_FACTOR=scale)
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout.splitlines()[-1])
    assert (found["framed"], found["inside"]) == (True, True), found


def test_the_program_starts_on_a_screen_and_stays_up(tmp_path):
    words, env = under_xvfb(sys.executable, "-m", "yellow_hinge", "--demo", HOME=str(tmp_path))
    for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME"):
        env.pop(name, None)
    with subprocess.Popen(
        words, env=env, stdout=subprocess.PIPE, stderr=subprocess.PIPE, start_new_session=True
    ) as process:
        time.sleep(4)
        running = process.poll() is None
        os.killpg(process.pid, 9)
        _, err = process.communicate()
    assert running, err.decode()
    assert b"Traceback" not in err


def test_qt_leaves_nothing_in_the_imports():
    code = (
        "import builtins, sys; plain = builtins.__import__\n"
        "from yellow_hinge.ui.loading import load_qt; load_qt()\n"
        "import yellow_hinge.ui.shell.start, PySide6.QtTest\n"
        "sys.exit(builtins.__import__ is not plain)"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_the_window_is_loaded_without_arrays():
    code = "import sys, yellow_hinge.ui.shell.start; sys.exit('numpy' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_a_killed_window_brings_its_song_back(tmp_path):
    """kill -9 while a song is open and changed; the next start has it again."""
    script = str(Path(__file__).with_name("killed_window.py"))
    words, env = under_xvfb(sys.executable, script, str(tmp_path), "die")
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode != 0
    assert "TimeoutError" not in done.stderr
    words, env = under_xvfb(sys.executable, script, str(tmp_path), "look")
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    found = json.loads(done.stdout.splitlines()[-1])
    assert found["text"].endswith("| Ebmaj9 | Ab13 |")
    assert (found["keeps"], found["changed"]) == (1, True)


def test_windows_killed_while_they_edit_lose_nothing_older_than_a_second(tmp_path):
    """A sample; `make kills` does a hundred."""
    words, env = under_xvfb(sys.executable, "-m", "tests.kills.run", "2", "20261125")
    done = subprocess.run(words, env=env, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stdout + done.stderr
    assert done.stdout.count(" s lost") == 2
