"""The state of one open song, and the pure edits that turn one state into the next."""

from __future__ import annotations

from typing import get_args

import msgspec

from yellow_hinge.app.kept import Resting, held_through, here_and_gone, moved_with_keys, shifted, told_again
from yellow_hinge.core.chart_text import ChartReading, read_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.following import Piece, followed, numbered, same_writing
from yellow_hinge.core.key import Key
from yellow_hinge.core.leading.setup import Keep, Part, Setup, as_asked
from yellow_hinge.core.song import Song, Was
from yellow_hinge.core.transpose import shift_to, song_in_key
from yellow_hinge.io.song_json import SongFile

CLEARED = "\n"  # the draft of a chart that was emptied
PARTS: tuple[Part, ...] = get_args(Part)


class State(msgspec.Struct, frozen=True):
    """Everything that undo brings back. `song` is the last chart that could be read whole; `text` is the chart as
    typed, which may be ahead of it. `was` tells what chords were before, `gone` where things stood that the player
    kept or asked something of and an edit took away.
    """

    song: Song = Song()
    text: str = ""
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()

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
    return State(file.song, text, file.setup, file.keeps, file.was, file.gone)


def file_of(state: State, reading: ChartReading | None = None) -> SongFile:
    """What is saved of a state: text that says more than the song (because it is at fault) is kept as a draft.
    `reading` is that of its text, where it is known.
    """
    reading = reading or read_chart(state.text)
    whole = not reading.faults and same_writing(reading.song, state.song)
    draft = CLEARED if state.emptied else "" if whole else state.text
    return SongFile(state.song, state.setup, state.keeps, draft, state.was, state.gone)


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
    return State(song, state.text, found.setup, found.keeps, was, gone)


def named_ids(state: State) -> frozenset[int]:
    """Ids of everything that the player kept or asked something of, or that has a story."""
    setup = state.setup
    found = {keep.slot for keep in state.keeps} | {wish.at for wish in setup.wishes} | {was.slot for was in state.was}
    return frozenset(found.union(*(held.slots for held in setup.held)))


def with_keep(state: State, keep: Keep) -> State:
    """The state with a chord, or a part of it, kept. What it takes the place of goes: a whole chord replaces every keep
    of its slot, a part the same part and a whole chord; keeps of another chord in its slot go on resting.
    """
    gone = PARTS if keep.part == "chord" else ("chord", keep.part)
    others = tuple(k for k in state.keeps if k.slot != keep.slot or k.part not in gone or k.symbol != keep.symbol)
    return msgspec.structs.replace(state, keeps=(*others, keep))


def without_keeps(state: State, these: tuple[Keep, ...]) -> State:
    """The state without some keeps."""
    return msgspec.structs.replace(state, keeps=tuple(keep for keep in state.keeps if keep not in these))


def without_resting(state: State, rests: tuple[Resting, ...]) -> State:
    """The state without what rests."""
    gone = [rest.what for rest in rests]
    wishes = tuple(wish for wish in state.setup.wishes if wish not in gone)
    held = tuple(top for top in state.setup.held if top not in gone)
    keeps = tuple(keep for keep in state.keeps if keep not in gone)
    setup = msgspec.structs.replace(state.setup, wishes=wishes, held=held)
    return msgspec.structs.replace(state, setup=setup, keeps=keeps)
