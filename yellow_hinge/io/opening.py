"""Opening a song from wherever it is: a file of a known kind, chart text, or a shipped song."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.takes.take import apart_words
from yellow_hinge.io.apart import TEXT, read_apart
from yellow_hinge.io.files import MAX_BYTES, FileFault, read_bytes
from yellow_hinge.io.formats import BY_ID, Asks, as_utf_8, is_text, kind_of, read_draft, read_kind
from yellow_hinge.io.imported import NOTHING_ASKED, Opened
from yellow_hinge.io.songs.demo import demo_file
from yellow_hinge.io.songs.migrations import SongFile

DEMO = "demo:"
SMALL = 48 * 1024  # bytes that every reader of text gets through in a moment


def read_song(name: str) -> SongFile:
    """The file of a song as `read_named` reads it."""
    return read_named(name).file


def read_named(name: str) -> Opened:
    """Read a song named on the command line: a path, "-" for chart text on standard input, or "demo:NAME".

    Raises FileFault or ChartError. What could not be used is told on standard error.
    """
    if name.startswith(DEMO):
        return Opened(demo_file(name.removeprefix(DEMO))[0])
    opened = read_data(*_bytes_of(name))
    for line in (*opened.report, *filter(None, (apart_words(opened.file),))):
        print(f"{name}: {line}", file=sys.stderr)
    return opened


def _bytes_of(name: str) -> tuple[bytes, str]:
    if name != "-":
        return read_bytes(Path(name)), name
    if sys.stdin is None or sys.stdin.closed:
        raise FileFault("standard input", "is closed; name a file instead of -")
    data = sys.stdin.buffer.read(MAX_BYTES + 1)
    if len(data) > MAX_BYTES:
        raise FileFault("standard input", f"is larger than {MAX_BYTES // 1024 // 1024} MB; this is no song")
    return data, "standard input"


def read_data(
    data: bytes,
    name: str,
    cancelled: Callable[[], bool] = lambda: False,
    drafts: bool = False,
    wanted: str = "",
    asks: Asks = NOTHING_ASKED,
) -> Opened:
    """Read a song from bytes, by what they hold, or as the kind of text that is `wanted`. What is large, or of a kind
    whose library takes its time, is read in a process of its own, bounded in time and memory. `drafts`: a chart with
    mistakes opens too, with its text; `asks` as for `read_kind`. Raises FileFault, ChartError or OvertakenError.
    """
    data = as_utf_8(data, name)
    large = len(data) > SMALL
    kind = None if large and not wanted and is_text(data, name) else BY_ID[wanted] if wanted else kind_of(data, name)
    try:
        if kind is None or kind.apart or large:
            return read_apart(kind.id if kind else TEXT, data, name, cancelled, asks)
        return read_kind(kind, data, name, asks)
    except ChartError:
        if not drafts:
            raise
        return read_draft(data, name, wanted)
