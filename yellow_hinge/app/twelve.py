"""A chord, a change or a stretch of the song in all twelve keys, in one form wherever that can be played."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.app.state import State, alone, changed_in, in_key, state_with
from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.key import Key, shift_to
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.one_form import OfKey, forms
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.practice.rounds import Round, round_keys
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.sheet.keys import keys_pages
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song import Address, Song
from yellow_hinge.core.timeline import timeline


class InKey(NamedTuple):
    """The stretch in one key; `own` where it has other hands than the first one, which do not serve it."""

    key: Key
    state: State
    solution: Solution
    own: bool = False


def stretch(song: Song, first: Address, last: Address) -> Song:
    """The part of a song between two written chords, as it is written, without its repeats. Everything keeps its id."""
    first, last = min(first, last), max(first, last)
    sections = []
    for number, section in enumerate(song.sections):
        if not (first[0] <= number <= last[0] and section.bars):
            continue
        bars = []
        for index, bar in enumerate(section.bars):
            inside = [(place, slot) for place, slot in enumerate(bar.slots) if first <= (number, index, place) <= last]
            if inside:
                slots = tuple(slot for _, slot in inside)
                tune = bar.tune if len(slots) == len(bar.slots) else ()
                plain = {"opens": False, "repeats": 0, "ending": 0, "same": False}
                bars.append(msgspec.structs.replace(bar, slots=slots, tune=tune, **plain))
        sections.append(msgspec.structs.replace(section, bars=tuple(bars)))
    cut: Song = msgspec.structs.replace(song, sections=tuple(sections), pickup=type(song.pickup)(0))
    return cut


def in_twelve(
    builder: Builder, state: State, first: Address, last: Address, way: Round = "fourths", down: bool = False
) -> list[InKey]:
    """A stretch of a state's song in all twelve keys, with the same hands in as many of them as can be. Raises
    UserError where it has no chord that can be played.
    """
    cut = changed_in(alone(state), song=stretch(state.song, first, last), text="")
    keys = round_keys(cut.song.the_key, way, down)
    states = [in_key(cut, key) for key in keys]
    asked = [(timeline(there.song), there.asked, there.standing) for there in states]
    alike, own = [], []
    for there, each in zip(states, asked, strict=True):
        own.append(solve_song(builder, *each, inside=True))
        shift = shift_to(cut.song.the_key, there.song.the_key)
        alike.append(OfKey(builder.lattice(*each, inside=True), shift, own[-1].totals.cost))
    found = []
    for place, form in enumerate(forms(alike)):
        solution = own[place] if form is None else solve_song(builder, *asked[place], form=form[1], inside=True)
        found.append(InKey(keys[place], states[place], solution, form is None or form[0] > 0))
    return found


def own_words(found: list[InKey]) -> str:
    """Which keys have other hands than the first one; "" where all share one form."""
    own = [pretty_signs(str(one.key.tonic)) for one in found if one.own]
    return f"other hands in {', '.join(own)}" if own else ""


def two_five_one(state: State) -> tuple[State, Address, Address]:
    """Two, five and one of the song's mode as a song of its own, played as the state asks, with its ends."""
    key = state.song.the_key
    chords = "2m7b5 | 57b9 | 1m7" if key.is_minor else "2m7 | 57 | 1maj7"
    chart = parse_chart(f"key: {key.tonic} {'minor' if key.is_minor else 'major'}\n| {chords} |")
    setup = msgspec.structs.replace(state.setup, wishes=(), held=())
    made = state_with(chart, setup=setup)
    return made, (0, 0, 0), (0, 2, 0)


def keys_sheet(found: list[InKey], ask: SheetAsk, a_page: bool, simple: bool = False) -> tuple[Page, ...]:
    """The pages of a stretch in twelve keys, a page a key or all together."""
    writers = [(one.key, Writer(one.state.song, one.solution, (), simple)) for one in found]
    song = found[0].state.song
    first, last = found[0].solution.moments[0], found[0].solution.moments[-1]
    words = f"{song.sections[first.section].name}, {pretty_signs(first.symbol)}"
    words += f" to {pretty_signs(last.symbol)}" if len(found[0].solution.moments) > 1 else ""
    words += f"; {own_words(found)}" if own_words(found) else ""
    return keys_pages(ask, f"{song.title} in twelve keys", words, writers, a_page)
