"""The names of heard chords and their key together: what the key likes, and how roots move."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.hearing.notes import Beats, Played, Rows, rows_of
from yellow_hinge.core.hearing.stretches import Listening, Stretch
from yellow_hinge.core.numerics import Floats64, Places, later, np
from yellow_hinge.core.pitch.key import Key, fifths, key_on
from yellow_hinge.core.pitch.pitch import flat_note
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.keyfinding import find_key, step_points
from yellow_hinge.core.symbols.naming import name_of, named_qualities
from yellow_hinge.core.symbols.quality import chord_class

# Points for a root that moves up so many semitones: a fifth down (up a fourth) is liked best.
_MOVES: Floats64 = later(lambda: np.array([0, 0.5, 0.0, 0.3, 0.4, -1.0, 0.6, -0.2, 0.4, 0.1, 0.3, -0.4]))
_KEY, _MOVE = 0.25, 0.2  # how much the key and the moves of roots count beside what sounds
_KEY_THEIRS, _MOVE_THEIRS = 0.6, 0.6
_ENDS = 0.6
_MOST_OTHERS = 3


DOUBTFUL = 0.5  # how sure, below which something is said to be doubtful


class HeardChord(NamedTuple):
    """Beats `start` to `end` and the chord that sounds there (None: nothing does), how sure it is (0 to 1), and what
    else it may be, the likeliest first.
    """

    start: int
    end: int
    chord: Chord | None
    symbol: str
    sure: float
    others: tuple[str, ...]

    @property
    def doubtful(self) -> bool:
        """Whether a player should look it over."""
        return self.sure < DOUBTFUL


class HeardChords(NamedTuple):
    """The chords of some bars, and the key that they are in (None for no chords)."""

    chords: list[HeardChord]
    key: Key | None


@lru_cache(maxsize=256)
def _class_of(row: int) -> str:
    return chord_class(named_qualities()[row])


@lru_cache(maxsize=24)
def _points(tonic: int, minor: bool) -> Floats64:
    """(12, qualities): the points of every chord in a key."""
    qualities = named_qualities()
    return np.array([[step_points(Chord(flat_note(r), q), tonic, minor) for q in qualities] for r in range(12)])


class _Columns(NamedTuple):
    """The readings of a stretch as columns."""

    prices: Floats64
    roots: Places
    rows: Places


def _columns(stretch: Stretch) -> _Columns:
    prices, roots, rows = zip(*stretch.readings, strict=True)
    return _Columns(np.array(prices), np.array(roots), np.array(rows))


def _settled(columns: list[_Columns], tonic: int, minor: bool, key: float, move: float) -> tuple[float, list[int]]:
    """The cheapest readings of all stretches in one key: (price, the reading of each)."""
    points = _points(tonic, minor)
    back: list[Places] = []
    price = np.zeros(0)
    for n, (prices, roots, rows) in enumerate(columns):
        own = prices - key * points[roots, rows]
        if n in (0, len(columns) - 1):
            own = own - key * _ENDS * (roots == tonic)
        if n:
            before = columns[n - 1].roots
            ways = price[:, None] + move * _MOVES[(roots[None, :] - before[:, None]) % 12]
            back.append(ways.argmin(0))
            own = own + ways.min(0)
        price = own
    path = [int(price.argmin())]
    for way in reversed(back):
        path.append(int(way[path[-1]]))
    return float(price.min()), path[::-1]


def _sure(stretch: Stretch, at: int) -> float:
    """How far the next other chord is behind, and how well this one fits."""
    price, root, row = stretch.readings[at]
    mine = (root, _class_of(row))
    rivals = [p for p, other, q in stretch.readings if (other, _class_of(q)) != mine]
    gap = min(rivals, default=price + 3.0) - price
    return max(0.0, 1 - math.exp(-max(0.0, gap) / 1.5)) * math.exp(-max(0.0, price - 1.5) / 4)


def _others(stretch: Stretch, at: int, key: Key | None) -> tuple[str, ...]:
    _, root, row = stretch.readings[at]
    seen, found = {(root, _class_of(row))}, []
    for _, other, q in stretch.readings:
        if (other, _class_of(q)) not in seen:
            seen.add((other, _class_of(q)))
            found.append(name_of(other, q, stretch.bass, key).symbol)
    return tuple(found[:_MOST_OTHERS])


def _key_by(rows: list[tuple[Stretch, int]]) -> Key | None:
    chords: list[tuple[Chord, float]] = []
    for stretch, at in rows:
        _, root, q = stretch.readings[at]
        chord, beats = Chord(flat_note(root), named_qualities()[q]), float(stretch.end - stretch.start)
        if chords and chords[-1][0] == chord:
            chords[-1] = (chord, chords[-1][1] + beats)
        else:
            chords.append((chord, beats))
    guess = find_key(chords)
    return guess.key if guess is not None else None


def _scale(key: Key | None) -> frozenset[int] | None:
    if key is None:
        return None
    found = {note.pc for note in key.scale}
    return frozenset(found | ({(key.tonic.pc + 11) % 12} if key.is_minor else set()))


def heard_chords(
    notes: list[Played], beats: Beats, theirs: bool = False, key: Key | None = None, cut: str = ""
) -> HeardChords:
    """The chords under some notes in known bars. `theirs`: somebody else plays the bass; `key`: one that is known;
    `cut`: what a chord lasts at least, out of CUTS.
    """
    found = _stretches(rows_of(notes), beats, theirs, key, cut) if notes else []
    named = [stretch for stretch in found if stretch.readings]
    path = _path(named, theirs, key) if named else []
    at = dict(zip((stretch.start for stretch in named), path, strict=True))
    final = key or _key_by([(stretch, at[stretch.start]) for stretch in named])
    final = final if final is None or abs(fifths(final)) <= 6 else key_on(final.tonic.pc, final.mode)
    return HeardChords([_told(stretch, at, final, theirs) for stretch in found], final)


def _stretches(rows: Rows, beats: Beats, theirs: bool, key: Key | None, cut: str) -> list[Stretch]:
    """The stretches; without a known key once more in the one that they are in."""
    listening = Listening(rows, beats)
    found, _ = listening.cut(theirs, _scale(key), cut)
    first = _key_by([(stretch, 0) for stretch in found if stretch.readings]) if key is None else None
    return listening.cut(theirs, _scale(first), cut)[0] if first is not None else found


def _path(named: list[Stretch], theirs: bool, key: Key | None) -> list[int]:
    """Of every stretch the reading that suits the others in the key that all suit best."""
    weights = (_KEY_THEIRS, _MOVE_THEIRS) if theirs else (_KEY, _MOVE)
    every = [(pc, minor) for minor in (False, True) for pc in range(12)]
    keys = every if key is None else [(key.tonic.pc, key.is_minor)]
    columns = [_columns(stretch) for stretch in named]
    return min((_settled(columns, *each, *weights) for each in keys), key=lambda each: each[0])[1]


def _told(stretch: Stretch, at: dict[int, int], key: Key | None, theirs: bool) -> HeardChord:
    if not stretch.readings:
        return HeardChord(stretch.start, stretch.end, None, "", 1.0, ())
    place = at[stretch.start]
    _, root, row = stretch.readings[place]
    name = name_of(root, row, None if theirs else stretch.bass, key)
    return HeardChord(
        stretch.start,
        stretch.end,
        name.chord,
        name.symbol,
        round(_sure(stretch, place), 3),
        _others(stretch, place, key),
    )
