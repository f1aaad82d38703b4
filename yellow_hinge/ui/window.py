"""The main window: it composes the views and wires them to the desk."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, cast

import msgspec
from PySide6.QtCore import QObject, QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QGuiApplication
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QProgressBar,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.desk import Desk
from yellow_hinge.app.keeping import Places, Settings, drop_rescue, keep_rescue, save_settings
from yellow_hinge.app.moving import Trial
from yellow_hinge.app.solving import Answer, Solver
from yellow_hinge.app.state import State, file_of
from yellow_hinge.app.swapping import Found, SwapFinder
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.solution import Option
from yellow_hinge.core.reharm.swaps import Swap
from yellow_hinge.ui.commands import build_actions, build_menus, page_actions
from yellow_hinge.ui.controls import level_rule
from yellow_hinge.ui.doing import functions
from yellow_hinge.ui.files import Files
from yellow_hinge.ui.header import Header
from yellow_hinge.ui.hinges_view import HingesView
from yellow_hinge.ui.history_panel import HistoryPanel
from yellow_hinge.ui.keys_panel import KeysPanel
from yellow_hinge.ui.listening import Listening
from yellow_hinge.ui.moving import NoteMover
from yellow_hinge.ui.ribbon import Ribbon
from yellow_hinge.ui.scenes.notes import LABELS
from yellow_hinge.ui.scenes.strands import LEAST_W, MOST_W
from yellow_hinge.ui.theme import BODY, Theme, font, palette, pick_theme, style_sheet
from yellow_hinge.ui.views import Views

if TYPE_CHECKING:
    from yellow_hinge.ui.chart_view import ChartView

AUTOSAVE_MS = 400
PATIENCE_MS = 500  # of solving, before a line says that it goes on
VIEWS = ("hinges", "chart")
EMPTY = "Type a chart in the Chart view (Ctrl+2), open a song, or open the demo song from the Song menu."


class _Answers(QObject):
    """Carries answers from the solver's thread to the window's."""

    came = Signal(object)
    swaps = Signal(object)


class MainWindow(QMainWindow):
    """Header, ribbon, rail, views and keyboards around one desk."""

    def __init__(self, places: Places, settings: Settings) -> None:
        super().__init__()
        self.places, self.settings = places, settings
        self.theme: Theme = pick_theme(settings.theme)
        self._answers = _Answers()
        self.solver = Solver(self._answers.came.emit, "solver")
        self.desk = Desk(self._ask)
        self.desk.simple_names = settings.simple_names
        self._answers.came.connect(self._answered)
        self.files = Files(self.desk, self, self.say)
        self.files.hands = settings.hands
        self.listening = Listening(self.desk, self)
        self.mover = NoteMover(self.desk, self.say)
        self.finder = SwapFinder(self._answers.swaps.emit, "swaps")
        self._answers.swaps.connect(self._swaps_found)
        self._style()
        self._build()
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_MS)
        self._autosave.timeout.connect(self.keep_copy)
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.setInterval(PATIENCE_MS)
        self._patience.timeout.connect(self.busy.show)
        self.desk.listeners.append(self._on_desk)
        self.listening.player.at.connect(self._playing)
        self.listening.player.note.connect(self.say)
        self.resize(*settings.window)
        self.show_view(settings.view if settings.view in VIEWS else VIEWS[0])
        QGuiApplication.styleHints().colorSchemeChanged.connect(lambda _: self._apply_theme())

    # --- building ---
    def _build(self) -> None:
        self.views = Views({"hinges": lambda: HingesView(self.desk, self.theme), "chart": self._make_chart})
        self.hinges = cast(HingesView, self.views.view("hinges"))
        self.ribbon, self.keys = Ribbon(self.desk, self.theme), KeysPanel(self.desk, self.theme)
        self.actions_ = build_actions(self, self.hinges, functions(self))
        self.actions_["fold_keys"].setChecked(True)
        if LEAST_W <= self.settings.column_w <= MOST_W:
            self.hinges.map.column_w = self.settings.column_w
        if self.settings.labels in LABELS:
            self.hinges.map.set_labels(self.settings.labels)
        self.actions_["simple"].setChecked(self.desk.simple_names)
        build_menus(self.menuBar(), self.actions_)
        self.header = Header(self.desk, self.actions_, self.listening.hear)
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self._rail())
        middle.addWidget(self.views, 1)
        self.history = HistoryPanel(self.desk)
        self.history.hide()
        middle.addWidget(self.history)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.header)
        self.hands_offer = self._hands_bar()
        column.addWidget(self.hands_offer)
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(3)
        self.busy.setAccessibleName("Solving")
        self.busy.hide()
        column.addWidget(self.busy)
        column.addWidget(self.ribbon)
        column.addLayout(middle, 1)
        column.addWidget(level_rule())
        column.addWidget(self.keys)
        holder = QWidget()
        holder.setLayout(column)
        self.setCentralWidget(holder)
        self.setMinimumSize(900, 640)
        self.statusBar().setSizeGripEnabled(False)
        self.hinges.options.previewed.connect(self._preview)
        self.hinges.options.taken.connect(self.desk.take)
        for canvas in (self.keys.canvas, self.hinges.map.canvas):
            canvas.struck.connect(lambda midi: self.listening.player.strike(((midi, "right"),)))
            canvas.dragged.connect(self.mover.drag)
            canvas.dropped.connect(self.mover.drop)
        self.keys.canvas.toggled.connect(self.mover.toggle)
        self.mover.tried.connect(self._tried)
        swaps = self.hinges.side.swaps
        swaps.wanted.connect(self._find_swaps)
        swaps.tried.connect(self._swap_tried)
        swaps.taken.connect(self.desk.take_swap)
        self.mover.ringed.connect(self._ringed)
        for page in self.hinges.side.lists.values():
            page.struck.connect(self.listening.player.strike)

    def _make_chart(self) -> QWidget:
        from yellow_hinge.ui.chart_view import ChartView  # loaded when first shown

        made = ChartView(self.desk, self.theme)
        made.page.addActions(page_actions(self.actions_))
        made.changed()
        made.solved()
        return made

    @property
    def chart(self) -> ChartView:
        """The view of the chart."""
        return cast("ChartView", self.views.view("chart"))

    def _rail(self) -> QFrame:
        rail = QFrame()
        rail.setObjectName("rail")
        column = QVBoxLayout(rail)
        column.setContentsMargins(0, 8, 0, 8)
        column.setSpacing(2)
        self.rail: dict[str, QToolButton] = {}
        for name in VIEWS:
            button = QToolButton()
            button.setObjectName("rail")
            button.setText(name.capitalize())
            button.setFont(font(BODY))
            button.setCheckable(True)
            button.setFixedWidth(76)
            button.setToolTip(self.actions_[f"view_{name}"].toolTip())
            button.setAccessibleName(f"{name.capitalize()} view")
            button.clicked.connect(lambda _=False, name=name: self.show_view(name))
            column.addWidget(button)
            self.rail[name] = button
        column.addStretch(1)
        return rail

    # --- what the desk tells ---
    def _ask(self, state: State) -> int:
        self._patience.start()
        return self.solver.ask(state)

    def _answered(self, answer: Answer) -> None:
        if answer.number == self.desk.asked:
            self._patience.stop()
            self.busy.hide()
        if answer.bug is not None:
            raise answer.bug
        self.desk.accept(answer)

    def _on_desk(self, what: str) -> None:
        if what == "state":
            self._refresh_state()
        elif what == "solution":
            self._refresh_solution()
        elif what == "selection":
            self.mover.forget()
            for view in self.views.made():
                view.reselect()
            self.ribbon.update()
            self.keys.refresh()
        elif what == "fault":
            self.say(self.desk.fault, lasting=True)

    def _refresh_state(self) -> None:
        self.header.refresh()
        for view in self.views.made():
            view.changed()
        history = self.desk.history
        for name, label in (("undo", history.undo_label), ("redo", history.redo_label)):
            self.actions_[name].setEnabled(bool(label))
            self.actions_[name].setText(f"{name.capitalize()}: {label}" if label else name.capitalize())
            getattr(self.header, name).setEnabled(bool(label))
            getattr(self.header, name).setToolTip(f"{name.capitalize()}: {label}" if label else f"Nothing to {name}")
        self.history.refresh()
        self.setWindowTitle(f"{self.desk.state.song.title}{'*' if self.desk.changed else ''} - Yellow Hinge")
        if self.desk.solution is None:
            self._refresh_solution()
        if not self.desk.state.song.sections:
            self.say(EMPTY, lasting=True)
        self._autosave.start()

    def _refresh_solution(self) -> None:
        self.listening.stop()
        self.mover.forget()
        for view in self.views.made():
            view.solved()
        self.ribbon.refresh()
        self.keys.refresh()
        if self.desk.solution is not None:
            total = self.desk.solution.totals
            self.say(
                f"{total.motion} semitones in all: left {total.left_motion}, right {total.right_motion}; "
                f"{total.held} notes held, largest move {total.largest_move}.",
                lasting=True,
            )

    def _preview(self, option: Option) -> None:
        self.keys.preview(option)

    def _tried(self, trial: Trial | None, moved: int | None) -> None:
        self.hinges.map.show_trial(trial, moved)
        if trial is None:
            self.hinges.map.canvas.cursor = None
            self.keys.refresh()
        else:
            self.keys.preview(trial.option, trial.faults)
            if moved is not None and not self.keys.canvas.underMouse():
                self.listening.player.strike(((moved, "right"),))

    def _find_swaps(self) -> None:
        if self.desk.solution is not None:
            self.finder.ask(self.desk.solved_state.song, self.desk.solution, self.desk.selected)

    def _swaps_found(self, found: Found) -> None:
        if found.bug is not None:
            raise found.bug
        if found.number == self.finder.asked:
            self.hinges.side.swaps.show_found(found)

    def _swap_tried(self, swap: Swap) -> None:
        self.keys.show_other(swap.played, min(1, self.desk.selected))

    def play_chord(self) -> None:
        """Sound the selected chord once, or the swap that is tried between its neighbours."""
        side = self.hinges.side
        if side.page == "swaps" and side.swaps.current is not None:
            self.listening.other(side.swaps.current.played, self.desk.solved_state.song)
        else:
            self.listening.chord(side.options.current)

    def _ringed(self, note: tuple[str, int] | None) -> None:
        self.hinges.map.canvas.cursor = note
        self.hinges.map.canvas.update()
        if note is not None:
            self.listening.player.strike(((note[1], note[0]),))
            self.say("Shift+Up and Shift+Down move this note, Enter takes it, Escape leaves it.")

    def forget(self) -> None:
        """Drop what is tried."""
        self.mover.forget()
        self.hinges.side.swaps.leave()
        self.keys.refresh()

    def _playing(self, index: int) -> None:
        self.ribbon.set_playing(index)
        self.header.set_playing(self.listening.player.playing)

    # --- commands of the window itself ---
    def say(self, text: str, lasting: bool = False) -> None:
        """A quiet line at the bottom."""
        self.statusBar().showMessage(text, 0 if lasting else 8000)

    def show_view(self, name: str) -> None:
        """Show one of VIEWS."""
        self.views.show_view(name)
        self.rail[name].setChecked(True)
        for other, button in self.rail.items():
            button.setChecked(other == name)
        self.settings = msgspec.structs.replace(self.settings, view=name)
        self.views.currentWidget().setFocus(Qt.FocusReason.OtherFocusReason)

    def set_theme(self, choice: str) -> None:
        """Light, dark or the system's colours."""
        self.settings = msgspec.structs.replace(self.settings, theme=choice)
        self._apply_theme()

    def _style(self) -> None:
        """Colours of what is not painted; before the parts are built, so that each is styled once."""
        self.theme = pick_theme(self.settings.theme)
        self.setPalette(palette(self.theme))
        self.setStyleSheet(style_sheet(self.theme))

    def _apply_theme(self) -> None:
        self._style()
        self.ribbon.theme = self.theme
        self.ribbon.update()
        for part in (*self.views.made(), self.keys):
            part.set_theme(self.theme)

    def hear(self, hand: str) -> None:
        """Hear "left" or "right"."""
        self.actions_["hear_left"].setChecked(hand == "left")
        self.actions_["hear_right"].setChecked(hand == "right")
        self.header.hear[hand].setChecked(True)
        self.listening.hear(hand)

    def next_labels(self) -> None:
        """Degrees, then names, then fingers on the plates."""
        kind = LABELS[(LABELS.index(self.hinges.map.canvas.labels) + 1) % len(LABELS)]
        self.settings = msgspec.structs.replace(self.settings, labels=kind)
        self.hinges.map.set_labels(kind)
        self.say(f"The plates show {kind}.")

    def simple_names(self) -> None:
        """Say B and F, or Cb and E#."""
        self.desk.simple_names = self.actions_["simple"].isChecked()
        self.settings = msgspec.structs.replace(self.settings, simple_names=self.desk.simple_names)
        self._refresh_solution()
        for view in self.views.made():
            view.changed()

    def ask_hands(self) -> None:
        """The dialog on the player's hands; its answer is one edit."""
        from yellow_hinge.ui.hands_dialog import HandsDialog  # loaded when first asked for, to start sooner

        dialog = HandsDialog(self.desk.state.setup, self.theme, self)
        self.hands_offer.hide()
        self.settings = msgspec.structs.replace(self.settings, hands_offered=True)
        if dialog.exec():
            setup = self.desk.state.setup
            self.settings = msgspec.structs.replace(self.settings, hands=dialog.hands)
            self.files.hands = dialog.hands
            hands, singer = dialog.hands, dialog.singer
            self.desk.put_setup("hands", msgspec.structs.replace(setup, hands=hands, singer=singer))

    def about(self) -> None:
        """What the program is and whose work ships with it."""
        from yellow_hinge.ui import asking

        asking.about(self)

    def find_command(self) -> None:
        """Any command by typing a part of its name."""
        from yellow_hinge.ui.command_box import CommandBox  # loaded when first asked for

        box = CommandBox(self.actions_, self)
        box.move(self.mapToGlobal(QPoint((self.width() - box.width()) // 2, 90)))
        if box.exec() and box.chosen is not None:
            box.chosen.trigger()

    def show_history(self) -> None:
        """Show or hide the list of edits."""
        self.history.setVisible(self.actions_["history"].isChecked())

    def large_text(self) -> None:
        """Larger text from the next start."""
        self.settings = msgspec.structs.replace(self.settings, large_text=self.actions_["large_text"].isChecked())
        self.say(f"{'Larger' if self.settings.large_text else 'Usual'} text from the next start.")

    def _hands_bar(self) -> QFrame:
        """The offer that a new player sees once: it asks nothing that cannot wait."""
        bar = QFrame()
        bar.setObjectName("offer")
        row = QHBoxLayout(bar)
        row.setContentsMargins(14, 6, 10, 6)
        label = QLabel("How far do your hands reach? Voicings are chosen for a ninth and four notes until you say.")
        row.addWidget(label, 1)
        for text, do in (("Set my hands", self.ask_hands), ("Later", self._no_hands)):
            button = QPushButton(text)
            button.clicked.connect(lambda _=False, do=do: do())
            row.addWidget(button)
        if self.settings.hands_offered or self.settings.hands is not None:
            bar.hide()
        return bar

    def _no_hands(self) -> None:
        self.hands_offer.hide()
        self.settings = msgspec.structs.replace(self.settings, hands_offered=True)

    def fold_keys(self) -> None:
        """Show or hide the two keyboards."""
        self.keys.setVisible(self.actions_["fold_keys"].isChecked())

    # --- keeping ---
    def keep_copy(self) -> None:
        """Write the rescue copy of unsaved work, or clear it where nothing is unsaved."""
        try:
            if self.desk.changed:
                keep_rescue(self.places, str(self.desk.path or ""), file_of(self.desk.state))
            else:
                drop_rescue(self.places)
        except UserError as error:
            self.say(str(error))

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        self._autosave.stop()
        self.listening.stop()
        self.solver.close()
        self.finder.close()
        drop_rescue(self.places)
        last = str(Path(self.desk.path).resolve()) if self.desk.path else ""
        settings = msgspec.structs.replace(
            self.settings,
            window=(self.width(), self.height()),
            last_file=last,
            chord=self.desk.selected,
            column_w=self.hinges.map.column_w,
        )
        try:
            save_settings(self.places, settings)
        except UserError as error:
            self.say(str(error))
        event.accept()
