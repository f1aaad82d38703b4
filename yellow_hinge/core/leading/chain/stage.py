"""One chord of the lattice: its hand sets and the price of every pair, with keeps and held tops laid on."""

from __future__ import annotations

import itertools
from collections.abc import Hashable
from functools import lru_cache
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.leading.asking.asked import Asked, chosen_shapes, of_all, widenings
from yellow_hinge.core.leading.asking.manners import kin_of
from yellow_hinge.core.leading.asking.wants import fits, wants
from yellow_hinge.core.leading.asking.wish_words import COLOUR_LEVELS
from yellow_hinge.core.leading.prices.doubling import doubling
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.placing_cost import (
    Outermost,
    PlaceTable,
    PlacingContext,
    place_table,
    tune_table,
)
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import Int32s, NDArray, later, np
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.shapes.catalogue import Shape, shape_of
from yellow_hinge.core.shapes.forms import Forms, all_forms
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.shapes.placing import PAD, HandSet, Ints, PlacingRoom, one_hand, place_forms
from yellow_hinge.core.shapes.stacked import stacked_forms
from yellow_hinge.core.symbols.chord import Chord, same_chord
from yellow_hinge.core.tables import made_of_entries


class Stage(NamedTuple):
    """One chord of the lattice. `key` names what its hand sets were made from; `notes` are sentences about what had to
    give way; `foreign` is the state of a kept voicing that no shape makes; `free` prices with keeps lifted; `cut`
    where only the best placings are looked at; `eased` where no hand could hold the chord as it is written.
    """

    key: Hashable
    left: HandSet
    right: HandSet
    place: PlaceTable
    shapes: tuple[Shape, ...]
    scene: PlacingContext
    notes: tuple[str, ...] = ()
    foreign: tuple[int, int] | None = None
    free: Ints | None = None
    cut: bool = False
    eased: bool = False
    unmet: bool = False  # no voicing has the hands that its patterns want: it is made without them

    def of(self, hand: str) -> HandSet:
        """The placings of one hand."""
        return self.left if hand == "left" else self.right


class Place(NamedTuple):
    """A chord where it stands: what its stage is made from, apart from melody and keeps."""

    chord: Chord
    key: Key
    following: Chord | None
    asked: Asked
    top: int | None = None  # MIDI number that has to be on top
    extra: tuple[tuple[int, ...], tuple[int, ...]] = ((), ())  # hands to take in though no shape makes them
    ends: bool = False  # it begins the song or closes a section, so that it stands on its written bass
    avoid: frozenset[int] = frozenset()  # semitones above the root that no added colour may sound, for the tune's sake
    without: frozenset[int] = frozenset()  # pitch classes of the chord that the hands leave out where they can
    local: Key | None = None  # the key that its colours are heard in, where that is not the song's
    outermost: Outermost = ""  # it begins or ends the song, so that its register counts more
    closes: bool = False  # the last one of a section, so that what follows may begin its line anew
    otherwise: Asked | None = None  # what is asked where its patterns want hands that it cannot have

    @property
    def unwanting(self) -> Place:
        """The place without what its patterns want."""
        return self if self.otherwise is None else self._replace(asked=self.otherwise, otherwise=None)


def way_between(old: Place, new: Place) -> Way:
    """What the change between two chords is led by: the style and manner of the one it arrives at."""
    weights = new.asked.weights
    repeats = bool(weights.repeat) and same_chord(old.chord, new.chord)
    priced = new.asked.mine and bool(weights.parallel or weights.outer_parallel)
    basses = (old.chord.bass_note.pc, new.chord.bass_note.pc) if priced else None
    scale = tuple(sorted({note.pc for note in new.key.scale})) if weights.slide_by == "key" else ()
    return Way(
        weights,
        repeats,
        basses,
        scale,
        line_of(old.chord, new.chord),
        new.asked.leads,
        old.closes and bool(weights.top_anew),
    )


def line_of(old: Chord, new: Chord) -> tuple[int, int, bool] | None:
    """(pitch class that goes, that comes, whether the first one stays too) of a line inside a held root and bass: one
    note moves a half or whole step, or the root's double falls to the seventh; None where there is none.
    """
    if old.root.pc != new.root.pc or old.bass_note.pc != new.bass_note.pc:
        return None
    before, after = set(old.pitch_classes), set(new.pitch_classes)
    gone, come = before - after, after - before
    if len(come) != 1 or len(gone) > 1:
        return None
    (to,) = come
    start = next(iter(gone), old.root.pc)
    near = (1, 2, 10, 11) if gone else (1, 2)
    return (start, to, not gone) if (start - to) % 12 in near else None


MOST_WORK = 14_000_000  # additions of one step of the solver; a stage with more is large
STACKED = {"mine": "triad-over-bass", "theirs": "close-hands"}  # what a triad over another chord is called
TENSIONS = ("9", "b9", "#9", "11", "#11", "13", "b13")
KEPT_ROWS, KEPT_COLUMNS = 56, 360
MOST_STAGES = 1024  # that are kept of all songs, some 10 to 50 kB each


def scene_of(at: Place) -> PlacingContext:
    """What the chord's voicings are judged by."""
    asked = at.asked
    found = palette(at.chord, at.local or at.key, asked.colour, at.following, at.avoid)
    if asked.right == "free" and asked.mine:  # who plays the solo has the tensions
        found = replace(found, must=tuple(d for d in found.must if d not in TENSIONS), choice=())
    register = (asked.lift, asked.anchored, asked.singer)
    quality = None if at.chord.stack else at.chord.quality
    rooted = asked.mine and not asked.families
    scene = PlacingContext(at.chord.root.pc, found, asked.colour, asked.hands, asked.mine, *register)
    step = (at.chord.root.pc - at.key.tonic.pc) % 12
    twice = doubling(at.chord.quality, found.bass, step, kin_of(asked.manner))
    scene = scene._replace(rooted=rooted, ends=at.ends, outermost=at.outermost)
    return scene._replace(quality=quality, upper=_upper(at), doubling=twice)


def _upper(at: Place) -> int:
    """The upper one of two chords (bits), which belongs to the right hand alone where that has fingers for it."""
    notes = set(at.chord.stack[0].pitch_classes) if at.chord.stack else set[int]()
    return sum(1 << pc for pc in notes) if len(notes) <= at.asked.hands.right_notes else 0


def _placed(
    at: _Makings, side: int, forms: tuple[Forms, ...], shapes: tuple[Shape, ...], scene: PlacingContext
) -> HandSet:
    extra = (at.extra[side],) if at.extra[side] else ()
    room = PlacingRoom(at.asked.hands, at.asked.mine, at.asked.lift, extra, at.top)
    return place_forms(forms, shapes, ("left", "right")[side], scene.root, room)


class _Makings(NamedTuple):
    """All of a place that its stage is made from, once its scene is known: of key and following chord nothing."""

    asked: Asked
    top: int | None
    extra: tuple[tuple[int, ...], tuple[int, ...]]
    without: frozenset[int]
    chord_class: str
    stacked: Chord | None


_MADE = itertools.count(1)  # stages so far: each one's key, quicker to hash than what it was made from


def trial(at: Place, shapes: tuple[Shape, ...], scene: PlacingContext) -> Stage | None:
    """The stage with these families only; None where they have no voicing. Places that are heard alike share one."""
    stacked = at.chord if at.chord.stack else None
    return _stage(_Makings(at.asked, at.top, at.extra, at.without, at.chord.chord_class, stacked), shapes, scene)


def forget_stages() -> None:
    """Drop what is kept of all songs: for who measures a first solve."""
    _stage.cache_clear()


@made_of_entries
@lru_cache(maxsize=MOST_STAGES)
def _stage(at: _Makings, shapes: tuple[Shape, ...], scene: PlacingContext) -> Stage | None:
    asked = at.asked
    chosen = bool(asked.families) and any(rule.thirdless for shape in shapes for rule in shape.rule)
    scene = scene._replace(thirdless=chosen)
    forms = all_forms(shapes, scene.palette, at.chord_class, asked.mine, bool(asked.families))
    stacked = stacked_forms(at.stacked, asked.mine) if at.stacked and not asked.families else None
    if stacked is not None:
        shapes, forms = (shape_of(STACKED[asked.bass]),), (stacked[0],)
        scene = scene._replace(palette=replace(scene.palette, must=stacked[1]))
    if not forms:
        return None
    left, right = (_placed(at, side, forms, shapes, scene) for side in (0, 1))
    if not len(left) or not len(right):
        return None
    place = place_table(left, right, forms, shapes, scene, asked.weights)
    cost = place.cost
    if not asked.families:
        cost = _only_pairs(_only_pairs(cost, _leaving_out(at.without, left, right)), clean(left, right))
    cost = np.where(_wanted(asked, left, scene)[:, None], cost, INFINITE) if asked.wants else cost
    place = place._replace(cost=filled(cost.astype(np.int32, copy=False), left, right, asked))
    if int(place.cost.min()) >= INFINITE:
        return None
    return trimmed(Stage(next(_MADE), left, right, place, shapes, scene))


# By semitones apart (0 to 4, more): the lower note's MIDI number under which notes are too close, over both hands.
TOO_LOW: Int32s = later(lambda: np.array([PAD, 52, 48, 48, 46, PAD], np.int32))


def clean(left: HandSet, right: HandSet) -> NDArray[np.bool_]:
    """Where (L, R) no two neighbouring notes lie too close for so low a place, and the hands not a half step apart."""
    bad: list[NDArray[np.bool_]] = []
    for hand in (left, right):
        low = _too_low(hand.pitches[:, :-1], np.diff(hand.pitches) * (hand.pitches[:, 1:] != PAD))
        bad.append(np.asarray(low.any(axis=1)))
    apart = (right.low[None, :] - left.high[:, None]) * (left.count > 0)[:, None] * (right.count > 0)[None, :]
    found: NDArray[np.bool_] = bad[0][:, None] | bad[1][None, :] | _too_low(left.high[:, None], apart) | (apart == 1)
    return ~found


def _leaving_out(without: frozenset[int], left: HandSet, right: HandSet) -> NDArray[np.bool_]:
    """Where (L, R) the hands sound none of some pitch classes."""
    bits = sum(1 << pc for pc in without)
    found: NDArray[np.bool_] = ((left.mask[:, None] | right.mask[None, :]) & bits) == 0
    return found


def _too_low(lower: Ints, apart: Ints) -> NDArray[np.bool_]:
    found: NDArray[np.bool_] = lower < TOO_LOW[np.clip(apart, 0, len(TOO_LOW) - 1)]
    return found


def _wanted(asked: Asked, left: HandSet, scene: PlacingContext) -> NDArray[np.bool_]:
    """The left hands (L,) that the patterns want."""
    found = np.ones(len(left), bool)
    for want in asked.wants:
        if wants()[want].hand == "left":
            found &= fits(wants()[want], left, scene)
    return found


def meets(asked: Asked, notes: tuple[int, ...], scene: PlacingContext) -> bool:
    """Whether a left hand (MIDI, ascending) is what the patterns want."""
    return bool(_wanted(asked, one_hand(notes), scene)[0])


def filled(cost: Ints, left: HandSet, right: HandSet, asked: Asked) -> Ints:
    """The prices (L, R) without what has another number of notes than asked for, as near to it as this chord allows. A
    filter over the chord, so that fullness is never bought with motion. Shapes that the player chose may rest a hand.
    """
    rests = right.count == 0
    if asked.right == "free" or not asked.families:
        cost = _only(cost, None, rests if asked.right == "free" else ~rests)
    if asked.parts:
        together = left.count[:, None] + right.count[None, :]
        cost = _only_pairs(cost, together == asked.parts)
    for side, hand in enumerate((left, right)):
        target = asked.fullness[side]
        if target:
            there = hand.count[(cost < INFINITE).any(1 - side)]
            nearest = min(set(there.tolist()), key=lambda count: (abs(count - target), -count), default=0)
            same = hand.count == nearest
            cost = _only(cost, same, None) if side == 0 else _only(cost, None, same)
    return cost


def _only(cost: Ints, rows: NDArray[np.bool_] | None, columns: NDArray[np.bool_] | None) -> Ints:
    """The prices of some rows or columns only, or as they are where that would leave nothing."""
    keep = rows[:, None] if rows is not None else columns[None, :] if columns is not None else np.ones((1, 1), bool)
    return _only_pairs(cost, keep)


def _only_pairs(cost: Ints, keep: NDArray[np.bool_]) -> Ints:
    """The prices of some pairs only, or as they are where that would leave nothing."""
    only: Ints = np.where(keep, cost, INFINITE).astype(np.int32)
    return only if int(only.min(initial=INFINITE)) < INFINITE else cost


def free_stage(at: Place) -> Stage | None:
    """The stage of a chord; where no family asked for fits, the nearest wider one, which a note says. None also where
    it has no hands that its patterns want.
    """
    scene = scene_of(at)
    if at.asked.wants:
        own = chosen_shapes(at.asked)
        return trial(at, own, scene) or trial(at, tuple(dict.fromkeys((*own, *of_all(at.asked)))), scene)
    for attempt, shapes in enumerate(widenings(at.asked)):
        if attempt == 1 and at.asked.families:
            brighter = _at_higher_level(at)
            if brighter is not None:
                return brighter
        stage = trial(at, shapes, scene)
        if stage is not None:
            wider = attempt > 0 and not _is_usual(at.asked, shapes)
            return _said_wider(stage, at, shapes) if wider else stage
    return None


def _said_wider(stage: Stage, at: Place, shapes: tuple[Shape, ...]) -> Stage:
    names = ", ".join(shape.name for shape in shapes if shape in used(stage))
    which = "chosen" if at.asked.families else "usual"
    return stage._replace(notes=(f"no {which} shape fits this chord, so a wider one is used: {names}",))


def _is_usual(asked: Asked, shapes: tuple[Shape, ...]) -> bool:
    """Whether nobody asked for others: where a manner has no hands for a chord, it takes the usual ones."""
    return not asked.families and all(shape.usual for shape in shapes)


def _at_higher_level(at: Place) -> Stage | None:
    """The stage of the families asked for at the next colour level that lets them sound; their choice weighs more."""
    for level in range(at.asked.colour + 1, len(COLOUR_LEVELS)):
        found = at._replace(asked=replace(at.asked, colour=level))
        stage = trial(found, chosen_shapes(at.asked), scene_of(found))
        if stage is not None:
            return stage._replace(notes=(f"this shape needs colour level {level} here: {COLOUR_LEVELS[level]}",))
    return None


def used(stage: Stage) -> set[Shape]:
    """The families that have a voicing in a stage."""
    return {stage.shapes[i] for i in np.unique(stage.place.family[stage.place.cost < INFINITE])}


def taken(stage: Stage, rows: NDArray[np.intp], columns: NDArray[np.intp]) -> Stage:
    """The stage with some of its placings only."""
    grid = np.ix_(rows, columns)
    place = PlaceTable(np.ascontiguousarray(stage.place.cost[grid]), np.ascontiguousarray(stage.place.family[grid]))
    free = None if stage.free is None else np.ascontiguousarray(stage.free[grid])
    found = stage._replace(left=stage.left.take(rows), right=stage.right.take(columns), place=place, free=free)
    if stage.foreign is None:
        return found
    at = tuple(np.flatnonzero(states == own) for states, own in zip((rows, columns), stage.foreign, strict=True))
    return found._replace(foreign=(int(at[0][0]), int(at[1][0])) if len(at[0]) and len(at[1]) else None)


def trimmed(stage: Stage) -> Stage:
    """Without the placings that are part of no voicing."""
    fits = stage.place.cost < INFINITE
    rows, columns = fits.any(1), fits.any(0)
    if rows.all() and columns.all():
        return stage
    return taken(stage, np.flatnonzero(rows), np.flatnonzero(columns))


def is_large(stage: Stage) -> bool:
    """Whether a stage has more states than the plain solver takes."""
    l, r = stage.place.cost.shape
    return bool(l * r * (l + r) > MOST_WORK)


def narrowed(stage: Stage) -> Stage:
    """Only the placings of the cheapest pairs, and what is kept."""
    cost = stage.place.cost
    rows = np.sort(np.argsort(cost.min(1), kind="stable")[:KEPT_ROWS])
    columns = np.sort(np.argsort(cost.min(0), kind="stable")[:KEPT_COLUMNS])
    return taken(stage, rows, columns)._replace(cut=True, key=("cut", stage.key, rows.tobytes(), columns.tobytes()))


def tuned(stage: Stage, tune: tuple[int, ...], at: Place) -> Stage:
    """The stage under a melody (MIDI): the same voicings at other prices, so that its changes need no new
    tables.
    """
    if not tune:
        return stage
    cost = stage.place.cost + tune_table(stage.left, stage.right, tune, stage.scene, at.asked.weights)
    cost[stage.place.cost >= INFINITE] = INFINITE
    return stage._replace(place=stage.place._replace(cost=cost))


# --- keeps -------------------------------------------------------------------------------------------------------
