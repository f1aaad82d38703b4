"""The patterns to play in: the player's own first, then those for this meter and tempo, then all others."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing import OWN, all_patterns
from yellow_hinge.core.rhythm.patterns import Pattern
from yellow_hinge.ui.paint.rows import Row, RowList, fill_rows
from yellow_hinge.ui.paint.theme import Theme


class PatternList(RowList):
    """A row for every pattern; `taken` tells the id of the one that is chosen."""

    taken = Signal(str)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__(theme, "Patterns")
        self.desk = desk
        self.used: frozenset[str] = frozenset()  # patterns that hold at the selected chord
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.list)

    def refresh(self, used: frozenset[str]) -> None:
        """Show the patterns, with those that hold at the selected chord marked."""
        other, self.used = used != self.used, used
        song = self.desk.state.song
        meter, tempo = str(song.meter), song.tempo
        found = sorted(all_patterns(self.desk), key=lambda pattern: _order(pattern, meter, tempo))
        fill_rows(self.list, [self._row(pattern) for pattern in found])
        if other or self.list.currentRow() < 0:
            self.list.setCurrentRow(next((i for i, p in enumerate(found) if p.id in used), 0))
            self.list.scrollToItem(self.list.currentItem())

    def _row(self, pattern: Pattern) -> Row:
        figure = "mine" if pattern.id.startswith(OWN) else pattern.meter or "any"
        return Row(
            figure, pattern.name, pattern.words or "your own", False, -1, (), pattern.id in self.used, pattern.id
        )

    def take_row(self, row: Row) -> None:
        """Choose a pattern."""
        self.taken.emit(row.id)


def _order(pattern: Pattern, meter: str, tempo: int) -> tuple[bool, bool]:
    """The player's own first, then what is made for this meter and tempo; the table's order among equals."""
    fits = pattern.meter in ("", meter) and pattern.usual[0] <= tempo <= pattern.usual[1]
    return not pattern.id.startswith(OWN), not fits
