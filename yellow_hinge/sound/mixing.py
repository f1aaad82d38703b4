"""Mixing timed notes into one stretch of stereo audio."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

import numpy as np

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.song import Song
from yellow_hinge.sound.piano import RATE, Piano, Samples

RELEASE = 0.18  # seconds a note takes to fade when let go
_GAIN = {"left": 0.34, "right": 0.34, "tune": 0.42, "click": 0.5}
HANDS = {"both": ("left", "right"), "left": ("left",), "right": ("right",)}


class Sounding(NamedTuple):
    """A note in time: seconds from the start, seconds held, MIDI number, and the part it belongs to."""

    start: float
    length: float
    midi: int
    part: str


def beat_seconds(song: Song) -> float:
    """Seconds a felt beat lasts."""
    return 60.0 / song.tempo


def score(solution: Solution, song: Song, first: int, last: int, parts: Iterable[str]) -> list[Sounding]:
    """The notes of voicings `first` to `last` (included), starting at 0 s. A note that both chords share is struck
    again, since that is what the ear checks; `parts` out of "left", "right", "tune".
    """
    beat, wanted = beat_seconds(song), set(parts)
    if not solution.voicings:
        return []
    begin = solution.moments[solution.voicings[first].moment].start
    found = []
    for index, voicing in enumerate(solution.voicings[first : last + 1]):
        moment = solution.moments[voicing.moment]
        at, length = float(moment.start - begin) * beat, float(moment.beats) * beat
        for part, notes in (("left", voicing.left), ("right", voicing.right)):
            found += [Sounding(at, length, note, part) for note in notes if part in wanted]
        if "tune" in wanted:
            found += [
                Sounding(
                    at + float(tone.onset) * beat,
                    float(tone.whole if tone.begins else tone.beats) * beat,
                    tone.pitch.midi,
                    "tune",
                )
                for tone in moment.tune
                if tone.begins or index == 0  # a note already sounding is heard from here
            ]
    return found


def mix(notes: Iterable[Sounding], piano: Piano, stop: Callable[[], bool] = lambda: False) -> Samples:
    """The notes as float32 stereo (n, 2) at RATE within -1..1. `stop` is asked before every note; when it says yes the
    rest is left out.
    """
    notes = list(notes)
    seconds = max((note.start + note.length for note in notes), default=0.0) + RELEASE
    out = np.zeros((int(seconds * RATE) + 1, 2), np.float32)
    for note in notes:
        if stop():
            break
        _add(out, note, piano)
    peak = float(np.abs(out).max(initial=0.0))
    if peak > 0.98:
        out *= 0.98 / peak
    return out


def _add(out: Samples, note: Sounding, piano: Piano) -> None:
    begin = int(note.start * RATE)
    held, fade = int(note.length * RATE), int(RELEASE * RATE)
    sample = piano.note(note.midi)[: held + fade]
    sample = sample[: len(out) - begin]
    if not len(sample):
        return
    shape = np.full(len(sample), _GAIN[note.part], np.float32)
    if len(sample) > held:
        tail = len(sample) - held
        shape[held:] *= np.linspace(1.0, 0.0, fade, dtype=np.float32)[:tail]
    out[begin : begin + len(sample)] += sample * shape[:, None]


def pcm16(samples: Samples) -> bytes:
    """Stereo float samples as interleaved signed 16-bit little-endian."""
    return (samples * 32767.0).clip(-32768, 32767).astype("<i2").tobytes()
