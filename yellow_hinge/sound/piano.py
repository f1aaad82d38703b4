"""The sampled piano: 30 recorded notes, every other one a resampled neighbour."""

from __future__ import annotations

import threading

import numpy as np
from numpy.typing import NDArray

from yellow_hinge.assets import ASSETS

Samples = NDArray[np.float32]
RATE = 44_100
# Every third semitone is recorded, from A0 (21) to C8 (108); file names write a sharp as "s".
RECORDED = tuple(range(21, 109, 3))
_NAMES = ("C", "Cs", "D", "Ds", "E", "F", "Fs", "G", "Gs", "A", "As", "B")
LONGEST = 6.0  # seconds kept of a note


def _file_name(midi: int) -> str:
    return f"{_NAMES[midi % 12]}{midi // 12 - 1}.ogg"


def resampled(samples: Samples, factor: float) -> Samples:
    """Samples (n, 2) played `factor` times as fast, by straight-line interpolation."""
    count = int((len(samples) - 1) / factor)
    at = np.arange(count, dtype=np.float64) * factor
    below = at.astype(np.int64)
    share = (at - below).astype(np.float32)[:, None]
    mixed: Samples = samples[below] * (1 - share) + samples[below + 1] * share
    return mixed


class Piano:
    """Notes of the piano as float32 stereo (n, 2) at RATE, read on first use. Safe to call from several threads."""

    def __init__(self) -> None:
        self._recorded: dict[int, Samples] = {}
        self._notes: dict[int, Samples] = {}
        self._lock = threading.Lock()

    def note(self, midi: int) -> Samples:
        """The whole ringing note, at most LONGEST seconds. Notes beyond the piano sound at its edge."""
        midi = min(max(midi, RECORDED[0]), RECORDED[-1])
        with self._lock:
            if midi not in self._notes:
                base = min(RECORDED, key=lambda recorded: (abs(recorded - midi), recorded))
                samples = self._read(base)
                self._notes[midi] = samples if base == midi else resampled(samples, 2 ** ((midi - base) / 12))
            return self._notes[midi]

    def _read(self, midi: int) -> Samples:
        if midi not in self._recorded:
            import soundfile  # loaded with the first note, so that the window starts sooner

            folder = ASSETS / "piano"
            with (folder / _file_name(midi)).open("rb") as stream:
                samples, rate = soundfile.read(stream, int(LONGEST * RATE), dtype="float32", always_2d=True)
            stereo = np.repeat(samples, 2, 1) if samples.shape[1] == 1 else samples[:, :2]
            self._recorded[midi] = stereo if rate == RATE else resampled(stereo, rate / RATE)
        return self._recorded[midi]
