"""What is made when it is first asked for: the list of edits, and the box of commands."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QHBoxLayout, QWidget

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.shell.command_box import CommandBox
    from yellow_hinge.ui.shell.history_panel import HistoryPanel
    from yellow_hinge.ui.shell.offers import Offers


class Drawers:
    """`beside` is where the list of edits goes; `offers` makes what the box offers beside the table of commands."""

    def __init__(
        self, window: QWidget, shell: Shell, beside: QHBoxLayout, table: tuple[Command[Any], ...],
        offers: Offers,
    ) -> None:  # fmt: skip
        self._window, self._shell, self._beside, self._table, self._offers = window, shell, beside, table, offers
        self._history: HistoryPanel | None = None
        self._box: CommandBox | None = None

    @property
    def history(self) -> HistoryPanel:
        """The list of edits."""
        if self._history is None:
            from yellow_hinge.ui.shell.history_panel import HistoryPanel

            self._history = HistoryPanel(self._shell.desk)
            self._history.hide()
            self._beside.addWidget(self._history)
        return self._history

    @property
    def box(self) -> CommandBox:
        """The box of commands."""
        if self._box is None:
            from yellow_hinge.ui.shell.command_box import CommandBox

            look = self._shell.look
            self._box = CommandBox(self._shell.actions, self._window, lambda: look.theme, self._table, self._offers)
        return self._box

    def show_history(self) -> None:
        """Show or hide the list of edits."""
        self.history.setVisible(self._shell.actions["history"].isChecked())

    def refresh(self) -> None:
        """Show another history."""
        if self._history is not None:
            self._history.refresh()


# fmt: off
COMMANDS: Commands[Drawers] = Commands(Drawers, (
    Command("commands", "Edit", "Find a command…", ("Ctrl+K",), "Every command by a part of its name",
            lambda drawers: drawers.box.open()),
    Command("find", "Edit", "Find in the song…", ("Ctrl+F",), "A chord, words, or a note with its octave",
            lambda drawers: drawers.box.open(finding=True)),
    Command("history", "Edit", "List of edits", ("Ctrl+Alt+Z",), "The history: go back to any edit",
            lambda drawers: drawers.show_history(), checkable=True),
))
# fmt: on
