"""Mutants that sleep in a copy of the tree: which tests ask for each of them, and which notice that it is awake.

python -m tools.mutating NUMBER WORKERS FOLDER: one of several processes that share the work; see `outcomes`.
"""

from __future__ import annotations

import importlib
import json
import multiprocessing
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from enum import Enum
from pathlib import Path
from typing import Any

import pytest

# Processor time for all tests of a mutant, and time on the clock where nothing is worked; what the test that runs then
# has used, to be one that never ends.
LONGEST_S, IDLE_S, HANGS_S = 90, 300, 30
TICKS_A_SECOND = os.sysconf("SC_CLK_TCK")
NOBODY, CONTROLS = -2, 8  # no mutant, and the tests that have to pass with none
CLOSE, SOON, MOST = 6, 120, 500  # files nearest to a mutant's, tests before the long one through everything, and in all
QUIET = ("-q", "-p", "no:cacheprovider", "-p", "no:xdist")
WALK = "tests/cli/test_every_answer.py::test_every_function_answers_as_it_is_kept"
# It runs its walk in a process of its own: what that asks for.
WALKED = "from tests.cli.answers import walked; walked(); from yellow_hinge._switch import ASKED; print(*ASKED)"
# Run in processes of their own, where nothing is seen of them, or look at all files.
FAR = ("kills/", "fuzz/", "ui/test_real_window", "cli/test_packaging", "ui/test_screenshots", "ui/test_names")


class Outcome(Enum):
    """What became of a mutant."""

    DIED = "died"
    LIVES = "lives"


def outcomes(tree: Path, near: list[list[str]], files: list[str], workers: int) -> Iterator[tuple[int, Outcome]]:
    """The mutants of a tree by their numbers, as it comes out what becomes of them; `near` are each one's tests where
    it is run as its file is loaded, `files` all tests. Raises RuntimeError where the tests fail with all asleep.
    """
    folder = tree.parent
    (folder / "asked.json").write_text(json.dumps({"near": near, "files": files}), "utf-8")
    told, tell = os.pipe()
    run = [sys.executable, "-m", "tools.mutating"]
    jobs = [
        subprocess.Popen([*run, str(number), str(workers), str(folder)], cwd=tree, stdout=tell)
        for number in range(workers)
    ]
    os.close(tell)
    with os.fdopen(told) as rows:
        for row in rows:
            number, word = row.split()
            yield int(number), Outcome(word)
    if any(job.wait() for job in jobs):
        raise RuntimeError("the tests fail where nothing is changed")


def worked(process: int) -> float:
    """The processor time of a process and of its children that have ended, in seconds: a busy machine kills nothing."""
    fields = Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()
    return sum(map(int, fields[11:15])) / TICKS_A_SECOND


def failed(child: int, since: Any) -> bool:
    """Whether a process, leader of its group, ends with a fault or never; `since` is when its present test began."""
    begun = time.monotonic()
    while True:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            return os.waitstatus_to_exitcode(status) not in (0, 5)
        used, waited = worked(child), time.monotonic() - begun
        if used > LONGEST_S or waited > IDLE_S:
            os.killpg(child, 9)
            os.waitpid(child, 0)
            return used - since.value > HANGS_S or used < LONGEST_S / 4
        time.sleep(0.02)


class Trier:
    """In the place of pytest's loop over the tests: all of them once, then those of each mutant in a fork."""

    def __init__(self, number: int, workers: int, folder: Path, out: int) -> None:
        self.number, self.workers, self.folder, self.out = number, workers, folder, out
        self.near: list[list[str]] = json.loads((folder / "asked.json").read_text("utf-8"))["near"]
        self.since = multiprocessing.Value("d", 0.0)
        self.fault = False

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        """Remember that a test failed."""
        self.fault |= report.failed

    def pytest_runtestloop(self, session: pytest.Session) -> bool:
        """Try this process's share of the mutants."""
        if session.testsfailed:
            raise RuntimeError("tests cannot be loaded")
        switch = importlib.import_module("yellow_hinge._switch")
        loaded = set(switch.ASKED)
        self._listen(session.items[self.number :: self.workers], switch)
        seconds, asked = self._heard()
        items = {item.nodeid: item for item in session.items}
        some = [items[name] for name in sorted(seconds, key=lambda name: (seconds[name], name))[:CONTROLS]]
        for number in range(self.number, len(self.near), self.workers):
            names = self._in_order(number, asked.get(number, []), seconds)
            gone = bool(names) and self._woken(number, [items[name] for name in names[:MOST]], switch)
            if not gone and (number in loaded or not names):
                gone = self._anew(number)
            if self._woken(NOBODY, some, switch):
                raise RuntimeError("tests fail in a fork where nothing is changed")
            os.write(self.out, f"{number} {Outcome.DIED.value if gone else Outcome.LIVES.value}\n".encode())
        return True

    def _in_order(self, number: int, asked: list[str], seconds: dict[str, float]) -> list[str]:
        """The tests that ask for a mutant: those of the files that are nearest to its own, then the others, the quickest
        first; the one that goes through everything soon.
        """
        close = set(self.near[number][:CLOSE])
        names = sorted(asked, key=lambda name: (name.partition("::")[0] not in close, seconds[name], name))
        if WALK in names:
            names.remove(WALK)
            names.insert(SOON, WALK)
        return names

    def _ran(self, item: pytest.Item, following: pytest.Item | None) -> bool:
        """Whether a test passes."""
        self.fault, self.since.value = False, worked(os.getpid())
        item.config.hook.pytest_runtest_protocol(item=item, nextitem=following)
        return not self.fault

    def _listen(self, items: list[pytest.Item], switch: Any) -> None:
        """Run tests with all mutants asleep, in a fork, which writes how long each takes and what it asks for."""
        child = os.fork()
        if child == 0:
            rows = []
            for item, following in zip(items, [*items[1:], None], strict=True):
                switch.ASKED.clear()
                begun = worked(os.getpid())
                good = self._ran(item, following)
                took = worked(os.getpid()) - begun
                asked = self._walked() if item.nodeid == WALK else sorted(switch.ASKED)
                rows.append((item.nodeid, took, asked, good))
            part = self.folder / f"heard-{self.number}.part"
            part.write_text(json.dumps(rows), "utf-8")
            part.rename(part.with_suffix(".json"))
            os._exit(0)
        os.waitpid(child, 0)

    @staticmethod
    def _walked() -> list[int]:
        """What the walk asks for."""
        run, seed = [sys.executable, "-c", WALKED], os.environ | {"PYTHONHASHSEED": "0"}
        return list(map(int, subprocess.run(run, capture_output=True, text=True, check=True, env=seed).stdout.split()))

    def _heard(self) -> tuple[dict[str, float], dict[int, list[str]]]:
        """How long each test takes and which ones ask for each mutant, once all processes have run theirs."""
        seconds, asked, wrong = dict[str, float](), dict[int, list[str]](), list[str]()
        for number in range(self.workers):
            path = self.folder / f"heard-{number}.json"
            while not path.exists():
                time.sleep(0.2)
            for name, took, numbers, good in json.loads(path.read_text("utf-8")):
                seconds[name] = took
                wrong += [] if good else [name]
                for mutant in numbers if good else ():
                    asked.setdefault(mutant, []).append(name)
        if wrong:
            print(f"left out, since they fail as it is: {' '.join(wrong)}", file=sys.stderr)
        if len(wrong) > len(seconds) / 100:
            raise RuntimeError("tests fail where nothing is changed")
        return seconds, asked

    def _woken(self, number: int, items: list[pytest.Item], switch: Any) -> bool:
        """Whether one of some tests notices a mutant."""
        child = os.fork()
        if child == 0:
            os.setpgid(0, 0)
            switch.AWAKE[0], os.environ["MUTANT"] = number, str(number)
            good = all(self._ran(item, following) for item, following in zip(items, [*items[1:], None], strict=True))
            os._exit(not good)
        return failed(child, self.since)

    def _anew(self, number: int) -> bool:
        """Whether the tests that are near a mutant's file notice it where everything is loaded with it."""
        self.since.value = LONGEST_S  # which of them runs is not known here
        run = [sys.executable, "-m", "pytest", "-x", *QUIET, *self.near[number]]
        job = subprocess.Popen(
            run, env=os.environ | {"MUTANT": str(number)}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            process_group=0,
        )  # fmt: skip
        gone = failed(job.pid, self.since)
        job.poll()  # it was waited for already
        return gone


def main() -> int:
    """One process's share; what became of its mutants goes to standard output, a row each."""
    number, workers, folder = int(sys.argv[1]), int(sys.argv[2]), Path(sys.argv[3])
    out = os.dup(1)
    os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
    files = json.loads((folder / "asked.json").read_text("utf-8"))["files"]
    return int(pytest.main([*QUIET, *files], plugins=[Trier(number, workers, folder, out)]))


if __name__ == "__main__":
    sys.exit(main())
