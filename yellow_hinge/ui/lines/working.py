"""What the Lines view does: finds lines beside the window, shows them, lets notes be held, sounds and keeps them."""

from __future__ import annotations

from bisect import bisect_right
from fractions import Fraction

from PySide6.QtCore import QObject, QPoint, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.touched import SLIGHT, Touched
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_lines import FoundLines, LineFinder
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.lines import Asked, Line, LineNote, Over
from yellow_hinge.core.lines.rails import MIDDLE
from yellow_hinge.core.lines.text import read, step_of, written
from yellow_hinge.core.lines.tune import as_tune
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.lines.scene import line_scene
from yellow_hinge.ui.lines.view import LinesView
from yellow_hinge.ui.paint.rows import Row, fill_rows
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.sound.listening import Listening

LOOKING = "Looking for lines…"
MINE = "written by you"


class LinesRoom(QObject, Quiet):
    """Wires view, desk, finder and listening."""

    came = Signal(object)

    def __init__(self, desk: Desk, view: LinesView, listening: Listening) -> None:
        super().__init__(view)
        self.desk, self.view, self.listening = desk, view, listening
        self.finder = LineFinder(self.came.emit, "lines")
        self.came.connect(self._arrived)
        self.found: FoundLines | None = None
        self.at = 0  # which of the lines is shown
        self.own: Line | None = None  # one that was written
        self.text = ""  # how it was written
        self.held: dict[Fraction, int] = {}
        view.changed_.connect(self._changed)
        for told in (view.solved_, view.seen, view.remarked):
            told.connect(self.ask)
        view.asked.connect(self._anew)
        view.reselected.connect(self._reselected)
        view.resized.connect(self.redraw)
        view.typed.connect(self.write)
        view.canvas.picked.connect(self._picked)
        view.canvas.held.connect(self.hold)
        view.next.clicked.connect(self.exchange)
        view.free.clicked.connect(self.let_go)
        view.play.clicked.connect(lambda _=False: self.hear())
        view.keep.clicked.connect(lambda _=False: self.take())

    # --- what is shown ---
    def _changed(self, what: Touched) -> None:
        if what & ~SLIGHT:
            self.held.clear()

    def _anew(self) -> None:
        """Something else is asked: another part has other notes."""
        self.held.clear()
        self.ask()

    def _span(self) -> tuple[int, int] | None:
        """The chords that a line is for: those marked, of the selected chord's section, or all."""
        solution, selection = self.desk.solution, self.desk.selection
        if solution is None or not solution.voicings or selection.voicing is None:
            return None
        part, last = self.view.part.currentIndex(), len(solution.voicings) - 1
        if part == 2 and selection.marked:
            return selection.marked[0], selection.marked[-1]
        if part == 1:
            return 0, last
        here = selection.voicing.here
        own = [
            n for n, v in enumerate(solution.voicings) if (v.here.section, v.here.turn) == (here.section, here.turn)
        ]  # fmt: skip
        return own[0], own[-1]

    def ask(self) -> None:
        """Have lines found, where the view is looked at."""
        span, solution = self._span(), self.desk.solution
        if not self.view.isVisible():
            return
        if span is None or solution is None:
            self.found = None
            self.redraw()
            return
        view = self.view
        asked = Asked(view.chosen_rail, view.density.currentText(), view.boldness, tuple(sorted(self.held.items())))
        view.told.setText(LOOKING)
        self.finder.ask(solution, *span, asked)

    def _arrived(self, found: FoundLines | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number == self.finder.asked and found.solution is self.desk.solution:
            self.found, self.at, self.own, self.text = found, 0, None, ""
            self.redraw()

    @property
    def line(self) -> Line | None:
        """The line that is shown."""
        if self.own is not None or self.found is None or not self.found.lines:
            return self.own
        return self.found.lines[self.at % len(self.found.lines)]

    @property
    def moments(self) -> list[Moment]:
        """The chords that it is for."""
        found = self.found
        return [v.here for v in found.solution.voicings[found.first : found.last + 1]] if found is not None else []

    def redraw(self) -> None:
        """Lay out what was found."""
        view, found, line = self.view, self.found, self.line
        room = view.area.maximumViewportSize()
        scene = line_scene(found.chords, line, room.width() - 2, room.height() - 18) if found is not None else None
        view.canvas.fast = frozenset(
            n for n, note in enumerate(line.notes if line is not None else ()) if note.onset in self.held
        )
        view.canvas.show_scene(scene)
        own = self.own is not None
        text = self.text if own or line is None else pretty_signs(written(line, self.moments, MIDDLE))
        view.written_.setText(text)
        view.written_.setCursorPosition(0)
        for button in (view.next, view.play, view.keep):
            button.setEnabled(line is not None)
        view.free.setVisible(bool(self.held))
        view.told.setText(self._words())
        self._reselected()

    def _words(self) -> str:
        found, line = self.found, self.line
        if found is None:
            return ""
        if line is None:
            return found.fault
        if self.own is not None:
            return "A line of yours: Enter in the text reads it again, X goes back to those that were found."
        number = self.at % len(found.lines) + 1
        return f"Line {number} of {len(found.lines)}, {line.cost:g}. Drag a note to hold it; X is the next best."

    def _reselected(self) -> None:
        """Another chord: its scales."""
        found, at = self.found, self.desk.selection.index
        inside = found is not None and found.first <= at <= found.last
        fresh = found is not None and found.solution is self.desk.solution
        if fresh and not inside and self.view.part.currentIndex() == 0 and self.view.isVisible():
            self.ask()  # another section
            return
        self.view.canvas.chord = at - found.first if found is not None and inside else -1
        self.view.canvas.update()
        rows = self._scales(found.chords[at - found.first]) if found is not None and inside else []
        fill_rows(self.view.scales, rows)

    def _scales(self, each: Over) -> list[Row]:
        """The scales that fit a chord; what it is to land on stands over them."""
        assert each.moment.chord is not None
        symbol, land = write_symbol(each.moment.chord), ", ".join(each.land_on[:3])
        self.view.heading.setText(pretty_signs(f"Over {symbol}: land on {land}"))
        rows = []
        for number, scale in enumerate(each.scales, 1):
            name = pretty_signs(f"{scale.name}: {' '.join(map(str, scale.notes))}")
            passing = f"; only passing: {' '.join(map(str, scale.passing))}" if scale.passing else ""
            rows.append(Row(str(number), name, pretty_signs(f"{scale.why}{passing}"), False))
        return rows

    # --- what is done ---
    def _picked(self, chord: int) -> None:
        if self.found is not None:
            self.desk.selection.go(self.found.first + chord)

    def hold(self, number: int, midi: int) -> None:
        """Hold a note of the line at a pitch; the rest is found around it."""
        line = self.line
        if line is not None and 0 <= number < len(line.notes):
            self.held[line.notes[number].onset] = midi
            self.ask()

    def let_go(self) -> None:
        """Hold no note any more."""
        self.held.clear()
        self.ask()

    def exchange(self) -> None:
        """The next best line."""
        self.at = 0 if self.own is not None else self.at + 1
        self.own, self.text = None, ""
        self.redraw()

    def write(self, text: str) -> None:
        """Read a line that was written in degrees."""
        line, moments = self.line, self.moments
        if line is None or not moments:
            return
        try:
            notes = read(text.replace("♭", "b").replace("♯", "#"), moments, step_of(line, moments), MIDDLE)
        except UserError as error:
            self.view.told.setText(str(error))
            return
        made, starts = [], [moment.quarter for moment in moments]
        for onset, quarters, midi in notes:
            at = bisect_right(starts, onset) - 1
            chord = moments[at].chord
            assert chord is not None
            made.append(LineNote(onset, quarters, midi, at, chord.degree_of(midi % 12), MINE))
        self.own, self.text = Line(tuple(made), 0.0), text
        self.redraw()

    def hear(self) -> bool:
        """Sound the line over the hands, or stop."""
        found, line = self.found, self.line
        if found is None or line is None:
            return False
        notes = [(note.onset, note.quarters, note.midi, found.first + note.at) for note in line.notes]
        self.listening.with_line(notes, found.first, found.last)
        return True

    def take(self) -> None:
        """The line becomes the song's tune."""
        line, moments = self.line, self.moments
        if line is not None and moments:
            where = self.desk.song.sections[moments[0].section].name
            self.desk.edit_chart(f"a line as the tune of {where}", lambda song: as_tune(song, line, moments))

    def ask_menu(self, at: QPoint) -> None:
        """The menu of the chord."""

    def close(self) -> None:
        """Find nothing any more."""
        self.finder.close()
