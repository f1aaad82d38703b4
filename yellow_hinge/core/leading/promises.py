"""What each style promises of a change, and whether a song's changes keep it."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.core.leading.motion import Way, prices
from yellow_hinge.core.leading.setup import said
from yellow_hinge.core.leading.solution import Solution, Voicing

STEP = (1, 2)  # semitones of a half and a whole step


class Change(NamedTuple):
    """Two voicings in a row, and what leads from one to the other."""

    old: Voicing
    new: Voicing
    way: Way

    def line(self, place: int) -> int | None:
        """Signed semitones of a note of the hand that leads, counted from its lowest (0, 1, ...) or its highest (-1,
        -2, ...); None where it is not there.
        """
        old, new = (v.both.of(self.way.leads) for v in (self.old, self.new))
        least = place + 1 if place >= 0 else -place
        return new[place] - old[place] if min(len(old), len(new)) >= max(least, 1) else None

    @property
    def bass(self) -> int | None:
        """Signed semitones of the left hand's lowest note, None where it rests."""
        there = self.old.left and self.new.left
        return self.new.left[0] - self.old.left[0] if there else None


Kept = Callable[[Change], bool | None]  # None where it is not to be had


class Promise(NamedTuple):
    """`kept` tells whether a change keeps a style's promise; `words` say that it does not; `bass`: only the player's
    own bass can.
    """

    kept: Kept
    words: str
    bass: bool = False


def _steps(place: int) -> Kept:
    def kept(change: Change) -> bool | None:
        by = change.line(place)
        return None if by is None else abs(by) in STEP

    return kept


def _top(fits: Callable[[int], bool]) -> Kept:
    def kept(change: Change) -> bool | None:
        by = change.line(-1)
        return None if by is None else fits(by)

    return kept


def _slides(change: Change) -> bool:
    """One hand at least has the shape that it had, in semitones or in what the style slides along."""
    found = False
    for hand in ("left", "right"):
        old, new = change.old.both.of(hand), change.new.both.of(hand)
        if len(old) == len(new) > 1:
            for steps in (prices(change.way).steps, range(129)):
                found |= [steps[n] - steps[old[0]] for n in old] == [steps[n] - steps[new[0]] for n in new]
    return found


def _sizes(change: Change) -> bool:
    return all(len(change.old.both.of(hand)) == len(change.new.both.of(hand)) for hand in ("left", "right"))


def _falls(change: Change) -> bool | None:
    return None if change.bass is None else -change.bass in STEP


def _apart(change: Change) -> bool | None:
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


def kept_at(solution: Solution, index: int, style: str | None = None) -> bool | None:
    """Whether the change to chord `index` keeps what its style, or another one, promises; None where that style
    promises nothing of single changes, or nothing that there is.
    """
    promise = PROMISES.get(style or solution.lattice.places[index].asked.style)
    if promise is None or len(solution.voicings) < 2 or (index == 0 and not solution.setup.loop):
        return None
    if promise.bass and not solution.setup.mine:
        return None
    old, new = solution.voicings[index - 1], solution.voicings[index]
    return promise.kept(Change(old, new, solution.way_to(index)))


def share_kept(solution: Solution, style: str | None = None) -> tuple[int, int]:
    """(changes that keep what their style promises, changes that could)."""
    found = [kept_at(solution, index, style) for index in range(len(solution.voicings))]
    return found.count(True), len(found) - found.count(None)


def broken_words(solution: Solution, index: int) -> str:
    """That the change to chord `index` does not do what its style promises; "" where it does, or promises nothing."""
    style = solution.lattice.places[index].asked.style
    return PROMISES[style].words if kept_at(solution, index) is False else ""


def style_words(solution: Solution) -> str:
    """How far the song's style keeps what it promises, in a sentence; "" for one that promises nothing of changes."""
    style = said(solution.setup, "style")
    promise, (kept, could) = PROMISES.get(style), share_kept(solution)
    if promise is None or len(solution.voicings) < 2:
        return ""
    if promise.bass and not solution.setup.mine:
        return f"{style} does nothing here, since somebody else has the bass."
    return f"{style} at {kept} of {could} changes."
