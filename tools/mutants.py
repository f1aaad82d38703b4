"""`make mutants`: changes lines of core, io and app one at a time and sees whether a test notices.

python -m tools.mutants COUNT [SEED] [PART ...]: a random sample of COUNT mutants, of files whose path holds a PART.
All of them stand in one copy of the tree, each asleep beside what it would change. The tests run once with all asleep,
which tells what runs what; then, for one mutant after the other, a process that has everything loaded is forked, wakes
it and runs the tests that run it, the quickest first, for so many seconds of processor time. One that is run as its file
is loaded gets a process of its own and the tests that are near its file. The ones that survive are printed, and the
share that died.
"""

from __future__ import annotations

import ast
import compileall
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from tools.mutating import FAR, Outcome, outcomes
from tools.offscreen import PLATFORM

ROOT = Path(__file__).parents[1]
FOLDERS = ("core", "io", "app")
WANTED = 0.85
# What stands there, and what instead.
COMPARED = {
    ast.Lt: ("<", "<="), ast.LtE: ("<=", "<"), ast.Gt: (">", ">="), ast.GtE: (">=", ">"), ast.Eq: ("==", "!="),
    ast.NotEq: ("!=", "=="), ast.In: ("in", "not in"), ast.NotIn: ("not in", "in"), ast.Is: ("is", "is not"),
    ast.IsNot: ("is not", "is"),
}  # fmt: skip
COUNTED = {
    ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "+"), ast.FloorDiv: ("//", "*"), ast.Mod: ("%", "*"),
    ast.Div: ("/", "*"),
}  # fmt: skip
SWITCH = '''"""Which mutant is awake, and which ones were asked for."""

import os

AWAKE = [int(os.environ.get("MUTANT", "-1"))]
ASKED = set()


def woken(number):
    ASKED.add(number)
    return number == AWAKE[0]
'''


class Mutant(NamedTuple):
    """An expression of a file (offsets in characters), and what of it is changed: `start` to `end` become `new`."""

    path: Path
    line: int
    first: int
    last: int
    start: int
    end: int
    new: str

    def of(self, text: str) -> str:
        """The expression as it becomes."""
        return text[self.first : self.start] + self.new + text[self.end : self.last]

    def __str__(self) -> str:
        text = self.path.read_text("utf-8")
        was, now = (" ".join(each.split()) for each in (text[self.first : self.last], self.of(text)))
        return f"{self.path.relative_to(ROOT)}:{self.line}: {was[:70]} -> {now[:70]}"


def _expressions(tree: ast.AST) -> Iterator[ast.AST]:
    """Every node that is worked out as the program runs: no annotations, patterns, nor what stands in a string; and not
    how large a cache is, how a class is made or that rows are as long as each other, which no test can see.
    """
    left_out = ("annotation", "returns", "decorator_list")
    todo = [tree]
    while todo:
        node = todo.pop()
        yield node
        for name, value in ast.iter_fields(node):
            if name not in left_out and not (isinstance(node, ast.ClassDef) and name == "keywords"):
                below = value if isinstance(value, list) else [value]
                wrong = (ast.JoinedStr, ast.pattern)
                seen = [each for each in below if isinstance(each, ast.AST) and not isinstance(each, wrong)]
                todo += [each for each in seen if not (isinstance(each, ast.keyword) and each.arg == "strict")]


def mutants(path: Path) -> Iterator[Mutant]:
    """Every mutant of a file."""
    text = path.read_text("utf-8")
    rows = text.splitlines(keepends=True)
    starts = [0]
    for row in rows:
        starts.append(starts[-1] + len(row))

    def at(line: int, column: int) -> int:
        return starts[line - 1] + len(rows[line - 1].encode()[:column].decode())

    def span(node: ast.expr) -> tuple[int, int]:
        return at(node.lineno, node.col_offset), at(node.end_lineno or node.lineno, node.end_col_offset or 0)

    def swapped(node: ast.expr, one: ast.expr, other: ast.expr, was: str, new: str) -> Iterator[Mutant]:
        """With the sign between two parts exchanged."""
        begins, ends = span(one)[1], span(other)[0]
        found = re.search(rf"(?<![\w<>=!/*]){re.escape(was)}(?![\w<>=!/*])", text[begins:ends])
        if found:
            yield Mutant(path, node.lineno, *span(node), begins + found.start(), begins + found.end(), new)

    for node in _expressions(ast.parse(text)):
        if isinstance(node, ast.Compare) and len(node.ops) == 1:
            yield from swapped(node, node.left, node.comparators[0], *COMPARED[type(node.ops[0])])
        elif isinstance(node, ast.BinOp) and type(node.op) in COUNTED:
            yield from swapped(node, node.left, node.right, *COUNTED[type(node.op)])
        elif isinstance(node, ast.BoolOp):
            both = isinstance(node.op, ast.And)
            yield from swapped(node, *node.values[:2], *(("and", "or") if both else ("or", "and")))
        elif isinstance(node, ast.Constant) and type(node.value) in (int, float, bool):
            new = str(not node.value) if isinstance(node.value, bool) else f"({node.value!r} + 1)"
            yield Mutant(path, node.lineno, *span(node), *span(node), new)
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            first = span(node)[0]
            yield Mutant(path, node.lineno, *span(node), first, first + len("not"), "")


def _first(module: ast.Module) -> int:
    """The line of the first statement after the module's words and what has to stand first."""
    for node in module.body:
        words = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        if not words and not (isinstance(node, ast.ImportFrom) and node.module == "__future__"):
            return min([node.lineno, *(each.lineno for each in getattr(node, "decorator_list", ()))])
    return 1


def asleep(path: Path, numbered: list[tuple[int, Mutant]]) -> str:
    """A file with its mutants beside what they would change. One inside another is left out."""
    text = path.read_text("utf-8")
    end = len(text) + 1
    for number, mutant in sorted(numbered, key=lambda each: -each[1].first):
        if mutant.last <= end:
            was = text[mutant.first : mutant.last]
            both = f"(({mutant.of(text)}) if _woken({number}) else ({was}))"
            text, end = text[: mutant.first] + both + text[mutant.last :], mutant.first
    rows = text.splitlines(keepends=True)
    begins = sum(map(len, rows[: _first(ast.parse(text)) - 1]))
    return f"{text[:begins]}from yellow_hinge._switch import woken as _woken\n{text[begins:]}"


def copied(tree: Path, sample: list[Mutant]) -> None:
    """The tree with all mutants in it, asleep."""
    for name in ("yellow_hinge", "tests", "docs", "tools"):
        shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__"))
    for name in ("pyproject.toml", "README.md", "NOTICE", "Makefile", "requirements.lock", "requirements-dev.lock"):
        shutil.copy(ROOT / name, tree / name)
    for path in {mutant.path for mutant in sample}:
        numbered = [(number, mutant) for number, mutant in enumerate(sample) if mutant.path == path]
        (tree / path.relative_to(ROOT)).write_text(asleep(path, numbered), "utf-8")
    (tree / "yellow_hinge" / "_switch.py").write_text(SWITCH, "utf-8")
    compileall.compile_dir(tree, quiet=2)


# --- which tests are near a file ---


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
        self._tests = {path: self._closure(_name(path)) for path in (ROOT / test for test in all_tests())}

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
        """The test files that import a file, the nearest first; the one that goes through everything soon after."""
        module, folder = _name(path), path.relative_to(ROOT / "yellow_hinge").parent.parts
        able = [(test, closure[module]) for test, closure in self._tests.items() if module in closure]

        def near(each: tuple[Path, int]) -> tuple[int, bool, int, int]:
            test, far = each
            own = test.stem.removeprefix("test_")
            parts = test.relative_to(ROOT / "tests").parent.parts
            rank = 0 if path.stem in own or own in path.stem else 1 if test.stem == "test_every_answer" else 2
            return rank + 2 * (parts[0] == "ui"), parts != folder[: len(parts)], far, len(test.name)

        return [str(test.relative_to(ROOT)) for test, _ in sorted(able, key=near)]


def all_tests() -> list[str]:
    """The test files that run in one process, from ROOT on."""
    paths = sorted(path.relative_to(ROOT) for path in (ROOT / "tests").rglob("test_*.py"))
    return [str(path) for path in paths if not any(str(path).startswith(f"tests/{far}") for far in FAR)]


def run(count: int, seed: int, parts: list[str], workers: int) -> float:
    """Try a sample; the share of mutants that died."""
    paths = [path for folder in FOLDERS for path in sorted((ROOT / "yellow_hinge" / folder).rglob("*.py"))]
    paths = [path for path in paths if not parts or any(part in str(path) for part in parts)]
    every = [mutant for path in paths for mutant in mutants(path)]
    sample = random.Random(seed).sample(every, min(count, len(every)))
    near = Near()
    with tempfile.TemporaryDirectory() as folder:
        tree = Path(folder) / "tree"
        copied(tree, sample)
        os.environ |= {"QT_QPA_PLATFORM": PLATFORM, "PYTHONPATH": str(tree)}
        subprocess.run([sys.executable, "-c", "import yellow_hinge._switch"], cwd=tree, check=True)
        dead = 0
        for number, outcome in outcomes(tree, [near.of(mutant.path) for mutant in sample], all_tests(), workers):
            dead += outcome != Outcome.LIVES
            if outcome == Outcome.LIVES:
                print(f"survives ({number}): {sample[number]}", flush=True)
    print(f"{dead} of {len(sample)} died: {dead / max(1, len(sample)):.0%}, wanted {WANTED:.0%}")
    return dead / max(1, len(sample))


if __name__ == "__main__":
    share = run(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1, sys.argv[3:], os.cpu_count() or 1)
    sys.exit(0 if share >= WANTED else 1)
