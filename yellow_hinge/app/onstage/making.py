"""What is shown on stage, made beside the window before it is wanted: songs as they are played tonight, in lines."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import State, alone, file_of
from yellow_hinge.app.edits.takes import switched
from yellow_hinge.app.solving.book.sets import SetSong, Tonight, tonight
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.onstage.lines import ShownSong, shown_song
from yellow_hinge.core.performing import Performance, performed
from yellow_hinge.core.pitch.key import key_on
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.song.timeline import timeline


class Entry(NamedTuple):
    """A song of tonight: as a set asks for it, and, where they are known, its state in that key and take, and how that
    is played. `whole` has all its takes.
    """

    song: SetSong
    title: str
    state: State | None = None
    solution: Solution | None = None
    whole: State | None = None


class Ready(NamedTuple):
    """A song of question `number` that can be shown: which of tonight's it is, with all that is known of it, or why it
    cannot be played.
    """

    number: int
    at: int
    entry: Entry
    shown: ShownSong | None = None
    performance: Performance | None = None
    problem: str = ""


def entry_of(own: Tonight) -> Entry:
    """A song of a set that was looked at already."""
    return Entry(own.song, own.title, own.state, own.solution, own.whole)


class StageMaker(Newest[Ready]):
    """Makes what is shown; `bars` of a line, `simple` names of notes."""

    def ask(self, at: int, entry: Entry, folder: Path, bars: int, simple: bool) -> int:
        """Have a song made ready; returns the question's number."""
        return self._put(at, bars, simple, lambda builder: _played(entry, folder, builder))

    def ask_tone(self, at: int, entry: Entry, by: int, bars: int, simple: bool) -> int:
        """Have a song made ready some semitones higher; its entry has a state."""

        def moved(builder: Builder) -> Entry:
            assert entry.state is not None
            old = entry.state.song.the_key
            key = key_on(old.tonic.pc + by, old.mode)
            state = in_key(alone(entry.state), key)
            return _solved(entry._replace(song=msgspec.structs.replace(entry.song, key=str(key)), state=state), builder)

        return self._put(at, bars, simple, moved)

    def ask_take(self, at: int, entry: Entry, bars: int, simple: bool) -> int:
        """Have the next take of a song made ready, in the same key."""

        def other(builder: Builder) -> Entry:
            assert entry.state is not None
            whole = entry.whole or entry.state
            names = [take.name for take in whole.takes]
            now = names.index(entry.state.name) if entry.state.name in names else -1
            take = whole.takes[(now + 1) % len(names)]
            state = alone(switched(whole, take.id))
            if entry.song.key:
                state = in_key(state, entry.state.song.the_key)
            return _solved(
                Entry(msgspec.structs.replace(entry.song, take=take.name), entry.title, state, None, whole), builder
            )

        return self._put(at, bars, simple, other)

    def _put(self, at: int, bars: int, simple: bool, make: Callable[[Builder], Entry]) -> int:
        def work(builder: Builder, number: int) -> Ready:
            try:
                entry = make(builder)
            except UserError as error:
                return Ready(number, at, Entry(SetSong(), ""), problem=str(error))
            return _ready(number, at, entry, bars, simple)

        return self.put(work)


def _played(entry: Entry, folder: Path, builder: Builder) -> Entry:
    """An entry with its state and solution. Raises UserError where it cannot be played."""
    if entry.state is not None:
        return entry if entry.solution is not None else _solved(entry, builder)
    own = tonight(entry.song, folder, builder)
    if own.problem is not None:
        raise UserError(f"{own.title} {own.problem}")
    return Entry(entry.song, own.title, own.state, own.solution, own.whole)


def _solved(entry: Entry, builder: Builder) -> Entry:
    state = entry.state
    assert state is not None
    return entry._replace(solution=solve_song(builder, timeline(state.song), state.asked, state.standing))


def _ready(number: int, at: int, entry: Entry, bars: int, simple: bool) -> Ready:
    assert entry.state is not None
    assert entry.solution is not None
    file = file_of(entry.state)
    shown = shown_song(Writer(file.song, entry.solution, file.memos, simple), bars)
    if not shown.lines:
        return Ready(number, at, entry, problem=f"{entry.title} has no chords yet")
    return Ready(number, at, entry, shown, performed(entry.solution, file.song, file.playing))
