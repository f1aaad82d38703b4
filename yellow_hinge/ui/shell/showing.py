"""What the desk, the ear and the keyboards tell, shown in every part of the window."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QMainWindow

from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.desk.marked import mark_words
from yellow_hinge.app.desk.sayings import song_words
from yellow_hinge.app.edits.touched import Touched
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.parts.rooms import Rooms
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.shell.commands.listening import SWITCHES
from yellow_hinge.ui.shell.drawers import Drawers
from yellow_hinge.ui.shell.header import Header

EMPTY = f"Type a chart in the Chart view ({CHART.key}), open a song, or open the demo song from the Song menu."
READING_MS = 400  # after which the notes of a new solution are read, so that they sound at once


class Showing(QObject):
    """Listens, and shows; it decides nothing."""

    def __init__(self, window: QMainWindow, shell: Shell, rooms: Rooms, header: Header, drawers: Drawers) -> None:
        super().__init__(window)
        self.window_, self.shell, self.rooms, self.header, self.drawers = window, shell, rooms, header, drawers
        self.desk, self.teller = shell.desk, shell.teller
        self._home = rooms.room(HINGES)
        self._reading = QTimer(self)
        self._reading.setSingleShot(True)
        self._reading.setInterval(READING_MS)
        self._reading.timeout.connect(shell.listening.prepare)
        self._played = self.desk.state.playing
        self.desk.listeners.append(self._on_desk)
        rooms.shown.connect(lambda _: self.tell_mistake())
        shell.look.changed.connect(shell.ribbon.set_theme)
        shell.look.changed.connect(shell.keys.set_theme)
        shell.listening.changed.connect(self._heard)
        shell.listening.player.at.connect(self._playing)
        shell.listening.player.note.connect(self.teller.tell_silence)
        shell.live.changed.connect(lambda: shell.keys.light(shell.live.notes.down))
        self._heard()

    # --- the desk ---
    def _on_desk(self, what: Event) -> None:
        do: dict[Event, Callable[[], object]] = {
            Event.STATE: self._state, Event.SOLUTION: self._solution, Event.SELECTION: self._selection,
            Event.MARK: self._mark, Event.NAMES: self._names, Event.OWN: self._own,
            Event.FAULT: lambda: self.teller.tell(self.desk.answers.fault),
        }  # fmt: skip
        if what in do:
            do[what]()

    def _own(self) -> None:
        """Other styles and manners may be asked for, other substitutes and scales be found."""
        self.header.fill_manners(anew=True)
        self._home.view.wishes.fill_styles()
        for view in self.rooms.views():
            view.changed(Touched.ALL)

    def _selection(self) -> None:
        self.shell.ribbon.update()
        self.shell.keys.refresh()
        for view in self.rooms.views():
            view.reselect()
        self.teller.announcer.say(self._home.view.map.accessibleDescription())

    def _state(self) -> None:
        what = self.desk.document.touched
        self.header.refresh()
        if self.desk.state.playing != self._played:
            self._played = self.desk.state.playing
            self.shell.preferences.remember_patterns(self._played.patterns)
            self.shell.preferences.remember_fills(fill.kind for fill in self._played.fills)
            self.shell.ribbon.refresh()
            self._home.view.map.refresh()
            self.shell.keys.refresh()
        for view in self.rooms.views():
            view.changed(what)
        self._history()
        title = f"{self.desk.state.song.title}{'*' if self.desk.document.changed else ''}"
        self.window_.setWindowTitle(f"{title} - Yellow Hinge")
        self.tell_mistake()
        if self.desk.solution is None:
            self._solution()
        if self.desk.document.rested:  # what the last edit laid to rest in takes that are not shown
            self.teller.say(pretty_signs(self.desk.document.rested))
        if not self.desk.song.sections:
            self.teller.say(EMPTY, lasting=True)

    def _history(self) -> None:
        """What undo and redo would do."""
        history = self.desk.document.history
        for name, label in (("undo", history.undo_label), ("redo", history.redo_label)):
            action, letter = self.shell.actions[name], f"&{name.capitalize()}"
            action.setEnabled(bool(label))
            action.setText(pretty_signs(f"{letter}: {label}").replace(" & ", " && ") if label else letter)
        self.header.show_history(history.undo_label, history.redo_label)
        self.drawers.refresh()

    def _solution(self) -> None:
        self.shell.listening.solved()
        self._reading.start()
        self.shell.ribbon.refresh()
        self.shell.keys.refresh()
        for view in self.rooms.views():
            view.solved()
        if self.desk.selection.mark is not None:
            self._show_mark()
        if self.desk.solution is not None:
            self.teller.say(song_words(self.desk), lasting=True)

    def _names(self) -> None:
        self._solution()
        for view in self.rooms.views():
            view.changed(Touched.ALL)

    def _mark(self) -> None:
        self._show_mark()
        marked, solution = self.desk.selection.marked, self.desk.solution
        if not marked or solution is None:
            self.teller.say("Nothing is marked any more.")
            return
        words = mark_words(self.desk.answers.state.song, solution, marked)
        self.teller.say(f"Marked: {words}. G plays it round and round, Escape lets it go.")

    def _show_mark(self) -> None:
        self.shell.ribbon.update()
        for view in self.rooms.views():
            view.remark()

    # --- the chart's first mistake ---
    def tell_mistake(self) -> None:
        """Wherever the chart is not seen, what is shown may be older than it."""
        faults = () if self.desk.state.emptied else self.desk.document.reading.faults
        if not faults or faults[0].missing or self.rooms.now_handle is CHART:
            self.teller.mistake.hide()
            return
        words = f"Line {faults[0].line} of the chart has a mistake. What you see and hear is the song before it."
        self.teller.mistake.tell(words, {"Go there": self.show_mistake})

    def show_mistake(self) -> None:
        """Show the chart's first mistake."""
        self.rooms.at(CHART).view.show_fault()

    def teach(self) -> None:
        """A new song: its chart, with how it is written beside it."""
        self.rooms.at(CHART).view.teach()

    # --- what sounds ---
    def _playing(self, index: int) -> None:
        shell, player = self.shell, self.shell.listening.player
        if index != shell.ribbon.playing:
            shell.ribbon.set_playing(index)
            self._home.view.map.follow(index)
            sounding = shell.listening.ready
            shell.keys.follow(index, sounding.added_at(index) if sounding is not None else ())
        self.header.set_playing(player.playing)
        if not player.playing:
            self.teller.silence.hide()

    def _heard(self) -> None:
        listening, actions = self.shell.listening, self.shell.actions
        self.shell.preferences.put(heard=listening.heard)
        for command, name in SWITCHES.items():
            actions[command].setChecked(getattr(listening.heard, name))
        for hand in ("left", "right"):
            actions[f"hear_{hand}"].setChecked(listening.hands == hand)
        self.header.hear[listening.hands].setChecked(True)

    def close(self) -> None:
        """Read nothing any more."""
        self._reading.stop()
