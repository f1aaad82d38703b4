"""What the Shapes view does: reads the keys that are held, shows where else they live, puts them into the song."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPoint, QTimer, Signal

from yellow_hinge.app.desk.hands_in import FINGERS, hands_into
from yellow_hinge.app.desk.shelving import take_fit
from yellow_hinge.app.edits.shaping import with_shape
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_shapes import FoundAtlas, FoundIdea, FoundShelf, FoundStands, FoundWays, ShapeFinder
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.fingering import alone
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import Note, parse_pitch, pretty_signs
from yellow_hinge.core.reharm.shelf_fits import Fit
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.naming import Reading, name_notes
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.ui.paint.notes import PlateMark
from yellow_hinge.ui.paint.rows import Row, fill_rows
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.shapes.atlas_working import AtlasWork
from yellow_hinge.ui.shapes.found_rows import (
    FIT,
    STAND,
    above_rows,
    bass_rows,
    hands_of,
    idea_rows,
    in_hands,
    key_rows,
    reading_row,
    shelf_rows,
    stand_rows,
    way_rows,
)
from yellow_hinge.ui.shapes.shelf_working import ShelfWork
from yellow_hinge.ui.shapes.view import ATLAS, NOTHING, ShapesView

PARTS_AT = 60  # middle C begins the right hand
MOST_READINGS = 8
SOON_MS = 30
NO_NAME = "no usual name"
LOOKING = Row("…", "Looking", "", False)


class ShapesRoom(QObject, Quiet):
    """Wires view, desk, live keys and the finder of places."""

    came = Signal(object)

    def __init__(self, shell: Shell, view: ShapesView) -> None:
        super().__init__(view)
        self.shell, self.desk, self.view, self.live = shell, shell.desk, view, shell.live
        self.both = Both((), ())
        self.spelled: tuple[Note, ...] = ()
        self.of: Chord | None = None  # the chord of the song that the hands are of
        self.readings: list[Reading] = []
        self.found: tuple[Fit, ...] = ()  # what of the shelf fits
        self.idea: tuple[Page, ...] = ()  # the song with one shape, on paper
        self.at = 0  # the bass of the ring that is chosen
        self._soon = QTimer(self)  # lists come after the names, and once for keys that come together
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self._fill)
        self.finder = ShapeFinder(self.came.emit, "shapes")
        self.came.connect(self._arrived)
        self.live.changed.connect(self._played)
        view.keys.clicked.connect(self.toggle)
        view.typed.connect(self.write)
        view.ring.picked.connect(self._picked)
        view.paged.connect(self._fill)
        view.seen.connect(self.refresh)
        view.solved_.connect(self.refresh)
        view.reselected.connect(self.refresh)
        for rows in (view.readings, *view.lists.values()):
            rows.taken.connect(self._take_row)
            rows.tried.connect(self._try_row)
        view.atlas.bass_wanted.connect(self._fill)
        strike = lambda both: shell.listening.player.strike(in_hands(both))  # noqa: E731
        self.shelf = ShelfWork(shell, view, lambda: self.found, self._fill, self._soon.start)
        self.atlas = AtlasWork(self.desk, view.atlas, self.finder, strike, self._put, view.foot.setText)
        for button, do in (
            (view.read, self.read_chord), (view.clear, self.clear), (view.hear, self.hear),
            (view.mine, self.save_shape), (view.put, self.take),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, do=do: do())

    # --- the keys ---
    def _played(self) -> None:
        """Other keys are down: they are what is read, until others are."""
        down = tuple(sorted(self.live.notes.down))
        if down and self.view.isVisible():
            self._hold(down, ())

    def toggle(self, midi: int) -> None:
        """A key was clicked: it is held, or let go."""
        held = {*self.both.left, *self.both.right} ^ {midi}
        self.shell.listening.player.strike(((midi, "right" if midi >= PARTS_AT else "left"),))
        self._hold(tuple(sorted(held)), ())

    def write(self, text: str) -> None:
        """Hold the notes that are written, spelled as they are."""
        try:
            pitches = [parse_pitch(word) for word in text.replace(",", " ").split()]
        except UserError as error:
            self.view.told.setText(str(error))
            return
        self._hold(tuple(sorted({pitch.midi for pitch in pitches})), tuple(pitch.note for pitch in pitches))

    def read_chord(self) -> None:
        """Hold the hands of the selected chord."""
        voicing = self.desk.selection.voicing
        if voicing is not None:
            self.both, self.spelled, self.of = voicing.both, (), voicing.chord
            self.refresh()

    def clear(self) -> None:
        """Hold nothing."""
        self._hold((), ())
        self.view.names.clear()

    def _hold(self, midis: tuple[int, ...], spelled: tuple[Note, ...]) -> None:
        left = tuple(midi for midi in midis if midi < PARTS_AT)
        self.both, self.spelled, self.at, self.of = Both(left, midis[len(left) :]), spelled, 0, None
        self.refresh()

    @property
    def midis(self) -> tuple[int, ...]:
        """All keys that are held."""
        return (*self.both.left, *self.both.right)

    @property
    def key(self) -> Key:
        """The key at the selected chord."""
        moment = self.desk.selection.moment
        return moment.key if moment is not None else self.desk.song.the_key

    # --- what is shown ---
    def refresh(self) -> None:
        """Read the keys anew, where the view is looked at."""
        if not self.view.isVisible():
            return
        view, midis = self.view, self.midis
        self.readings = name_notes(midis, self._bass, self.key, MOST_READINGS, self.spelled)
        view.keys.show_marks(self._marks())
        view.heading.setText(pretty_signs(self.readings[0].symbol) if self.readings else NO_NAME if midis else "")
        view.told.setText(self._words() if self.readings else "" if midis else NOTHING)
        fill_rows(view.readings, [reading_row(reading) for reading in self.readings])
        for button in (view.clear, view.hear):
            button.setEnabled(bool(midis))
        for button in (view.mine, view.put):
            button.setEnabled(bool(self.readings))
        view.foot.setText("")
        self._soon.start()

    @property
    def _bass(self) -> int | None:
        """The pitch class that somebody else plays under hands of the song's; None where the lowest key is the bass."""
        solution = self.desk.solution
        theirs = self.of is not None and solution is not None and not solution.setup.mine
        return self.of.bass_note.pc if theirs and self.of is not None else None

    def _words(self) -> str:
        first, number = self.readings[0], self.readings[0].number
        said = f"{number} in {self.key}; " if number else ""
        return pretty_signs(f"{said}{first.why}")

    def _marks(self) -> tuple[PlateMark, ...]:
        chord = self.readings[0].chord if self.readings else None
        held, found = max(len(self.both.left), len(self.both.right)) <= FINGERS, list[PlateMark]()
        fingered = alone(self.both.left, self.both.right) if held else None
        for hand, notes in (("left", self.both.left), ("right", self.both.right)):
            fingers = fingered.of(hand) if fingered is not None else ("",) * len(notes)
            for midi, finger in zip(notes, fingers, strict=True):
                note = chord.note_of(midi % 12) if chord is not None else spell_in_key(midi % 12, self.key)
                degree = chord.degree_of(midi % 12) if chord is not None else ""
                found.append(PlateMark(midi, hand, pretty_signs(degree), pretty_signs(str(note)), str(finger)))
        return tuple(found)

    def _fill(self) -> None:
        """Make the list that is shown anew."""
        view, page = self.view, self.view.page
        if page == ATLAS:
            self.atlas.ask(self.key)
            return
        made = {
            "basses": self._basses, "above": lambda: above_rows(self.both.left or self.both.right, self.key),
            "keys": lambda: key_rows(self.both), "ways": self._look, "idea": self._look, "song": self._look,
            "shelf": self._ask_shelf,
        }  # fmt: skip
        if not self.midis:
            view.ring.show_rows([], -1)
        fill_rows(view.list, made[page]() if self.midis or page == "shelf" else [])
        if page == "basses" and self.midis:
            view.list.setCurrentRow(self.at)

    @property
    def hand(self) -> tuple[int, ...]:
        """The hand that lies over the basses: the right one, or all keys where that rests."""
        return self.both.right or self.both.left

    def _basses(self) -> list[Row]:
        rows, ring = bass_rows(self.hand, self.key)
        self.view.ring.show_rows(ring, self.at)
        return rows

    def _ask_shelf(self) -> list[Row]:
        """Have what of the shelf fits from the selected chord on found beside the window."""
        solution = self.desk.solution
        if solution is None or self.desk.selection.voicing is None:
            return []
        self.finder.ask_shelf(self.shell.mine, solution, self.desk.selection.index)
        return [LOOKING]

    def _look(self) -> list[Row]:
        """Have what the list shows found beside the window."""
        solution, state, first = (
            self.desk.solution,
            self.desk.answers.state,
            self.readings[0] if self.readings else None,
        )
        if solution is None or first is None:
            return []
        chord, page = self.of or first.chord, self.view.page
        if page == "song":
            whole = (own for own in self.readings if not own.rootless and set(own.missing) <= {"5"} and not own.added)
            self.finder.ask_stands(state, solution, [chord, *(own.chord for own in whole)], self.both)
        elif page == "ways":
            self.finder.ask_ways(chord, self.key, solution.setup)
        else:
            sheet = self.shell.preferences.settings.sheet
            self.finder.ask_idea(state, chord, self.both, sheet, self.desk.simple_names)
        return [LOOKING]

    def _arrived(self, found: FoundStands | FoundWays | FoundIdea | FoundShelf | FoundAtlas | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        solution = self.desk.solution
        if found.number != self.finder.asked or solution is None:
            return
        if isinstance(found, FoundAtlas):
            self.view.atlas.show_rows(found.rows)
            return
        if isinstance(found, FoundStands):
            rows, page = stand_rows(found.stands, solution, self.desk.answers.state.song), "song"
        elif isinstance(found, FoundWays):
            rows, page = way_rows(found.ways, found.chord, self.key, solution.setup.mine), "ways"
        elif isinstance(found, FoundShelf):
            self.found, page = found.fits, "shelf"
            rows = shelf_rows(found.fits, found.solution)
            if found.wrong:
                self.view.foot.setText(f"Left out: {found.wrong[0]}")
        elif found.solution is not None:
            rows, page = idea_rows(found.solution, found.shape), "idea"
            self.idea = found.pages
        else:
            rows, page = [Row("", "No such idea", found.fault, False)], "idea"
        fill_rows(self.view.lists[page], rows)

    # --- what is done ---
    def _picked(self, number: int) -> None:
        self.at = number
        self.view.lists["basses"].setCurrentRow(number)
        self._try_row(self.view.lists["basses"].cursor_row)

    def _try_row(self, row: Row | None) -> None:
        """Sound what a row is, and say it."""
        if row is None:
            return
        if self.view.page == "basses" and row == self.view.list.cursor_row:
            self.at = self.view.lists["basses"].currentRow()
            self.view.ring.at = self.at
            self.view.ring.update()
        self.view.foot.setText(f"{row.title}: {row.words}")
        if row.notes:
            self.shell.listening.player.strike(row.notes)

    def step(self, by: int) -> None:
        """Up or down the list that is shown."""
        if self.view.page == ATLAS:
            self.view.atlas.step(by)
        else:
            self.view.list.step(by)

    def across(self, by: int) -> None:
        """To the next class of chords in the catalogue, or the one before."""
        if self.view.page != ATLAS:
            self.view.show_page(ATLAS)
        self.view.atlas.step(0, by)

    def hear(self) -> bool:
        """All keys together."""
        if self.midis:
            self.shell.listening.player.strike(in_hands(self.both))
        return bool(self.midis)

    def pages(self) -> tuple[Page, ...]:
        """The song with one shape on every chord, where that is shown."""
        return self.idea if self.view.page == "idea" else ()

    def take(self) -> None:
        """Put what is under the cursor into the song: of the list, else the hands as they are first read."""
        if self.view.page == ATLAS:
            self.atlas.take()
            return
        row = self.view.list.cursor_row
        chosen = row is not None and bool(row.id and row.notes) and (self.view.page != "basses" or self.at > 0)
        if row is not None and chosen:
            self._take_row(row)
        elif self.readings:
            self._put(self.of or self.readings[0].chord, self.both)

    def _take_row(self, row: Row) -> None:
        if not row.id:
            return
        if row.id.startswith(FIT):
            take_fit(self.desk, self.found[int(row.id[len(FIT) :])])
            return
        if row.id == STAND:
            self.desk.selection.go(row.chord)
            voicing = self.desk.selection.voicing
            chord = voicing.chord if voicing is not None else None
        else:
            chord = next((own.chord for own in self.readings if own.symbol == row.id), None) if not row.notes else None
            chord = chord or parse_symbol(row.id, self.key)
        both = hands_of(row) if row.notes else self.both
        if chord is not None:
            self._put(chord, both)

    def _put(self, chord: Chord, both: Both) -> None:
        try:
            hands_into(self.desk, chord, both)
        except UserError as error:
            self.view.foot.setText(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        self.shell.teller.say(f"{self.desk.document.history.undo_label}; undo takes it back")

    def save_shape(self) -> None:
        """Keep the hands as a shape of the player's own."""
        if not self.readings:
            return
        proposed = f"Shape {len(self.desk.state.setup.player.shapes) + 1}"
        name = self.shell.ask_name("A name for these hands, which every chord may use then:", proposed)
        if not name:
            return
        try:
            state = with_shape(self.desk.state, name, self.readings[0].chord, self.both)
        except UserError as error:
            self.view.foot.setText(str(error))
            return
        self.desk.put_setup(f"save the shape {name}", state.setup)
        self.shell.preferences.remember_shape(state.setup.player.shapes[-1])

    def ask_menu(self, at: QPoint) -> None:
        """Nothing has a menu here."""

    def close(self) -> None:
        """Look through no song any more."""
        self.finder.close()
