"""The state of one open song, and the pure edits that turn one state into the next."""

from __future__ import annotations

from typing import get_args

import msgspec

from yellow_hinge.app.kept import Resting, held_through, here_and_gone, moved_with_keys, shifted, told_again
from yellow_hinge.core.chart_text import ChartReading, read_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.following import Piece, followed, numbered, same_writing
from yellow_hinge.core.key import Key, shift_to
from yellow_hinge.core.leading.keeps import Keep, Part
from yellow_hinge.core.leading.setup import Setup, as_asked
from yellow_hinge.core.rhythm.asks import Playing
from yellow_hinge.core.song import Memo, Song, Was
from yellow_hinge.core.take import Choice, Take
from yellow_hinge.core.transpose import song_in_key
from yellow_hinge.core.words import plain
from yellow_hinge.io.song_json import FIRST_TAKE, SongFile

TAKES = ("take", "name", "others", "place", "last_take", "mix")  # what a state and a file say of takes
MOST_MEMO = 400  # characters of a note
CLEARED = "\n"  # the draft of a chart that was emptied
PARTS: tuple[Part, ...] = get_args(Part)


class State(msgspec.Struct, frozen=True):
    """Everything that undo brings back. `song` is the last chart that could be read whole; `text` is the chart as
    typed, which may be ahead of it. `was` tells what chords were before, `gone` where things stood that the player
    kept or asked something of and an edit took away, `playing` how the song is played, `memos` what the player notes
    down. All of this is the take of id `take`; `others` are the other takes in their order, in which it has `place`,
    `last_take` the newest id of a take; `mix` says what passes play in the mix.
    """

    song: Song = Song()
    text: str = ""
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()
    playing: Playing = Playing()
    memos: tuple[Memo, ...] = ()
    take: int = 1
    name: str = FIRST_TAKE
    others: tuple[Take, ...] = ()
    place: int = 0
    last_take: int = 1
    mix: tuple[Choice, ...] = ()

    @property
    def asked(self) -> Setup:
        """The player's wishes over what the song itself asks for."""
        return as_asked(self.setup, self.song)

    @property
    def emptied(self) -> bool:
        """Whether the chart was cleared: the song stays to be aligned with, and is neither shown nor played."""
        return not self.text.strip()


def state_of(file: SongFile, text: str = "") -> State:
    """The state that a saved song opens in. `text` is the chart as it was written, where that is known."""
    text = file.draft or text or write_chart(file.song)
    text = "" if file.draft == CLEARED else text
    takes = {name: getattr(file, name) for name in TAKES}
    return State(file.song, text, file.setup, file.keeps, file.was, file.gone, file.playing, file.memos, **takes)


def file_of(state: State, reading: ChartReading | None = None) -> SongFile:
    """What is saved of a state: text that says more than the song (because it is at fault) is kept as a draft.
    `reading` is that of its text, where it is known.
    """
    reading = reading or read_chart(state.text)
    whole = not reading.faults and same_writing(reading.song, state.song)
    draft = CLEARED if state.emptied else "" if whole else state.text
    takes = {name: getattr(state, name) for name in TAKES}
    takes |= {"playing": state.playing, "memos": state.memos}
    return SongFile(state.song, state.setup, state.keeps, draft, state.was, state.gone, **takes)


def with_text(state: State, base: State, text: str, reading: ChartReading) -> State:
    """The state after typing, which began at `base`. Faulty text leaves the song as it was."""
    if reading.faults:
        return msgspec.structs.replace(state, text=text)
    return msgspec.structs.replace(retyped(base, reading.song), text=text)


def retyped(state: State, song: Song) -> State:
    """The state with a song that was written anew; what is still the same section, bar or chord is found again."""
    return _settled(state, followed(state.song, song))


def changed(state: State, song: Song) -> State:
    """The state with its song changed in structure, each section, bar and slot with the id it had."""
    return _settled(state, numbered(song))


def in_key(state: State, key: Key) -> State:
    """The state in another key: keeps, held tops and what chords were move with the song."""
    song, by = song_in_key(state.song, key), shift_to(state.song.the_key, key)
    found = shifted(state.setup, state.keeps, state.was, by, (state.song, song))
    return msgspec.structs.replace(state, song=song, setup=found.setup, keeps=found.keeps, was=found.was)


def _settled(state: State, song: Song) -> State:
    """A state with its song exchanged: nothing the player kept or asked for is dropped. What the edit took away is
    remembered, so that it comes back when it is written again.
    """
    named = named_ids(state)
    song, gone = here_and_gone(state.song, song, named, state.gone)
    setup = held_through(state.setup, state.song, song)
    found = moved_with_keys(setup, state.keeps, state.song, song)
    was = told_again(state.was, state.song, song)
    fields = {"song": song, "setup": found.setup, "keeps": found.keeps, "was": was, "gone": gone}
    settled: State = msgspec.structs.replace(state, **fields)
    return settled


def named_ids(state: State) -> frozenset[int]:
    """Ids of everything that the player kept or asked something of, or that has a story."""
    setup, playing = state.setup, state.playing
    played = {wish.at for wish in playing.wishes} | {fill.slot for fill in playing.fills}
    found = (
        {keep.slot for keep in state.keeps}
        | {keep.only[0] for keep in state.keeps if keep.only}
        | {wish.at for wish in setup.wishes}
        | {was.slot for was in state.was}
        | {memo.slot for memo in state.memos}
        | played
    )
    return frozenset(found.union(*(held.slots for held in setup.held)))


def with_keep(state: State, keep: Keep) -> State:
    """The state with a chord, or a part of it, kept. What it takes the place of goes: a whole chord replaces every keep
    of its slot, a part the same part and a whole chord; keeps of another chord in its slot go on resting.
    """
    gone = PARTS if keep.part == "chord" else ("chord", keep.part)
    others = tuple(k for k in state.keeps if not (_same_place(k, keep) and k.part in gone))
    return msgspec.structs.replace(state, keeps=(*others, keep))


def _same_place(old: Keep, new: Keep) -> bool:
    """Whether a keep for a chord, in all passes or in one, takes the place of another one."""
    return old.slot == new.slot and old.symbol == new.symbol and new.only in (None, old.only)


def with_memo(state: State, slot: int, words: str) -> State:
    """The state with a note on a chord (the id of its slot), or on the song (0); "" takes it away."""
    others = tuple(memo for memo in state.memos if memo.slot != slot)
    words = plain(" ".join(words.split()), MOST_MEMO)
    return msgspec.structs.replace(state, memos=(*others, Memo(slot, words)) if words else others)


def without_keeps(state: State, these: tuple[Keep, ...]) -> State:
    """The state without some keeps."""
    return msgspec.structs.replace(state, keeps=tuple(keep for keep in state.keeps if keep not in these))


def without_resting(state: State, rests: tuple[Resting, ...]) -> State:
    """The state without what rests."""
    gone = [rest.what for rest in rests]
    wishes = tuple(wish for wish in state.setup.wishes if wish not in gone)
    held = tuple(top for top in state.setup.held if top not in gone)
    keeps = tuple(keep for keep in state.keeps if keep not in gone)
    playing = msgspec.structs.replace(
        state.playing,
        wishes=tuple(wish for wish in state.playing.wishes if wish not in gone),
        fills=tuple(fill for fill in state.playing.fills if fill not in gone),
    )
    setup = msgspec.structs.replace(state.setup, wishes=wishes, held=held)
    return msgspec.structs.replace(state, setup=setup, keeps=keeps, playing=playing)
