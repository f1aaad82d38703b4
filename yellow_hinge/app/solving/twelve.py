"""A chord, a change or a stretch of the song in all twelve keys, in one form wherever that can be played."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import State, alone, changed_in, state_with
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.kept_stage import row_of
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.one_form import OfKey, forms
from yellow_hinge.core.leading.price import faults
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.remarks import remarks
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import Key, shift_to
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.practice.rounds import Round, round_keys
from yellow_hinge.core.shapes.placing import PAD
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.sheet.keys import keys_pages
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import write_symbol

HEARD = ("mud", "stretch", "collision", "broken")  # remarks for which hands are another key's own


class InKey(NamedTuple):
    """The stretch in one key; `own` where it has other hands than the first one, which do not serve it, and `why`."""

    key: Key
    state: State
    solution: Solution
    own: bool = False
    why: str = ""


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
    found: list[InKey] = []
    for place, form in enumerate(forms(alike)):
        solution = own[place] if form is None else solve_song(builder, *asked[place], form=form[1], inside=True)
        other = form is None or form[0] > 0
        why = why_other(found[0].solution, solution, alike[place].shift) if other and found else ""
        found.append(InKey(keys[place], states[place], solution, other, why))
    return found


def why_other(first: Solution, solution: Solution, shift: int) -> str:
    """Why the first key's hands were not taken in another one, `shift` semitones off (or an octave the other way): the
    chord where they cannot be played or would sound worse there; else that they move more than hands of its own.
    """
    told = []
    for by in sorted({shift, shift - 12, shift + 12}, key=abs)[:2]:
        hands = [Both(*(tuple(n + by for n in hand) for hand in voicing.both)) for voicing in first.voicings]
        told.append([words for at, both in enumerate(hands) for words in _faulty(both, first, solution, at)])
    fewest = min(told, key=len)
    return fewest[0] if fewest else "the same hands would move more there"


def _faulty(both: Both, first: Solution, solution: Solution, at: int) -> list[str]:
    """What is wrong with the first key's hands at a chord of another one, and was not in the first."""
    voicing = solution.voicings[at]
    asked = solution.lattice.places[at].asked
    there = remarks(both, voicing.chord, voicing.here, solution.setup.mine, asked.hands, asked.weights)
    here = {remark.kind for remark in first.voicings[at].remarks}
    found = [*faults(both, solution, at), *(r.words for r in there if r.kind in HEARD and r.kind not in here)]
    found += [] if found else _out_of_place(both, solution, at)
    return [f"{write_symbol(voicing.chord)}: {words}" for words in found]


def _out_of_place(both: Both, solution: Solution, at: int) -> list[str]:
    """Which hand would lie where no placing of the chord does."""
    stage, found = solution.lattice.stages[at], []
    for hand, own in zip(HANDS, (stage.left, stage.right), strict=True):
        notes = both.of(hand)
        if notes and row_of(own, notes) is None:
            lows, highs = own.pitches[own.pitches != PAD].min(), own.pitches.max()
            where = "lower" if notes[0] < lows else "higher" if notes[-1] > highs else ""
            found.append(f"{where} than the {hand} hand plays here" if where else f"not a way for the {hand} hand here")
    return found


def own_words(found: list[InKey], why: bool = True) -> str:
    """Which keys have other hands than the first one, and why; "" where all share one form."""
    own = [(pretty_signs(str(one.key.tonic)), pretty_signs(one.why)) for one in found if one.own]
    names = [f"{key} ({words})" if why and words else key for key, words in own]
    return f"other hands in {', '.join(names)}" if names else ""


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
    playing = [one.state.playing if ask.shows("rhythm") else None for one in found]
    writers = [
        (one.key, Writer(one.state.song, one.solution, (), simple, own, True, one.state.playing.lines))
        for one, own in zip(found, playing, strict=True)
    ]
    song = found[0].state.song
    first, last = found[0].solution.moments[0], found[0].solution.moments[-1]
    words = f"{song.sections[first.section].name}, {pretty_signs(first.symbol)}"
    words += f" to {pretty_signs(last.symbol)}" if len(found[0].solution.moments) > 1 else ""
    words += f"; {own_words(found)}" if own_words(found) else ""
    return keys_pages(ask, f"{song.title} in twelve keys", words, writers, a_page)
