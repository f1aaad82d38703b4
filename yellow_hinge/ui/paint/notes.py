"""Names and marks of sounding notes for the pictures."""

from __future__ import annotations

from functools import lru_cache

import msgspec

from yellow_hinge.core.fingering import Fingered, alone
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.prices.hinge import Both, FingerStep, Hinge
from yellow_hinge.core.leading.prices.hinge import hinge_figures as figures
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.pitch.pitch import pretty_signs, simple_note
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import as_typed, write_symbol

LABELS = ("degrees", "names", "fingers")


class PlateMark(msgspec.Struct, frozen=True):
    """One sounding note: MIDI number, hand, and its three labels with music signs."""

    midi: int
    hand: str
    degree: str
    name: str
    finger: str

    def label(self, kind: str) -> str:
        """The label of a kind out of LABELS."""
        return {"degrees": self.degree, "names": self.name, "fingers": self.finger}[kind]


@lru_cache(maxsize=8192)
def chord_marks(chord: Chord, both: Both, simple: bool, fingers: Fingered | None = None) -> tuple[PlateMark, ...]:
    """The notes of both hands as they sound in a chord, left hand first, low to high; `simple` names B and F where
    theory says Cb and E#. Without `fingers` the chord is fingered by itself.
    """
    found, fingers = [], fingers or alone(both.left, both.right)
    for hand, notes in (("left", both.left), ("right", both.right)):
        for note, finger in zip(notes, fingers.of(hand), strict=True):
            degree, spelled = chord.degree_of(note), chord.note_of(note)
            name = str(simple_note(spelled) if simple else spelled)
            found.append(PlateMark(note, hand, pretty_signs(degree), pretty_signs(name), str(finger)))
    return tuple(found)


@lru_cache(maxsize=2048)
def chord_text(chord: Chord) -> str:
    """A chord's symbol with music signs."""
    return pretty_signs(write_symbol(chord))


def voicing_text(voicing: Voicing) -> str:
    """The symbol of a chord of the song with music signs, by the number that the player typed."""
    return pretty_signs(as_typed(voicing.here.symbol, voicing.chord))


def signed(semitones: int) -> str:
    """A move as a player reads it: "+2", "−1"."""
    return f"+{semitones}" if semitones > 0 else f"−{-semitones}" if semitones else "0"


def step_label(step: FingerStep) -> str:
    """What stands on a note's way: semitones, or the fingers where another one takes its key over."""
    if step.kind == "passes":
        return f"{step.fingers[0]}\u203a{step.fingers[1]}"
    return signed(step.semitones) if step.kind == "moves" else ""


def hinge_figures(hinge: Hinge) -> str:
    """The figures of a hinge in words: "3 held, 4 semitones"."""
    return figures(hinge.held, hinge.motion)


def price_text(extra: int, best: bool = True) -> str:
    """What an option costs the song: "+0.8", "+12", "−1.3" where it would be easier than what is kept; the one that is
    played is "best", or "now" where a keep holds back a better one.
    """
    if extra == 0:
        return "best" if best else "now"
    units = abs(extra) / UNIT
    figure = f"{units:.1f}" if units < 9.95 else f"{units:.0f}"
    return f"{'+' if extra > 0 else '−'}{figure}"
