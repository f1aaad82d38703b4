"""A performance becomes what is written: beats and bars, chords with both hands, their rhythm, the tune."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from yellow_hinge.core.hearing.grids import Grid, grids, steady
from yellow_hinge.core.hearing.hands import left_hands
from yellow_hinge.core.hearing.in_bars import Asked, ByHand, Heard, bars_of, in_beats, in_grid
from yellow_hinge.core.hearing.notes import rows_of
from yellow_hinge.core.hearing.stretches import Listening
from yellow_hinge.core.hearing.strikes import Strikes, Tone, grouped, strikes_of
from yellow_hinge.core.numerics import np
from yellow_hinge.core.symbols.symbol import parse_symbol

_KEPT, _LIKELY = 14, 4  # grids that are judged by their chords, and more at a tempo that is likely
_LISTENED = 60.0  # seconds that grids are judged by
_BY_CHORDS = 1.5  # how much the chords count beside the grid's own price
_OVER = 0.1  # seconds for which a note of the line may sound over the next one
_SHORT = 0.5  # seconds up to which the pedal makes a note longer
MOST = 60_000


NOTHING = Heard((), None, 0.0, (), "", "", (), True)


def hear(tones: list[Tone], asked: Asked = Asked(), pedals: tuple[tuple[float, float], ...] = ()) -> Heard:  # noqa: B008
    """What was played. `pedals` are when the pedal went down and up (seconds). Never sure of almost nothing."""
    row = sorted(_held(tones, pedals))[:MOST]
    if not row:
        return NOTHING
    alone = _is_line(row)
    found = _grids(row, asked)
    if not found:
        return NOTHING._replace(notes=tuple(ByHand(tone, False) for tone in row), alone=alone)
    left = [False] * len(row) if alone else left_hands(row, asked.hands)
    return in_grid(found, row, left, asked, alone)


def named_otherwise(heard: Heard, place: int, symbol: str) -> Heard:
    """The performance with another name for a chord (its place among them), sure now; what it was is among the
    others.
    """
    there = heard.chords[place]
    others = tuple(dict.fromkeys((there.chord.symbol, *(o for o in there.chord.others if o != symbol))))
    named = there.chord._replace(chord=parse_symbol(symbol), symbol=symbol, sure=1.0, others=others)
    return heard._replace(chords=(*heard.chords[:place], there._replace(chord=named), *heard.chords[place + 1 :]))


def top_line(heard: Heard) -> tuple[Tone, ...]:
    """The upper line of the right hand: the highest note of each of its strikes, a quieter one under a note that is
    held over it left out.
    """
    row = sorted(note.tone for note in heard.notes if not note.left)
    found: list[Tone] = []
    for group in grouped(row):
        top = max((row[n] for n in group), key=lambda tone: tone.midi)
        if not found or found[-1].off - top.on < _OVER or top.midi > found[-1].midi:
            found.append(top)
    return tuple(found)


def turned(heard: Heard, grid: Grid, asked: Asked = Asked()) -> Heard:  # noqa: B008 - frozen
    """The same performance in another grid."""
    others = tuple(other for other in heard.grids if other is not grid)
    row, left = [note.tone for note in heard.notes], [note.left for note in heard.notes]
    return in_grid([grid, *others], row, left, asked, heard.alone)


def with_turn(grid: Grid, turn: str) -> Grid:
    """A grid turned as a player asks: every second beat, twice as many, three a bar, the one a beat earlier or later,
    the next number of beats a bar.
    """
    if turn == "half" and len(grid.beats) > 8:
        return grid._replace(beats=grid.beats[grid.first % 2 :: 2], first=grid.first // 2 % grid.size)
    if turn == "double":
        middles = (grid.beats[:-1] + grid.beats[1:]) / 2
        beats = np.sort(np.concatenate([grid.beats, middles]))
        return grid._replace(beats=beats, first=2 * grid.first % grid.size)
    if turn in ("earlier", "later"):
        return grid._replace(first=(grid.first + (1 if turn == "later" else -1)) % grid.size)
    if turn in ("three", "meter"):
        size = 3 if turn == "three" else {2: 3, 3: 4}.get(grid.size, 2)
        return grid._replace(size=size, first=grid.first % size)
    return grid


def _held(tones: list[Tone], pedals: tuple[tuple[float, float], ...]) -> Iterator[Tone]:
    """Notes; short ones that are let go under the pedal sound until it comes up."""
    for tone in tones:
        up = next((up for down, up in pedals if down <= tone.off < up), tone.off)
        yield tone._replace(off=up) if tone.off - tone.on < _SHORT else tone


def _is_line(row: list[Tone]) -> bool:
    """Whether one note sounds at a time."""
    over = sum(b.on < a.off - 0.08 for a, b in pairwise(row))
    return over <= 0.05 * len(row)


def _grids(row: list[Tone], asked: Asked) -> list[Grid]:
    """The grids that the performance may be in, judged by their chords too."""
    strikes = strikes_of(row)
    if len(strikes.times) < 3:
        return []
    tried = _tried(strikes, max(tone.off for tone in row), asked)
    if _quarters(asked.meter) > 1:
        tried = [grid._replace(kind="three") for grid in tried]
    judged = (grid._replace(price=grid.price + _BY_CHORDS * _chords_price(grid, row, asked)) for grid in tried)
    return sorted(judged, key=lambda grid: grid.price)


def _tried(strikes: Strikes, end: float, asked: Asked) -> list[Grid]:
    """The grids whose chords are worth hearing: of the click, else of the meter and the likely tempo."""
    size = _size(asked.meter)
    if asked.click:
        return _unlike(steady(strikes, 60 / asked.click * _quarters(asked.meter), end, (size,) if size else (2, 3, 4)))
    found = [grid for grid in grids(strikes, end) if not size or grid.size == size]
    likely = grids(strikes, end, 60 / asked.about) if asked.about else []
    return _unlike(found) + _unlike(likely)[:_LIKELY]


def _unlike(found: list[Grid]) -> list[Grid]:
    """The best grids that are not nearly the same."""
    best: dict[tuple[int, int, int], Grid] = {}
    for grid in found:
        best.setdefault((round(math.log(grid.period) * 25), grid.size, grid.first), grid)
        if len(best) == _KEPT:
            break
    return list(best.values())


def _quarters(meter: tuple[int, int] | None) -> float:
    """Quarters of a felt beat."""
    return 1.5 if meter is not None and meter[1] == 8 and meter[0] % 3 == 0 else 1.0


def _size(meter: tuple[int, int] | None) -> int:
    """Felt beats in a bar of a meter; 0 for none."""
    if meter is None:
        return 0
    return meter[0] // 3 if meter[1] == 8 and meter[0] % 3 == 0 else meter[0]


def _chords_price(grid: Grid, row: list[Tone], asked: Asked) -> float:
    """What the chords cost in a grid; of a long performance by its first minute."""
    count = int(np.searchsorted(grid.beats, row[0].on + _LISTENED))
    part = grid._replace(beats=grid.beats[: max(4, count)])
    end = part.beats[-1]
    _, price = Listening(rows_of(in_beats([tone for tone in row if tone.on < end], part)), bars_of(part)).cut(
        asked.theirs
    )
    return price * (len(grid.beats) - 1) / max(1, len(part.beats) - 1)
