"""Sheets from any room: printing and exporting what the Sheet room shows."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.parts.rooms import Rooms
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.sheet.room import SHEET

if TYPE_CHECKING:
    from yellow_hinge.core.sheet.page import Page

SCORE = ".musicxml"


class SheetOut:
    """To printers and files."""

    def __init__(self, window: QWidget, desk: Desk, rooms: Rooms, saving: Saving, teller: Teller) -> None:
        self.window_, self.desk, self.rooms, self.saving, self.teller = window, desk, rooms, saving, teller

    def print_(self) -> None:
        """Ask for a printer and print the pages."""
        pages = self._pages()
        if not pages:
            return
        from yellow_hinge.ui.dialogs import print_dialog
        from yellow_hinge.ui.files.printing import new_printer, print_pages

        title = self.desk.state.song.title
        printer = new_printer(pages[0], title)
        if print_dialog.ask(self.window_, printer, len(pages)):
            count = print_pages(printer, pages)
            self.teller.say(f"Printed {title}, {count} page{'' if count == 1 else 's'}.")

    def export(self) -> None:
        """Ask for a file and write the pages to it, or the score."""
        if not self._pages():
            return
        from yellow_hinge.io.formats import PAGES, WRITERS

        kinds = {ending: WRITERS[ending].name for ending in (*PAGES, SCORE)}
        path = self.saving.ask_export(self.desk.state.song.title, kinds)
        if path is not None:
            self.export_to(path)

    def export_to(self, path: Path) -> bool:
        """Write what the room shown has, or the Sheet room, to a file; whether it went well."""
        own = self.rooms.now.pages()
        if own and path.suffix.lower() != SCORE:
            return self.saving.export_pages(path, own)
        room = self.rooms.room(SHEET)
        if path.suffix.lower() == SCORE:
            from yellow_hinge.app.solving.of_sheets import sheet_state

            return self.saving.export_state(path, sheet_state(room.part() or self.desk.state, room.wanted))
        return self.saving.export_pages(path, room.sheet.pages)

    def _pages(self) -> tuple[Page, ...]:
        """The pages that are shown; where the room was not looked at yet it is shown, and this is to be asked again."""
        pages = self.rooms.now.pages() or self.rooms.at(SHEET).sheet.pages
        if not pages:
            self.teller.say("The sheet is being written. Ask again when it is there.")
        return pages


# fmt: off
COMMANDS: Commands[SheetOut] = Commands(SheetOut, (
    Command("print_sheet", "Song", "Print the sheet…", ("Ctrl+P",), "Print what Sheet shows, or one idea of Shapes",
            lambda out: out.print_()),
    Command("export_sheet", "Song", "Export the sheet…", ("Ctrl+Shift+E",), "Its pages as PDF, SVG, PNG, or the score",
            lambda out: out.export(), on=("sheet",)),
))
# fmt: on
