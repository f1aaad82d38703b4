"""Straight or swung: where the second half of a beat falls."""

from __future__ import annotations

from yellow_hinge.core.errors import UserError

SWINGS = {"straight": 50, "light": 58, "swung": 67}  # percent of a beat before its second half
LEAST, MOST = 50, 75
FAST = 200  # beats a minute from which swing flattens


def read_swing(text: str) -> str:
    """A swing as it is kept: a name out of SWINGS, or percent. Raises UserError."""
    found = text.strip().lower().removesuffix("%").strip()
    percent = int(found) if found.isdecimal() and len(found) < 4 else 0
    if found not in SWINGS and not LEAST <= percent <= MOST:
        raise UserError(f"{text[:20]!r} is no swing; write {', '.join(SWINGS)}, or percent, {LEAST} to {MOST}")
    return next((name for name, known in SWINGS.items() if percent == known), found)


def percent_of(swing: str) -> int:
    """The percent of a beat before its second half. `swing` as `read_swing` gives it."""
    return SWINGS[swing] if swing in SWINGS else int(swing)


def swing_words(swing: str) -> str:
    """A swing as a sheet says it. `swing` as `read_swing` gives it."""
    return {"light": "lightly swung"}.get(swing, swing if swing in SWINGS else f"swung {swing} %")


def usual_swing(swings: bool, tempo: int) -> int:
    """The percent of a song that says nothing of it, by whether it is played in swung patterns; lighter where it is
    fast.
    """
    return SWINGS["straight" if not swings else "light" if tempo >= FAST else "swung"]
