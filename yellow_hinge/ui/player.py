"""Playing mixed audio through the sound device, or silently in time where there is none."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Protocol

from PySide6.QtCore import QBuffer, QByteArray, QElapsedTimer, QIODevice, QObject, QTimer, Signal

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.song import Song
from yellow_hinge.sound.mixing import Sounding, beat_seconds, mix, pcm16, score
from yellow_hinge.sound.piano import RATE, Piano

TICK_MS = 25
NO_SOUND = "No sound device was found, so sound is off; everything else works."


class Output(Protocol):
    """Where the audio goes."""

    def start(self, pcm: bytes) -> None:
        """Play interleaved 16-bit stereo at RATE."""

    def stop(self) -> None:
        """Fall silent."""


class DeviceOutput(QObject):
    """The default sound device. `available` is False where there is none."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        from PySide6.QtMultimedia import QAudioFormat, QAudioSink, QMediaDevices  # slow to load, so not at start

        device = QMediaDevices.defaultAudioOutput()
        self.available = not device.isNull()
        self._buffer = QBuffer(self)
        self._bytes = QByteArray()
        if self.available:
            kind = QAudioFormat()
            kind.setSampleRate(RATE)
            kind.setChannelCount(2)
            kind.setSampleFormat(QAudioFormat.SampleFormat.Int16)
            self._sink = QAudioSink(device, kind, self)

    def start(self, pcm: bytes) -> None:
        self.stop()
        self._bytes = QByteArray(pcm)
        self._buffer.setBuffer(self._bytes)
        self._buffer.open(QIODevice.OpenModeFlag.ReadOnly)
        if self.available:
            self._sink.start(self._buffer)

    def stop(self) -> None:
        if self.available:
            self._sink.stop()
        if self._buffer.isOpen():
            self._buffer.close()


class Player(QObject):
    """Plays stretches of a solution. `at` tells which chord sounds (-1: none), `note` a quiet message."""

    at = Signal(int)
    note = Signal(str)
    _mixed = Signal(int, bytes)

    def __init__(self, parent: QObject, output: Callable[[], Output] | None = None) -> None:
        super().__init__(parent)
        self._make_output = output
        self._output: Output | None = None
        self._piano = Piano()
        self._job = 0
        self._plan: list[tuple[float, int]] = []
        self._length, self._loop = 0.0, False
        self._pcm = b""
        self._clock, self._timer = QElapsedTimer(), QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self._tick)
        self._mixed.connect(self._start)

    @property
    def playing(self) -> bool:
        """Whether something sounds or is about to."""
        return bool(self._plan)

    def play(
        self, solution: Solution, song: Song, first: int, last: int, parts: tuple[str, ...], loop: bool,
        follow: bool = True,
    ) -> None:  # fmt: skip
        """Play chords `first` to `last`, again and again with `loop`. `follow` tells which of them sounds."""
        notes = score(solution, song, first, last, parts)
        begin = solution.moments[solution.voicings[first].moment].start
        beat, plan, end = beat_seconds(song), [], 0.0
        for index in range(first, last + 1):
            moment = solution.moments[solution.voicings[index].moment]
            plan.append((float(moment.start - begin) * beat, index if follow else -1))
            end = float(moment.start + moment.beats - begin) * beat
        self._begin(notes, plan, end, loop)

    def play_in_turn(self, ways: tuple[Solution, ...], song: Song, parts: tuple[str, ...]) -> None:
        """Play whole solutions one after the other, with a beat of rest behind each, again and again."""
        notes: list[Sounding] = []
        end = 0.0
        for solution in ways:
            last = len(solution.voicings) - 1
            notes += [n._replace(start=n.start + end) for n in score(solution, song, 0, last, parts)]
            moments = [solution.moments[voicing.moment] for voicing in solution.voicings]
            end += float(moments[-1].start + moments[-1].beats - moments[0].start + 1) * beat_seconds(song)
        self._begin(notes, [(0.0, -1)], end, True)

    def strike(self, midis: tuple[tuple[int, str], ...], seconds: float = 1.4) -> None:
        """Sound some (MIDI number, part) at once."""
        self._begin([Sounding(0.0, seconds, midi, part) for midi, part in midis], [(0.0, -1)], seconds, False)

    def stop(self) -> None:
        """Fall silent."""
        self._job += 1
        self._plan = []
        self._timer.stop()
        if self._output is not None:
            self._output.stop()
        self.at.emit(-1)

    def _begin(self, notes: list[Sounding], plan: list[tuple[float, int]], length: float, loop: bool) -> None:
        self.stop()
        self._plan, self._length, self._loop = plan, length, loop
        job = self._job

        def work() -> None:
            pcm = pcm16(mix(notes, self._piano, lambda: job != self._job))
            if job == self._job:
                self._mixed.emit(job, pcm)

        threading.Thread(target=work, name="mixing", daemon=True).start()

    def _ready_output(self) -> Output:
        if self._output is None:
            if self._make_output is not None:
                self._output = self._make_output()
            else:
                device = DeviceOutput(self)
                self._output = device
                if not device.available:
                    self.note.emit(NO_SOUND)
        return self._output

    def _start(self, job: int, pcm: bytes) -> None:
        if job != self._job:
            return
        self._pcm = pcm
        self._ready_output().start(pcm[: self._exact_bytes()] if self._loop else pcm)
        self._clock.start()
        self._timer.start()
        self._tick()

    def _exact_bytes(self) -> int:
        return int(self._length * RATE) * 4

    def _tick(self) -> None:
        now = self._clock.elapsed() / 1000.0
        if now >= self._length:
            if not self._loop:
                self.stop()
                return
            self._ready_output().start(self._pcm[: self._exact_bytes()])
            self._clock.restart()
            now = 0.0
        reached = [index for start, index in self._plan if start <= now + TICK_MS / 2000]
        if reached:
            self.at.emit(reached[-1])
