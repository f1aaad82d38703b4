"""What was read of the bars of charts, so that a key in a long chart reads one bar."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.song.song import Meter, Slot


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
