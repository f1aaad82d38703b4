"""The mix of takes over a song's passes, which is a song of its own."""

from __future__ import annotations

from typing import Any, NamedTuple

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked, said
from yellow_hinge.core.leading.asking.wishes import OF_PARTS, OF_SONG
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.road import road
from yellow_hinge.core.song.song import Memo, Section, Song
from yellow_hinge.core.takes.content import Parts, bare_setup, put
from yellow_hinge.core.takes.take import Choice, Content, Take, Whole, take_song
from yellow_hinge.core.takes.thing_moves import PassId
from yellow_hinge.core.takes.things import WISHES, Things, added, carried
from yellow_hinge.core.takes.written_out import Part, passes_of, passes_played

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
    known = {own: set(passes_played(songs[own], way)) for own, way in ways.items()}
    parts, passes, seen = [], [], dict[PassId, int]()
    for choice in choices(whole):
        own = (choice.section, choice.turn)
        take = by_id[choice.take] if own in known[choice.take] else base
        parts.append(Part(take, songs[take.id], own, seen.get(own, 0), ways[take.id]))
        seen[own] = seen.get(own, 0) + 1
        passes.append(Choice(*own, take.id))
    return Mixed(_written_out(whole, base, songs[base.id], parts), tuple(passes))


def _written_out(whole: Whole, base: Take, base_song: Song, parts: list[Part]) -> Whole:
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


def _carried(part: Part, section: Section) -> Things:
    """What a take asks, keeps and says in a pass: what it asks of the whole song is asked of the section."""
    ids, content = part.ids(section), part.take.content
    asked = as_asked(content.setup, part.song)
    own: dict[str, Any] = {kind.name: said(asked, kind) for kind in _OF_SONG}
    things = carried(content.things, ids | {WHOLE_SONG: section.id}, part.own)
    return things.put(WISHES, (Wish(section.id, **own), *things.of(WISHES)))
