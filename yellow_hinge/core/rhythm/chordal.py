"""What a stroke names, as keys: the notes of a voicing, and what a pattern adds to them (fifths, octaves, steps)."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.key import Key
from yellow_hinge.core.rhythm.walking import approach, near, walked

Keys = tuple[tuple[str, int], ...]  # (hand, MIDI number), low to high
LOWEST_DOUBLED = 28  # E1: no octave is added below it


class Chordal(NamedTuple):
    """A chord as the hands hold it, and what comes after it. `ceiling`: what the left hand adds stays below it;
    `next_bass` and `next_top` are None where no chord follows.
    """

    left: tuple[int, ...]
    right: tuple[int, ...]
    chord: Chord
    key: Key
    hands: Hands
    mine: bool
    next_bass: int | None = None
    next_top: int | None = None
    upper: str = "right"  # the hand that holds `right`: the left one where the right rests beside a bass player

    @property
    def ceiling(self) -> int:
        """The key that what the left hand adds stays below."""
        return self.right[0] if self.right else self.hands.compass[1] + 1

    def reaches(self, hand: str, notes: tuple[int, ...]) -> bool:
        """Whether a hand can strike notes (ascending) together."""
        return span_mm(notes) <= self.hands.limit(hand, len(notes)) and len(notes) <= 5


def _left(keys: tuple[int, ...]) -> Keys:
    return tuple(("left", key) for key in keys)


def _right(keys: tuple[int, ...]) -> Keys:
    return tuple(("right", key) for key in keys)


# --- the left hand ---
def _doubled(c: Chordal) -> tuple[int, ...]:
    """The bass with its octave, below it where that is not too low."""
    bass = c.left[0]
    low, high = c.hands.compass[0], bass + 12
    if bass - 12 >= max(low, LOWEST_DOUBLED) and c.reaches("left", (bass - 12, bass)):
        return bass - 12, bass
    return (bass, high) if high < c.ceiling and c.reaches("left", (bass, high)) else (bass,)


def _octave(c: Chordal) -> int:
    """The bass an octave higher; where that is the right hand's, the chord's highest note below it, else the bass."""
    bass = c.left[0]
    own = (note for note in range(min(bass + 12, c.ceiling - 1), bass, -1) if note % 12 in c.chord.pitch_classes)
    return bass + 12 if bass + 12 < c.ceiling else next(own, bass)


def _above(c: Chordal, letters: tuple[str, ...], low: int, high: int) -> int | None:
    """The key `low` to `high` semitones over the bass that is one of the chord's degrees, below the right hand."""
    bass = c.left[0]
    for degree, pc in zip(c.chord.degrees, c.chord.pitch_classes, strict=True):
        if degree.lstrip("b#") in letters:
            found = bass + low + (pc - bass - low) % 12
            if found <= bass + high and found < c.ceiling:
                return found
    return None


def _over_root(c: Chordal) -> bool:
    return (c.left[0] - c.chord.root.pc) % 12 == 0


def _fifth(c: Chordal) -> int:
    """The chord's fifth over the bass; over another bass than the root a fifth that is in the chord; else the
    octave.
    """
    if _over_root(c):
        found = _above(c, ("5",), 6, 8)
        return found if found is not None else _octave(c)
    fifth = c.left[0] + 7
    return fifth if fifth % 12 in c.chord.pitch_classes and fifth < c.ceiling else _octave(c)


def _tenth(c: Chordal) -> int:
    """The chord's third a tenth over its root; over another bass the next of the hand's or chord's notes."""
    if _over_root(c) and (found := _above(c, ("3", "4"), 15, 17)) is not None:
        return found
    inner = c.left[1:]
    return inner[-1] if inner else _fifth(c)


def _sixth(c: Chordal) -> int:
    """A major sixth over the bass, a minor one over a minor chord's where its thirteenth is flat."""
    found = c.left[0] + (8 if "b13" in c.chord.degrees or "b6" in c.chord.degrees else 9)
    return found if found < c.ceiling else _fifth(c)


def _with_bass(c: Chordal, upper: int) -> tuple[int, ...]:
    pair = (c.left[0], upper)
    return pair if upper > c.left[0] and c.reaches("left", pair) else (c.left[0],)


def _mid(c: Chordal) -> tuple[int, ...]:
    return c.left[1:] or (_tenth(c),)


def _mid_top(c: Chordal) -> tuple[int, ...]:
    """The highest of the left hand where it opens wider than a fifth, else the tenth."""
    inner = c.left[1:]
    return inner[-1:] if inner and inner[-1] > c.left[0] + 8 else (_tenth(c),)


STRIDE = 50  # D3: about where a stride's chord begins


def _mid_up(c: Chordal) -> tuple[int, ...]:
    """The chord that answers a low bass: the left hand's inner notes where they say the chord, an octave up while that
    stays below the right hand; else its third and seventh (or fifth) there.
    """
    inner = c.left[1:]
    if not any(c.chord.degree_of(note).lstrip("b#") in ("3", "4", "2") for note in inner):
        found = (_near_stride(c, ("3", "4", "2")), _near_stride(c, ("7", "6", "5")))
        inner = tuple(sorted({note for note in found if note is not None})) or (_tenth(c),)
        return inner if c.reaches("left", inner) else inner[-1:]
    up = tuple(key + 12 for key in inner)
    return up if inner[0] < STRIDE + 3 and up[-1] < c.ceiling else inner


def _near_stride(c: Chordal, degrees: tuple[str, ...]) -> int | None:
    """The first of some degrees that the chord has, in the octave from STRIDE, or the one below the right hand."""
    for wanted in degrees:
        for degree, pc in zip(c.chord.degrees, c.chord.pitch_classes, strict=True):
            if degree.lstrip("b#") == wanted:
                note = STRIDE + (pc - STRIDE) % 12
                note = note if note < c.ceiling else note - 12
                if c.left[0] < note < c.ceiling:
                    return note
    return None


def _approach(c: Chordal) -> tuple[int, ...]:
    if c.next_bass is None:
        return ()
    found = approach(c.left[0], c.next_bass, c.key)
    return (found,) if found < c.ceiling else ()


_LEFT: dict[str, Callable[[Chordal], tuple[int, ...]]] = {
    "bass": lambda c: (c.left[0],), "oct": _doubled, "octave": lambda c: (_octave(c),), "5th": lambda c: (_fifth(c),),
    "6th": lambda c: (_sixth(c),), "10th": lambda c: (_tenth(c),), "mid": _mid, "midtop": _mid_top,
    "midup": _mid_up, "bass5": lambda c: _with_bass(c, _fifth(c)), "bass6": lambda c: _with_bass(c, _sixth(c)),
    "approach": _approach, "L": lambda c: c.left,
}  # fmt: skip
# What the left hand strikes of it where somebody else has the bass: its lowest note is no bass then.
_BESIDE = {"mid": "mid", "midtop": "midtop", "approach": "", "walk": "", "octave": "", "5th": "midtop"}


# --- the right hand ---
def stepped(notes: tuple[int, ...], key: Key) -> tuple[int, ...]:
    """Every note at the next step of the key above it."""
    return tuple(next(up for up in range(note + 1, note + 4) if near(up, key)) for note in notes)


def _step(c: Chordal) -> tuple[int, ...]:
    moved = tuple(sorted(set(stepped(c.right, c.key))))
    return moved if len(moved) == len(c.right) and c.reaches(c.upper, moved) else c.right


def _below(c: Chordal) -> tuple[int, ...]:
    moved = tuple(note - 1 for note in c.right)
    return moved if c.reaches(c.upper, moved) and moved[0] > (c.left[-1] if c.left else 0) else c.right


def _suspended(c: Chordal) -> tuple[int, ...]:
    """The right hand with a fourth for its third, or a second for its root, where that note is not in it already."""
    names = {c.chord.degree_of(note): note for note in c.right}
    for degree, by in (("3", 1), ("b3", 2), ("1", 2)):
        note = names.get(degree)
        if note is None or ({"9", "b9"} if degree == "1" else {"4", "11"}) & set(names):
            continue
        moved = tuple(sorted(note + by if key == note else key for key in c.right))
        gaps = [b - a for a, b in itertools.pairwise(moved)]
        if min(gaps, default=2) >= 2 and c.reaches(c.upper, moved):
            return moved
    return c.right


def _grace(c: Chordal) -> tuple[int, ...]:
    return (c.next_top - 1,) if c.next_top is not None else ()


_RIGHT: dict[str, Callable[[Chordal], tuple[int, ...]]] = {
    "R": lambda c: c.right, "low": lambda c: c.right[:1], "top": lambda c: c.right[-1:],
    "in": lambda c: c.right[:-1] or c.right, "second": lambda c: c.right[-2:-1] or c.right, "step": _step,
    "below": _below, "sus": _suspended, "grace": _grace,
}  # fmt: skip


# --- both ---
def in_row(what: str, c: Chordal) -> list[tuple[str, int]]:
    """The notes of a broken chord, (hand, MIDI) in the order they are struck: the left hand's inner notes, then the
    right hand's; "down" the other way, without the highest.
    """
    up = [*_left(c.left[1:] if c.mine else c.left), *_right(c.right)]
    return up if what == "up" else up[-2::-1]


def struck_keys(what: str, hand: str, c: Chordal) -> Keys:
    """What a stroke names, struck together; () where there is nothing of it. "walk", "up" and "down" are rows of
    single notes and not among them.
    """
    if hand == "right":
        return _right(_RIGHT[what](c)) if c.right else ()
    if not c.left:
        return ()
    if not c.mine:
        what = _BESIDE.get(what, "L")
    return _left(_LEFT[what](c)) if what else ()


def walk_keys(c: Chordal, count: int) -> tuple[int, ...]:
    """`count` notes of a walking bass from the left hand's bass to the next chord's; of the bass alone where another
    has it.
    """
    return walked(c.left[0], c.next_bass, count, c.chord, c.key, (c.hands.compass[0], c.ceiling - 1))
