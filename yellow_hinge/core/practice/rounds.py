"""Rounds through all twelve keys."""

from __future__ import annotations

from typing import Literal

from yellow_hinge.core.pitch.key import Key, key_on

Round = Literal["fourths", "fifths", "half", "whole"]
STEPS: dict[Round, int] = {"fourths": 5, "fifths": 7, "half": 1, "whole": 2}


def round_keys(first: Key, way: Round, down: bool = False) -> tuple[Key, ...]:
    """All twelve keys from one of them, each spelled with fewer signs. By whole steps it is two rounds of six, the
    second a half step higher (or lower).
    """
    step = -STEPS[way] if down else STEPS[way]
    if way == "whole":
        shifts = [step * n for n in range(6)] + [step // 2 + step * n for n in range(6)]
    else:
        shifts = [step * n for n in range(12)]
    return (first, *(key_on(first.tonic.pc + shift, first.mode) for shift in shifts[1:]))
