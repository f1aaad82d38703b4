"""Keyboard geometry, the player's hands, and fingering."""

from __future__ import annotations

from functools import lru_cache
from itertools import combinations

import msgspec
import numpy as np

from yellow_hinge.core.errors import UserError

WHITE_MM = 23.5
# Key centres within an octave, in mm from the left edge of C. White keys stand 23.5 mm apart; at the back the five keys
# C to E and the seven keys F to B share their three and four white widths evenly, which sets the black keys' centres.
_BACK_CE, _BACK_FB = 3 * WHITE_MM / 5, 4 * WHITE_MM / 7
_CENTRES = (
    0.5 * WHITE_MM, 1.5 * _BACK_CE, 1.5 * WHITE_MM, 3.5 * _BACK_CE, 2.5 * WHITE_MM,
    3.5 * WHITE_MM, 3 * WHITE_MM + 1.5 * _BACK_FB, 4.5 * WHITE_MM, 3 * WHITE_MM + 3.5 * _BACK_FB, 5.5 * WHITE_MM,
    3 * WHITE_MM + 5.5 * _BACK_FB, 6.5 * WHITE_MM,
)  # fmt: skip
KEY_X = np.array([7 * WHITE_MM * (midi // 12) + _CENTRES[midi % 12] for midi in range(128)])
KEY_X.setflags(write=False)
BLACK = frozenset((1, 3, 6, 8, 10))

# (lowest, highest) MIDI number of the common keyboards.
KEYBOARDS = {49: (36, 84), 61: (36, 96), 73: (28, 100), 76: (28, 103), 88: (21, 108)}


class Hands(msgspec.Struct, frozen=True):
    """Who is playing: reach as the largest white-key interval held (7 a seventh .. 11 an eleventh), notes per hand,
    number of keys.
    """

    left_reach: int = 9
    right_reach: int = 9
    left_notes: int = 4
    right_notes: int = 4
    keys: int = 73

    def __post_init__(self) -> None:
        for name, value, low, high in (
            ("left reach", self.left_reach, 5, 13),
            ("right reach", self.right_reach, 5, 13),
            ("left notes", self.left_notes, 1, 5),
            ("right notes", self.right_notes, 1, 5),
        ):
            if not low <= value <= high:
                raise UserError(f"{name} {value} is outside {low} to {high}")
        if self.keys not in KEYBOARDS:
            raise UserError(f"a keyboard of {self.keys} keys is not known; choose {', '.join(map(str, KEYBOARDS))}")

    def reach(self, hand: str) -> int:
        """The reach of the "left" or "right" hand in white keys."""
        return self.left_reach if hand == "left" else self.right_reach

    def most(self, hand: str) -> int:
        """The most notes of the "left" or "right" hand."""
        return self.left_notes if hand == "left" else self.right_notes

    @property
    def compass(self) -> tuple[int, int]:
        """Lowest and highest MIDI number of the keyboard."""
        return KEYBOARDS[self.keys]


def reach_mm(reach: int) -> float:
    """The span between key centres that a reach of `reach` white keys allows, in mm: a ninth is 188."""
    return (reach - 1) * WHITE_MM


def span_mm(notes: tuple[int, ...]) -> float:
    """Distance between the outer key centres of one hand's notes (MIDI, ascending), in mm; 0 for fewer than two."""
    return float(KEY_X[notes[-1]] - KEY_X[notes[0]]) if len(notes) > 1 else 0.0


# Comfortable (least, most) span between two fingers of a hand that reaches a ninth, in mm; house estimates, thumb = 1.
# Outside it strain grows in proportion, so the table says where a hand likes to be and not where it ends.
_COMFORT = {
    (1, 2): (20.0, 70.0), (1, 3): (40.0, 95.0), (1, 4): (60.0, 120.0), (1, 5): (85.0, 150.0), (2, 3): (20.0, 36.0),
    (2, 4): (40.0, 60.0), (2, 5): (60.0, 90.0), (3, 4): (20.0, 32.0), (3, 5): (40.0, 58.0), (4, 5): (20.0, 34.0),
}  # fmt: skip
# Strain in the same mm: thumb or little finger on a black key, the weak pair, and a hand without its outer fingers.
_THUMB_BLACK, _FIFTH_BLACK, _WEAK_PAIR, _NO_THUMB, _NO_FIFTH = 9.0, 5.0, 3.0, 4.0, 2.0


def _strain(fingers: tuple[int, ...], notes: tuple[int, ...]) -> float:
    total = (0.0 if 1 in fingers else _NO_THUMB) + (0.0 if 5 in fingers else _NO_FIFTH)
    for i in range(len(notes) - 1):
        pair = (min(fingers[i : i + 2]), max(fingers[i : i + 2]))
        least, most = _COMFORT[pair]
        span = float(KEY_X[notes[i + 1]] - KEY_X[notes[i]])
        total += max(0.0, least - span, span - most)
        total += _WEAK_PAIR if pair == (4, 5) else 0.0
    for finger, note in zip(fingers, notes, strict=True):
        if note % 12 in BLACK:
            total += _THUMB_BLACK if finger == 1 else _FIFTH_BLACK if finger == 5 else 0.0
    return total


@lru_cache(maxsize=8192)
def fingering(notes: tuple[int, ...], hand: str) -> tuple[int, ...]:
    """A finger (1 = thumb) for each of up to five notes of a hand, ascending, with the least strain between
    neighbouring fingers. `hand` is "left" or "right". A single note takes the outer finger of a left hand and the
    thumb of a right hand. Ties go to the thumb side.
    """
    if len(notes) < 2:
        return ((5,) if hand == "left" else (1,)) * len(notes)
    choices = [tuple(c) for c in combinations((1, 2, 3, 4, 5), len(notes))]
    if hand == "left":
        choices = [c[::-1] for c in choices]
    return min(choices, key=lambda fingers: (round(_strain(fingers, notes), 6), fingers))


FINGER_NAMES = ("", "thumb", "index", "middle", "ring", "little")
