"""Reading in a process of its own: bounded in time and memory, cancelled at once, gone with its parent."""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

import msgspec

from yellow_hinge import CHILD
from yellow_hinge.core.chart.faults import ChartError, ChartFault
from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import NOTHING_ASKED, Opened
from yellow_hinge.io.songs.migrations import decode_hook

if TYPE_CHECKING:
    import subprocess

POLL = 0.05  # seconds between two looks at whether the player cancelled
PATIENCE = 8  # times a reader's own seconds that may pass by the clock: a busy machine is no fault of the file


class Limits(msgspec.Struct, frozen=True):
    """Seconds of the processor and bytes of address space that a reader may take."""

    seconds: float = 5.0
    memory: int = 500 * 1024**2


USUAL = Limits()
# A recording is heard bar by bar, which takes longer than reading; a larger file is none.
HEARING, RECORDING = Limits(30.0, 500 * 1024**2), 256 * 1024
TEXT = "text"  # a text whose kind the reading process finds out


class Outcome(msgspec.Struct, frozen=True):
    """What the reading process tells: a song, a fault of the file (a chart's with `places`), or a bug's traceback."""

    opened: Opened | None = None
    fault: str = ""
    places: tuple[ChartFault, ...] = ()
    bug: str = ""


class ReaderBugError(RuntimeError):
    """A reader failed with something else than a fault of the file; the message is its traceback."""


def _as_module() -> tuple[str, ...]:
    """How a module is started: a bundled program has no Python beside it, and starts itself."""
    return (CHILD,) if getattr(sys, "frozen", False) else ("-m",)


def run_apart(
    module: str, words: tuple[str, ...], data: bytes, name: str, limits: Limits, cancelled: Callable[[], bool]
) -> bytes:
    """What a module of this program tells, run as a process of its own with `data` to read, its own words and then its
    parent, memory and seconds: b"" where it died. Raises FileFault where it takes too long, and OvertakenError.
    """
    import subprocess  # our own songs are read without: a verb that voices one starts sooner
    import tempfile

    bounds = (str(os.getpid()), str(limits.memory), str(limits.seconds))
    with tempfile.TemporaryFile() as file:
        file.write(data)
        file.seek(0)
        # One thread for the numerics: each would reserve memory of its own.
        lean = os.environ | {"OPENBLAS_NUM_THREADS": "1", "PYTHONIOENCODING": "utf-8"}
        process = subprocess.Popen(
            [sys.executable, *_as_module(), module, *words, *bounds],
            stdin=file, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=lean,
        )  # fmt: skip
        try:
            return _wait(process, name, limits, cancelled)
        finally:
            process.kill()
            process.communicate()


def read_apart(
    kind: str,
    data: bytes,
    name: str,
    cancelled: Callable[[], bool] = lambda: False,
    asks: Mapping[str, str] = NOTHING_ASKED,
) -> Opened:
    """Read a song of a known kind in another process, as it is asked for. Raises FileFault, ChartError, OvertakenError,
    or ReaderBugError where the program is at fault.
    """
    asked = msgspec.json.encode(dict(asks)).decode()
    limits = HEARING if kind == "midi" and len(data) < RECORDING else USUAL
    out = run_apart("yellow_hinge.io.child", (kind, name, asked), data, name, limits, cancelled)
    return _told(out, name, limits)


def _wait(process: subprocess.Popen[bytes], name: str, limits: Limits, cancelled: Callable[[], bool]) -> bytes:
    from subprocess import TimeoutExpired

    started = time.monotonic()
    while True:
        try:
            return process.communicate(timeout=POLL)[0]
        except TimeoutExpired:
            if cancelled():
                raise OvertakenError from None
        if time.monotonic() - started > limits.seconds * PATIENCE:
            raise FileFault(name, f"takes longer than {limits.seconds * PATIENCE:.0f} seconds to read and was given up")


def _told(out: bytes, name: str, limits: Limits) -> Opened:
    """The song that the process told of. One that died without a word had too little time or memory."""
    if not out:
        most = f"{limits.seconds:.0f} seconds or {limits.memory // 1024**2} MB"
        raise FileFault(name, f"takes more than {most} to read and was given up")
    outcome = msgspec.json.decode(out, type=Outcome, dec_hook=decode_hook)
    if outcome.bug:
        raise ReaderBugError(outcome.bug)
    if outcome.places:
        raise ChartError(outcome.places, name)
    if outcome.opened is None:
        raise FileFault(name, outcome.fault)
    return outcome.opened
