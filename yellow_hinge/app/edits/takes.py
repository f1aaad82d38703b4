"""Takes as pure edits of a state: one is shown, the others wait in their order."""

from __future__ import annotations

from typing import Any

import msgspec

from yellow_hinge.app.edits.state import CLEARED, State, changed_in
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Player, Wish
from yellow_hinge.core.pitch.key import Key, shift_to
from yellow_hinge.core.song.song import Section, Song
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.core.takes.content import Parts, put
from yellow_hinge.core.takes.form import Form, bars_of, chords_of, with_form
from yellow_hinge.core.takes.mixing import mixed
from yellow_hinge.core.takes.take import Choice, Take, take_song
from yellow_hinge.core.takes.thing_moves import Shift
from yellow_hinge.core.takes.things import AWAY, Things, joined, shifted
from yellow_hinge.core.takes.written_out import repeats_apart
from yellow_hinge.io.songs.song_json import MOST_TAKES

# What *Three takes for me* makes of the current one: name and what is asked.
THREE: tuple[tuple[str, dict[str, Any]], ...] = (
    ("Plain", {"colour": 0, "style": "Smoothest"}),
    ("Coloured", {"colour": 2}),
    ("High", {"colour": 1, "style": "Still top", "lift": 7}),
)


def take_named(state: State, name: str) -> Take | None:
    """The take of a name, in any case; None where there is none."""
    wanted = name.strip().casefold()
    return next((take for take in state.takes if take.name.casefold() == wanted), None)


def _showing(state: State, takes: tuple[Take, ...], own: int) -> State:
    """The state with these takes, one of them (its id) shown, its chart written out where its text is not known."""
    ids = {take.id for take in takes}
    mix = tuple(choice for choice in state.mix if choice.take in ids)
    if state.emptied and own == state.take:
        return State(state.form, takes, own, max(state.last_take, *ids), mix)
    if state.emptied:  # it is still so when it is shown again
        takes = tuple(msgspec.structs.replace(t, text=CLEARED) if t.id == state.take else t for t in takes)
    found = State(state.form, takes, own, max(state.last_take, *ids), mix)
    return found if found.text else changed_in(found, text=write_chart(found.song))


def switched(state: State, own: int) -> State:
    """The state with another take shown. Raises UserError where there is none of that id."""
    if not any(take.id == own for take in state.takes):
        raise UserError("there is no such take")
    return state if own == state.take else _showing(state, state.takes, own)


def _free_name(takes: tuple[Take, ...], wanted: str) -> str:
    names = {take.name.casefold() for take in takes}
    name, number = wanted[:40], 2
    while name.casefold() in names:
        name, number = f"{wanted[:36]} {number}", number + 1
    return name


def added(state: State, name: str) -> State:
    """The state with a copy of the take shown after it, shown. Raises UserError where there are too many."""
    if len(state.takes) >= MOST_TAKES:
        raise UserError(f"a song holds {MOST_TAKES} takes")
    own = max(state.last_take, *(take.id for take in state.takes)) + 1
    name = _free_name(state.takes, name.strip() or f"Take {len(state.takes) + 1}")
    text = CLEARED if state.emptied else state.shown.text
    copy = msgspec.structs.replace(state.shown, id=own, name=name, text=text)
    at = state.place + 1
    return _showing(state, (*state.takes[:at], copy, *state.takes[at:]), own)


def three(state: State) -> State:
    """The state with a plain, a coloured and a high take made from the one shown, which stays."""
    made = state
    for name, asks in THREE:
        fields = {key: value for key, value in asks.items() if key != "lift"}
        setup = msgspec.structs.replace(state.setup, **fields)
        if "lift" in asks:
            lifts = tuple(Wish(section.id, lift=asks["lift"]) for section in state.song.sections)
            setup = msgspec.structs.replace(setup, wishes=(*lifts, *setup.wishes))
        made = added(made, name)
        own = made.take
        at = made.place
        takes = (
            *made.takes[:at],
            *made.takes[at + 1 :],
            msgspec.structs.replace(made.shown, content=state.shown.content),
        )
        made = changed_in(_showing(made, takes, own), text=state.text, setup=setup)
    return switched(made, state.take)


def renamed(state: State, own: int, name: str) -> State:
    """The state with a take called otherwise."""
    others = tuple(take for take in state.takes if take.id != own)
    name = _free_name(others, name.strip() or "Take")
    takes = tuple(msgspec.structs.replace(take, name=name) if take.id == own else take for take in state.takes)
    return _showing(state, takes, state.take)


def deleted(state: State, own: int) -> State:
    """The state without a take; the last one stays, and so does the last one in the song's own form."""
    takes = state.takes
    if len(takes) < 2:
        raise UserError("this is the only take")
    place = next((index for index, take in enumerate(takes) if take.id == own), None)
    if place is None:
        raise UserError("there is no such take")
    rest = (*takes[:place], *takes[place + 1 :])
    if all(take.form is not None for take in rest):
        raise UserError("the other takes have another key or other bars; bring one together with this one first")
    shown = state.take if state.take != own else rest[min(place, len(rest) - 1)].id
    return _showing(state, rest, shown)


def moved(state: State, own: int, by: int) -> State:
    """The state with a take earlier or later in their order."""
    takes = list(state.takes)
    place = next(index for index, take in enumerate(takes) if take.id == own)
    goal = min(max(place + by, 0), len(takes) - 1)
    takes.insert(goal, takes.pop(place))
    return _showing(state, tuple(takes), state.take)


# --- takes whose key or bars differ ---
def moved_into(target: Key, song: Song, things: Things) -> tuple[Song, Things]:
    """A song and its things in another key."""
    if song.the_key == target:
        return song, things
    shift = Shift(shift_to(song.the_key, target), song.the_key, song_in_key(song, target).the_key)
    return song_in_key(song, target), shifted(things, shift)


def together(state: State, own: int) -> State:
    """The state with a take in the song's form: its chords move into the song's key, and stand in the bars that the
    song has; those of other bars rest.
    """
    take = next((take for take in state.takes if take.id == own and take.form is not None), None)
    if take is None or take.form is None:
        raise UserError("this take has the song's key and bars already")
    song, things = moved_into(Song(key=state.form.key).the_key, take_song(state, take), take.content.things)
    base = next(each for each in state.takes if each.form is None)
    chords = {bar.bar: bar for bar in base.content.chords}
    new = with_form(song, state.form, chords)
    here = {bar.id for _, bar in bars_of(new)}
    rest = tuple(bar for bar in chords_of(song) if bar.bar not in here)
    things = things.put(AWAY, (*things.of(AWAY), *rest))
    content = put(take.content, state.form, Parts(new, things=things))[0]
    takes = tuple(Take(own, take.name, "", content) if each is take else each for each in state.takes)
    return _showing(state, takes, state.take)


def song_of_its_own(state: State, own: int) -> State:
    """A take as a song by itself. Raises UserError where there is none of that id."""
    alone = switched(state, own)
    take = msgspec.structs.replace(alone.shown, id=1, form=None)
    title = f"{alone.own_form.title}, {take.name}"
    form = msgspec.structs.replace(alone.own_form, title=title, next_id=alone.song.next_id)
    return _showing(
        State(form, (msgspec.structs.replace(take, text=""),)), (msgspec.structs.replace(take, text=""),), 1
    )


# --- a section from another take ---
def copied(state: State, source: int, section: int) -> State:
    """The take shown with a section (its id) as another take has it: its chords, and what is kept and asked there.
    Raises UserError where one of them has no such section.
    """
    take = next((take for take in state.takes if take.id == source), state.shown)
    theirs, mine = _section(take_song(state, take), section), _section(state.song, section)
    if theirs is None or mine is None:
        raise UserError("both takes need to have that section")
    if [bar.id for bar in theirs.bars] != [bar.id for bar in mine.bars] or take.form != state.shown.form:
        raise UserError("the other take has other bars or another key; bring the takes together first")
    inside = _inside(mine)
    sections = tuple(theirs if own.id == section else own for own in state.song.sections)
    song = msgspec.structs.replace(state.song, sections=sections)
    things = joined(state.things, take.content.things, inside | {section}, _inside(theirs) | {section})
    return changed_in(state, text=write_chart(song), song=song, things=things)


def _section(song: Song, own: int) -> Section | None:
    return next((section for section in song.sections if section.id == own and section.bars), None)


def _inside(section: Section) -> frozenset[int]:
    """The ids of a section's bars and slots."""
    return frozenset({bar.id for bar in section.bars} | {slot.id for bar in section.bars for slot in bar.slots})


# --- the mix ---
def with_choice(state: State, section: int, turn: int, take: int) -> State:
    """The state with a take chosen for one pass of the mix."""
    others = tuple(choice for choice in state.mix if (choice.section, choice.turn) != (section, turn))
    found: State = msgspec.structs.replace(state, mix=(*others, Choice(section, turn, take)))
    return found


def with_repeats_apart(state: State) -> State:
    """The state with every pass of its song written out, so that each can become otherwise."""
    made = repeats_apart(state)
    found = State(made.form, made.takes, made.take, made.last_take, made.mix)
    return changed_in(found, text=write_chart(found.song))


def mix_state(state: State) -> State:
    """The mix as a state of its own, to be solved, played and exported."""
    made = mixed(state).whole
    return changed_in(State(made.form, made.takes), text=write_chart(made.song))


def with_players(state: State, player: Player) -> State:
    """The state with another player's hands and singer in every take; shapes of the song's own stay."""

    def played(form: Form) -> Form:
        own = msgspec.structs.replace(form.player, hands=player.hands, singer=player.singer)
        found: Form = msgspec.structs.replace(form, player=own)
        return found

    takes = tuple(msgspec.structs.replace(t, form=played(t.form)) if t.form else t for t in state.takes)
    found: State = msgspec.structs.replace(state, takes=takes, form=played(state.form))
    return found
