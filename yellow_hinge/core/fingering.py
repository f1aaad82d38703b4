"""Fingers for every note of a hand, chosen for a whole song: the row of fingerings of least strain, by an exact step
from chord to chord. Estimates of the house for a hand that reaches a ninth; thumb = 1, spans in mm between key centres.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations, pairwise
from typing import NamedTuple

from yellow_hinge.core.hands import BLACK, KEY_X
from yellow_hinge.core.numerics import NDArray, np

Fingers = tuple[int, ...]
Notes = tuple[int, ...]
FINGER_NAMES = ("", "thumb", "index", "middle", "ring", "little")


class Fingered(NamedTuple):
    """The fingers of both hands, in the order of their notes."""

    left: Fingers
    right: Fingers

    def of(self, hand: str) -> Fingers:
        """The fingers of one hand."""
        return self.left if hand == "left" else self.right


# Between two fingers: the least and most comfortable span, and the natural one.
SPANS = {
    (1, 2): (15.0, 88.0, 58.0), (1, 3): (35.0, 118.0, 56.0), (1, 4): (55.0, 142.0, 100.0), (1, 5): (80.0, 166.0, 125.0),
    (2, 3): (14.0, 48.0, 26.0), (2, 4): (35.0, 72.0, 47.0), (2, 5): (52.0, 96.0, 75.0), (3, 4): (14.0, 36.0, 25.0),
    (3, 5): (33.0, 72.0, 52.0), (4, 5): (14.0, 48.0, 27.0),
}  # fmt: skip
# Strain for every mm outside the comfortable span, with the thumb and without, and away from the natural one.
THUMB_MM, FINGER_MM, NATURAL_MM = 0.04, 0.07, 0.008
WEAK_PAIR, WEAK_PAIR_NEAR, NEAR_MM = 0.13, 0.4, 30.0  # ring and little finger side by side
NO_THUMB_TWO, NO_THUMB, NO_LITTLE, NO_LITTLE_LEFT_TWO = 0.15, 0.6, 0.35, 0.35
THUMB_BLACK, THUMB_BLACK_WIDE, WIDE_MM = 0.35, 0.25, 95.0  # free where the little finger is on black too
LITTLE_BLACK = 0.1
WEAK_SECONDS = 0.8  # middle, ring and little finger all within seconds
BETWEEN_BLACK = 0.3  # a finger on white between two held black keys
ALONE = {"right": (0.12, 0.05, 0.0, 0.08, 0.1), "left": (0.3, 0.4, 0.4, 0.35, 0.0)}  # one note under each finger
ALONE_THUMB_BLACK = 0.3
# From one chord to the next.
CHANGED = 1.5  # a key that stays under another finger
SHAPE_CHANGED = 0.15  # a finger that differs where the same shape moves
MOVED_MM = 0.004  # of the whole hand
SAME_TOP = 0.15  # two notes of the top line in a row under the little finger
NATURAL_X = (0.0, 0.0, 58.0, 80.0, 100.0, 125.0)  # where fingers lie from the thumb


def strain(fingers: Fingers, notes: Notes, hand: str) -> float:
    """How hard it is to hold some notes (MIDI, ascending) with some fingers."""
    if not notes:
        return 0.0
    black = [note % 12 in BLACK for note in notes]
    if len(notes) == 1:
        return ALONE[hand][fingers[0] - 1] + (ALONE_THUMB_BLACK if fingers[0] == 1 and black[0] else 0.0)
    total = sum(_between(pair, span) for pair, span in zip(pairwise(fingers), _spans(notes), strict=True))
    return total + _ends(fingers, notes, hand, black) + _cramped(fingers, notes, black)


def _spans(notes: Notes) -> list[float]:
    return [float(KEY_X[b] - KEY_X[a]) for a, b in pairwise(notes)]


def _between(pair: tuple[int, int], span: float) -> float:
    low, high = min(pair), max(pair)
    least, most, natural = SPANS[low, high]
    outside = max(0.0, least - span, span - most)
    total = outside * (THUMB_MM if low == 1 else FINGER_MM) + NATURAL_MM * abs(span - natural)
    if (low, high) == (4, 5):
        total += WEAK_PAIR_NEAR if span < NEAR_MM else WEAK_PAIR
    return total


def _left_out(fingers: Fingers, count: int, hand: str) -> float:
    total = 0.0
    if 1 not in fingers:
        total += NO_THUMB_TWO if count == 2 else NO_THUMB
    if 5 not in fingers:
        total += NO_LITTLE if count > 2 else NO_LITTLE_LEFT_TWO if hand == "left" else 0.0
    return total


def _ends(fingers: Fingers, notes: Notes, hand: str, black: list[bool]) -> float:
    """Strain of a hand without its outer fingers, or with them on black keys."""
    total = _left_out(fingers, len(notes), hand)
    thumb = 1 in fingers and black[fingers.index(1)]
    little = 5 in fingers and black[fingers.index(5)]
    if thumb and not little:
        wide = float(KEY_X[notes[-1]] - KEY_X[notes[0]]) > WIDE_MM
        total += THUMB_BLACK_WIDE if sum(black) > 1 or wide else THUMB_BLACK
    return total + (LITTLE_BLACK if little and not thumb else 0.0)


def _cramped(fingers: Fingers, notes: Notes, black: list[bool]) -> float:
    total = 0.0
    if {3, 4, 5} <= set(fingers):
        weak = [notes[fingers.index(finger)] for finger in (3, 4, 5)]
        total += WEAK_SECONDS if max(weak) - min(weak) <= 4 else 0.0
    for below, at, above in zip(notes, notes[1:], notes[2:], strict=False):
        if above - below <= 3 and below % 12 in BLACK and above % 12 in BLACK and at % 12 not in BLACK:
            total += BETWEEN_BLACK
    return total


@lru_cache(maxsize=8192)
def fingerings(notes: Notes, hand: str) -> tuple[tuple[Fingers, ...], NDArray[np.float64]]:
    """Every way to put fingers on up to five notes without crossing them, and the strain of each. Those with the thumb
    side first, so that ties go there.
    """
    ways = [tuple(choice) for choice in combinations((1, 2, 3, 4, 5), len(notes))]
    if hand == "left":
        ways = [way[::-1] for way in ways]
    found = tuple(sorted(ways))
    return found, np.round([strain(way, notes, hand) for way in found], 6)


def _same_shape(old: Notes, new: Notes) -> bool:
    return len(old) == len(new) > 1 and len({b - a for a, b in zip(old, new, strict=True)}) == 1


@lru_cache(maxsize=8192)
def _change(old: Notes, new: Notes, hand: str) -> NDArray[np.float64]:
    """Strain (ways of old, ways of new) of going from each fingering to each."""
    before, after = fingerings(old, hand)[0], fingerings(new, hand)[0]
    table = np.zeros((len(before), len(after)))
    if not old or not new:
        return table
    stay = [(old.index(note), new.index(note)) for note in set(old) & set(new)]
    same_shape = _same_shape(old, new)
    stepping = hand == "right" and old[-1] != new[-1]
    for i, one in enumerate(before):
        for j, other in enumerate(after):
            price = CHANGED * sum(one[a] != other[b] for a, b in stay)
            price += SHAPE_CHANGED * sum(a != b for a, b in zip(one, other, strict=True)) if same_shape else 0.0
            price += MOVED_MM * abs(_place(new, other, hand) - _place(old, one, hand))
            price += SAME_TOP if stepping and one[-1] == other[-1] == 5 else 0.0
            table[i, j] = round(price, 6)
    return table


@lru_cache(maxsize=65536)
def _place(notes: Notes, fingers: Fingers, hand: str) -> float:
    """Where the thumb of a hand lies, in mm, as all its fingers tell."""
    way = 1.0 if hand == "right" else -1.0
    return float(sum(KEY_X[n] - way * NATURAL_X[f] for n, f in zip(notes, fingers, strict=True))) / len(notes)


def fingered(chords: Sequence[Notes], hand: str, loop: bool = False) -> tuple[Fingers, ...]:
    """A fingering for each of a hand's chords in a row (MIDI, ascending; () where it rests), of least strain in all;
    `loop`: the last one leads back to the first. `hand` is "left" or "right".
    """
    if not chords:
        return ()
    own = [fingerings(notes, hand) for notes in chords]
    changes = [_change(a, b, hand) for a, b in pairwise(chords)]
    first = own[0][1]
    if not loop or len(chords) == 1:
        path, _ = _cheapest(own, changes, first)
    else:
        closing = _change(chords[-1], chords[0], hand)
        tries = []
        for start in range(len(first)):
            only = np.where(np.arange(len(first)) == start, first, np.inf)
            tries.append(_cheapest(own, changes, only, closing[:, start]))
        path = min(tries, key=lambda found: found[1])[0]
    return tuple(ways[at] for (ways, _), at in zip(own, path, strict=True))


def _cheapest(
    own: list[tuple[tuple[Fingers, ...], NDArray[np.float64]]], changes: list[NDArray[np.float64]],
    first: NDArray[np.float64], closing: NDArray[np.float64] | None = None,
) -> tuple[list[int], float]:  # fmt: skip
    """(the way of every chord, the sum) of the cheapest row that begins at the price of `first`."""
    reached, came = first, []
    for change, (_, here) in zip(changes, own[1:], strict=True):
        ways = reached[:, None] + change
        came.append(ways.argmin(0))
        reached = ways.min(0) + here
    if closing is not None:
        reached = reached + closing
    at = int(reached.argmin())
    total, path = float(reached[at]), [at]
    for back in reversed(came):
        path.append(int(back[path[-1]]))
    return path[::-1], total


def fingered_between(
    before: tuple[Notes, Fingers] | None, notes: Notes, after: tuple[Notes, Fingers] | None, hand: str
) -> Fingers:
    """The fingering of a hand's chord between two neighbours whose fingers are known; None where there is none."""
    ways, price = fingerings(notes, hand)
    if before is not None:
        price = price + _change(before[0], notes, hand)[fingerings(before[0], hand)[0].index(before[1])]
    if after is not None:
        price = price + _change(notes, after[0], hand)[:, fingerings(after[0], hand)[0].index(after[1])]
    return ways[int(price.argmin())]


@lru_cache(maxsize=8192)
def parted(notes: Notes, hand: str) -> Fingers:
    """The fingers of a left or right hand that strikes its lowest note by itself and the rest together after it."""
    rest = fingered((notes[1:],), hand)[0]
    return (5 if hand == "left" else 1, *rest) if notes else ()


@lru_cache(maxsize=8192)
def alone(left: Notes, right: Notes) -> Fingered:
    """The fingers of both hands of a chord by itself."""
    return Fingered(fingered((left,), "left")[0], fingered((right,), "right")[0])
