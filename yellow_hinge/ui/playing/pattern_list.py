"""The patterns to play in: the player's own first, then those for this meter and tempo, then all others."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QVBoxLayout

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import OWN, all_patterns
from yellow_hinge.core.rhythm.pattern.feels import FEELS
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.ui.paint.controls import as_small
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.rows import Row, RowList, fill_rows
from yellow_hinge.ui.paint.theme import SMALL, Theme, font

ANY_FEEL = "any feel"


class PatternList(RowList):
    """A row for every pattern that answers to what is looked for; `taken` tells the id of the one that is chosen,
    `pointed` of the one under the cursor or the pointer.
    """

    taken = Signal(str)
    pointed = Signal(str)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__(theme, "Patterns", 48)  # names in full
        self.desk = desk
        self.used: frozenset[str] = frozenset()  # patterns that hold at the selected chord
        self.wanted = QLineEdit()
        self.wanted.setPlaceholderText("Find a pattern")
        self.wanted.setAccessibleName("Find a pattern")
        self.wanted.setFont(font(SMALL))
        self.wanted.textChanged.connect(lambda _: self.refresh(self.used))
        self.here = QCheckBox("this meter")
        self.here.setToolTip("Only what is made for the song's meter, or for any")
        self.here.setFont(font(SMALL))
        self.here.toggled.connect(lambda _: self.refresh(self.used))
        self.list.setMouseTracking(True)
        self.list.itemEntered.connect(lambda item: self.pointed.emit(item.data(Qt.ItemDataRole.UserRole).id))
        row = QHBoxLayout()
        row.setContentsMargins(6, 4, 10, 4)
        self.feel = ListBox()
        self.feel.addItems([ANY_FEEL, *FEELS])
        self.feel.setAccessibleName("How the pattern feels")
        self.feel.setToolTip("Calm: at most a stroke in two beats. Busy: three or more in two. Broken: note by note")
        as_small(self.feel)
        self.feel.activated.connect(lambda _: self.refresh(self.used))
        row.addWidget(self.wanted, 1)
        row.addWidget(self.feel)
        row.addWidget(self.here)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(row)
        column.addWidget(self.list)

    def step(self, by: int) -> None:
        """Go up or down; what is come to is pointed at."""
        super().step(by)
        item = self.list.currentItem()
        if item is not None:
            self.pointed.emit(item.data(Qt.ItemDataRole.UserRole).id)

    def refresh(self, used: frozenset[str]) -> None:
        """Show the patterns, with those that hold at the selected chord marked."""
        other, self.used = used != self.used, used
        song = self.desk.state.song
        meter, tempo = str(song.meter), song.tempo
        found = sorted(all_patterns(self.desk), key=lambda pattern: _order(pattern, meter, tempo))
        found = [pattern for pattern in found if self._answers(pattern, meter)]
        fill_rows(self.list, [self._row(pattern) for pattern in found])
        if found and (other or self.list.currentRow() < 0):
            self.list.setCurrentRow(next((i for i, p in enumerate(found) if p.id in used), 0))
            self.list.scrollToItem(self.list.currentItem())

    def _answers(self, pattern: Pattern, meter: str) -> bool:
        """Whether a pattern is what is looked for: every word in its name, its words or its meter."""
        text = f"{pattern.name} {pattern.words} {pattern.meter or 'any meter'}".casefold()
        found = all(word in text for word in self.wanted.text().casefold().split())
        feels = FEELS.get(self.feel.currentText())
        fits = not self.here.isChecked() or pattern.meter in ("", meter)
        return found and fits and (feels is None or feels(pattern))

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
