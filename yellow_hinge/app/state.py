"""The state of one open song, and the pure edits that turn one state into the next."""

from __future__ import annotations

from collections import Counter
from typing import get_args

import msgspec

from yellow_hinge.core.chart_text import ChartReading, read_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.leading.setup import HeldTop, Keep, Part, Setup, Wish
from yellow_hinge.core.song import Address, Song
from yellow_hinge.io.song_json import SongFile

PARTS: tuple[Part, ...] = get_args(Part)


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
    return msgspec.structs.replace(followed(state, reading.song), text=text)


def written_slots(song: Song) -> list[tuple[Address, str]]:
    """(address, symbol) of every slot as written."""
    return [
        ((s, b, i), slot.symbol)
        for s, section in enumerate(song.sections)
        for b, bar in enumerate(section.bars)
        for i, slot in enumerate(bar.slots)
    ]


def moved_slots(old: Song, new: Song) -> dict[Address, Address]:
    """Where every written slot of `old` that is still there stands in `new`."""
    before, after = written_slots(old), written_slots(new)
    import difflib  # slow to load, and only needed once something is kept

    matcher = difflib.SequenceMatcher(None, [s for _, s in before], [s for _, s in after], autojunk=False)
    return {
        before[block.a + k][0]: after[block.b + k][0]
        for block in matcher.get_matching_blocks()
        for k in range(block.size)
    }


def followed(state: State, song: Song) -> State:
    """The state with another song: keeps, wishes and held tops go where their chords stand now; those whose chords are
    gone are dropped, and in another key those that name notes.
    """
    setup, old = state.setup, state.song
    if not (state.keeps or setup.wishes or setup.held):
        return msgspec.structs.replace(state, song=song)
    moved = moved_slots(old, song)
    same_key = old.key == song.key
    keeps = tuple(msgspec.structs.replace(k, at=moved[k.at]) for k in state.keeps if k.at in moved and same_key)
    wishes = tuple(wish for wish in (_wish_moved(w, moved, old, song) for w in setup.wishes) if wish is not None)
    held = tuple(h for h in (_held_moved(h, moved) for h in setup.held) if h is not None and same_key)
    setup = msgspec.structs.replace(setup, wishes=wishes, held=held)
    return msgspec.structs.replace(state, song=song, keeps=keeps, setup=setup)


def _wish_moved(wish: Wish, moved: dict[Address, Address], old: Song, new: Song) -> Wish | None:
    if wish.bar is None:
        section = _section_moved(wish.section, moved, old, new)
        return None if section is None else msgspec.structs.replace(wish, section=section)
    at = [here for was, here in moved.items() if was[:2] == (wish.section, wish.bar) and wish.slot in (None, was[2])]
    if not at:
        return None
    slot = None if wish.slot is None else at[0][2]
    return msgspec.structs.replace(wish, section=at[0][0], bar=at[0][1], slot=slot)


def _section_moved(section: int, moved: dict[Address, Address], old: Song, new: Song) -> int | None:
    """Where most chords of a section went; a section without chords of its own is found by name."""
    went = Counter(here[0] for was, here in moved.items() if was[0] == section)
    if went:
        return went.most_common(1)[0][0]
    same = [i for i, other in enumerate(new.sections) if other.name == old.sections[section].name]
    if not same:
        return None
    return section if section in same else same[-1]


def _held_moved(held: HeldTop, moved: dict[Address, Address]) -> HeldTop | None:
    inside = sorted(here for was, here in moved.items() if held.first <= was <= held.last)
    return HeldTop(inside[0], inside[-1], held.top) if inside else None


def with_keep(state: State, keep: Keep) -> State:
    """The state with a chord, or a part of it, kept. What it takes the place of goes: a whole chord replaces every keep
    of its slot, a part the same part and a whole chord.
    """
    gone = PARTS if keep.part == "chord" else ("chord", keep.part)
    others = tuple(k for k in state.keeps if k.at != keep.at or k.part not in gone)
    return msgspec.structs.replace(state, keeps=(*others, keep))


def without_keep(state: State, at: Address | None, part: Part | None = None) -> State:
    """The state with a slot, or one part of it, free again; every slot where `at` is None."""
    keeps = tuple(k for k in state.keeps if at not in (None, k.at) or part not in (None, k.part))
    return msgspec.structs.replace(state, keeps=keeps)


def keeps_at(state: State, at: Address) -> dict[Part, Keep]:
    """The keeps of a slot by part."""
    return {keep.part: keep for keep in state.keeps if keep.at == at}
