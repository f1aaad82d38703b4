"""Keyboard geometry and the player's hands."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.numerics import Floats64, later, np

WHITE_MM = 23.5
OCTAVE_MM = 7 * WHITE_MM
TOLERANCE_MM = 1e-6  # by which a span may pass a reach: rounding
# Key centres within an octave, in mm from the left edge of C. White keys stand 23.5 mm apart; at the back the five keys
# C to E and the seven keys F to B share their three and four white widths evenly, which sets the black keys' centres.
_BACK_CE, _BACK_FB = 3 * WHITE_MM / 5, 4 * WHITE_MM / 7
_CENTRES = (
    0.5 * WHITE_MM, 1.5 * _BACK_CE, 1.5 * WHITE_MM, 3.5 * _BACK_CE, 2.5 * WHITE_MM,
    3.5 * WHITE_MM, 3 * WHITE_MM + 1.5 * _BACK_FB, 4.5 * WHITE_MM, 3 * WHITE_MM + 3.5 * _BACK_FB, 5.5 * WHITE_MM,
    3 * WHITE_MM + 5.5 * _BACK_FB, 6.5 * WHITE_MM,
)  # fmt: skip
KEY_X: Floats64 = later(lambda: np.array([OCTAVE_MM * (midi // 12) + _CENTRES[midi % 12] for midi in range(128)]))
MOST_REACH = 13  # white keys of the widest hand there is
BLACK = frozenset((1, 3, 6, 8, 10))

# (lowest, highest) MIDI number of the common keyboards.
KEYBOARDS = {49: (36, 84), 61: (36, 96), 73: (28, 100), 76: (28, 103), 88: (21, 108)}


ROLLED_KEYS, ROLLED_NOTES = 2, 3  # white keys beyond its reach that a rolling hand plays, with so many notes at most


class Hands(msgspec.Struct, frozen=True):
    """Who is playing: reach as the largest white-key interval held (7 a seventh .. 11 an eleventh), notes per hand,
    number of keys; `roll`: the left hand may roll what is a little wider, two or three notes.
    """

    left_reach: int = 9
    right_reach: int = 9
    left_notes: int = 4
    right_notes: int = 4
    keys: int = 73
    roll: bool = False

    def __post_init__(self) -> None:
        for name, value, low, high in (
            ("left reach", self.left_reach, 5, MOST_REACH),
            ("right reach", self.right_reach, 5, MOST_REACH),
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

    def limit(self, hand: str, count: int) -> float:
        """The widest span of a hand's `count` notes in mm between key centres."""
        rolled = self.roll and hand == "left" and 1 < count <= ROLLED_NOTES
        return reach_mm(self.reach(hand) + (ROLLED_KEYS if rolled else 0)) + TOLERANCE_MM

    def most(self, hand: str) -> int:
        """The most notes of the "left" or "right" hand."""
        return self.left_notes if hand == "left" else self.right_notes

    @property
    def compass(self) -> tuple[int, int]:
        """Lowest and highest MIDI number of the keyboard."""
        return KEYBOARDS[self.keys]

    @property
    def held(self) -> Hands:
        """The hands as they hold what they strike together."""
        return self


class BrokenHands(Hands, frozen=True):
    """Hands whose left one a pattern breaks: struck note by note under the pedal, it spans up to `broken` white keys,
    whatever it could hold.
    """

    broken: int = 12

    def reach(self, hand: str) -> int:
        """The reach of the "left" or "right" hand in white keys."""
        return max(self.broken, self.left_reach) if hand == "left" else self.right_reach

    def limit(self, hand: str, count: int) -> float:
        """The widest span of a hand's `count` notes in mm between key centres."""
        return reach_mm(self.reach(hand)) + TOLERANCE_MM if hand == "left" else super().limit(hand, count)

    @property
    def held(self) -> Hands:
        """The hands as they hold what they strike together."""
        return Hands(**{name: getattr(self, name) for name in Hands.__struct_fields__})


def reach_mm(reach: int) -> float:
    """The span between key centres that a reach of `reach` white keys allows, in mm: a ninth is 188."""
    return (reach - 1) * WHITE_MM


def span_mm(notes: tuple[int, ...]) -> float:
    """Distance between the outer key centres of one hand's notes (MIDI, ascending), in mm; 0 for fewer than two."""
    return float(KEY_X[notes[-1]] - KEY_X[notes[0]]) if len(notes) > 1 else 0.0
