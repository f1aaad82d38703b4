"""The ways to play the selected chord: filters, the ranked list, why the first one won, one held against another."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QModelIndex, QPersistentModelIndex, QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QListView, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.answer import Option
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.hinges.options_list import OptionList, OptionModel, OptionPainter, OptionRow
from yellow_hinge.ui.paint.controls import as_muted, as_small, tool_button
from yellow_hinge.ui.paint.folding import Fold
from yellow_hinge.ui.paint.notes import hinge_figures
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

REASON_MS = 60  # after a selection, so that going through a song stays quick
EVERY_SHAPE = "every shape"


def one_hand_only(option: Option) -> bool:
    """Whether the other hand is free."""
    return not option.both.left or not option.both.right


class OptionsPanel(QWidget):
    """Heading, filters, list, reason. `previewed` fires with the option under the cursor or the mouse, `taken` when it
    is chosen, `refreshed` when another chord's ways are listed.
    """

    previewed = Signal(object)
    taken = Signal(object)
    refreshed = Signal()

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self.model = OptionModel(self)
        self.painter_ = OptionPainter(self.model, theme)
        self.pinned: Option | None = None
        self._rests = QPoint()
        self._ways: list[Option] = []
        self._quiet = False
        self._soon = QTimer(self)  # the hands are seen first, then the list
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self.refresh)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(REASON_MS)
        self._later.timeout.connect(self._tell_reason)
        self._build()

    def _build(self) -> None:
        self.heading, self.why = QLabel(), QLabel()
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 6, 8, 2)
        self.why.setObjectName("why")
        self.why.setFont(font(SMALL))
        self.why.setWordWrap(True)
        self.why.setContentsMargins(12, 6, 10, 8)
        self.why.setAccessibleName("Why this way won")
        self.why.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.list = OptionList()
        self.list.setModel(self.model)
        self.list.setItemDelegate(self.painter_)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setUniformItemSizes(True)
        self.list.setMouseTracking(True)
        self.list.setAccessibleName("Ways to play the chord")
        self.list.setToolTip(
            "Up and down or the mouse try another way, Enter or a double click takes it, P sounds it, C holds it "
            "against others. The price is what the whole song costs more."
        )
        self.list.selectionModel().currentChanged.connect(self._current)
        self.list.entered.connect(self._hovered)
        self.list.doubleClicked.connect(lambda _: self.take())
        self.list.asked.connect(self.take)
        self.list.viewport().installEventFilter(self)
        self._lay_out()

    def _lay_out(self) -> None:
        """Heading, what the prices are of, what folds, the list, the reason."""
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.priced = QLabel("+ in the whole song")
        as_muted(self.priced)
        self.priced.setContentsMargins(0, 6, 10, 2)
        self.priced.setToolTip("The price of each way is what it costs the whole song more than the best one")
        head = QHBoxLayout()
        filters = self._filters()
        self.filters = Fold("ways", "Filter", "Only ways of one shape, with the same top, or for one hand", (filters,))
        head.addWidget(self.heading, 1)
        head.addWidget(self.priced)
        under = QHBoxLayout()
        under.setContentsMargins(12, 0, 10, 4)
        under.setSpacing(12)
        under.addWidget(self.filters)
        under.addWidget(self.passes)
        under.addStretch(1)
        column.addLayout(head)
        column.addLayout(under)
        column.addWidget(filters)
        self.mine = tool_button(
            "", "What you put on your shelf for these chords: played and kept (Alt+M)", "From my shelf"
        )
        as_small(self.mine)
        self.offered = QWidget()
        row = QHBoxLayout(self.offered)
        row.setContentsMargins(12, 0, 10, 6)
        row.addWidget(self.mine)
        row.addStretch(1)
        self.offered.hide()
        column.addWidget(self.offered)
        column.addWidget(self.list, 1)
        column.addWidget(self.why)

    def _filters(self) -> QWidget:
        self.family = ListBox()
        self.family.setAccessibleName("Shapes shown")
        self.family.setToolTip("Show the ways of one shape only")
        self.family.setFont(font(SMALL))
        self.family.activated.connect(lambda _: self._show_filtered())
        self.same_top, self.one_hand = QCheckBox("same top"), QCheckBox("one hand")
        self.same_top.setToolTip("Only ways with the same highest note as now")
        self.one_hand.setToolTip("Only ways that leave the other hand free")
        boxes = QHBoxLayout()
        boxes.setSpacing(12)
        for box in (self.same_top, self.one_hand):
            box.setFont(font(SMALL))
            box.clicked.connect(lambda _=False: self._show_filtered())
            boxes.addWidget(box)
        self.passes = QCheckBox()
        self.passes.setFont(font(SMALL))
        self.passes.setToolTip("What you take, keep and ask is for this pass of the repeat alone (A)")
        self.passes.clicked.connect(self._pass)
        boxes.addStretch(1)
        holder = QWidget()
        lines = QVBoxLayout(holder)
        lines.setContentsMargins(12, 2, 8, 6)
        lines.setSpacing(4)
        lines.addWidget(self.family)
        lines.addLayout(boxes)
        return holder

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.painter_.theme = theme
        self.list.viewport().update()

    # --- what is shown ---
    def changed(self) -> None:
        """The song was edited; its ways come with the next solution."""

    def solved(self) -> None:
        """There is another solution."""
        self._soon.start(0)

    def reselect(self) -> None:
        """Another chord was selected."""
        self.refresh()

    @property
    def pending(self) -> bool:
        """Whether the list is still that of an earlier solution."""
        return self._soon.isActive()

    def _catch_up(self) -> None:
        """The list is needed now."""
        if self.pending:
            self.refresh()

    def refresh(self) -> None:
        """Show the options of the selected chord, the one it is played by first."""
        self._soon.stop()
        voicing = self.desk.selection.voicing
        self._ways = self.desk.selection.options() if voicing is not None else []
        self.pinned = None
        chosen = self.family.currentText()
        self.family.clear()
        self.family.addItems([EVERY_SHAPE, *dict.fromkeys(option.family_name for option in self._ways)])
        self.family.setCurrentIndex(max(0, self.family.findText(chosen)))
        self.heading.setText(pretty_signs(f"Ways to play {write_symbol(voicing.chord)}") if voicing else "")
        self.priced.setVisible(len(self._ways) > 1)
        self.show_passes()
        self.why.setText("")
        self._show_filtered()
        self._later.start()
        self.refreshed.emit()

    def _show_filtered(self) -> None:
        self._rests = QCursor.pos()  # a row that comes to lie under a pointer that rests is not pointed at
        voicing = self.desk.selection.voicing
        boxes = (box.text() for box in (self.same_top, self.one_hand) if box.isChecked())
        self.filters.say(", ".join((*([self.family.currentText()] if self.family.currentIndex() > 0 else ()), *boxes)))
        self._quiet = True
        if voicing is None:
            self.model.show_rows([])
            self.list.offer(False)
        else:
            best = all(option.extra >= 0 for option in self._ways)
            rows = [OptionRow(way, voicing, self.desk.simple_names, best) for way in self._ways if self._passes(way)]
            self.model.show_rows(rows)
            self.list.setCurrentIndex(self.model.index(0))
            self.list.offer(self.current is not self._ways[0])
        self._quiet = False

    def _passes(self, option: Option) -> bool:
        voicing = self.desk.selection.voicing
        assert voicing is not None
        if self.family.currentIndex() > 0 and option.family_name != self.family.currentText():
            return False
        if self.same_top.isChecked() and option.both.right[-1:] != voicing.right[-1:]:
            return False
        return not self.one_hand.isChecked() or one_hand_only(option)

    def _tell_reason(self) -> None:
        from yellow_hinge.core.leading.explain import reason  # not needed before the window shows

        solution = self.desk.solution
        if solution is None or self.desk.selection.voicing is None or not self.isVisible():
            return
        if self.current is not None and self._ways and self.current is not self._ways[0]:
            return self._compare(self._ways[0], self.current)
        rests = "".join(
            f"\nKept for {rest.words}, and rests: {rest.why}." for rest in self.desk.resting(self.desk.selection.index)
        )
        self.why.setText(pretty_signs(f"Why: {reason(solution, self.desk.selection.index, self._ways)}.{rests}"))

    def _compare(self, one: Option, other: Option) -> None:
        """Both ways side by side: price, hinge to the next chord, and what the second does worse."""
        solution = self.desk.solution
        assert solution is not None
        lines = []
        for name, option in (("Held" if one is self.pinned else "Now", one), ("This", other)):
            _, hinge, _ = self.desk.selection.previewed(option)
            row = OptionRow(option, solution.voicings[self.desk.selection.index], self.desk.simple_names, True)
            onward = f", {hinge_figures(hinge)} to the next" if hinge else ""
            song = "" if option.extra == 0 else f", whole song {row.price}"
            lines.append(f"{name}: {row.left[0]} | {row.right[0]}{onward}{song}")
        from yellow_hinge.core.leading.explain import against

        worse = against(other, solution, self.desk.selection.index)
        if worse and one is self._ways[0]:
            lines.append(f"This one {worse}.")
        self.why.setText(pretty_signs("\n".join(lines)))

    def _pass(self, on: bool) -> None:
        self.desk.selection.turn_pass(on)

    def show_passes(self) -> None:
        """Whether what is taken is for one pass, where the chord is played more than once."""
        count = self.desk.selection.passes
        self.passes.setVisible(count > 1)
        self.passes.setText("this pass only")
        self.passes.setToolTip(f"What you take, keep and ask is for this pass of {count} of the repeat alone (A)")
        self.passes.setChecked(self.desk.selection.this_pass)

    # --- what the player does ---
    def step(self, by: int) -> None:
        """Go up or down the list."""
        self._catch_up()
        count = len(self.model.rows)
        if count:
            at = min(max(self.list.currentIndex().row() + by, 0), count - 1)
            self.list.setCurrentIndex(self.model.index(at))

    def pin(self) -> None:
        """Hold the option under the cursor against the ones that are tried next, or let it go."""
        self.pinned = None if self.pinned is self.current else self.current
        self._tell()

    @property
    def current(self) -> Option | None:
        """The option under the cursor."""
        self._catch_up()
        row = self.list.currentIndex().row()
        return self.model.rows[row].option if 0 <= row < len(self.model.rows) else None

    def take(self) -> None:
        """Play the chord as the option under the cursor says."""
        if self.current is not None:
            self.taken.emit(self.current)

    def _tell(self) -> None:
        if self.pinned is not None and self.current is not None and self.current is not self.pinned:
            self._compare(self.pinned, self.current)
        elif self.pinned is not None:
            self.why.setText("Held. Go to another way to see both; C lets it go.")
        else:
            self._later.start()

    def _current(self, *_: object) -> None:
        if not self._quiet and self.current is not None:
            self.list.offer(self.current is not self._ways[0])
            self.previewed.emit(self.current)
            self._tell()

    def _hovered(self, index: QModelIndex | QPersistentModelIndex) -> None:
        if QCursor.pos() != self._rests and 0 <= index.row() < len(self.model.rows):
            self.previewed.emit(self.model.rows[index.row()].option)

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Leave and self.current is not None:
            self.previewed.emit(self.current)
        return False
