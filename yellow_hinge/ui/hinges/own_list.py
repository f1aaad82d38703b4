"""The list of the player's own hands: what each change moves, what the best hands would, and which to improve."""

from __future__ import annotations

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QListWidgetItem, QPushButton

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.own_hands import Beside, beside, beside_words, freed, improving, own_chords
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.ui.hinges.song_lists import ListKind, SongList, pair_of
from yellow_hinge.ui.paint.rows import Row
from yellow_hinge.ui.paint.theme import SMALL, Theme, font

TIP = "Your hands beside the best ones: tick the hinges that may be improved. Keep > Enter my hands puts them in."
NONE = "No chord's hands are kept yet: Keep > Enter my hands (E), or K on a chord that you play so."


class _OwnAnswers(QObject):
    came = Signal(object)


class OwnList(SongList):
    """Rows of changes, ticked ones marked, and a button that frees what they lead to."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__(desk, theme, ListKind("Mine", "My hands beside the best", TIP, self._rows))
        self._answers = _OwnAnswers()
        self._answers.came.connect(self._answered)
        self._newest: Newest[tuple[State, Solution | None]] = Newest(self._answers.came.emit, "own hands")
        self._known: tuple[State, Solution | None] | None = None
        self._asked: State | None = None
        self.ticked: set[int] = set()
        self.improve = QPushButton("Improve the ticked hinges")
        self.improve.setFont(font(SMALL))
        self.improve.setToolTip("Frees the chord that each ticked hinge leads to; the rest stays as you play it")
        self.improve.clicked.connect(self.improve_ticked)
        self.column.addWidget(self.improve)

    def _rows(self, desk: Desk) -> list[Row]:
        solution = desk.solution
        if solution is None or not any(own_chords(desk.state, solution)):
            self.improve.setEnabled(False)
            return [Row("", "", NONE, False)]
        question = (desk.state.song, desk.state.setup)
        known = self._known
        if known is None or (known[0].song, known[0].setup) != question or known[1] is None:
            self._ask(desk.state)
            return [Row("", "", "Looking for the best hands…", False)]
        found = beside(desk.state, solution, known[1])
        self.ticked &= {each.at for each in found if each.own > each.best}
        self.improve.setEnabled(bool(self.ticked))
        return [self._row(each) for each in found]

    def _row(self, each: Beside) -> Row:
        worse = each.own > each.best
        words = beside_words(each)
        mark = ("✓ " if each.at in self.ticked else "") + str(each.own)
        return Row(mark, pair_of(self.desk, each.at), words, worse, each.at)

    def _ask(self, state: State) -> None:
        if self._asked is not None and (self._asked.song, self._asked.setup) == (state.song, state.setup):
            return
        self._asked = state

        def work(builder: Builder, number: int) -> tuple[State, Solution | None]:
            try:
                return state, freed(builder, state)
            except UserError:
                return state, None

        self._newest.put(work)

    def _answered(self, found: tuple[State, Solution | None] | Bug) -> None:
        self._asked = None
        if isinstance(found, Bug):
            raise found.error
        self._known = found
        if found[1] is not None:
            self.refresh()

    def _go(self, item: QListWidgetItem) -> None:
        row: Row = item.data(Qt.ItemDataRole.UserRole)
        super()._go(item)
        if row.chord >= 0 and row.moving:
            self.ticked ^= {row.chord}
            self.refresh()

    def improve_ticked(self) -> None:
        """Free the chords that the ticked changes lead to."""
        desk = self.desk
        if desk.solution is not None and self.ticked:
            count = len(self.ticked)
            state = improving(desk.state, desk.solution, frozenset(self.ticked))
            self.ticked.clear()
            desk.put_keeps(f"improve {count} hinge{'' if count == 1 else 's'} of mine", state.keeps)

    def close_room(self) -> None:
        """Stop working."""
        self._newest.close()
