"""Who is who after an edit: sections, bars and slots keep their ids while the text around them changes.

Bars are aligned first, as two sequences (Needleman and Wunsch 1970), then slots inside them.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import Literal

import msgspec

from yellow_hinge.core.song.aligning import aligned, bars_in_a_row, owners_of, paired_bar, with_bar, with_id
from yellow_hinge.core.song.song import Bar, Section, Song

Kind = Literal["section", "bar", "slot"]


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
    every = list(all_ids(song))
    ids = [each for each in every if each]
    following, once = max(1, song.next_id, max(ids, default=0) + 1), len(ids) == len(set(ids))
    if once and len(ids) == len(every):
        return song if song.next_id == following else msgspec.structs.replace(song, next_id=following)
    return _renumbered(song, following, once)


def _renumbered(song: Song, following: int, once: bool) -> Song:
    """A song with ids from `following` on for what has none or, unless each id is there `once`, one that is taken."""
    seen: set[int] = {0}
    homes = _homes(song)

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
            if once and _has_ids(bar):
                bars.append(bar)
                continue
            b = own(bar.id)
            slots = tuple(with_id(slot, own(0 if slot.id in homes else slot.id)) for slot in bar.slots)
            bars.append(with_bar(bar, b, slots))
        sections.append(msgspec.structs.replace(section, bars=tuple(bars), id=s))
    found: Song = msgspec.structs.replace(song, sections=tuple(sections), next_id=following)
    return found


def _homes(song: Song) -> set[int]:
    """The ids of sections and bars."""
    return {section.id for section in song.sections} | {bar.id for section in song.sections for bar in section.bars}


def _has_ids(bar: Bar) -> bool:
    return bar.id > 0 and all(slot.id for slot in bar.slots)


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
            bars=tuple(with_bar(bar, 0, tuple(with_id(slot, 0) for slot in bar.slots)) for bar in section.bars),
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
                with_bar(
                    bar,
                    instead.get(bar.id, bar.id),
                    tuple(with_id(slot, instead.get(slot.id, slot.id)) for slot in bar.slots),
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
    were = bars_in_a_row(old)
    paired, alike = aligned(were, bars_in_a_row(new))
    sections, at = [], 0
    votes: list[Counter[int]] = []
    for section in new.sections:
        vote: Counter[int] = Counter()
        bars = []
        for bar in section.bars:
            old_at, as_it_was = paired[at], at in alike
            at += 1
            if old_at < 0:
                bars.append(with_bar(bar, 0, tuple(with_id(slot, 0) for slot in bar.slots)))
                continue
            vote[were.sections[old_at]] += 1
            bars.append(were.all[old_at] if as_it_was else paired_bar(were.all[old_at], bar))
        votes.append(vote)
        sections.append(msgspec.structs.replace(section, bars=tuple(bars), id=0))
    owners = owners_of(old, new, votes)
    named = [
        section
        if owner is None
        else Section(section.name, section.bars, section.key, section.meter, owner, section.swing)
        for section, owner in zip(sections, owners, strict=True)
    ]
    return numbered(msgspec.structs.replace(new, sections=tuple(named), next_id=old.next_id))
