"""Notes moved by hand on the map or the keyboard, tried before they are taken."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.answer import Option, Solution
from yellow_hinge.core.leading.price import as_option, faults
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.symbols.naming import name_notes

FINGERS = 5


class Trial(NamedTuple):
    """A voicing that is tried: the way to play the chord, why it cannot be played (() where it can), and what its notes
    are called ("" for no name).
    """

    option: Option
    faults: tuple[str, ...]
    name: str


def with_note_moved(both: Both, hand: str, old: int, new: int) -> Both | None:
    """The voicing with one note (MIDI) moved, or None where another finger is on that key already."""
    if new in (*both.left, *both.right) or not 0 <= new <= 127:
        return None
    notes = tuple(sorted(new if note == old else note for note in both.of(hand)))
    return both._replace(**{hand: notes})


def with_note_toggled(both: Both, hand: str, midi: int) -> Both | None:
    """The voicing with a note (MIDI) added to a hand, or lifted from the hand that holds it; None where every finger of
    that hand is on a key, or there is no such key.
    """
    for name in ("left", "right"):
        if midi in both.of(name):
            return both._replace(**{name: tuple(note for note in both.of(name) if note != midi)})
    if len(both.of(hand)) == FINGERS or not 0 <= midi <= 127:
        return None
    return both._replace(**{hand: tuple(sorted((*both.of(hand), midi)))})


def trial(both: Both, solution: Solution, index: int) -> Trial:
    """What playing chord `index` as `both` is worth."""
    voicing = solution.voicings[index]
    bass = None if solution.setup.mine else voicing.chord.bass_note.pc
    key = voicing.here.key
    readings = name_notes((*both.left, *both.right), bass, key) if both.left or both.right else []
    name = readings[0].symbol if readings else ""
    return Trial(as_option(both, solution, index), faults(both, solution, index), name)
