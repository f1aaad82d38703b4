"""The song of a command line as it is asked for, and its solution."""

from __future__ import annotations

import argparse
import time
from typing import TYPE_CHECKING, NamedTuple

import msgspec

from yellow_hinge.app.edits.asking import in_key, with_new_hands, with_setup, with_swing
from yellow_hinge.app.edits.state import State, alone, changed, changed_in, file_of, state_of
from yellow_hinge.app.edits.takes import mix_state, switched, take_named
from yellow_hinge.cli.wishes import keeps_from, playing_from, protected_from, setup_from
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.setup import as_asked
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.swing import read_swing
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.known import hands_of
from yellow_hinge.core.takes.mixing import mixed
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.migrations import SongFile, file_with

if TYPE_CHECKING:
    from yellow_hinge.core.reharm.whole import Bolder

MIX = "mix"


class Solved(NamedTuple):
    """A song solved as asked, as a file of its own; `bolder` where it was reharmonised first; the take of every
    section, or one for all of them.
    """

    file: SongFile
    solution: Solution
    seconds: float
    bolder: Bolder | None
    takes: tuple[str, ...]
    known: bool


def asked_for(args: argparse.Namespace, instead: SongFile | None = None) -> tuple[SongFile, State, tuple[str, ...]]:
    """The song's file, or one `instead` of it, the state that the words ask for, and what takes its sections play."""
    file, takes = taken(instead or read_song(args.song), args.take)
    setup = setup_from(args, file.setup, file.song)
    playing = playing_from(args, file.playing, file.song, as_asked(setup, file.song).manner)
    if getattr(args, "sounds_in", None):
        playing = msgspec.structs.replace(playing, sounds=str(parse_key(args.sounds_in).tonic))
    keeps = keeps_from(args, file.keeps, file.song)
    state = changed_in(with_setup(state_of(file), setup), playing=playing)
    if args.swing is not None:
        song = with_swing(state.song, read_swing(args.swing))
        state = changed_in(changed(state, song), text=write_chart(song))
    if keeps != file.keeps:
        state = changed_in(with_new_hands(state), keeps=keeps)
    key = getattr(args, "in_key", None) or args.key
    return file, in_key(state, parse_key(key)) if key else state, takes


def solved(args: argparse.Namespace) -> Solved:
    file, state, takes = asked_for(args)
    remembered = any(hands.take == file.take for hands in file.hands)
    known = remembered and args.boldness is None and state.question == state_of(file).question
    started, builder, found = time.perf_counter(), Builder(), None
    if args.boldness is not None:
        from yellow_hinge.core.reharm.whole import bolder  # most songs are not reharmonised first

        found = bolder(builder, state.song, state.asked, state.standing, args.boldness, protected_from(args))
        state = changed(state, found.with_changes())
        state = changed_in(state, text=write_chart(state.song))
    solution = solve_song(builder, timeline(state.song), state.asked, state.standing)
    made = file_with(file_of(state), file.document, (hands_of(state.take, solution),))
    return Solved(made, solution, time.perf_counter() - started, found, takes, known)


def taken(file: SongFile, name: str | None) -> tuple[SongFile, tuple[str, ...]]:
    """A song's take of a name, or its mix, as a song by itself, with the names of what its sections play: one for all
    of them, or one each. Raises UserError.
    """
    if name is None:
        return file, (file.name,)
    state = state_of(file)
    if name.strip().casefold() == MIX:
        names = {take.id: take.name for take in state.takes}
        return file_of(mix_state(state)), tuple(names[choice.take] for choice in mixed(state).passes)
    take = take_named(state, name)
    if take is None:
        known = ", ".join(take.name for take in state.takes)
        raise UserError(f"{name[:30]!r} is not a take of this song; there are {known}, and {MIX}")
    hands = tuple(found for found in file.hands if found.take == take.id)
    return file_with(file_of(alone(switched(state, take.id))), hands=hands), (take.name,)
