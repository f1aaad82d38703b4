"""The main window: it composes the views and wires them to the desk."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QObject, QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QGuiApplication
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QProgressBar, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.app.keeping import Places, Settings
from yellow_hinge.app.solving import Answer, Solver
from yellow_hinge.app.state import State
from yellow_hinge.ui.commands import build_actions, build_menus, page_actions, swap_actions
from yellow_hinge.ui.controls import level_rule
from yellow_hinge.ui.doing import Chooser, functions
from yellow_hinge.ui.files import Files
from yellow_hinge.ui.hands_offer import HandsOffer
from yellow_hinge.ui.header import Header
from yellow_hinge.ui.hinges_view import HingesView
from yellow_hinge.ui.keeper import Keeper
from yellow_hinge.ui.keys_panel import KeysPanel
from yellow_hinge.ui.listening import Listening
from yellow_hinge.ui.moving import NoteMover
from yellow_hinge.ui.preferences import Preferences
from yellow_hinge.ui.rail import Rail
from yellow_hinge.ui.ribbon import Ribbon
from yellow_hinge.ui.scenes.notes import LABELS
from yellow_hinge.ui.scenes.strands import LEAST_W, MOST_W
from yellow_hinge.ui.theme import Theme, palette, pick_theme, style_sheet
from yellow_hinge.ui.trying import Trying
from yellow_hinge.ui.views import Views

if TYPE_CHECKING:
    from yellow_hinge.ui.chart_view import ChartView
    from yellow_hinge.ui.history_panel import HistoryPanel
    from yellow_hinge.ui.swapping import Swapping
    from yellow_hinge.ui.swaps_view import SwapsView

PATIENCE_MS = 500  # of solving, before a line says that it goes on
VIEWS = ("hinges", "chart", "swaps")
EMPTY = "Type a chart in the Chart view (Ctrl+2), open a song, or open the demo song from the Song menu."


class _Answers(QObject):
    """Carries answers from the solver's thread to the window's."""

    came = Signal(object)


class MainWindow(QMainWindow):
    """Header, ribbon, rail, views and keyboards around one desk."""

    def __init__(self, places: Places, settings: Settings) -> None:
        super().__init__()
        self.theme: Theme = pick_theme(settings.theme)
        self._answers = _Answers()
        self.solver = Solver(self._answers.came.emit, "solver")
        self.desk = Desk(self._ask)
        self.preferences = Preferences(settings, self.desk)
        self.places = places
        self._answers.came.connect(self._answered)
        self.files = Files(self.desk, self, self.say, lambda: self.settings.hands)
        self.keeper = Keeper(self.desk, places, self.say, self)
        self.listening = Listening(self.desk, self)
        self.mover = NoteMover(self.desk, self.say)
        self._swapping: Swapping | None = None
        self._history: HistoryPanel | None = None
        self._style()
        self._build()
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
        makers = {"hinges": self._make_hinges, "chart": self._make_chart, "swaps": self._make_swaps}
        self.views = Views(makers)
        self.hinges = cast(HingesView, self.views.view("hinges"))
        self.ribbon, self.keys = Ribbon(self.desk, self.theme), KeysPanel(self.desk, self.theme)
        self.actions_ = build_actions(self, self.hinges, functions(self))
        self.actions_["fold_keys"].setChecked(True)
        self.actions_["simple"].setChecked(self.desk.simple_names)
        self.actions_["large_text"].setChecked(self.settings.large_text)
        if LEAST_W <= self.settings.column_w <= MOST_W:
            self.hinges.map.column_w = self.settings.column_w
        if self.settings.labels in LABELS:
            self.hinges.map.set_labels(self.settings.labels)
        build_menus(self.menuBar(), self.actions_)
        self.header = Header(self.desk, self.actions_, self.listening.hear)
        self.rail = Rail(VIEWS, self.actions_)
        self.rail.chosen.connect(self.show_view)
        self.hands_offer = HandsOffer(self.ask_hands, self.no_hands)
        if not self.preferences.offers_hands:
            self.hands_offer.hide()
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(3)
        self.busy.setAccessibleName("Solving")
        self.busy.hide()
        self._lay_out()
        self.setMinimumSize(900, 640)
        self.statusBar().setSizeGripEnabled(False)
        self.trying = Trying(self.hinges, self.keys, self.mover, self.listening, self.say)
        self.hinges.options.taken.connect(self.desk.take)

    def _lay_out(self) -> None:
        self.middle = QHBoxLayout()
        self.middle.setSpacing(0)
        self.middle.addWidget(self.rail)
        self.middle.addWidget(self.views, 1)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.header, self.hands_offer, self.busy, self.ribbon):
            column.addWidget(part)
        column.addLayout(self.middle, 1)
        column.addWidget(level_rule())
        column.addWidget(self.keys)
        holder = QWidget()
        holder.setLayout(column)
        self.setCentralWidget(holder)

    def _make_hinges(self) -> QWidget:
        return HingesView(self.desk, self.theme)

    def _make_chart(self) -> QWidget:
        from yellow_hinge.ui.chart_view import ChartView  # loaded when first shown, as the others

        made = ChartView(self.desk, self.theme)
        made.page.addActions(page_actions(self.actions_))
        made.changed()
        made.solved()
        return made

    def _make_swaps(self) -> QWidget:
        from yellow_hinge.ui.swapping import Swapping
        from yellow_hinge.ui.swaps_view import SwapsView

        made = SwapsView(self.theme)
        made.addActions(swap_actions(self.actions_))
        self._swapping = Swapping(self.desk, made, self.keys, self.ribbon, self.listening)
        return made

    @property
    def chart(self) -> ChartView:
        """The view of the chart."""
        return cast("ChartView", self.views.view("chart"))

    @property
    def swaps(self) -> SwapsView:
        """The view of swaps."""
        return cast("SwapsView", self.views.view("swaps"))

    @property
    def swapping(self) -> Swapping:
        """What the view of swaps does."""
        assert self.swaps is not None
        return cast("Swapping", self._swapping)

    @property
    def history(self) -> HistoryPanel:
        """The list of edits, made when first asked for."""
        if self._history is None:
            from yellow_hinge.ui.history_panel import HistoryPanel

            self._history = HistoryPanel(self.desk)
            self._history.hide()
            self.middle.addWidget(self._history)
        return self._history

    @property
    def settings(self) -> Settings:
        """What comes back at the next start."""
        return self.preferences.settings

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
            self.ribbon.update()
            self.keys.refresh()
            for view in self.views.made():
                view.reselect()
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
        self.header.show_history(history.undo_label, history.redo_label)
        if self._history is not None:
            self._history.refresh()
        self.setWindowTitle(f"{self.desk.state.song.title}{'*' if self.desk.changed else ''} - Yellow Hinge")
        if self.desk.solution is None:
            self._refresh_solution()
        if not self.desk.state.song.sections:
            self.say(EMPTY, lasting=True)
        self.keeper.edited()

    def _refresh_solution(self) -> None:
        self.listening.stop()
        self.mover.forget()
        self.ribbon.refresh()
        self.keys.refresh()
        for view in self.views.made():
            view.solved()
        if self.desk.solution is not None:
            total = self.desk.solution.totals
            self.say(
                f"{total.motion} semitones in all: left {total.left_motion}, right {total.right_motion}; "
                f"{total.held} notes held, largest move {total.largest_move}.",
                lasting=True,
            )

    def _playing(self, index: int) -> None:
        self.ribbon.set_playing(index)
        self.header.set_playing(self.listening.player.playing)

    # --- commands of the window itself ---
    def say(self, text: str, lasting: bool = False) -> None:
        """A quiet line at the bottom."""
        self.statusBar().showMessage(text, 0 if lasting else 8000)

    def show_view(self, name: str) -> None:
        """Show one of VIEWS."""
        self.mover.forget()
        self.keys.refresh()
        self.views.show_view(name)
        self.rail.mark(name)
        self.preferences.put(view=name)
        self.views.currentWidget().setFocus(Qt.FocusReason.OtherFocusReason)

    def forget(self) -> None:
        """Drop what is tried; in the Swaps view, where nothing is, go home."""
        self.mover.forget()
        if self.views.current == "swaps" and not self.swapping.leave():
            self.show_view(VIEWS[0])
        self.keys.refresh()

    @property
    def chooser(self) -> Chooser:
        """The list that up, down and Enter go through."""
        return self.swapping if self.views.current == "swaps" else self.hinges.side

    def play_chord(self) -> None:
        """Sound the selected chord once, as it is tried; in the Swaps view, what it would be between its neighbours."""
        if self.views.current == "swaps":
            self.swapping.hear("becomes")
        else:
            self.listening.chord(self.hinges.options.current)

    def set_theme(self, choice: str) -> None:
        """Light, dark or the system's colours."""
        self.preferences.put(theme=choice)
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
        kind = self.preferences.next_labels(self.hinges.map.canvas.labels)
        self.hinges.map.set_labels(kind)
        self.say(f"The plates show {kind}.")

    def simple_names(self) -> None:
        """Say B and F, or Cb and E#."""
        self.preferences.simple_names(self.actions_["simple"].isChecked())
        self._refresh_solution()
        for view in self.views.made():
            view.changed()

    def ask_hands(self) -> None:
        """The dialog on the player's hands."""
        self.hands_offer.hide()
        self.preferences.ask_hands(self.theme, self)

    def no_hands(self) -> None:
        """Hands can wait."""
        self.hands_offer.hide()
        self.preferences.put(hands_offered=True)

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
        self.preferences.put(large_text=self.actions_["large_text"].isChecked())
        self.say(f"{'Larger' if self.settings.large_text else 'Usual'} text from the next start.")

    def fold_keys(self) -> None:
        """Show or hide the two keyboards."""
        self.keys.setVisible(self.actions_["fold_keys"].isChecked())

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        self.listening.stop()
        self.solver.close()
        if self._swapping is not None:
            self._swapping.close()
        last = str(Path(self.desk.path).resolve()) if self.desk.path else ""
        size, column_w = (self.width(), self.height()), self.hinges.map.column_w
        self.preferences.put(window=size, last_file=last, chord=self.desk.selected, column_w=column_w)
        self.keeper.close(self.settings)
        event.accept()
