"""`make mutants`: changes lines of core, io and app one at a time and sees whether a test notices.

python -m tools.mutants COUNT [SEED] [PART ...]: a random sample of COUNT mutants, of files whose path holds a PART.
Each stands in a copy of the tree, in a process forked from one that has the libraries loaded; only tests that import
what was changed are run, the nearest first, for so many seconds of processor time, and none of the window's. The ones that
survive are printed, and the share that died.
"""

from __future__ import annotations

import ast
import compileall
import multiprocessing
import os
import random
import shutil
import sys
import tempfile
import time
from collections.abc import Iterator
from multiprocessing.sharedctypes import Synchronized
from pathlib import Path
from typing import NamedTuple

from tools.offscreen import PLATFORM

ROOT = Path(__file__).parents[1]
FOLDERS = ("core", "io", "app")
WANTED = 0.85
# Processor time for all tests of a mutant, and time on the clock where nothing is worked; what the test that runs then
# has used, to be one that never ends.
LONGEST_S, IDLE_S, HANGS_S = 80, 400, 30
TICKS_A_SECOND = os.sysconf("SC_CLK_TCK")
WIDEST = ("test_every_answer", "test_said")  # go through most of the program: soon after a module's own tests
FEW = "12"  # examples of a property
COMPARED = {
    ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "==", ast.In: "not in",
    ast.NotIn: "in", ast.Is: "is not", ast.IsNot: "is",
}  # fmt: skip
COUNTED = {ast.Add: "-", ast.Sub: "+", ast.Mult: "+", ast.FloorDiv: "*", ast.Mod: "*", ast.Div: "*"}


class Mutant(NamedTuple):
    """A piece of a file (offsets in characters) and what stands there instead."""

    path: Path
    line: int
    start: int
    end: int
    new: str

    def __str__(self) -> str:
        text = self.path.read_text("utf-8")
        old = " ".join(text[self.start : self.end].split())
        return f"{self.path.relative_to(ROOT)}:{self.line}: {old[:60]} -> {self.new[:60]}"


def mutants(path: Path) -> Iterator[Mutant]:
    """Every mutant of a file."""
    text = path.read_text("utf-8")
    starts = [0]
    for row in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(row))
    rows = text.splitlines(keepends=True)

    def at(line: int, column: int) -> int:
        return starts[line - 1] + len(rows[line - 1].encode()[:column].decode())

    def span(node: ast.expr) -> tuple[int, int]:
        return at(node.lineno, node.col_offset), at(node.end_lineno or node.lineno, node.end_col_offset or 0)

    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Compare) and len(node.ops) == 1:
            left, right = span(node.left), span(node.comparators[0])
            yield Mutant(path, node.lineno, left[1], right[0], f" {COMPARED[type(node.ops[0])]} ")
        elif isinstance(node, ast.BinOp) and type(node.op) in COUNTED:
            left, right = span(node.left), span(node.right)
            if text[left[1] : right[0]].strip() in ("+", "-", "*", "/", "//", "%"):
                yield Mutant(path, node.lineno, left[1], right[0], f" {COUNTED[type(node.op)]} ")
        elif isinstance(node, ast.BoolOp):
            one, other = span(node.values[0]), span(node.values[1])
            between = text[one[1] : other[0]]
            if between.strip() in ("and", "or"):
                word = "or" if isinstance(node.op, ast.And) else "and"
                yield Mutant(path, node.lineno, one[1], other[0], f" {word} ")
        elif isinstance(node, ast.Constant) and type(node.value) in (int, float, bool):
            new = str(not node.value) if isinstance(node.value, bool) else f"({node.value!r} + 1)"
            yield Mutant(path, node.lineno, *span(node), new)
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            yield Mutant(path, node.lineno, span(node)[0], span(node.operand)[0], "")


# --- which tests ---


def imported(path: Path) -> set[str]:
    """The modules of the project that a file imports, anywhere in it."""
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.module:
            found |= {node.module, *(f"{node.module}.{alias.name}" for alias in node.names)}
        elif isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
    return {name for name in found if name.split(".")[0] in ("yellow_hinge", "tests", "tools")}


def _name(path: Path) -> str:
    return ".".join(path.relative_to(ROOT).with_suffix("").parts)


class Near:
    """Which tests import a module, and how near they are to it."""

    def __init__(self) -> None:
        paths = [path for folder in ("yellow_hinge", "tests", "tools") for path in (ROOT / folder).rglob("*.py")]
        self._imports = {_name(path): imported(path) for path in paths}
        far = ("ui", "kills", "fuzz")
        tests = [path for path in (ROOT / "tests").rglob("test_*.py") if path.relative_to(ROOT).parts[1] not in far]
        self._tests = {path: self._closure(_name(path)) for path in tests}

    def _closure(self, name: str) -> dict[str, int]:
        """Every module that a module imports, with over how many others."""
        found, row = {name: 0}, [name]
        while row:
            row = [
                new for old in row for new in self._imports.get(old, ()) if new in self._imports and new not in found
            ]
            found |= dict.fromkeys(row, max(found.values()) + 1)
        return found

    def of(self, path: Path) -> list[str]:
        """The test files that import a file, the nearest first."""
        module, folder = _name(path), path.relative_to(ROOT / "yellow_hinge").parent.parts
        able = [(test, closure[module]) for test, closure in self._tests.items() if module in closure]

        def near(each: tuple[Path, int]) -> tuple[int, bool, int, int]:
            test, far = each
            own = test.stem.removeprefix("test_")
            parts = test.relative_to(ROOT / "tests").parent.parts
            wide = WIDEST.index(test.stem) + 1 if test.stem in WIDEST else len(WIDEST) + 1
            rank = 0 if path.stem in own or own in path.stem else wide
            return rank, parts != folder[: len(parts)], far, len(test.name)

        return [str(test.relative_to(ROOT)) for test, _ in sorted(able, key=near)]


# --- running them ---


class _Watch:
    """Tells when the present test began, in processor time of its process."""

    def __init__(self, since: Synchronized[float]) -> None:
        self._since = since

    def pytest_runtest_logstart(self) -> None:
        self._since.value = worked(os.getpid())


def worked(process: int) -> float:
    """The processor time of a process and of its children that have ended, in seconds: a busy machine kills nothing."""
    fields = Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()
    return sum(map(int, fields[11:15])) / TICKS_A_SECOND


def died(tests: list[str], since: Synchronized[float]) -> bool:
    """Whether one of some tests fails, or never ends, in a process of its own."""
    import pytest

    since.value, begun = 0.0, time.monotonic()
    child = os.fork()
    if child == 0:
        sys.dont_write_bytecode = True
        quiet = os.open(os.devnull, os.O_WRONLY)
        os.dup2(quiet, 1)
        os.dup2(quiet, 2)
        code = pytest.main(["-x", "-q", "-p", "no:cacheprovider", "-p", "no:xdist", *tests], plugins=[_Watch(since)])
        os._exit(int(code))
    while True:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            return os.waitstatus_to_exitcode(status) not in (0, 5)
        used, waited = worked(child), time.monotonic() - begun
        if used > LONGEST_S or waited > IDLE_S:
            os.kill(child, 9)
            os.waitpid(child, 0)
            return used - since.value > HANGS_S or used < LONGEST_S / 4
        time.sleep(0.05)


def tried(mutant: Mutant, tree: Path, near: Near, since: Synchronized[float]) -> bool:
    """Put a mutant into a copy of the tree, run the tests, and take it out again; whether it died."""
    target, text = tree / mutant.path.relative_to(ROOT), mutant.path.read_text("utf-8")
    was = target.stat()
    target.write_text(text[: mutant.start] + mutant.new + text[mutant.end :], "utf-8")
    os.utime(target, ns=(was.st_atime_ns, was.st_mtime_ns + 10**10))  # what is compiled of it holds no more
    try:
        return died(near.of(mutant.path), since)
    finally:
        target.write_text(text, "utf-8")
        os.utime(target, ns=(was.st_atime_ns, was.st_mtime_ns))


def worker(number: int, sample: list[Mutant], folder: str, dead: Synchronized[int]) -> None:
    """Try some mutants in a copy of the tree."""
    tree = Path(folder) / str(number)
    for name in ("yellow_hinge", "tests", "docs", "tools"):
        shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__"))
    for name in ("pyproject.toml", "README.md", "NOTICE", "Makefile", "requirements.lock", "requirements-dev.lock"):
        shutil.copy(ROOT / name, tree / name)
    compileall.compile_dir(tree, quiet=2)
    os.chdir(tree)
    sys.path[:] = [str(tree), *(place for place in sys.path if Path(place or ".").resolve() != ROOT)]
    os.environ |= {"QT_QPA_PLATFORM": PLATFORM, "EXAMPLES": FEW, "PYTHONPATH": str(tree)}

    near, since = Near(), multiprocessing.Value("d", 0.0)
    if died(["tests/core/test_pitch_and_key.py", "tests/core/sheet"], since):
        raise SystemExit("the tests fail where nothing is changed")
    for done, mutant in enumerate(sample, 1):
        gone = tried(mutant, tree, near, since)
        with dead.get_lock():
            dead.value += gone
        if not gone:
            print(f"survives ({done} of {len(sample)} tried here): {mutant}", flush=True)


def run(count: int, seed: int, parts: list[str], workers: int) -> float:
    """Try a sample; the share of mutants that died."""
    paths = [path for folder in FOLDERS for path in sorted((ROOT / "yellow_hinge" / folder).rglob("*.py"))]
    paths = [path for path in paths if not parts or any(part in str(path) for part in parts)]
    every = [mutant for path in paths for mutant in mutants(path)]
    sample = random.Random(seed).sample(every, min(count, len(every)))
    dead = multiprocessing.Value("i", 0)
    with tempfile.TemporaryDirectory() as folder:
        jobs = [
            multiprocessing.Process(target=worker, args=(n, sample[n::workers], folder, dead)) for n in range(workers)
        ]
        for job in jobs:
            job.start()
        for job in jobs:
            job.join()
    print(f"{dead.value} of {len(sample)} died: {dead.value / max(1, len(sample)):.0%}, wanted {WANTED:.0%}")
    return float(dead.value / max(1, len(sample)))


if __name__ == "__main__":
    share = run(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1, sys.argv[3:], os.cpu_count() or 1)
    sys.exit(0 if share >= WANTED else 1)
