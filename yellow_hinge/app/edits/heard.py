"""A performance of the open song becomes a take of it: the hands that were played, kept at its chords."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.edits.state import State, changed_in
from yellow_hinge.app.edits.takes import added
from yellow_hinge.core.hearing.grids import Grid
from yellow_hinge.core.hearing.hear import Asked, Heard, InHands, turned, with_turn
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment, timeline
from yellow_hinge.core.symbols.symbol import parse_symbol

ENOUGH = 0.7  # share of bars from which it is the open song that was played
NAME = "As played"
_GRIDS_TRIED, _NEAR_TEMPO = 12, 0.2


class Place(NamedTuple):
    """The bars of a song (from 0, in the order of playing) that were played, and how many of them begin alike."""

    first: int
    bars: int
    alike: float


def _bars(song: Song) -> list[list[Moment]]:
    """The chords of every bar in the order of playing."""
    rows: list[list[Moment]] = []
    for moment in timeline(song):
        if moment.slot == 0 or not rows:
            rows.append([])
        rows[-1].append(moment)
    return rows


def _heard_bars(heard: Heard) -> dict[int, list[InHands]]:
    rows: dict[int, list[InHands]] = {}
    for chord in heard.chords:
        rows.setdefault(chord.bar, []).append(chord)
    return rows


def found_in(heard: Heard, song: Song) -> Place | None:
    """Where in a song a performance lies; None where it is not this song."""
    rows, bars = _heard_bars(heard), _bars(song)
    if not rows or not bars:
        return None
    low, high = min(rows), max(rows)
    best = Place(0, 0, 0.0)
    for shift in range(-low, len(bars) - low):
        pairs = [(row, bars[bar + shift]) for bar, row in rows.items() if 0 <= bar + shift < len(bars)]
        alike = sum(_same_root(chords[0], moments[0]) for chords, moments in pairs) / len(rows)
        if alike > best.alike:
            best = Place(low + shift, min(high - low + 1, len(bars) - low - shift), alike)
    return best if best.alike >= ENOUGH else None


def matched(heard: Heard, song: Song, asked: Asked) -> Heard:
    """The same performance in the grid in which its bars are most like those of a song that was played, where it is
    like them in one.
    """
    tried = [grid for grid in _with_turns(heard.grids, song) if grid.size == song.meter.beats]
    ways = [heard, *(turned(heard, grid, asked) for grid in tried[:_GRIDS_TRIED])]
    best = max(ways, key=lambda way: _alike(way, song))
    if best.grid is None or best.grid.size != song.meter.beats or not song.meter.compound:
        return best
    return best._replace(grids=(best.grid._replace(kind="three"), *best.grids[1:]))


def _with_turns(grids: tuple[Grid, ...], song: Song) -> list[Grid]:
    """The grids, and the best ones in the same bars with as many beats as the song's, at half and twice their tempo."""
    found = []
    for grid in grids[:3]:
        double, half = with_turn(grid, "double"), with_turn(grid, "half")
        found += [double._replace(size=2 * grid.size, first=2 * grid.first), double]
        found += [half._replace(size=max(1, grid.size // 2), first=grid.first // 2), half]
    return [*(grid for grid in found if grid.size == song.meter.beats), *grids]


def _alike(heard: Heard, song: Song) -> float:
    """How like a performance is to a song: its bars' roots, its meter, its tempo."""
    place, grid = found_in(heard, song), heard.grid
    if place is None or grid is None:
        return 0.0
    meter = grid.size == song.meter.beats
    tempo = abs(60 / grid.period / song.tempo - 1) < _NEAR_TEMPO
    return place.alike * min(1.0, place.bars / 4) + 0.01 * place.bars + 0.1 * meter + 0.1 * tempo


def _same_root(chord: InHands, moment: Moment) -> bool:
    """Whether a chord may be the one that is written: by its name, or by what else it may be where that is doubtful."""
    heard = chord.chord.chord
    if heard is None or moment.chord is None:
        return False
    others = chord.chord.others if chord.chord.doubtful else ()
    return moment.chord.root.pc in {heard.root.pc, *(parse_symbol(symbol).root.pc for symbol in others)}


def as_take(state: State, heard: Heard, place: Place) -> State:
    """The state with a take of the hands that were played, shown. Raises UserError where there are too many takes."""
    made = added(state, NAME)
    rows = _heard_bars(heard)
    low = min(rows)
    keeps: dict[int, Keep] = {}
    for bar, moments in enumerate(_bars(state.song)[place.first : place.first + place.bars], low):
        for moment in moments:
            chord = _at(rows.get(bar, []), moment)
            if chord is not None and moment.slot_id not in keeps:
                keeps[moment.slot_id] = Keep(moment.slot_id, moment.symbol, chord.left[:5], chord.right[:5])
    others = tuple(keep for keep in made.keeps if keep.slot not in keeps)
    return changed_in(made, keeps=(*others, *keeps.values()))


def _at(chords: list[InHands], moment: Moment) -> InHands | None:
    """What was played where a chord begins, if it is that chord."""
    here = next((c for c in chords if c.beat <= moment.beat < c.beat + c.beats), None)
    if here is None or not _same_root(here, moment) or not (here.left or here.right):
        return None
    return here
