"""One form for several keys: the hands of least cost that can be played, moved as they are, in all of them.

The lattices of the keys are laid over each other. What all of them hold, moved back to the first key, is a lattice of
its own, whose prices are the sums over the keys: its cheapest path is the best form. A key that shares no voicing
of some chord, or pays too much for it, is left out; those that are left out share the next form where they can.
"""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.chain.kept_stage import row_of
from yellow_hinge.core.leading.chain.lattice import Lattice
from yellow_hinge.core.leading.chain.minplus import solve
from yellow_hinge.core.leading.chain.stage import taken
from yellow_hinge.core.leading.chain.steps import Chain, Tables
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.weights import INFINITE, UNIT
from yellow_hinge.core.leading.solution import small
from yellow_hinge.core.numerics import NDArray, Places, np
from yellow_hinge.core.shapes.placing import PAD, HandSet

Rows = Places
DEAR = 5 * UNIT  # a chord: what a form may cost a key more than hands of its own
MOST_TRIES = 4
FIRSTS = (-5, -6, -11, -8, -3, 0)  # lowest of the twelve distances that are tried together


class SharedForm(NamedTuple):
    """The hands of every chord in the first key, and how far (semitones) each key's are from them; None for a key that
    they do not serve. `cost`: thousandths over what hands of their own cost the keys.
    """

    hands: tuple[Both, ...]
    shifts: tuple[int | None, ...]
    cost: int

    def moved(self, place: int) -> tuple[Both, ...]:
        """The hands in one of the keys that they serve."""
        by = self.shifts[place] or 0
        return tuple(Both(*(tuple(note + by for note in hand) for hand in both)) for both in self.hands)


class _Common(NamedTuple):
    """What some keys hold of one chord: rows and columns of the first key's stage, and the sum of their prices."""

    rows: Rows
    columns: Rows
    cost: NDArray[np.int64]


class OfKey(NamedTuple):
    """One of the keys: its lattice, the distance (semitones) by which tune and kept hands were moved to it, and what
    its own best hands cost.
    """

    lattice: Lattice
    shift: int
    least: int


def forms(keys: list[OfKey]) -> list[tuple[int, tuple[Both, ...]] | None]:
    """For each key the number of the form that it is played in, from 0, and the hands there; None for a key that has
    hands of its own.
    """
    found: list[tuple[int, tuple[Both, ...]] | None] = [None] * len(keys)
    left, number = list(range(len(keys))), 0
    while len(left) > 1:
        form = one_form([keys[place] for place in left])
        served = [at for at, by in enumerate(form.shifts) if by is not None] if form is not None else []
        for at in served:
            assert form is not None
            found[left[at]] = number, form.moved(at)
        number += bool(served)
        left = [place for at, place in enumerate(left) if at and at not in served]
    return found


def one_form(keys: list[OfKey]) -> SharedForm | None:
    """The form that costs the keys the least, where one that it does not serve counts as DEAR. Distances that come to
    the same key are tried beside those asked for. None where no other key can share the first one's hands.
    """
    found = []
    sings = any(place.asked.led.sings for place in keys[0].lattice.places)
    for sung in (True, False) if sings else (False,):
        for lowest in (None, *FIRSTS):
            shifts = [key.shift if lowest is None else (key.shift - lowest) % 12 + lowest for key in keys]
            form = _form_of(keys, shifts, sung)
            if form is not None:
                found.append(form)
    return min(found, key=lambda form: form.cost, default=None)


def _form_of(keys: list[OfKey], shifts: list[int], sung: bool) -> SharedForm | None:
    """The best form with these distances, without those that it would be dear for."""
    most, left = DEAR * len(keys[0].lattice.stages), list(range(len(keys)))
    for _ in range(MOST_TRIES):
        served, common = _served(keys, shifts, left, sung)
        if len(served) < 2:
            return None
        lattice = _shared(keys[0].lattice, common, len(served))
        solved = solve(lattice.chain)
        hands = tuple(
            Both(stage.left.notes(l), stage.right.notes(r))
            for stage, (l, r) in zip(lattice.stages, solved.path, strict=True)
        )
        extra = {place: _cost_in(keys[place].lattice, hands, shifts[place]) - keys[place].least for place in served}
        left = [place for place in served if extra[place] <= most or not place]
        if len(left) == len(served):
            cost = sum(extra.values()) + most * (len(keys) - len(served))
            return SharedForm(hands, tuple(by if place in extra else None for place, by in enumerate(shifts)), cost)
    return None


def _served(keys: list[OfKey], shifts: list[int], places: list[int], sung: bool) -> tuple[list[int], list[_Common]]:
    """The keys (of `places`) that share voicings of every chord with those nearer to the first one, and what they have
    in common; under the line that the first key sings, where it is to be sung.
    """
    first = keys[0].lattice
    prices = first.chain.place if sung else [stage.place.cost for stage in first.stages]
    common = [_Common(np.arange(price.shape[0]), np.arange(price.shape[1]), price.astype(np.int64)) for price in prices]
    served = [0]
    for place in sorted(places, key=lambda place: abs(shifts[place])):
        more = _met(first, keys[place].lattice, common, shifts[place]) if place else None
        if more is not None:
            common, served = more, [*served, place]
    return served, common


def _cost_in(lattice: Lattice, hands: tuple[Both, ...], by: int) -> int:
    """What some hands cost in a key, `by` semitones higher."""
    path = []
    for stage, both in zip(lattice.stages, hands, strict=True):
        moved = (tuple(note + by for note in both.of(hand)) for hand in HANDS)
        row, column = (row_of(own, notes) for own, notes in zip((stage.left, stage.right), moved, strict=True))
        assert row is not None
        assert column is not None
        path.append((row, column))
    total = sum(int(stage.place.cost[at]) for stage, at in zip(lattice.stages, path, strict=True))
    for t, tables in enumerate(zip(lattice.chain.left, lattice.chain.right, strict=True)):
        (l, r), (to_l, to_r) = path[t], path[(t + 1) % len(path)]
        total += min(int(a[l, to_l] + b[r, to_r]) for a, b in zip(*tables, strict=True))
    return total


def _met(first: Lattice, other: Lattice, common: list[_Common], by: int) -> list[_Common] | None:
    """What is common once another key, `by` semitones off, is asked too; None where a chord has nothing left."""
    found = []
    for stage, own, so_far in zip(first.stages, other.stages, common, strict=True):
        left, right = _same(stage.left, so_far.rows, own.left, by), _same(stage.right, so_far.columns, own.right, by)
        cost = so_far.cost[np.ix_(left[0], right[0])] + own.place.cost[np.ix_(left[1], right[1])]
        if not cost.size or int(cost.min()) >= INFINITE:
            return None
        found.append(_Common(so_far.rows[left[0]], so_far.columns[right[0]], cost))
    return found


def _same(hand: HandSet, rows: Rows, other: HandSet, by: int) -> tuple[Rows, Rows]:
    """Where (among `rows`, and in `other`) two hand sets have the same placings, the other's `by` semitones higher."""
    back = np.where(other.pitches == PAD, PAD, other.pitches - by)
    known = {tuple(notes): at for at, notes in enumerate(back.tolist())}
    own = enumerate(map(tuple, hand.pitches[rows].tolist()))
    pairs = [(at, known[notes]) for at, notes in own if notes in known]
    found = np.array(pairs, np.intp).reshape(-1, 2)
    return found[:, 0], found[:, 1]


def _shared(lattice: Lattice, common: list[_Common], keys: int) -> Lattice:
    """The lattice of what the keys have in common: its prices are theirs together."""
    stages = [taken(stage, each.rows, each.columns) for stage, each in zip(lattice.stages, common, strict=True)]
    place = [np.minimum(each.cost, INFINITE).astype(np.int32) for each in common]
    left, right = (
        [_times(tables, at[t], at[(t + 1) % len(at)], keys) for t, tables in enumerate(side)]
        for side, at in (
            (lattice.chain.left, [each.rows for each in common]),
            (lattice.chain.right, [each.columns for each in common]),
        )
    )
    return small(lattice._replace(stages=stages, chain=Chain(place, left, right, lattice.chain.loop)))[0]


def _times(tables: Tables, rows: Rows, columns: Rows, keys: int) -> Tables:
    """A change's tables of some placings, as often as there are keys."""
    grid = np.ix_(rows, columns)
    return tuple(np.where(t[grid] >= INFINITE, INFINITE, t[grid] * keys).astype(np.int32) for t in tables)
