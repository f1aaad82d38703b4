"""Going through what can be chosen, taking and leaving it, and hearing it, whichever room is shown."""

from __future__ import annotations

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.lines.room import LINES
from yellow_hinge.ui.parts.rooms import Rooms
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.shapes.room import SHAPES
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.swaps.room import SWAPS
from yellow_hinge.ui.takes.room import TAKES

LISTS = (HINGES, SWAPS, TAKES, PLAYING, SHEET)
HEARD = (HINGES, SWAPS, PLAYING, LINES, SHEET, SHAPES)


class Choosing:
    """Asks the room that is shown."""

    def __init__(self, shell: Shell, rooms: Rooms) -> None:
        self.shell, self.rooms = shell, rooms

    def step(self, by: int) -> None:
        """Up or down the list."""
        self.rooms.now.step(by)

    def take(self) -> None:
        """Take what is under the cursor."""
        self.rooms.now.take()

    def leave(self) -> None:
        """Drop what is tried, else the mark; in the Swaps room, where nothing is, go home."""
        left = self.rooms.now.leave()
        if not (left or self.shell.desk.selection.unmark()) and self.rooms.now_handle is SWAPS:
            self.rooms.show_room(HINGES)
        self.shell.keys.refresh()

    def hear(self) -> None:
        """Sound the selected chord once, as it is tried."""
        if not self.rooms.now.hear():
            self.shell.listening.chord()

    def in_turn(self) -> None:
        """Hear two ways in turn: of two takes where they are shown, else of the swap that is tried."""
        if not self.rooms.now.in_turn():
            self.rooms.room(SWAPS).in_turn()

    def shelve(self) -> None:
        """Put what the room shows on the shelf, else the hands of the chords."""
        if not self.rooms.now.shelve():
            self.rooms.room(SHAPES).shelf.put()


# fmt: off
COMMANDS: Commands[Choosing] = Commands(Choosing, (
    Command("option_up", "Chord", "Way above", ("Up",), "Try the way above in the list",
            lambda choosing: choosing.step(-1), (*LISTS, LINES, SHAPES)),
    Command("option_down", "Chord", "Way below", ("Down",), "Try the way below in the list",
            lambda choosing: choosing.step(1), (*LISTS, LINES, SHAPES)),
    Command("take", "Chord", "Take this way", ("Return", "Enter"), "Play the chord this way and keep it",
            lambda choosing: choosing.take(), (*LISTS, LINES, PRACTICE, SHAPES)),
    Command("exchange", "Chord", "Next best", ("X",), "The next best line, or swap in the place of a change",
            lambda choosing: choosing.rooms.now.exchange(), (SWAPS, LINES)),
    Command("swap", "Chord", "Swap this chord", ("S",), "See other chords for this one",
            lambda choosing: choosing.rooms.show_room(SWAPS), (HINGES,), on=("chord", "hinge")),
    Command("shelve", "Chord", "Onto my shelf…", ("Shift+M",), "The marked chords' hands, or in Lines the line",
            lambda choosing: choosing.shelve()),
    Command("forget", "Chord", "Leave it as it is", ("Escape",), "Drop what is tried",
            lambda choosing: choosing.leave(), (*LISTS, PRACTICE)),
    Command("play_chord", "Listen", "Hear this chord", ("P",), "Sound the selected chord once",
            lambda choosing: choosing.hear(), HEARD, on=("chord", "note", "sheet")),
    Command("play_turn", "Listen", "Hear both in turn", ("I",), "In the Swaps view: as it is, then changed",
            lambda choosing: choosing.in_turn(), (HINGES, SWAPS, TAKES)),
))
# fmt: on
