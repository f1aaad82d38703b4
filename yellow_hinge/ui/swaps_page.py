"""The list of other chords for the selected one: what they are, why, what the melody becomes, what moves."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QSize, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.desk import Desk
from yellow_hinge.app.swapping import Found
from yellow_hinge.core.key import Key
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.reharm.swaps import Swap
from yellow_hinge.core.writing import write_number, write_symbol
from yellow_hinge.ui.painting import hair, is_current
from yellow_hinge.ui.scenes.notes import chord_text, number_text
from yellow_hinge.ui.theme import BODY, SMALL, Theme, font

Index = QModelIndex | QPersistentModelIndex
ROW_H = 66
EVERY_KIND = "every kind"
ROLE = Qt.ItemDataRole.UserRole
LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def chords_text(swap: Swap) -> str:
    """The chords with their beats where they share the time."""
    names = [chord_text(chord) for chord in swap.chords]
    if len(names) == 1:
        return names[0]
    return "  ".join(f"{name} ({float(beats):g})" for name, beats in zip(names, swap.beats, strict=True))


def melody_text(swap: Swap) -> str:
    """What the melody becomes, clashes by name first."""
    if not swap.melody:
        return "no melody here to test against"
    clashes = [n for n in swap.melody if not n.fits]
    if clashes:
        told = ", ".join(f"{n.pitch.note} is {n.becomes} of {write_symbol(swap.chords[n.chord])}" for n in clashes[:2])
        cure = f"; {' '.join(write_symbol(chord) for chord in swap.cure)} cures it" if swap.cure else ""
        return pretty_signs(f"clashes: {told}{cure}")
    return pretty_signs("melody: " + ", ".join(dict.fromkeys(f"{n.pitch.note} {n.becomes}" for n in swap.melody)))


class SwapPainter(QStyledItemDelegate):
    """Paints a swap in three lines, struck through where the melody clashes."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        swap: Swap = index.data(ROLE)
        theme, area = self.theme, option.rect
        painter.fillRect(area, theme.color("chosen" if is_current(option, index) else "paper"))
        painter.setPen(hair(theme.color("line")))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        title = font(BODY, bold=True)
        if not swap.fits:
            title = type(title)(title)
            title.setStrikeOut(True)
        painter.setFont(title)
        painter.setPen(theme.color("ink" if swap.fits else "muted"))
        wide, metrics = area.width() - 90, painter.fontMetrics()
        text = metrics.elidedText(chords_text(swap), Qt.TextElideMode.ElideRight, wide)
        painter.drawText(area.adjusted(12, 4, -78, -42), LEFT, text)
        painter.setFont(font(SMALL, bold=True))
        painter.setPen(theme.color("brass_text"))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(area.adjusted(12, 4, -10, -42), right, f"{swap.motion_before} → {swap.motion_after}")
        painter.setFont(font(SMALL))
        metrics = painter.fontMetrics()
        painter.setPen(theme.color("muted"))
        reason = metrics.elidedText(f"{swap.kind.name}: {swap.reason}", Qt.TextElideMode.ElideRight, area.width() - 22)
        painter.drawText(area.adjusted(12, 24, -10, -22), LEFT, pretty_signs(reason))
        painter.setPen(theme.color("muted" if swap.fits else "error"))
        melody = metrics.elidedText(melody_text(swap), Qt.TextElideMode.ElideRight, area.width() - 22)
        painter.drawText(area.adjusted(12, 42, -10, -4), LEFT, melody)


class SwapsPage(QWidget):
    """Asks with `wanted` when it is looked at; `tried` tells the swap under the cursor, `taken` the chosen one."""

    wanted = Signal()
    tried = Signal(object)
    taken = Signal(object)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self._swaps: list[Swap] = []
        self._for: tuple[int, int] | None = None  # the solution and chord that the list is for
        self.heading = QLabel("Swaps")
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 6, 8, 2)
        self.kind = QComboBox()
        self.kind.setFont(font(SMALL))
        self.kind.setAccessibleName("Kind of swap shown")
        self.kind.activated.connect(lambda _: self._show())
        self.fitting = QCheckBox("only what fits the melody")
        self.fitting.setFont(font(SMALL))
        self.fitting.clicked.connect(lambda _=False: self._show())
        self.list = QListWidget()
        self.list.setAccessibleName("Other chords for this one")
        self.list.setToolTip(
            "Up and down or a click try a swap, P plays it between its neighbours, Shift+P the chord as it is, Enter "
            "or a double click takes it. "
            "The figures are the semitones of all fingers before and after."
        )
        self.painter_ = SwapPainter(theme, self.list)
        self.list.setItemDelegate(self.painter_)
        self.list.setUniformItemSizes(True)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.currentRowChanged.connect(lambda _: self.current and self.tried.emit(self.current))
        self.list.itemDoubleClicked.connect(lambda _: self.take())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.heading)
        filters = QVBoxLayout()
        filters.setContentsMargins(12, 2, 8, 4)
        for widget in (self.kind, self.fitting):
            filters.addWidget(widget)
        column.addLayout(filters)
        column.addWidget(self.list, 1)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.list.viewport().update()

    def refresh(self) -> None:
        """Ask for the swaps of the selected chord, where they are looked at."""
        if not self.isVisible() or self.desk.voicing is None or self.desk.solution is None:
            return
        now = (id(self.desk.solution), self.desk.selected)
        if now != self._for:
            self._for = now
            name = chord_text(self.desk.voicing.chord)
            self.heading.setText(f"Swaps for {name}, looking…")
            self.list.clear()
            self._swaps = []
            self.wanted.emit()

    def showEvent(self, event: object) -> None:
        self.refresh()

    def show_found(self, found: Found) -> None:
        """Show the answer of the worker."""
        if self._for != (id(found.solution), found.chord):
            return
        self._swaps = found.swaps
        name = chord_text(found.solution.voicings[found.chord].chord)
        count = len(self._swaps)
        self.heading.setText(f"{count} swaps for {name}" if count else f"No swap fits {name} here")
        chosen = self.kind.currentText()
        self.kind.clear()
        self.kind.addItems([EVERY_KIND, *dict.fromkeys(swap.kind.name for swap in self._swaps)])
        self.kind.setCurrentIndex(max(0, self.kind.findText(chosen)))
        self._show()

    def _show(self) -> None:
        self.list.blockSignals(True)
        self.list.clear()
        solution, voicing = self.desk.solution, self.desk.voicing
        key = solution.moments[voicing.moment].key if solution and voicing else None
        for swap in self._swaps:
            if self.kind.currentIndex() > 0 and swap.kind.name != self.kind.currentText():
                continue
            if self.fitting.isChecked() and not swap.fits:
                continue
            words = f"{chords_text(swap)}: {swap.kind.name}, {swap.reason}; {melody_text(swap)}"
            item = QListWidgetItem(words)
            item.setData(ROLE, swap)
            item.setToolTip(f"{_numbers(swap, key)}\n{swap.reason}\n{melody_text(swap)}")
            item.setSizeHint(QSize(10, ROW_H))
            self.list.addItem(item)
        self.list.setCurrentRow(-1)
        self.list.blockSignals(False)

    def move(self, by: int) -> None:
        """Go up or down the list."""
        if self.list.count():
            self.list.setCurrentRow(min(max(self.list.currentRow() + by, 0), self.list.count() - 1))

    @property
    def current(self) -> Swap | None:
        """The swap under the cursor."""
        item = self.list.currentItem()
        return item.data(ROLE) if item is not None else None

    def take(self) -> None:
        """Put the swap under the cursor into the song."""
        if self.current is not None:
            self.taken.emit(self.current)

    def leave(self) -> None:
        """Try none of them any more."""
        self.list.setCurrentRow(-1)


def _numbers(swap: Swap, key: Key | None) -> str:
    return "  ".join(number_text(write_number(chord, key)) for chord in swap.chords) if key else ""
