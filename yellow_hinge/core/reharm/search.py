"""The chords of all choices of a song, each where it may stand: what the searches through them have in common."""

from __future__ import annotations

import itertools
from collections.abc import Hashable, Iterator
from contextlib import suppress
from typing import NamedTuple

from yellow_hinge.core.errors import NoVoicingError
from yellow_hinge.core.leading.asking.asked import climbed
from yellow_hinge.core.leading.asking.keeps import Keep, ruling
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.chain.stage import Place, Stage, way_between
from yellow_hinge.core.leading.chain.steps import Table
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.scenes import Outermost
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import np
from yellow_hinge.core.reharm.choice import Choice
from yellow_hinge.core.reharm.splitting import split
from yellow_hinge.core.shapes.functions import heading
from yellow_hinge.core.shapes.regions import local_keys
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

UNFIT = INFINITE + INFINITE // 10  # of a state that is no voicing: no price of a choice makes it one
MOST_KEPT = 40_000_000  # of those that are at hand from one search to the next


class Spot(NamedTuple):
    """A chord of a choice, heard as leading on in one way: its stage, where it stands, what its states cost (L, R).
    `number` of those of one song.
    """

    number: int
    stage: Stage
    at: Place
    cost: Table


Moved = tuple[tuple[Table, ...], tuple[Table, ...]]  # what both hands pay from one stage to the next
Hinge = tuple[Hashable, Hashable, int]
Hinges = dict[Hinge, tuple[Spot, Spot]]


def cells_of(old: Spot, new: Spot) -> int:
    """Entries of the tables of a change."""
    return sum(len(old.stage.of(hand)) * len(new.stage.of(hand)) for hand in HANDS)


class Search:
    """A song whose chords are chosen together with their voicings: what its choices have in common from one search to
    the next.
    """

    def __init__(self, builder: Builder, setup: Setup, keeps: tuple[Keep, ...], moments: tuple[Moment, ...]) -> None:
        self.builder, self.setup, self.keeps, self.moments = builder, climbed(setup, moments), keeps, moments
        self._local = local_keys(moments, setup.loop)
        self._parts: dict[object, tuple[Moment, ...]] = {}
        self._spots: dict[object, Spot | None] = {}
        self._places: dict[object, tuple[Place, bool]] = {}
        self._ways: dict[tuple[int, int], int] = {}
        self._numbers: dict[Way, int] = {}
        self._moved: dict[Hinge, Moved] = {}
        self._cells = 0

    def parts(self, index: int, choice: Choice) -> tuple[Moment, ...]:
        """The moments of a choice's chords."""
        name = index, choice.chords, choice.beats
        found = self._parts.get(name)
        if found is None:
            found = self._parts[name] = split(self.moments[index], choice.chords, choice.beats)
        return found

    def _place(self, index: int, choice: Choice, part: int, following: Chord | None) -> tuple[Place, bool]:
        """Where a chord of a choice stands, and whether it may be eased."""
        name = index, choice.chords, choice.beats, part, following
        if name not in self._places:
            moment = self.parts(index, choice)[part]
            final = part == len(choice.chords) - 1 and index == len(self.moments) - 1
            end: Outermost = "last" if final else "first" if part == index == 0 else ""
            at = self.builder.place(moment, following, self.setup, ruling(self.keeps, moment), end)
            as_written = moment.chord == self.moments[index].chord  # it is coloured and eased as in the song
            self._places[name] = (at._replace(local=self._local[index]) if as_written else at), as_written
        return self._places[name]

    def spot(self, index: int, choice: Choice, part: int, following: Chord | None) -> Spot | None:
        """A chord of a choice; None where no hand can play it. What is written is eased instead."""
        name = index, choice.chords, choice.beats, part, following
        if name not in self._spots:
            moment, (at, ease) = self.parts(index, choice)[part], self._place(index, choice, part, following)
            self._spots[name] = None
            with suppress(NoVoicingError):
                stage = self.builder.cut(self.builder.stage(index, moment, at, ruling(self.keeps, moment), ease))
                cost = np.where(stage.place.cost < INFINITE, stage.place.cost, UNFIT).astype(np.int32)
                at = at.unwanting if stage.unmet else at
                self._spots[name] = Spot(len(self._spots), stage, at, cost)
        return self._spots[name]

    def make_ready(self, choices: list[tuple[Choice, ...]]) -> None:
        """Make the stages of all chords of all choices that no search had, many at a time. Raises OvertakenError."""
        known = len(self._places)
        for index, options in enumerate(choices):
            following = following_of(choices, index)
            for choice in options:
                for part, heard in heard_in(choice, following):
                    self._place(index, choice, part, heard)
        self.builder.make_ready(at for at, _ in itertools.islice(self._places.values(), known, None))

    def hinge(self, old: Spot, new: Spot) -> Hinge:
        """The change from one to the other: from which hand sets to which, and what it is led by (its number)."""
        name = old.number, new.number
        way = self._ways.get(name)
        if way is None:
            way = self._numbers.setdefault(way_between(old.at, new.at), len(self._numbers))
            self._ways[name] = way
        return old.stage.key, new.stage.key, way

    def moved(self, hinges: Hinges) -> dict[Hinge, Moved]:
        """The price tables of some changes. Raises OvertakenError."""
        missing = [name for name in hinges if name not in self._moved]
        ways = list(self._numbers)
        wanted = [(old.stage, new.stage, ways[way]) for (_, _, way), (old, new) in ((m, hinges[m]) for m in missing)]
        made = dict(zip(missing, self.builder.changes(wanted, self.setup.mine), strict=True))
        found = {name: made[name] if name in made else self._moved[name] for name in hinges}
        self._cells += sum(cells_of(*hinges[name]) for name in missing)
        if self._cells > MOST_KEPT:
            self._moved, self._cells = {}, 0
        self._moved |= made
        return found


def following_of(choices: list[tuple[Choice, ...]], index: int) -> list[Chord]:
    """The chords that may come right after a written one."""
    return [choice.chords[0] for choice in choices[index + 1]] if index + 1 < len(choices) else []


def heard_in(choice: Choice, following: list[Chord]) -> Iterator[tuple[int, Chord | None]]:
    """The chords of a choice by their numbers, each with what it hears; the last one once for each way of hearing."""
    yield from enumerate(choice.chords[1:])
    for chord in ears_of(choice.chords[-1], following).values():
        yield len(choice.chords) - 1, chord


def ears_of(chord: Chord, following: list[Chord]) -> dict[str, Chord | None]:
    """The ways in which a last chord can hear what follows, each with one chord that is heard so."""
    found: dict[str, Chord | None] = {}
    for chord_after in following:
        found.setdefault(heading(chord, chord_after), chord_after)
    return found or {"": None}
