"""A song as it is kept: its form, its takes, which one is shown, and which takes the passes of its mix play."""

from __future__ import annotations

from functools import cached_property

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, wanted
from yellow_hinge.core.song.following import Piece
from yellow_hinge.core.song.song import Memo, Song, Was
from yellow_hinge.core.takes.form import Asks, BarChords, Form, song_of
from yellow_hinge.core.takes.things import FILLS, HELD, KEEPS, KNOWN, LINES, MEMOS, PLAYED, WAS, WISHES, Things

FIRST_TAKE = "Take 1"


class Content(msgspec.Struct, frozen=True):
    """What is a take's own: its chords, what its header asks for, the settings for the whole of it, what is kept, asked
    and said at its places, and where things stood that an edit took away. `setup` is without places and player.
    """

    chords: tuple[BarChords, ...] = ()
    asks: Asks = ()
    setup: Setup = Setup()
    things: Things = msgspec.field(default_factory=Things)
    gone: tuple[Piece, ...] = ()


class Take(msgspec.Struct, frozen=True):
    """One version of a song. `text` is its chart as typed where that is known, or ""; `form` its own form where it
    differs from the song's, as takes of old files may.
    """

    id: int = 1
    name: str = FIRST_TAKE
    text: str = ""
    content: Content = msgspec.field(default_factory=Content)
    form: Form | None = None


class Choice(msgspec.Struct, frozen=True):
    """Which take (its id) a pass of the mix plays."""

    section: int
    turn: int
    take: int


class Whole(msgspec.Struct, frozen=True, dict=True):
    """A song: its form, its takes in their order, the one that is shown (its id), the newest id of a take, and what
    passes play in the mix. What is read of it is that of the take shown.
    """

    form: Form = msgspec.field(default_factory=Form)
    takes: tuple[Take, ...] = msgspec.field(default_factory=lambda: (Take(),))
    take: int = 1
    last_take: int = 1
    mix: tuple[Choice, ...] = ()

    @cached_property
    def shown(self) -> Take:
        """The take shown."""
        return next((take for take in self.takes if take.id == self.take), self.takes[0])

    @property
    def place(self) -> int:
        """Where the take shown stands among them, from 0."""
        return self.takes.index(self.shown)

    @property
    def others(self) -> tuple[Take, ...]:
        """The takes that are not shown."""
        return tuple(take for take in self.takes if take.id != self.take)

    @property
    def name(self) -> str:
        """The name of the take shown."""
        return self.shown.name

    @property
    def own_form(self) -> Form:
        """The form of the take shown: the song's, or its own."""
        return self.shown.form or self.form

    @cached_property
    def song(self) -> Song:
        """The take shown as a song. No take gives an id that another one gave."""
        own, content = self.own_form, self.shown.content
        song = song_of(own, content.chords, content.asks)
        newest = max([self.form.next_id, *(take.form.next_id for take in self.takes if take.form)])
        return song if song.next_id == newest else msgspec.structs.replace(song, next_id=newest)

    @property
    def text(self) -> str:
        """The chart of the take shown as it was typed, or ""."""
        return self.shown.text

    @property
    def things(self) -> Things:
        """What is kept, asked and said in the take shown."""
        return self.shown.content.things

    @cached_property
    def setup(self) -> Setup:
        """All that is asked of the hands, and who plays."""
        found: Setup = msgspec.structs.replace(
            self.shown.content.setup, player=self.own_form.player, wishes=self.things.of(WISHES),
            held=self.things.of(HELD), wanted=wanted(self.playing),
        )  # fmt: skip
        return found

    @property
    def keeps(self) -> tuple[Keep, ...]:
        """What is kept."""
        return self.things.of(KEEPS)

    @cached_property
    def standing(self) -> tuple[Keep, ...]:
        """What the solver is held to: what is kept, and hands that are known where nothing of the chord is kept."""
        kept = {(keep.slot, keep.symbol) for keep in self.keeps}
        known = (keep for keep in self.things.of(KNOWN) if (keep.slot, keep.symbol) not in kept)
        return (*self.keeps, *known)

    @cached_property
    def question(self) -> tuple[Song, Setup, tuple[Keep, ...]]:
        """What the solver is asked: two songs with the same one have the same hands. No hand follows from the title,
        the tempo or lines of another program.
        """
        song = msgspec.structs.replace(self.song, title="", tempo=1, extra=(), next_id=0)
        return song, self.setup, self.standing

    @property
    def was(self) -> tuple[Was, ...]:
        """What chords were before."""
        return self.things.of(WAS)

    @property
    def gone(self) -> tuple[Piece, ...]:
        """Where things stood that an edit took away."""
        return self.shown.content.gone

    @cached_property
    def playing(self) -> Playing:
        """How the song is played."""
        form = self.own_form
        own = self.things
        return Playing(own.of(PLAYED), own.of(FILLS), form.patterns, form.sounds, own.of(LINES))

    @property
    def memos(self) -> tuple[Memo, ...]:
        """The player's notes, that on the song first."""
        words = self.own_form.memo
        return (*((Memo(WHOLE_SONG, words),) if words else ()), *self.things.of(MEMOS))

    @property
    def asked(self) -> Setup:
        """The player's wishes over what the song itself asks for."""
        return as_asked(self.setup, self.song)


def take_song(whole: Whole, take: Take) -> Song:
    """A take as a song."""
    if take.id == whole.take:
        return whole.song
    return song_of(take.form or whole.form, take.content.chords, take.content.asks)


def apart_words(whole: Whole) -> str:
    """A sentence that says which takes are in another key or have other bars; "" where none are."""
    said = []
    for take in whole.takes:
        if take.form is not None:
            other = take.form.key != whole.form.key
            said.append(f"{take.name} {f'is in {take.form.key}' if other else 'has other bars'}")
    if not said:
        return ""
    return f"{' and '.join(said)}, apart from the song in {whole.form.key}, until the takes are brought together"
