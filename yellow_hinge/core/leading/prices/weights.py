"""The prices of the solver. One unit is one semitone of one finger; tables hold whole thousandths of a unit, so that
sums are exact and the same on every machine.
"""

from __future__ import annotations

from typing import Any, Literal

import msgspec

from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.tables import Entries

# The number of the prices: raised whenever a song may be given other hands than before, by a price, a shape or a rule.
# Songs that remember hands of another number keep them (core/takes/known.py); `make songs` saves the shipped ones anew.
PRICES = 3
UNIT = 1000
INFINITE = 1_000_000_000


class Weights(msgspec.Struct, frozen=True):
    """Prices in units. Everything the solver likes or dislikes stands here."""

    # change: one hand's notes, matched
    move: float = 1.0  # per semitone of a matched note
    leap_over: int = 5  # semitones that are still no leap
    leap: float = 0.6  # more, per semitone over that
    hold: float = -0.25  # a note that stays
    enter: float = 3.3  # a note that begins
    leave: float = 3.0  # a note that ends
    # change: the bass in a left hand that has it, by distance 0..12, and per semitone beyond
    bass: tuple[float, ...] = (0.0, 0.5, 0.6, 1.5, 1.8, 1.1, 2.6, 1.1, 3.0, 3.2, 3.6, 4.2, 2.4)
    bass_beyond: float = 0.6
    bass_octave: float = 30.0  # more, where a step of the bass is played as a seventh or a ninth, up or down
    rise: float = 0.0  # more, when the bass rises
    fall: float = 0.0  # added when it falls by a half or whole step
    # change: the highest right-hand note, added to its own motion, by distance 0..7, and per semitone beyond
    top: tuple[float, ...] = (0.0, 0.1, 0.2, 0.9, 1.3, 1.8, 2.6, 2.8)
    top_beyond: float = 0.5
    top_rise: float = 0.0  # more, when it rises, and when it falls
    top_fall: float = 0.0
    top_anew: tuple[float, ...] = ()  # instead, by distance, where a section begins and with it another line
    # change: one inner note of the right hand, by distance as for the top: the one "under the top", or the "lowest"
    inner: tuple[float, ...] = ()
    inner_beyond: float = 0.5
    inner_voice: Literal["under the top", "lowest"] = "under the top"
    # change: a hand that keeps its shape; per semitone by which its notes lie otherwise above its lowest one
    slide: float = 0.0
    slide_count: float = 0.0  # per note more or fewer, where shapes slide at all
    slide_by: Literal["semitones", "key"] = "semitones"  # "key": by steps of the key, each as dear as two semitones
    repeat: float = 0.0  # the same right hand again on the same chord
    strand: float = 4.0  # per note of a line inside a held chord that changes its voice
    parallel: float = 0.0  # fifths or octaves in a row inside a hand, or between a right-hand note and the bass
    outer_parallel: float = 0.0  # the same between top and bass only
    # change: the outer voices, bass and top, when both move the same way, and when only one moves
    similar: float = 0.0
    oblique: float = 0.0
    # place: one chord's voicing
    thin: float = 1.6  # per note short of the family's fullness
    mud: float = 0.7  # per semitone below the low-interval limit
    gap_over: int = 15  # semitones between the hands that are still no gap
    gap: float = 0.3  # per semitone over that
    gap_wide: float = 0.9  # more per semitone, over 16 or over `gap_over` where that is more
    gap_wider: float = 6.0  # more per semitone over 20
    muddy: float = 16.0  # once low notes are muddy enough to be said
    home_near: tuple[int, int] = (5, 2)  # semitones from each hand's home register that cost nothing: left, right
    home: tuple[float, float] = (0.2, 0.24)  # per semitone beyond, of each hand's middle
    anchored_near: int = 1  # both instead, throughout a song in which the register climbs or drops
    anchored: float = 1.6
    outermost: float = 6.0  # the first chord's right hand above its home, and the last one's below it
    stretch: float = 0.05  # per mm beyond `comfort` of the hand's reach
    comfort: float = 0.86  # share of the reach that costs nothing
    doubled: float = 1.0  # times what doubling.toml says for a note that sounds twice
    rub: float = 0.4  # a minor second inside a hand
    top_rub: float = 3.0  # more, when its upper note is the top
    seven_rub: float = 1.6  # more, where it is the root over its own major seventh
    crushed: float = 12.0  # a sharp ninth right under the third
    cluster: float = 1.2  # per second after the first inside a hand
    ninth: float = 18.0  # a minor ninth between the hands: only where nothing else can be played
    bare: float = 0.5  # per colour short of what the colour level asks
    crowded: float = 0.7  # per colour beyond it
    tune: float = 3.0  # a note a half step or a minor ninth from a long melody note
    singer: float = 1.8  # per right-hand note within the register that a singer needs free
    inverted: float = 3.0  # another chord note than the written bass at the bottom of a left hand that has the bass


def quantised(value: float) -> int:
    """A price in whole thousandths of a unit."""
    return round(value * UNIT)


def distance_table(near: tuple[float, ...], beyond: float, size: int = 128) -> NDArray[np.int32]:
    """Price by distance in semitones: `near` from 0 on, then `beyond` for every further semitone."""
    last = len(near) - 1
    values = [near[d] if d <= last else near[last] + beyond * (d - last) for d in range(size)]
    return np.array([quantised(v) for v in values], np.int32)


def move_table(weights: Weights) -> NDArray[np.int32]:
    """Price of a matched note by distance in semitones 0..127."""
    values = [weights.hold] + [weights.move * d + weights.leap * max(0, d - weights.leap_over) for d in range(1, 128)]
    return np.array([quantised(v) for v in values], np.int32)


class Style(msgspec.Struct, frozen=True):
    """What voices are led for: words for the player, prices, and the families it adds to the usual ones."""

    words: str
    weights: Weights
    families: tuple[str, ...] = ()
    sings: bool = False  # its top line is chosen as a tune before the hands


# Smoothest sees motion only: of what else is priced, it pays a third, except where that is no matter of taste.
_THIRD = ("thin", "gap", "stretch", "bare", "crowded", "hold", "enter", "leave", "outermost")


def _smoothest() -> Weights:
    usual = Weights()
    lighter: dict[str, Any] = {name: getattr(usual, name) / 3 for name in _THIRD}
    lighter |= {"home": (usual.home[0], usual.home[1] / 2), "doubled": usual.doubled / 2}
    even = tuple(map(float, range(13)))
    found: Weights = msgspec.structs.replace(
        usual, bass=even, bass_beyond=1.0, leap=0.0, top=(0.0,), top_beyond=0.0, **lighter
    )
    return found


_SHIPPED: dict[str, Style] = {
    "Smoothest": Style("the fingers travel as little as possible", _smoothest()),
    "Still top": Style(
        "the highest note stays or moves by a half step",
        Weights(top=(-1.2, 1.4, 3.2, 4.4, 5.2, 6.0, 6.6, 7.0), top_beyond=1.0, top_anew=(4.0, 0.0)),
    ),
    "Singing top": Style(
        "the highest note walks by step like a tune",
        Weights(top=(0.9, -1.0, -1.4, 0.2, 1.2, 2.4, 3.4, 3.6), top_beyond=0.9),
        sings=True,
    ),
    "Rising line": Style(
        "the highest note rises by steps as far as the hand's register lets it",
        Weights(
            top=(4.0, -3.0, -3.2, -0.6, 1.0, 2.0, 3.0, 3.2), top_beyond=0.4, top_fall=4.0, top_anew=(0.0,)
        ),
    ),
    "Inner line": Style(
        "the note under the top walks by step",
        Weights(inner=(2.2, -1.6, -1.8, 0.6, 1.8, 2.8, 3.6), inner_beyond=0.9),
    ),
    "Thumb line": Style(
        "the right hand's lowest note walks by step",
        Weights(inner=(2.2, -1.6, -1.8, 0.6, 1.8, 2.8, 3.6), inner_beyond=0.9, inner_voice="lowest"),
    ),
    "Slide the shape": Style(
        "one hand shape slides in parallel",
        Weights(
            move=0.2, leap=0.1, hold=0.0, slide=5.0, slide_count=4.0, outermost=0.5,
            top=(0.0, 0.0, 0.0, 0.1, 0.3, 0.6, 1.2, 1.4), top_beyond=0.4,
        ),
    ),
    "Slide along the key": Style(
        "the same fingers slide on the key's own notes",
        Weights(
            move=0.2, leap=0.1, hold=0.0, slide=5.0, slide_count=4.0, slide_by="key",
            outermost=0.5,
            top=(0.0, 0.0, 0.0, 0.1, 0.3, 0.6, 1.2, 1.4), top_beyond=0.4,
        ),
    ),
    "Lean on the shape": Style(
        "the hand keeps nearly the same shape, and does not leap for it",
        Weights(
            leap=0.6, hold=0.0, slide=2.7, slide_count=3.0, outermost=0.5,
            top=(0.0, 0.0, 0.0, 0.1, 0.3, 0.6, 1.2, 1.4), top_beyond=0.4,
        ),
    ),
    "Lean along the key": Style(
        "nearly the same fingers on the key's own notes, without leaps",
        Weights(
            leap=0.6, hold=0.0, slide=4.0, slide_count=4.0, slide_by="key", outermost=0.5,
            top=(0.0, 0.0, 0.0, 0.1, 0.3, 0.6, 1.2, 1.4), top_beyond=0.4,
        ),
    ),
    "Same size": Style("both hands keep their number of notes", Weights(enter=9.0, leave=9.0)),
    "Falling bass": Style(
        "the bass goes down by steps, over inversions too",
        Weights(
            bass=(1.6, 0.4, 0.4, 1.6, 2.0, 2.4, 3.4, 3.0, 4.0, 4.4, 4.8, 5.0, 4.0), rise=4.0, fall=-0.8, inverted=0.4
        ),
        ("turned-bass", "turned-left"),
    ),
    "Outward": Style(
        "bass and top move apart or together, not the same way", Weights(similar=8.0, oblique=0.5, bass_octave=0.0)
    ),
}  # fmt: skip


STYLES = Entries(lambda: _SHIPPED)  # by their names


def style_id(name: str) -> str:
    """A style's id for the command line: "still-top"."""
    return name.lower().replace(" ", "-")


def style_named(text: str) -> str:
    """The name of the style that a player writes by name or id, in any case; other text as it is."""
    return next((name for name in STYLES if style_id(text.strip()) == style_id(name)), text)
