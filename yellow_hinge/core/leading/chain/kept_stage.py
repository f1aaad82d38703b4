"""A chord of the lattice with keeps laid on: hands that are there, whole or in part."""

from __future__ import annotations

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.chain.stage import Place, Stage, scene_of
from yellow_hinge.core.leading.prices.placing_cost import (
    PlaceTable,
    own_price,
)
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, hand_set


def row_of(hand: HandSet, notes: tuple[int, ...]) -> int | None:
    """The row of some notes in a hand set."""
    same = np.flatnonzero((hand.pitches == _row(notes)).all(1))
    return int(same[0]) if len(same) else None


def _row(notes: tuple[int, ...]) -> Ints:
    return np.array([[*notes, *(PAD,) * (SIZE - len(notes))]], np.int32)


def _with_row(hand: HandSet, notes: tuple[int, ...]) -> tuple[HandSet, int]:
    """The hand set with `notes` among its placings, and their row."""
    found = row_of(hand, notes)
    if found is not None:
        return hand, found
    return hand_set(np.concatenate([hand.pitches, _row(notes)])), len(hand)


def kept_chord(stage: Stage | None, keep: Keep, at: Place) -> Stage:
    """The stage with the kept voicing as its only way; what the others would cost stays beside it in `free`."""
    nothing = hand_set(np.zeros((0, SIZE), np.int32))
    left, l = _with_row(stage.left if stage else nothing, tuple(sorted(keep.left)))
    right, r = _with_row(stage.right if stage else nothing, tuple(sorted(keep.right)))
    cost = np.full((len(left), len(right)), INFINITE, np.int32)
    family = np.zeros((len(left), len(right)), np.int32)
    if stage is not None:
        rows, columns = stage.place.cost.shape
        cost[:rows, :columns], family[:rows, :columns] = stage.place.cost, stage.place.family
    own = cost[l, r] < INFINITE
    scene = scene_of(at)
    if not own:
        one, two = (hand.take(np.array([i])) for hand, i in ((left, l), (right, r)))
        cost[l, r] = own_price(one, two, stage.shapes if stage else (), scene, at.asked.weights)
    only = np.full_like(cost, INFINITE)
    only[l, r] = cost[l, r]
    key = ("kept", stage.key if stage else None, keep.left, keep.right)
    made = Stage(key, left, right, PlaceTable(only, family), stage.shapes if stage else (), scene)
    return made._replace(foreign=None if own else (l, r), free=cost)


def kept_parts(stage: Stage, keeps: tuple[Keep, ...]) -> tuple[Stage, tuple[Keep, ...]]:
    """The stage with kept hands, top and bass as its only ways, and the keeps that leave it no voicing."""
    rows, columns = np.ones(len(stage.left), bool), np.ones(len(stage.right), bool)
    refused = []
    for keep in keeps:
        more_rows, more_columns = rows & _rows_kept(stage, keep), columns & _columns_kept(stage, keep)
        if (
            int(np.where(more_rows[:, None] & more_columns, stage.place.cost, INFINITE).min(initial=INFINITE))
            < INFINITE
        ):
            rows, columns = more_rows, more_columns
        else:
            refused.append(keep)
    only = np.where(rows[:, None] & columns[None, :], stage.place.cost, INFINITE).astype(np.int32)
    return stage._replace(place=stage.place._replace(cost=only), free=stage.place.cost), tuple(refused)


def with_hands(stage: Stage, left: tuple[int, ...] | None, right: tuple[int, ...] | None) -> Ints:
    """The prices (L, R) of the voicings with these hands (MIDI); None: any."""
    rows = np.ones(len(stage.left), bool) if left is None else _same(stage.left, left)
    columns = np.ones(len(stage.right), bool) if right is None else _same(stage.right, right)
    found: Ints = np.where(rows[:, None] & columns[None, :], stage.place.cost, INFINITE).astype(np.int32)
    return found


def _same(hand: HandSet, notes: tuple[int, ...]) -> NDArray[np.bool_]:
    found: NDArray[np.bool_] = (hand.pitches == _row(tuple(sorted(notes)))).all(1)
    return found


def _rows_kept(stage: Stage, keep: Keep) -> NDArray[np.bool_]:
    """Where the left hand is as kept; the bass of a resting hand is that it rests."""
    if keep.part == "left":
        return _same(stage.left, keep.left)
    found: NDArray[np.bool_] = stage.left.low == (
        min(keep.left, default=128) if keep.part == "bass" else stage.left.low
    )
    return found


def _columns_kept(stage: Stage, keep: Keep) -> NDArray[np.bool_]:
    if keep.part == "right":
        return _same(stage.right, keep.right)
    found: NDArray[np.bool_] = stage.right.high == (
        max(keep.right, default=-1) if keep.part == "top" else stage.right.high
    )
    return found
