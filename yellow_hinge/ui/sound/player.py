"""Playing scores through the sound device, or silently in time where there is none."""

from __future__ import annotations

import math
import threading
from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer, Signal

from yellow_hinge.sound.device import BUFFER_MS, DeviceOutput, FrameSource, Output, SilentOutput
from yellow_hinge.sound.instruments import RATE, Instruments
from yellow_hinge.sound.score import Note, Score

TICK_MS = 20
NO_SOUND = "No sound device was found: nothing is heard, and the mark goes on."


class SongPlayer(QObject):
    """Plays scores. `at` tells which chord sounds (-1: none), `moved` the frame that is heard, `note` a message."""

    at = Signal(int)
    moved = Signal(int)
    note = Signal(str)
    _ready = Signal(int)

    def __init__(self, parent: QObject, output: Callable[[], Output] | None = None) -> None:
        super().__init__(parent)
        self._output: Output = (output or DeviceOutput)()
        self._silent = SilentOutput()
        self.instruments = Instruments()
        self._frames: FrameSource | None = None
        self._follow = True
        self.struck = False  # what sounds is a chord that was struck once
        self.shift = 0  # semitones that a struck key sounds higher
        self._job, self._reading = 0, 0
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self._tick)
        self._ready.connect(self._start)

    @property
    def playing(self) -> bool:
        """Whether something sounds or is about to."""
        return self._frames is not None

    @property
    def available(self) -> bool:
        """Whether there is a sound device, as far as was tried."""
        return self._output.available

    @property
    def frame(self) -> int | None:
        """The frame of the score that is heard now."""
        return self._inside(self._frames) if self._frames is not None else None

    def heard_at(self, frame: int) -> float | None:
        """When a frame is heard, counted on through repeats, in seconds of a steady clock, what the device holds back
        taken in; None while nothing sounds.
        """
        frames = self._frames
        if frames is None or not math.isfinite(frames.begun):
            return None
        return frames.begun + frame / RATE + max(BUFFER_MS / 1000, frames.block / RATE)

    @property
    def score(self) -> Score | None:
        """What is played."""
        return self._frames.score if self._frames is not None else None

    def play(self, score: Score, follow: bool = True, start: int = 0) -> None:
        """Play a score from a frame of it. `follow` tells which chord sounds."""
        self.stop()
        self._follow, job = follow, self._job
        frames = self._frames = FrameSource(score, self.instruments, start)

        def wait() -> None:
            frames.ready.wait()
            self._output.load()
            if job == self._job:
                self._ready.emit(job)

        threading.Thread(target=wait, name="first block", daemon=True).start()

    def go_on(self, score: Score) -> None:
        """Play another score instead, from the same share of its length on."""
        frames = self._frames
        if frames is not None:
            old = frames.score
            share = self._inside(frames) / max(1, old.length)
            self.play(score, self._follow, round(share * score.length))

    @staticmethod
    def _inside(frames: FrameSource) -> int:
        """The frame of the score that is heard."""
        score, now = frames.score, frames.played
        if score.back is None or now < score.length:
            return now
        return score.back + (now - score.length) % max(1, score.length - score.back)

    def prepare(self, notes: tuple[Note, ...]) -> None:
        """Read in the background what is going to sound, so that it starts at once."""
        wanted = list(dict.fromkeys((note.part, note.midi, note.velocity) for note in notes))
        self._reading += 1
        mine = self._reading

        def read() -> None:
            for part, midi, velocity in wanted:
                if mine != self._reading or not threading.main_thread().is_alive():
                    return
                self.instruments.note(part, midi, velocity)

        threading.Thread(target=read, name="reading notes").start()

    def close(self) -> None:
        """Fall silent, and read no more."""
        self._reading += 1
        self.stop()

    def strike(self, midis: tuple[tuple[int, str], ...], seconds: float = 1.4) -> None:
        """Sound some (MIDI number, part) at once."""
        end = int(seconds * RATE)
        notes = tuple(Note(0, end, midi + self.shift, part, 76) for midi, part in midis)
        self.play(Score(notes, end), follow=False)
        self.struck = True

    def stop(self) -> None:
        """Fall silent."""
        self._job += 1
        self.struck = False
        if self._frames is not None:
            self._frames.stop()
            self._frames = None
            self._timer.stop()
            self._output.stop()
            self._silent.stop()
        self.at.emit(-1)

    def _start(self, job: int) -> None:
        if job != self._job or self._frames is None:
            return
        self._output.start(self._frames)
        if not self._output.available:
            self.note.emit(NO_SOUND)
            self._silent.start(self._frames)
        self._timer.start()
        self._tick()

    def _tick(self) -> None:
        frames = self._frames
        if frames is None:
            return
        score, now = frames.score, self._inside(frames)
        if frames.over or now >= score.length:
            if frames.over or self._follow:
                self._end(frames)
            return
        self.moved.emit(now)
        if self._follow:
            self.at.emit(score.place_at(now))

    def _end(self, frames: FrameSource) -> None:
        """The last chord has been heard: what rings on is let ring, the mark is gone."""
        if frames.over:
            self.stop()
        else:
            self.at.emit(-1)
            self._follow = False
