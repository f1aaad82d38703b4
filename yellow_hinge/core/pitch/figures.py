"""Classical figures: inversions of Roman numerals by the figures over their bass, and the chords that have names."""

from __future__ import annotations

import re
from typing import NamedTuple

from yellow_hinge.core.pitch.key import NUMERALS, Key, diatonic_seventh, number_root

_ANY = "|".join(f"{n}|{n.lower()}" for n in sorted(NUMERALS, key=len, reverse=True))
# A slash after 6 is a bass: I6/5 is the sixth chord over five.
_FIGURED = re.compile(rf"([b#]?)({_ANY})(o|°|ø|\+|)(63|64|65|4/?3|4/?2)((?:/[b#]?(?:{_ANY}))*)")
# Figures: whether the chord has its seventh, and which of its degrees lies in the bass.
_FIGURES = {"63": (False, 3), "64": (False, 5), "65": (True, 3), "43": (True, 5), "42": (True, 7)}
# What is called by a name, as a Roman numeral, and the degree in its bass (1: its root).
_NAMED = {
    "N": ("bII", 1), "N6": ("bII", 3), "N63": ("bII", 3), "It6": ("bVI7(no5)", 1), "It": ("bVI7(no5)", 1),
    "Ger65": ("bVI7", 1), "Ger6": ("bVI7", 1), "Fr43": ("bVI7b5", 1), "Fr6": ("bVI7b5", 1),
}  # fmt: skip
_SUBSTITUTE = re.compile(rf"[sS]ub\s?(?:V|5)(7|9|13|)((?:/[b#]?(?:{_ANY}))*)")
_EXPLAINED = (
    (re.compile(r"(?:cad|K)\s?6/?4", re.IGNORECASE), "the cadential six-four is written I64", "I64"),
    (re.compile(rf"(?:{_ANY})\s?(?:4-3|8-7|9-8|7-6|6-5)"), "a suspension is two chords, such as V7sus4 V7", ""),
    (re.compile(r"(?:It|Fr|Ger)\w{0,5}\s?\+?[67]?"), "augmented sixths are written It6, Fr43 and Ger65", ""),
)  # fmt: skip


class Figured(NamedTuple):
    """A chord in figures as a Roman numeral without them, and the degree of it that lies in the bass."""

    roman: str
    degree: int


def unfigured(text: str, key: Key) -> Figured | None:
    """A chord in classical figures; None for what is none."""
    if text in _NAMED:
        return Figured(*_NAMED[text])
    if match := _SUBSTITUTE.fullmatch(text):
        return Figured(f"bII{match[1] or '7'}{match[2]}", 1)
    match = _FIGURED.fullmatch(text)
    if match is None:
        return None
    seventh, degree = _FIGURES[match[4].replace("/", "")]
    word = ""
    if seventh:
        word = "maj7" if not match[3] and match[2].isupper() and _is_major(match, key) else "7"
    return Figured(f"{match[1]}{match[2]}{match[3]}{word}{match[5]}", degree)


def _is_major(match: re.Match[str], key: Key) -> bool:
    """Whether the key gives a numeral a major seventh."""
    if match[5] or match[2] == "V":  # a five is a dominant in every mode
        return False
    root = number_root(match[1] + str(NUMERALS.index(match[2]) + 1), key)
    return diatonic_seventh(root, key) == "7"


def explained(text: str) -> tuple[str, str]:
    """(what to write instead of a figure that is not read, the suggestion), "" for others."""
    for pattern, why, instead in _EXPLAINED:
        if pattern.fullmatch(text):
            return why, instead
    return "", ""
