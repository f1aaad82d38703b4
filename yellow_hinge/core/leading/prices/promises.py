"""What each style promises of a change, and whether a song's changes keep it."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.motion import Way, prices

STEP = (1, 2)  # semitones of a half and a whole step


class HandChange(NamedTuple):
    """Two voicings in a row, and what leads from one to the other."""

    old: Both
    new: Both
    way: Way

    def line(self, place: int) -> int | None:
        """Signed semitones of a note of the hand that leads, counted from its lowest (0, 1, ...) or its highest (-1,
        -2, ...); None where it is not there.
        """
        old, new = (v.of(self.way.leads) for v in (self.old, self.new))
        least = place + 1 if place >= 0 else -place
        return new[place] - old[place] if min(len(old), len(new)) >= max(least, 1) else None

    @property
    def bass(self) -> int | None:
        """Signed semitones of the left hand's lowest note, None where it rests."""
        there = self.old.left and self.new.left
        return self.new.left[0] - self.old.left[0] if there else None


Kept = Callable[[HandChange], bool | None]  # None where it is not to be had


class Promise(NamedTuple):
    """`kept` tells whether a change keeps a style's promise; `words` say that it does not; `bass`: only the player's
    own bass can.
    """

    kept: Kept
    words: str
    bass: bool = False


def _steps(place: int) -> Kept:
    def kept(change: HandChange) -> bool | None:
        by = change.line(place)
        return None if by is None else abs(by) in STEP

    return kept


def _top(fits: Callable[[int], bool]) -> Kept:
    def kept(change: HandChange) -> bool | None:
        by = change.line(-1)
        return None if by is None else fits(by)

    return kept


def _slides(change: HandChange) -> bool:
    """One hand at least has the shape that it had, in semitones or in what the style slides along."""
    found = False
    for hand in HANDS:
        old, new = change.old.of(hand), change.new.of(hand)
        if len(old) == len(new) > 1:
            for steps in (prices(change.way).steps, range(129)):
                found |= [steps[n] - steps[old[0]] for n in old] == [steps[n] - steps[new[0]] for n in new]
    return found


def _sizes(change: HandChange) -> bool:
    return all(len(change.old.of(hand)) == len(change.new.of(hand)) for hand in HANDS)


def _falls(change: HandChange) -> bool | None:
    return None if change.bass is None else -change.bass in STEP


def _apart(change: HandChange) -> bool | None:
    bass, top = change.bass, change.line(-1)
    return None if bass is None or top is None else bass * top <= 0


PROMISES: dict[str, Promise] = {
    "Still top": Promise(_top(lambda by: abs(by) <= 1), "the top cannot stay here"),
    "Singing top": Promise(_steps(-1), "the top does not walk by step here"),
    "Rising line": Promise(_top(lambda by: by > 0), "the top does not rise here"),
    "Inner line": Promise(_steps(-2), "the note under the top does not walk by step here"),
    "Thumb line": Promise(_steps(0), "the lowest note does not walk by step here"),
    "Slide the shape": Promise(_slides, "no shape slides here"),
    "Slide along the key": Promise(_slides, "no shape slides here"),
    "Same size": Promise(_sizes, "a hand has another number of notes here"),
    "Falling bass": Promise(_falls, "the bass does not fall by step here", True),
    "Outward": Promise(_apart, "bass and top go the same way here"),
}


def keeps(style: str, change: HandChange, mine: bool) -> bool | None:
    """Whether a change keeps what a style promises; None where that promises nothing of changes, or nothing that there
    is. `mine`: the player has the bass.
    """
    promise = PROMISES.get(style)
    return None if promise is None or (promise.bass and not mine) else promise.kept(change)


def style_words(style: str, mine: bool, kept: tuple[int, int]) -> str:
    """How far a style keeps what it promises (changes that do, and that could), in a sentence; "" for one that promises
    nothing of changes.
    """
    promise = PROMISES.get(style)
    if promise is not None and promise.bass and not mine:
        return f"{style} does nothing here, since somebody else has the bass."
    return f"{style} at {kept[0]} of {kept[1]} hinges." if promise is not None and kept[1] else ""
