"""Where sound goes: the default device, fed by a thread that mixes a little ahead, or a silent one that keeps time."""

from __future__ import annotations

import contextlib
import math
import queue
import threading
import time
from collections.abc import Generator
from typing import Any, Protocol

from yellow_hinge.core.numerics import np
from yellow_hinge.sound.hush import quiet
from yellow_hinge.sound.instruments import RATE, Instruments, Samples
from yellow_hinge.sound.mixing import Mixer
from yellow_hinge.sound.score import Score

BLOCK = 1024  # frames mixed at a time
AHEAD = 12  # blocks that wait to be played: a quarter of a second
BUFFER_MS = 20


class Frames(Protocol):
    """What a device pulls from."""

    def pull(self, count: int) -> Samples:
        """The next `count` frames."""


class Output(Protocol):
    """Something that pulls audio and says whether it can be heard."""

    available: bool

    def load(self) -> None:
        """Load what starting takes; beside the window, for that is slow the first time."""

    def start(self, frames: Frames) -> None:
        """Pull frames until stopped."""

    def stop(self) -> None:
        """Fall silent."""


class FrameSource:
    """Frames of one score in a row, mixed ahead by a thread of its own. `played` counts what was pulled; `over` when
    nothing comes any more.
    """

    def __init__(self, score: Score, instruments: Instruments, start: int = 0) -> None:
        self.score = score
        self.played = start
        self.over = False
        self.ready = threading.Event()
        self.block = 0  # frames that the device takes at once, as was seen
        self.begun = math.inf  # when frame 0 would have been pulled, in seconds of a steady clock
        self._blocks: queue.Queue[Samples | None] = queue.Queue(AHEAD)
        self._rest: Samples = np.zeros((0, 2), np.float32)
        self._stopped = threading.Event()
        self._mixer = Mixer(score, instruments, start)
        threading.Thread(target=self._mix, name="mixing").start()

    def _going(self) -> bool:
        """Whether somebody may still listen: threads that read and mix end with the program, and it waits for them."""
        return not self._stopped.is_set() and threading.main_thread().is_alive()

    def _mix(self) -> None:
        while self._going() and not self._mixer.over:
            self._put(self._mixer.block(BLOCK))
            self.ready.set()
        self._put(None)
        self.ready.set()

    def _put(self, block: Samples | None) -> None:
        while self._going():
            with contextlib.suppress(queue.Full):
                self._blocks.put(block, timeout=0.05)
                return

    def stop(self) -> None:
        """Mix no more."""
        self._stopped.set()

    def pull(self, count: int) -> Samples:
        """The next `count` frames; silence where they are not ready, without waiting."""
        self.begun = min(self.begun, time.monotonic() - self.played / RATE)
        self.block = max(self.block, count)
        parts = [self._rest]
        have = len(self._rest)
        while have < count and not self.over:
            try:
                block = self._blocks.get_nowait()
            except queue.Empty:
                break
            if block is None:
                self.over = True
                break
            parts.append(block)
            have += len(block)
        joined = np.concatenate(parts)
        self._rest = joined[count:]
        self.played += min(count, have)
        if have < count:
            self.begun = math.inf  # what comes is late from here on
            joined = np.concatenate([joined, np.zeros((count - have, 2), np.float32)])
        return joined[:count]


class DeviceOutput:
    """The default sound device; looked for when it is first started, and again after it failed. `available` is False
    where there is none.
    """

    def __init__(self, backends: list[Any] | None = None, buffer_ms: int = BUFFER_MS) -> None:
        self._backends, self._buffer_ms = backends, buffer_ms
        self._device: Any = None
        self.available = True

    def load(self) -> None:
        """Load the library that knows devices."""
        import miniaudio  # noqa: F401 - slow to load, so not at start, and not where one waits for it

    def start(self, frames: Frames) -> None:
        """Pull frames until stopped."""
        import miniaudio

        self.stop()
        try:
            with quiet():
                self._device = miniaudio.PlaybackDevice(
                    output_format=miniaudio.SampleFormat.FLOAT32, nchannels=2, sample_rate=RATE,
                    buffersize_msec=self._buffer_ms, backends=self._backends, app_name="Yellow Hinge",
                )  # fmt: skip
            pulling = _pulling(frames)
            next(pulling)
            self._device.start(pulling)
            self.available = True
        except miniaudio.MiniaudioError:
            self.available, self._device = False, None

    def stop(self) -> None:
        """Fall silent."""
        if self._device is not None:
            device, self._device = self._device, None
            device.close()


def _pulling(frames: Frames) -> Generator[bytes, int, None]:
    count = yield b""
    while True:
        count = yield frames.pull(count).tobytes()


class SilentOutput:
    """Pulls frames as a device would, in time, and lets nobody hear them."""

    def __init__(self) -> None:
        self.available = False
        self._stop: threading.Event | None = None

    def load(self) -> None:
        """Silence takes nothing."""

    def start(self, frames: Frames) -> None:
        """Pull frames until stopped."""
        self.stop()
        stop = self._stop = threading.Event()

        def run() -> None:
            begun, done = time.monotonic(), 0
            while not stop.wait(BLOCK / RATE):
                due = int((time.monotonic() - begun) * RATE)
                if due > done:
                    frames.pull(due - done)
                    done = due

        threading.Thread(target=run, name="silence", daemon=True).start()

    def stop(self) -> None:
        """Fall silent."""
        if self._stop is not None:
            self._stop.set()
            self._stop = None
