"""One chord of the lattice: where it stands, its hand sets and the price of every pair."""

from __future__ import annotations

from collections.abc import Hashable
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.leading.asking.asked import Asked
from yellow_hinge.core.leading.asking.manners import kin_of
from yellow_hinge.core.leading.prices.doubling import doubling
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.placing_cost import PlaceTable
from yellow_hinge.core.leading.prices.scenes import Outermost, PlacingContext
from yellow_hinge.core.leading.prices.sets import tune_table
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.shapes.placing import HandSet, Ints
from yellow_hinge.core.symbols.chord import Chord, same_chord


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
TENSIONS = ("9", "b9", "#9", "11", "#11", "13", "b13")
KEPT_ROWS, KEPT_COLUMNS = 56, 360


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
