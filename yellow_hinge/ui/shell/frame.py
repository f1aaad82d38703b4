"""The window without a song: its parts, their places and colours, and what they do by themselves."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, cast

from PySide6.QtCore import QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QProgressBar, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.keeping.settings import Settings
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.help.helping import Helping
from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.paint.announcing import Announcer, label_boxes
from yellow_hinge.ui.paint.controls import ElidedLabel, level_rule
from yellow_hinge.ui.paint.notes import LABELS
from yellow_hinge.ui.paint.reading_order import go_on
from yellow_hinge.ui.paint.strands import LEAST_W, MOST_W
from yellow_hinge.ui.paint.theme import Theme, palette, pick_theme, style_sheet
from yellow_hinge.ui.parts.commands import build_actions
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.parts.menus import MenuKeys, build_menus
from yellow_hinge.ui.parts.notice import Notice
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.ribbon import Ribbon
from yellow_hinge.ui.parts.rooms import Room, Rooms
from yellow_hinge.ui.shell.header import Header
from yellow_hinge.ui.shell.rail import Rail
from yellow_hinge.ui.shell.welcome import Welcome
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:
    from yellow_hinge.app.practice.log import PracticeLog
    from yellow_hinge.ui.chart.view import ChartView
    from yellow_hinge.ui.playing.view import PlayingView
    from yellow_hinge.ui.shell.command_box import CommandBox
    from yellow_hinge.ui.shell.history_panel import HistoryPanel
    from yellow_hinge.ui.swaps.swapping import Swapping
    from yellow_hinge.ui.swaps.view import SwapsView

PASSING_MS = 8000
LOW = 740  # pixels of height under which the keyboards are flatter


class Frame(QMainWindow):
    """Header, ribbon, rail, views and keyboards around one desk."""

    def __init__(self, desk: Desk, settings: Settings) -> None:
        super().__init__()
        self.desk = desk
        self.preferences = Preferences(settings, desk)
        self.theme: Theme = pick_theme(settings.theme)
        self._history: HistoryPanel | None = None
        self._command_box: CommandBox | None = None
        self._style()
        self.listening = Listening(desk, self, settings.heard)
        self.live = LiveKeys(self, self.listening.player.instruments)
        self.helping, self.announcer = Helping(self), Announcer(self)
        self.hinges = HingesView(desk, self.theme, self.listening)
        self.news, self.mistake, self.warning, self.silence = (Notice(self) for _ in range(4))
        self.told, self._lasting = ElidedLabel(), ""
        self.told.setObjectName("muted")
        self.told.setContentsMargins(8, 0, 8, 2)
        self._passing = QTimer(self)
        self._passing.setSingleShot(True)
        self._passing.setInterval(PASSING_MS)
        self._passing.timeout.connect(lambda: self.told.setText(pretty_signs(self._lasting)))
        self.ribbon, self.keys = Ribbon(desk, self.theme), KeysPanel(desk, self.theme)
        self.actions_ = build_actions(self, self.hinges)
        parts = desk, self.theme, self.actions_, self.keys, self.ribbon, self.listening
        room = Room(*parts, self.preferences, self.ask_name, self.tell, self.live, self.open_log, self.ask_csv)
        self.views = Rooms(room, self.hinges)
        self._build_controls()
        self._lay_out()
        label_boxes(self)
        self.setMinimumSize(900, 600)
        self.statusBar().setSizeGripEnabled(False)
        self.statusBar().addWidget(self.told, 1)  # a menu's tips come and go over it

    def _build_controls(self) -> None:
        """Menus, header, rail and what they show of the settings."""
        self.actions_["fold_keys"].setChecked(not self.settings.keys_folded)
        if self.settings.keys_folded:
            self.keys.hide()
        self.actions_["simple"].setChecked(self.desk.simple_names)
        self.actions_["large_text"].setChecked(self.settings.large_text)
        if LEAST_W <= self.settings.column_w <= MOST_W:
            self.hinges.map.column_w = self.settings.column_w
        if self.settings.labels in LABELS:
            self.hinges.map.set_labels(self.settings.labels)
        menus, self.submenus = build_menus(self.menuBar(), self.actions_)
        self.menu_keys = MenuKeys(self.menuBar(), (*menus.values(), *self.submenus.values()))
        self.header = Header(self.desk, self.actions_, self.listening)
        self.header.chosen.connect(lambda name: self.preferences.put(manner=name))
        self.rail = Rail(self.actions_, self.theme)
        self.welcome = Welcome(self.actions_, self.submenus["last_songs"], self.header.manner)
        self.welcome.closed.connect(lambda: self.preferences.put(hands_offered=True))
        if not self.preferences.offers_hands:
            self.welcome.hide()
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(3)
        self.busy.setAccessibleName("Solving")
        self.busy.hide()

    def _lay_out(self) -> None:
        self.middle = QHBoxLayout()
        self.middle.setSpacing(0)
        self.middle.addWidget(self.rail)
        self.middle.addWidget(self.views, 1)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        notices = self.welcome, self.news, self.warning, self.mistake, self.silence
        for part in (self.header, *notices, self.busy, self.ribbon):
            column.addWidget(part)
        column.addLayout(self.middle, 1)
        column.addWidget(level_rule())
        column.addWidget(self.keys)
        holder = QWidget()
        holder.setLayout(column)
        self.setCentralWidget(holder)

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
        return cast("Swapping", self.views.worker("swaps"))

    @property
    def playing(self) -> PlayingView:
        """The view of how the hands are struck."""
        return cast("PlayingView", self.views.view("playing"))

    @property
    def history(self) -> HistoryPanel:
        """The list of edits, made when first asked for."""
        if self._history is None:
            from yellow_hinge.ui.shell.history_panel import HistoryPanel

            self._history = HistoryPanel(self.desk)
            self._history.hide()
            self.middle.addWidget(self._history)
        return self._history

    @property
    def settings(self) -> Settings:
        """What comes back at the next start."""
        return self.preferences.settings

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.keys.set_low(event.size().height() < LOW)

    def focusNextPrevChild(self, forward: bool) -> bool:
        return go_on(self.centralWidget(), self.focusWidget(), forward)

    def tell(self, text: str) -> None:
        """Something that must not be missed: it stays until it is answered, and in the line at the bottom."""
        self.say(text)
        self.warning.tell(pretty_signs(text), {"Good": lambda: None})

    def say(self, text: str, lasting: bool = False) -> None:
        """A quiet line at the bottom; what is not lasting gives way to what was after eight seconds."""
        if lasting:
            self._lasting = text
        self._passing.start() if not lasting else self._passing.stop()
        self.told.setText(pretty_signs(text))
        self.announcer.say(self.told.text())

    def unsay(self) -> None:
        """What was said for a while gives way at once."""
        self._passing.stop()
        self.told.setText(pretty_signs(self._lasting))

    def _style(self) -> None:
        """Colours of what is not painted; before the parts are built, so that each is styled once."""
        self.theme = pick_theme(self.settings.theme)
        self.setPalette(palette(self.theme))
        self.setStyleSheet(style_sheet(self.theme))

    def _apply_theme(self) -> None:
        self._style()
        for part in (self.ribbon, self.rail):
            part.theme = self.theme
            part.update()
        self.views.set_theme(self.theme)
        self.keys.set_theme(self.theme)

    def show_heard(self, hand: str) -> None:
        """Show that "left" or "right" is heard."""
        self.actions_["hear_left"].setChecked(hand == "left")
        self.actions_["hear_right"].setChecked(hand == "right")
        self.header.hear[hand].setChecked(True)

    def next_labels(self) -> None:
        """Degrees, then names, then fingers on the plates."""
        kind = self.preferences.next_labels(self.hinges.map.canvas.labels)
        self.hinges.map.set_labels(kind)
        self.say(f"The plates show {kind}.")

    def ask_hands(self) -> None:
        """The dialog on the player's hands."""
        from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog  # loaded when first asked for, to start sooner

        dialog = HandsDialog(self.desk.state.setup, self.theme, self)
        self.preferences.put(hands_offered=True)
        if dialog.exec():
            self.preferences.take_hands(dialog.hands, dialog.singer)

    def ask_name(self, words: str, proposed: str) -> str:
        """A name for something, "" for none."""
        from yellow_hinge.ui.dialogs import asking

        return asking.name(self, words, proposed)

    def open_log(self) -> PracticeLog:
        """The practice log. Raises UserError where it cannot be kept."""
        raise NotImplementedError

    def ask_csv(self) -> Path | None:
        """Where a table is to be written."""
        raise NotImplementedError

    def about(self) -> None:
        """What the program is and whose work ships with it."""
        from yellow_hinge.ui.dialogs import asking

        asking.about(self)

    def find_command(self) -> None:
        """Any command by typing a part of its name."""
        self.command_box.open()

    @property
    def command_box(self) -> CommandBox:
        """The list of commands, made when first asked for."""
        if self._command_box is None:
            from yellow_hinge.ui.shell.command_box import CommandBox
            from yellow_hinge.ui.shell.more_commands import more_commands

            self._command_box = CommandBox(self.actions_, self, lambda: self.theme, lambda: more_commands(self))
        return self._command_box

    def open_menus(self) -> None:
        """The menus by keyboard."""
        self.menu_keys.open_first()

    def show_history(self) -> None:
        """Show or hide the list of edits."""
        self.history.setVisible(self.actions_["history"].isChecked())

    def large_text(self) -> None:
        """Larger text from the next start."""
        self.preferences.put(large_text=self.actions_["large_text"].isChecked())
        self.say(f"{'Larger' if self.settings.large_text else 'Usual'} text from the next start.")

    def fold_keys(self) -> None:
        """Show or hide the two keyboards."""
        shown = self.actions_["fold_keys"].isChecked()
        self.keys.setVisible(shown)
        self.preferences.put(keys_folded=not shown)
