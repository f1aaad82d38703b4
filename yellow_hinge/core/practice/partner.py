"""A simulated player: what somebody of some skill presses when a chord is asked for. The same by the same chance."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple, Protocol

from yellow_hinge.core.practice.timing import WantedStroke


class Chance(Protocol):
    """Chance, passed in."""

    def random(self) -> float:
        """A number from 0 to below 1."""

    def choice(self, some: Sequence[int], /) -> int:
        """One of some numbers."""


class Skill(NamedTuple):
    """How somebody plays: how likely a key is wrong, a chord is missing a note at first, a note lies an octave off;
    seconds until the first key; seconds between the keys of a chord.
    """

    wrong: float = 0.0
    missing: float = 0.0
    octave: float = 0.0
    thinks: float = 0.6
    spread: float = 0.02


RIGHT, LATE = Skill(), Skill(thinks=3.0)
NEARLY = Skill(wrong=0.08, missing=0.05, octave=0.04, thinks=0.9)
HALF = Skill(wrong=0.3, missing=0.25, octave=0.15, thinks=1.6)


class Touch(NamedTuple):
    """A key that goes down or up, so many seconds after the chord was asked for."""

    at: float
    kind: Literal["press", "lift"]
    midi: int


def touches(wanted: Sequence[int], skill: Skill, chance: Chance, held: Sequence[int] = ()) -> list[Touch]:
    """What the player does until the chord sounds: keys held from before that are not wanted go up first; every slip is
    let go again and mended.
    """
    found = [Touch(0.0, "lift", midi) for midi in held if midi not in wanted]
    at, last = skill.thinks, []
    for midi in sorted(set(wanted) - set(held)):
        luck = chance.random()
        if luck < skill.wrong + skill.octave:
            slip = midi + (chance.choice((-1, 1)) if luck < skill.wrong else chance.choice((-12, 12)))
            if slip not in wanted and 21 <= slip <= 108:
                found += [Touch(at, "press", slip), Touch(at + 0.15, "lift", slip)]
                at += 0.3
        if chance.random() < skill.missing:
            last.append(midi)
        else:
            found.append(Touch(at, "press", midi))
            at += skill.spread
    for midi in last:
        at += 0.5
        found.append(Touch(at, "press", midi))
    return found


UP = 0.02  # seconds that a key is up before it is struck again


class Feel(NamedTuple):
    """How somebody plays in time: seconds late, and later still by the end of a pass (below 0: rushing), the share of a
    stroke that it is held too long (below 0: too short), how likely a stroke is left out, and seconds of chance in
    every onset.
    """

    late: float = 0.0
    drags: float = 0.0
    holds: float = 0.0
    missing: float = 0.0
    uneven: float = 0.0


def in_time(wanted: Sequence[WantedStroke], feel: Feel, chance: Chance) -> list[Touch]:
    """What a player of some feel does in one pass, in seconds from its beginning; all of a hand's onset together."""
    end = max((stroke.at for stroke in wanted), default=0.0) or 1.0
    luck: dict[tuple[str, float], tuple[bool, float]] = {}
    found = []
    for stroke in wanted:
        own = (stroke.hand, stroke.at)
        if own not in luck:
            luck[own] = chance.random() < feel.missing, (2 * chance.random() - 1) * feel.uneven
        out, off = luck[own]
        if not out:
            at = stroke.at + feel.late + feel.drags * stroke.at / end + off
            found += [
                Touch(at, "press", stroke.midi),
                Touch(at + stroke.length * (1 + feel.holds), "lift", stroke.midi),
            ]
    return _lifted_first(sorted(found, key=lambda touch: (touch.at, touch.kind == "press")))


def _lifted_first(touches: list[Touch]) -> list[Touch]:
    """Touches in which a key goes up before it goes down again."""
    pressed = {
        midi: [t.at for t in touches if t.midi == midi and t.kind == "press"] for midi in {t.midi for t in touches}
    }
    found = []
    for midi, starts in pressed.items():
        ends = sorted(touch.at for touch in touches if touch.midi == midi and touch.kind == "lift")
        for at, end, after in zip(starts, ends, (*starts[1:], math.inf), strict=True):
            found += [Touch(at, "press", midi), Touch(max(at + UP / 2, min(end, after - UP)), "lift", midi)]
    return sorted(found, key=lambda touch: (touch.at, touch.kind == "press"))
