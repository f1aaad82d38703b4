"""Opening a song from wherever it is: a file of a known kind, chart text, or a shipped song."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.following import numbered
from yellow_hinge.io.chordpro import looks_like_chordpro, read_chordpro
from yellow_hinge.io.demo import demo_song
from yellow_hinge.io.files import MAX_BYTES, FileFault, decode, read_bytes
from yellow_hinge.io.imported import Imported
from yellow_hinge.io.song_json import SongFile, from_json

DEMO = "demo:"
# Kinds that are recognised and not opened, so that the message can say what they are.
_FOREIGN = {
    b"%PDF": "a PDF",
    b"\x89PNG": "a picture",
    b"RIFF": "a sound file",
    b"OggS": "a sound file",
    b"ID3": "a sound file",
}


class Opened(NamedTuple):
    """A song from a file: `text` is the chart as it was written, or ""; `report` what could not be used; `own`
    whether it is the program's own kind of file, which Save may write to.
    """

    file: SongFile
    text: str = ""
    report: tuple[str, ...] = ()
    own: bool = False


def read_song(name: str) -> SongFile:
    """Read a song named on the command line: a path, "-" for chart text on standard input, or "demo:NAME".

    Raises FileFault or ChartError. What could not be used is told on standard error.
    """
    if name.startswith(DEMO):
        return SongFile(demo_song(name.removeprefix(DEMO)))
    data = sys.stdin.buffer.read(MAX_BYTES) if name == "-" else read_bytes(Path(name))
    opened = read_data(data, "standard input" if name == "-" else name)
    for line in opened.report:
        print(f"{name}: {line}", file=sys.stderr)
    return opened.file


def read_data(data: bytes, name: str, cancelled: Callable[[], bool] = lambda: False) -> Opened:
    """Read a song from bytes, by what they hold. Raises FileFault, ChartError or OvertakenError."""
    for mark, kind in _FOREIGN.items():
        if data.startswith(mark):
            raise FileFault(name, f"is {kind}, which cannot be opened")
    if not data.strip():
        raise FileFault(name, "is empty")
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        data = decode(data, name).encode()
    if data.startswith(b"MThd"):
        from yellow_hinge.io.midi_in import read_midi  # its library is slow to load, so not at start

        return _imported(read_midi(data, name))
    if (
        data.startswith(b"PK\x03\x04")
        or b"<score-" in data[:20_000]
        or data.lstrip(b"\xef\xbb\xbf \r\n\t")[:5] == b"<?xml"
    ):
        from yellow_hinge.io.importing import import_musicxml  # seldom needed, so not at start

        return _imported(import_musicxml(data, name, cancelled))
    if data.lstrip()[:1] == b"{" and (name.endswith(".json") or b'"format"' in data[:4000] or b'"song"' in data[:4000]):
        return Opened(from_json(data, name), own=True)
    text = decode(data, name).replace("\r\n", "\n")
    if looks_like_chordpro(text):
        return _imported(read_chordpro(text, name))
    return Opened(SongFile(parse_chart(text, name)), text)


def _imported(found: Imported) -> Opened:
    return Opened(SongFile(numbered(found.song)), "", found.report)
