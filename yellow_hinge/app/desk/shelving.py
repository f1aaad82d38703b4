"""The shelf as edits of the desk: what fits there is taken, what is played there is put on it."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.reharm.shelf_fits import Fit


def take_fit(desk: Desk, found: Fit) -> None:
    """Play the chords of a fit with its hands, and keep them: one edit."""
    solution = desk.solution
    if solution is None:
        return
    part = solution.voicings[found.first : found.first + len(found.hands)]
    slots = {voicing.here.slot_id for voicing in part}
    others = tuple(keep for keep in desk.state.keeps if keep.slot not in slots)
    own = tuple(
        Keep(voicing.here.slot_id, voicing.here.symbol, both.left, both.right, "chord")
        for voicing, both in zip(part, found.hands, strict=True)
    )
    desk.put_keeps(f"{found.entry.name} from the shelf", (*others, *own))


def to_shelve(desk: Desk) -> list[Voicing]:
    """The chords that would be put on the shelf: those that are marked, else the selected one and the next."""
    solution, marked, at = desk.solution, desk.selection.marked, desk.selection.index
    if solution is None or desk.selection.voicing is None:
        return []
    return list(solution.voicings[marked[0] : marked[-1] + 1] if marked else solution.voicings[at : at + 2])
