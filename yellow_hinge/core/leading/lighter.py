"""What a hand that is too wide may leave away, note by note, in one order, with what is lost by it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.hands import Hands, reach_mm, span_mm
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.remarks import strained
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.symbols.chord import Chord

NAMES = {
    "1": "root", "2": "second", "3": "third", "4": "fourth", "5": "fifth", "6": "sixth", "7": "seventh", "9": "ninth",
    "11": "eleventh", "13": "thirteenth",
}  # fmt: skip
# What is lost with a note, the least first; the order in which a hand leaves them away.
LOST = {
    "upper": "the other hand has it too",
    "fifth": "a little thinner, the chord stays what it is",
    "root": "doubled: nothing is lost but weight",
    "doubled": "doubled: nothing is lost but weight",
    "colour": "its colour is lost",
    "top": "the line on top is another one",
    "guide": "the chord is named by it",
}


class Away(NamedTuple):
    """One note (MIDI) that a hand leaves away: what it is, what is lost, the hands then, whether that hand lies well,
    and by how many mm it is past its reach.
    """

    hand: str
    midi: int
    name: str
    lost: str
    both: Both
    well: bool
    past: float

    @property
    def words(self) -> str:
        """It in a sentence."""
        still = f"still {self.past:.0f} mm past the hand" if self.past >= 1 else "still near its limit"
        return f"{self.lost}; {'then the hand lies well' if self.well else still}"


def _kind(midi: int, hand: str, both: Both, chord: Chord) -> str:
    """What a note is to its chord, a key of LOST."""
    degree = chord.degree_of(midi % 12)
    others = [note % 12 for note in (*both.left, *both.right) if note != midi]
    if midi % 12 in others:
        return "upper" if hand == "left" else "root" if degree == "1" else "doubled"
    if degree == "5":
        return "fifth"
    quality = chord.quality
    return "guide" if degree in ("1", quality.third, quality.seventh, quality.sixth) else "colour"


def _outer(hand: str, both: Both, mine: bool, sung: bool) -> Iterator[tuple[int, bool]]:
    """The notes without which a hand is narrower, and whether it is the top line's; the bass stays, and what is sung
    on top.
    """
    notes, over = both.of(hand), hand == "right" or not both.right
    if not (over and sung):
        yield notes[-1], over
    if hand == "right" or not mine:
        yield notes[0], False


def _handed_over(midi: int, both: Both, hands: Hands) -> Both | None:
    """The hands with a note that the left leaves away between those of the right, an octave or two higher; None where
    there is no place for it, or no finger.
    """
    right = both.right
    if len(right) < 2 or len(right) >= hands.right_notes:
        return None
    found = (note for note in (midi + 12, midi + 24) if right[0] < note < right[-1] and note not in right)
    note = next(found, None)
    return both._replace(right=tuple(sorted((*right, note)))) if note is not None else None


def _named(midi: int, chord: Chord) -> str:
    degree = chord.degree_of(midi % 12)
    name = NAMES.get(degree.lstrip("b#"), degree)
    return f"{pitch_of(midi, chord.note_of(midi % 12))}, the {name}"


def leaving(both: Both, chord: Chord, hands: Hands, mine: bool, sung: bool = False) -> tuple[Away, ...]:
    """What hands leave away until both lie well, in its order: upper notes of the left that the right has too, the
    fifth, doubled roots, other doubled notes, colours, then what names the chord, which the right hand takes over where
    it can; the bass (`mine`: the left hand has it) never, nor a top that is `sung`. () where both lie well.
    """
    found = []
    for hand in HANDS:
        while strained(both.of(hand), hand, hands) and (outer := list(_outer(hand, both, mine, sung))):
            found.append(_least(hand, outer, both, chord, hands))
            both = found[-1].both
    return tuple(found)


def _least(hand: str, outer: list[tuple[int, bool]], both: Both, chord: Chord, hands: Hands) -> Away:
    """The one of a hand's outer notes that is missed least."""
    order = list(LOST)
    ranked = [("top" if top else _kind(midi, hand, both, chord), midi) for midi, top in outer]
    kind, midi = min(ranked, key=lambda each: order.index(each[0]))
    notes = tuple(note for note in both.of(hand) if note != midi)
    both, lost = both._replace(**{hand: notes}), LOST[kind]
    over = _handed_over(midi, both, hands) if hand == "left" and kind in ("guide", "colour") else None
    if over is not None:
        new = next(note for note in over.right if note not in both.right)
        both, lost = over, f"the right hand takes it over, {pitch_of(new, chord.note_of(new % 12))}"
    past = max(0.0, span_mm(notes) - reach_mm(hands.held.reach(hand)))
    return Away(hand, midi, _named(midi, chord), lost, both, not strained(notes, hand, hands), past)


def leaving_at(solution: Solution, index: int) -> tuple[Away, ...]:
    """The same of a chord of a solution."""
    voicing, place = solution.voicings[index], solution.lattice.places[index]
    return leaving(voicing.both, voicing.chord, place.asked.hands, place.asked.mine, place.top is not None)


def too_wide(solution: Solution) -> dict[int, tuple[Away, ...]]:
    """Every chord of a solution (its index) that leaves something away."""
    return {index: away for index in range(len(solution.voicings)) if (away := leaving_at(solution, index))}
