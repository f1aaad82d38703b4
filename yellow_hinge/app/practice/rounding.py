"""Rounds: marked bars again and again, each pass another way of the player's choosing."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.state import State, alone, changed_in
from yellow_hinge.app.edits.takes import added, switched, with_choice
from yellow_hinge.app.solving.twelve import in_twelve, stretch
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Option, Solution, options
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.price import faults
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import Performance, performed
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, with_fill, with_pattern
from yellow_hinge.core.rhythm.fills.offered import offers
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import timeline

MOST_TURNS = 8
HIGHER = 7  # semitones that the top goes up by from turn to turn, at most


class Turn(NamedTuple):
    """One way of playing the stretch: in words, and the song cut down to it with its hands."""

    words: str
    state: State
    solution: Solution

    def sounding(self) -> Performance:
        """How it sounds: the stretch goes on after its last chord."""
        setup = msgspec.structs.replace(self.solution.setup, loop=True)
        return performed(self.solution._replace(setup=setup), self.state.song, self.state.playing)


def turns(builder: Builder, state: State, first: Address, last: Address, kind: str) -> list[Turn]:
    """The ways of a kind (out of WAYS) in their order, that which is there first. Raises UserError where the stretch
    cannot be played, or there is no other way.
    """
    found = WAYS[kind][1](builder, state, first, last)[:MOST_TURNS]
    if len(found) < 2:
        raise UserError(f"there is no other way here: {WAYS[kind][0].lower()}")
    return found


def _cut(builder: Builder, state: State, first: Address, last: Address, words: str) -> Turn:
    cut = changed_in(alone(state), song=stretch(state.song, first, last), text="")
    return Turn(words, cut, _solved(builder, cut))


def _solved(builder: Builder, state: State) -> Solution:
    return solve_song(builder, timeline(state.song), state.asked, state.standing, inside=True)


def _top(option: Option | None, solution: Solution) -> int:
    both = option.both if option is not None else solution.voicings[0].both
    return max((*both.left, *both.right), default=0)


def _higher(builder: Builder, state: State, first: Address, last: Address) -> list[Turn]:
    """The first chord with a higher and higher top, the rest led from there."""
    found = [_cut(builder, state, first, last, "as it is")]
    while len(found) < MOST_TURNS:
        now = found[-1]
        top = _top(None, now.solution)
        higher = (o for o in options(now.solution, 0) if 0 < _top(o, now.solution) - top <= HIGHER)
        above = [option for option in higher if not faults(option.both, now.solution, 0)]
        if not above:
            break
        chosen = min(above, key=lambda option: (_top(option, now.solution), option.extra))
        here = now.solution.voicings[0].here
        keep = Keep(here.slot_id, here.symbol, chosen.both.left, chosen.both.right)
        keeps = (*(k for k in now.state.keeps if k.slot != here.slot_id), keep)
        kept = changed_in(now.state, keeps=keeps)
        name = str(now.solution.voicings[0].chord.note_of(_top(chosen, now.solution) % 12))
        found.append(Turn(f"{pretty_signs(name)} on top", kept, _solved(builder, kept)))
    return found


def _takes(builder: Builder, state: State, first: Address, last: Address) -> list[Turn]:
    """The takes that share the song's form, from the one shown on."""
    at = state.place
    order = [take for take in (*state.takes[at:], *state.takes[:at]) if take.form is None]
    return [_cut(builder, switched(state, take.id), first, last, take.name) for take in order]


def _patterns(builder: Builder, state: State, first: Address, last: Address) -> list[Turn]:
    """What the stretch can be played in, as it is first."""
    here = _cut(builder, state, first, last, "as it is")
    meter, found = str(here.solution.voicings[0].here.meter), [here]
    for pattern in patterns().values():
        low, high = pattern.usual
        if pattern.meter == meter and low <= state.song.tempo <= high:
            playing = with_pattern(Playing(patterns=state.playing.patterns), WHOLE_SONG, "both", pattern.id)
            found.append(Turn(pattern.name, changed_in(here.state, playing=playing), here.solution))
    return found


def _keys(builder: Builder, state: State, first: Address, last: Address) -> list[Turn]:
    """The keys by fourths."""
    every = in_twelve(builder, state, first, last)
    return [Turn(f"in {pretty_signs(str(one.key.tonic))}", one.state, one.solution) for one in every]


def _lead_ins(builder: Builder, state: State, first: Address, last: Address) -> list[Turn]:
    """One lead-in or fill more from chord to chord."""
    found = [_cut(builder, state, first, last, "as it is")]
    solution, song = found[0].solution, found[0].state.song
    for place in range(1, len(solution.voicings)):
        playing = found[-1].state.playing
        free = [o for o in offers(performed(solution, song, playing).row, place, playing) if not o.taken]
        if free:
            kind = free[place % len(free)].kind
            more = with_fill(playing, Fill(solution.voicings[place].here.slot_id, kind.id), True)
            words = f"{kind.name} into {pretty_signs(solution.voicings[place].here.symbol)}"
            found.append(Turn(words, changed_in(found[-1].state, playing=more), solution))
    return found


# What each pass may do otherwise: its name, and the ways.
WAYS: dict[str, tuple[str, Callable[[Builder, State, Address, Address], list[Turn]]]] = {
    "higher": ("Next inversion up", _higher),
    "take": ("Next take", _takes),
    "pattern": ("Next pattern", _patterns),
    "key": ("Next key", _keys),
    "lead": ("A lead-in more", _lead_ins),
}


def passes_of(solution: Solution, origin: int) -> list[tuple[int, int]]:
    """The passes (see Moment.pass_id) of a section as written, in their order."""
    return list(dict.fromkeys(v.here.pass_id for v in solution.voicings if v.here.origin == origin))


def kept_as_mix(state: State, found: list[Turn], kind: str, passes: list[tuple[int, int]]) -> State:
    """The state with the turns as takes, and a mix in which these passes play them one after the other. Raises
    UserError for keys, which takes share, and where there are too many takes.
    """
    if kind == "key":
        raise UserError("takes share the song's key; keep a key as a song of its own")
    own, made = state.take, state
    for number, turn in enumerate(found):
        take = own
        if kind == "take":
            take = next(each.id for each in state.takes if each.name == turn.words)
        elif number:
            made = _with_take(switched(made, own), turn, f"{WAYS[kind][0]} {number}", kind)
            take = made.take
        if number < len(passes):
            made = with_choice(made, *passes[number], take)
    return switched(made, own)


def _with_take(state: State, turn: Turn, name: str, kind: str) -> State:
    """The state with a turn as a take of its own, shown."""
    made = added(state, name)
    if kind != "higher":
        return changed_in(made, playing=turn.state.playing)
    new = tuple(Keep(v.here.slot_id, v.here.symbol, *v.both) for v in turn.solution.voicings)
    slots = {keep.slot for keep in new}
    return changed_in(made, keeps=(*(keep for keep in made.keeps if keep.slot not in slots), *new))
