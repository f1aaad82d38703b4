"""Lists beside the map that go through the whole song: the stiff changes, the bass line, a hand over other basses."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QLabel,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.hands_in import hands_into
from yellow_hinge.core.leading.lines import bass_line, stiff
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.core.symbols.other_basses import over_basses
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.controls import as_muted
from yellow_hinge.ui.paint.notes import signed
from yellow_hinge.ui.paint.rows import Row, RowPainter, fill_rows
from yellow_hinge.ui.paint.theme import BODY, Theme, font

MOTION = {"hold": "holds", "chromatic": "half step", "step": "step", "leap": "leap"}


class ListKind(NamedTuple):
    """A list: its tab, name and explanation, how its rows are made, and whether they are about the selected chord."""

    tab: str
    name: str
    tip: str
    make: Callable[[Desk], list[Row]]
    of_chord: bool = False


class SongList(QWidget):
    """A heading and rows made from the desk. `struck` asks for notes: (MIDI, hand) pairs."""

    struck = Signal(object)

    def __init__(self, desk: Desk, theme: Theme, kind: ListKind) -> None:
        super().__init__()
        self.desk, self.kind = desk, kind
        name, tip = kind.name, kind.tip
        self.heading = QLabel(name)
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 6, 8, 2)
        hint = QLabel(tip)
        as_muted(hint)
        hint.setWordWrap(True)
        hint.setContentsMargins(12, 0, 10, 6)
        self.list = QListWidget()
        self.list.setAccessibleName(name)
        self.list.setToolTip(tip)
        self.list.setUniformItemSizes(True)
        self.painter_ = RowPainter(theme, self.list)
        self.list.setItemDelegate(self.painter_)
        self.list.itemClicked.connect(self._go)
        self.list.itemActivated.connect(self._go)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(0)
        self.column.addWidget(self.heading)
        self.column.addWidget(hint)
        self.column.addWidget(self.list, 1)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.list.viewport().update()

    def changed(self) -> None:
        """The song was edited; the rows come with the next solution."""

    def solved(self) -> None:
        """There is another solution."""
        self.refresh()

    def reselect(self) -> None:
        """Another chord was selected."""
        if self.kind.of_chord:
            self.refresh()

    def refresh(self) -> None:
        """Make the rows anew; nothing while it cannot be seen."""
        if not self.isVisible():
            return
        fill_rows(self.list, self.kind.make(self.desk))

    def step(self, by: int) -> None:
        """Go up or down the list."""
        self.list.setCurrentRow(min(max(self.list.currentRow() + by, 0), self.list.count() - 1))

    def take(self) -> None:
        """Do what a row is for: go there, or sound it; a hand over another bass is put into the song."""
        item = self.list.currentItem()
        if item is not None:
            self._go(item)
            self._put(item.data(Qt.ItemDataRole.UserRole))

    def _put(self, row: Row) -> None:
        """Put the hands of a row that names a chord into the song."""
        moment = self.desk.selection.moment
        if row.id and moment is not None:
            hands = {hand: tuple(midi for midi, own in row.notes if own == hand) for hand in ("left", "right")}
            hands_into(self.desk, parse_symbol(row.id, moment.key), Both(hands["left"], hands["right"]))

    def showEvent(self, event: object) -> None:
        self.refresh()

    def _go(self, item: QListWidgetItem) -> None:
        row: Row = item.data(Qt.ItemDataRole.UserRole)
        if row.chord >= 0:
            self.desk.selection.go(row.chord)
        if row.notes:
            self.struck.emit(row.notes)


def bar_of(desk: Desk, index: int) -> str:
    """The number of the bar that a chord of the solution stands in."""
    assert desk.solution is not None
    here = desk.solution.voicings[index].here
    return str(bar_number(desk.answers.state.song, here.origin, here.bar))


def pair_of(desk: Desk, index: int) -> str:
    """The two chords of a change by name, and the bar it begins in."""
    assert desk.solution is not None
    voicings = desk.solution.voicings
    names = (write_symbol(voicings[(index + k) % len(voicings)].chord) for k in (0, 1))
    return pretty_signs(f"{' → '.join(names)}, bar {bar_of(desk, index)}")


def stiff_rows(desk: Desk) -> list[Row]:
    """The hardest changes, the hardest first."""
    if desk.solution is None or not desk.solution.voicings:
        return []
    return [
        Row(str(found.hinge.motion), pair_of(desk, found.at), found.why, True, found.at)
        for found in stiff(desk.solution, 24)
    ]


def bass_rows(desk: Desk) -> list[Row]:
    """How the bass goes at every hinge, with passing notes on offer."""
    solution = desk.solution
    if solution is None or not solution.voicings:
        return []
    rows = []
    for index, move in enumerate(bass_line(solution)):
        key = solution.voicings[index].here.key
        names = [str(pitch_of(midi, spell_in_key(midi % 12, key)).note) for midi in (move.old, move.new)]
        offers = ", ".join(f"{p.name} {p.words}" for p in move.passing)
        words = f"pass through {offers}, {_beat(move.passing[0].after)} beats in" if move.passing else MOTION[move.kind]
        title = pretty_signs(f"{names[0]} to {names[1]}, {MOTION[move.kind]}, bar {bar_of(desk, index)}")
        figure = "held" if move.kind == "hold" else signed(move.semitones)
        rows.append(Row(figure, title, pretty_signs(words), move.kind != "hold", index))
    return rows


def _beat(after: object) -> str:
    return f"{float(after):g}"  # type: ignore[arg-type]


def other_bass_rows(desk: Desk) -> list[Row]:
    """The selected chord's right hand (the left where that rests) over the twelve basses."""
    voicing, solution = desk.selection.voicing, desk.solution
    if voicing is None or solution is None:
        return []
    hand = voicing.right or voicing.left
    if not hand:
        return []
    key = voicing.here.key
    rows = []
    for row in over_basses(hand, key):
        name = pretty_signs(str(spell_in_key(row.bass, key)))
        title = pretty_signs(row.reading.symbol) if row.reading else "no usual name"
        words = pretty_signs(f"{' '.join(row.reading.degrees[1:])}; {row.reading.why}") if row.reading else ""
        low = 36 + (row.bass - 36) % 12
        notes = ((low, "left"), *((note, "right") for note in hand))
        here, symbol = row.bass == voicing.chord.bass_note.pc, row.reading.symbol if row.reading else ""
        rows.append(Row(name, title, words, here, -1, notes, None, symbol))
    return rows


KINDS: dict[str, ListKind] = {
    "stiff": ListKind("Stiff", "Stiff hinges", "The hardest hinges of the song; a click goes there", stiff_rows),
    "bass": ListKind(
        "Bass",
        "The bass line",
        "How the bass goes; a click goes there, and what passes is taken under Fills (6)",
        bass_rows,
    ),
    "basses": ListKind(
        "Basses",
        "This hand over other basses",
        "This hand over all twelve basses; a click sounds it, Enter takes it into the song",
        other_bass_rows,
        of_chord=True,
    ),
}
