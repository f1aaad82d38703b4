"""The Hinges room, the home of the desk's keys: the map, what is tried on it, hands that are entered."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPoint

from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.hinges.entering import Entering
from yellow_hinge.ui.hinges.mine import MineOffer
from yellow_hinge.ui.hinges.moving import NoteMover
from yellow_hinge.ui.hinges.trying import Trying
from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.paint.notes import LABELS
from yellow_hinge.ui.paint.strand.strands import LEAST_W, MOST_W
from yellow_hinge.ui.parts.rooms import Handle, Quiet
from yellow_hinge.ui.parts.shell import Shell


class HingesRoom(QObject, Quiet):
    """Ties the map and its lists to the keyboards, the ear and what the player tries."""

    def __init__(self, shell: Shell) -> None:
        super().__init__()
        self.shell, self.desk = shell, shell.desk
        self.view = HingesView(shell.desk, shell.look.theme, shell.listening)
        self.setParent(self.view)
        settings, strike = shell.preferences.settings, shell.listening.player.strike
        if LEAST_W <= settings.column_w <= MOST_W:
            self.view.map.column_w = settings.column_w
        if settings.labels in LABELS:
            self.view.map.set_labels(settings.labels)
        for fold in self.view.folds:
            fold.setChecked(settings.unfolded.get(fold.name, False))
            fold.turned.connect(shell.preferences.unfold)
        say, unsay = shell.teller.say, shell.teller.unsay
        self.mover = NoteMover(shell.desk, say, self.view)
        self.entering = Entering(shell.desk, self.mover, say, lambda midi: strike(((midi, "right"),)))
        self.trying = Trying(self.view, shell.keys, self.mover, shell.listening, say, self.entering, unsay)
        self.view.options.taken.connect(self.desk.take)
        self.mine = MineOffer(shell.desk, self.view.options, shell.mine)
        self.view.wishes.forgotten.connect(self.forget_shape)
        canvas = self.view.map.canvas
        canvas.asked.connect(lambda thing, _, at: shell.things.open(thing, at))
        canvas.ringed_.connect(self.mover.ring)
        canvas.edited.connect(lambda what, index, area: shell.in_place.of_chord(what, index, canvas, area))
        shell.live.notes.listeners.append(self._struck)
        self.desk.listeners.append(self._on_desk)

    def _struck(self, event: NoteEvent) -> None:
        """A key of any keyboard: while hands are entered it is one of theirs."""
        if self.entering.on and event.kind == "press":
            self.entering.note(event.midi)

    def _on_desk(self, what: Event) -> None:
        """What was tried is not of this chord, or not of this solution."""
        if what in (Event.SELECTION, Event.SOLUTION) or (what == Event.STATE and self.desk.solution is None):
            self.mover.forget()

    # --- what a room is asked ---
    def step(self, by: int) -> None:
        """Up or down the list that is shown."""
        self.view.side.step(by)

    def take(self) -> None:
        """Take the notes that are moved, else what is under the cursor."""
        if not self.mover.take():
            self.view.side.take()

    def leave(self) -> bool:
        """Leave the chord as it is."""
        return self.mover.forget()

    def put_down(self) -> None:
        """Another room is about to be shown: no hands are entered any more."""
        if self.entering.on:
            self.entering.toggle()
        self.mover.forget()
        self.shell.keys.refresh()

    def hear(self) -> bool:
        """Sound the selected chord as it is tried."""
        self.shell.listening.chord(self.view.options.current)
        return True

    def ask_menu(self, at: QPoint) -> None:
        """Of the ringed note, else of the chord."""
        self.shell.things.open("note" if self.mover.note is not None else "chord", at)

    def close(self) -> None:
        """Enter nothing, stop what works for the lists."""
        self.put_down()
        self.view.side.close_room()
        self.mine.close()

    # --- commands ---
    def one_pass(self) -> None:
        """What is taken, kept and asked of a repeat is for this pass alone, or for all of them."""
        self.desk.selection.turn_pass()
        self.view.options.show_passes()
        self.shell.teller.say("For this pass only." if self.desk.selection.this_pass else "For all passes.")

    def next_labels(self) -> None:
        """Degrees, then names, then fingers on the plates."""
        kind = self.shell.preferences.next_labels(self.view.map.canvas.labels)
        self.view.map.set_labels(kind)
        self.shell.teller.say(f"The plates show {kind}.")

    def capture_shape(self) -> None:
        """Save the hands of the selected chord, as they are tried, as a shape of the player's own."""
        from yellow_hinge.ui.hinges.capturing import capture_shape  # seldom needed

        tried, shell = self.view.options.current, self.shell
        capture_shape(self.view.window(), self.desk, tried, shell.preferences, shell.teller.say)

    def forget_shape(self, shape: MyShape) -> None:
        """Forget a shape of the player's own."""
        from yellow_hinge.ui.hinges.capturing import forget_shape

        forget_shape(self.desk, self.shell.preferences, shape)


HINGES: Handle[HingesRoom] = Handle("hinges", "Hinges", "Ctrl+2", "Choose how the hands play every chord", HingesRoom)
_HERE = (HINGES,)

# fmt: off
COMMANDS: Commands[HingesRoom] = Commands(HINGES, (
    Command("pin", "Chord", "Hold against others", ("C",), "Compare this way with the next ones tried",
            lambda room: room.view.side.options.pin(), _HERE),
    Command("ring", "Chord", "Next note", ("N",), "Ring the next note of the chord, for moving it",
            lambda room: room.mover.next_note(), _HERE),
    Command("note_up", "Chord", "Note up", ("Shift+Up",), "Try the ringed note a half step higher",
            lambda room: room.mover.nudge(1), _HERE, on=("note",)),
    Command("note_down", "Chord", "Note down", ("Shift+Down",), "Try the ringed note a half step lower",
            lambda room: room.mover.nudge(-1), _HERE, on=("note",)),
    Command("take_mine", "Chord", "Mine from my shelf", ("Alt+M",), "The hands of your own shelf that fit these chords",
            lambda room: room.mine.take(), _HERE),
    Command("capture", "Chord", "Save as a shape of mine…", ("M",), "Use this chord's hands as a shape",
            lambda room: room.capture_shape(), _HERE, on=("chord",)),
    Command("this_pass", "Keep", "For this pass only", ("A",), "What is taken of a repeat is for this pass, or for all",
            lambda room: room.one_pass(), _HERE, on=("chord",)),
    Command("enter_hands", "Keep", "Enter my hands", ("E",), "Put in the hands you play, chord by chord",
            lambda room: room.entering.toggle(), _HERE),
    Command("labels", "View", "Degrees, names or fingers", ("D",), "Change what stands on the plates",
            lambda room: room.next_labels(), _HERE),
    Command("zoom_in", "View", "Wider columns", ("Ctrl+=", "Ctrl++"), "Fewer chords, larger",
            lambda room: room.view.map.zoom(1), _HERE),
    Command("zoom_out", "View", "Narrower columns", ("Ctrl+-",), "More chords at once",
            lambda room: room.view.map.zoom(-1), _HERE),
    Command("fit", "View", "Whole song at once", ("F",), "Fit the song into the map, or back",
            lambda room: room.view.map.fit(), _HERE),
    Command("page_ways", "View", "Ways to play", ("1",), "List the ways to play this chord",
            lambda room: room.view.side.show_page("ways"), _HERE),
    Command("page_stiff", "View", "Stiff hinges", ("2",), "List the hardest hinges",
            lambda room: room.view.side.show_page("stiff"), _HERE),
    Command("page_bass", "View", "The bass line", ("3",), "List how the bass goes",
            lambda room: room.view.side.show_page("bass"), _HERE),
    Command("page_own", "View", "My hands beside the best", ("5",), "What my hands move, and could",
            lambda room: room.view.side.show_page("own"), _HERE),
    Command("page_fills", "View", "Lead-ins and fills", ("6",), "Notes that lead into this chord or move inside it",
            lambda room: room.view.side.show_page("fills"), _HERE),
    Command("page_wide", "View", "Wider than my hands", ("7",), "What a hand that is too wide may leave away, in order",
            lambda room: room.view.side.show_page("wide"), _HERE, on=("chord",)),
    Command("page_basses", "View", "Hand over other basses", ("4", "O"), "This hand over twelve basses",
            lambda room: room.view.side.show_page("basses"), _HERE),
))
# fmt: on
