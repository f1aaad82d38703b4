"""Takes as pure edits of a state: the current one lies on the desk, the others wait in their order."""

from __future__ import annotations

from typing import Any

import msgspec

from yellow_hinge.app.state import State
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.following import all_ids
from yellow_hinge.core.leading.setup import Player, Setup, Wish, with_player
from yellow_hinge.core.song import Section, Song
from yellow_hinge.core.take import Choice, Mixed, Take, mixed, passes_of
from yellow_hinge.io.song_json import MOST_TAKES

CONTENT = ("song", "text", "setup", "keeps", "was", "gone", "playing", "memos")
# What *Three takes for me* makes of the current one: name and what is asked.
THREE: tuple[tuple[str, dict[str, Any]], ...] = (
    ("Plain", {"colour": 0, "style": "Smoothest"}),
    ("Coloured", {"colour": 2}),
    ("High", {"colour": 1, "style": "Still top", "lift": 7}),
)


def current_take(state: State) -> Take:
    """The take that is on the desk."""
    return Take(state.take, state.name, **{name: getattr(state, name) for name in CONTENT})


def all_takes(state: State) -> tuple[Take, ...]:
    """Every take in its order."""
    return (*state.others[: state.place], current_take(state), *state.others[state.place :])


def take_named(state: State, name: str) -> Take | None:
    """The take of a name, in any case; None where there is none."""
    wanted = name.strip().casefold()
    return next((take for take in all_takes(state) if take.name.casefold() == wanted), None)


def _showing(state: State, takes: tuple[Take, ...], own: int) -> State:
    """The state with these takes, one of them (its id) on the desk. No take ever gives an id that another one gave."""
    place = next(index for index, take in enumerate(takes) if take.id == own)
    fields = {name: getattr(takes[place], name) for name in CONTENT}
    fields["text"] = fields["text"] or write_chart(takes[place].song)
    newest = max(take.song.next_id for take in takes)
    fields["song"] = msgspec.structs.replace(takes[place].song, next_id=newest)
    mix = tuple(choice for choice in state.mix if any(take.id == choice.take for take in takes))
    return State(
        **fields, take=own, name=takes[place].name, others=(*takes[:place], *takes[place + 1 :]), place=place,
        last_take=max(state.last_take, *(take.id for take in takes)), mix=mix,
    )  # fmt: skip


def switched(state: State, own: int) -> State:
    """The state with another take on the desk. Raises UserError where there is none of that id."""
    takes = all_takes(state)
    if not any(take.id == own for take in takes):
        raise UserError("there is no such take")
    return state if own == state.take else _showing(state, takes, own)


def _free_name(takes: tuple[Take, ...], wanted: str) -> str:
    names = {take.name.casefold() for take in takes}
    name, number = wanted[:40], 2
    while name.casefold() in names:
        name, number = f"{wanted[:36]} {number}", number + 1
    return name


def added(state: State, name: str) -> State:
    """The state with a copy of the current take after it, on the desk. Raises UserError where there are too many."""
    takes = all_takes(state)
    if len(takes) >= MOST_TAKES:
        raise UserError(f"a song holds {MOST_TAKES} takes")
    own = max(state.last_take, *(take.id for take in takes)) + 1
    name = _free_name(takes, name.strip() or f"Take {len(takes) + 1}")
    copy = msgspec.structs.replace(current_take(state), id=own, name=name)
    at = state.place + 1
    return _showing(state, (*takes[:at], copy, *takes[at:]), own)


def three(state: State) -> State:
    """The state with a plain, a coloured and a high take made from the current one, which stays."""
    made = state
    for name, asks in THREE:
        fields = {key: value for key, value in asks.items() if key != "lift"}
        setup = msgspec.structs.replace(state.setup, **fields)
        if "lift" in asks:
            setup = _lifted(setup, state.song, asks["lift"])
        last = all_takes(made)[-1].id
        made = added(_showing(made, all_takes(made), last), name)
        content = {part: getattr(state, part) for part in CONTENT if part != "setup"}
        made = msgspec.structs.replace(made, setup=setup, **content)
    return switched(made, state.take)


def _lifted(setup: Setup, song: Song, by: int) -> Setup:
    lifts = tuple(Wish(section.id, lift=by) for section in song.sections)
    higher: Setup = msgspec.structs.replace(setup, wishes=(*lifts, *setup.wishes))
    return higher


def renamed(state: State, own: int, name: str) -> State:
    """The state with a take called otherwise."""
    takes = all_takes(state)
    others = tuple(take for take in takes if take.id != own)
    name = _free_name(others, name.strip() or "Take")
    takes = tuple(msgspec.structs.replace(take, name=name) if take.id == own else take for take in takes)
    return _showing(state, takes, state.take)


def deleted(state: State, own: int) -> State:
    """The state without a take; the last one stays."""
    takes = all_takes(state)
    if len(takes) < 2:
        raise UserError("this is the only take")
    place = next((index for index, take in enumerate(takes) if take.id == own), None)
    if place is None:
        raise UserError("there is no such take")
    rest = (*takes[:place], *takes[place + 1 :])
    shown = state.take if state.take != own else rest[min(place, len(rest) - 1)].id
    return _showing(state, rest, shown)


def moved(state: State, own: int, by: int) -> State:
    """The state with a take earlier or later in their order."""
    takes = list(all_takes(state))
    place = next(index for index, take in enumerate(takes) if take.id == own)
    goal = min(max(place + by, 0), len(takes) - 1)
    takes.insert(goal, takes.pop(place))
    return _showing(state, tuple(takes), state.take)


# --- a section from another take ---
def copied(state: State, source: int, section: int) -> State:
    """The current take with a section (its id) as another take has it: bars, and what is kept and asked there. Raises
    UserError where one of them has no such section.
    """
    take = next((take for take in all_takes(state) if take.id == source), None)
    theirs = _section(take.song, section) if take is not None else None
    mine = _section(state.song, section)
    if take is None or theirs is None or mine is None:
        raise UserError("both takes need to have that section")
    gone, new = _inside(mine), _inside(theirs)
    sections = tuple(theirs if own.id == section else own for own in state.song.sections)
    song = msgspec.structs.replace(state.song, sections=sections)
    ids = list(all_ids(song))
    if len(set(ids)) != len(ids):
        raise UserError("the other take moved bars of this section elsewhere; it cannot be copied")
    setup = msgspec.structs.replace(
        state.setup,
        wishes=_joined(state.setup.wishes, take.setup.wishes, gone | {section}, new | {section}, lambda w: w.at),
        held=tuple(
            [top for top in state.setup.held if not gone & set(top.slots)]
            + [top for top in take.setup.held if new & set(top.slots)]
        ),
    )
    playing = msgspec.structs.replace(
        state.playing,
        wishes=_joined(state.playing.wishes, take.playing.wishes, gone | {section}, new | {section}, lambda w: w.at),
        fills=_joined(state.playing.fills, take.playing.fills, gone, new, lambda fill: fill.slot),
        patterns=tuple({p.id: p for p in (*take.playing.patterns, *state.playing.patterns)}.values()),
    )
    keeps = _joined(state.keeps, take.keeps, gone, new, lambda keep: keep.slot)
    was = _joined(state.was, take.was, gone, new, lambda story: story.slot)
    memos = _joined(state.memos, take.memos, gone, new, lambda memo: memo.slot)
    found: State = msgspec.structs.replace(
        state, song=song, text=write_chart(song), setup=setup, playing=playing, keeps=keeps, was=was, memos=memos
    )
    return found


def _section(song: Song, own: int) -> Section | None:
    return next((section for section in song.sections if section.id == own and section.bars), None)


def _inside(section: Section) -> set[int]:
    """The ids of a section's bars and slots."""
    return {bar.id for bar in section.bars} | {slot.id for bar in section.bars for slot in bar.slots}


def _joined(mine: Any, theirs: Any, gone: set[int], new: set[int], at: Any) -> Any:
    return (*(one for one in mine if at(one) not in gone), *(one for one in theirs if at(one) in new))


# --- the mix ---
def with_choice(state: State, section: int, turn: int, take: int) -> State:
    """The state with a take chosen for one pass of the mix."""
    others = tuple(choice for choice in state.mix if (choice.section, choice.turn) != (section, turn))
    found: State = msgspec.structs.replace(state, mix=(*others, Choice(section, turn, take)))
    return found


def choices(state: State) -> list[Choice]:
    """What every pass of the current take's song plays in the mix, in the order they are played."""
    chosen = {(choice.section, choice.turn): choice.take for choice in state.mix}
    known = {take.id for take in all_takes(state)}
    found = []
    for section, turn in passes_of(state.song):
        take = chosen.get((section, turn), state.take)
        found.append(Choice(section, turn, take if take in known else state.take))
    return found


def mix_of(state: State) -> Mixed:
    """The mix as a song."""
    return mixed(all_takes(state), current_take(state), state.mix)


def with_repeats_apart(state: State) -> State:
    """The state with every pass of its song written out, so that each can become otherwise."""
    own = current_take(state)
    made = mixed((own,), own, ())
    found: State = msgspec.structs.replace(
        state, song=made.song, text=write_chart(made.song), setup=made.setup, keeps=made.keeps, playing=made.playing,
        memos=made.memos,
    )  # fmt: skip
    return found


def mix_state(state: State) -> State:
    """The mix as a state of its own, to be solved, played and exported."""
    made = mix_of(state)
    return State(made.song, write_chart(made.song), made.setup, made.keeps, playing=made.playing, memos=made.memos)


def with_players(state: State, player: Player) -> State:
    """The state with another player in every take: hands are the player's and not the take's."""
    others = tuple(msgspec.structs.replace(take, setup=_played(take.setup, player)) for take in state.others)
    found: State = msgspec.structs.replace(state, setup=_played(state.setup, player), others=others)
    return found


def _played(setup: Setup, player: Player) -> Setup:
    return with_player(setup, hands=player.hands, singer=player.singer)
