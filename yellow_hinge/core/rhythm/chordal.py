"""What a stroke names, as keys: the notes of a voicing, and what a pattern adds to them (fifths, octaves, steps)."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.pitch.key import Key, key_on
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.rhythm.walking import LOWEST, approach, near, walked
from yellow_hinge.core.symbols.chord import Chord

LOW_BASS = 38  # D2: a bass lower than it has its fifth above

Keys = tuple[tuple[str, int], ...]  # (hand, MIDI number), low to high


class Chordal(NamedTuple):
    """A chord as the hands hold it, and what comes after it. `ceiling`: what the left hand adds stays below it;
    `next_bass` and `next_top` are None where no chord follows; `goes_on`: the next one is the same.
    """

    left: tuple[int, ...]
    right: tuple[int, ...]
    chord: Chord
    key: Key
    hands: Hands
    mine: bool
    next_bass: int | None = None
    next_top: int | None = None
    goes_on: bool = False
    upper: str = "right"  # the hand that holds `right`: the left one where the right rests beside a bass player

    @property
    def ceiling(self) -> int:
        """The key that what the left hand adds stays below."""
        return self.right[0] if self.right else self.hands.compass[1] + 1

    def of(self, hand: str) -> tuple[int, ...]:
        """The notes of the "left" or "right" hand."""
        return self.right if hand == "right" else self.left

    def reaches(self, hand: str, notes: tuple[int, ...]) -> bool:
        """Whether a hand can strike notes (ascending) together."""
        return span_mm(notes) <= self.hands.limit(hand, len(notes)) and len(notes) <= 5


def _left(keys: tuple[int, ...]) -> Keys:
    return tuple(("left", key) for key in keys)


def _right(keys: tuple[int, ...]) -> Keys:
    return tuple(("right", key) for key in keys)


# --- one hand ---
def degree(c: Chordal, note: int) -> str:
    """The degree of a key in its chord, without its sign."""
    return c.chord.degree_of(note % 12).lstrip("b#")


def is_guide(c: Chordal, note: int) -> bool:
    """Whether a key is the chord's third or seventh."""
    return degree(c, note) in ("3", "7")


def nth(notes: tuple[int, ...], number: int) -> tuple[int, ...]:
    """The note of a number from below; beyond the highest it turns back, so that a rocking hand rocks on."""
    turn = max(1, 2 * (len(notes) - 1))
    at = (number - 1) % turn
    return (notes[at if at < len(notes) else turn - at],)


def _alt(c: Chordal, notes: tuple[int, ...]) -> tuple[int, ...]:
    """The hand's second bass note: a fifth or an octave above its lowest, its root; else the lowest again."""
    low = notes[0]
    for by in (7, 12):
        if low + by in notes:
            return (low + by,)
    return (next((n for n in notes[1:] if (n - c.chord.root.pc) % 12 == 0), low),)


def _guides(c: Chordal, notes: tuple[int, ...]) -> tuple[int, ...]:
    return tuple(n for n in notes if is_guide(c, n)) or notes[1:] or notes


def _six(c: Chordal) -> tuple[int, ...]:
    """The lowest with the sixth, where the hand has a fifth there; else the lowest two."""
    low = c.left[0]
    sixth = low + (8 if {"b13", "b6"} & set(c.chord.degrees) else 9)
    return (low, sixth) if low + 7 in c.left and sixth < c.ceiling and c.reaches("left", (low, sixth)) else c.left[:2]


def _approach(c: Chordal) -> tuple[int, ...]:
    if c.next_bass is None or c.goes_on:
        return ()
    if c.next_bass == c.left[0]:
        return c.left[:1]  # the bass stays
    found = approach(c.left[0], c.next_bass, c.key, c.chord)
    return (found,) if found < c.ceiling else ()


def _fifth(c: Chordal) -> tuple[int, ...]:
    """The chord's own fifth as a second low bass, below the hand's lowest or above it; over another bass than the
    root, where it would be one more inversion, the lowest again.
    """
    low = c.left[0]
    fifth = next((d for d in ("5", "b5", "#5") if d in c.chord.degrees), None)
    if fifth is None or (low - c.chord.root.pc) % 12:
        return (low,)
    above = low + degree_pc(fifth)
    below = above - 12
    return (below,) if below >= LOWEST and (low > LOW_BASS or above >= (c.left[1:] or (128,))[0]) else (above,)


HandWord = Callable[[Chordal, tuple[int, ...]], tuple[int, ...]]
_HAND: dict[str, HandWord] = {
    "all": lambda c, n: n, "low": lambda c, n: n[:1], "top": lambda c, n: n[-1:],
    "2": lambda c, n: nth(n, 2), "3": lambda c, n: nth(n, 3), "4": lambda c, n: nth(n, 4),
    "2?": lambda c, n: n[1:2], "3?": lambda c, n: n[2:3], "4?": lambda c, n: n[3:4],
    "rest": lambda c, n: n[1:] or n, "in": lambda c, n: n[:-1] or n, "second": lambda c, n: n[-2:-1] or n,
    "guides": _guides, "pair": lambda c, n: n[:2], "alt": _alt,
}  # fmt: skip


# --- what is added to a hand ---
def stepped(notes: tuple[int, ...], key: Key) -> tuple[int, ...]:
    """Every note at the next step of the key above it."""
    return tuple(next(up for up in range(note + 1, note + 4) if near(up, key)) for note in notes)


MODES = {
    "minor": "dorian", "dominant": "mixolydian", "suspended": "mixolydian", "major": "lydian",
    "half-diminished": "locrian",
}  # fmt: skip


@lru_cache(maxsize=256)
def mode_of(chord: Chord, key: Key) -> Key:
    """Where a chord's steps are: in the key where its notes are, else in its own mode."""
    steps = {note.pc for note in key.scale}
    mode = MODES.get(chord.chord_class)
    return key if mode is None or steps >= {pc % 12 for pc in chord.pitch_classes} else key_on(chord.root.pc, mode)


def _step(c: Chordal) -> tuple[int, ...]:
    moved = tuple(sorted(set(stepped(c.right, mode_of(c.chord, c.key)))))
    return moved if len(moved) == len(c.right) and c.reaches(c.upper, moved) else c.right


def _below(c: Chordal) -> tuple[int, ...]:
    moved = tuple(note - 1 for note in c.right)
    return moved if c.reaches(c.upper, moved) and moved[0] > (c.left[-1] if c.left else 0) else c.right


# What a suspension holds up, by the degrees that move and by how many semitones: of the first that the hand has.
_SUSPENDED = ((("3", 1), ("7", 1)), (("3", 1),), (("b3", -1),), (("1", 2),))


def _is_new(moved: tuple[int, ...], old: tuple[int, ...]) -> bool:
    """Whether notes that moved bring another one, none of them a half step from the next."""
    gaps = [b - a for a, b in itertools.pairwise(moved)]
    return bool({note % 12 for note in moved} - {note % 12 for note in old}) and min(gaps, default=2) >= 2


def _suspended(c: Chordal) -> tuple[int, ...]:
    """The right hand with a fourth for its major third (over a major seventh the root for that, too), a second for its
    minor one, or a second for its root; where no two notes fall together.
    """
    names = {c.chord.degree_of(note): note for note in c.right}
    for moves in _SUSPENDED:
        if not names.keys() >= dict(moves).keys() or ("7" in names and moves == _SUSPENDED[1]):
            continue
        by = {names[degree]: step for degree, step in moves}
        moved = tuple(sorted(note + by.get(note, 0) for note in c.right))
        if _is_new(moved, c.right) and c.reaches(c.upper, moved):
            return moved
    return c.right


def _grace(c: Chordal) -> tuple[int, ...]:
    return (c.next_top - 1,) if c.next_top is not None and not c.goes_on else ()


# What the left hand strikes for what it adds, where a bass player has the bass.
BESIDE_BASS: dict[str, Callable[[tuple[int, ...]], tuple[int, ...]]] = {"+six": lambda n: n, "+fifth": lambda n: n[:1]}
_ADDED: dict[str, dict[str, Callable[[Chordal], tuple[int, ...]]]] = {
    "left": {"+approach": _approach, "+six": _six, "+fifth": _fifth},
    "right": {"+step": _step, "+below": _below, "+sus": _suspended, "+grace": _grace},
}


# --- both ---
def in_row(what: str, c: Chordal) -> list[tuple[str, int]]:
    """The notes of a broken chord, (hand, MIDI) in the order they are struck: the left hand's inner notes, then the
    right hand's; "down" the other way, without the highest.
    """
    up = [*_left(c.left[1:] if c.mine else c.left), *_right(c.right)]
    return up if what == "up" else up[-2::-1] if what == "down" else [*up, *up[-2::-1]]


def struck_keys(what: str, hand: str, c: Chordal) -> Keys:
    """What a stroke names, struck together; () where there is nothing of it. A walk and the rows (ROWS) are single
    notes one after the other and not among them.
    """
    notes = c.right if hand == "right" else c.left
    if not notes:
        return ()
    added = _ADDED[hand].get(what)
    if added is not None and (hand == "right" or c.mine):
        keys = added(c)
    elif what in _HAND:
        keys = _HAND[what](c, notes)
    else:
        keys = BESIDE_BASS[what](notes) if what in BESIDE_BASS else ()
    return tuple((hand, key) for key in keys)


def walk_keys(c: Chordal, count: int) -> tuple[int, ...]:
    """`count` notes of a walking bass from the left hand's bass to the next chord's; of the bass alone where another
    has it.
    """
    return walked(c.left[0], c.next_bass, count, c.chord, c.key, (c.hands.compass[0], c.ceiling - 1))
