"""A whole song reharmonised, as boldly as asked."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chart.edit import with_chords
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.boldness import EVERYTHING, Protected
from yellow_hinge.core.reharm.choice import Choice, Taste, as_written, choices, written
from yellow_hinge.core.reharm.choices import (
    at_level,
    beside,
    check_boldness,
    joined,
    leaves_bass,
    meets,
    opens_on_fifth,
    protected,
    steps_in_bass,
    touched,
)
from yellow_hinge.core.reharm.context import Context
from yellow_hinge.core.reharm.joint import Course, Rules, cheapest
from yellow_hinge.core.reharm.search import Search
from yellow_hinge.core.reharm.table import Substitute
from yellow_hinge.core.reharm.tastes import USUAL, liked, most
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import Moment, timeline
from yellow_hinge.core.symbols.chord import Chord

PLAIN = Taste()
MOST_TRIES = 1  # to keep every kind within its share
Told = Callable[[float], None]  # hears the share of the work that is done


class SongChange(NamedTuple):
    """One chord that became others: where it is written, what it was, and what took its place; `others` may as well,
    the best first; `instead` of what a lesser boldness made of it, None where that is the same.
    """

    moment: Moment
    choice: Choice
    others: tuple[Choice, ...] = ()
    instead: Choice | None = None

    @property
    def at(self) -> Address:
        """Its address in the song before."""
        return self.moment.address

    def turned(self) -> SongChange:
        """With its next best in its place."""
        if not self.others:
            return self
        return self._replace(choice=self.others[0], others=(*self.others[1:], self.choice))

    @property
    def was(self) -> Chord:
        """The chord before."""
        assert self.moment.chord is not None
        return self.moment.chord


class Bolder(NamedTuple):
    """A song reharmonised: what it was made from, every change, the cost with the prices of the choices against the
    cost of the song as written (thousandths), whether no mix of the choices costs less, and what a lesser
    boldness changed and this one leaves.
    """

    song: Song
    boldness: int
    changes: tuple[SongChange, ...]
    cost: int
    cost_before: int
    exact: bool
    given_up: tuple[SongChange, ...] = ()

    def exchanged(self, at: Address) -> Bolder:
        """With the next best in the place of a change; after the last of them comes the first again."""
        changes = tuple(change.turned() if change.at == at else change for change in self.changes)
        return self._replace(changes=changes)

    def with_changes(self, refused: frozenset[Address] = frozenset()) -> Song:
        """The song with all changes but those at the refused addresses."""
        song = self.song  # from the end, so that what stands before keeps its address
        for change in sorted(self.changes, key=lambda change: change.at, reverse=True):
            if change.at not in refused:
                song = with_chords(song, change.at, change.choice.chords, change.choice.beats)
        return numbered(song)


def bolder(
    builder: Builder, song: Song, setup: Setup, keeps: tuple[Keep, ...], boldness: int,
    protect: frozenset[Protected] = EVERYTHING, taste: Taste = PLAIN, told: Told = lambda share: None,
) -> Bolder:  # fmt: skip
    """A song with as many swaps as pay, chosen together with its voicings. Every written chord is decided once, for all
    its repeats. What the player kept or asked for at a chord stays. Raises UserError and OvertakenError.
    """
    check_boldness(boldness)
    played = tuple(moment for moment in timeline(song) if moment.chord is not None)
    moments = written(played)
    if not moments:
        return Bolder(song, boldness, (), 0, 0, True)
    plain = solve_song(builder, moments, _open(setup), keeps).totals
    offered = offers(moments, setup, keeps, boldness, protect, taste, plain.cost // len(moments))
    search = Search(builder, setup, keeps, moments)
    work = _Work(search, song, setup.manner, offered, taste, joints(played, setup))
    found = _Found(plain.cost, True, tuple(as_written(moment) for moment in moments), [], ())
    for level in range(1, boldness + 1):
        found = work.level(level, found, _within(told, level, boldness))
    return Bolder(song, boldness, found.changes(moments), found.cost, plain.cost, found.exact, found.given_up(moments))


def _within(told: Told, level: int, levels: int) -> Told:
    """Tells the share of all levels."""
    return lambda share: told((level - 1 + share) / levels)


class _Found(NamedTuple):
    """What a level chose of what was offered, and what the level below had chosen."""

    cost: int
    exact: bool
    chosen: tuple[Choice, ...]
    offered: list[tuple[Choice, ...]]
    before: tuple[Choice, ...]

    def changes(self, moments: tuple[Moment, ...]) -> tuple[SongChange, ...]:
        """The chords that became others."""
        made = []
        for moment, choice, options, was in zip(moments, self.chosen, self.offered, self.before, strict=False):
            if choice.kind is not None:
                others = tuple(c for c in options if c.kind is not None and c.chords != choice.chords)
                instead = was if was.kind is not None and was.chords != choice.chords else None
                made.append(SongChange(moment, choice, others, instead))
        return tuple(made)

    def given_up(self, moments: tuple[Moment, ...]) -> tuple[SongChange, ...]:
        """What the level below changed and this one leaves as written, for the sake of what stands beside it."""
        pairs = zip(moments, self.chosen, self.before, strict=False)
        return tuple(SongChange(m, was) for m, choice, was in pairs if was.kind is not None and choice.kind is None)


def joints(played: tuple[Moment, ...], setup: Setup) -> list[tuple[int, int]]:
    """Where the song goes back to a chord that it has played: the indices of both among the written chords."""
    order = {moment.address: n for n, moment in enumerate(written(played))}
    places = [order[moment.address] for moment in played]
    found = [(one, other) for one, other in itertools.pairwise(places) if other <= one]
    if setup.loop and len(places) > 1:
        found.append((places[-1], places[0]))
    return list(dict.fromkeys(found))


class _Work(NamedTuple):
    """A song that is being reharmonised, level by level."""

    search: Search
    song: Song
    manner: str
    offered: list[tuple[Choice, ...]]
    taste: Taste
    joints: list[tuple[int, int]]

    def level(self, level: int, below: _Found, told: Told) -> _Found:
        """The cheapest mix of a level: what the level below chose is liked better, and no kind comes more often than
        its share.
        """
        before = below.chosen
        here = [at_level(every, level, self.taste.most) for every in self.offered]
        offered = [_after(*each) for each in zip(before, self.offered, here, strict=True)]
        offered = joined(offered, self.joints, self.taste)
        offered = [_liked(was, options, self.taste) for was, options in zip(before, offered, strict=True)]
        path = solved_choices(self.search, offered, self.taste, told)
        eager = self._eager(level, offered, path)
        if eager is not None:
            path = solved_choices(self.search, eager, self.taste)
        for _ in range(MOST_TRIES):
            less = self._within_shares(offered, path)
            if less is None:
                break
            offered = less
            path = solved_choices(self.search, offered, self.taste)
        chosen = tuple(options[number] for options, number in zip(offered, path.chosen, strict=True))
        return _Found(path.cost, path.exact, chosen, offered, before)

    def _eager(self, level: int, offered: list[tuple[Choice, ...]], path: Course) -> list[tuple[Choice, ...]] | None:
        """The choices with a better price for what only this boldness allows and the manner likes well enough; None
        where such a choice was made anyhow, or there is none.
        """
        own = {
            (place, number)
            for place, options in enumerate(offered)
            for number, choice in enumerate(options)
            if choice.kind and choice.kind.boldness == level and liked(choice.kind.id, self.manner) >= USUAL
        }
        if not own or any(choice in own for choice in enumerate(path.chosen)):
            return None
        less = round(self.taste.bolder * UNIT)
        return [
            tuple(c._replace(price=c.price - less * ((place, n) in own)) for n, c in enumerate(options))
            for place, options in enumerate(offered)
        ]

    def _within_shares(self, offered: list[tuple[Choice, ...]], path: Course) -> list[tuple[Choice, ...]] | None:
        """The choices without those of a kind that came too often, where it is worth least; None where none did."""
        bars = sum(len(section.bars) for section in self.song.sections)
        used: dict[Substitute, list[tuple[int, int]]] = {}
        for place, number in enumerate(path.chosen):
            choice = offered[place][number]
            if choice.kind is not None:
                used.setdefault(choice.kind, []).append((choice.price, place))
        over = {kind: sorted(places)[most(kind.id, bars) :] for kind, places in used.items()}
        gone = {(kind, place) for kind, places in over.items() for _, place in places}
        if not gone:
            return None
        return [tuple(c for c in options if (c.kind, place) not in gone) for place, options in enumerate(offered)]


def _after(was: Choice, every: tuple[Choice, ...], options: tuple[Choice, ...]) -> tuple[Choice, ...]:
    """The choices of a chord, right after the written one that which a lesser boldness chose."""
    again = tuple(choice for choice in every[1:] if choice.chords == was.chords)
    return (options[0], *again[:1], *(choice for choice in options[1:] if choice.chords != was.chords))


def _liked(was: Choice, options: tuple[Choice, ...], taste: Taste) -> tuple[Choice, ...]:
    """The choices with a better price for what a lesser boldness chose."""
    less = round(taste.stays * UNIT)
    return tuple(c._replace(price=c.price - less) if c.kind and c.chords == was.chords else c for c in options)


def _open(setup: Setup) -> Setup:
    """A written-through song does not close into a loop."""
    found: Setup = msgspec.structs.replace(setup, loop=False)
    return found


def _context(moments: tuple[Moment, ...], index: int, manner: str) -> Context:
    moment = moments[index]
    before = moments[index - 1].chord if index else None
    after = moments[index + 1].chord if index + 1 < len(moments) else None
    assert moment.chord is not None
    return Context(moment.chord, before, after, moment.key, moment.beats, moment, (), manner)


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
        scene = _context(moments, index, setup.manner)
        first, *rest = choices(scene, boldness, taste, chord_price)
        if steps_in_bass(moments, index):
            rest = [choice for choice in rest if not leaves_bass(choice, scene.here)]
        found.append((first, *(choice for choice in rest if index or not opens_on_fifth(choice))))
    return found


def solved_choices(
    search: Search, offered: list[tuple[Choice, ...]], taste: Taste, told: Told = lambda share: None
) -> Course:
    """The cheapest mix of choices."""
    chords = [moment.chord for moment in search.moments if moment.chord is not None]
    rules = Rules(
        lambda i, left, right: meets(left, right, chords[i], chords[i + 1]),
        lambda i, left, right: beside(left, right, chords[i], chords[i + 1], taste),
    )
    return cheapest(search, offered, rules, told)
