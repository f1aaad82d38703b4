"""The devices of lines, read from devices.toml: which stretch of a line does what has a name."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

import msgspec

from yellow_hinge.core.tables import read_table

OUTSIDE = "outside and back"


class Device(msgspec.Struct, frozen=True):
    """A device: its name, when it is played, and what it does (see the head of devices.toml)."""

    name: str
    words: str
    into: tuple[tuple[int, ...], ...] = ()
    figures: tuple[str, ...] = ()


class _File(msgspec.Struct, frozen=True):
    device: tuple[Device, ...]


@lru_cache(maxsize=1)
def devices() -> tuple[Device, ...]:
    """Every device, in the order in which they are looked for."""
    return read_table(__file__, _File).device


class Told(NamedTuple):
    """What is known of a note: its MIDI number, the index of its chord, its degree there, whether it is landed on, and
    whether it is of its chord or of a scale that fits.
    """

    midi: int
    at: int
    degree: str
    lands: bool
    inside: bool


def named(notes: Sequence[Told]) -> dict[int, str]:
    """The device that notes of a line belong to, by their number, without landings; of several the table's first."""
    found: dict[int, str] = {}
    for device in devices():
        for stretch in (*_into(device, notes), *_figured(device, notes)):
            if not any(n in found for n in stretch):
                found |= dict.fromkeys(stretch, device.name)
    for one, other in pairwise(range(len(notes))):
        if not (notes[one].inside or notes[other].inside):
            found |= {one: OUTSIDE, other: OUTSIDE}
    return {n: name for n, name in found.items() if not notes[n].lands}


def _into(device: Device, notes: Sequence[Told]) -> list[range]:
    """The stretches that come to a landing as a device does."""
    found = []
    for n, note in enumerate(notes):
        for way in device.into if note.lands else ():
            before = notes[max(0, n - len(way)) : n]
            if len(before) == len(way) and all(b.midi - note.midi == by for b, by in zip(before, way, strict=True)):
                found.append(range(n - len(way), n))
    return found


def _figured(device: Device, notes: Sequence[Told]) -> list[range]:
    """The stretches over one chord that are a figure of a device."""
    found = []
    for figure in device.figures:
        degrees = figure.split()
        for n in range(len(notes) - len(degrees) + 1):
            stretch = notes[n : n + len(degrees)]
            if [note.degree for note in stretch] == degrees and len({note.at for note in stretch}) == 1:
                found.append(range(n, n + len(degrees)))
    return found
