"""The chords under played notes: the cheapest way to cut known bars into stretches of whole beats, each of one chord.

Prices are those of naming; the others were searched on performances of charts of ours (docs/decisions/hearing.md).
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.hearing.chord_prices import Seen, chord_prices, pitch_tables
from yellow_hinge.core.hearing.notes import Beats, Floats, Rows
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.symbols.naming import named_qualities

_CHANGE_HALF, _CHANGE_BEAT, _EACH, _EASE, _EASE_ALL, _OVER = 1.6, 3.2, 0.3, 0.3, 0.1, 1.5
_SILENT, _NEVER = 0.8, 1e6
_KEPT, _NEAR = 40, 4.0  # readings that are kept of a stretch, and how much dearer than the best they may be
_BARS_AT_ONCE = 32
_LOWEST_OF_RIGHT = 60


class Stretch(NamedTuple):
    """Beats `start` to `end` (from 0) that one chord sounds over: its readings (price, root, quality's row), cheapest
    first, () where nothing sounds; `bass` a pitch class, -1 for none.
    """

    start: int
    end: int
    bass: int
    readings: tuple[tuple[float, int, int], ...]


def _seen(rows: Rows, spans: list[tuple[int, int]]) -> Seen:
    count = len(spans)
    seen = Seen(np.zeros((count, 12)), np.zeros((count, 12)), np.full(count, -1), np.zeros((count, 12)))
    longest = float((rows.end - rows.start).max())
    for k, (i, j) in enumerate(spans):
        start, end, midi, weight, counts = _window(rows, i, j, longest)
        lengths = np.minimum(end, j) - np.maximum(start, i)
        struck = (start >= i - 1e-6) & (start < j - 0.05)
        held = start < i - 1e-6
        lengths = np.where((lengths > 0.05) & ~(held & (end - i < 0.3)), lengths, 0.0)
        lengths = np.where(held, lengths * 0.6, lengths)
        sounds = lengths > 0
        if not sounds.any():
            continue
        plain = np.where(sounds, np.minimum(lengths, 4) + 0.35 * struck, 0.0)
        seen.there[k] = np.minimum(1.0, np.bincount(midi % 12, plain * counts, 12) / 0.5)
        seen.salience[k] = np.minimum(1.25, np.bincount(midi % 12, plain * weight, 12) / (0.55 * (j - i) + 0.45))
        low = int(midi[sounds].min())
        first = sounds & (start < i + 0.6)
        lowest_first = int(midi[first].min()) if first.any() else 999
        bass = lowest_first if lowest_first <= low + 12 and lowest_first < _LOWEST_OF_RIGHT else low
        seen.bass[k] = bass % 12
        if j - i in (2, 4):  # another bass struck on the strong place inside
            middle = struck & sounds & (midi <= min(low + 9, 55)) & (np.abs(start - (i + (j - i) // 2)) < 0.1)
            for pc in {int(m) % 12 for m in midi[middle]} - {bass % 12}:
                seen.inner[k, pc] = 1.0
    return seen


def _off_key(scale: frozenset[int] | None) -> Floats | None:
    """(12, q): what a chord costs for its notes outside a scale."""
    if scale is None:
        return None
    outside = np.array([0.0 if pc in scale else 1.0 for pc in range(12)])
    return np.asarray(0.22 * np.minimum((1.0 - pitch_tables().absent) @ outside, 3), np.float64)


def _spans(rows: Rows, beats: Beats) -> Iterator[list[tuple[int, int]]]:
    """Every stretch inside a bar, some bars at once; a bar in which nothing sounds is one."""
    sounds = _sounding_beats(rows, beats.total)
    found: list[tuple[int, int]] = []
    bars = 0
    for i, (place, length) in enumerate(zip(beats.places, beats.lengths, strict=True)):
        if place == 0 or i == 0:
            bars += 1
            end = min(beats.total, i + length - place)
            silent = not sounds[i:end].any()
        if bars > _BARS_AT_ONCE:
            yield found
            found, bars = [], 1
        if not silent:
            found += [(i, i + more) for more in range(1, length - place + 1) if i + more <= beats.total]
        elif place == 0 or i == 0:
            found.append((i, end))
    yield found


def _sounding_beats(rows: Rows, count: int) -> NDArray[np.bool_]:
    """Of every beat whether something sounds in it."""
    edges = np.zeros(count + 2, int)
    np.add.at(edges, np.clip(np.floor(rows.start).astype(int), 0, count), 1)
    np.add.at(edges, np.clip(np.ceil(rows.end).astype(int) + 1, 0, count + 1), -1)
    return np.cumsum(edges)[:count] > 0


def _window(rows: Rows, begin: int, end: int, longest: float) -> Rows:
    """The notes that may sound between two beats."""
    low = int(np.searchsorted(rows.start, begin - longest))
    high = int(np.searchsorted(rows.start, end))
    part = slice(low, high)
    return Rows(rows.start[part], rows.end[part], rows.midi[part], rows.weight[part], rows.there[part])


def _all(seen: list[tuple[list[tuple[int, int]], Seen]], theirs: bool, scale: frozenset[int] | None) -> list[Stretch]:
    """Every stretch inside a bar with its readings."""
    found, off, wide = [], _off_key(scale), len(named_qualities())
    for spans, sounds in seen:
        flat = chord_prices(sounds, theirs, off).reshape(len(spans), -1)
        kept = np.argpartition(flat, _KEPT, axis=1)[:, :_KEPT]
        for k, (i, j) in enumerate(spans):
            if sounds.bass[k] < 0:
                found.append(Stretch(i, j, -1, ()))
                continue
            order = kept[k][np.lexsort((kept[k], flat[k][kept[k]]))]
            prices = flat[k][order]
            near = order[prices < prices[0] + _NEAR]
            roots, rows = np.divmod(near, wide)
            readings = zip(prices.tolist(), roots.tolist(), rows.tolist(), strict=False)
            found.append(Stretch(i, j, int(sounds.bass[k]), tuple(readings)))
    return found


def _eased(rows: Rows, beats: Beats) -> tuple[Floats, Floats]:
    """What a change costs less on a beat where a new bass is struck with a full chord; and on which beats all parts
    move together, counted up to each beat.
    """
    ease, moves = np.ones(beats.total + 1), np.zeros(beats.total + 1)
    for i in range(beats.total):
        struck = slice(*(int(n) for n in np.searchsorted(rows.start, (i - 0.05, i + 0.95))))
        midis, starts = rows.midi[struck], rows.start[struck]
        on = midis[np.abs(starts - i) < 0.05]
        if not len(on) or len(set((midis % 12).tolist())) < 3 or on.min() > midis.min() + 2:
            continue
        before = slice(*(int(n) for n in np.searchsorted(rows.start, (i - beats.lengths[i], i - 0.05))))
        earlier = rows.midi[before]
        lows = earlier[earlier <= earlier.min() + 12] if len(earlier) else earlier
        if _all_move(rows, i, on):
            ease[i] = _EASE_ALL
            moves[i] = 1.0
        elif not len(lows) or (int(on.min()) - int(lows[-1])) % 12:
            ease[i] = _EASE
    return ease, np.cumsum(moves)


def _all_move(rows: Rows, beat: int, on: NDArray[np.int64]) -> bool:
    """Whether all parts strike together on a beat, with two pitch classes at least that were not there before."""
    until = int(np.searchsorted(rows.start, beat - 0.05))
    if bool(np.any(rows.end[:until] > beat + 0.2)):
        return False
    last = rows.start[until - 1] if until else 0.0
    first = int(np.searchsorted(rows.start, last - 0.05))
    before = set((rows.midi[first:until] % 12).tolist())
    now = set((on % 12).tolist())
    return len(before) > 2 and len(now - before) > 1 and len(before - now) > 1


CUTS = ("", "bar", "half", "beat")  # what a chord lasts at least; "": as the prices say


def _price_of_change(place: int, length: int, cut: str) -> float:
    """What a new chord costs on a place of a bar of so many beats."""
    half = length % 2 == 0 and 2 * place == length
    if place == 0 or cut == "beat" or (cut == "half" and half):
        return 0.0
    if cut in ("bar", "half"):
        return _NEVER
    return _CHANGE_HALF if (length, place) == (4, 2) else _CHANGE_BEAT


class Listening:
    """Notes in known bars, looked at once; `cut` may be asked with one scale after the other."""

    def __init__(self, rows: Rows, beats: Beats) -> None:
        self.beats = beats
        self._seen = [(spans, _seen(rows, spans)) for spans in _spans(rows, beats)] if len(rows.start) else []
        self._ease, self._moves = _eased(rows, beats)

    def cut(
        self, theirs: bool = False, scale: frozenset[int] | None = None, least: str = ""
    ) -> tuple[list[Stretch], float]:
        """The cheapest way to cut the bars into stretches, and its price. `theirs`: somebody else plays the bass, so
        that roots may be missing; `scale` are the pitch classes of a key that is known; `least` what a chord lasts at
        least, out of CUTS.
        """
        count = self.beats.total
        price = np.full(count + 1, np.inf)
        price[0] = 0.0
        back: list[Stretch | None] = [None] * (count + 1)
        for stretch in sorted(_all(self._seen, theirs, scale), key=lambda s: (s.end, s.start)):
            cost = price[stretch.start] + self._cost(stretch, least)
            if cost < price[stretch.end]:
                price[stretch.end], back[stretch.end] = cost, stretch
        found: list[Stretch] = []
        at = count
        while at > 0 and (last := back[at]) is not None:
            found.append(last)
            at = last.start
        return found[::-1], float(price[count])

    def _cost(self, stretch: Stretch, least: str) -> float:
        change = _price_of_change(self.beats.places[stretch.start], self.beats.lengths[stretch.start], least)
        own = stretch.readings[0][0] if stretch.readings else _SILENT
        over = self._moves[stretch.end - 1] - self._moves[stretch.start]  # where all moved, and no new chord is read
        return float(own + change * self._ease[stretch.start] + _EACH + _OVER * over)
