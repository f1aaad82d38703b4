"""What the Lines view does: finds lines beside the window, shows them, lets notes be held, sounds and keeps them."""

from __future__ import annotations

from fractions import Fraction

from PySide6.QtCore import QObject, QPoint, Signal

from yellow_hinge.app.desk.lining import drop_line, keep_line, kept_line, sounded
from yellow_hinge.app.edits.touched import SLIGHT, Touched
from yellow_hinge.app.mine.using import use_kind
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_lines import FoundLines, LineFinder
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.lines.onsets import Asked, Over
from yellow_hinge.core.lines.rails import HIGH, LOW, RANGES
from yellow_hinge.core.lines.text import line_of, read, step_of, written
from yellow_hinge.core.lines.tune import as_tune
from yellow_hinge.core.own.lines import LineFit
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.lines.along import PlayAlong
from yellow_hinge.ui.lines.scene import line_scene
from yellow_hinge.ui.lines.shelf_working import LineShelf, fit_words
from yellow_hinge.ui.lines.view import LinesView
from yellow_hinge.ui.paint.rows import Row, fill_rows
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.parts.shell import Shell

LOOKING = "Looking for lines…"
KEEP = "The take keeps the line: it is heard, printed and practised with the hands (Enter)"
LET_GO = "The take keeps no line over these chords any more (Delete)"
MINE = "written by you"


class LinesRoom(QObject, Quiet):
    """Wires view, desk, finder and listening."""

    came = Signal(object)

    def __init__(self, shell: Shell, view: LinesView) -> None:
        super().__init__(view)
        self.shell, self.desk, self.view, self.listening = shell, shell.desk, view, shell.listening
        self.shelf = LineShelf(shell, self)
        self.finder = LineFinder(self.came.emit, "lines")
        self.came.connect(self._arrived)
        self.found: FoundLines | None = None
        self.at = 0  # which of the lines is shown
        self.kept: Line | None = None  # the one that the take keeps there
        self.mine: tuple[LineFit, ...] = ()  # those of the player's own that fit, the next ones first
        self.along = PlayAlong(view, shell.listening, shell.live)
        self.own: Line | None = None  # one that was written
        self._own_covers = (0, 0)  # the chords of the part that it was written over
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
        view.tune.clicked.connect(lambda _=False: self.as_tune())
        view.along.toggled.connect(self.play_along)

    # --- what is shown ---
    def _changed(self, what: Touched) -> None:
        if what & ~(SLIGHT | Touched.PLAYING):
            self.held.clear()
        elif what & Touched.PLAYING and self.found is not None:
            self.at, self.own, self.text = 0, None, ""
            self._find_kept()
            self.redraw()

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
        held, within = tuple(sorted(self.held.items())), RANGES[view.range.currentText()]
        asked = Asked(view.chosen_rail, view.density.currentText(), view.boldness, held, within)
        view.told.setText(LOOKING)
        self.finder.ask(solution, *span, asked)

    def _arrived(self, found: FoundLines | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number == self.finder.asked and found.solution is self.desk.solution:
            self.found, self.at, self.own, self.text = found, 0, None, ""
            self._find_kept()
            self._sort_mine()
            self.redraw()

    def _find_kept(self) -> None:
        """What the take keeps over these chords; what is found around held notes comes before it."""
        found, playing = self.found, self.desk.state.playing
        kept = found is not None and not self.held
        self.kept = kept_line(found.solution, playing, found.first, found.last) if kept and found is not None else None

    def _sort_mine(self) -> None:
        """The player's own lines that fit, those from the selected chord on first; none while notes are held."""
        found, selection = self.found, self.desk.selection
        at = selection.marked[0] if selection.marked else selection.index
        mine = found.mine if found is not None and not self.held else ()
        near = at - found.first if found is not None else 0
        self.mine = tuple(sorted(mine, key=lambda fit: (fit.first < near, fit.first)))

    @property
    def lines(self) -> tuple[Line, ...]:
        """What can be looked at: the line that is kept, then the player's own, then those that were found."""
        found = self.found.lines if self.found is not None else ()
        kept = (self.kept,) if self.kept is not None else ()
        return (*kept, *(fit.line for fit in self.mine), *found)

    @property
    def fit(self) -> LineFit | None:
        """The line of the player's own that is shown; None where it is another."""
        line = self.line if self.own is None else None
        return next((fit for fit in self.mine if fit.line is line), None)

    @property
    def line(self) -> Line | None:
        """The line that is shown."""
        lines = self.lines
        return self.own if self.own is not None or not lines else lines[self.at % len(lines)]

    @property
    def shows_kept(self) -> bool:
        """Whether what is shown is what the take keeps."""
        return self.own is None and self.kept is not None and self.line is self.kept

    @property
    def covers(self) -> tuple[int, int]:
        """The chords of the part, from the first to the last, that the line which is shown is over."""
        fit, found = self.fit, self.found
        if self.own is not None:
            return self._own_covers
        return (fit.first, fit.last) if fit is not None else (0, found.last - found.first if found is not None else 0)

    @property
    def begins(self) -> int:
        """The chord of the solution that the line which is shown begins with."""
        return (self.found.first if self.found is not None else 0) + self.covers[0]

    @property
    def moments(self) -> list[Moment]:
        """The chords that it is for."""
        found = self.found
        if found is None:
            return []
        first, last = (found.first + chord for chord in self.covers)
        return [voicing.here for voicing in found.solution.voicings[first : last + 1]]

    def rebased(self, line: Line) -> Line:
        """The line that is shown with its chords counted from the first of `moments`."""
        by = self.covers[0]
        return Line(tuple(note._replace(at=note.at - by) for note in line.notes), line.cost) if by else line

    def redraw(self) -> None:
        """Lay out what was found."""
        self._show_line()
        self._show_chord()

    def _show_line(self) -> None:
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
        for button in (view.next, view.play, view.keep, view.tune, view.along):
            button.setEnabled(line is not None)
        view.keep.setText("Let it go" if self.shows_kept else "Keep")
        view.keep.setToolTip(LET_GO if self.shows_kept else KEEP)
        view.free.setVisible(bool(self.held))
        view.told.setText(self._words())
        if self.fit is not None:
            view.bring(self.fit.first)

    def _words(self) -> str:
        found, line = self.found, self.line
        if found is None:
            return ""
        if line is None:
            return found.fault
        if self.own is not None:
            return "A line of yours: Enter in the text reads it again, X goes back to those that were found."
        if self.shows_kept:
            return "The line that this take keeps: heard, printed and practised with it. X looks for others."
        fit = self.fit
        if fit is not None:
            return pretty_signs(fit_words(fit, self.moments[0].bar + 1))
        number = self.at % len(self.lines) + (self.kept is None) - len(self.mine)
        return f"Line {number} of {len(found.lines)}, {line.cost:g}. Drag a note to hold it; X is the next best."

    def _reselected(self) -> None:
        """Another chord."""
        found, at = self.found, self.desk.selection.index
        inside = found is not None and found.first <= at <= found.last
        fresh = found is not None and found.solution is self.desk.solution
        if fresh and not inside and self.view.part.currentIndex() == 0 and self.view.isVisible():
            self.ask()  # another section
            return
        if fresh and inside and self.fit is not None:  # the next of mine from there on
            self._sort_mine()
            self.at = int(self.kept is not None)
            self._show_line()
        self._show_chord()

    def _show_chord(self) -> None:
        """Where the selected chord is, and its scales."""
        found, at = self.found, self.desk.selection.index
        inside = found is not None and found.first <= at <= found.last
        self.view.show_chord(at - found.first if found is not None and inside else -1)
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

    def step(self, by: int) -> None:
        """Choose the rail above or below."""
        rails = list(self.view.rail)
        self.view.rail[rails[(rails.index(self.view.chosen_rail) + by) % len(rails)]].click()

    def next_note(self, by: int) -> None:
        """Choose the next note of the line, or the one before; of nothing chosen the first over the selected chord."""
        line, canvas = self.line, self.view.canvas
        if line is None or not line.notes:
            return
        if 0 <= canvas.note < len(line.notes):
            number = (canvas.note + by) % len(line.notes)
        else:
            number = next((n for n, note in enumerate(line.notes) if note.at == canvas.chord), 0)
        canvas.note = number
        note = line.notes[number]
        self.view.told.setText(pretty_signs(f"{note.degree}: {note.why}; Shift+Up and Shift+Down move it, H holds it"))
        canvas.update()

    def move_note(self, by: int) -> None:
        """Hold the chosen note, so many half steps higher."""
        line, number = self.line, self.view.canvas.note
        if line is not None and 0 <= number < len(line.notes):
            self.hold(number, min(HIGH, max(LOW, line.notes[number].midi + by)))

    def let_go(self) -> None:
        """Hold no note any more."""
        self.held.clear()
        self.ask()

    def exchange(self) -> None:
        """The next best line."""
        self.at = 0 if self.own is not None else self.at + 1
        self.view.canvas.note = -1
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
        covers, made = self.covers, line_of(notes, moments, MINE)
        made = Line(tuple(note._replace(at=note.at + covers[0]) for note in made.notes), 0.0)
        self.own, self._own_covers, self.text = made, covers, text
        self.redraw()

    def hear(self) -> bool:
        """Sound the line over the hands, or stop."""
        found, line = self.found, self.line
        if found is None or line is None:
            return False
        first, last = (found.first + chord for chord in self.covers)
        self.listening.with_line(sounded(line, found.first), first, last)
        return True

    def play_along(self, on: bool) -> None:
        """Begin to play along, or end it."""
        found = self.found
        if on and found is not None and found.chords:
            self.along.begin(found.chords, found.first, found.last)
        elif self.along.on:
            self.along.stop()
            self.listening.stop()
            self.view.told.setText(self._words())

    def put_down(self) -> None:
        """Nobody plays along any more."""
        self.view.along.setChecked(False)

    def take(self) -> None:
        """Keep the line in the take; the one that is kept is let go."""
        line, moments = self.line, self.moments
        if self.shows_kept:
            self.drop()
        elif line is not None and moments:
            keep_line(self.desk, self.rebased(line), moments)

    def drop(self) -> None:
        """Keep no line over these chords."""
        if self.kept is not None and self.moments:
            drop_line(self.desk, self.moments)

    def as_tune(self) -> None:
        """The line becomes the song's tune."""
        line, moments = self.line, self.moments
        if line is not None and moments:
            own = self.rebased(line)
            where = self.desk.song.sections[moments[0].section].name
            self.desk.edit_chart(f"a line as the tune of {where}", lambda song: as_tune(song, own, moments))

    def shelve(self) -> bool:
        """The line that is shown goes on the shelf."""
        self.shelf.put()
        return True

    def use_folder(self) -> None:
        """The player's own lines are others: take them over, and ask anew."""
        use_kind(self.shell.mine, "line")
        self.ask()

    def ask_menu(self, at: QPoint) -> None:
        """The menu of the chord."""

    def close(self) -> None:
        """Find nothing any more."""
        self.finder.close()
