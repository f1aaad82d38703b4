"""Opening a song from wherever it is: a file of a known kind, chart text, or a shipped song."""

from __future__ import annotations

import sys
from pathlib import Path

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.io.demo import demo_song
from yellow_hinge.io.files import MAX_BYTES, FileFault, decode, read_bytes
from yellow_hinge.io.song_json import SongFile, from_json

DEMO = "demo:"
# Kinds that are recognised, so that the message can say what they are.
_NOT_YET = {b"MThd": "a MIDI file", b"PK\x03\x04": "a compressed file", b"%PDF": "a PDF", b"<?xml": "an XML file"}


def read_song(name: str) -> SongFile:
    """Read a song named on the command line: a path, "-" for chart text on standard input, or "demo:NAME".

    Raises FileFault or ChartError.
    """
    if name.startswith(DEMO):
        return SongFile(demo_song(name.removeprefix(DEMO)))
    if name == "-":
        return read_data(sys.stdin.buffer.read(MAX_BYTES), "standard input")
    return read_data(read_bytes(Path(name)), name)


def read_data(data: bytes, name: str) -> SongFile:
    """Read a song from bytes, by what they hold. Raises FileFault or ChartError."""
    for mark, kind in _NOT_YET.items():
        if data.startswith(mark):
            raise FileFault(name, f"is {kind}, which cannot be opened; open chart text or a saved song")
    if not data.strip():
        raise FileFault(name, "is empty")
    if data.lstrip()[:1] == b"{" and (name.endswith(".json") or b'"format"' in data[:4000] or b'"song"' in data[:4000]):
        return from_json(data, name)
    return SongFile(parse_chart(decode(data, name), name))
