"""What every function of the project answers over a walk through the program, kept as text: a line a function, with how
often it was asked, a sum of its answers and, of many, a sum of what they answer a little beside what they were asked. After a change the difference names the functions that answer otherwise.

Asked in a process of its own, so that nothing is remembered from before.
"""

from __future__ import annotations

import enum
import os
import re
import subprocess
import sys
import tempfile
from collections.abc import Callable, Mapping, Set
from fractions import Fraction
from operator import itemgetter
from pathlib import Path
from types import CodeType, FrameType
from typing import Any
from zlib import crc32

import msgspec
import numpy as np

from tests.cli.beside import Beside

PROJECT, KEPT = Path(__file__).parents[2] / "yellow_hinge", Path(__file__).with_name("answers.txt")
WALKED, MOST, RARER = ("core", "io", "app"), 12, 6
VERSION = f"python {sys.version_info.major}.{sys.version_info.minor}"  # others look into more, or fewer, functions
PASSES = "seconds"  # a field that says how long something took
# Folders of one run, and letters cut for one page, which carry the hour.
_PASSING = re.compile(re.escape(tempfile.gettempdir()) + r"/\w+|(?s:<style>.*</style>)")
# What has no name, is no function in later versions of the language, or is asked as often as there is time.
_LEFT = re.compile(r"<(list|set|dict)comp>|<genexpr>|<lambda>|<module>|\.heard$")


def _named(code: Any) -> str:
    """The name of a function that is listened to, "" for others."""
    path = Path(code.co_filename)
    if PROJECT not in path.parents or _LEFT.search(code.co_qualname):
        return ""
    if path.relative_to(PROJECT).parts[0] not in WALKED:
        return ""
    return f"{path.relative_to(PROJECT).with_suffix('')}:{code.co_qualname}".replace("<locals>.", "")


class Listener:
    """Hears what functions answer, the first MOST times that each is asked and then ever more rarely; the same object is
    told once, but a table each time.
    """

    def __init__(self) -> None:
        self.counts: dict[Any, int] = {}  # by what is run
        self.sums: dict[Any, int] = {}
        self._due: dict[Any, int] = {}  # when a function is listened to again
        self._told: dict[int, tuple[Any, bytes]] = {}
        self._beside = Beside()

    def __call__(self, frame: FrameType, event: str, _: object) -> Callable[..., Any] | None:
        code = frame.f_code
        count = self.counts.get(code)
        if count is None:
            count, self.sums[code], self._due[code] = 0, 0, 0 if _named(code) else sys.maxsize
        self.counts[code] = count + 1
        if count < self._due[code]:
            return None
        self._due[code] = count + 1 + (count // RARER if count >= MOST else 0)
        frame.f_trace_lines = False
        self._beside.remember(frame, count)
        return self._answered

    def _answered(self, frame: FrameType, event: str, answer: object) -> None:
        if event == "return":
            code = frame.f_code
            self.sums[code] = crc32(self.tell(answer), self.sums[code])

    def rows(self) -> list[str]:
        """A row a function: its name, how often it was asked, and a sum of the answers that were heard."""
        named = sorted(((name, code) for code in self.sums if (name := _named(code))), key=itemgetter(0))
        return [
            f"{name} {self.counts[code]} {self.sums[code]:08x}{self._asked_beside(name, code)}" for name, code in named
        ]

    def _asked_beside(self, name: str, code: CodeType) -> str:
        """A sum of what a function answers beside what it was asked, where it can be asked."""
        total = 0
        for answer in self._beside.answers(code, f"yellow_hinge.{name.partition(':')[0].replace('/', '.')}"):
            total = crc32(self.tell(answer), total)
        return f" {total:08x}" if total else ""

    def tell(self, answer: Any) -> bytes:
        """An answer as bytes that do not depend on where it lies, nor on the last figures of a float."""
        if answer is None or isinstance(answer, bool | int):
            return repr(answer).encode()
        if isinstance(answer, str):
            return _PASSING.sub("", answer).encode()
        if isinstance(answer, bytes):
            return _PASSING.sub("", answer.decode("latin-1")).encode()
        if isinstance(answer, float):
            return f"{answer:.6g}".encode()
        if isinstance(answer, np.ndarray):  # may be another one since it was told
            return b"%08x" % crc32(b" ".join(self._parts(answer)))
        known = self._told.get(id(answer))
        if known is None or known[0] is not answer:
            known = self._told[id(answer)] = answer, b"%08x" % crc32(b" ".join(self._parts(answer)))
        return known[1]

    def _parts(self, answer: Any) -> list[bytes]:
        kind = type(answer).__name__.encode()
        if isinstance(answer, np.ndarray):
            figures = answer.astype(np.float32) if answer.dtype.kind == "f" else answer
            return [kind, repr(answer.shape).encode(), figures.tobytes()]
        if isinstance(answer, msgspec.Struct):
            return [kind, *(self.tell(getattr(answer, name)) for name in answer.__struct_fields__ if name != PASSES)]
        if isinstance(answer, Mapping):
            rows = (self.tell(key) + b":" + self.tell(value) for key, value in answer.items() if key != PASSES)
            return [kind, *sorted(rows)]
        if isinstance(answer, Set):
            return [kind, *sorted(map(self.tell, answer))]
        if isinstance(answer, tuple) and hasattr(answer, "_fields"):
            return [kind, *(self.tell(getattr(answer, name)) for name in answer._fields if name != PASSES)]
        if isinstance(answer, tuple | list):
            return [kind, *map(self.tell, answer)]
        if isinstance(answer, Fraction | enum.Enum | np.generic):
            return [kind, repr(answer).encode()]
        return [kind]


def heard(walk: Callable[[], object]) -> str:
    """What every function answers over a walk, a line each."""
    listener = Listener()
    sys.settrace(listener)
    try:
        walk()
    finally:
        sys.settrace(None)
    return "".join(f"{row}\n" for row in (VERSION, *listener.rows()))


def answers() -> str:
    """The answers over the walk of __main__, in a process of its own."""
    run, seed = [sys.executable, "-m", "tests.cli.answers"], os.environ | {"PYTHONHASHSEED": "0"}
    return subprocess.run(run, capture_output=True, text=True, check=True, env=seed).stdout


# Of the runs of `said`; together they go through most of core, io and app. What they say is compared on the way.
RUNS = """
asked-explained asked-keeps asked-protected asked-sheet asked-solo-tune asked-strange asked-walking chordpro-bell
chords desk-bell fills-alone heard-waltz list-below list-names made-up-5 own-data practice-kettle read-charts
read-chordpro sheet-staves stage-boat swaps-kettle takes-tide timed-lantern
""".split()


def walked() -> str:
    """The answers over the walk, and which of its texts are not what is kept."""
    others = list[str]()

    def walk() -> None:
        from tests.cli.said import FOLDER, runs, said

        table = dict(runs())
        for name in RUNS:
            if said(table[name]) != (FOLDER / f"{name}.txt").read_text("utf-8"):
                others.append(name)

    return heard(walk) + "".join(f"says something else: {name}\n" for name in others)


if __name__ == "__main__":
    sys.stdout.write(walked())
