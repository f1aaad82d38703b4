"""Putting forms on the keys: every octave that a hand, its keyboard and the family's register allow."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.hands import KEY_X, TOLERANCE_MM, Hands, reach_mm
from yellow_hinge.core.numerics import Int32s, Int64s, NDArray, later, np
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms

Ints = Int32s
Bits = Int64s
SIZE = 5  # most notes of a hand
PAD = -1


class HandSet(msgspec.Struct, frozen=True):
    """Every placing of one hand for a chord.

    pitches (n, SIZE) MIDI ascending, PAD after the last note; count, low, high (n,), with low 128 and high -1 for a
    resting hand; mask (n,) bit k set for pitch class k; rules (n,) bit i set where rule i of the forms allows it. Rows
    are unique and sorted, by the number of notes and then by the lower ones, so that ties always break the same way.
    Rows that keeps add stand last.
    """

    pitches: Ints
    count: Ints
    low: Ints
    high: Ints
    mask: Ints
    rules: Bits

    def notes(self, index: int) -> tuple[int, ...]:
        """The MIDI notes of one placing, ascending."""
        return tuple(int(p) for p in self.pitches[index, : self.count[index]])

    def take(self, rows: NDArray[np.intp]) -> HandSet:
        """The placings at some rows only."""
        return HandSet(
            self.pitches[rows], self.count[rows], self.low[rows], self.high[rows], self.mask[rows], self.rules[rows]
        )

    def __len__(self) -> int:
        return len(self.count)


@lru_cache(maxsize=4096)
def _table(forms: tuple[Forms, ...], hand: str) -> tuple[Ints, Ints, Bits]:
    """(offsets (f, SIZE), count (f,), rule (f,)) of one hand over all rules."""
    rows, rules = [], []
    for index, entry in enumerate(forms):
        for form in entry.left if hand == "left" else entry.right:
            if len(form) <= SIZE:
                rows.append(form + (PAD,) * (SIZE - len(form)))
                rules.append(index)
    table = np.array(rows, np.int32).reshape(-1, SIZE)
    return table, (table != PAD).sum(1).astype(np.int32), np.array(rules, np.int64)


def hand_set(pitches: Ints, rules: Bits) -> HandSet:
    """The HandSet of rows (n, SIZE) of MIDI numbers with the rule bits (n,) of each."""
    sounding = pitches != PAD
    count = sounding.sum(1).astype(np.int32)
    low = np.where(count > 0, pitches[:, 0], 128).astype(np.int32)
    high = np.where(count > 0, pitches.max(1), -1).astype(np.int32)
    mask = np.bitwise_or.reduce(np.where(sounding, 1 << (pitches % 12), 0), 1).astype(np.int32)
    return HandSet(pitches, count, low, high, mask, rules)


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


def place_forms(
    forms: tuple[Forms, ...], shapes: tuple[Shape, ...], hand: str, root: int, room: PlacingRoom
) -> HandSet:
    """Every placing of one hand over a root pitch class."""
    table, count, rule = _table(forms, hand)
    windows = [_window(shapes[entry.family], hand, room) for entry in forms]
    most = room.hands.most(hand)
    bottom, top = room.hands.compass
    first = max(bottom, min(window[0] for window in windows))
    last = max(window[1] for window in windows)
    bases = np.arange(root + 12 * ((first - root) // 12 - 1), last + 1, 12, dtype=np.int32)
    keep = (count > 0) & (count <= most)
    table = table[keep]
    rows = (table[:, None, :] + (table != PAD)[:, None, :] * bases[:, None]).reshape(-1, SIZE)
    rules = np.repeat(rule[keep], len(bases))
    low, high = rows[:, 0], rows.max(1)
    window = np.array(windows, np.int32)[rules]
    inside = (low >= np.maximum(window[:, 0], bottom)) & (low <= window[:, 1]) & (high <= np.minimum(window[:, 2], top))
    rows, rules, low, high = rows[inside], rules[inside], low[inside], high[inside]
    limits = np.array([room.hands.limit(hand, notes) for notes in range(SIZE + 1)])
    fits = KEY_X[high] - KEY_X[low] <= limits[(rows != PAD).sum(1)]
    rows, bits = rows[fits], np.int64(1) << rules[fits]
    for index in rule[count == 0]:
        rows = np.concatenate([rows, np.full((1, SIZE), PAD, np.int32)])
        bits = np.append(bits, np.int64(1) << index)
    if hand == "right" and room.top is not None:
        rows, bits = _topped(rows, bits, room)
    for notes in room.extra:
        rows = np.concatenate([rows, _row(notes)])
        bits = np.append(bits, np.int64(-1))
    return _merged(rows.astype(np.int32), bits.astype(np.int64))


def _row(notes: tuple[int, ...]) -> Ints:
    return np.array([[*notes, *(PAD,) * (SIZE - len(notes))]], np.int32)


def _topped(rows: Ints, bits: Bits, room: PlacingRoom) -> tuple[Ints, Bits]:
    """The placings whose highest note is the asked one, and those below it with that note laid on top."""
    assert room.top is not None
    count, high = (rows != PAD).sum(1), rows.max(1)
    already = high == room.top
    span = KEY_X[room.top] - KEY_X[np.where(count > 0, rows[:, 0], room.top)]
    below = (
        (high < room.top) & (count < room.hands.right_notes) & (span <= reach_mm(room.hands.right_reach) + TOLERANCE_MM)
    )
    laid = rows[below].copy()
    laid[np.arange(len(laid)), count[below]] = room.top
    return np.concatenate([rows[already], laid]), np.concatenate([bits[already], bits[below]])


def one_hand(notes: tuple[int, ...]) -> HandSet:
    """The HandSet of one placing (MIDI, ascending) that belongs to no rule."""
    return hand_set(_row(notes), np.zeros(1, np.int64))


_CODE: Int64s = later(lambda: 128 ** np.arange(SIZE - 1, -1, -1, dtype=np.int64))


def _codes(rows: Ints) -> Bits:
    """A number for each row that sorts as the rows do."""
    count = (rows != PAD).sum(1, dtype=np.int64)
    codes: Bits = count * 128**SIZE + ((rows + 1).astype(np.int64) * _CODE).sum(1)
    return codes


def _merged(rows: Ints, bits: Bits) -> HandSet:
    codes = _codes(rows)
    order = np.argsort(codes, kind="stable")
    codes, bits = codes[order], bits[order]
    first = np.flatnonzero(np.concatenate([[True], codes[1:] != codes[:-1]])) if len(codes) else order
    merged = np.bitwise_or.reduceat(bits, first) if len(first) else bits
    return hand_set(rows[order[first]], merged)


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
