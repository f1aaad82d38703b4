"""The mix below the takes: which take each pass plays, how it goes from one to the next, and hearing it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.asking import with_keep
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.of_takes import FoundTakes
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.lines import STIFF
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.leading.solution import stretch
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.notes import price_text
from yellow_hinge.ui.parts.pointing.things import Own
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.takes.cells import MixCell
from yellow_hinge.ui.takes.view import TakesView


def names_of(voicing: Voicing, notes: tuple[int, ...]) -> list[str]:
    """The names of notes of a voicing."""
    return [str(voicing.chord.note_of(note % 12)) for note in notes]


class Mixing(QObject):
    """Ties the cells of the mix to what was found of the takes."""

    def __init__(
        self, desk: Desk, view: TakesView, listening: Listening, found: Callable[[], FoundTakes | None]
    ) -> None:
        super().__init__(view)
        self.desk, self.view, self.listening, self.found = desk, view, listening, found
        view.cells.numbered.connect(lambda cell, number: self.choose(cell, number - 1))
        view.cells.turned.connect(self.turn)
        view.cells.swapped.connect(self.swap)
        view.cells.moved.connect(lambda _: self.tell())
        view.play.clicked.connect(self.play_mix)
        view.easier.clicked.connect(self.begin_easier)

    def cells(self, found: FoundTakes) -> list[MixCell]:
        numbers = {row.id: n + 1 for n, row in enumerate(found.rows)}
        names = {row.id: row.name for row in found.rows}
        motions = [str(joint.motion) for joint in found.joints]
        cells = []
        for n, choice in enumerate(found.mix.passes):
            name = found.mix.song.sections[n].name + (f" {choice.turn + 1}" if choice.turn else "")
            joint = motions[n] if n < len(motions) else ""
            stiff = bool(joint) and int(joint) >= STIFF
            cells.append(MixCell(name, numbers[choice.take], names[choice.take], joint, stiff))
        return cells

    def tell(self) -> None:
        """The sentence of the joint into the pass that is looked at."""
        found, at = self.found(), self.view.cells.at
        words, easier = "", False
        if found is not None and found.solution is not None:
            total = found.solution.totals
            words = f"{semitones(total.motion)} in the whole song, largest move {total.largest_move}."
            if 0 < at <= len(found.joints):
                joint = found.joints[at - 1]
                words = f"{semitones(joint.motion)} into this pass."
                if joint.easier is not None:
                    both = joint.easier.both
                    names = " ".join(names_of(found.solution.voicings[joint.hinge + 1], (*both.left, *both.right)))
                    price = price_text(joint.easier.extra)
                    words += f" Beginning on {names} takes {joint.easier_motion} ({price} for the whole mix)."
                    easier = True
        elif found is not None and found.done:
            words = "The mix cannot be played: no way was found to play a chord in it."
        self.view.words.setText(pretty_signs(words))
        self.view.easier.setVisible(easier)

    def cell_ways(self) -> list[Own]:
        """The takes that the pass under the cursor may play."""
        cell = self.view.cells.at
        found = self.found()
        rows = found.rows if found is not None else ()
        return [(f"Play {row.name}", partial(self.choose, cell, n)) for n, row in enumerate(rows)]

    def choose(self, cell: int, index: int) -> None:
        """Let a pass play a take, by its place in their order."""
        found = self.found()
        if found is None or not (0 <= cell < len(found.mix.passes) and 0 <= index < len(found.rows)):
            return
        own, row = found.mix.passes[cell], found.rows[index]
        state = takes.with_choice(self.desk.state, own.section, own.turn, row.id)
        self.desk.document.do(Edit(f"{row.name} in the mix", state))

    def turn(self, cell: int, by: int) -> None:
        found = self.found()
        if found is not None and cell < len(found.mix.passes):
            ids = [row.id for row in found.rows]
            self.choose(cell, (ids.index(found.mix.passes[cell].take) + by) % len(ids))

    def swap(self, one: int, other: int) -> None:
        found = self.found()
        if found is not None and max(one, other) < len(found.mix.passes):
            first, second = found.mix.passes[one], found.mix.passes[other]
            state = takes.with_choice(self.desk.state, first.section, first.turn, second.take)
            state = takes.with_choice(state, second.section, second.turn, first.take)
            self.desk.document.do(Edit("change places in the mix", state))

    def play_mix(self) -> None:
        """Play the mix from the pass that is looked at, or stop."""
        found = self.found()
        if found is None or found.solution is None:
            return
        sections = [v.here.section for v in found.solution.voicings]
        first = next((i for i, section in enumerate(sections) if section >= self.view.cells.at), 0)
        part = stretch(found.solution, first, len(sections) - 1)
        self.listening.other(part, found.mix.song, found.mix.playing)

    def begin_easier(self) -> None:
        """Keep the easier way at the first chord of the pass that is looked at, in its take and for that pass alone."""
        found, at = self.found(), self.view.cells.at
        if found is None or found.solution is None or not 0 < at <= len(found.joints):
            return
        joint, own = found.joints[at - 1], found.mix.passes[at]
        if joint.easier is None:
            return
        state = self.desk.state
        there = takes.switched(state, own.take)
        section = next(s for s in there.song.sections if s.id == own.section)
        slot = self._first_slot(there, own.section, own.turn)
        if slot is None or not section.name:
            return
        voicing = found.solution.voicings[joint.hinge + 1]
        both = joint.easier.both
        keep = Keep(slot, write_symbol(voicing.chord), both.left, both.right, "chord", (own.section, own.turn))
        self.desk.document.do(Edit("begin a pass easier", takes.switched(with_keep(there, keep), state.take)))

    @staticmethod
    def _first_slot(state: State, section: int, turn: int) -> int | None:
        moments = timeline(state.song)
        return next((m.slot_id for m in moments if m.pass_id == (section, turn) and m.chord is not None), None)
