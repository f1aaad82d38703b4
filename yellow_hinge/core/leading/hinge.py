"""A hinge: the change between two voicings, its matching, figures and words."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.hands import FINGER_NAMES, fingering
from yellow_hinge.core.leading.motion import Move, Prices, match, outer_price, prices
from yellow_hinge.core.leading.weights import Weights
from yellow_hinge.core.pitch import pitch_of

HANDS = ("left", "right")


class Both(NamedTuple):
    """The notes of both hands, MIDI ascending."""

    left: tuple[int, ...]
    right: tuple[int, ...]

    def of(self, hand: str) -> tuple[int, ...]:
        """The notes of one hand."""
        return self.left if hand == "left" else self.right


class Step(NamedTuple):
    """One note's way in a hinge: which hand, MIDI numbers (None where it enters or leaves)."""

    hand: str
    old: int | None
    new: int | None

    @property
    def semitones(self) -> int:
        """Signed distance; 0 for a note that holds, enters or leaves."""
        return Move(self.old, self.new).semitones

    @property
    def holds(self) -> bool:
        """Whether the note stays."""
        return self.old is not None and self.old == self.new


class Hinge(NamedTuple):
    """A change with its figures: `motion` sums the semitones of matched notes, `cost` is its price in thousandths."""

    steps: tuple[Step, ...]
    left_motion: int
    right_motion: int
    held: int
    largest: int
    cost: int

    @property
    def motion(self) -> int:
        """Semitones of both hands."""
        return self.left_motion + self.right_motion

    @property
    def moving(self) -> tuple[Step, ...]:
        """The notes that move, enter or leave."""
        return tuple(step for step in self.steps if not step.holds)


@lru_cache(maxsize=8192)
def make_hinge(old: Both, new: Both, mine: bool, weights: Weights) -> Hinge:
    """The hinge between two voicings; `mine`: the left hand has the bass."""
    price = prices(weights)
    steps: list[Step] = []
    total, motion = 0, {"left": 0, "right": 0}
    for hand in HANDS:
        cost, moves = match(old.of(hand), new.of(hand), hand, mine, price)
        total += cost
        motion[hand] = sum(abs(move.semitones) for move in moves)
        steps += [Step(hand, move.old, move.new) for move in moves]
    if price.outer:
        total += _outer(old, new, price)
    held = sum(step.holds for step in steps)
    largest = max((abs(step.semitones) for step in steps), default=0)
    return Hinge(tuple(steps), motion["left"], motion["right"], held, largest, total)


def _outer(old: Both, new: Both, price: Prices) -> int:
    """Price of the outer voices; where a hand rests, its own voice counts as still."""
    bass = new.left[0] - old.left[0] if old.left and new.left else 0
    top = new.right[-1] - old.right[-1] if old.right and new.right else 0
    return outer_price(bass, top, price)


# The words of a hinge, made from the matching alone.
NOTHING_MOVES = "Nothing moves."
_ALL_REST = "the rest holds"


def _finger(notes: tuple[int, ...], hand: str, note: int) -> str:
    return FINGER_NAMES[fingering(notes, hand)[notes.index(note)]]


def _step_words(step: Step, old: Both, new: Both, names: tuple[Chord, Chord]) -> str:
    was = str(pitch_of(step.old, names[0].note_of(step.old)).note) if step.old is not None else ""
    now = str(pitch_of(step.new, names[1].note_of(step.new)).note) if step.new is not None else ""
    if step.old is None and step.new is not None:
        return f"{_finger(new.of(step.hand), step.hand, step.new)} adds {now}"
    if step.new is None and step.old is not None:
        return f"{_finger(old.of(step.hand), step.hand, step.old)} lets {was} go"
    assert step.old is not None
    way = "up" if step.semitones > 0 else "down"
    return f"{_finger(old.of(step.hand), step.hand, step.old)} {was} {way} to {now}"


def hinge_words(hinge: Hinge, old: Both, new: Both, names: tuple[Chord, Chord]) -> str:
    """The hinge as a sentence: "Right thumb Db down to C; the rest holds." `names` spell the old and the new notes."""
    if not hinge.moving:
        return NOTHING_MOVES
    parts: list[str] = []
    for hand in HANDS:
        moving = [step for step in hinge.moving if step.hand == hand]
        if moving:
            words = ", ".join(_step_words(step, old, new, names) for step in moving)
            parts.append(f"{hand} {words}" if parts else f"{hand.capitalize()} {words}")
    if hinge.held:
        parts.append(_ALL_REST)
    return "; ".join(parts) + "."
