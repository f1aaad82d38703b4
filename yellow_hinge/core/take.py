"""Takes: versions of one song, and a mix of them over its passes, which is a song of its own."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import msgspec

from yellow_hinge.core.following import Piece, numbered
from yellow_hinge.core.leading.keeps import HeldTop, Keep
from yellow_hinge.core.leading.setup import FIRST, Setup, Wish, as_asked
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, Fill, Playing, PlayWish
from yellow_hinge.core.road import Step, origins, road
from yellow_hinge.core.song import Memo, Section, Song, Was

PassId = tuple[int, int]  # see Moment.pass_id
_OF_SONG = ("colour", "style", "families", "fullness", "right", "vary", "manner")


class Take(msgspec.Struct, frozen=True):
    """One version of a song: its chart as text and as song, and all that is asked of it and kept in it."""

    id: int
    name: str
    song: Song
    text: str = ""
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()
    playing: Playing = Playing()
    memos: tuple[Memo, ...] = ()


class Choice(msgspec.Struct, frozen=True):
    """Which take (its id) a pass of the mix plays."""

    section: int
    turn: int
    take: int


class Mixed(msgspec.Struct, frozen=True):
    """A mix as a song: every pass written out as a section, with what its take asks and keeps there. `passes` says of
    each section which pass it is and which take it plays.
    """

    song: Song
    setup: Setup
    keeps: tuple[Keep, ...]
    playing: Playing
    passes: tuple[Choice, ...]
    memos: tuple[Memo, ...] = ()


def passes_of(song: Song) -> list[PassId]:
    """The passes of a song in the order they are played: a section as it is played, and each pass of its repeats."""
    return _passes(song, road(song))


def _passes(song: Song, way: list[Step]) -> list[PassId]:
    found: list[PassId] = []
    for step in way:
        own = (song.sections[step.played].id, step.turn)
        if not found or found[-1] != own:
            found.append(own)
    return found


def mixed(takes: tuple[Take, ...], current: Take, mix: tuple[Choice, ...]) -> Mixed:
    """The mix of some takes over the passes of the current one, which plays what nothing is chosen for. Who plays, who
    has the bass and the tune is said by the current take.
    """
    by_id = {take.id: take for take in takes}
    chosen = {(choice.section, choice.turn): choice.take for choice in mix}
    parts, passes, seen = [], [], dict[PassId, int]()
    ways = {take.id: road(take.song) for take in (*takes, current)}
    known = {take.id: set(_passes(take.song, ways[take.id])) for take in (*takes, current)}
    for own in _passes(current.song, ways[current.id]):
        take = by_id.get(chosen.get(own, current.id), current)
        if own not in known[take.id]:
            take = current
        part = _Part(take, own, seen.get(own, 0), ways[take.id])
        seen[own] = seen.get(own, 0) + 1
        parts.append(part)
        passes.append(Choice(own[0], own[1], take.id))
    base = as_asked(current.setup, current.song)
    song = numbered(msgspec.structs.replace(current.song, sections=tuple(part.section for part in parts), next_id=1))
    setup, keeps, playing = _carried(parts, song, base)
    playing = msgspec.structs.replace(playing, patterns=_own_patterns(takes), sounds=current.playing.sounds)
    return Mixed(song, setup, keeps, playing, tuple(passes), _memos(parts, song, current))


def _memos(parts: list[_Part], song: Song, current: Take) -> tuple[Memo, ...]:
    found = [memo for memo in current.memos if memo.slot == WHOLE_SONG]
    for part, section in zip(parts, song.sections, strict=True):
        ids = _ids(part, section)
        found += [Memo(ids[memo.slot], memo.words) for memo in part.take.memos if memo.slot in ids]
    return tuple(found)


def _own_patterns(takes: Iterable[Take]) -> Any:
    return tuple({pattern.id: pattern for take in takes for pattern in take.playing.patterns}.values())


class _Part:
    """One pass of a take, written out."""

    def __init__(self, take: Take, own: PassId, again: int, way: list[Step]) -> None:
        self.take, self.own = take, own
        song = take.song
        played = next(i for i, section in enumerate(song.sections) if section.id == own[0])
        origin = song.sections[origins(song)[played]]
        bars = _run([(s.bar, s.turn) for s in way if s.played == played], own[1], again)
        self.bars = [origin.bars[b] for b in bars]
        plain = tuple(
            msgspec.structs.replace(
                bar, opens=False, repeats=0, ending=0, id=0, same=False, signs=(),
                slots=tuple(msgspec.structs.replace(slot, id=0) for slot in bar.slots),
            )
            for bar in self.bars
        )  # fmt: skip
        self.section = Section(song.sections[played].name, plain, origin.key or song.key, origin.meter or song.meter)


def _run(order: list[tuple[int, int]], turn: int, again: int) -> list[int]:
    """The bars of the run number `again` of bars in a pass."""
    runs: list[list[int]] = []
    last = None
    for bar, own in order:
        if own == turn:
            if last != turn:
                runs.append([])
            runs[-1].append(bar)
        last = own
    return runs[min(again, len(runs) - 1)]


def _ids(part: _Part, section: Section) -> dict[int, int]:
    """The ids of a written-out section by those of the take: section, bars and slots. The section's own is its pass."""
    found = {part.own[0]: section.id}
    for old, new in zip(part.bars, section.bars, strict=True):
        found[old.id] = new.id
        found |= {a.id: b.id for a, b in zip(old.slots, new.slots, strict=True)}
    return found


def _carried(parts: list[_Part], song: Song, base: Setup) -> tuple[Setup, tuple[Keep, ...], Playing]:
    wishes: list[Wish] = []
    held: list[HeldTop] = []
    keeps: list[Keep] = []
    patterns: list[PlayWish] = []
    fills: list[Fill] = []
    for part, section in zip(parts, song.sections, strict=True):
        ids, take = _ids(part, section), part.take
        asked = as_asked(take.setup, take.song)
        own = {name: getattr(asked, name) for name in _OF_SONG}
        own = {name: FIRST[name] if value is None and name in FIRST else value for name, value in own.items()}
        wishes.append(Wish(section.id, **own))
        for wish in take.setup.wishes:
            if wish.at in ids and wish.turn in (None, part.own[1]) and wish.only in (None, part.own):
                wishes.append(msgspec.structs.replace(wish, at=ids[wish.at], turn=None, only=None))
        keeps += _kept(part, ids)
        held += [
            HeldTop(tuple(ids[slot] for slot in top.slots if slot in ids), top.top)
            for top in take.setup.held
            if any(slot in ids for slot in top.slots)
        ]
        for asks in take.playing.wishes:
            at = section.id if asks.at == WHOLE_SONG else ids.get(asks.at)
            if at is not None:
                patterns.append(PlayWish(at, asks.pattern, asks.hand))
        fills += [Fill(ids[fill.slot], fill.kind) for fill in take.playing.fills if fill.slot in ids]
    setup = msgspec.structs.replace(base, wishes=tuple(wishes), held=tuple(held))
    return setup, tuple(keeps), Playing(tuple(patterns), tuple(fills))


def _kept(part: _Part, ids: dict[int, int]) -> list[Keep]:
    """The keeps of a pass; what is for it alone comes last and is for it here."""
    found = [keep for keep in part.take.keeps if keep.slot in ids and keep.only in (None, part.own)]
    only = {(keep.slot, keep.part) for keep in found if keep.only is not None}
    whole = {slot for slot, what in only if what == "chord"}
    kept = []
    for keep in found:
        overruled = keep.only is None and (
            (keep.slot, keep.part) in only
            or keep.slot in whole
            or (keep.part == "chord" and any(slot == keep.slot for slot, _ in only))
        )
        if not overruled:
            kept.append(msgspec.structs.replace(keep, slot=ids[keep.slot], only=None))
    return kept
