"""What the shelf's page does: putting hands on the shelf, taking them off, and going round the keys with them."""

from __future__ import annotations

from collections.abc import Callable

from yellow_hinge.app.desk.shelving import to_shelve
from yellow_hinge.app.mine.folder import OFF, put_entry, take_away
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.reharm.shelf import ShelfEntry, shelved
from yellow_hinge.core.reharm.shelf_fits import Fit
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.shapes.found_rows import FIT
from yellow_hinge.ui.shapes.view import ShapesView


class ShelfWork:
    """`found` gives what of the shelf is listed; `again` lists it anew, `soon` once more has come."""

    def __init__(
        self, shell: Shell, view: ShapesView, found: Callable[[], tuple[Fit, ...]], again: Callable[[], None],
        soon: Callable[[], None],
    ) -> None:  # fmt: skip
        self.shell, self.view, self._found, self._again, self._soon = shell, view, found, again, soon

    @property
    def entry(self) -> ShelfEntry | None:
        """The entry of the shelf under the cursor."""
        row = self.view.list.cursor_row
        return self._found()[int(row.id[len(FIT) :])].entry if row is not None and row.id.startswith(FIT) else None

    def put(self) -> None:
        """Put the hands of the marked chords, or of the selected one and the next, on the shelf."""
        part, solution = to_shelve(self.shell.desk), self.shell.desk.solution
        chords = " ".join(voicing_text(voicing) for voicing in part)
        name = self.shell.ask_name("A name for these hands on your shelf:", chords) if part else ""
        if not name:
            return
        try:
            path = put_entry(self.shell.mine, "shelf", shelved(name, part, solution.setup.manner if solution else ""))
        except UserError as error:
            self.view.foot.setText(str(error))
            return
        self.shell.teller.say(f"{name} is on the shelf ({path.name}), and found wherever a song has these chords")
        self._soon()

    def drill(self) -> None:
        """Practise the entry under the cursor round the keys."""
        if self.entry is not None:
            self.shell.practise(self.entry)
        else:
            self.view.foot.setText("Choose an entry of the shelf to go round the keys with it.")

    def take_off(self) -> None:
        """Take the player's own entry under the cursor off the shelf."""
        own = self.entry
        if own is None or not own.mine:
            self.view.foot.setText("Only what is mine on the shelf can be taken off.")
            return
        try:
            path = take_away(self.shell.mine, "shelf", own.id)
        except UserError as error:
            self.view.foot.setText(str(error))
            return
        self.shell.teller.say(f"{own.name} is off the shelf; its file is kept in {path.parent if path else OFF}")
        self._again()
