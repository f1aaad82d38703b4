"""What a player asks of a state beside its chart: hands kept, wishes, memos, another key."""

from __future__ import annotations

from typing import get_args

import msgspec

from yellow_hinge.app.edits.resting import Resting
from yellow_hinge.app.edits.state import State, changed_in, refitted
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.leading.asking.keeps import Keep, Part
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.pitch.key import Key, shift_to
from yellow_hinge.core.song.song import LONGEST_MEMO, Memo, Song, Was
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.core.song.words import plain
from yellow_hinge.core.takes.content import Parts, bare_setup, put
from yellow_hinge.core.takes.form import bars_of, slots_of, song_of
from yellow_hinge.core.takes.known import without_known
from yellow_hinge.core.takes.thing_moves import Shift
from yellow_hinge.core.takes.things import KNOWN, Things, shifted, without

PARTS: tuple[Part, ...] = get_args(Part)


def in_key(state: State, key: Key) -> State:
    """The state in another key, with all takes that share its form: keeps, held tops and what chords were move with the
    song.
    """
    shift = Shift(shift_to(state.song.the_key, key), state.song.the_key, song_in_key(state.song, key).the_key)
    takes, form = [], state.own_form
    for take in state.takes:
        if take is not state.shown and (take.form is not None or state.shown.form is not None):
            takes.append(take)
            continue
        song = song_of(state.own_form, take.content.chords, take.content.asks)
        things = shifted(take.content.things, shift).put(KNOWN, ())  # another register has other hands
        content, moved = put(take.content, state.own_form, Parts(song_in_key(song, key), things=things))
        form = moved if take is state.shown else form
        takes.append(refitted(take, content))
    own = state.shown.form is not None
    takes = [msgspec.structs.replace(t, form=form) if own and t.id == state.take else t for t in takes]
    found = State(state.form if own else form, tuple(takes), state.take, state.last_take, state.mix)
    return changed_in(found, text=write_chart(found.song))


def untold(state: State, before: State, template: Song) -> State:
    """The state without new stories of a template's chords: what a new song is typed over was never the player's."""
    bars = {bar.id: bar for _, bar in bars_of(template)}
    inside = {
        slot.id: {old.symbol for old in bars[bar.id].slots} for _, bar, slot in slots_of(state.song) if bar.id in bars
    }
    known = {was.slot: was.symbols for was in before.was}
    told = []
    for was in state.was:
        new = was.symbols if was.symbols != known.get(was.slot) else ()
        rest = was.symbols[:-1] if new and new[-1] in inside.get(was.slot, ()) else was.symbols
        told += [Was(was.slot, rest)] if rest else []
    return changed_in(state, was=tuple(told))


def with_keep(state: State, keep: Keep) -> State:
    """The state with a chord, or a part of it, kept. What it takes the place of goes: a whole chord replaces every keep
    of its slot, a part the same part and a whole chord; keeps of another chord in its slot go on resting.
    """
    gone = PARTS if keep.part == "chord" else ("chord", keep.part)
    others = tuple(k for k in state.keeps if not (_same_place(k, keep) and k.part in gone))
    known = tuple(k for k in state.things.of(KNOWN) if k.slot != keep.slot or keep.only not in (None, k.only))
    return changed_in(state, keeps=(*others, keep), things=state.things.put(KNOWN, known))


def with_setup(state: State, setup: Setup) -> State:
    """The state with other wishes. Hands that are known give way where something else is asked now: everywhere where it
    is asked of the whole song, else in its parts.
    """
    old = state.setup
    at: frozenset[int] | None = frozenset(
        place
        for one, other in ((old.wishes, setup.wishes), (setup.wishes, old.wishes))
        for wish in one
        if wish not in other
        for place in (wish.at,)
    ) | frozenset(
        slot for one, other in ((old.held, setup.held), (setup.held, old.held)) for top in one if top not in other
        for slot in top.slots
    )  # fmt: skip
    if bare_setup(old) != bare_setup(setup) or old.player != setup.player:
        at = None
    known = without_known(state, at)
    return changed_in(state, setup=setup, things=state.things.put(KNOWN, known))


def with_new_hands(state: State) -> State:
    """The state whose take has the hands that it would be given now."""
    return changed_in(state, things=state.things.put(KNOWN, ()))


def _same_place(old: Keep, new: Keep) -> bool:
    """Whether a keep for a chord, in all passes or in one, takes the place of another one."""
    return old.slot == new.slot and old.symbol == new.symbol and new.only in (None, old.only)


def with_memo(state: State, slot: int, words: str) -> State:
    """The state with a note on a chord (the id of its slot), or on the song (0); "" takes it away."""
    others = tuple(memo for memo in state.memos if memo.slot != slot)
    words = plain(" ".join(words.split()), LONGEST_MEMO)
    return changed_in(state, memos=(*others, Memo(slot, words)) if words else others)


def without_keeps(state: State, these: tuple[Keep, ...]) -> State:
    """The state without some keeps."""
    return changed_in(state, keeps=tuple(keep for keep in state.keeps if keep not in these))


def without_resting(state: State, rests: tuple[Resting, ...]) -> State:
    """The state without what rests."""
    things: Things = without(state.things, tuple(rest.what for rest in rests))
    return changed_in(state, things=things)


def with_swing(song: Song, swing: str, only: frozenset[int] | None = None) -> Song:
    """The song with a swing, for all of it (also where its sections had their own) or for sections by their indices."""
    sections = tuple(
        msgspec.structs.replace(own, swing="" if only is None else swing if n in only else own.swing)
        for n, own in enumerate(song.sections)
    )
    found: Song = msgspec.structs.replace(song, sections=sections, swing=swing if only is None else song.swing)
    return found
