"""Both hands of some chords in one row of entries: what many small tables cost by themselves is mostly that they are
asked for.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from yellow_hinge.core.numerics import Places, np
from yellow_hinge.core.shapes.placing import HandSet, Rows


class Pairs(NamedTuple):
    """Pairs of a left and a right hand of some chords, chord after chord and left hand after left hand: `rows` and
    `columns` number their placings, `of` says whose each pair is.
    """

    left: Rows
    right: Rows
    rows: Places
    columns: Places
    of: Places

    @property
    def hands(self) -> tuple[HandSet, HandSet]:
        """All placings of the left and of the right hand."""
        return self.left.hand, self.right.hand


def laid(rows: Iterable[int], columns: Iterable[int]) -> tuple[Places, Places]:
    """The row and the column of every entry of some tables of so many rows and columns, table after table and row after
    row; both are counted on from one table to the next.
    """
    high, wide = np.array([*rows], np.intp), np.array([*columns], np.intp)
    of_row = np.repeat(wide, high)  # entries of each row
    row = np.repeat(np.arange(len(of_row)), of_row)
    # How far on an entry is in its row, after the columns of the tables before.
    begins = np.repeat(np.cumsum(wide) - wide, high) - (np.cumsum(of_row) - of_row)
    return row, np.arange(len(row)) + np.repeat(begins, of_row)


def pairs_of(left: Rows, right: Rows, chords: int) -> Pairs:
    """Every left hand of a chord with every right one."""
    counts = [np.bincount(hand.of, minlength=chords) for hand in (left, right)]
    rows, columns = laid(*counts)
    return Pairs(left, right, rows, columns, left.of[rows])


def alone(left: HandSet, right: HandSet) -> Pairs:
    """The pairs of one chord's hands."""
    return pairs_of(of_one(left), of_one(right), 1)


def of_one(hand: HandSet) -> Rows:
    """The placings of one chord, whatever rule allows them."""
    return Rows(hand, np.zeros(len(hand), np.intp), np.zeros((len(hand), 0), bool))
