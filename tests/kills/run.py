"""Kill a window that edits without a pause, look what is left, let the next window take it over, and again.

`python -m tests.kills.run COUNT [SEED]`: for each kill tells what was going on, how many edits there were and how much
time was lost: from the last edit that is on disk to the kill, as far as there were later edits. Needs a screen.
"""

import itertools
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import NamedTuple

from tests.kills.window import token
from yellow_hinge.app.keeping.sessions import left_behind
from yellow_hinge.app.keeping.settings import Places

WHATS = ("typing", "dragging", "swapping")
ALLOWED = 1.0  # seconds
TICK = 0.02  # of the clock that files are stamped by


class Killed(NamedTuple):
    """One kill: what was going on, the edits before it, and the age in seconds of the oldest edit that was lost."""

    what: str
    edits: int
    lost: float


def kill_once(folder: Path, what: str, seed: str, before: str) -> tuple[Killed, str]:
    """Start, edit, kill; (what came of it, the token of what is left). `before` is what was left by the last kill: the
    window has to begin with it. Raises AssertionError where too much is lost.
    """
    log = folder / "log"
    log.unlink(missing_ok=True)
    process = subprocess.Popen([sys.executable, "-m", "tests.kills.window", str(folder), str(log), seed, what])
    try:
        deadline = time.monotonic() + 60
        while not (log.exists() and log.read_bytes().count(b"\n") >= 3):
            assert time.monotonic() < deadline, f"{what} {seed}: no edits came"
            assert process.poll() is None, f"{what} {seed}: the window ended by itself"
            time.sleep(0.02)
        time.sleep(random.Random(seed).uniform(0.0, 2.5))
        process.send_signal(signal.SIGKILL)
        killed = time.time()
    finally:
        process.kill()
        process.wait()
    lines = [line.split() for line in log.read_text().splitlines() if line.count(" ") == 1]
    edits = [(float(when), found) for when, found in lines]
    assert not before or edits[0][1] == before, f"{what} {seed}: the next window does not begin with what was left"
    there, wrong = left_behind(Places(folder, folder))
    assert not wrong, wrong
    assert there or not before, f"{what} {seed}: what was left before is gone"
    left_now = token(there[0].text or "", there[0].file.keeps) if there else ""
    found = [at for at, (_, logged) in enumerate(edits) if logged == left_now]
    if there and not found:  # an edit that is on disk and was not logged before the kill: newer than all of them
        assert there[0].when >= edits[-1][0] - TICK, f"{what} {seed}: what is left was never there"
    last = found[-1] if found else len(edits) - 1 if there else -1  # of a first window killed at once nothing is there
    later = edits[last + 1 :]
    lost = killed - later[0][0] if later else 0.0
    stalled = max(later_at - at for (at, _), (later_at, _) in itertools.pairwise(edits))  # a machine that stood still
    assert lost <= ALLOWED + stalled, f"{what} {seed}: an edit {lost:.2f} s old was lost"
    return Killed(what, len(edits), lost), left_now


def run(count: int, seed: int = 1) -> list[Killed]:
    """Kill so many windows, each after the other with the same folder."""
    found, left = [], ""
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        for number in range(count):
            killed, left = kill_once(Path(folder), WHATS[number % 3], f"{seed} {number}", left)
            print(f"{number + 1}: {killed.what}, {killed.edits} edits, {killed.lost:.2f} s lost", flush=True)
            found.append(killed)
    return found


if __name__ == "__main__":
    done = run(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    worst = max(killed.lost for killed in done)
    print(
        f"{len(done)} kills, {sum(killed.edits for killed in done)} edits; the oldest edit lost was {worst:.2f} s old"
    )
