"""From a song to the solver's chain: hand sets and price tables of every chord, with what was made before kept."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import NamedTuple, TypeVar

import numpy as np
from msgspec.structs import replace

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import NoVoicingError
from yellow_hinge.core.key import Key
from yellow_hinge.core.leading.minplus import Chain
from yellow_hinge.core.leading.motion import Prices, change_table, prices
from yellow_hinge.core.leading.placing_cost import PlaceTable, Scene, place_table, tune_cost
from yellow_hinge.core.leading.setup import Keep, Setup, widenings
from yellow_hinge.core.leading.weights import INFINITE
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import all_forms
from yellow_hinge.core.shapes.palette import goes_dark, palette
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, hand_set, place_forms
from yellow_hinge.core.timeline import Moment

T = TypeVar("T")


class Store:
    """A bounded store of tables, oldest use out first. One belongs to each open song, so that an edit solves only what
    changed; it holds nothing that is not made from its key alone.
    """

    def __init__(self, most: int = 4096) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, object] = OrderedDict()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value made for `key`, made now if it is not there."""
        if key in self._kept:
            self._kept.move_to_end(key)
            return self._kept[key]  # type: ignore[return-value]
        value = make()
        self._kept[key] = value
        if len(self._kept) > self._most:
            self._kept.popitem(last=False)
        return value


class Stage(NamedTuple):
    """One chord of the lattice. `key` names what it was made from; `widened` says that no chosen family fitted."""

    key: Hashable
    left: HandSet
    right: HandSet
    place: PlaceTable
    shapes: tuple[Shape, ...]
    widened: bool
    foreign: tuple[int, int] | None = None  # the state of a kept voicing that no shape makes
    free: Ints | None = None  # prices with the keep lifted


class Lattice(NamedTuple):
    """The stages of the chords that sound, `moments[i]` the index of stage i's moment in the timeline."""

    stages: list[Stage]
    chain: Chain
    moments: list[int]


LONG_SHARE = 0.34


def _long_tune(moment: Moment) -> tuple[int, ...]:
    """Pitch classes of the melody notes that fill a good part of the chord."""
    least = float(moment.beats) * LONG_SHARE
    return tuple(sorted({tone.pitch.midi % 12 for tone in moment.tune if float(tone.beats) >= least}))


def _free_stage(chord: Chord, key: Key, following: Chord | None, setup: Setup) -> Stage | None:
    chord_palette = palette(chord, key, setup.colour, following)
    scene = Scene(chord.root.pc, chord_palette, setup.colour, setup.hands, setup.mine)
    for attempt, shapes in enumerate(widenings(setup)):
        forms = all_forms(shapes, chord_palette, chord.chord_class, setup.mine)
        if not forms:
            continue
        left = place_forms(forms, shapes, "left", chord.root.pc, setup.hands)
        right = place_forms(forms, shapes, "right", chord.root.pc, setup.hands)
        if not len(left) or not len(right):
            continue
        place = place_table(left, right, forms, shapes, scene, setup.weights)
        if int(place.cost.min()) < INFINITE:
            left, right, place = _trimmed(left, right, place)
            return Stage(None, left, right, place, shapes, attempt > 0)
    return None


def _tuned(stage: Stage, tune: tuple[int, ...], setup: Setup) -> Stage:
    """The stage under a melody: the same voicings at other prices, so that its changes need no new tables."""
    if not tune:
        return stage
    left, right = (tune_cost(hand, tune, setup.weights) for hand in (stage.left, stage.right))
    cost = stage.place.cost + left[:, None] + right[None, :]
    cost[stage.place.cost >= INFINITE] = INFINITE
    return stage._replace(place=stage.place._replace(cost=cost))


def _trimmed(left: HandSet, right: HandSet, place: PlaceTable) -> tuple[HandSet, HandSet, PlaceTable]:
    """Without the placings that are part of no voicing."""
    rows = np.flatnonzero((place.cost < INFINITE).any(1))
    columns = np.flatnonzero((place.cost < INFINITE).any(0))
    return (
        left.take(rows),
        right.take(columns),
        PlaceTable(
            np.ascontiguousarray(place.cost[np.ix_(rows, columns)]),
            np.ascontiguousarray(place.family[np.ix_(rows, columns)]),
        ),
    )


def _with_row(hand: HandSet, notes: tuple[int, ...]) -> tuple[HandSet, int]:
    """The hand set with `notes` among its placings, and their row."""
    row = np.full((1, SIZE), PAD, np.int32)
    row[0, : len(notes)] = notes
    same = np.flatnonzero((hand.pitches == row).all(1))
    if len(same):
        return hand, int(same[0])
    pitches, rules = np.concatenate([hand.pitches, row]), np.append(hand.rules, 0).astype(np.int32)
    return hand_set(pitches, rules), len(hand)


def _kept_stage(stage: Stage | None, keep: Keep) -> Stage:
    """The stage with the kept voicing as its only way; what the others would cost stays beside it in `free`."""
    nothing = hand_set(np.zeros((0, SIZE), np.int32), np.zeros(0, np.int32))
    left, l = _with_row(stage.left if stage else nothing, tuple(sorted(keep.left)))
    right, r = _with_row(stage.right if stage else nothing, tuple(sorted(keep.right)))
    cost = np.full((len(left), len(right)), INFINITE, np.int32)
    family = np.zeros((len(left), len(right)), np.int32)
    if stage is not None:
        rows, columns = stage.place.cost.shape
        cost[:rows, :columns], family[:rows, :columns] = stage.place.cost, stage.place.family
    own = cost[l, r] < INFINITE
    cost[l, r] = cost[l, r] if own else 0
    only = np.full_like(cost, INFINITE)
    only[l, r] = cost[l, r]
    key = ("kept", stage.key if stage else None, keep.left, keep.right)
    shapes = stage.shapes if stage else ()
    return Stage(key, left, right, PlaceTable(only, family), shapes, False, None if own else (l, r), cost)


def _relaxation(chord: Chord, key: Key, following: Chord | None, setup: Setup) -> tuple[str, str]:
    """(the rule that left nothing, the smallest way out) for a chord without voicing."""
    hands = setup.hands
    trials: list[tuple[Setup, str, str]] = []
    for level in range(setup.colour + 1, 4):
        rule = f"colour level {setup.colour} allows too few notes for the chosen shapes"
        trials.append((replace(setup, colour=level), rule, f"raise the colour level to {level}"))
    for reach in range(min(hands.left_reach, hands.right_reach) + 1, 12):
        wider = replace(hands, left_reach=max(reach, hands.left_reach), right_reach=max(reach, hands.right_reach))
        trials.append(
            (replace(setup, hands=wider), "the hands cannot reach it", f"allow a reach of {reach} white keys")
        )
    for notes in range(min(hands.left_notes, hands.right_notes) + 1, 6):
        more = replace(hands, left_notes=max(notes, hands.left_notes), right_notes=max(notes, hands.right_notes))
        trials.append((replace(setup, hands=more), "a hand may play too few notes", f"allow {notes} notes a hand"))
    trials.append((replace(setup, hands=replace(hands, keys=88)), "the keyboard is too short", "use 88 keys"))
    for trial, rule, way in trials:
        if _free_stage(chord, key, following, trial):
            return rule, way
    return "no shape of the catalogue holds all its notes", "leave out an alteration or an added note"


class Builder:
    """Makes lattices for one song, keeping tables from one edit to the next."""

    def __init__(self) -> None:
        self._store = Store()

    def lattice(self, moments: tuple[Moment, ...], setup: Setup, keeps: tuple[Keep, ...]) -> Lattice:
        """The lattice of every sounding chord. Raises NoVoicingError where a chord has no voicing at all."""
        sounding = [(i, m) for i, m in enumerate(moments) if m.chord is not None]
        kept = {keep.at: keep for keep in keeps}
        stages = []
        for n, (index, moment) in enumerate(sounding):
            nxt = sounding[(n + 1) % len(sounding)][1] if n + 1 < len(sounding) or setup.loop else None
            stages.append(self._stage(index, moment, nxt.chord if nxt else None, setup, kept.get(moment.address)))
        price = self._store.get(("prices", setup.weights), lambda: prices(setup.weights))
        left, right = [], []
        count = len(stages)
        for t in range(count if setup.loop else count - 1):
            a, b = stages[t], stages[(t + 1) % count]
            left.append(self._change(a, b, "left", setup, price))
            right.append(self._change(a, b, "right", setup, price))
        places = [stage.place.cost for stage in stages]
        free = tuple(place if stage.free is None else stage.free for stage, place in zip(stages, places, strict=True))
        chain = Chain(places, left, right, setup.loop, free)
        return Lattice(stages, chain, [index for index, _ in sounding])

    def _stage(self, index: int, moment: Moment, following: Chord | None, setup: Setup, keep: Keep | None) -> Stage:
        chord, key = moment.chord, moment.key
        assert chord is not None
        tune = _long_tune(moment)
        made_from = (
            chord,
            key,
            goes_dark(chord, following),
            setup.bass,
            setup.hands,
            setup.colour,
            setup.families,
            setup.style,
        )

        def make() -> Stage | None:
            stage = _free_stage(chord, key, following, setup)
            return stage._replace(key=made_from) if stage else None

        plain = self._store.get(made_from, make)
        stage = self._store.get((made_from, tune), lambda: _tuned(plain, tune, setup)) if plain else None
        if keep is not None and keep.symbol == moment.symbol:
            return _kept_stage(stage, keep)
        if stage is None:
            raise NoVoicingError(index, moment.symbol, *_relaxation(chord, key, following, setup))
        return stage

    def _change(self, old: Stage, new: Stage, hand: str, setup: Setup, price: Prices) -> Ints:
        def make() -> Ints:
            before, after = (old.left, new.left) if hand == "left" else (old.right, new.right)
            return change_table(before, after, hand, setup.mine, price)

        return self._store.get(("change", old.key, new.key, hand, setup.mine, setup.style), make)
