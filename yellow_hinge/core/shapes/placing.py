"""Putting forms on the keys: every octave that a hand, its keyboard and the family's register allow."""

from __future__ import annotations

from functools import lru_cache

import msgspec
import numpy as np
from numpy.typing import NDArray

from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms

Ints = NDArray[np.int32]
SIZE = 5  # most notes of a hand
PAD = -1


class HandSet(msgspec.Struct, frozen=True):
    """Every placing of one hand for a chord.

    pitches (n, SIZE) MIDI ascending, PAD after the last note; count, low, high (n,), with low 128 and high -1 for a
    resting hand; mask (n,) bit k set for pitch class k; rules (n,) bit i set where rule i of the forms allows it.
    """

    pitches: Ints
    count: Ints
    low: Ints
    high: Ints
    mask: Ints
    rules: Ints

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
def _table(forms: tuple[Forms, ...], hand: str) -> tuple[Ints, Ints, Ints]:
    """(offsets (f, SIZE), count (f,), rule (f,)) of one hand over all rules."""
    rows, rules = [], []
    for index, entry in enumerate(forms):
        for form in entry.left if hand == "left" else entry.right:
            if len(form) <= SIZE:
                rows.append(form + (PAD,) * (SIZE - len(form)))
                rules.append(index)
    table = np.array(rows, np.int32).reshape(-1, SIZE)
    return table, (table != PAD).sum(1).astype(np.int32), np.array(rules, np.int32)


def hand_set(pitches: Ints, rules: Ints) -> HandSet:
    """The HandSet of rows (n, SIZE) of MIDI numbers with the rule bits (n,) of each."""
    sounding = pitches != PAD
    count = sounding.sum(1).astype(np.int32)
    low = np.where(count > 0, pitches[:, 0], 128).astype(np.int32)
    high = np.where(count > 0, pitches.max(1), -1).astype(np.int32)
    mask = np.bitwise_or.reduce(np.where(sounding, 1 << (pitches % 12), 0), 1).astype(np.int32)
    return HandSet(pitches, count, low, high, mask, rules)


def place_forms(forms: tuple[Forms, ...], shapes: tuple[Shape, ...], hand: str, root: int, hands: Hands) -> HandSet:
    """Every placing of one hand over a root pitch class. Rows are unique and sorted, so that ties always break the
    same way: by the lower notes first.
    """
    table, count, rule = _table(forms, hand)
    left = hand == "left"
    windows = [
        (*shape.left_low, shape.left_high) if left else (*shape.right_low, shape.right_high)
        for shape in (shapes[entry.family] for entry in forms)
    ]
    reach, most = (hands.left_reach, hands.left_notes) if left else (hands.right_reach, hands.right_notes)
    bottom, top = hands.compass
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
    fits = KEY_X[high] - KEY_X[low] <= reach_mm(reach) + 1e-6
    rows, bits = rows[fits], 1 << rules[fits]
    for index in rule[count == 0]:
        rows = np.concatenate([rows, np.full((1, SIZE), PAD, np.int32)])
        bits = np.append(bits, 1 << index)
    return _merged(rows.astype(np.int32), bits.astype(np.int32))


_CODE = 128 ** np.arange(SIZE - 1, -1, -1, dtype=np.int64)


def _merged(rows: Ints, bits: Ints) -> HandSet:
    codes = ((rows + 1).astype(np.int64) * _CODE).sum(1)
    _, first, inverse = np.unique(codes, return_index=True, return_inverse=True)
    merged = np.zeros(len(first), np.int32)
    np.bitwise_or.at(merged, inverse, bits)
    return hand_set(rows[first], merged)
