"""MIDI files as they were played: notes and pedals in seconds. For performances, whose bars mean nothing."""

from __future__ import annotations

import itertools
from typing import NamedTuple

from yellow_hinge.core.hearing.strikes import Tone
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.midi.tracks import Contents, contents, opened

_LONGEST = 360.0  # seconds of a recording that is opened by hearing
_QUARTER = 500_000  # microseconds, where a file says no tempo


class Performance(NamedTuple):
    """What was played: the notes by when they were struck, when the pedal was down (seconds), and the file's title."""

    tones: list[Tone]
    pedals: tuple[tuple[float, float], ...]
    title: str


def read_performance(data: bytes, name: str) -> Performance:
    """The notes of a file. Raises FileFault for a file that is damaged, or that is a score with bars of its own."""
    if not data.startswith(b"MThd"):
        raise FileFault(name, "is no MIDI file; a performance is heard from one")
    found = contents(opened(data, name), name)
    if found.exact and sum(len(line.notes) for line in found.lines) > _FEWEST:
        raise FileFault(name, "is a MIDI score with bars of its own; open it as a song instead")
    seconds = _Seconds(found)
    tones = sorted(
        Tone(seconds.at(note.start), seconds.at(note.end), note.midi, note.velocity)
        for line in found.lines
        for note in line.notes
    )
    pedals = tuple((seconds.at(down), seconds.at(up)) for down, up in found.pedals)
    return Performance(tones, pedals, found.title)


def is_performance(data: bytes, name: str) -> bool:
    """Whether a file is a recording whose bars mean nothing: nothing on its grid, no meter, and the tempo that stands
    where nobody set one. Raises FileFault.
    """
    found = contents(opened(data, name), name)
    tempi = {said.number for said in found.tempi}
    enough = sum(len(line.notes) for line in found.lines) > _FEWEST
    last = max(note.end for line in found.lines for note in line.notes)
    return enough and last * _QUARTER / 1e6 <= _LONGEST and not found.exact and not found.meters and tempi <= {_QUARTER}


_FEWEST = 3  # notes up to which a file may lie on a grid by chance


class _Seconds:
    """When something comes, by the tempo map of a file."""

    def __init__(self, found: Contents) -> None:
        marks = [(said.at, max(1, said.number)) for said in found.tempi]
        if not marks or marks[0][0] > 0:
            marks.insert(0, (0.0, _QUARTER))
        self._marks = marks
        self._starts = [0.0]
        for (at, tempo), (after, _) in itertools.pairwise(marks):
            self._starts.append(self._starts[-1] + (after - at) * tempo / 1e6)

    def at(self, quarter: float) -> float:
        """Seconds from the beginning of the file."""
        place = next(n for n in range(len(self._marks) - 1, -1, -1) if self._marks[n][0] <= quarter or n == 0)
        at, tempo = self._marks[place]
        return self._starts[place] + (quarter - at) * tempo / 1e6
