"""Latin note names in chord symbols: Do is C, Re is D, Sib is B flat."""

from __future__ import annotations

import re

_NAMES = {"do": "C", "re": "D", "ré": "D", "mi": "E", "fa": "F", "sol": "G", "la": "A", "si": "B"}
_ROOT = re.compile(r"^(sol|do|re|ré|mi|fa|la|si)(?=$|[#b♯♭mM+\-\d/(°øΔ]|sus|add|dim|aug|maj|min)", re.IGNORECASE)
_BASS = re.compile(r"/(sol|do|re|ré|mi|fa|la|si)(?=$|[#b♯♭])", re.IGNORECASE)


def from_latin(symbol: str) -> str:
    """A chord symbol with Latin names as it is written elsewhere: "Solm7/Re" is "Gm7/D"."""
    moved = _ROOT.sub(lambda found: _NAMES[found[1].lower()], symbol)
    return _BASS.sub(lambda found: f"/{_NAMES[found[1].lower()]}", moved)


def looks_latin(symbol: str) -> bool:
    """Whether a symbol can only be a Latin one ("Do" alone may be a diminished D)."""
    found = _ROOT.match(symbol)
    return found is not None and symbol[:1].isupper() and found[1].lower() != "do"
