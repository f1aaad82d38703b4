"""An entry of the shelf as a song of its own, to go round the keys with the hands, or the line, that it has."""

from __future__ import annotations

import msgspec

from yellow_hinge.app.edits.state import State, changed_in, state_with
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.own.lines import OwnLine
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.core.reharm.shelf_fits import fit
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.things import KEEPS

MODES = ("major", "minor")
MOST_UPPER = 32  # of a meter


def of_entry(entry: ShelfEntry, state: State, builder: Builder) -> tuple[State, Address, Address]:
    """The entry's chords, a bar each, in the mode of a state's song or else in the other, with its hands kept; the
    first and the last of them. Raises UserError where these hands cannot play it.
    """
    key, bare = state.song.the_key, all(not row.right for row in entry.rows)
    setup = msgspec.structs.replace(
        state.setup, wishes=(), held=(), bass="theirs" if bare else "mine", melody="free", right="plays"
    )
    for mode in sorted(MODES, key=lambda mode: (mode == "minor") != key.is_minor):
        bars = " | ".join(row.symbol for row in entry.rows)
        try:
            chart = parse_chart(f"key: {key.tonic} {mode}\n| {bars} |")
        except UserError:
            continue
        made = state_with(chart, setup=setup)
        solution = solve_song(builder, timeline(made.song), made.asked)
        found = fit(msgspec.structs.replace(entry, mine=True), solution, 0)
        if found is not None:
            keeps = tuple(
                Keep(voicing.here.slot_id, voicing.here.symbol, both.left, both.right, "chord")
                for voicing, both in zip(solution.voicings, found.hands, strict=True)
            )
            return changed_in(made, things=made.things.put(KEEPS, keeps)), (0, 0, 0), (0, len(keeps) - 1, 0)
    raise UserError(f"{entry.name}: your hands, as My hands says them, cannot play it")


def of_line(entry: OwnLine, state: State) -> tuple[State, Address, Address]:
    """The chords of a line, a bar each as long as they are there, played as a state asks; the first and the last of
    them. Raises UserError where no mode has them.
    """
    key, bars = state.song.the_key, []
    for row in entry.rows:
        lower = next((lower for lower in (4, 8, 16) if (row.quarters * lower / 4).denominator == 1), 0)
        if not lower or row.quarters * lower / 4 > MOST_UPPER:
            raise UserError(f"{entry.name}: a chord of {row.quarters} quarters makes no bar")
        bars.append(f"({row.quarters * lower / 4}/{lower}) {row.symbol}")
    for mode in sorted(MODES, key=lambda mode: (mode == "minor") != key.is_minor):
        try:
            chart = parse_chart(f"key: {key.tonic} {mode}\n| {' | '.join(bars)} |")
        except UserError:
            continue
        setup = msgspec.structs.replace(state.setup, wishes=(), held=())
        return state_with(chart, setup=setup), (0, 0, 0), (0, len(bars) - 1, 0)
    raise UserError(f"{entry.name}: its chords make no song in {key.tonic}")
