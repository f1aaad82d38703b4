"""The list of hands that are wider than mine: what to leave away, in order, for this chord, its section or the song."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QListWidgetItem, QPushButton

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.lighter import Away, leaving_at, too_wide
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.hinges.song_lists import ListKind, SongList, bar_of
from yellow_hinge.ui.paint.controls import as_small
from yellow_hinge.ui.paint.rows import Row
from yellow_hinge.ui.paint.theme import Theme

TIP = "What a hand may leave away, the least loss first: a click sounds it, Enter plays it so up to that note."
NONE = "No hand is wider than yours: every chord lies within your reach."
THIS = "This chord's hands lie well."
# The buttons: (scope, text, tip).
SCOPES = (
    ("chord", "This chord", "Leave away what is too wide in this chord"),
    ("section", "Section", "Leave away what is too wide in every chord of this section"),
    ("song", "Whole song", "Leave away what is too wide in every chord of the song"),
)


class WideList(SongList):
    """Rows of notes to leave away, then every chord that has a hand too wide; buttons that do it."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__(desk, theme, ListKind("Wide", "Wider than my hands", TIP, self._rows, of_chord=True))
        self._known: tuple[Solution, dict[int, tuple[Away, ...]]] | None = None
        self.list.itemActivated.disconnect()
        self.list.itemActivated.connect(self._act)
        row = QHBoxLayout()
        row.setContentsMargins(10, 4, 10, 8)
        row.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for scope, text, tip in SCOPES:
            button = QPushButton(text)
            as_small(button)
            button.setToolTip(tip)
            button.clicked.connect(self._doing(scope))
            row.addWidget(button)
            self.buttons[scope] = button
        self.column.addLayout(row)

    def _doing(self, scope: str) -> Callable[[], None]:
        return lambda: self.lighten(scope)

    def _wide(self) -> dict[int, tuple[Away, ...]]:
        """Every chord with a hand too wide, of the present solution."""
        solution = self.desk.solution
        if solution is None:
            return {}
        if self._known is None or self._known[0] is not solution:
            self._known = solution, too_wide(solution)
        return self._known[1]

    def _places(self, scope: str) -> list[int]:
        """The chords of a scope that have a hand too wide."""
        wide, voicing, solution = self._wide(), self.desk.selection.voicing, self.desk.solution
        if voicing is None or solution is None:
            return []
        if scope == "chord":
            return [at for at in wide if at == self.desk.selection.index]
        section = voicing.here.section
        return [at for at in wide if scope == "song" or solution.voicings[at].here.section == section]

    def _rows(self, desk: Desk) -> list[Row]:
        wide = self._wide()
        for scope, button in self.buttons.items():
            button.setEnabled(bool(self._places(scope)))
        if not wide:
            return [Row("", "", NONE, False)]
        return [*self._of_chord(wide.get(desk.selection.index, ())), *self._of_song(wide)]

    def _of_chord(self, away: tuple[Away, ...]) -> Iterator[Row]:
        if not away:
            yield Row("", "", THIS, False)
        for number, each in enumerate(away, 1):
            both = each.both
            notes = (*((midi, "left") for midi in both.left), *((midi, "right") for midi in both.right))
            yield Row(str(number), pretty_signs(f"{each.hand}: {each.name}"), each.words, True, notes=notes)

    def _of_song(self, wide: dict[int, tuple[Away, ...]]) -> Iterator[Row]:
        solution = self.desk.solution
        assert solution is not None
        for at, away in wide.items():
            hands = " and ".join(dict.fromkeys(each.hand for each in away))
            name = pretty_signs(write_symbol(solution.voicings[at].chord))
            words = f"{hands}: without {', '.join(each.name.partition(',')[0] for each in away)}"
            yield Row(bar_of(self.desk, at), name, pretty_signs(words), False, at)

    def _act(self, item: QListWidgetItem) -> None:
        """Play the chord without the notes up to this one; or go to another chord."""
        row: Row = item.data(Qt.ItemDataRole.UserRole)
        if row.notes and self.desk.solution is not None:
            away = leaving_at(self.desk.solution, self.desk.selection.index)[int(row.figure) - 1]
            self.desk.leave_away(away.both)
        else:
            self._go(item)

    def take(self) -> None:
        """Play the chord without the notes up to the one under the cursor; or go to another chord."""
        item = self.list.currentItem()
        if item is not None:
            self._act(item)

    def lighten(self, scope: str) -> None:
        """Leave away what is too wide in this chord, its section or the song."""
        places = self._places(scope)
        if places:
            words = {"chord": "this chord", "section": "this section", "song": "the song"}[scope]
            self.desk.lighten(places, words)
