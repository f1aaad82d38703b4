"""Lists beside the map that go through the whole song: the stiff changes, the bass line, a hand over other basses."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.key import spell_in_key
from yellow_hinge.core.leading.lines import bass_line, stiff
from yellow_hinge.core.other_basses import over_basses
from yellow_hinge.core.pitch import pitch_of, pretty_signs
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.ui.painting import hair, is_current
from yellow_hinge.ui.scenes.notes import signed
from yellow_hinge.ui.theme import BODY, SMALL, Theme, font

Index = QModelIndex | QPersistentModelIndex
ROW_H = 50
MOTION = {"hold": "holds", "chromatic": "half step", "step": "step", "leap": "leap"}


class Row(NamedTuple):
    """A row: figure, heading, words below, and the chord it leads to or the notes it sounds."""

    figure: str
    title: str
    words: str
    moving: bool
    chord: int = -1
    notes: tuple[tuple[int, str], ...] = ()


class RowPainter(QStyledItemDelegate):
    """Paints a Row in two lines."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        theme, area = self.theme, option.rect
        chosen = is_current(option, index)
        painter.fillRect(area, theme.color("chosen" if chosen else "paper"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.setFont(font(BODY, bold=True))
        painter.setPen(theme.color("brass_text" if row.moving else "muted"))
        painter.drawText(area.adjusted(12, 4, 0, -24), left, row.figure)
        painter.setPen(theme.color("ink"))
        painter.drawText(area.adjusted(64, 4, -8, -24), left, row.title)
        painter.setFont(font(SMALL))
        painter.setPen(theme.color("muted"))
        words = painter.fontMetrics().elidedText(row.words, Qt.TextElideMode.ElideRight, area.width() - 72)
        painter.drawText(area.adjusted(64, 24, -8, -4), left, words)


class Kind(NamedTuple):
    """A list: its tab, name and explanation, how its rows are made, and whether they are about the selected chord."""

    tab: str
    name: str
    tip: str
    make: Callable[[Desk], list[Row]]
    of_chord: bool = False


class SongList(QWidget):
    """A heading and rows made from the desk. `struck` asks for notes: (MIDI, hand) pairs."""

    struck = Signal(object)

    def __init__(self, desk: Desk, theme: Theme, kind: Kind) -> None:
        super().__init__()
        self.desk, self.kind = desk, kind
        name, tip = kind.name, kind.tip
        self.heading = QLabel(name)
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 6, 8, 2)
        hint = QLabel(tip)
        hint.setObjectName("muted")
        hint.setFont(font(SMALL))
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
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.heading)
        column.addWidget(hint)
        column.addWidget(self.list, 1)

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
        place = self.list.verticalScrollBar().value()
        self.list.clear()
        for row in self.kind.make(self.desk):
            item = QListWidgetItem(f"{row.figure} {row.title}: {row.words}")
            item.setData(Qt.ItemDataRole.UserRole, row)
            item.setToolTip(row.words)
            item.setSizeHint(QSize(10, ROW_H))
            self.list.addItem(item)
        self.list.verticalScrollBar().setValue(place)

    def showEvent(self, event: object) -> None:
        self.refresh()

    def _go(self, item: QListWidgetItem) -> None:
        row: Row = item.data(Qt.ItemDataRole.UserRole)
        if row.chord >= 0:
            self.desk.select(row.chord)
        if row.notes:
            self.struck.emit(row.notes)


def _pair(desk: Desk, index: int) -> str:
    assert desk.solution is not None
    voicings = desk.solution.voicings
    names = (write_symbol(voicings[(index + k) % len(voicings)].chord) for k in (0, 1))
    return pretty_signs(" → ".join(names))


def stiff_rows(desk: Desk) -> list[Row]:
    """The hardest changes, the hardest first."""
    if desk.solution is None or not desk.solution.voicings:
        return []
    return [
        Row(str(found.hinge.motion), _pair(desk, found.at), found.why, True, found.at)
        for found in stiff(desk.solution, 24)
    ]


def bass_rows(desk: Desk) -> list[Row]:
    """How the bass goes at every hinge, with passing notes on offer."""
    solution = desk.solution
    if solution is None or not solution.voicings:
        return []
    rows = []
    for index, move in enumerate(bass_line(solution)):
        key = solution.moments[solution.voicings[index].moment].key
        names = [str(pitch_of(midi, spell_in_key(midi % 12, key)).note) for midi in (move.old, move.new)]
        offers = ", ".join(f"{p.name} {p.words}" for p in move.passing)
        words = f"pass through {offers}, {_beat(move.passing[0].after)} beats in" if move.passing else MOTION[move.kind]
        title = pretty_signs(f"{names[0]} to {names[1]}, {MOTION[move.kind]}")
        figure = "held" if move.kind == "hold" else signed(move.semitones)
        rows.append(Row(figure, title, pretty_signs(words), move.kind != "hold", index))
    return rows


def _beat(after: object) -> str:
    return f"{float(after):g}"  # type: ignore[arg-type]


def other_bass_rows(desk: Desk) -> list[Row]:
    """The selected chord's right hand (the left where that rests) over the twelve basses."""
    voicing, solution = desk.voicing, desk.solution
    if voicing is None or solution is None:
        return []
    hand = voicing.right or voicing.left
    if not hand:
        return []
    key = solution.moments[voicing.moment].key
    rows = []
    for row in over_basses(hand, key):
        name = pretty_signs(str(spell_in_key(row.bass, key)))
        title = pretty_signs(row.reading.symbol) if row.reading else "no usual name"
        words = pretty_signs(f"{' '.join(row.reading.degrees[1:])}; {row.reading.why}") if row.reading else ""
        low = 36 + (row.bass - 36) % 12
        notes = ((low, "left"), *((note, "right") for note in hand))
        rows.append(Row(name, title, words, row.bass == voicing.chord.bass_note.pc, -1, notes))
    return rows


KINDS: dict[str, Kind] = {
    "stiff": Kind("Stiff", "Stiff changes", "The hardest changes of the song; a click goes there", stiff_rows),
    "bass": Kind("Bass line", "The bass line", "How the bass goes from chord to chord; a click goes there", bass_rows),
    "basses": Kind(
        "Basses",
        "This hand over other basses",
        "This hand over all twelve basses; a click sounds it",
        other_bass_rows,
        of_chord=True,
    ),
}
