"""A hinge: the change between two voicings, its matching, figures and words."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.fingering import FINGER_NAMES, Fingered, fingered
from yellow_hinge.core.leading.prices.motion import Way, outer_price, prices
from yellow_hinge.core.leading.prices.moves import Move, Prices, match
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.symbols.chord import Chord

HANDS = ("left", "right")


class Both(NamedTuple):
    """The notes of both hands, MIDI ascending."""

    left: tuple[int, ...]
    right: tuple[int, ...]

    def of(self, hand: str) -> tuple[int, ...]:
        """The notes of one hand."""
        return self.left if hand == "left" else self.right


class FingerStep(NamedTuple):
    """One note's way in a hinge: which hand, MIDI numbers (None where it is added or lifted), and the fingers on them
    (0 for none).
    """

    hand: str
    old: int | None
    new: int | None
    fingers: tuple[int, int] = (0, 0)

    @property
    def semitones(self) -> int:
        """Signed distance; 0 for a note that stays, is added or lifted."""
        return Move(self.old, self.new).semitones

    @property
    def stays(self) -> bool:
        """Whether the note stays, under whichever finger."""
        return self.old is not None and self.old == self.new

    @property
    def kind(self) -> str:
        """held (the same finger stays on its key), passes (another finger takes it over), moves, enters or leaves."""
        if self.stays:
            return "held" if self.fingers[0] == self.fingers[1] else "passes"
        return "enters" if self.old is None else "leaves" if self.new is None else "moves"


class FingerChange(NamedTuple):
    """A key (MIDI) that stays down while another finger takes it over."""

    hand: str
    midi: int
    old: int
    new: int


class Hinge(NamedTuple):
    """A change with its figures: `left_motion` and `right_motion` sum the semitones of matched notes; `held` counts the
    keys that stay under the same finger, `common` all that stay, `changes` those that another finger takes; `added`
    and `lifted` are surplus notes; `largest` is the widest single move; `cost` its price in thousandths.
    """

    steps: tuple[FingerStep, ...]
    left_motion: int
    right_motion: int
    held: int
    largest: int
    cost: int
    added: int
    lifted: int
    common: int
    changes: tuple[FingerChange, ...]

    @property
    def motion(self) -> int:
        """Semitones of both hands."""
        return self.left_motion + self.right_motion

    @property
    def moving(self) -> tuple[FingerStep, ...]:
        """The notes that move, are added or lifted."""
        return tuple(step for step in self.steps if not step.stays)


@lru_cache(maxsize=8192)
def hinge_price(old: Both, new: Both, mine: bool, way: Way) -> int:
    """The price of a change in thousandths; `mine`: the left hand has the bass."""
    price = prices(way)
    total = sum(match(old.of(hand), new.of(hand), hand, mine, price)[0] for hand in HANDS)
    return total + (_outer(old, new, price) if price.outer else 0)


def _step(hand: str, move: Move, was: dict[int, int], now: dict[int, int]) -> FingerStep:
    on = (0 if move.old is None else was[move.old], 0 if move.new is None else now[move.new])
    return FingerStep(hand, move.old, move.new, on)


@lru_cache(maxsize=8192)
def make_hinge(old: Both, new: Both, mine: bool, way: Way, fingers: tuple[Fingered, Fingered] | None = None) -> Hinge:
    """The hinge between two voicings; `mine`: the left hand has the bass. Without `fingers` the two chords are fingered
    by themselves.
    """
    before, after = fingers or _by_themselves(old, new)
    steps: list[FingerStep] = []
    changes: list[FingerChange] = []
    motion, common = {"left": 0, "right": 0}, 0
    for hand in HANDS:
        _, moves = match(old.of(hand), new.of(hand), hand, mine, prices(way))
        motion[hand] = sum(abs(move.semitones) for move in moves)
        was = dict(zip(old.of(hand), before.of(hand), strict=True))
        now = dict(zip(new.of(hand), after.of(hand), strict=True))
        steps += [_step(hand, move, was, now) for move in moves]
        kept = [midi for midi in was if midi in now]
        common += len(kept)
        changes += [FingerChange(hand, midi, was[midi], now[midi]) for midi in kept if was[midi] != now[midi]]
    return Hinge(
        tuple(steps),
        motion["left"],
        motion["right"],
        common - len(changes),
        max((abs(step.semitones) for step in steps), default=0),
        hinge_price(old, new, mine, way),
        sum(step.old is None for step in steps),
        sum(step.new is None for step in steps),
        common,
        tuple(changes),
    )


def _by_themselves(old: Both, new: Both) -> tuple[Fingered, Fingered]:
    left, right = (fingered((old.of(hand), new.of(hand)), hand) for hand in HANDS)
    return Fingered(left[0], right[0]), Fingered(left[1], right[1])


def _outer(old: Both, new: Both, price: Prices) -> int:
    """Price of the outer voices; where a hand rests, its own voice counts as still."""
    bass = new.left[0] - old.left[0] if old.left and new.left else 0
    old_top, new_top = old.of(price.leads), new.of(price.leads)
    top = new_top[-1] - old_top[-1] if old_top and new_top else 0
    return outer_price(bass, top, price)


# The words of a hinge, made from its matching and fingers alone.
NOTHING_MOVES = "Nothing moves."
_ALL_REST = "the rest holds"


def _named(midi: int, chord: Chord) -> str:
    return str(pitch_of(midi, chord.note_of(midi)).note)


def _finger(number: int) -> str:
    """A finger in the middle of a sentence: "the thumb", "the middle finger"."""
    return f"the {FINGER_NAMES[number]}{'' if number == 1 else ' finger'}"


def _step_words(step: FingerStep, names: tuple[Chord, Chord]) -> str:
    was = _named(step.old, names[0]) if step.old is not None else ""
    now = _named(step.new, names[1]) if step.new is not None else ""
    before, after = step.fingers
    if step.old is None:
        return f"{FINGER_NAMES[after]} adds {now}"
    if step.new is None:
        return f"{FINGER_NAMES[before]} lets {was} go"
    way = f"{was} {'up' if step.semitones > 0 else 'down'} to {now}"
    return f"{FINGER_NAMES[before]} {way}" if before == after else f"{way} with {_finger(after)}"


def _hand_words(hinge: Hinge, hand: str, old: Both, new: Both, names: tuple[Chord, Chord]) -> str:
    """What one hand does, "" where it holds."""
    moving = [step for step in hinge.moving if step.hand == hand]
    if old.of(hand) and not new.of(hand):
        return f"{hand} hand rests"
    if new.of(hand) and not old.of(hand):
        return f"{hand} hand plays {' '.join(_named(midi, names[1]) for midi in new.of(hand))}"
    parts = [_step_words(step, names) for step in moving]
    for step in hinge.steps:
        if step.hand == hand and step.kind == "passes" and step.old is not None:
            before, after = step.fingers
            short = FINGER_NAMES[before] if 1 not in step.fingers else _finger(before)[4:]
            parts.append(f"{_named(step.old, names[1])} passes from the {short} to {_finger(after)}")
    # A key that one voice leaves and another one reaches may stay under its finger.
    crossed = {step.old for step in moving} & set(new.of(hand)) - {change.midi for change in hinge.changes}
    parts += [f"{_named(midi, names[1])} stays down" for midi in sorted(m for m in crossed if m is not None)]
    return f"{hand} {', '.join(parts)}" if parts else ""


def semitones(count: int) -> str:
    """So many semitones in words: "1 semitone", "4 semitones"."""
    return f"{count} semitone{'' if count == 1 else 's'}"


def hinge_figures(held: int, motion: int) -> str:
    """The figures of a hinge in words: "3 held, 4 semitones"."""
    return f"{held} held, {semitones(motion)}"


def hinge_words(hinge: Hinge, old: Both, new: Both, names: tuple[Chord, Chord], hands: tuple[str, ...] = HANDS) -> str:
    """The hinge as a sentence: "Right thumb Db down to C; the rest holds." `names` spell the old and the new notes;
    `hands` are those that it speaks of.
    """
    parts = [words for words in (_hand_words(hinge, hand, old, new, names) for hand in hands) if words]
    if not parts:
        return NOTHING_MOVES
    if any(step.kind == "held" and step.hand in hands for step in hinge.steps):
        parts.append(_ALL_REST)
    sentence = "; ".join(parts) + "."
    return sentence[0].upper() + sentence[1:]
