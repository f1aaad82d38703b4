"""A performance of the open song becomes a take of it: the hands that were played, kept at its chords."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from yellow_hinge.app.edits.own_hands import own_chords
from yellow_hinge.app.edits.state import State, changed_in
from yellow_hinge.app.edits.takes import added
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.hearing.grids import Grid
from yellow_hinge.core.hearing.hands import left_hands
from yellow_hinge.core.hearing.hear import turned, with_turn
from yellow_hinge.core.hearing.in_bars import Asked, Heard, InHands
from yellow_hinge.core.hearing.strikes import Tone, grouped
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.lines import STIFF
from yellow_hinge.core.numerics import Floats64, np
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, with_own_pattern, with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment, timeline
from yellow_hinge.core.symbols.symbol import parse_symbol

ENOUGH = 0.7  # share of bars from which it is the open song that was played
NAME = "As played"
_GRIDS_TRIED, _NEAR_TEMPO = 12, 0.2
_MOST_ENTERED, _FINGERS = 2000, 5
_AGAIN = 0.6  # what it costs that all notes of a strike are new and it is still the same chord
_SKIPPED = 0.35  # what a chord that was not played costs, in strikes
ENOUGH_NOTES = 0.6


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


def as_take(state: State, heard: Heard, place: Place, pattern: str) -> State:
    """The state with a take of the hands that were played, shown, in the rhythm that they were played in (a pattern of
    the player's own, called `pattern`). Raises UserError where there are too many takes.
    """
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
    return changed_in(made, keeps=(*others, *keeps.values()), playing=_in_rhythm(made.playing, heard, pattern))


def _in_rhythm(playing: Playing, heard: Heard, own: str) -> Playing:
    """The playing in the rhythm of a performance; as it was where none was heard."""
    grid = heard.grid
    if grid is None or not (heard.left or heard.right):
        return playing
    pattern = Pattern(
        own, NAME, beats=grid.size, bar=True, left=heard.left, right=heard.right, cut=True, pedal="chord",
        swing=grid.kind == "swing",
    )  # fmt: skip
    plain = with_pattern(playing, WHOLE_SONG, "both", "")
    return with_pattern(with_own_pattern(plain, pattern), WHOLE_SONG, "both", own)


def stiff_kept(state: State, solution: Solution) -> frozenset[int]:
    """The stiff hinges between hands that are kept."""
    own = own_chords(state, solution)
    count = len(own)
    return frozenset(
        at for at, hinge in enumerate(solution.hinges)
        if hinge.motion >= STIFF and own[at] and own[(at + 1) % count]
    )  # fmt: skip


# --- hands entered by playing, in time or not ---


def in_order(tones: list[Tone], hands: Hands, song: Song, first: int, last: int) -> tuple[Keep, ...]:
    """The hands of chords `first` to `last` of a song (in the order of playing), played one after the other in any
    time: what was struck is laid along the chords so that most of it sounds in them, and a chord that was struck again,
    or broken, counts once. () where too little of it is these chords.
    """
    moments = [moment for moment in timeline(song) if moment.chord is not None][first : last + 1]
    row = sorted(tones)[:_MOST_ENTERED]
    left = left_hands(row, hands) if row else []
    groups = grouped(row)
    struck: dict[int, list[int]] = {}
    along = _along([tuple(row[n].midi for n in group) for group in groups], moments)
    for place, group in zip(along, groups, strict=True):
        struck.setdefault(place, []).extend(group)
    keeps: dict[int, Keep] = {}
    for place, own in sorted(struck.items()):
        if place >= 0:
            moment = moments[place]
            both = [tuple(sorted({row[n].midi for n in own if left[n] is hand}))[-_FINGERS:] for hand in (True, False)]
            keeps.setdefault(moment.slot_id, Keep(moment.slot_id, moment.symbol, both[0], both[1]))
    return tuple(keeps.values())


def _along(grabs: list[tuple[int, ...]], moments: list[Moment]) -> list[int]:
    """The chord (its place) that each strike is of: ascending, the most notes in their chords; -1 for all where too few
    of the notes are.
    """
    if not grabs or not moments:
        return [-1] * len(grabs)
    fits = np.array([[_fit(grab, moment) for moment in moments] for grab in grabs])
    best, ways = fits[0] - _SKIPPED * np.arange(len(moments)), []
    for n, (before, grab) in enumerate(pairwise(grabs), 1):
        new = len(set(grab) - set(before)) / len(grab)
        reached, came = _onward(best, _AGAIN * new if len(grab) > 2 else 0.0, _AGAIN / 2 if new == 0 else 0.0)
        best = reached + fits[n]
        ways.append(came)
    path = [int(best.argmax())]
    for came in reversed(ways):
        path.append(came[path[-1]])
    path = path[::-1]
    return path if np.mean([fits[n, at] for n, at in enumerate(path)]) >= ENOUGH_NOTES else [-1] * len(grabs)


def _onward(best: Floats64, stay: float, go: float) -> tuple[Floats64, list[int]]:
    """What every chord is worth where the next strike is of it, and from which chord it came: the same one, the one
    before, or one further back, whose chords between were skipped. `stay` and `go` are what the first two cost.
    """
    reached, came = np.empty(len(best)), []
    far = (-np.inf, 0)  # the best one further back, beside what skipping from the first chord costs
    for place in range(len(best)):
        if place >= 2:
            far = max(far, (float(best[place - 2]) + _SKIPPED * (place - 1), place - 2))
        ways = [(float(best[place]) - stay, place), (far[0] - _SKIPPED * place - go, far[1])]
        ways += [(float(best[place - 1]) - go, place - 1)] if place else []
        reached[place], back = max(ways)
        came.append(back)
    return reached, came


def _fit(grab: tuple[int, ...], moment: Moment) -> float:
    """The share of a strike's notes that are the chord's, its bass a little more."""
    assert moment.chord is not None
    pcs = {*moment.chord.pitch_classes, moment.chord.bass_note.pc}
    inside = sum(midi % 12 in pcs for midi in grab) / len(grab)
    return inside + (0.1 if min(grab) % 12 == moment.chord.bass_note.pc else 0.0)


def _at(chords: list[InHands], moment: Moment) -> InHands | None:
    """What was played where a chord begins, if it is that chord."""
    here = next((c for c in chords if c.beat <= moment.beat < c.beat + c.beats), None)
    if here is None or not _same_root(here, moment) or not (here.left or here.right):
        return None
    return here
