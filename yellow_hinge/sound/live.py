"""Notes that sound as they are pressed: voices mixed right when the device asks for frames, with nothing ahead."""

from __future__ import annotations

import threading
import time
from collections import deque

from yellow_hinge.core.numerics import np
from yellow_hinge.sound.instruments import RATE, Instruments, Samples, gain_of, release_seconds

LIVE_BUFFER_MS = 8  # of the device while a player plays
MOST_VOICES = 32
PART = "right"


class _Voice:
    """A note that sounds: where it is in its samples, how loud, and how far it has faded since it was let go."""

    def __init__(self, midi: int, samples: Samples, gain: float, part: str) -> None:
        self.midi, self.samples, self.gain, self.part = midi, samples, gain, part
        self.at, self.held, self.left = 0, True, 1.0

    def add(self, block: Samples) -> bool:
        """Add its next frames to a block; whether it goes on."""
        part = self.samples[self.at : self.at + len(block)]
        level = np.full(len(part), self.gain * self.left, np.float32)
        if not self.held:
            fade = 1.0 / (release_seconds(self.part, self.midi) * RATE)
            level = self.gain * np.maximum(0.0, self.left - fade * np.arange(len(part), dtype=np.float32))
            self.left -= fade * len(part)
        block[: len(part)] += part * level[:, None]
        self.at += len(part)
        return self.at < len(self.samples) and self.left > 0


class LiveSource:
    """What a device pulls from. `waits` are the seconds from a press to the frames that begin its note, the last ones
    last: what the program itself adds to the device's own buffer.
    """

    def __init__(self, instruments: Instruments) -> None:
        self.instruments = instruments
        self.played, self.over = 0, False
        self.waits: deque[float] = deque(maxlen=64)
        self._voices: list[_Voice] = []
        self._begun: list[float] = []
        self._pedal = False
        self._lock = threading.Lock()

    def press(self, midi: int, velocity: int, part: str = PART) -> None:
        """Sound a key from the next frames on."""
        now = time.monotonic()
        samples = self.instruments.note(part, midi, velocity)
        with self._lock:
            for voice in self._voices:
                if (voice.midi, voice.part) == (midi, part):
                    voice.held = False
            voice = _Voice(midi, samples, gain_of(part, velocity), part)
            self._voices = [*self._voices[-(MOST_VOICES - 1) :], voice]
            self._begun.append(now)

    def lift(self, midi: int) -> None:
        """Let a key go; it fades, or rings on while the pedal is down."""
        with self._lock:
            for voice in self._voices:
                if voice.midi == midi and not self._pedal:
                    voice.held = False

    def pedal(self, down: bool, keys: frozenset[int]) -> None:
        """The pedal went down, or up: what no key (`keys` are down) holds fades then."""
        with self._lock:
            self._pedal = down
            for voice in self._voices:
                if not down and voice.midi not in keys:
                    voice.held = False

    def pull(self, count: int) -> Samples:
        """The next `count` frames."""
        block = np.zeros((count, 2), np.float32)
        with self._lock:
            now = time.monotonic()
            self.waits.extend(now - begun for begun in self._begun)
            self._begun.clear()
            self._voices = [voice for voice in self._voices if voice.add(block)]
        self.played += count
        np.clip(block, -1.0, 1.0, out=block)
        return block

    def stop(self) -> None:
        """Fall silent."""
        with self._lock:
            self._voices = []
