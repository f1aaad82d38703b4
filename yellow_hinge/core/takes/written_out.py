"""Repeats that are played apart, written out."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.song.repeats import origins
from yellow_hinge.core.song.road import Visit, road
from yellow_hinge.core.song.song import Section, Song
from yellow_hinge.core.takes.content import Parts, put
from yellow_hinge.core.takes.form import Form
from yellow_hinge.core.takes.take import Choice, Content, Take, Whole, take_song
from yellow_hinge.core.takes.thing_moves import PassId
from yellow_hinge.core.takes.things import Things, added, carried, joined


def passes_of(song: Song) -> list[PassId]:
    """The passes of a song in the order they are played: a section as it is played, and each pass of its repeats."""
    return passes_played(song, road(song))


def passes_played(song: Song, way: list[Visit]) -> list[PassId]:
    found: list[PassId] = []
    for step in way:
        own = (song.sections[step.played].id, step.turn)
        if not found or found[-1] != own:
            found.append(own)
    return found


def repeats_apart(whole: Whole) -> Whole:
    """The song with every pass written out as a section, in all takes that share its form (in the shown one alone
    where it has its own), so that each can become otherwise. What rests goes on resting.
    """
    shown = whole.shown
    takes = [shown] if shown.form else [take for take in whole.takes if take.form is None]
    songs = {take.id: take_song(whole, take) for take in takes}
    ways = {own: road(song) for own, song in songs.items()}
    order = passes_played(songs[shown.id], ways[shown.id])
    fresh = _Fresh(max(whole.song.next_id, *(song.next_id for song in songs.values())))
    form, contents = whole.form, dict[int, Content]()
    for take in (shown, *(take for take in takes if take is not shown)):
        song, things, gone = songs[take.id], Things(), take.content.things
        sections = []
        for n, own in enumerate(order):
            part = Part(take, song, own, order[:n].count(own), ways[take.id])
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

    def numbered(self, part: Part, place: int) -> Section:
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


class Part:
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
