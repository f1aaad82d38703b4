"""Bars of a score that were split, how long bars last, and where repeats go back to."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.song.road import JUMPS
from yellow_hinge.io.musicxml.score.columns import Column
from yellow_hinge.io.musicxml.score.measures import Measure, Part, in_grid


def joined(parts: list[Part], columns: list[Column]) -> bool:
    """Join the halves of bars that were split (at a system's end, by an implicit bar) everywhere; whether any was."""
    changed = False
    for at in range(len(columns) - 2, -1, -1):
        if not _is_split(columns[at], columns[at + 1]):
            continue
        for part in parts:
            if at + 1 < len(part.measures):
                _join(part.measures[at], part.measures.pop(at + 1), columns[at].length)
        del columns[at + 1]
        changed = True
    return changed


def _is_split(one: Column, two: Column) -> bool:
    """Whether two bars are the halves of one, with nothing between them."""
    halves = one.length < one.full and two.length < two.full and one.length + two.length == one.full
    counted_once = two.implicit or two.number[:1] in ("X", "x") or two.number == one.number
    return halves and counted_once and two.plain_start and not one.closes and one.ending == two.ending


def _join(first: Measure, second: Measure, by: Fraction) -> None:
    first.notes += [note._replace(start=note.start + by) for note in second.notes]
    first.marks += [mark._replace(at=mark.at + by) for mark in second.marks]
    first.lines += second.lines
    first.length = by + second.length if second.length else first.length


def open_repeats(columns: list[Column], starts: list[int], pickup: bool) -> None:
    """Write where a repeat goes back to wherever a section begins inside it, so that it is not cut there. `starts` are
    the first bars of sections; a pickup is played again only where the last bar of the repeat leaves room for it.
    """
    begin, opened = 0, False
    if pickup and not _leaves_room(columns):
        begin, starts = 1, [*starts, 2]
    for at, column in enumerate(columns):
        if column.opens:
            begin, opened = at, True
        if not column.closes:
            continue
        if not opened and _is_first(column) and any(begin < start <= at for start in starts):
            columns[begin].opens = True
        begin, opened = _after_endings(columns, at + 1), False


def _leaves_room(columns: list[Column]) -> bool:
    """Whether the bar that closes the first repeat is short by the pickup."""
    closing = next((column for column in columns if column.closes), None)
    return closing is None or closing.length + columns[0].length <= closing.full


def _is_first(column: Column) -> bool:
    return not column.ending or "1" in str(column.ending)


def _after_endings(columns: list[Column], at: int) -> int:
    """The bar after the later endings that follow a repeat."""
    while at < len(columns) and columns[at].ending and not _is_first(columns[at]):
        at += 1
    return at


def lengths_of(columns: list[Column], pickup: bool) -> list[Fraction]:
    """Quarters that every bar lasts: its meter's, unless it is written short or long on purpose: a pickup, an implicit
    bar, one that goes back to a pickup or on into an implicit bar.
    """
    after = [*columns[1:], None]
    return [
        in_grid(one.length) if (at == 0 and pickup) or _is_odd(one, two, pickup) else one.full
        for at, (one, two) in enumerate(zip(columns, after, strict=False))
    ]


def _is_odd(column: Column, after: Column | None, pickup: bool) -> bool:
    if column.length == column.full:
        return False
    back = pickup and (column.closes > 0 or any(sign in JUMPS for sign in column.signs))
    halved = after is not None and after.implicit and column.length + after.length == column.full
    return column.implicit or back or halved or column.length > column.full
