"""What was heard, in bars: the beats of a grid, both hands in them, and how sure that is."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.hands import Hands
from yellow_hinge.core.hearing.grids import Grid
from yellow_hinge.core.hearing.notes import Beats, Played, beats_of
from yellow_hinge.core.hearing.readings import HeardChord, HeardChords, heard_chords
from yellow_hinge.core.hearing.strikes import Tone, grouped
from yellow_hinge.core.hearing.strokes import InBar, pattern_of
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import Key

_LEAD = 0.18  # a beat, by which the next grid is dearer where one is sure
_FEWEST = 4  # strikes from which anything is sure
_ROLLED = 0.07  # seconds between the first and the last note of a chord from which it is rolled


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


def in_beats(row: list[Tone], grid: Grid) -> list[Played]:
    places = np.arange(len(grid.beats))
    on = np.interp([tone.on for tone in row], grid.beats, places)
    off = np.interp([tone.off for tone in row], grid.beats, places)
    return [Played(float(a), float(b), tone.midi, tone.velocity) for a, b, tone in zip(on, off, row, strict=True)]


def bars_of(grid: Grid) -> Beats:
    """The beats in bars; what is before the first one is the end of a bar."""
    count = len(grid.beats) - 1
    whole = -(-(count + grid.before) // grid.size)
    made = beats_of([grid.size] * whole, grid.before)
    return Beats(made.places[:count], made.lengths[:count])


def in_grid(found: list[Grid], row: list[Tone], left: list[bool], asked: Asked, alone: bool) -> Heard:
    grid = found[0]
    bars = bars_of(grid)
    played = in_beats(row, grid)
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
