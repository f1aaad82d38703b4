"""The state of one open song, and the pure edits that turn one state into the next."""

from __future__ import annotations

import difflib

import msgspec

from yellow_hinge.core.chart_text import ChartReading, read_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.leading.setup import Keep, Setup
from yellow_hinge.core.song import Song
from yellow_hinge.io.song_json import SongFile

Address = tuple[int, int, int]


class State(msgspec.Struct, frozen=True):
    """Everything that undo brings back. `song` is the last chart that could be read whole; `text` is the chart as
    typed, which may be ahead of it.
    """

    song: Song = Song()
    text: str = ""
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()


def state_of(file: SongFile, text: str = "") -> State:
    """The state that a saved song opens in. `text` is the chart as it was written, where that is known."""
    return State(file.song, file.draft or text or write_chart(file.song), file.setup, file.keeps)


def file_of(state: State) -> SongFile:
    """What is saved of a state: text that says more than the song (because it is at fault) is kept as a draft."""
    reading = read_chart(state.text)
    draft = "" if not reading.faults and reading.song == state.song else state.text
    return SongFile(state.song, state.setup, state.keeps, draft)


def with_text(state: State, text: str, reading: ChartReading) -> State:
    """The state after typing. Faulty text leaves the song as it was; keeps follow their chords."""
    if reading.faults:
        return msgspec.structs.replace(state, text=text)
    keeps = carried(state.keeps, state.song, reading.song)
    return msgspec.structs.replace(state, text=text, song=reading.song, keeps=keeps)


def written_slots(song: Song) -> list[tuple[Address, str]]:
    """(address, symbol) of every slot as written."""
    return [
        ((s, b, i), slot.symbol)
        for s, section in enumerate(song.sections)
        for b, bar in enumerate(section.bars)
        for i, slot in enumerate(bar.slots)
    ]


def carried(keeps: tuple[Keep, ...], old: Song, new: Song) -> tuple[Keep, ...]:
    """Keeps moved to where their chords stand after an edit; those whose chord is gone are dropped."""
    if not keeps:
        return ()
    if old.key != new.key:
        return ()
    before, after = written_slots(old), written_slots(new)
    matcher = difflib.SequenceMatcher(None, [s for _, s in before], [s for _, s in after], autojunk=False)
    moved = {
        before[block.a + k][0]: after[block.b + k][0]
        for block in matcher.get_matching_blocks()
        for k in range(block.size)
    }
    return tuple(msgspec.structs.replace(keep, at=moved[keep.at]) for keep in keeps if keep.at in moved)


def with_keep(state: State, keep: Keep) -> State:
    """The state with a chord kept; an older keep of the same slot goes."""
    others = tuple(k for k in state.keeps if k.at != keep.at)
    return msgspec.structs.replace(state, keeps=(*others, keep))


def without_keep(state: State, at: Address) -> State:
    """The state with a slot free again."""
    return msgspec.structs.replace(state, keeps=tuple(k for k in state.keeps if k.at != at))


def kept_at(state: State, at: Address) -> Keep | None:
    """The keep of a slot, or None."""
    return next((keep for keep in state.keeps if keep.at == at), None)
