"""What stands in the bars of charts: how their words are told apart, and what was read of them, so that a key in a long
chart reads one bar.
"""

from __future__ import annotations

import re
from typing import NamedTuple

from yellow_hinge.core.song.song import Meter, Slot

NO_CHORD_WORDS = ("N.C.", "NC", "N.C", "n.c.", "nc", "(N.C.)", "(NC)", "(n.c.)")
CHORD_TOKEN = re.compile(
    r"[^\s/|]\S*\s+over\s+[^\s/|]\S*|[A-G][#b♯♭]?\s+(?:maj|min|dim|aug|sus|add)[^\s|]*|"
    r"[^\s/|()]+\([^()|]*\)[^\s|]*|\S+"
)
APART = re.compile(r"^([A-G][#b♯♭]?)\s+(?=maj|min|dim|aug|sus|add)")  # "C maj7" is one chord


class BarRead(NamedTuple):
    """A bar as it is written: its own meter, its chords, where they stand (columns from the bar's begin, lengths), and
    whether it is the one before once more.
    """

    meter: Meter | None
    slots: tuple[Slot, ...]
    spans: tuple[tuple[int, int], ...]
    again: bool = False


KNOWN: dict[tuple[object, ...], BarRead] = {}  # bars without faults by their text and what it is read in
MOST_KNOWN = 1 << 14


def remember(asked: tuple[object, ...], known: BarRead) -> None:
    """Keep what was read of a bar without faults."""
    if len(KNOWN) >= MOST_KNOWN:
        KNOWN.clear()
    KNOWN[asked] = known
