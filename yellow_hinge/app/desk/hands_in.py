"""Hands that were held or found elsewhere, put into the song at the selected chord."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.asking import with_keep
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import State, changed
from yellow_hinge.core.chart.edit import with_chords
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.symbols.chord import Chord, same_chord
from yellow_hinge.core.symbols.writing import write_symbol

FINGERS = 5


def hands_into(desk: Desk, chord: Chord, both: Both) -> None:
    """Play the selected chord with some hands, and keep them; it becomes `chord` where it is another. One edit. Raises
    UserError where no chord is selected, or a hand has more notes than fingers.
    """
    voicing = desk.selection.voicing
    if voicing is None:
        raise UserError("choose a chord of the song first")
    if max(len(both.left), len(both.right)) > FINGERS:
        raise UserError(f"a hand has {FINGERS} fingers")
    here, symbol = voicing.here, write_symbol(chord)
    same = here.chord is not None and same_chord(here.chord, chord)
    keep = Keep(here.slot_id, here.symbol if same else symbol, both.left, both.right, "chord")
    if same:
        desk.document.do(Edit(f"these hands as {pretty_signs(symbol)}", with_keep(desk.state, keep)))
        return

    def edit(state: State) -> State:
        other = changed(state, with_chords(state.song, here.address, (chord,), (here.beats,)))
        return with_keep(other, keep)

    old = pretty_signs(write_symbol(voicing.chord))
    desk.edit_state(f"these hands as {pretty_signs(symbol)} for {old}", edit)
