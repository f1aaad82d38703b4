"""The answer for a whole song: a voicing for every chord, the hinges between them, and other ways for each chord."""

from __future__ import annotations

import itertools

from yellow_hinge.core.fingering import Fingered, fingered
from yellow_hinge.core.leading.answer import KEPT, Solution, Totals, Voicing, as_struck, family_of
from yellow_hinge.core.leading.asking.asked import unmet_sizes
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.asking.wishes import FIRST
from yellow_hinge.core.leading.chain.bounds import lower_bound
from yellow_hinge.core.leading.chain.kept_stage import row_of
from yellow_hinge.core.leading.chain.lattice import Builder, Lattice
from yellow_hinge.core.leading.chain.minplus import solve
from yellow_hinge.core.leading.chain.stage import MOST_WORK
from yellow_hinge.core.leading.chain.steps import Chain, Cheapest
from yellow_hinge.core.leading.chain.widest import fewest, reduced, work
from yellow_hinge.core.leading.prices.hinge import HANDS, Both, Hinge, make_hinge
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.promises import PROMISES
from yellow_hinge.core.leading.prices.remarks import remarks
from yellow_hinge.core.leading.prices.singing import under
from yellow_hinge.core.leading.prices.weights import INFINITE, UNIT
from yellow_hinge.core.numerics import np
from yellow_hinge.core.shapes.describe import shape_label
from yellow_hinge.core.song.timeline import Moment


def _voicing(
    index: int, moment: Moment, at: tuple[int, int], lattice: Lattice, both: Both, fingers: Fingered, tuned: bool
) -> Voicing:
    stage, chord = lattice.stages[index], moment.chord
    assert chord is not None
    family, name = family_of(stage, at)
    if family != KEPT:
        name = shape_label(
            stage.shapes[int(stage.place.family[at])], chord, lattice.places[index].key, both.left, both.right
        )
    asked = lattice.places[index].asked
    notes = (*stage.notes, *(() if family == KEPT else unmet_sizes(asked, len(both.left), len(both.right))))
    told = remarks(both, chord, moment, asked.mine, asked.hands, asked.weights, notes, tuned)
    return Voicing(lattice.moments[index], index, chord, both, family, name, told, fingers, moment)


def solve_song(
    builder: Builder,
    moments: tuple[Moment, ...],
    setup: Setup,
    keeps: tuple[Keep, ...] = (),
    form: tuple[Both, ...] | None = None,
    inside: bool = False,
) -> Solution:
    """The voicings of least cost for a whole song, all chords together; or those of a `form`, which are among its
    lattice's, for every chord that sounds. `inside`: a part of one, whose ends are no song's. Raises NoVoicingError.
    """
    lattice = builder.lattice(moments, setup, keeps, inside)
    if form is not None:
        lattice = _formed(lattice, form)
    if not lattice.stages:
        return Solution(moments, (), (), Totals(0, 0, 0, 0, 0, 0, True), setup, lattice, None)
    lattice, bound = small(lattice)
    solved = solve(lattice.chain, builder.last)
    if form is None:
        lattice, solved = _sung_anew(lattice, solved)
        builder.last = solved
    played = [
        Both(stage.left.notes(l), stage.right.notes(r))
        for stage, (l, r) in zip(lattice.stages, solved.path, strict=True)
    ]
    fingers = [
        as_struck(found, both, place)
        for found, both, place in zip(fingers_of(played, setup.loop), played, lattice.places, strict=True)
    ]
    voicings = [
        _voicing(
            index, moments[lattice.moments[index]], at, lattice, played[index], fingers[index], setup.melody == "top"
        )
        for index, at in enumerate(solved.path)
    ]
    hinges = make_hinges(voicings, setup, lattice.ways)
    gap = 0 if bound is None else max(0, solved.cost - bound)
    exact = solved.exact and gap == 0
    totals = _totals(hinges, solved.cost, exact, gap)
    found = Solution(moments, tuple(voicings), hinges, totals, setup, lattice, solved)
    return found._replace(totals=totals._replace(kept=_kept(found)))


def _kept(solution: Solution) -> tuple[int, int]:
    """(changes that keep what the song's style promises, changes that could), where chords have no other style."""
    style, places = solution.setup.style or FIRST.style, solution.lattice.places
    if style not in PROMISES:
        return 0, 0
    found = [solution.keeps(index) for index, place in enumerate(places) if place.asked.style == style]
    return found.count(True), len(found) - found.count(None)


def _formed(lattice: Lattice, form: tuple[Both, ...]) -> Lattice:
    """The lattice with one way for every chord; its others keep their prices."""
    places = []
    for stage, both in zip(lattice.stages, form, strict=True):
        at = row_of(stage.left, both.left), row_of(stage.right, both.right)
        only = np.full_like(stage.place.cost, INFINITE)
        only[at] = stage.place.cost[at]
        places.append(only)
    chain = lattice.chain
    return lattice._replace(chain=Chain(places, chain.left, chain.right, chain.loop, chain.free))


MOST_ANEW = 8  # times that a song is sung anew
DEAR = 4 * UNIT  # what a sung top may cost the song beyond the best one


def _sung_anew(lattice: Lattice, solved: Cheapest) -> tuple[Lattice, Cheapest]:
    """The answer with other tops where the line, chosen before the left hand, costs the song dear."""
    sung = [
        at
        for at, place in enumerate(lattice.places)
        if place.asked.led.sings and lattice.stages[at].free is None and place.top is None
    ]
    for _ in range(MOST_ANEW if sung else 0):
        gains = [(int(table.min()), at, int(table.argmin())) for at in sung for table in (solved.price(at),)]
        cost, at, state = min(gains)
        if solved.cost - cost < DEAR:
            break
        stage, chain, leads = lattice.stages[at], lattice.chain, lattice.places[at].asked.leads
        row, column = divmod(state, len(stage.right))
        hand, own = stage.of(leads), row if leads == "left" else column
        places = list(chain.place)
        places[at] = under(stage.place.cost, hand, leads, int(hand.high[own]))
        lattice = lattice._replace(chain=Chain(places, chain.left, chain.right, chain.loop, chain.free))
        solved = solve(lattice.chain, solved)
    return lattice, solved


def small(lattice: Lattice) -> tuple[Lattice, int | None]:
    """A lattice that the plain solver takes: of a large one the states that paths near the cheapest run through. Where
    that is not all that was asked, also a cost that no song undercuts.
    """
    bound = lower_bound(lattice) if any(stage.cut for stage in lattice.stages) else None
    if work(lattice.chain) <= MOST_WORK:
        return lattice, bound
    kept = reduced(lattice.chain)
    lattice = lattice.only(kept)
    if not kept.closed:
        return lattice.only(fewest(lattice.chain)), kept.bound if bound is None else bound
    return lattice, bound


def _totals(hinges: tuple[Hinge, ...], cost: int, exact: bool, gap: int) -> Totals:
    return Totals(
        sum(h.motion for h in hinges),
        sum(h.left_motion for h in hinges),
        sum(h.right_motion for h in hinges),
        sum(h.held for h in hinges),
        max((h.largest for h in hinges), default=0),
        cost,
        exact,
        gap,
    )


def stretch(solution: Solution, first: int, last: int) -> Solution:
    """Chords `first` to `last` (included) of a solution as they are played, with their own totals of motion."""
    voicings, hinges = solution.voicings[first : last + 1], solution.hinges[first:last]
    return solution._replace(voicings=voicings, hinges=hinges, totals=_totals(hinges, 0, True, 0))


def fingers_of(chords: list[Both], loop: bool) -> list[Fingered]:
    """The fingers of a row of voicings, chosen for all of them together."""
    left, right = (fingered([both.of(hand) for both in chords], hand, loop) for hand in HANDS)
    return [Fingered(l, r) for l, r in zip(left, right, strict=True)]


def make_hinges(voicings: list[Voicing], setup: Setup, ways: list[Way]) -> tuple[Hinge, ...]:
    """The hinges of a row of voicings, with the closing one where the song loops; `ways[i]` leads to chord i."""
    pairs = list(itertools.pairwise(range(len(voicings))))
    if setup.loop and voicings:
        pairs.append((len(voicings) - 1, 0))
    found = []
    for a, b in pairs:
        old, new = voicings[a], voicings[b]
        found.append(make_hinge(old.both, new.both, setup.mine, ways[b], (old.fingers, new.fingers)))
    return tuple(found)
