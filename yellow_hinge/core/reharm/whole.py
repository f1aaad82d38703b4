"""A whole song reharmonised, as boldly as asked."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chart_edit import with_chords
from yellow_hinge.core.chord import Chord
from yellow_hinge.core.following import numbered
from yellow_hinge.core.leading.keeps import Keep
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.choices import (
    PROTECTED,
    Choice,
    Protected,
    Taste,
    as_written,
    beside,
    check_boldness,
    choices,
    meets,
    protected,
    touched,
    written,
)
from yellow_hinge.core.reharm.context import Context
from yellow_hinge.core.reharm.joint import Course, Rules, cheapest
from yellow_hinge.core.song import Address, Song
from yellow_hinge.core.timeline import Moment, timeline

EVERYTHING: frozenset[Protected] = frozenset(PROTECTED)
USUAL = Taste()
Told = Callable[[float], None]  # hears the share of the work that is done


class Change(NamedTuple):
    """One chord that became others: where it is written, what it was, and what took its place."""

    moment: Moment
    choice: Choice

    @property
    def at(self) -> Address:
        """Its address in the song before."""
        return self.moment.address

    @property
    def was(self) -> Chord:
        """The chord before."""
        assert self.moment.chord is not None
        return self.moment.chord


class Bolder(NamedTuple):
    """A song reharmonised: what it was made from, every change, the cost with the prices of the choices against the
    cost of the song as written (thousandths), and whether no mix of the choices costs less.
    """

    song: Song
    boldness: int
    changes: tuple[Change, ...]
    cost: int
    cost_before: int
    exact: bool

    def with_changes(self, refused: frozenset[Address] = frozenset()) -> Song:
        """The song with all changes but those at the refused addresses."""
        song = self.song  # from the end, so that what stands before keeps its address
        for change in sorted(self.changes, key=lambda change: change.at, reverse=True):
            if change.at not in refused:
                song = with_chords(song, change.at, change.choice.chords, change.choice.beats)
        return numbered(song)


def bolder(
    builder: Builder, song: Song, setup: Setup, keeps: tuple[Keep, ...], boldness: int,
    protect: frozenset[Protected] = EVERYTHING, taste: Taste = USUAL, told: Told = lambda share: None,
) -> Bolder:  # fmt: skip
    """A song with as many swaps as pay, chosen together with its voicings. Every written chord is decided once, for all
    its repeats. What the player kept or asked for at a chord stays. Raises UserError and OvertakenError.
    """
    check_boldness(boldness)
    moments = written(timeline(song))
    if not moments:
        return Bolder(song, boldness, (), 0, 0, True)
    plain = solve_song(builder, moments, _open(setup), keeps).totals
    offered = offers(moments, setup, keeps, boldness, protect, taste, plain.cost // len(moments))
    path = solved_choices(builder, moments, setup, keeps, offered, taste, told)
    changes = tuple(
        Change(moment, options[number])
        for moment, options, number in zip(moments, offered, path.chosen, strict=True)
        if options[number].kind is not None
    )
    return Bolder(song, boldness, changes, path.cost, plain.cost, path.exact)


def _open(setup: Setup) -> Setup:
    """A written-through song does not close into a loop."""
    found: Setup = msgspec.structs.replace(setup, loop=False)
    return found


def offers(
    moments: tuple[Moment, ...], setup: Setup, keeps: tuple[Keep, ...], boldness: int,
    protect: frozenset[Protected], taste: Taste, chord_price: int,
) -> list[tuple[Choice, ...]]:  # fmt: skip
    """The choices of every written chord."""
    fixed = protected(moments, protect)
    found: list[tuple[Choice, ...]] = []
    for index, moment in enumerate(moments):
        if boldness == 0 or index in fixed or touched(moment, setup, keeps):
            found.append((as_written(moment),))
            continue
        before = moments[index - 1].chord if index else None
        after = moments[index + 1].chord if index + 1 < len(moments) else None
        assert moment.chord is not None
        scene = Context(moment.chord, before, after, moment.key, moment.beats, moment)
        found.append(choices(scene, boldness, taste, chord_price))
    return found


def solved_choices(
    builder: Builder, moments: tuple[Moment, ...], setup: Setup, keeps: tuple[Keep, ...],
    offered: list[tuple[Choice, ...]], taste: Taste, told: Told = lambda share: None,
) -> Course:  # fmt: skip
    """The cheapest mix of choices."""
    chords = [moment.chord for moment in moments if moment.chord is not None]
    rules = Rules(
        lambda i, left, right: meets(left, right, chords[i], chords[i + 1]),
        lambda i, left, right: beside(left, right, chords[i], chords[i + 1], taste),
    )
    return cheapest((builder, setup, keeps), moments, offered, rules, told)
