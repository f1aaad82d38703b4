"""Which chords are practised: what is marked, a section, what goes round the keys; and what the log says of a pass."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from random import Random
from typing import NamedTuple, cast

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.practice.of_shelf import of_entry, of_line
from yellow_hinge.app.practice.passes import FULL, PieceRun, Stretch
from yellow_hinge.app.practice.programmes import DrillProgramme, LineProgramme, Programme
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.solving.twelve import in_twelve, two_five_one
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.own.lines import OwnLine
from yellow_hinge.core.practice.marking import Mark
from yellow_hinge.core.practice.partner import Feel, Touch, in_time
from yellow_hinge.core.practice.rounds import Round
from yellow_hinge.core.practice.timing import Pass
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.core.song.song import Address

HARD = 0.7  # the share that is right of a pass that was hard, and not wrong


def round_ends(what: str, solution: Solution, at: int) -> tuple[Address, Address]:
    """The written chords that go round the keys: a chord, it with the next one, or its section ("stretch")."""
    here = solution.voicings[at].here
    if what == "stretch":
        own = [voicing.here.address for voicing in solution.voicings if voicing.here.origin == here.origin]
        return min(own), max(own)
    after = solution.voicings[min(at + 1, len(solution.voicings) - 1)].here
    return here.address, here.address if what == "shape" else after.address


def round_asked(
    desk: Desk, what: str, entry: ShelfEntry | OwnLine | None, way: str, hands: str
) -> Callable[[Builder], Programme]:
    """The work that finds what goes round the keys: an entry of the shelf, two, five and one, or what of the song is
    selected, for some hands; `way` is how the keys follow each other, with "down" behind it for downwards. It
    raises UserError.
    """
    state, solution, at = desk.answers.state, desk.solution, desk.selection.index
    round_, _, down = way.partition(" ")

    def work(builder: Builder) -> Programme:
        if isinstance(entry, OwnLine):
            played, first, last = of_line(entry, state)
        elif entry is not None:
            played, first, last = of_entry(entry, state, builder)
        elif what == "two-five" or solution is None:
            played, first, last = two_five_one(state)
        else:
            played, (first, last) = state, round_ends(what, solution, at)
        found = in_twelve(builder, played, first, last, cast(Round, round_), bool(down))
        return LineProgramme(entry, found, hands) if isinstance(entry, OwnLine) else DrillProgramme(found, hands)

    return work


def rests(solution: Solution, hands: str) -> str:
    """Why there is nothing to play with a hand alone, "" where there is something."""
    if hands == "both" or any(voicing.both.of(hands) for voicing in solution.voicings):
        return ""
    other = "left" if hands == "right" else "right"
    return f"The {hands} hand rests all through: somebody else plays what it would. Choose the {other} hand, or both."


def places_to_practise(desk: Desk) -> range:
    """The chords that are practised: what is marked, else the section of the selected chord as it is played."""
    solution, moment, marked = desk.solution, desk.selection.moment, desk.selection.marked
    if marked or solution is None or moment is None:
        return marked
    own = [n for n, voicing in enumerate(solution.voicings) if voicing.here.pass_id == moment.pass_id]
    return range(own[0], own[-1] + 1)


class RunAsked(NamedTuple):
    """What a run is of: its chords (places in the solution), the stretch, and its words."""

    places: range
    stretch: Stretch
    words: str


def logged(found: Pass, run: PieceRun, asked: RunAsked, desk: Desk, now: datetime, made_up: bool) -> Run | None:
    """What the log says of a pass; `made_up`: the simulated player played it. None where the song is gone."""
    solution, state = desk.solution, desk.answers.state
    if solution is None:
        return None
    first, last = (solution.voicings[place].here for place in (asked.places[0], asked.places[-1]))
    hands = f"{asked.stretch.hands}{':tune' if asked.stretch.tune else ''}"
    words = f"{asked.words}, {'the tune, ' if asked.stretch.tune else ''}{run.percent} % of the tempo"
    return Run(
        now, desk.document.known_by, state.song.title, state.name, "piece",
        f"piece:{first.slot_id}>{last.slot_id}:{hands}", first.slot_id, last.slot_id, words, str(first.key),
        asked.stretch.hands, round(run.length, 3), 0, len(found.extra), len(found.missing), made_up,
    )  # fmt: skip


def graded(found: Pass, percent: int) -> Mark:
    """A pass as the memory grades it: at once at the full tempo, well below it, with effort, or not yet."""
    if found.whole:
        return Mark(1.0 if percent >= FULL else 2.0)
    return Mark(3.0) if found.share >= HARD else Mark(3.0, missing=(0,))


class Along:
    """What the simulated player does in the passes of a run, when it is due."""

    def __init__(self, feel: Feel) -> None:
        self._feel = feel
        self._waiting: list[tuple[float, Touch]] = []

    def plan(self, run: PieceRun) -> None:
        """The pass that begins."""
        if run.start is not None:
            chance = Random(len(run.passes))
            self._waiting += [(run.start + touch.at, touch) for touch in in_time(run.wanted, self._feel, chance)]

    def due(self, now: float) -> list[tuple[float, Touch]]:
        """(when, what) of everything until now that was not done yet."""
        found = [each for each in self._waiting if each[0] <= now]
        self._waiting = [each for each in self._waiting if each[0] > now]
        return found

    def forget(self) -> None:
        """Do nothing any more."""
        self._waiting = []
