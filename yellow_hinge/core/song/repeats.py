"""Repeats and endings as they are written, and how they are played."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.song.song import Bar, Song, endings_of


class Written(NamedTuple):
    """A bar in the order of the sections, before repeats: the section as it is played, the one where it is written, its
    place there, and the bar.
    """

    played: int
    origin: int
    at: int
    bar: Bar


def in_order(song: Song) -> list[Written]:
    """Every bar as often as its section stands in the song."""
    return [
        Written(played, origin, index, bar)
        for played, origin in enumerate(origins(song))
        for index, bar in enumerate(song.sections[origin].bars)
    ]


def _last_ending(bars: list[Written], end: int) -> int:
    while end < len(bars) and bars[end].bar.ending and 1 not in endings_of(bars[end].bar.ending):
        end += 1
    return end


def _group_end(bars: list[Written], first: int) -> tuple[int, int]:
    """(index after the last bar of the repeat that opens at `first`, number of passes); (first, 0) for none."""
    closes = next((i for i in range(first, len(bars)) if bars[i].bar.repeats > 1), None)
    if closes is None or any(each.bar.opens for each in bars[first + 1 : closes + 1]):
        return first, 0
    end, passes = closes + 1, bars[closes].bar.repeats
    if any(each.bar.ending for each in bars[first:end]):
        end = _last_ending(bars, end)
        passes = max(last for each in bars[first:end] for last in endings_of(each.bar.ending) or (1,))
    return end, passes


def repeats(bars: list[Written]) -> list[tuple[int, int, int]]:
    """(first bar, bar after the last, passes) of every repeat: it goes back to where it opened, in an earlier section
    too, or to the begin of its section or the end of the repeat before it.
    """
    found, at = list[tuple[int, int, int]](), 0
    if not any(each.bar.opens or each.bar.repeats for each in bars):
        return found
    closed = _closed(bars)
    while at < len(bars):
        end, passes = _group_end(bars, at) if bars[at].bar.opens or closed[at] else (at, 0)
        if passes:
            found.append((at, end, passes))
        at = max(end, at + 1)
    return found


def _closed(bars: list[Written]) -> list[bool]:
    """For every bar whether a repeat closes in it or after it in its section, before another one opens, and so goes
    back to it where none was opened.
    """
    found = [each.bar.repeats > 1 for each in bars]
    for at in range(len(bars) - 2, -1, -1):
        inside = bars[at + 1].played == bars[at].played
        found[at] = found[at] or (inside and found[at + 1] and not bars[at + 1].bar.opens)
    return found


def origins(song: Song) -> list[int]:
    """For every section the index of the one whose bars it plays: its own, or the first of its name."""
    first: dict[str, int] = {}
    found = []
    for index, section in enumerate(song.sections):
        if section.bars:
            first.setdefault(section.name, index)
        found.append(index if section.bars else first.get(section.name, index))
    return found
