"""Mixing a score block by block: what comes next is made when it is needed, so that sound starts at once, and a loop
has no gap because notes ring on over its end.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.numerics import np
from yellow_hinge.sound.instruments import RATE, Instruments, Samples, gain_of, release_seconds
from yellow_hinge.sound.leveling import TARGET
from yellow_hinge.sound.measuring import loudness
from yellow_hinge.sound.score import Note, Score

BLOCK = 2048  # frames of an offline block
TAIL = 1.5  # seconds that the last notes ring on
KNEE = 0.7  # from here on what is too loud is bent, so that nothing is above 1


class _Ringing(NamedTuple):
    samples: Samples
    start: int  # frame at which it began
    held: int  # frames it is held
    fade: int  # frames it fades
    gain: float

    @property
    def over(self) -> int:
        """The frame after its last."""
        return self.start + min(len(self.samples), self.held + self.fade)


class Mixer:
    """Makes the audio of a score, `block` after `block`."""

    def __init__(self, score: Score, instruments: Instruments, start: int = 0) -> None:
        self.score, self._instruments = score, instruments
        self._now = 0
        self._next, self._shift = 0, 0  # the next note, and how much later it is than written, by loops before
        self._ringing: list[_Ringing] = []
        self._next = next((i for i, note in enumerate(score.notes) if note.start >= start), len(score.notes))
        self._now = start

    @property
    def over(self) -> bool:
        """Whether nothing will sound any more."""
        tail = self.score.length + int(TAIL * RATE)
        return self.score.back is None and self._now >= tail

    def block(self, count: int) -> Samples:
        """The next `count` frames, float32 (count, 2) within -1..1."""
        out = np.zeros((count, 2), np.float32)
        end = self._now + count
        self._strike_until(end)
        for note in self._ringing:
            _add(out, note, self._now)
        self._ringing = [note for note in self._ringing if note.over > end]
        self._now = end
        return limited(out)

    def _strike_until(self, end: int) -> None:
        notes, back, length = self.score.notes, self.score.back, self.score.length
        while True:
            if self._next == len(notes):
                if back is None or length <= back or not notes:
                    return
                if length + self._shift >= end:
                    return
                self._shift += length - back
                self._next = next((i for i, note in enumerate(notes) if note.start >= back), len(notes))
                if self._next == len(notes):
                    return
            note = notes[self._next]
            if note.start + self._shift >= end:
                return
            self._ringing.append(self._struck(note))
            self._next += 1

    def _struck(self, note: Note) -> _Ringing:
        samples = self._instruments.note(note.part, note.midi, note.velocity)
        fade = max(1, int(release_seconds(note.part, note.midi) * RATE))
        gain = gain_of(note.part, note.velocity) * note.level
        return _Ringing(samples, note.start + self._shift, note.end - note.start, fade, gain)


def _add(out: Samples, note: _Ringing, now: int) -> None:
    begin, end = max(note.start, now), min(note.over, now + len(out))
    if begin >= end:
        return
    piece = note.samples[begin - note.start : end - note.start] * np.float32(note.gain)
    let_go = note.start + note.held
    if end > let_go:
        at = np.arange(max(begin, let_go), end) - let_go
        shape = (1.0 - at / note.fade).clip(0.0).astype(np.float32) ** 2
        piece[max(0, let_go - begin) :] *= shape[:, None]
    out[begin - now : end - now] += piece


def limited(samples: Samples) -> Samples:
    """The same, bent where it is louder than KNEE so that it stays below 1; the curve has no corner."""
    loud = np.abs(samples)
    if float(loud.max(initial=0.0)) <= KNEE:
        return samples
    room = 1.0 - KNEE
    bent = KNEE + room * np.tanh((loud - KNEE) / room)
    made: Samples = np.where(loud > KNEE, np.sign(samples) * bent, samples).astype(np.float32)
    return made


def mastered(samples: Samples) -> Samples:
    """A song as loud as every other one: measured, and brought to TARGET."""
    found = loudness(samples)
    if not np.isfinite(found):
        return samples
    made: Samples = limited((samples * 10 ** ((TARGET - found) / 20)).astype(np.float32))
    return made


def rendered(score: Score, instruments: Instruments, told: Callable[[float], bool] = lambda share: False) -> Samples:
    """A whole score at once. `told` hears how much of it is done, 0 to 1; when it says yes the rest is left out."""
    mixer, blocks = Mixer(score, instruments), []
    whole = score.length + int(TAIL * RATE)
    for at in range(0, whole, BLOCK):
        if told(at / whole):
            break
        blocks.append(mixer.block(min(BLOCK, whole - at)))
    return np.concatenate(blocks) if blocks else np.zeros((0, 2), np.float32)
