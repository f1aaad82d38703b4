"""The state of one open song, and the pure edits that turn one state into the next."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.app.edits.resting import held_through, here_and_gone, moved_with_keys, told_again
from yellow_hinge.core.chart.text import ChartReading, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.following import followed, numbered, same_writing
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.takes.content import Parts, put, whole_of
from yellow_hinge.core.takes.form import BarChords, Form, chords_of, like, song_of, with_form
from yellow_hinge.core.takes.known import KnownHands, as_known
from yellow_hinge.core.takes.take import Content, Take, Whole
from yellow_hinge.core.takes.things import AWAY, KNOWN, WAS
from yellow_hinge.io.songs.migrations import SongFile, file_with

CLEARED = "\n"  # the draft of a chart that was emptied


class State(Whole, frozen=True, dict=True):
    """Everything that undo brings back: the song whole. The song of the take shown is the last chart that could be read
    whole; its text is the chart as typed, which may be ahead of it.
    """

    @property
    def emptied(self) -> bool:
        """Whether the chart was cleared: the song stays to be aligned with, and is neither shown nor played."""
        return not self.text.strip()


def state_with(song: Song, text: str | None = None, **parts: Any) -> State:
    """The state of a song of one take; `parts` as for `changed_in`. Its text is written out where none is given."""
    whole = whole_of(song, **parts)
    take = msgspec.structs.replace(whole.takes[0], text=write_chart(song) if text is None else text)
    return State(whole.form, (take,))


def state_of(file: SongFile, text: str = "") -> State:
    """The state that a saved song opens in. `text` is the chart as it was written, where that is known."""
    text = file.text or text or write_chart(file.song)
    text = "" if file.text == CLEARED else text
    state = State(file.form, with_known(file.takes, file.hands), file.take, file.last_take, file.mix)
    return changed_in(state, text=text)


def with_known(takes: tuple[Take, ...], hands: tuple[KnownHands, ...]) -> tuple[Take, ...]:
    """Takes with the hands that other prices made standing in them; what today's prices made comes by itself."""
    olds = {found.take: as_known(found) for found in hands if not found.current}

    def known(take: Take) -> Take:
        things = take.content.things
        if take.id not in olds or things.of(KNOWN):
            return take
        content = msgspec.structs.replace(take.content, things=things.put(KNOWN, olds[take.id]))
        found: Take = msgspec.structs.replace(take, content=content)
        return found

    return tuple(known(take) for take in takes)


def alone(state: State) -> State:
    """The take shown as a song of one take."""
    if len(state.takes) == 1 and state.shown.form is None:
        return state
    take = msgspec.structs.replace(state.shown, form=None)
    form = msgspec.structs.replace(state.own_form, next_id=state.song.next_id)
    return State(form, (take,), take.id, take.id)


def file_of(state: State, reading: ChartReading | None = None) -> SongFile:
    """What is saved of a state: text that says more than the song (because it is at fault) is kept as a draft.
    `reading` is that of its text, where it is known.
    """
    reading = reading or read_chart(state.text)
    whole = not reading.faults and same_writing(reading.song, state.song)
    draft = CLEARED if state.emptied else "" if whole else state.text
    return file_with(changed_in(state, text=draft))


# --- changing a part of the take shown ---


def changed_in(state: State, text: str | None = None, **parts: Any) -> State:
    """The state with some parts (see Parts) of the take shown changed, and its text where one is given. What belongs to
    the song changes in every take that shares it.
    """
    shown = state.shown
    content, form = put(shown.content, state.own_form, Parts(**parts)) if parts else (shown.content, state.own_form)
    own = form if shown.form is not None else None
    take = Take(shown.id, shown.name, shown.text if text is None else text, content, own)
    takes = tuple(take if each is shown else each for each in state.takes)
    shared = state.form if own is not None else form
    if own is None and "song" in parts and _bones(form) != _bones(state.form):
        takes = _following(state, takes, shared, content)
    found = State(shared, takes, state.take, state.last_take, state.mix)
    _share_song(found, state, anew="song" in parts)
    return found


def _share_song(new: State, old: State, anew: bool) -> None:
    """The song of a new state has what is the same in the old one's, so that undo holds that once."""
    one, other = new.shown.content, old.shown.content
    if new.own_form is old.own_form and one.chords is other.chords and one.asks == other.asks:
        new.__dict__["song"] = old.song
    elif anew:
        new.__dict__["song"] = like(new.song, old.song)


def _bones(form: Form) -> Form:
    """What of a form a take's song depends on."""
    found: Form = msgspec.structs.replace(form, next_id=0, memo="", sounds="", patterns=())
    return found


def _following(state: State, takes: tuple[Take, ...], form: Form, shown: Content) -> tuple[Take, ...]:
    """The takes that are not shown after the song's form became another one: each keeps its own chords where it has
    some, and has those of the take shown where it has none.
    """
    before = {bar.bar: bar for bar in state.shown.content.chords}
    chords = {bar.bar: bar for bar in shown.chords}
    found = []
    for take in takes:
        if take.id == state.take or take.form is not None:
            found.append(take)
            continue
        old = song_of(state.form, take.content.chords, take.content.asks)
        new = with_form(old, form, chords, take.content.things.of(AWAY))
        content = _away(_settled(take.content, old, new), old, new, before)
        found.append(refitted(take, put(content, form, Parts(new))[0]))
    return tuple(found)


def refitted(take: Take, content: Content) -> Take:
    """A take with other content; a chart with mistakes stays as it was typed."""
    text = take.text if take.text and read_chart(take.text).faults else ""
    return Take(take.id, take.name, text, content, take.form)


def _away(content: Content, old: Song, new: Song, shown: dict[int, BarChords]) -> Content:
    """A take's content with the chords of bars that are gone, where they were not those of the take shown."""
    here = {bar.id for section in new.sections for bar in section.bars}
    gone = [bar for bar in chords_of(old) if bar.bar not in here and not _alike(bar, shown.get(bar.bar))]
    rest = [bar for bar in content.things.of(AWAY) if bar.bar not in here and bar not in gone]
    things = content.things.put(AWAY, (*rest, *gone))
    changed: Content = msgspec.structs.replace(content, things=things)
    return changed


def _alike(one: BarChords, other: BarChords | None) -> bool:
    return other is not None and _written(one) == _written(other)


def _written(bar: BarChords) -> list[tuple[str, Fraction]]:
    return [(slot.symbol, slot.beats) for slot in bar.slots]


# --- the song changed ---


def with_text(state: State, base: State, text: str, reading: ChartReading) -> State:
    """The state after typing, which began at `base`. Faulty text leaves the song as it was."""
    if reading.faults:
        return changed_in(state, text=text)
    return changed_in(retyped(base, reading.song), text=text)


def retyped(state: State, song: Song) -> State:
    """The state with a song that was written anew; what is still the same section, bar or chord is found again."""
    return _with_song(state, followed(state.song, song))


def changed(state: State, song: Song) -> State:
    """The state with its song changed in structure, each section, bar and slot with the id it had."""
    return _with_song(state, numbered(song))


def _with_song(state: State, song: Song) -> State:
    """A state with its song exchanged: nothing the player kept or asked for is dropped. What the edit took away is
    remembered, so that it comes back when it is written again.
    """
    named = named_ids(state)
    song, gone = here_and_gone(state.song, song, named, state.gone)
    content = _settled(state.shown.content, state.song, song)
    if state.song.asks != song.asks:  # the header asks for something else
        content = msgspec.structs.replace(content, things=content.things.put(KNOWN, ()))
    return changed_in(state, song=song, things=content.things, gone=gone)


def _settled(content: Content, old: Song, new: Song) -> Content:
    """A take's content after its song became another one."""
    things = moved_with_keys(held_through(content.things, old, new), old, new)
    things = things.put(WAS, told_again(things.of(WAS), old, new))
    found: Content = msgspec.structs.replace(content, things=things)
    return found


def named_ids(state: State) -> frozenset[int]:
    """Ids of everything that the player kept or asked something of, or that has a story, in any take, and of bars that
    another take plays otherwise: written again, they are the same.
    """
    shown = {bar.bar: bar for bar in state.shown.content.chords}
    found: set[int] = set()
    for take in state.takes:
        if (take.form is None) == (state.shown.form is None) or take is state.shown:
            found |= take.content.things.ids
        if take is not state.shown and take.form is None:
            found |= {bar.bar for bar in take.content.chords if not _alike(bar, shown.get(bar.bar))}
    return frozenset(found) - {WHOLE_SONG}


# --- what is kept and said ---
