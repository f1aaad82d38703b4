"""Commands on sheets, from any view: printing and exporting what the Sheet view shows."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from yellow_hinge.app.solving.of_sheets import sheet_state

SCORE = ".musicxml"


def print_sheet(window: Any) -> None:
    """Ask for a printer and print the pages."""
    pages = _pages(window)
    if not pages:
        return
    from yellow_hinge.ui.dialogs import asking
    from yellow_hinge.ui.files.printing import new_printer, print_pages

    title = window.desk.state.song.title
    printer = new_printer(pages[0], title)
    if asking.printer(window, printer):
        print_pages(printer, pages)
        window.say(f"Printed {title}, {len(pages)} page{'' if len(pages) == 1 else 's'}.")


def export_sheet(window: Any) -> None:
    """Ask for a file and write the pages to it, or the score."""
    pages = _pages(window)
    if not pages:
        return
    from yellow_hinge.io.formats import PAGES, WRITERS

    kinds = {ending: WRITERS[ending].name for ending in (*PAGES, SCORE)}
    path = window.saving.ask_export(window.desk.state.song.title, kinds)
    if path is not None:
        export_sheet_to(window, path)


def export_sheet_to(window: Any, path: Path) -> bool:
    """Write what the Sheet view shows to a file; whether it went well."""
    room = window.views.worker("sheet")
    if path.suffix.lower() == SCORE:
        exported: bool = window.saving.export_state(path, sheet_state(window.desk.state, room.wanted))
        return exported
    written: bool = window.saving.export_pages(path, room.sheet.pages)
    return written


def _pages(window: Any) -> Any:
    """The pages that are shown; where the view was not looked at yet it is shown, and this is to be asked again."""
    window.show_view("sheet")
    pages = window.views.worker("sheet").sheet.pages
    if not pages:
        window.say("The sheet is being written. Ask again when it is there.")
    return pages


DO = {"print": print_sheet, "export": export_sheet}
