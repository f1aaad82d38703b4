"""What is heard: a sampled piano in two loudnesses, a plucked bass, soft drums and a click; read on first use."""

from __future__ import annotations

import threading
from pathlib import Path

from yellow_hinge.assets import ASSETS
from yellow_hinge.core.numerics import Floats32, np

Samples = Floats32
RATE = 48_000
# Every third semitone of the piano is recorded, from A0 (21) to C8 (108); file names write a sharp as "s".
RECORDED = tuple(range(21, 109, 3))
BASS = tuple(range(28, 65, 3))
DRUMS = (36, 37, 40, 70, 76, 77)
_NAMES = ("C", "Cs", "D", "Ds", "E", "F", "Fs", "G", "Gs", "A", "As", "B")
LONGEST = 6.0  # seconds kept of a note
SOFT_BELOW = 66  # velocities from which the louder recording is heard
SOFT_GAIN = 1.5  # the soft recording is so much quieter
FULL = 90  # the velocity at which a recording sounds as it is
# Beside the hands: the tune some 3 dB over both together, drums 6 dB below, measured in rendered songs.
LEVELS = {"tune": 1.4, "line": 1.4, "bass": 0.48, "drums": 0.55, "click": 0.6}
ONSET, LEAD = 0.01, 64  # a note begins where it reaches this share of its peak, so many frames earlier
EVENED = 2.0  # seconds of a recording by which its channels are made as loud
UNDAMPED = 90  # the piano has no dampers from here on
QUICK, SLOW = 0.11, 0.26  # seconds a damper takes, at the top and at the bottom of the piano


def release_seconds(part: str, midi: int) -> float:
    """Seconds a note takes to fade when it is let go."""
    if part == "bass":
        return 0.09
    if part in ("click", "drums") or midi >= UNDAMPED:
        return LONGEST
    return SLOW - (SLOW - QUICK) * max(0, midi - RECORDED[0]) / (UNDAMPED - RECORDED[0])


def gain_of(part: str, velocity: int) -> float:
    """How loud a note sounds beside its recording."""
    layer = SOFT_GAIN if is_soft(part, velocity) else 1.0
    level = LEVELS.get(part, 0.8)
    return level * layer * float((velocity / FULL) ** 1.4)


def is_soft(part: str, velocity: int) -> bool:
    """Whether a note is made from the soft recording."""
    return velocity < SOFT_BELOW and part not in ("bass", "drums", "click")


class Instruments:
    """Notes as float32 stereo (n, 2) at RATE. Safe to call from several threads."""

    def __init__(self) -> None:
        self._recorded: dict[Path, Samples] = {}
        self._notes: dict[tuple[str, int], Samples] = {}
        self._lock = threading.Lock()

    def note(self, part: str, midi: int, velocity: int) -> Samples:
        """The whole ringing note, at most LONGEST seconds. Notes beyond an instrument sound at its edge."""
        kind = part if part in ("bass", "drums", "click") else "soft" if is_soft(part, velocity) else "loud"
        with self._lock:
            if (kind, midi) not in self._notes:
                self._notes[kind, midi] = self._made(kind, midi)
            return self._notes[kind, midi]

    def _made(self, kind: str, midi: int) -> Samples:
        if kind in ("drums", "click"):
            return self._read(ASSETS / "band" / f"drum-{midi}.ogg")
        there = BASS if kind == "bass" else RECORDED
        midi = min(max(midi, there[0]), there[-1])
        base = min(there, key=lambda recorded: (abs(recorded - midi), recorded))
        name = f"{_NAMES[base % 12]}{base // 12 - 1}.ogg"
        folder = ASSETS / "piano"
        path = (
            ASSETS / "band" / f"bass-{base}.ogg"
            if kind == "bass"
            else folder / ("soft" if kind == "soft" else "") / name
        )
        samples = self._read(path)
        return samples if base == midi else resampled(samples, RATE * 2 ** ((midi - base) / 12), RATE)

    def _read(self, path: Path) -> Samples:
        if path not in self._recorded:
            import soundfile  # loaded with the first note, so that the window starts sooner

            with soundfile.SoundFile(str(path)) as file:
                rate = file.samplerate
                samples = file.read(int(LONGEST * rate), dtype="float32", always_2d=True)
            stereo = np.repeat(samples, 2, 1) if samples.shape[1] == 1 else samples[:, :2]
            stereo = stereo if rate == RATE else resampled(stereo, rate, RATE)
            self._recorded[path] = _evened(_trimmed(stereo))
        return self._recorded[path]


def resampled(samples: Samples, old: float, new: float) -> Samples:
    """Samples (n, 2) that were meant for `old` frames a second, for `new` ones."""
    import soxr

    made: Samples = soxr.resample(samples, old, new).astype(np.float32)
    return made


def _evened(samples: Samples) -> Samples:
    """With both channels as loud, so that no song leans to one side."""
    energy = np.square(samples[: int(EVENED * RATE)], dtype=np.float64).mean(axis=0)
    if not energy.all():
        return samples
    made: Samples = (samples * np.sqrt(energy.mean() / energy)).astype(np.float32)
    return made


def _trimmed(samples: Samples) -> Samples:
    """Without the silence before the note, with a fade at both ends that no click is heard."""
    loud = np.abs(samples).max(axis=1)
    start = max(0, int(np.argmax(loud > ONSET * loud.max())) - LEAD)
    found = samples[start:].copy()
    found[:LEAD] *= np.linspace(0, 1, LEAD, dtype=np.float32)[:, None][: len(found)]
    fade = min(len(found), RATE // 50)
    found[-fade:] *= np.linspace(1, 0, fade, dtype=np.float32)[:, None]
    return found
