"""What was struck together, how much each strike weighs, and how new it is for the ear."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.numerics import Floats64, np

_TOGETHER, _ROLL = 0.045, 0.11  # seconds between notes of one strike, and between those of a rolled chord
_LONGEST, _HALF = 1.5, 0.5
_LONGEST_HELD = 12.0  # seconds that a note is followed
_WINDOWS = (0.7, 1.6)  # seconds on both sides of a strike that are compared
_NEW_BASS = 0.35  # news that another bass is
_NEAR, _LOWEST = 1.2, 7  # seconds, and semitones above the lowest, that a bass is looked for in


class Tone(NamedTuple):
    """A note as it was played: when it was struck and let go (seconds), its MIDI number, its velocity."""

    on: float
    off: float
    midi: int
    velocity: int = 64


class Strikes(NamedTuple):
    """Strikes in order: their notes (places in a list of tones), times in seconds, weights, news."""

    groups: tuple[tuple[int, ...], ...]
    times: Floats64
    weights: Floats64
    news: Floats64


def grouped(tones: list[Tone], gap: float = _TOGETHER, roll: float = _ROLL) -> list[tuple[int, ...]]:
    """The notes that are one strike: together, or rising one after the other while they are held. `tones` in order."""
    groups: list[list[int]] = []
    for n, tone in enumerate(tones):
        if groups and tone.on - tones[groups[-1][0]].on < gap:
            groups[-1].append(n)
        else:
            groups.append([n])
    found, k = [], 0
    while k < len(groups):
        end = k + 1
        while end < len(groups) and _rolls(tones, groups[end - 1], groups[end], roll):
            end += 1
        last = end if end - k >= 3 else k + 1
        found.append(tuple(n for group in groups[k:last] for n in group))
        k = last
    return found


def _rolls(tones: list[Tone], one: list[int], two: list[int], roll: float) -> bool:
    """Whether a group goes on where another one began to roll."""
    rises = min(tones[n].midi for n in two) > max(tones[n].midi for n in one)
    soon = tones[two[0]].on - tones[one[0]].on < roll
    return soon and rises and tones[one[0]].off > tones[two[0]].on


def strikes_of(tones: list[Tone]) -> Strikes:
    """The strikes of a performance. `tones` in order of their striking, at least one."""
    groups = grouped(tones)
    on, off, midi, loud = (np.array(column, float) for column in zip(*tones, strict=True))
    times = np.array([on[list(g)].min() if np.ptp(on[list(g)]) > 0.07 else on[list(g)].mean() for g in groups])
    length = np.minimum(off - on, _LONGEST)
    weights = np.array([np.sqrt((loud[list(g)] / 64 * (_HALF + length[list(g)])).sum()) for g in groups])
    news = _peaks(times, _novelty(times, on, off, midi.astype(int) % 12))
    lows = np.array([midi[list(g)].min() for g in groups])
    return Strikes(tuple(groups), times, weights, news + _NEW_BASS * _new_basses(times, lows))


def _novelty(times: Floats64, on: Floats64, off: Floats64, pcs: Floats64) -> Floats64:
    """How unlike what sounds after every strike is to what sounded before it, 0 to 1."""
    longest = min(_LONGEST_HELD, float((off - on).max()))
    found = np.zeros(len(times))
    for n, time in enumerate(times):
        low, high = np.searchsorted(on, (time - _WINDOWS[-1] - 0.1 - longest, time + _WINDOWS[-1] + 0.1))
        near = slice(int(low), int(high))
        for window in _WINDOWS:
            before, after = (
                _sounding(on[near], off[near], pcs[near], begin, begin + window)
                for begin in (time - 0.03 - window, time - 0.03)
            )
            size = np.linalg.norm(before) * np.linalg.norm(after)
            found[n] += ((1 - before @ after / size) if size > 0 else 0.7) / len(_WINDOWS)
    return found


def _sounding(on: Floats64, off: Floats64, pcs: Floats64, begin: float, end: float) -> Floats64:
    """How long every pitch class sounds in a stretch of time, what is struck in it a little longer."""
    length = np.minimum(np.minimum(off, end) - np.maximum(on, begin), 1.0)
    counted = np.where(length > 0, length + 0.2 * ((on >= begin) & (on < end)), 0.0)
    return np.asarray(np.bincount(pcs, counted, 12), np.float64)


def _peaks(times: Floats64, novelty: Floats64) -> Floats64:
    """News that are less than others right beside them count for less."""
    found = novelty.copy()
    for n, time in enumerate(times):
        low, high = np.searchsorted(times, (time - 0.35, time + 0.35))
        if novelty[int(low) : int(high)].max(initial=0.0) > novelty[n]:
            found[n] *= 0.4
    return found


def _new_basses(times: Floats64, lows: Floats64) -> Floats64:
    """1 where the bass is another note than before, half where it may be no bass."""
    found, last = np.zeros(len(times)), None
    for n, time in enumerate(times):
        low, high = np.searchsorted(times, (time - _NEAR, time + _NEAR))
        lowest = lows[int(low) : int(high) + 1].min()
        if lows[n] > lowest + _LOWEST:
            continue
        if last is None or (lows[n] - last) % 12:
            found[n] = 1.0 if lows[n] <= lowest + 4 else 0.5
        last = lows[n]
    return found
