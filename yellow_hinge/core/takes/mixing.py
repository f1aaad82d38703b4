"""The mix of takes over a song's passes, which is a song of its own."""

from __future__ import annotations

from typing import Any, NamedTuple

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked, said
from yellow_hinge.core.leading.asking.wishes import OF_PARTS, OF_SONG
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, Playing
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.road import Visit, origins, road
from yellow_hinge.core.song.song import Memo, Section, Song
from yellow_hinge.core.takes.form import Form
from yellow_hinge.core.takes.take import Choice, Content, Parts, Take, Whole, bare_setup, put, take_song
from yellow_hinge.core.takes.things import WISHES, PassId, Things, added, carried, joined

_OF_SONG = tuple(kind for kind in OF_SONG if kind in OF_PARTS)  # what a section can ask in the place of a song


class Mixed(NamedTuple):
    """A mix as a song of one take: every pass written out as a section, with what its take asks and keeps there.
    `passes` says of each section which pass it is and which take it plays.
    """

    whole: Whole
    passes: tuple[Choice, ...]

    @property
    def song(self) -> Song:
        """The song."""
        return self.whole.song

    @property
    def setup(self) -> Setup:
        """What is asked of the hands."""
        return self.whole.setup

    @property
    def keeps(self) -> tuple[Keep, ...]:
        """What is kept."""
        return self.whole.keeps

    @property
    def playing(self) -> Playing:
        """How it is played."""
        return self.whole.playing

    @property
    def memos(self) -> tuple[Memo, ...]:
        """The player's notes."""
        return self.whole.memos


def base_take(whole: Whole) -> Take:
    """The take that plays the passes for which none is chosen: the oldest one in the song's own form."""
    return min(whole.takes, key=lambda take: (take.form is not None, take.id))


def passes_of(song: Song) -> list[PassId]:
    """The passes of a song in the order they are played: a section as it is played, and each pass of its repeats."""
    return _passes(song, road(song))


def _passes(song: Song, way: list[Visit]) -> list[PassId]:
    found: list[PassId] = []
    for step in way:
        own = (song.sections[step.played].id, step.turn)
        if not found or found[-1] != own:
            found.append(own)
    return found


def choices(whole: Whole) -> list[Choice]:
    """What every pass of the song plays in the mix, in the order they are played."""
    base = base_take(whole)
    chosen = {(choice.section, choice.turn): choice.take for choice in whole.mix}
    known = {take.id for take in whole.takes}
    found = []
    for section, turn in passes_of(take_song(whole, base)):
        take = chosen.get((section, turn), base.id)
        found.append(Choice(section, turn, take if take in known else base.id))
    return found


def mixed(whole: Whole) -> Mixed:
    """The mix of a song's takes, whichever of them is shown. What nothing is chosen for is played as in the base take,
    which also says who has the bass and the tune.
    """
    base = base_take(whole)
    by_id = {take.id: take for take in whole.takes}
    songs = {take.id: take_song(whole, take) for take in whole.takes}
    ways = {own: road(song) for own, song in songs.items()}
    known = {own: set(_passes(songs[own], way)) for own, way in ways.items()}
    parts, passes, seen = [], [], dict[PassId, int]()
    for choice in choices(whole):
        own = (choice.section, choice.turn)
        take = by_id[choice.take] if own in known[choice.take] else base
        parts.append(_Part(take, songs[take.id], own, seen.get(own, 0), ways[take.id]))
        seen[own] = seen.get(own, 0) + 1
        passes.append(Choice(*own, take.id))
    return Mixed(_written_out(whole, base, songs[base.id], parts), tuple(passes))


def repeats_apart(whole: Whole) -> Whole:
    """The song with every pass written out as a section, in all takes that share its form (in the shown one alone
    where it has its own), so that each can become otherwise. What rests goes on resting.
    """
    shown = whole.shown
    takes = [shown] if shown.form else [take for take in whole.takes if take.form is None]
    songs = {take.id: take_song(whole, take) for take in takes}
    ways = {own: road(song) for own, song in songs.items()}
    order = _passes(songs[shown.id], ways[shown.id])
    fresh = _Fresh(max(whole.song.next_id, *(song.next_id for song in songs.values())))
    form, contents = whole.form, dict[int, Content]()
    for take in (shown, *(take for take in takes if take is not shown)):
        song, things, gone = songs[take.id], Things(), take.content.things
        sections = []
        for n, own in enumerate(order):
            part = _Part(take, song, own, order[:n].count(own), ways[take.id])
            sections.append(fresh.numbered(part, n))
            things = added(things, carried(take.content.things, part.ids(sections[-1]), own))
            gone = joined(gone, Things(), frozenset(part.ids(sections[-1])), frozenset())
        made = msgspec.structs.replace(song, sections=tuple(sections), next_id=fresh.next)
        content = msgspec.structs.replace(take.content, things=added(things, gone))
        content, own_form = put(content, take.form or whole.form, Parts(made))
        contents[take.id], form = content, own_form if take is shown else form
    form = msgspec.structs.replace(form, next_id=fresh.next)
    mix = tuple(
        Choice(form.sections[n].id, 0, choice.take)
        for n, own in enumerate(order)
        for choice in whole.mix
        if (choice.section, choice.turn) == own
    )
    return _with_contents(whole, contents, form, mix)


def _with_contents(whole: Whole, contents: dict[int, Content], form: Form, mix: tuple[Choice, ...]) -> Whole:
    """A song with other contents of some takes, in a form that is theirs."""
    own = whole.shown.form is not None
    takes = tuple(
        msgspec.structs.replace(take, content=contents[take.id], text="", form=form if own else None)
        if take.id in contents
        else take
        for take in whole.takes
    )
    found: Whole = msgspec.structs.replace(
        whole, takes=takes, form=whole.form if own else form, mix=whole.mix if own else mix
    )
    return found


class _Fresh:
    """Ids for passes that are written out: the same sections and bars in every take, and the same chords where takes
    had the same.
    """

    def __init__(self, first: int) -> None:
        self.next = first
        self._known: dict[tuple[str, int, int], int] = {}

    def _own(self, kind: str, place: int, old: int) -> int:
        key = kind, place, old
        if key not in self._known:
            self._known[key], self.next = self.next, self.next + 1
        return self._known[key]

    def numbered(self, part: _Part, place: int) -> Section:
        """The section of a part with ids."""
        bars = []
        for n, (old, bar) in enumerate(zip(part.bars, part.section.bars, strict=True)):
            slots = tuple(
                msgspec.structs.replace(new, id=self._own(f"slot {n}", place, slot.id))
                for slot, new in zip(old.slots, bar.slots, strict=True)
            )
            bars.append(msgspec.structs.replace(bar, id=self._own(f"bar {n}", place, 0), slots=slots))
        found: Section = msgspec.structs.replace(part.section, id=self._own("section", place, 0), bars=tuple(bars))
        return found


def _written_out(whole: Whole, base: Take, base_song: Song, parts: list[_Part]) -> Whole:
    song = numbered(msgspec.structs.replace(base_song, sections=tuple(part.section for part in parts), next_id=1))
    setup = as_asked(base.content.setup, base_song)
    things = Things()
    for part, section in zip(parts, song.sections, strict=True):
        things = added(things, _carried(part, section))
    form = base.form or whole.form
    forms = (form, *(take.form for take in whole.takes if take.form))
    patterns = tuple({pattern.id: pattern for each in reversed(forms) for pattern in each.patterns}.values())
    form = msgspec.structs.replace(form, patterns=patterns)
    content, form = put(Content(setup=bare_setup(setup), things=things), form, Parts(song))
    return Whole(form, (Take(content=content),))


def _carried(part: _Part, section: Section) -> Things:
    """What a take asks, keeps and says in a pass: what it asks of the whole song is asked of the section."""
    ids, content = part.ids(section), part.take.content
    asked = as_asked(content.setup, part.song)
    own: dict[str, Any] = {kind.name: said(asked, kind) for kind in _OF_SONG}
    things = carried(content.things, ids | {WHOLE_SONG: section.id}, part.own)
    return things.put(WISHES, (Wish(section.id, **own), *things.of(WISHES)))


class _Part:
    """One pass of a take, written out."""

    def __init__(self, take: Take, song: Song, own: PassId, again: int, way: list[Visit]) -> None:
        self.take, self.song, self.own = take, song, own
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
        self.section = msgspec.structs.replace(
            origin, name=song.sections[played].name, bars=plain, key=origin.key or song.key,
            meter=origin.meter or song.meter, swing=origin.swing or song.swing, id=0,
        )  # fmt: skip

    def ids(self, section: Section) -> dict[int, int]:
        """The ids of the written-out section by those of the take: section, bars and slots. Its own is its pass."""
        found = {self.own[0]: section.id}
        for old, new in zip(self.bars, section.bars, strict=True):
            found[old.id] = new.id
            found |= {a.id: b.id for a, b in zip(old.slots, new.slots, strict=True)}
        return found


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
