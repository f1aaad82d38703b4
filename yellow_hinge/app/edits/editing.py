"""Edits as pure functions: from a state, and what is selected in it, to another state with the words that say it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from yellow_hinge.app.edits.asking import with_keep, with_setup, without_keeps
from yellow_hinge.app.edits.state import State, changed_in, with_text
from yellow_hinge.app.edits.wishing import with_held_top, without_held_top
from yellow_hinge.core.chart.text import ChartReading
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.asking.keeps import Keep, Part, ruling
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.lighter import leaving_at
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.core.takes.thing_moves import PART_WORDS

TYPING = "type in the chart"


class Edit(NamedTuple):
    """Another state, and what was done; edits with the same `group` in a row are one step of undo."""

    label: str
    state: State
    group: str = ""


def typed(state: State, base: State, text: str, reading: ChartReading) -> Edit:
    """The chart typed anew, as it is read; typing in a row began at `base`."""
    return Edit(TYPING, with_text(state, base, text, reading), TYPING)


def asked(state: State, label: str, setup: Setup) -> Edit:
    """Other wishes; another player is another one in every take."""
    return Edit(label, with_setup(state, setup))


def played(state: State, label: str, playing: Playing, group: str = "") -> Edit:
    """Another way of playing the song."""
    return Edit(label, changed_in(state, playing=playing), group)


def kept(state: State, what: str, voicing: Voicing, both: Both, part: Part, only: tuple[int, int] | None) -> Edit:
    """A chord, or a part of it, kept as some hands play it, in all passes or in one."""
    keep = Keep(voicing.here.slot_id, write_symbol(voicing.chord), both.left, both.right, part, only)
    for_pass = " in this pass" if only else ""
    label = f"{what} {PART_WORDS[part]}{write_symbol(voicing.chord)}{for_pass}"
    return Edit(label, with_keep(state, keep))


def lightened(state: State, solution: Solution, places: Iterable[int], what: str) -> Edit | None:
    """The hands of some chords (their indices in the solution) without what is too wide in them, kept so; None where
    none of them is too wide. `what` they are is for the label.
    """
    keeps: dict[object, Keep] = {}
    for index in places:
        away = leaving_at(solution, index)
        if away:
            voicing, both = solution.voicings[index], away[-1].both
            moment = voicing.here
            own = ruling(state.keeps, moment)
            only = next((keep.only for keep in own), moment.pass_id if _repeated(solution, index) else None)
            keeps[moment.slot_id, only] = Keep(moment.slot_id, write_symbol(voicing.chord), *both, "chord", only)
    for keep in keeps.values():
        state = with_keep(state, keep)
    return Edit(f"leave away what is too wide in {what}", state) if keeps else None


def _repeated(solution: Solution, index: int) -> bool:
    """Whether a chord is played again with other hands."""
    one = solution.voicings[index]
    return any(other.here.slot_id == one.here.slot_id and other.both != one.both for other in solution.voicings)


def keep_turned(state: State, voicing: Voicing, part: Part, only: tuple[int, int] | None) -> Edit | None:
    """A chord, or a part of it, kept as it is played, or let go; None where that hand rests."""
    if not (voicing.left if part in ("left", "bass") else voicing.right or part == "chord"):
        return None
    there = tuple(keep for keep in ruling(state.keeps, voicing.here) if keep.part == part)
    if there:
        return Edit(f"let {PART_WORDS[part]}{write_symbol(voicing.chord)} go", without_keeps(state, there))
    return kept(state, "keep", voicing, voicing.both, part, only)


def keeps_put(state: State, label: str, keeps: tuple[Keep, ...]) -> Edit:
    """All keeps changed as a whole."""
    return Edit(label, changed_in(state, keeps=keeps))


def top_held(state: State, moments: list[Moment], index: int, voicing: Voicing) -> Edit | None:
    """The top note of chord `index` held into the next chord, or one chord longer; None where the right hand rests."""
    if not voicing.right:
        return None
    setup = with_held_top(state.setup, moments, index, voicing.right[-1])
    return asked(state, f"hold the top of {write_symbol(voicing.chord)}", setup)


def top_dropped(state: State, voicing: Voicing) -> Edit:
    """The held top of a chord let go."""
    return asked(state, "let the held top go", without_held_top(state.setup, voicing.here))
