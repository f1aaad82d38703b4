"""How loud a performance will be, from what each sample is measured to hold (assets/levels.npy by tools.levels), and
what brings it to one loudness: no sound has to be made for it, so that a song starts at once.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.assets import ASSETS
from yellow_hinge.core.numerics import Floats64, NDArray, np
from yellow_hinge.core.performing import Clock, Performance
from yellow_hinge.sound.instruments import BASS, DRUMS, RECORDED, gain_of, is_soft, release_seconds
from yellow_hinge.sound.measuring import gated

Floats = Floats64
TARGET = -18.0  # LUFS of every song
TUNE_OVER, DRUMS_UNDER = 4.0, 6.0  # dB of the tune over both hands while it sounds, of the drums under them
MOST_GAIN, MOST_BALANCE = 12.0, 8.0  # dB that a song, or a part in it, is made louder or softer
BIN, BINS = 0.1, 60  # seconds of a step of the curves, and how many there are
BLOCK = 4  # steps of a gating block
# The rows of the file: (kind, MIDI number of the sample).
ROWS = (
    *(("loud", midi) for midi in RECORDED), *(("soft", midi) for midi in RECORDED),
    *(("bass", midi) for midi in BASS), *(("drums", midi) for midi in DRUMS),
)  # fmt: skip
PARTS = {"left": "hands", "right": "hands", "tune": "tune", "line": "tune", "bass": "bass", "drums": "drums"}
FADED = 0.2  # of a fade's time: what it holds beside the full level, since the energy falls with the fourth power


class Levels(NamedTuple):
    """Factors on the amplitudes of a performance: of all of it, and of its tune and drums in it."""

    gain: float = 1.0
    tune: float = 1.0
    drums: float = 1.0

    def over(self, levels: Mapping[str, float]) -> dict[str, float]:
        """The levels of some parts with what evens the performance."""
        own = {"tune": self.tune, "line": self.tune, "drums": self.drums}
        return {part: level * self.gain * own.get(part, 1.0) for part, level in levels.items()}


@lru_cache(maxsize=1)
def _curves() -> Floats:
    """Mean square (K-weighted, both channels) of every sample, (rows, BINS)."""
    found: Floats = np.load(ASSETS / "levels.npy").astype(np.float64)
    return found


def row_of(part: str, midi: int, velocity: int) -> int:
    """The row of the sample that a note is made from."""
    kind = "drums" if part in ("drums", "click") else part if part == "bass" else "loud"
    kind = "soft" if is_soft(part, velocity) else kind
    there = {"bass": BASS, "drums": DRUMS}.get(kind, RECORDED)
    return ROWS.index((kind, min(there, key=lambda recorded: (abs(recorded - midi), recorded))))


class Sounding(NamedTuple):
    """Some notes: their rows, factors on their energies, the steps in which they begin and how many they are held."""

    rows: NDArray[np.int64]
    gains: Floats
    begins: NDArray[np.int64]
    held: Floats


def _energy(notes: Sounding, steps: int) -> Floats:
    """Mean square in every step of some notes."""
    halves = np.round(notes.held * 2).astype(np.int64).clip(0, 2 * BINS)
    alike = np.stack([notes.rows, halves, notes.begins], 1)
    each, which = np.unique(alike, axis=0, return_inverse=True)
    loud = np.bincount(which.ravel(), weights=notes.gains, minlength=len(each))
    curves = _curves()[each[:, 0]] * np.clip(each[:, 1, None] / 2 - np.arange(BINS), 0.0, 1.0) * loud[:, None]
    places = (each[:, 2, None] + np.arange(BINS)).ravel()
    found = np.bincount(places, weights=curves.ravel(), minlength=steps)
    return found[:steps].astype(np.float64)


def integrated(energy: Floats) -> float:
    """The integrated loudness in LUFS of mean squares in steps; -inf for silence."""
    return gated(np.convolve(energy, np.full(BLOCK, 1 / BLOCK), "valid") if len(energy) >= BLOCK else energy)


def _factor(decibels: float, most: float) -> float:
    return float(10 ** (max(-most, min(most, decibels)) / 20)) if np.isfinite(decibels) else 1.0


@lru_cache(maxsize=8192)
def _recorded(part: str, midi: int, velocity: int) -> tuple[int, float, float]:
    """The row of a note, the factor on its energy, and the steps that its fade holds."""
    fade = FADED * release_seconds(part, midi) / BIN
    return row_of(part, midi, velocity), gain_of(part, velocity) ** 2, fade


def _seconds(clock: Clock, ticks: list[int]) -> Floats:
    marks = [tick for tick, _ in clock.marks]
    last = max([*ticks, marks[-1]]) + 1
    found: Floats = np.interp(ticks, [*marks, last], [float(clock.seconds(tick)) for tick in (*marks, last)])
    return found


def measured(performance: Performance) -> dict[str, Floats]:
    """Mean square in every step of the hands together, the tune, the bass player and the drums."""
    struck, steps = performance.struck, int(float(performance.clock.seconds(performance.length)) / BIN) + 1
    own = [_recorded(note.part, note.midi, note.velocity) for note in struck]
    rows, gains, fades = (np.array(found) for found in zip(*own, strict=True)) if own else (np.zeros(0),) * 3
    begins = _seconds(performance.clock, [note.onset for note in struck]).clip(0.0) / BIN
    held = _seconds(performance.clock, performance.sounding_ends()) / BIN - begins + fades
    names = np.array([PARTS.get(note.part, "") for note in struck])
    found = {}
    for name in ("hands", "tune", "bass", "drums"):
        mine = names == name
        whole = rows[mine].astype(np.int64), gains[mine].astype(np.float64), begins[mine].astype(np.int64)
        found[name] = _energy(Sounding(*whole, held[mine]), steps) if mine.any() else np.zeros(steps)
    return found


def leveled(performance: Performance) -> Levels:
    """What brings a performance to TARGET, its tune over the hands and its drums under them."""
    found = measured(performance)
    hands, tune, drums = found["hands"], found["tune"], found["drums"]
    with np.errstate(divide="ignore", invalid="ignore"):
        sung = tune > tune.max(initial=0.0) / 1000
        over = 10 * np.log10(tune[sung].sum() / hands[sung].sum()) if sung.any() else np.nan
        under = 10 * np.log10(hands.sum() / drums.sum())
    balance = _factor(TUNE_OVER - over, MOST_BALANCE)
    whole = integrated(hands + tune * balance**2 + found["bass"])
    return Levels(_factor(TARGET - whole, MOST_GAIN), balance, _factor(under - DRUMS_UNDER, MOST_BALANCE))
