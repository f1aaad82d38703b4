"""`make mutants`: changes lines of core, io and app one at a time and sees whether a test notices.

python -m tools.mutants COUNT [SEED] [PART ...]: a random sample of COUNT mutants, of files whose path holds a PART.
Each runs in a copy of the tree; first the tests of the file's own name, then those of its folder, then all but the
window's. The ones that survive are printed, and the share that died.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NamedTuple

ROOT = Path(__file__).parents[1]
FOLDERS = ("core", "io", "app")
WANTED = 0.85
LONGEST_S = 420
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
            new = str(not node.value) if isinstance(node.value, bool) else str(node.value + 1)
            yield Mutant(path, node.lineno, *span(node), new)
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            yield Mutant(path, node.lineno, span(node)[0], span(node.operand)[0], "")


def tests_of(path: Path) -> list[list[str]]:
    """The tests to run for a file, the nearest first."""
    inside = path.relative_to(ROOT / "yellow_hinge")
    folder = Path("tests") / inside.parent
    own = folder / f"test_{inside.stem}.py"
    rounds = [[str(own)]] if (ROOT / own).exists() else []
    rounds += [[str(folder)]] if (ROOT / folder).is_dir() else []
    return [*rounds, ["tests", "--ignore=tests/ui", "--ignore=tests/kills", "--ignore=tests/fuzz"]]


def died(mutant: Mutant, tree: Path) -> bool:
    """Whether a test notices a mutant that stands in a copy of the tree."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONDONTWRITEBYTECODE": "1"}
    for tests in tests_of(mutant.path):
        call = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests]
        try:
            if subprocess.run(call, cwd=tree, env=env, capture_output=True, timeout=LONGEST_S).returncode in (1, 2):
                return True
        except subprocess.TimeoutExpired:
            return True
    return False


def tried(mutant: Mutant, tree: Path) -> bool:
    """Put a mutant into a copy of the tree, run the tests, and take it out again."""
    target = tree / mutant.path.relative_to(ROOT)
    text = mutant.path.read_text("utf-8")
    target.write_text(text[: mutant.start] + mutant.new + text[mutant.end :], "utf-8")
    try:
        return died(mutant, tree)
    finally:
        target.write_text(text, "utf-8")


def run(count: int, seed: int, parts: list[str], workers: int) -> float:
    """Try a sample; the share of mutants that died."""
    paths = [path for folder in FOLDERS for path in sorted((ROOT / "yellow_hinge" / folder).rglob("*.py"))]
    paths = [path for path in paths if not parts or any(part in str(path) for part in parts)]
    every = [mutant for path in paths for mutant in mutants(path)]
    sample = random.Random(seed).sample(every, min(count, len(every)))
    with tempfile.TemporaryDirectory() as folder:
        trees = [Path(folder) / str(n) for n in range(workers)]
        for tree in trees:
            for name in ("yellow_hinge", "tests", "docs", "tools"):
                shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__"))
            for name in ("pyproject.toml", "README.md", "NOTICE", "Makefile"):
                shutil.copy(ROOT / name, tree / name)
        dead = 0
        with ThreadPoolExecutor(workers) as pool:
            jobs = [
                pool.submit(lambda n=n: [(m, tried(m, trees[n])) for m in sample[n::workers]]) for n in range(workers)
            ]
            for job in jobs:
                for mutant, gone in job.result():
                    dead += gone
                    if not gone:
                        print(f"survives: {mutant}", flush=True)
    print(f"{dead} of {len(sample)} died: {dead / max(1, len(sample)):.0%}, wanted {WANTED:.0%}")
    return dead / max(1, len(sample))


if __name__ == "__main__":
    share = run(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1, sys.argv[3:], os.cpu_count() or 1)
    sys.exit(0 if share >= WANTED else 1)
