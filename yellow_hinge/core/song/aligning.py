"""Which bar and chord of a new writing is which of the old: the cheapest alignment of two rows."""

from __future__ import annotations

from collections import Counter
from operator import attrgetter
from typing import NamedTuple

import msgspec

from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.song.song import Bar, Section, Slot, Song, beat_of

# Prices of aligning two bars: the same chords under another section's name, a shared chord or root, nothing in common;
# and of a bar that came or went, which is dearer than half of the last, so that a bar in its old place is the same bar.
_RENAMED, _SIMILAR, _OTHER, _GAP = 1, 2, 3, 2
_BRACKETED = 1 << 12  # bars to align at once: 32 MB of prices


def with_id(slot: Slot, new: int) -> Slot:
    return slot if slot.id == new else Slot(slot.symbol, slot.beats, slot.cue, new)


def with_bar(bar: Bar, new: int, slots: tuple[Slot, ...]) -> Bar:
    if bar.id == new and all(a is b for a, b in zip(bar.slots, slots, strict=True)):
        return bar
    changed: Bar = msgspec.structs.replace(bar, id=new, slots=slots)
    return changed


class _Row(NamedTuple):
    """A bar in its song: the bar, what it plays, the section's name where it begins one."""

    bar: Bar
    plays: tuple[object, ...]
    begins: str | None


class Bars(NamedTuple):
    """The bars of a song one after the other, the index of each one's section, and the names of sections where they
    begin.
    """

    all: list[Bar]
    sections: list[int]
    begins: dict[int, str]

    def rows(self, first: int, last: int) -> list[_Row]:
        """The bars from one to before another."""
        return [_Row(self.all[at], _plays(self.all[at]), self.begins.get(at)) for at in range(first, last)]


def bars_in_a_row(song: Song) -> Bars:
    found = Bars([], [], {})
    for s, section in enumerate(song.sections):
        if section.bars:
            found.begins[len(found.all)] = section.name
        found.all.extend(section.bars)
        found.sections.extend([s] * len(section.bars))
    return found


def _plays(bar: Bar) -> tuple[object, ...]:
    return tuple((slot.symbol, slot.beats) for slot in bar.slots)


def aligned(old: Bars, new: Bars) -> tuple[list[int], set[int]]:
    """For every new bar the index of the old one that it is, or -1; and the new ones that are known to be written as
    that one is.
    """
    alike: set[int] = set()

    def same(one: int, other: int) -> bool:
        if old.begins.get(one) != new.begins.get(other):
            return False
        if _alike(old.all[one], new.all[other]):
            alike.add(other)
            return True
        return _plays(old.all[one]) == _plays(new.all[other])

    were, are = len(old.all), len(new.all)
    head, most = 0, min(were, are)
    while head < most and same(head, head):
        head += 1
    tail = 0
    while tail < most - head and same(were - 1 - tail, are - 1 - tail):
        tail += 1
    middle = _cheapest(old.rows(head, were - tail), new.rows(head, are - tail))
    return [*range(head), *(at if at < 0 else at + head for at in middle), *range(were - tail, were)], alike


def _codes(rows: list[_Row], known: dict[object, int], of: str) -> np.ndarray:
    """A number for what a bar plays, for it with its section's name, or for its first root."""
    words: list[object] = []
    for row in rows:
        first = row.bar.slots[0].symbol[:2].rstrip("m7651234/") if row.bar.slots else ""
        words.append({"whole": (row.plays, row.begins), "plays": row.plays, "root": first}[of])
    return np.array([known.setdefault(word, len(known)) for word in words], dtype=np.int32)


def _cheapest(old: list[_Row], new: list[_Row]) -> list[int]:
    """The cheapest alignment of two runs of bars: for every new one the old one's index or -1."""
    if not old or not new:
        return [-1] * len(new)
    if max(len(old), len(new)) > _BRACKETED:  # more than a song can hold: in their places
        return [at if at < len(old) else -1 for at in range(len(new))]
    kinds = []
    for of in ("whole", "plays", "root"):
        known: dict[object, int] = {}
        kinds.append((_codes(old, known, of), _codes(new, known, of)))
    gaps = np.arange(len(new) + 1, dtype=np.int16) * _GAP
    prices = np.empty((len(old) + 1, len(new) + 1), dtype=np.int16)
    subs = np.empty((len(old), len(new)), dtype=np.int8)
    prices[0] = gaps
    for i in range(len(old)):
        whole, plays, root = (mine == theirs[i] for theirs, mine in kinds)
        subs[i] = np.where(whole, 0, np.where(plays, _RENAMED, np.where(root, _SIMILAR, _OTHER)))
        row = prices[i] + _GAP
        np.minimum(row[1:], prices[i, :-1] + subs[i], out=row[1:])
        prices[i + 1] = np.minimum.accumulate(row - gaps) + gaps
    return _traced(prices, subs)


def _traced(prices: NDArray[np.int16], subs: NDArray[np.int8]) -> list[int]:
    """The way back through a table of prices (old + 1, new + 1): for every new bar the old one's index or -1."""
    i, j = subs.shape
    found = [-1] * j
    while i and j:
        if prices[i, j] == prices[i - 1, j - 1] + subs[i - 1, j - 1]:
            i, j = i - 1, j - 1
            found[j] = i
        elif prices[i, j] == prices[i - 1, j] + _GAP:
            i -= 1
        else:
            j -= 1
    return found


_IN_SLOT = attrgetter(*(name for name in Slot.__struct_fields__ if name != "id"))
_IN_BAR = attrgetter(*(name for name in Bar.__struct_fields__ if name not in ("id", "slots")))


def _alike(one: Bar, other: Bar) -> bool:
    """Whether two bars are written alike, whoever is who."""
    if len(one.slots) != len(other.slots) or _IN_BAR(one) != _IN_BAR(other):
        return False
    return list(map(_IN_SLOT, one.slots)) == list(map(_IN_SLOT, other.slots))


def paired_bar(old: Bar, new: Bar) -> Bar:
    """A bar with the ids of the one it was: a slot is the one with its symbol and beat, else with its symbol, else the
    one on its beat, else the next that is left. What is as it was is not made anew.
    """
    if _alike(old, new):
        return old
    if [(slot.symbol, slot.beats) for slot in old.slots] == [(slot.symbol, slot.beats) for slot in new.slots]:
        return with_bar(new, old.id, tuple(with_id(b, a.id) for a, b in zip(old.slots, new.slots, strict=True)))
    left = {i: (slot.symbol, beat_of(old, i)) for i, slot in enumerate(old.slots)}
    open_ = {j: (slot.symbol, beat_of(new, j)) for j, slot in enumerate(new.slots)}
    ids = [0] * len(new.slots)

    def pair(same: slice) -> None:
        for j, words in list(open_.items()):
            i = next((i for i, other in left.items() if other[same] == words[same]), None)
            if i is not None:
                ids[j] = old.slots[i].id
                del left[i], open_[j]

    for same in (slice(0, 2), slice(0, 1), slice(1, 2), slice(0, 0)):
        pair(same)
    return with_bar(new, old.id, tuple(with_id(slot, ids[j]) for j, slot in enumerate(new.slots)))


def _of_its_name(section: Section, old: Song, free: set[int]) -> int | None:
    """The next free section of the same name, the first that has bars as this one has."""
    same = [s for s in sorted(free) if old.sections[s].name == section.name]
    alike = [s for s in same if bool(old.sections[s].bars) == bool(section.bars)]
    return next(iter(alike or same), None)


def owners_of(old: Song, new: Song, votes: list[Counter[int]]) -> list[int | None]:
    """The old id of every new section: of the section most of its bars were in, else of the next one of its name."""
    owners: list[int | None] = [None] * len(votes)
    free = set(range(len(old.sections)))
    wanted = sorted(
        ((-count, old.sections[s].name != new.sections[n].name, abs(s - n), n, s)
         for n, vote in enumerate(votes) for s, count in vote.items())
    )  # fmt: skip
    for *_, n, s in wanted:
        if owners[n] is None and s in free:
            owners[n] = old.sections[s].id
            free.discard(s)
    for n, section in enumerate(new.sections):
        chosen = _of_its_name(section, old, free) if owners[n] is None else None
        if chosen is not None:
            owners[n] = old.sections[chosen].id
            free.discard(chosen)
    return owners
