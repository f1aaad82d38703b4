"""The rooms of the window in the order of work, and every table of commands in the order of the menus."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QMainWindow

from yellow_hinge.ui.book import room as book
from yellow_hinge.ui.chart import room as chart
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.dialogs import asker
from yellow_hinge.ui.files import files, hearing, own_data, saving
from yellow_hinge.ui.help import helping
from yellow_hinge.ui.hinges import room as hinges
from yellow_hinge.ui.lines import room as lines
from yellow_hinge.ui.onstage import staging
from yellow_hinge.ui.parts import menus
from yellow_hinge.ui.parts.rooms import Handle, Rooms
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.shapes import room as shapes
from yellow_hinge.ui.sheet import out
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.shell import clipboard, drawers
from yellow_hinge.ui.shell.commands import choosing, seeing
from yellow_hinge.ui.shell.commands import desk as desk_commands
from yellow_hinge.ui.shell.commands import listening as listen_commands
from yellow_hinge.ui.swaps import room as swaps
from yellow_hinge.ui.takes import anywhere
from yellow_hinge.ui.takes import room as takes

ROOMS: tuple[Handle[Any], ...] = (
    chart.CHART, hinges.HINGES, swaps.SWAPS, takes.TAKES, PLAYING, lines.LINES, SHEET, PRACTICE, shapes.SHAPES,
    book.BOOK,
)  # fmt: skip
HOME = hinges.HINGES

_QUIT: Commands[QMainWindow] = Commands(QMainWindow, (
    Command("quit", "Song", "Quit", ("Ctrl+Q",), "Close the program", lambda window: window.close()),
))  # fmt: skip


def _shows(room: Handle[Any]) -> Command[Rooms]:
    return Command(f"view_{room.id}", "View", room.title, (room.key,), room.tip, lambda rooms: rooms.show_room(room))


_VIEWS: Commands[Rooms] = Commands(Rooms, tuple(map(_shows, ROOMS)))
SETS: tuple[Commands[Any], ...] = (
    files.COMMANDS, hearing.COMMANDS, saving.COMMANDS, out.COMMANDS, _QUIT, desk_commands.COMMANDS, choosing.COMMANDS,
    drawers.COMMANDS,
    clipboard.COMMANDS,
    asker.COMMANDS, own_data.COMMANDS, _VIEWS, hinges.COMMANDS, swaps.COMMANDS, lines.COMMANDS, shapes.COMMANDS,
    book.COMMANDS, listen_commands.COMMANDS,
    chart.COMMANDS, takes.COMMANDS,
    anywhere.COMMANDS, staging.COMMANDS, seeing.COMMANDS, menus.COMMANDS, helping.COMMANDS,
)  # fmt: skip
MENUS = ("Song", "Edit", "Chord", "Keep", "Listen", "Chart", "Takes", "View", "Help")
COMMANDS: tuple[Command[Any], ...] = tuple(
    sorted((command for own in SETS for command in own.all), key=lambda command: MENUS.index(command.menu))
)
