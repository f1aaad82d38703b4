"""Who is who after an edit: sections, bars and slots keep their ids while the text around them changes.

Bars are aligned first, as two sequences (Needleman and Wunsch 1970), then slots inside them.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.song.song import Bar, Section, Slot, Song, beat_of

# Prices of aligning two bars: the same chords under another section's name, a shared chord or root, nothing in common;
# and of a bar that came or went, which is dearer than half of the last, so that a bar in its old place is the same bar.
_RENAMED, _SIMILAR, _OTHER, _GAP = 1, 2, 3, 2
Kind = Literal["section", "bar", "slot"]
_BRACKETED = 1 << 12  # bars to align at once: 32 MB of prices


class Piece(msgspec.Struct, frozen=True):
    """A section, bar or slot of a song: its kind, id, what stands in it, its neighbours of its kind (0 for none)."""

    kind: Kind
    id: int
    words: str
    before: int = 0
    after: int = 0


def numbered(song: Song) -> Song:
    """The song with an id for everything that has none, or one that an earlier part of the song has too. A slot gives
    way to a bar or section wherever that stands: takes find their chords by them.
    """
    seen: set[int] = {0}
    homes = {section.id for section in song.sections}
    homes |= {bar.id for section in song.sections for bar in section.bars}
    following = max([song.next_id, *(piece + 1 for piece in all_ids(song))])

    def own(given: int) -> int:
        nonlocal following
        if given in seen:
            given, following = following, following + 1
        seen.add(given)
        return given

    sections = []
    for section in song.sections:
        s, bars = own(section.id), []
        for bar in section.bars:
            b = own(bar.id)
            slots = tuple(_with_id(slot, own(0 if slot.id in homes else slot.id)) for slot in bar.slots)
            bars.append(_with_bar(bar, b, slots))
        sections.append(msgspec.structs.replace(section, bars=tuple(bars), id=s))
    found: Song = msgspec.structs.replace(song, sections=tuple(sections), next_id=following)
    return found


def _with_id(slot: Slot, new: int) -> Slot:
    return slot if slot.id == new else Slot(slot.symbol, slot.beats, slot.cue, new)


def _with_bar(bar: Bar, new: int, slots: tuple[Slot, ...]) -> Bar:
    if bar.id == new and all(a is b for a, b in zip(bar.slots, slots, strict=True)):
        return bar
    changed: Bar = msgspec.structs.replace(bar, id=new, slots=slots)
    return changed


def all_ids(song: Song) -> Iterator[int]:
    """Every id in a song."""
    for section in song.sections:
        yield section.id
        for bar in section.bars:
            yield bar.id
            for slot in bar.slots:
                yield slot.id


def bare(song: Song) -> Song:
    """The song without its ids: what is written."""
    sections = tuple(
        msgspec.structs.replace(
            section,
            bars=tuple(_with_bar(bar, 0, tuple(_with_id(slot, 0) for slot in bar.slots)) for bar in section.bars),
            id=0,
        )
        for section in song.sections
    )
    found: Song = msgspec.structs.replace(song, sections=sections, next_id=1)
    return found


def same_writing(one: Song, other: Song) -> bool:
    """Whether two songs are written alike, whoever is who."""
    return one is other or bare(one) == bare(other)


def pieces(song: Song) -> dict[int, Piece]:
    """Everything with an id, by it."""
    rows: dict[Kind, list[tuple[int, str]]] = {"section": [], "bar": [], "slot": []}
    for section in song.sections:
        rows["section"].append((section.id, section.name))
        for bar in section.bars:
            rows["bar"].append((bar.id, " ".join(slot.symbol for slot in bar.slots)))
            rows["slot"] += [(slot.id, slot.symbol) for slot in bar.slots]
    found = {}
    for kind, row in rows.items():
        for n, (own, words) in enumerate(row):
            before = row[n - 1][0] if n else 0
            found[own] = Piece(kind, own, words, before, row[n + 1][0] if n + 1 < len(row) else 0)
    return found


def with_ids(song: Song, instead: dict[int, int]) -> Song:
    """The song with some ids changed."""
    if not instead:
        return song
    sections = tuple(
        msgspec.structs.replace(
            section,
            bars=tuple(
                _with_bar(
                    bar,
                    instead.get(bar.id, bar.id),
                    tuple(_with_id(slot, instead.get(slot.id, slot.id)) for slot in bar.slots),
                )
                for bar in section.bars
            ),
            id=instead.get(section.id, section.id),
        )
        for section in song.sections
    )
    found: Song = msgspec.structs.replace(song, sections=sections)
    return found


def followed(old: Song, new: Song) -> Song:
    """`new` as `old` typed anew: what is still the same section, bar or slot has its old id, the rest a fresh one."""
    were, are = _rows(old), _rows(new)
    paired = _aligned(were, are)
    sections, at = [], 0
    votes: list[Counter[int]] = []
    for section in new.sections:
        vote: Counter[int] = Counter()
        bars = []
        for bar in section.bars:
            old_at = paired[at]
            at += 1
            if old_at < 0:
                bars.append(_with_bar(bar, 0, tuple(_with_id(slot, 0) for slot in bar.slots)))
                continue
            vote[were[old_at].section] += 1
            same = _paired_bar(were[old_at].bar, bar)
            bars.append(were[old_at].bar if same == were[old_at].bar else same)  # what is as it was is not made anew
        votes.append(vote)
        sections.append(msgspec.structs.replace(section, bars=tuple(bars), id=0))
    owners = _owners(old, new, votes)
    named = [
        section
        if owner is None
        else Section(section.name, section.bars, section.key, section.meter, owner, section.swing)
        for section, owner in zip(sections, owners, strict=True)
    ]
    return numbered(msgspec.structs.replace(new, sections=tuple(named), next_id=old.next_id))


class _Row(NamedTuple):
    """A bar in its song: the index of its section, the bar, what it plays, the section's name where it begins one."""

    section: int
    bar: Bar
    plays: tuple[object, ...]
    begins: str | None


def _rows(song: Song) -> list[_Row]:
    return [
        _Row(s, bar, tuple((slot.symbol, slot.beats) for slot in bar.slots), section.name if b == 0 else None)
        for s, section in enumerate(song.sections)
        for b, bar in enumerate(section.bars)
    ]


def _aligned(old: list[_Row], new: list[_Row]) -> list[int]:
    """For every new bar the index of the old one that it is, or -1."""
    head, most = 0, min(len(old), len(new))
    while head < most and old[head][2:] == new[head][2:]:
        head += 1
    tail = 0
    while tail < most - head and old[-1 - tail][2:] == new[-1 - tail][2:]:
        tail += 1
    middle = _cheapest(old[head : len(old) - tail], new[head : len(new) - tail])
    last = len(old) - tail
    return [*range(head), *(at if at < 0 else at + head for at in middle), *range(last, len(old))]


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


def _paired_bar(old: Bar, new: Bar) -> Bar:
    """A bar with the ids of the one it was: a slot is the one with its symbol and beat, else with its symbol, else the
    one on its beat, else the next that is left.
    """
    if len(old.slots) == len(new.slots) and all(
        a.symbol == b.symbol and a.beats == b.beats for a, b in zip(old.slots, new.slots, strict=True)
    ):
        return _with_bar(new, old.id, tuple(_with_id(b, a.id) for a, b in zip(old.slots, new.slots, strict=True)))
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
    return _with_bar(new, old.id, tuple(_with_id(slot, ids[j]) for j, slot in enumerate(new.slots)))


def _of_its_name(section: Section, old: Song, free: set[int]) -> int | None:
    """The next free section of the same name, the first that has bars as this one has."""
    same = [s for s in sorted(free) if old.sections[s].name == section.name]
    alike = [s for s in same if bool(old.sections[s].bars) == bool(section.bars)]
    return next(iter(alike or same), None)


def _owners(old: Song, new: Song, votes: list[Counter[int]]) -> list[int | None]:
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
