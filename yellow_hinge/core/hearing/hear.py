"""A performance becomes what is written: beats and bars, chords with both hands, their rhythm, the tune."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

from yellow_hinge.core.hands import Hands
from yellow_hinge.core.hearing.grids import Grid, grids, steady
from yellow_hinge.core.hearing.hands import left_hands
from yellow_hinge.core.hearing.notes import Beats, Played, beats_of, rows_of
from yellow_hinge.core.hearing.readings import HeardChord, HeardChords, heard_chords
from yellow_hinge.core.hearing.stretches import Listening
from yellow_hinge.core.hearing.strikes import Strikes, Tone, grouped, strikes_of
from yellow_hinge.core.hearing.strokes import InBar, pattern_of
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.symbol import parse_symbol

_KEPT, _LIKELY = 14, 4  # grids that are judged by their chords, and more at a tempo that is likely
_LISTENED = 60.0  # seconds that grids are judged by
_BY_CHORDS = 1.5  # how much the chords count beside the grid's own price
_LEAD = 0.18  # a beat, by which the next grid is dearer where one is sure
_FEWEST = 4  # strikes from which anything is sure
_ROLLED = 0.07  # seconds between the first and the last note of a chord from which it is rolled
_OVER = 0.1  # seconds for which a note of the line may sound over the next one
_SHORT = 0.5  # seconds up to which the pedal makes a note longer
MOST = 60_000


class Asked(NamedTuple):
    """What is known: the player's hands, whether somebody else has the bass, a click (quarters a minute, 0 for none), a
    meter, a key, and about how fast it was (felt beats a minute, 0 where nothing is known).
    """

    hands: Hands = Hands()
    theirs: bool = False
    click: float = 0.0
    meter: tuple[int, int] | None = None
    key: Key | None = None
    about: float = 0.0


class InHands(NamedTuple):
    """A chord that was heard: seconds, its bar and beat from 1, its beats, and what both hands play of it."""

    start: float
    end: float
    bar: int
    beat: int
    beats: int
    chord: HeardChord
    left: tuple[int, ...]
    right: tuple[int, ...]


class ByHand(NamedTuple):
    """A note with the hand that played it."""

    tone: Tone
    left: bool


class Heard(NamedTuple):
    """What a performance is. `grids` are all that it may be played in, the best first; `alone`: one line, no chords."""

    grids: tuple[Grid, ...]
    key: Key | None
    sure: float
    chords: tuple[InHands, ...]
    left: str
    right: str
    notes: tuple[ByHand, ...]
    alone: bool

    @property
    def grid(self) -> Grid | None:
        """The grid that it is written in."""
        return self.grids[0] if self.grids else None

    @property
    def bars(self) -> int:
        """How many bars were played: up to the last chord, of a line all of them."""
        whole = -(-(len(self.grid.beats) - 1) // self.grid.size) if self.grid is not None else 0
        return max((chord.bar for chord in self.chords), default=whole)

    @property
    def words(self) -> str:
        """Bars, meter, key and tempo in words; "" where no beats were heard."""
        if self.grid is None:
            return ""
        upper, lower = self.grid.meter
        key = f" in {self.key}" if self.key is not None else ""
        swung = ", swung" if self.grid.kind == "swing" else ""
        count = "1 bar" if self.bars == 1 else f"{self.bars} bars"
        return f"{count} of {upper}/{lower}{key}, {60 / self.grid.period:.0f} beats a minute{swung}"


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
    return _in_grid(found, row, left, asked, alone)


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
    return _in_grid([grid, *others], row, left, asked, heard.alone)


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
    _, price = Listening(rows_of(_in_beats([tone for tone in row if tone.on < end], part)), _bars(part)).cut(
        asked.theirs
    )
    return price * (len(grid.beats) - 1) / max(1, len(part.beats) - 1)


def _in_beats(row: list[Tone], grid: Grid) -> list[Played]:
    places = np.arange(len(grid.beats))
    on = np.interp([tone.on for tone in row], grid.beats, places)
    off = np.interp([tone.off for tone in row], grid.beats, places)
    return [Played(float(a), float(b), tone.midi, tone.velocity) for a, b, tone in zip(on, off, row, strict=True)]


def _bars(grid: Grid) -> Beats:
    """The beats in bars; what is before the first one is the end of a bar."""
    count = len(grid.beats) - 1
    whole = -(-(count + grid.before) // grid.size)
    made = beats_of([grid.size] * whole, grid.before)
    return Beats(made.places[:count], made.lengths[:count])


def _in_grid(found: list[Grid], row: list[Tone], left: list[bool], asked: Asked, alone: bool) -> Heard:
    grid = found[0]
    bars = _bars(grid)
    played = _in_beats(row, grid)
    chords = HeardChords([], None) if alone else heard_chords(played, bars, asked.theirs, asked.key)
    notes = tuple(ByHand(tone, mine) for tone, mine in zip(row, left, strict=True))
    made = tuple(_in_hands(grid, bars, chords.chords, played, left))
    rolled = _rolled(row, left)
    first, second = (_rhythm(grid, played, left, made, hand, rolled) for hand in (True, False))
    return Heard(tuple(found), asked.key or chords.key, _sure(found, row, asked), made, first, second, notes, alone)


def _sure(found: list[Grid], row: list[Tone], asked: Asked) -> float:
    """How sure the beats and bars are: by how much the next grid is dearer, a beat."""
    if len({round(tone.on, 1) for tone in row}) < _FEWEST:
        return 0.0
    lead = found[1].price - found[0].price if len(found) > 1 else _LEAD * len(found[0].beats)
    return round(max(0.0, min(1.0, lead / (_LEAD * max(1, len(found[0].beats) - 1)) + 0.3 * bool(asked.click))), 3)


def _in_hands(
    grid: Grid, bars: Beats, chords: list[HeardChord], played: list[Played], left: list[bool]
) -> Iterator[InHands]:
    """The chords with what the hands strike of each; what they hold, where nothing is struck."""
    for chord in chords:
        if chord.chord is None:
            continue
        every = list(zip(played, left, strict=True))
        here = [each for each in every if _within(each[0], chord)]
        here = here or [each for each in every if each[0].start < chord.start and each[0].end > chord.start + 0.5]
        hands = (tuple(sorted({note.midi for note, mine in here if mine is hand})) for hand in (True, False))
        bar, beat = divmod(chord.start + grid.before, grid.size)
        start, end = float(grid.beats[chord.start]), float(grid.beats[chord.end])
        yield InHands(start, end, bar + 1, beat + 1, chord.end - chord.start, chord, *hands)


def _within(note: Played, chord: HeardChord) -> bool:
    """Whether a note is struck with a chord: in it, or early and held over its beginning."""
    early = chord.start - 0.55 <= note.start < chord.start - 0.12 and note.end > chord.start + 0.5
    return chord.start - 0.12 <= note.start < chord.end - 0.12 or early


def _rolled(row: list[Tone], left: list[bool]) -> dict[int, tuple[int, int]]:
    """Of every note of a rolled chord the chord's first note, and in how many milliseconds its hand rolls."""
    found: dict[int, tuple[int, int]] = {}
    for group in grouped(row):
        if row[group[-1]].on - row[group[0]].on < _ROLLED:
            continue
        for hand in (True, False):
            own = [n for n in group if left[n] is hand]
            spread = round((row[own[-1]].on - row[own[0]].on) * 1000) if own else 0
            found |= {n: (group[0], spread) for n in own}
    return found


def _rhythm(
    grid: Grid, played: list[Played], left: list[bool], chords: tuple[InHands, ...], hand: bool,
    rolled: dict[int, tuple[int, int]],
) -> str:  # fmt: skip
    """What a hand does in most bars."""
    notes = []
    for n, (note, mine) in enumerate(zip(played, left, strict=True)):
        if mine is hand:
            first, roll = rolled.get(n, (n, 0))
            start = played[first].start
            bar, beat = divmod(start + grid.before + 0.08, grid.size)
            notes.append(InBar(int(bar) + 1, max(0.0, beat - 0.08), note.end - start, note.midi, roll))
    whole = {chord.bar: chord.left if hand else chord.right for chord in reversed(chords)}
    return pattern_of(notes, whole, grid.kind, grid.size)
