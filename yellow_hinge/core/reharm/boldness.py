"""How boldly a whole song may be reharmonised, and what of it is protected."""

from __future__ import annotations

from typing import Literal

Protected = Literal["starts", "cadences"]
PROTECTED: dict[Protected, str] = {
    "starts": "the first chord of every section stays",
    "cadences": "the last chord of every section stays, and the five before it; so do halves and ends of phrases",
}
BOLDNESS = ("as written", "colours and inversions", "two-fives and secondary dominants",
            "tritones, borrowed, diminished", "leading tones, mode shifts, chains")  # fmt: skip
EVERYTHING: frozenset[Protected] = frozenset(PROTECTED)
