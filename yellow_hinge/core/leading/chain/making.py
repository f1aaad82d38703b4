"""The stages of some chords in one pass: each is so small that what it costs is mostly that it is asked for."""

from __future__ import annotations

import itertools
from collections import OrderedDict
from collections.abc import Sequence
from threading import Lock
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.leading.asking.asked import Asked
from yellow_hinge.core.leading.asking.wants import fits, wants
from yellow_hinge.core.leading.chain.stage import Place, Stage
from yellow_hinge.core.leading.prices.flat import Pairs, pairs_of
from yellow_hinge.core.leading.prices.placing_cost import PlaceTable, place_tables
from yellow_hinge.core.leading.prices.scenes import PlacingContext, Scenes, alike
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import Int32s, NDArray, later, np
from yellow_hinge.core.shapes.catalogue import Shape, shape_of
from yellow_hinge.core.shapes.forms import Forms, all_forms
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, Placing, PlacingRoom, Rows, one_hand, place_forms
from yellow_hinge.core.shapes.stacked import stacked_forms
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.tables import made_of_entries

STACKED = {"mine": "triad-over-bass", "theirs": "close-hands"}  # what a triad over another chord is called
MOST_STAGES = 1024  # that are kept of all songs, some 10 to 50 kB each
MOST_PAIRS = 300_000  # of hands that are looked at together


class Making(NamedTuple):
    """All that a stage is made from: of a place nothing of its key and the chord that follows but what is in its scene.
    Places that are heard alike share one.
    """

    shapes: tuple[Shape, ...]
    scene: PlacingContext
    asked: Asked
    top: int | None
    extra: tuple[tuple[int, ...], tuple[int, ...]]
    without: frozenset[int]
    chord_class: str
    stacked: Chord | None


def making_of(at: Place, shapes: tuple[Shape, ...], scene: PlacingContext) -> Making:
    """What the stage of a place is made from with these families."""
    stacked = at.chord if at.chord.stack else None
    return Making(shapes, scene, at.asked, at.top, at.extra, at.without, at.chord.chord_class, stacked)


def trial(at: Place, shapes: tuple[Shape, ...], scene: PlacingContext) -> Stage | None:
    """The stage with these families only; None where they have no voicing."""
    return stages_of([making_of(at, shapes, scene)])[0]


class _Kept:
    """The stages that were made of all songs, the ones that were wanted last."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Making, Stage | None] = OrderedDict()
        self._guard = Lock()  # several threads solve

    def missing(self, asked: Sequence[Making], found: dict[Making, Stage | None]) -> list[Making]:
        """Those that are not there; the others are put among what is `found`."""
        with self._guard:
            for each in asked:
                if each in self._kept:
                    self._kept.move_to_end(each)
                    found[each] = self._kept[each]
        return [each for each in dict.fromkeys(asked) if each not in found]

    def put(self, made: dict[Making, Stage | None]) -> None:
        """Keep what was made."""
        with self._guard:
            self._kept.update(made)
            while len(self._kept) > MOST_STAGES:
                self._kept.popitem(last=False)

    def cache_clear(self) -> None:
        """Forget all."""
        with self._guard:
            self._kept.clear()


_KEPT = made_of_entries(_Kept())
_NUMBERS = itertools.count(1)  # of the stages so far: each one's key, quicker to hash than what it was made from


def forget_stages() -> None:
    """Drop what is kept of all songs: for who measures a first solve."""
    _KEPT.cache_clear()


def stages_of(asked: Sequence[Making]) -> list[Stage | None]:
    """A stage for each, None where it has no voicing: made now, or kept from when it was asked for before."""
    found: dict[Making, Stage | None] = {}
    missing = _KEPT.missing(asked, found)
    if missing:
        made: dict[Making, Stage | None] = dict.fromkeys(missing)
        groups: dict[object, list[tuple[Making, _Ready]]] = {}
        for each in missing:
            ready = _ready(each)
            if ready.forms:
                groups.setdefault((each.asked, alike(ready.scene)), []).append((each, ready))
        for group in groups.values():
            made.update(_one_pass(group))
        _KEPT.put(made)
        found |= made
    return [found[each] for each in asked]


class _Ready(NamedTuple):
    """What is put on the keys: families with their forms, and what the voicings are judged by."""

    shapes: tuple[Shape, ...]
    forms: tuple[Forms, ...]
    scene: PlacingContext


def _ready(making: Making) -> _Ready:
    asked, shapes = making.asked, making.shapes
    chosen = bool(asked.families) and any(rule.thirdless for shape in shapes for rule in shape.rule)
    scene = making.scene._replace(thirdless=chosen)
    stacked = stacked_forms(making.stacked, asked.mine) if making.stacked and not asked.families else None
    if stacked is not None:
        scene = scene._replace(palette=replace(scene.palette, must=stacked[1]))
        return _Ready((shape_of(STACKED[asked.bass]),), (stacked[0],), scene)
    forms = all_forms(shapes, scene.palette, making.chord_class, asked.mine, bool(asked.families))
    return _Ready(shapes, forms, scene)


def _placings(making: Making, ready: _Ready, side: int) -> Placing:
    asked, extra = making.asked, making.extra[side]
    room = PlacingRoom(asked.hands, asked.mine, asked.lift, (extra,) if extra else (), making.top)
    return Placing(ready.forms, ready.shapes, ("left", "right")[side], ready.scene.root, room)


def _one_pass(group: list[tuple[Making, _Ready]]) -> dict[Making, Stage | None]:
    """The stages of chords of which the same is asked."""
    both = place_forms([_placings(*each, side) for side in (0, 1) for each in group])
    hands = _halves(both, len(group))
    left, right = (np.bincount(hand.of, minlength=len(group)) for hand in hands)
    if len(group) > 1 and int((left * right).sum()) > MOST_PAIRS:
        return _one_pass(group[: len(group) // 2]) | _one_pass(group[len(group) // 2 :])
    if not (left * right).all():
        playable = [each for each, count in zip(group, left * right, strict=True) if count]
        return _one_pass(playable) if playable else {}
    pairs = pairs_of(*hands, len(group))
    return _apart(group, pairs, _priced(group, pairs))


def _priced(group: list[tuple[Making, _Ready]], pairs: Pairs) -> PlaceTable:
    """What all pairs of hands cost, INFINITE where they are no voicing or not what is asked for."""
    asked, scenes = group[0][0].asked, Scenes(tuple(ready.scene for _, ready in group))
    table = place_tables(pairs, [r.forms for _, r in group], [r.shapes for _, r in group], scenes, asked.weights)
    few = _Fewer(pairs, np.searchsorted(pairs.of, np.arange(len(group))))
    cost = table.cost
    if not asked.families:
        cost = few.only(cost, _leaving_out(pairs, [making.without for making, _ in group]))
        cost = few.only(cost, clean(pairs))
    if asked.wants:
        cost = np.where(_wanted_rows(asked, pairs.left, scenes)[pairs.rows], cost, INFINITE).astype(np.int32)
    return table._replace(cost=few.filled(cost, asked))


def _halves(both: Rows, chords: int) -> tuple[Rows, Rows]:
    """The left hands of all chords and the right ones."""
    middle = int(np.searchsorted(both.of, chords))
    right = both.take(slice(middle, None))
    return both.take(slice(middle)), right._replace(of=right.of - chords)


def _apart(group: list[tuple[Making, _Ready]], pairs: Pairs, table: PlaceTable) -> dict[Making, Stage | None]:
    """The stages by themselves, without the placings that are part of no voicing."""
    fits = table.cost < INFINITE
    used = [np.zeros(len(hand.of), bool) for hand in pairs[:2]]
    used[0][pairs.rows[fits]] = True
    used[1][pairs.columns[fits]] = True
    kept = used[0][pairs.rows] & used[1][pairs.columns]
    cost, family = table.cost[kept], table.family[kept]
    hands = [rows.take(u).of_each(len(group)) for rows, u in zip(pairs[:2], used, strict=True)]
    found: dict[Making, Stage | None] = {}
    first = 0
    for (making, ready), left, right in zip(group, *hands, strict=True):
        if len(left):
            part, shape = slice(first, first + len(left) * len(right)), (len(left), len(right))
            first = part.stop
            place = PlaceTable(cost[part].reshape(shape).copy(), family[part].reshape(shape).copy())
            stage = Stage(next(_NUMBERS), _own(left), _own(right), place, ready.shapes, ready.scene)
            found[making] = stage
    return found


def _own(hand: HandSet) -> HandSet:
    """The placings in memory of their own, so that those of other chords can be let go."""
    return HandSet(*(getattr(hand, name).copy() for name in HandSet.__struct_fields__))


# --- which pairs are voicings ------------------------------------------------------------------------------------


class _Fewer(NamedTuple):
    """Pairs of some chords, of which each keeps some only; `first` is where those of a chord begin."""

    pairs: Pairs
    first: NDArray[np.intp]

    def only(self, cost: Ints, keep: NDArray[np.bool_]) -> Ints:
        """The prices of some pairs only, for a chord that would have none left as they are."""
        few = np.where(keep, cost, INFINITE).astype(np.int32)
        has = np.minimum.reduceat(few, self.first) < INFINITE
        found: Ints = np.where(has[self.pairs.of], few, cost)
        return found

    def filled(self, cost: Ints, asked: Asked) -> Ints:
        """The prices without what has another number of notes than asked for, as near to it as each chord allows. A
        filter over the chord, so that fullness is never bought with motion. Shapes that the player chose may rest a
        hand.
        """
        left, right = self.pairs.hands
        counts = left.count[self.pairs.rows], right.count[self.pairs.columns]
        if asked.right == "free" or not asked.families:
            cost = self.only(cost, (counts[1] == 0) == (asked.right == "free"))
        if asked.parts:
            cost = self.only(cost, counts[0] + counts[1] == asked.parts)
        for target, count in zip(asked.fullness, counts, strict=True):
            if target:
                cost = self.only(cost, count == self._nearest(cost, count, target)[self.pairs.of])
        return cost

    def _nearest(self, cost: Ints, count: Ints, target: int) -> Ints:
        """The number of notes of each chord that is there and nearest to the one asked for; of two the greater."""
        there = np.zeros((len(self.first), SIZE + 1), bool)
        fits = cost < INFINITE
        there[self.pairs.of[fits], count[fits]] = True
        order = np.array(sorted(range(SIZE + 1), key=lambda notes: (abs(notes - target), -notes)), np.int32)
        found: Ints = order[there[:, order].argmax(1)]
        return found


# By semitones apart (0 to 4, more): the lower note's MIDI number under which notes are too close, over both hands.
TOO_LOW: Int32s = later(lambda: np.array([PAD, 52, 48, 48, 46, PAD], np.int32))


def clean(pairs: Pairs) -> NDArray[np.bool_]:
    """Where no two neighbouring notes lie too close for so low a place, and the hands not a half step apart."""
    left, right = pairs.hands
    bad: list[NDArray[np.bool_]] = []
    for hand in pairs.hands:
        lower, upper = hand.pitches[:, :-1], hand.pitches[:, 1:]
        bad.append(np.asarray(_too_low(lower, (upper - lower) * (upper != PAD)).any(axis=1)))
    high, low = left.high[pairs.rows], right.low[pairs.columns]
    apart = (low - high) * (left.count > 0)[pairs.rows] * (right.count > 0)[pairs.columns]
    found: NDArray[np.bool_] = bad[0][pairs.rows] | bad[1][pairs.columns] | _too_low(high, apart) | (apart == 1)
    return ~found


def _leaving_out(pairs: Pairs, without: list[frozenset[int]]) -> NDArray[np.bool_]:
    """Where the hands sound none of some pitch classes of each chord."""
    left, right = pairs.hands
    bits = np.array([sum(1 << pc for pc in each) for each in without], np.int32)[pairs.of]
    found: NDArray[np.bool_] = ((left.mask[pairs.rows] | right.mask[pairs.columns]) & bits) == 0
    return found


def _too_low(lower: Ints, apart: Ints) -> NDArray[np.bool_]:
    found: NDArray[np.bool_] = lower < TOO_LOW[np.minimum(np.maximum(apart, 0), len(TOO_LOW) - 1)]
    return found


def _wanted_rows(asked: Asked, left: Rows, scenes: Scenes) -> NDArray[np.bool_]:
    """The left hands of some chords that the patterns want."""
    hands = left.of_each(len(scenes.each))
    return np.concatenate([_wanted(asked, hand, scene) for hand, scene in zip(hands, scenes.each, strict=True)])


def _wanted(asked: Asked, left: HandSet, scene: PlacingContext) -> NDArray[np.bool_]:
    """The left hands (L,) of a chord that the patterns want."""
    found = np.ones(len(left), bool)
    for want in asked.wants:
        if wants()[want].hand == "left":
            found &= fits(wants()[want], left, scene)
    return found


def meets(asked: Asked, notes: tuple[int, ...], scene: PlacingContext) -> bool:
    """Whether a left hand (MIDI, ascending) is what the patterns want."""
    return bool(_wanted(asked, one_hand(notes), scene)[0])
