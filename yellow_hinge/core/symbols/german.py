"""German note names in chord symbols: H is B, B is B flat, Cis is C sharp, Es is E flat."""

from __future__ import annotations

import re

_NAMES = {
    "H": "B", "B": "Bb", "His": "B#", "Cis": "C#", "Dis": "D#", "Eis": "E#", "Fis": "F#", "Gis": "G#", "Ais": "A#",
    "Ces": "Cb", "Des": "Db", "Es": "Eb", "Fes": "Fb", "Ges": "Gb", "As": "Ab", "Hes": "Bb", "Bes": "Bb", "Ees": "Eb",
    "Aes": "Ab",
}  # fmt: skip
_ANY = "|".join(sorted(_NAMES, key=len, reverse=True))
_ROOT = re.compile(rf"^({_ANY})(?!us)")  # Asus4 is A with its fourth
_BASS = re.compile(rf"/({_ANY})$")
_ONLY = re.compile(r"^(?:H|[CDFGA]is|Eis|[DGC]es|As|Es)(?!us)")


def from_german(symbol: str) -> str:
    """A chord symbol with German names as it is written elsewhere: "Hm7/Fis" is "Bm7/F#"."""
    moved = _ROOT.sub(lambda found: _NAMES[found[1]], symbol)
    return _BASS.sub(lambda found: f"/{_NAMES[found[1]]}", moved)


def looks_german(symbol: str) -> bool:
    """Whether a symbol can only be a German one."""
    return bool(_ONLY.match(symbol))
