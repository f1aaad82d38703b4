"""What the Takes view does: shows every take and the mix, edits them, plays them."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject, QPoint, QRect, Signal
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.touched import SLIGHT, Touched
from yellow_hinge.app.solving.comparing import compared
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_takes import FoundTakes, TakeRow, TakesSolver
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.solution import stretch
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.parts.pointing.in_place import Line
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.takes.mixing import Mixing, names_of
from yellow_hinge.ui.takes.scene import takes_scene
from yellow_hinge.ui.takes.view import TakesView


class TakesRoom(QObject, Quiet):
    """Wires view, desk, solver and listening."""

    found_ = Signal(object)

    def __init__(self, desk: Desk, view: TakesView, listening: Listening, ask_name: Callable[[str, str], str]) -> None:
        super().__init__(view)
        self.desk, self.view, self.listening, self._ask_name = desk, view, listening, ask_name
        self.solver = TakesSolver(self.found_.emit, "takes")
        self.found: FoundTakes | None = None
        self.at = 0  # the take under the cursor
        self.mix = Mixing(desk, view, listening, lambda: self.found)
        self.menu: Callable[[QPoint], object] = lambda at: None
        self._reveal = False  # it has to be scrolled into view once it is there
        self.found_.connect(self._answered)
        view.changed_.connect(self._changed)
        for told in (view.solved_, view.seen):
            told.connect(self.ask)
        view.seen.connect(self._begin_here)
        view.reselected.connect(self.redraw)
        view.resized.connect(self.redraw)
        view.asked.connect(self.do)
        view.canvas.picked.connect(self._picked)
        view.canvas.opened.connect(lambda index: self._show(index))
        view.canvas.drawn.connect(desk.selection.mark_to)
        view.remarked.connect(self.redraw)
        view.canvas.ordered.connect(self._put_at)
        view.copy.menu().aboutToShow.connect(self._fill_copy)

    def _changed(self, what: Touched) -> None:
        if what & ~SLIGHT:
            self.ask()

    def _begin_here(self) -> None:
        """Looked at anew: the cursor is on the take that is shown."""
        self.at = self.desk.state.place

    # --- what is shown ---
    def ask(self) -> None:
        """Have every take solved, where the view is looked at."""
        if self.view.isVisible() and self.desk.song.sections:
            shown = self.desk.solution if self.desk.answers.holds(self.desk.state) else None
            self.solver.ask(self.desk.state, shown)
        elif not self.desk.song.sections:
            self.found = None
            self.view.canvas.words = "There is nothing to take yet."
            self.view.canvas.show_scene(None)
            self.view.cells.show_cells([])

    def _answered(self, found: FoundTakes | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self.solver.asked or self._shows_more_than(found):
            return
        self.found = found
        for row in found.rows:
            if row.solution is not None:
                self.desk.answers.memory.learn(row.state, row.solution)
        self.at = min(self.at, len(found.rows) - 1)
        self.redraw()
        if self._reveal:
            self._reveal = False
            self._show_cursor()

    def _shows_more_than(self, found: FoundTakes) -> bool:
        """Whether the maps that are shown are of the same takes, while some of these are still worked on."""
        there = self.found.rows if self.found is not None else ()
        return not found.done and [row.id for row in there] == [row.id for row in found.rows]

    @property
    def row(self) -> TakeRow | None:
        """The take under the cursor."""
        return self.found.rows[self.at] if self.found is not None and self.at < len(self.found.rows) else None

    def redraw(self) -> None:
        """Lay out what was found."""
        found, view = self.found, self.view
        if found is None or not view.isVisible():
            return
        song = found.rows[found.state.place].state.song
        room, bar = view.maps_area.maximumViewportSize(), view.maps_area.horizontalScrollBar().sizeHint().height()
        view.canvas.cursor_, view.canvas.current, view.canvas.selected = (
            self.at,
            found.state.place,
            self.desk.selection.index,
        )
        view.canvas.marked = self.desk.selection.marked
        scene = takes_scene(found.rows, song, room.width() - 2, room.height() - 2)
        if scene.width > room.width():  # it scrolls along: the takes leave the bar its room
            scene = takes_scene(found.rows, song, room.width() - 2, room.height() - 2 - bar)
        view.canvas.show_scene(scene)
        view.buttons["delete"].setEnabled(len(found.rows) > 1)
        view.buttons["compare"].setEnabled(len(found.rows) > 1)
        view.buttons["turn"].setEnabled(len(found.rows) > 1)
        view.copy.setEnabled(len(found.rows) > 1)
        view.cells.show_cells(self.mix.cells(found), len(found.rows) > 1)
        self._compare()
        self.mix.tell()

    def compare(self) -> None:
        """Show two takes chord by chord, or the maps again."""
        self.view.buttons["compare"].toggle()
        self._compare()

    def _compare(self) -> None:
        on = self.view.buttons["compare"].isChecked()
        pair = self._pair()
        self.view.pages.setCurrentIndex(1 if on and pair else 0)
        if not on or pair is None:
            return
        above, row = pair
        rows = []
        for both in compared(above, row):
            cells: list[str] = []
            for voicing, motion in zip((both.one, both.other), both.motions, strict=True):
                cells += self._hands(voicing, motion)
            other = both.other or both.one
            names = names_of(other, both.only_other) if other is not None else []
            rows.append((*cells, pretty_signs(" ".join(names))))
        self.view.show_table(rows)

    def _hands(self, voicing: Voicing | None, motion: int) -> list[str]:
        if voicing is None:
            return ["", "", "", ""]
        left, right = (pretty_signs(" ".join(names_of(voicing, notes))) for notes in voicing.both)
        return [pretty_signs(voicing_text(voicing)), left, right, str(motion)]

    def _pair(self) -> tuple[Solution, Solution] | None:
        """The solutions of the take above the cursor and of the one under it; else of the first two."""
        if self.found is None or len(self.found.rows) < 2:
            return None
        at = min(max(1, self.at), len(self.found.rows) - 1)  # a new take is not solved yet
        one, other = self.found.rows[at - 1].solution, self.found.rows[at].solution
        return (one, other) if one is not None and other is not None else None

    # --- takes ---
    def do(self, what: str) -> None:
        """Do what a button says."""
        doing: dict[str, Callable[[], object]] = {
            "new": lambda: self._edit("new take", lambda s: takes.added(s, "")),
            "three": lambda: self._edit("three takes", takes.three),
            "rename": self.rename, "delete": self.delete, "compare": self._compare, "turn": self.in_turn,
            "up": lambda: self.shift(-1), "down": lambda: self.shift(1),
        }  # fmt: skip
        doing[what]()

    def _edit(self, label: str, edit: Callable[[State], State]) -> None:
        try:
            state = edit(self.desk.state)
        except UserError as error:
            self.view.words.setText(str(error))
            return
        self.desk.document.do(Edit(label, state))
        self.at, self._reveal = self.desk.state.place, True

    def _own(self) -> int:
        return self.row.id if self.row is not None else self.desk.state.take

    def ask_menu(self, at: QPoint) -> None:
        """What can be done with the take under the cursor."""
        self.menu(at)

    def rename_in(self, over: QWidget, area: QRect) -> None:
        """Write another name of the take under the cursor in its place."""
        row = self.row
        if row is not None:
            Line(over, area, row.name, "Name of the take", lambda name: self._call(row, name))

    def _call(self, row: TakeRow, name: str) -> None:
        try:
            self.desk.document.do(Edit(f"rename {row.name}", takes.renamed(self.desk.state, row.id, name)))
        except UserError as error:
            self.desk.answers.refuse(str(error))

    def rename(self) -> None:
        """Ask for another name for the take under the cursor."""
        row = self.row
        name = self._ask_name("A name for this take:", row.name) if row is not None else ""
        if name and row is not None:
            self.desk.document.do(Edit(f"rename {row.name}", takes.renamed(self.desk.state, row.id, name)))

    def delete(self) -> None:
        """Take the take under the cursor away."""
        own = self._own()
        name = self.row.name if self.row is not None else "a take"
        self._edit(f"delete {name}", lambda s: takes.deleted(s, own))

    def shift(self, by: int) -> None:
        """The take under the cursor earlier or later."""
        own, at = self._own(), self.at
        self.desk.document.do(Edit("move a take", takes.moved(self.desk.state, own, by)))
        self.at = min(max(at + by, 0), len(self.desk.state.others))
        self.redraw()

    def _show(self, index: int) -> None:
        """Put a take on the desk."""
        if self.found is not None and index < len(self.found.rows):
            self.at = index
            row = self.found.rows[index]
            self.desk.document.do(Edit(f"show {row.name}", takes.switched(self.desk.state, row.id), "show a take"))
            self.redraw()

    def _picked(self, index: int, chord: int) -> None:
        self.at = index
        if self.found is not None and index == self.found.state.place and chord >= 0:
            self.desk.selection.go(chord)
        self.redraw()

    def _fill_copy(self) -> None:
        menu = self.view.copy.menu()
        menu.clear()
        moment = self.desk.selection.moment
        for row in self.found.rows if self.found is not None else ():
            if moment is not None and row.id != self.desk.state.take:
                name = self.desk.state.song.sections[moment.section].name
                menu.addAction(f"{name} from {row.name}", partial(self.copy_section, row.id))

    def copy_section(self, source: int) -> None:
        """The section of the selected chord as another take has it."""
        moment = self.desk.selection.moment
        if moment is not None:
            own = self.desk.state.song.sections[moment.origin].id
            self._edit("a section from another take", lambda s: takes.copied(s, source, own))

    # --- the list that up, down and Enter go through ---
    def step(self, by: int) -> None:
        """Go up or down the takes."""
        if self.found is not None:
            self.at = min(max(self.at + by, 0), len(self.found.rows) - 1)
            self.redraw()
            self._show_cursor()

    def _show_cursor(self) -> None:
        """Scroll the take under the cursor into view."""
        scene = self.view.canvas.scene
        if scene is not None and self.at < len(scene.takes):
            take = scene.takes[self.at]
            self.view.maps_area.ensureVisible(0, int(take.y + take.height / 2), 0, int(take.height / 2) + 8)

    def take(self) -> None:
        """Put the take under the cursor on the desk."""
        self._show(self.at)

    def leave(self) -> bool:
        """Show the maps again where the table is shown; whether it was."""
        shown = self.view.buttons["compare"].isChecked()
        self.view.buttons["compare"].setChecked(False)
        self._compare()
        return shown

    def _put_at(self, index: int, to: int) -> None:
        """A take, by its place, at another place."""
        if self.found is not None and max(index, to) < len(self.found.rows):
            row = self.found.rows[index]
            self._edit(f"move {row.name}", lambda state: takes.moved(state, row.id, to - index))
            self.at = to

    def in_turn(self) -> bool:
        """Hear the bar of the selected chord in two takes, again and again, or stop."""
        self._play_pair()
        return True

    def _play_pair(self) -> None:
        pair, moment = self._pair(), self.desk.selection.moment
        if pair is None or moment is None:
            return
        parts = []
        for solution in pair:
            inside = [
                i for i, v in enumerate(solution.voicings)
                if (v.here.pass_id, v.here.bar) == (moment.pass_id, moment.bar)
            ]  # fmt: skip
            if not inside:
                return
            parts.append(stretch(solution, inside[0], inside[-1]))
        self.listening.in_turn((parts[0], parts[1]), self.desk.state.song)

    def close(self) -> None:
        """Stop what works for the view."""
        self.solver.close()
