"""A simulated player: what somebody of some skill presses when a chord is asked for. The same by the same chance."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, NamedTuple, Protocol


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
