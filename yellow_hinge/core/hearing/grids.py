"""Beats, meters and bar lines of a performance: grids that may drift, each with its price, the cheapest first.

The prices were searched on one half of the patterns of charts of ours and are flattered there (see docs/decisions).
"""

from __future__ import annotations

import math
from typing import NamedTuple

from yellow_hinge.core.hearing.strikes import Strikes
from yellow_hinge.core.numerics import Floats64, np

FRAMES = 100  # a second
_SHORTEST, _LONGEST = 0.29, 1.45  # seconds of a beat
_TIMES = (1 / 6, 1 / 4, 1 / 3, 0.5, 1, 2, 3)  # of a period that is heard, which a beat may be
_MOST_PERIODS, _MOST_LAG = 12, 420
# What a strike costs on a place of a beat: on it, on its half, a third, two thirds, a quarter, elsewhere.
_KINDS = {
    "two": (0, 0.55, 2.0, 2.0, 1.1, 2.6), "three": (0, 2.0, 0.5, 0.5, 2.2, 2.6), "swing": (0, 1.0, 1.6, 0.5, 2.0, 2.6),
}  # fmt: skip
# How much each price counts: strikes, news off the one, silent beats, beats, bars, tempo, bars' length, uneven beats,
# nine-eight, two-four, three beats.
_WEIGHTS = (0.43, 2.38, 0.12, 0.2, 0.485, 0.3, 0.5, 3.4, 1.2, 0.18, 0.1)


class Grid(NamedTuple):
    """The beats (seconds), how many make a bar, which is the first one (from 0), how a beat is divided (out of "two",
    "three", "swing"), and the price.
    """

    beats: Floats64
    size: int
    first: int
    kind: str
    price: float

    @property
    def period(self) -> float:
        """Seconds of a beat."""
        return float(np.median(np.diff(self.beats)))

    @property
    def before(self) -> int:
        """Beats of the first bar that come before the performance begins."""
        return (self.size - self.first) % self.size

    @property
    def meter(self) -> tuple[int, int]:
        """(upper, lower)."""
        return (3 * self.size, 8) if self.kind == "three" else (self.size, 4)


def grids(strikes: Strikes, end: float, near: float = 0.0) -> list[Grid]:
    """Every grid that a performance may be played in, the cheapest first. `end`: when the last note is let go; `near`:
    only those with beats of about so many seconds, 0 for all.
    """
    envelope = _envelope(strikes)
    found: list[Grid] = []
    for period in (near,) if near else _periods(envelope):
        tracked = _tracked(envelope, period)
        if len(tracked) >= 4:
            found += _on(strikes, _grown(_refined(tracked, strikes, period), strikes.times[0], end - 0.1))
    return sorted(found, key=lambda grid: grid.price)


def steady(strikes: Strikes, period: float, end: float, sizes: tuple[int, ...] = (2, 3, 4)) -> list[Grid]:
    """The grids of a click that ran, beats of so many seconds, the cheapest first."""
    phases = (strikes.times % period) / period
    places = np.arange(0, 1, 0.01)
    apart = np.abs((phases[None, :] - places[:, None] + 0.5) % 1 - 0.5)
    offset = float(places[int((apart * strikes.weights).sum(1).argmin())]) * period
    start = offset - period * math.ceil((offset - strikes.times[0] - 0.1 * period) / period)
    beats = np.arange(start, max(end, start + 4 * period) + period, period)
    return sorted((g for g in _on(strikes, beats) if g.size in sizes), key=lambda grid: grid.price)


def _envelope(strikes: Strikes) -> Floats64:
    """How much is struck, frame by frame, each strike widened."""
    found = np.zeros(int((strikes.times[-1] + 2) * FRAMES))
    shape = np.exp(-0.5 * (np.arange(-6, 7) / 2.5) ** 2)
    for time, weight, news in zip(strikes.times, strikes.weights, strikes.news, strict=True):
        at = round(time * FRAMES)
        low, high = max(0, at - 6), min(len(found), at + 7)
        found[low:high] += weight * (0.6 + 1.2 * news) * shape[low - at + 6 : high - at + 6]
    return found


def _periods(envelope: Floats64) -> list[float]:
    """Beats' lengths (seconds) that a performance may have, by how it is like itself later."""
    like = _likeness(envelope)
    found: dict[int, tuple[float, float]] = {}
    for i in _peak_lags(like)[:8]:
        bend = 2 * (like[i - 1] - 2 * like[i] + like[i + 1]) + 1e-12
        period = (i + (like[i - 1] - like[i + 1]) / bend) / FRAMES
        for length in (period * times for times in _TIMES):
            near = round(math.log(length) * 20) if length > 0 else 0
            if _SHORTEST <= length <= _LONGEST and like[i] > found.get(near, (0.0, -1.0))[1]:
                found[near] = (length, float(like[i]))
    return [length for length, _ in sorted(found.values(), key=lambda each: -each[1])][:_MOST_PERIODS]


def _likeness(envelope: Floats64) -> Floats64:
    """How a performance is like itself so many frames later, 1 at most."""
    even = envelope - envelope.mean()
    spectrum = np.fft.rfft(even, 2 * len(even))
    like = np.fft.irfft(spectrum * np.conj(spectrum))[: len(even)]
    return like / like[0] if like[0] > 0 else like


def _peak_lags(like: Floats64) -> list[int]:
    """Where it is more like itself than right before and after, the most first."""
    lags = range(12, min(len(like) - 1, _MOST_LAG))
    peaks = [i for i in lags if like[i] > like[i - 1] and like[i] >= like[i + 1] and like[i] > 0.03]
    return sorted(peaks, key=lambda i: -like[i])


def _tracked(envelope: Floats64, period: float) -> Floats64:
    """The beats that lie best on what is struck and are nearly even: a programme over frames."""
    even = envelope / (np.std(envelope) + 1e-9)
    low, high = round(period * FRAMES * 0.75), round(period * FRAMES * 1.33)
    back = np.arange(-high, -low + 1)
    uneven = -60 * np.log(-back / (period * FRAMES)) ** 2
    score, before = even.copy(), np.full(len(even), -1)
    for at in range(high, len(even)):
        value = score[at + back] + uneven
        best = int(value.argmax())
        if value[best] > 0:
            score[at], before[at] = even[at] + value[best], at + back[best]
    end = max(0, len(even) - high)
    path = [end + int(score[end:].argmax())]
    while before[path[-1]] >= 0:
        path.append(int(before[path[-1]]))
    return np.array(path[::-1]) / FRAMES


def _refined(beats: Floats64, strikes: Strikes, period: float) -> Floats64:
    """Beats moved onto the strikes that are right beside them."""
    found = beats.astype(float)
    for n, beat in enumerate(beats):
        near = np.abs(strikes.times - beat) < min(0.06, 0.12 * period)
        if near.any():
            found[n] = np.average(strikes.times[near], weights=strikes.weights[near])
    return found


def _grown(beats: Floats64, first: float, last: float) -> Floats64:
    """Beats from the first strike to the last note."""
    row = list(beats)
    early, late = float(np.median(np.diff(row[:9]))), float(np.median(np.diff(row[-9:])))
    while row[0] > first + 0.25 * early:
        row.insert(0, row[0] - early)
    while row[-1] < last + 0.05:
        row.append(row[-1] + late)
    while len(row) > 3 and row[1] < first + 0.06:
        row.pop(0)
    return np.array(row)


def _places(phases: Floats64, period: float) -> Floats64:
    """The place of every strike in its beat, as _KINDS counts them."""
    near = max(0.055, min(0.12, 0.035 / period))

    def beside(place: float) -> Floats64:
        return np.abs((phases - place + 0.5) % 1 - 0.5)

    found = np.full(len(phases), 5)
    found[np.minimum(beside(0.25), beside(0.75)) < near] = 4
    found[beside(1 / 3) < near * 0.75] = 2
    found[beside(2 / 3) < near * 0.8] = 3
    found[beside(0.5) < near] = 1
    found[beside(0.0) < near] = 0
    return found


def _on(strikes: Strikes, beats: Floats64) -> list[Grid]:
    """The grids of some beats: with two, three and four a bar, from each of them on."""
    at = np.interp(strikes.times, beats, np.arange(len(beats)))
    period = float(np.median(np.diff(beats)))
    places = _places(at % 1, period)
    weights = strikes.weights / strikes.weights.mean()
    cost, kind = min((float((weights * np.array(prices)[places]).sum()), kind) for kind, prices in _KINDS.items())
    count, strikes_ = len(beats) - 1, len(at)
    nearest = np.round(at).astype(int)
    silent = count - len({int(n) for n in nearest[places == 0]} & set(range(count)))
    uneven = float(np.std(np.diff(np.diff(beats)))) / period if len(beats) > 2 else 0.0
    tempo = max(0.0, abs(math.log2(60 / period / 96)) - 0.35) ** 2
    found = []
    for size in (2, 3, 4):
        long = max(0.0, abs(math.log2(period * size / 2.4)) - 0.7) ** 2
        odd = (kind == "three" and size == 3, kind != "three" and size == 2, size == 3)
        for first in range(size):
            parts = (cost, _off_one(nearest, places, strikes.news, size, first), silent, count, count / size,
                     strikes_ * tempo, strikes_ * long, uneven * count, *(strikes_ * each for each in odd))  # fmt: skip
            found.append(Grid(beats, size, first, kind, sum(a * b for a, b in zip(_WEIGHTS, parts, strict=True))))
    return found


def _off_one(nearest: Floats64, places: Floats64, news: Floats64, size: int, first: int) -> float:
    """What news cost that do not come on a one."""
    beat = (nearest - first) % size
    level = np.where(beat == 0, 0.0, np.where((size == 4) & (beat == 2), 0.55, 1.15))
    return float((news * np.where(places == 0, level, 1.7)).sum())
