"""A top line that sings: chosen for the whole song before the hands, which are then the best ones under it.

A tune is heard over more than two notes, which a chain of changes cannot price: coming back to the note before last,
staying for a third time, reaching its highest note again and again. So the line is chosen by itself, exactly for these
prices and the least that place and right hand can cost under each pair of its notes.
"""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.prices.weights import INFINITE, UNIT
from yellow_hinge.core.numerics import Int64s, NDArray, np
from yellow_hinge.core.shapes.placing import HandSet, Ints

Costs = Int64s

RETURN = 3 * UNIT  # to the note before last
STAY = UNIT  # for a third time on one note
SUMMIT = UNIT  # every time that the line comes to its highest note
SUMMITS = 10  # semitones down from the highest possible note that are tried as the line's highest


AXIS = {"left": 1, "right": 0}  # of a stage's prices (L, R), over which the other hand is


class Tops(NamedTuple):
    """The top notes of a stage (MIDI, ascending), and which one every right hand has."""

    notes: Ints
    of: NDArray[np.intp]


def tops_of(hand: HandSet) -> Tops:
    """The top notes of a hand's placings; -1 where it rests."""
    notes, of = np.unique(hand.high, return_inverse=True)
    return Tops(notes.astype(np.int32), of.ravel())


def _grouped(table: Ints, rows: Tops, columns: Tops) -> Costs:
    """The least of a table (R, R') for every pair of top notes."""
    found = np.full((len(rows.notes), table.shape[1]), INFINITE, np.int64)
    np.minimum.at(found, rows.of, table)
    both = np.full((len(columns.notes), len(rows.notes)), INFINITE, np.int64)
    np.minimum.at(both, columns.of, found.T)
    return both.T


def pairs_of(tables: tuple[Ints, ...], old: HandSet, new: HandSet) -> Costs:
    """The least that the change of the hand that leads costs for every pair of top notes, over all of its tables."""
    return _grouped(np.minimum.reduce(tables), tops_of(old), tops_of(new))


def least_of(place: Ints, hand: HandSet, leads: str) -> Costs:
    """The least that a chord costs with each top note; INFINITE where it has none so."""
    tops = tops_of(hand)
    found = np.full(len(tops.notes), INFINITE, np.int64)
    np.minimum.at(found, tops.of, place.min(AXIS[leads]))
    return found


def _line(notes: list[Ints], alone: list[Costs], pairs: list[Costs], summit: int) -> tuple[int, list[int]]:
    """(cost, place of the note in each stage) of the best line that never lies above `summit`."""
    alone = [np.where(n <= summit, cost, INFINITE) for n, cost in zip(notes, alone, strict=True)]
    best = alone[0][:, None] + pairs[0] + alone[1][None, :]
    best = best + SUMMIT * ((notes[1] == summit)[None, :] & (notes[0] != summit)[:, None])
    steps: list[NDArray[np.intp]] = []
    for t in range(2, len(notes)):
        a, b, c = notes[t - 2][:, None, None], notes[t - 1][None, :, None], notes[t][None, None, :]
        more = RETURN * ((a == c) & (a != b)) + STAY * ((a == b) & (b == c))
        ways = best[:, :, None] + more
        came = ways.argmin(0)
        best = np.take_along_axis(ways, came[None], 0)[0] + pairs[t - 1] + alone[t][None, :]
        best = best + SUMMIT * ((notes[t] == summit)[None, :] & (notes[t - 1] != summit)[:, None])
        steps.append(came)
    before, last = divmod(int(best.argmin()), best.shape[1])
    path = [last, before]
    for came in reversed(steps):
        path.append(int(came[path[-1], path[-2]]))
    return int(best.min()), path[::-1]


def top_line(notes: list[Ints], alone: list[Costs], pairs: list[Costs]) -> list[int]:
    """The line's note (MIDI) at each stage: `notes[t]` those that there are, `alone[t]` what the chord costs at least
    under each, `pairs[t]` what the change to the next one costs at least.
    """
    if len(notes) < 2:
        return [int(notes[0][alone[0].argmin()])] if notes else []
    highest = max(int(each.max()) for each in notes)
    found = [_line(notes, alone, pairs, summit) for summit in range(highest, highest - SUMMITS, -1)]
    _, path = min(found, key=lambda line: line[0])
    return [int(each[at]) for each, at in zip(notes, path, strict=True)]


def under(place: Ints, hand: HandSet, leads: str, top: int) -> Ints:
    """The prices of the voicings with one top note only."""
    found: Ints = np.where(np.expand_dims(hand.high == top, AXIS[leads]), place, INFINITE).astype(np.int32)
    return found if int(found.min()) < INFINITE else place
