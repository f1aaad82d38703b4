"""Edits of what a song is called and how fast it goes: nothing is solved, written or read again for them."""

from __future__ import annotations

import msgspec

from yellow_hinge.app.edits.state import State
from yellow_hinge.core.chart.header_lines import moved_down, with_header
from yellow_hinge.core.chart.text import ChartReading
from yellow_hinge.core.takes.form import Form
from yellow_hinge.core.takes.take import Take


def with_tempo(state: State, reading: ChartReading, tempo: int) -> tuple[State, ChartReading]:
    """The state at another tempo, in every take that shares the form of the one that is shown, and the reading of its
    chart, which has no faults.
    """
    apart = state.shown.form is not None

    def faster(take: Take) -> Take:
        if (take.form is not None) != apart or (apart and take is not state.shown):
            return take
        form = _at(take.form, tempo) if take.form is not None else None
        text = with_header(take.text, "tempo", str(tempo)) if take.text else ""
        found: Take = msgspec.structs.replace(take, form=form, text=text)
        return found

    form = state.form if apart else _at(state.form, tempo)
    made = State(form, tuple(map(faster, state.takes)), state.take, state.last_take, state.mix)
    lower = made.text.count("\n") - state.text.count("\n")
    return made, moved_down(reading, lower)._replace(song=msgspec.structs.replace(reading.song, tempo=tempo))


def _at(form: Form, tempo: int) -> Form:
    found: Form = msgspec.structs.replace(form, tempo=tempo)
    return found
