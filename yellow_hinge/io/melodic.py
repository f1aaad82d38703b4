"""How much a line of notes is like a tune: by the name of who plays it, and by how it moves. For every kind of file."""

from __future__ import annotations

import re
from typing import NamedTuple

# Words in the names of parts and what they say for or against being the tune.
_NAMES: tuple[tuple[str, float], ...] = (
    (r"tune|melod|vocal|\bvoice|\bvox|\blead|\bsing|canto|cantus|chant|gesang|stimme|voix|voz|sopran|\bs\.?$", 6.0),
    (r"solo|fl[uöo]te|violin(?!.*\b(?:2|ii)\b)|oboe|trumpet|recorder|whistle|clarinet|sax|harmonica", 1.5),
    (r"\balto|\btenor|bariton|mezzo|violin.*\b(?:2|ii)\b|viola|horn|harmony|backing|descant", -1.0),
    (
        r"piano|klavier|keyboard|\bkeys\b|organ|orgel|guitar|gitarre|harp|accomp|string|pad|chord|rhythm|comp|synth",
        -3.0,
    ),
    (r"\bbass|kontrabass|cello|tuba|bassoon|fagott|\bb\.?$|left|links", -6.0),
    (r"drum|percussion|schlagzeug|click|metronome", -20.0),
)
NEAR = 1.5  # points that a second line may be behind and still be one to ask about
LOWEST = 50  # a line whose middle lies below is no tune
_SUNG, _ACTIVE, _CHORDS = 4.0, 2.0, 4.0
_HIGHEST, _LOW = 1.6, -4.0
_FULL, _STRIKES = 0.8, 2.2


class Traits(NamedTuple):
    """What is known of a line: its part's name, its mean pitch (MIDI), the share of its strikes that are more than one
    note, that of three and more, the share of its notes with words, and of the bars that it plays in; strikes a bar.
    """

    name: str
    middle: float
    doubled: float
    full: float
    sung: float
    active: float
    strikes: float


def tune_points(traits: Traits) -> float:
    """How much a line is like a tune."""
    low = traits.name.lower()
    points = sum(points for words, points in _NAMES if re.search(words, low))
    points += _ACTIVE * traits.active - _CHORDS * traits.doubled
    points += _SUNG if traits.sung > 0.15 else 0.0
    return points + max(_LOW, min(_HIGHEST, (traits.middle - 60) / 7))


def is_instrument(name: str) -> bool:
    """Whether a name is that of an instrument, a voice or a hand alone, and no title."""
    words = name.strip().lower().split()
    return 0 < len(words) <= 2 and any(re.match(known, words[0]) for known, _ in _NAMES)


def holds_chords(traits: Traits) -> bool:
    """Whether a line is held chords, and no tune: mostly three notes and more at once, few of them a bar."""
    return traits.full > _FULL and traits.strikes <= _STRIKES and not traits.sung
