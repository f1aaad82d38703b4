"""Putting forms on the keys: every octave that a hand, its keyboard and the family's register allow."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.hands import KEY_X, TOLERANCE_MM, Hands, reach_mm
from yellow_hinge.core.numerics import Int32s, Int64s, NDArray, Places, later, np
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms

Ints = Int32s
Bits = Int64s
SIZE = 5  # most notes of a hand
PAD = -1


class HandSet(msgspec.Struct, frozen=True):
    """Every placing of one hand for a chord.

    pitches (n, SIZE) MIDI ascending, PAD after the last note; count, low, high (n,), with low 128 and high -1 for a
    resting hand; mask (n,) bit k set for pitch class k. Rows are unique and sorted, by the number of notes and then by
    the lower ones, so that ties always break the same way. Rows that keeps add stand last.
    """

    pitches: Ints
    count: Ints
    low: Ints
    high: Ints
    mask: Ints

    def notes(self, index: int) -> tuple[int, ...]:
        """The MIDI notes of one placing, ascending."""
        return tuple(int(p) for p in self.pitches[index, : self.count[index]])

    def take(self, rows: NDArray[np.intp] | NDArray[np.bool_] | slice) -> HandSet:
        """The placings at some rows only."""
        return HandSet(self.pitches[rows], self.count[rows], self.low[rows], self.high[rows], self.mask[rows])

    def __len__(self) -> int:
        return len(self.count)


class Rows(NamedTuple):
    """Placings of one hand for some chords, chord after chord: `of` (n,) says whose each one is, `rules` (n, rules)
    which rules of the forms allow it.
    """

    hand: HandSet
    of: Places
    rules: NDArray[np.bool_]

    def take(self, rows: NDArray[np.intp] | NDArray[np.bool_] | slice) -> Rows:
        """Some of the placings only."""
        return Rows(self.hand.take(rows), self.of[rows], self.rules[rows])

    def edges(self, chords: int) -> list[int]:
        """Where the placings of each chord begin, and where the last one's end."""
        found: list[int] = np.searchsorted(self.of, np.arange(chords + 1)).tolist()
        return found

    def of_each(self, chords: int) -> list[HandSet]:
        """The placings of each chord by themselves."""
        return [self.hand.take(slice(a, b)) for a, b in itertools.pairwise(self.edges(chords))]


class _Table(NamedTuple):
    """What a hand of so many notes at most plays under some rules: offsets (f, SIZE) above the root, the rule of each
    (f,), and the rules under which it rests.
    """

    offsets: Ints
    rule: Places
    rests: tuple[int, ...]


@lru_cache(maxsize=4096)
def _table(forms: tuple[Forms, ...], hand: str, most: int) -> _Table:
    rows, rules, rests = [], [], []
    for index, entry in enumerate(forms):
        for form in entry.left if hand == "left" else entry.right:
            if 0 < len(form) <= min(most, SIZE):
                rows.append(form + (PAD,) * (SIZE - len(form)))
                rules.append(index)
            elif not form:
                rests.append(index)
    return _Table(np.array(rows, np.int32).reshape(-1, SIZE), np.array(rules, np.intp), tuple(rests))


def hand_set(pitches: Ints) -> HandSet:
    """The HandSet of rows (n, SIZE) of MIDI numbers."""
    sounding = pitches != PAD
    count = sounding.sum(1).astype(np.int32)
    low = np.where(count > 0, pitches[:, 0], 128).astype(np.int32)
    high = np.where(count > 0, pitches.max(1), -1).astype(np.int32)
    mask = np.bitwise_or.reduce(np.where(sounding, 1 << (pitches % 12), 0), 1).astype(np.int32)
    return HandSet(pitches, count, low, high, mask)


class PlacingRoom(NamedTuple):
    """Where a hand may play: lift moves the family's registers by semitones; extra are hands (MIDI) that every rule
    takes, wherever they lie; top is a MIDI number that has to be the right hand's highest note.
    """

    hands: Hands
    mine: bool
    lift: int = 0
    extra: tuple[tuple[int, ...], ...] = ()
    top: int | None = None


THEIR_BASS_TOP = 48  # where somebody else has the bass, the left hand stays at this MIDI number or above


def _window(shape: Shape, hand: str, room: PlacingRoom) -> tuple[int, int, int]:
    """(least lowest, most lowest, most highest) note of a family's hand."""
    low, high = (shape.left_low, shape.left_high) if hand == "left" else (shape.right_low, shape.right_high)
    lift = room.lift if hand == "right" else room.lift // 2
    least = low[0] + max(0, lift)
    if hand == "left" and not room.mine:
        least = max(least, THEIR_BASS_TOP)
    return least, low[1] + lift, high + lift


class Placing(NamedTuple):
    """One hand that is to be put on the keys, over a root pitch class."""

    forms: tuple[Forms, ...]
    shapes: tuple[Shape, ...]
    hand: str
    root: int
    room: PlacingRoom


class _Keys(NamedTuple):
    """Where the forms of one hand come to lie: the lowest root (MIDI) and how many octaves of it, the windows of its
    rules (rules, 3), its keyboard's ends, and the widest span by the number of notes.
    """

    first: int
    octaves: int
    windows: list[tuple[int, int, int]]
    compass: tuple[int, int]
    limits: tuple[float, ...]


@lru_cache(maxsize=256)
def _limits(hands: Hands, hand: str) -> tuple[float, ...]:
    return tuple(hands.limit(hand, notes) for notes in range(SIZE + 1))


def _keys(asked: Placing) -> _Keys:
    room, hand = asked.room, asked.hand
    by_family = {index: _window(asked.shapes[index], hand, room) for index in {e.family for e in asked.forms}}
    windows = [by_family[entry.family] for entry in asked.forms]
    bottom, top = room.hands.compass
    first = max(bottom, min(window[0] for window in windows))
    lowest = asked.root + 12 * ((first - asked.root) // 12 - 1)
    octaves = max(0, (max(window[1] for window in windows) - lowest) // 12 + 1)
    return _Keys(lowest, octaves, windows, (bottom, top), _limits(room.hands, hand))


def place_forms(asked: Sequence[Placing]) -> Rows:
    """Every placing of some hands, one after the other: made in one pass, since each of them is small."""
    tables = [_table(each.forms, each.hand, each.room.hands.most(each.hand)) for each in asked]
    keys = [_keys(each) for each in asked]
    forms = np.repeat(np.arange(len(asked)), [len(table.offsets) for table in tables])
    octaves = np.array([key.octaves for key in keys])[forms]
    number = np.repeat(np.arange(len(forms)), octaves)
    of = forms[number]
    octave = np.arange(len(number)) - np.repeat(np.cumsum(octaves) - octaves, octaves)
    base = (np.array([key.first for key in keys])[of] + 12 * octave).astype(np.int32)
    rows = np.concatenate([table.offsets for table in tables])[number]
    rows = rows + (rows != PAD) * base[:, None]
    rule = np.concatenate([table.rule for table in tables])[number]
    found = _with_others(_within(_Found(rows.astype(np.int32), rule, of), keys), asked, tables)
    return _merged(found, max(len(each.forms) for each in asked))


class _Found(NamedTuple):
    """Placings as they are found: rows (n, SIZE), the rule of each (n,), ANY for all, and whose they are (n,)."""

    rows: Ints
    rule: Places
    of: Places

    def take(self, at: NDArray[np.bool_]) -> _Found:
        """Some of them only."""
        return _Found(self.rows[at], self.rule[at], self.of[at])

    def and_also(self, rows: Ints, rule: Places | list[int], of: Places | list[int]) -> _Found:
        """With others."""
        return _Found(np.concatenate([self.rows, rows]), np.append(self.rule, rule), np.append(self.of, of))


ANY = -1


def _within(found: _Found, keys: list[_Keys]) -> _Found:
    """The rows that lie on the keyboard, in their family's register and within reach."""
    begins = np.cumsum([0, *(len(key.windows) for key in keys[:-1])])
    window = np.array([window for key in keys for window in key.windows], np.int32)[found.rule + begins[found.of]]
    compass = np.array([key.compass for key in keys], np.int32)[found.of]
    low, high = found.rows[:, 0], found.rows.max(1)
    inside = (low >= np.maximum(window[:, 0], compass[:, 0])) & (low <= window[:, 1])
    inside &= high <= np.minimum(window[:, 2], compass[:, 1])
    found, low, high = found.take(inside), low[inside], high[inside]
    limits = np.array([key.limits for key in keys])[found.of, (found.rows != PAD).sum(1)]
    return found.take(KEY_X[high] - KEY_X[low] <= limits)


def _with_others(found: _Found, asked: Sequence[Placing], tables: list[_Table]) -> _Found:
    """With the hands that rest, those under an asked top note, and those that are taken in by hand."""
    rests = [(rule, n) for n, table in enumerate(tables) for rule in table.rests]
    if rests:
        resting = np.full((len(rests), SIZE), PAD, np.int32)
        found = found.and_also(resting, [rule for rule, _ in rests], [n for _, n in rests])
    if any(each.room.top is not None and each.hand == "right" for each in asked):
        found = _topped(found, asked)
    for n, each in enumerate(asked):
        for notes in each.room.extra:
            found = found.and_also(_row(notes), [ANY], [n])
    return found


def _row(notes: tuple[int, ...]) -> Ints:
    return np.array([[*notes, *(PAD,) * (SIZE - len(notes))]], np.int32)


def _topped(found: _Found, asked: Sequence[Placing]) -> _Found:
    """The placings whose highest note is the asked one, and those below it with that note laid on top; where none is
    asked, as they are.
    """
    tops = [-1 if each.room.top is None or each.hand == "left" else each.room.top for each in asked]
    rows, top = found.rows, np.array(tops, np.int32)[found.of]
    most = np.array([each.room.hands.right_notes for each in asked])[found.of]
    reach = np.array([reach_mm(each.room.hands.right_reach) + TOLERANCE_MM for each in asked])[found.of]
    count, high = (rows != PAD).sum(1), rows.max(1)
    span = KEY_X[top] - KEY_X[np.where(count > 0, rows[:, 0], top)]
    below = (top >= 0) & (high < top) & (count < most) & (span <= reach)
    laid = rows[below]
    laid[np.arange(len(laid)), count[below]] = top[below]
    return found.take((top < 0) | (high == top)).and_also(laid, found.rule[below], found.of[below])


def one_hand(notes: tuple[int, ...]) -> HandSet:
    """The HandSet of one placing (MIDI, ascending) that belongs to no rule."""
    return hand_set(_row(notes))


_CODE: Int64s = later(lambda: 128 ** np.arange(SIZE - 1, -1, -1, dtype=np.int64))


_CODE_BITS = 38  # that a row's number takes


def _codes(rows: Ints) -> Bits:
    """A number for each row that sorts as the rows do."""
    count = (rows != PAD).sum(1, dtype=np.int64)
    codes: Bits = count * 128**SIZE + ((rows + 1).astype(np.int64) * _CODE).sum(1)
    return codes


def _merged(found: _Found, rules: int) -> Rows:
    """Equal placings of a chord as one, in their order."""
    codes = (found.of.astype(np.int64) << _CODE_BITS) + _codes(found.rows)
    _, first, which = np.unique(codes, return_index=True, return_inverse=True)
    allows = np.zeros((len(first), rules), bool)
    which, every = which.ravel(), found.rule == ANY
    allows[which[~every], found.rule[~every]] = True
    allows[which[every]] = True
    return Rows(hand_set(found.rows[first]), found.of[first], allows)


def find_rows(hand: HandSet, rows: Ints) -> NDArray[np.intp]:
    """The index of each of `rows` (n, SIZE) in a hand set, -1 where it is not there."""
    if not len(hand):
        return np.full(len(rows), -1, np.intp)
    have, asked = _codes(hand.pitches), _codes(rows)
    at = np.minimum(np.searchsorted(have, asked), len(have) - 1)
    return np.where(have[at] == asked, at, -1)


@lru_cache(maxsize=4096)
def _pair_table(entry: Forms) -> tuple[Ints, Ints]:
    lefts = np.concatenate([_row(pair[0]) for pair in entry.pairs])
    rights = np.concatenate([_row(pair[1]) for pair in entry.pairs])
    return lefts, rights


def tied_rows(entry: Forms, root: int, left: HandSet, right: HandSet) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Row and column of every placing of a tied rule's pairs that both hand sets hold."""
    lefts, rights = _pair_table(entry)
    rows, columns = [], []
    for base in range(root, 108, 12):
        l = find_rows(left, np.where(lefts == PAD, PAD, np.minimum(lefts + base, 127)))
        r = find_rows(right, np.where(rights == PAD, PAD, np.minimum(rights + base, 127)))
        both = (l >= 0) & (r >= 0)
        rows.append(l[both])
        columns.append(r[both])
    return np.concatenate(rows), np.concatenate(columns)
