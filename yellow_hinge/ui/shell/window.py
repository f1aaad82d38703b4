"""The main window: the frame wired to a desk."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QGuiApplication

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.looking import Event
from yellow_hinge.app.desk.sayings import song_words
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.keeping.settings import Places, Settings, load_settings
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.solver import Answer, Solver
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.ui.chart import singing
from yellow_hinge.ui.files import sheeting
from yellow_hinge.ui.files.files import Files
from yellow_hinge.ui.files.keeper import Keeper
from yellow_hinge.ui.files.knowing import Knowing
from yellow_hinge.ui.files.rescues import Rescues
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.hinges.entering import Entering
from yellow_hinge.ui.hinges.moving import NoteMover
from yellow_hinge.ui.hinges.trying import Trying
from yellow_hinge.ui.paint.controls import PATIENCE_MS
from yellow_hinge.ui.parts.commands import HEARD, Chooser
from yellow_hinge.ui.parts.views import HOME, VIEW
from yellow_hinge.ui.shell.frame import Frame
from yellow_hinge.ui.shell.marking import Marking
from yellow_hinge.ui.takes import anywhere as taking

if TYPE_CHECKING:
    from yellow_hinge.app.practice.log import PracticeLog

EMPTY = f"Type a chart in the Chart view ({VIEW['chart'].key}), open a song, or open the demo song from the Song menu."

LISTENING_MS = 700  # after which keyboards are looked for
READING_MS = 400  # after which the notes of a new solution are read, so that they sound at once


class _Answers(QObject):
    """Carries answers from the solver's thread to the window's."""

    came = Signal(object)


class MainWindow(Frame):
    """The frame around one desk."""

    def __init__(self, places: Places, settings: Settings) -> None:
        super().__init__(Desk(self._ask), settings)
        self._answers = _Answers()
        self.solver = Solver(self._answers.came.emit, "solver")
        self.places = places
        self._answers.came.connect(self._answered)
        self.saving = Saving(self.desk, self, self.say, places, self.tell)
        self.saving.clicks = lambda: self.listening.heard.click
        self.saving.sheet = lambda: self.preferences.settings.sheet
        self.files = Files(self.desk, self, self.say, lambda: self.settings, self.saving)
        self.files.offer = self.news.tell
        self.knowing = Knowing(self.desk, self, self.news, self.say)
        self.keeper = Keeper(self.desk, places, self.tell, self)
        self.files.last_songs = lambda: self.preferences.last_songs(load_settings(places).recent)
        self.preferences.changed = self.keeper.settings.put
        self.keeper.known = lambda: self.saving.known or ""
        self.rescues = Rescues(self.desk, places, self.keeper, self.saving, self.news, self.tell)
        self.mover = NoteMover(self.desk, self.say)
        self.marking = Marking(self.desk, self, self._show_mark, self.say)
        strike = self.listening.player.strike
        self.entering = Entering(self.desk, self.mover, self.say, lambda midi: strike(((midi, "right"),)))
        self.trying = Trying(self.hinges, self.keys, self.mover, self.listening, self.say, self.entering, self.unsay)
        self.hinges.options.taken.connect(self.desk.take)
        self.hinges.wishes.forgotten.connect(self.forget_shape)
        self.rail.chosen.connect(self.show_view)
        self._wire_files()
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.setInterval(PATIENCE_MS)
        self._patience.timeout.connect(self.busy.show)
        self._reading = QTimer(self)
        self._reading.setSingleShot(True)
        self._reading.setInterval(READING_MS)
        self._reading.timeout.connect(self.listening.prepare)
        self._played = self.desk.state.playing
        self.desk.listeners.append(self._on_desk)
        self._wire_sound()
        self.resize(*settings.window)
        if settings.maximised:
            self.setWindowState(Qt.WindowState.WindowMaximized)
        self.show_view(settings.view if settings.view in VIEW else HOME)
        QGuiApplication.styleHints().colorSchemeChanged.connect(lambda _: self._apply_theme())

    def _wire_sound(self) -> None:
        self.listening.changed.connect(self._show_heard)
        self.live.changed.connect(lambda: self.keys.light(self.live.notes.down))
        self.live.notes.listeners.append(self._struck)
        QTimer.singleShot(LISTENING_MS, self, self._listen)
        self.listening.player.at.connect(self._playing)
        self.listening.player.note.connect(self._tell_silence)
        self._show_heard()

    def _listen(self) -> None:
        from yellow_hinge.app.practice.ports import SystemBackend  # nor are keyboards

        self.live.listen(SystemBackend())

    def _struck(self, event: NoteEvent) -> None:
        """A key of any keyboard: while hands are entered it is one of theirs."""
        if self.entering.on and event.kind == "press":
            self.entering.note(event.midi)

    def open_log(self) -> PracticeLog:
        from yellow_hinge.app.practice.log import PracticeLog  # a database is not needed at start

        return PracticeLog(self.places.state)

    def ask_csv(self) -> Path | None:
        return self.saving.ask_export("practice log", {".csv": "Table"})

    def _wire_files(self) -> None:
        """What happens around opening and saving."""
        for name, fill in (
            ("shipped", self.files.fill_shipped),
            ("last_songs", self.files.fill_last),
            ("earlier", self.saving.fill_versions),
            ("unsaved", self.rescues.fill),
        ):
            menu = self.submenus[name]
            menu.aboutToShow.connect(lambda menu=menu, fill=fill: fill(menu))
        self.saving.mistake.connect(self.show_mistake)
        self.files.opened.connect(self._warn_shared)
        self.files.opened.connect(lambda _: taking.tell_apart(self))
        self.files.opened.connect(lambda _: self.knowing.look())
        self.files.begun.connect(self._teach)
        self.files.opened.connect(self.preferences.remember_file)
        self.saving.saved.connect(self.preferences.remember_file)

    # --- what the desk tells ---
    def _ask(self, state: State) -> int:
        self._patience.start()
        return self.solver.ask(state)

    def _answered(self, answer: Answer | Bug) -> None:
        if answer.number == self.desk.asked:
            self._patience.stop()
            self.busy.hide()
        if isinstance(answer, Bug):
            self.desk.answered = answer.number
            raise answer.error
        self.desk.accept(answer)

    def _on_desk(self, what: Event) -> None:
        if what == Event.STATE:
            self._refresh_state()
        elif what == Event.SOLUTION:
            self._refresh_solution()
        elif what == Event.SELECTION:
            self.mover.forget()
            self.ribbon.update()
            self.keys.refresh()
            for view in self.views.made():
                view.reselect()
            self.announcer.say(self.hinges.map.accessibleDescription())
        elif what == Event.FAULT:
            self.tell(self.desk.fault)

    def _refresh_state(self) -> None:
        self.header.refresh()
        if self.desk.state.playing != self._played:
            self._played = self.desk.state.playing
            self.preferences.remember_patterns(self._played.patterns)
            self.ribbon.refresh()
            self.hinges.map.refresh()
            self.keys.refresh()
        for view in self.views.made():
            view.changed()
        history = self.desk.history
        for name, label in (("undo", history.undo_label), ("redo", history.redo_label)):
            self.actions_[name].setEnabled(bool(label))
            letter = f"&{name.capitalize()}"
            text = pretty_signs(f"{letter}: {label}").replace(" & ", " && ")
            self.actions_[name].setText(text if label else letter)
        self.header.show_history(history.undo_label, history.redo_label)
        if self._history is not None:
            self._history.refresh()
        self.setWindowTitle(f"{self.desk.state.song.title}{'*' if self.desk.changed else ''} - Yellow Hinge")
        self._tell_mistake()
        if self.desk.solution is None:
            self._refresh_solution()
        self._tell_rested()
        if not self.desk.song.sections:
            self.say(EMPTY, lasting=True)

    def _refresh_solution(self) -> None:
        self.listening.solved()
        self._reading.start()
        self.mover.forget()
        self.ribbon.refresh()
        self.keys.refresh()
        for view in self.views.made():
            view.solved()
        if self.desk.solution is not None:
            self.say(song_words(self.desk), lasting=True)

    def _show_mark(self) -> None:
        self.ribbon.update()
        for view in self.views.made():
            view.remark()

    def _tell_rested(self) -> None:
        """What the last edit laid to rest in takes that are not shown."""
        if self.desk.rested:
            self.say(pretty_signs(self.desk.rested))

    def _playing(self, index: int) -> None:
        if index != self.ribbon.playing:
            self.ribbon.set_playing(index)
            self.hinges.map.follow(index)
            sounding = self.listening.performance
            self.keys.follow(index, sounding.added_at(index) if sounding is not None else ())
        self.header.set_playing(self.listening.player.playing)
        if not self.listening.player.playing:
            self.silence.hide()

    def _tell_silence(self, words: str) -> None:
        """There is no sound device: said whenever something is played, as long as it is played."""
        self.say(words)
        self.silence.tell(words, {"Good": lambda: None})

    def _tell_mistake(self) -> None:
        """Wherever the chart is not seen, what is shown may be older than it."""
        faults = () if self.desk.state.emptied else self.desk.reading.faults
        if not faults or faults[0].missing or self.views.current == "chart":
            self.mistake.hide()
            return
        words = f"Line {faults[0].line} of the chart has a mistake. What you see and hear is the song before it."
        self.mistake.tell(words, {"Go there": self.show_mistake})

    def _warn_shared(self, path: Path) -> None:
        if self.keeper.session.open_elsewhere(path):
            words = f"{path.name} is open in another window too. Saving asks before it writes over the other's work."
            self.news.tell(words, {"Save a copy…": self.saving.save_as, "Good": lambda: None})

    def _teach(self) -> None:
        """A new song: its chart, with how it is written beside it."""
        self.show_view("chart")
        self.chart.teach()

    # --- commands of the window itself ---
    def show_mistake(self) -> None:
        """Show the chart's first mistake."""
        self.show_view("chart")
        self.chart.show_fault()

    def show_view(self, name: str) -> None:
        """Show a view by its name."""
        if self.entering.on:
            self.entering.toggle()
        self.mover.forget()
        self.keys.refresh()
        self.views.show_view(name)
        self.rail.mark(name)
        self.keys.setVisible(self.actions_["fold_keys"].isChecked() and VIEW[name].keyboards)
        self._tell_mistake()
        self.preferences.put(view=name)
        self.views.currentWidget().setFocus(Qt.FocusReason.OtherFocusReason)

    def forget(self) -> None:
        """Drop what is tried, else the mark; in the Swaps view, where nothing is, go home."""
        tried = self.mover.forget()
        worker = self.views.worker(self.views.current)
        left = worker is not None and worker.leave()
        if not (tried or left or self.desk.unmark()) and self.views.current == "swaps":
            self.show_view(HOME)
        self.keys.refresh()

    def one_pass(self) -> None:
        """What is taken, kept and asked of a repeat is for this pass alone, or for all of them."""
        self.desk.this_pass = not self.desk.this_pass
        self.hinges.options.show_passes()
        self.say("For this pass only." if self.desk.this_pass else "For all passes.")

    def take_do(self, what: str) -> None:
        """Do something with takes."""
        taking.take_do(self, what)

    def next_take(self, by: int) -> None:
        """Put another take on the desk."""
        taking.next_take(self, by)

    def compare_takes(self) -> None:
        """Two takes chord by chord."""
        taking.compare_takes(self)

    def play_mix(self) -> None:
        """Play the mix, or stop."""
        taking.play_mix(self)

    def export_mix(self) -> None:
        """Write the mix to a file."""
        taking.export_mix(self)

    def together(self) -> None:
        """All takes in the song's key and bars."""
        taking.bring_together(self)

    def take_to_song(self) -> None:
        """The take as a song of its own."""
        taking.to_a_song(self)

    def sheets(self, what: str) -> None:
        """Print or export what the Sheet view shows."""
        sheeting.DO[what](self)

    def in_turn(self) -> None:
        """Hear two ways in turn: of a swap, or of two takes."""
        if self.views.current == "takes":
            self.views.worker("takes").in_turn()
        else:
            self.swapping.hear("turn")

    def correct(self) -> None:
        """Write what is suggested for the chart's first mistake, if anything is."""
        self.show_mistake()
        self.chart.correct()

    def other_key(self) -> None:
        """Go to where another key is tried."""
        self.show_view("chart")
        self.chart.tools.key.setFocus()
        self.chart.tools.key.showPopup()

    def how_to_write(self) -> None:
        """Show how a chart is written beside it."""
        self.show_view("chart")
        self.chart.show_lesson(True)

    def for_singer(self) -> None:
        """Show the song in the key that suits a singer's lowest and highest note."""
        singing.for_singer(self)

    def take_whole(self) -> None:
        """Take what the Swaps view made of the whole song."""
        self.show_view("swaps")
        self.swapping.take_whole()

    @property
    def chooser(self) -> Chooser:
        """The list that up, down and Enter go through."""
        worker: Chooser | None = self.views.worker(self.views.current)
        return worker if worker is not None else self.hinges.side

    def forget_shape(self, shape: MyShape) -> None:
        """Forget a shape of the player's own."""
        from yellow_hinge.ui.hinges.capturing import forget_shape

        forget_shape(self.desk, self.preferences, shape)

    def capture_shape(self) -> None:
        """Save the hands of the selected chord, as they are tried, as a shape of the player's own."""
        from yellow_hinge.ui.hinges.capturing import capture_shape

        capture_shape(self, self.desk, self.hinges.options.current, self.preferences, self.say)

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

    def _show_heard(self) -> None:
        self.preferences.put(heard=self.listening.heard)
        for command, name in HEARD.items():
            self.actions_[command].setChecked(getattr(self.listening.heard, name))

    def hear(self, hand: str) -> None:
        """Hear "left" or "right"."""
        self.show_heard(hand)
        self.listening.hear(hand)

    def simple_names(self) -> None:
        """Say B and F, or Cb and E#."""
        self.preferences.simple_names(self.actions_["simple"].isChecked())
        self._refresh_solution()
        for view in self.views.made():
            view.changed()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.saving.may_leave():
            event.ignore()
            return
        self._reading.stop()
        if self.entering.on:
            self.entering.toggle()
        self.listening.player.close()
        self.live.close()
        self.solver.close()
        self.hinges.side.close_room()
        self.views.close_rooms()
        self.knowing.close()
        last = str(Path(self.desk.path).resolve()) if self.desk.path else ""
        plain, column_w = self.normalGeometry().size() if self.isMaximized() else self.size(), self.hinges.map.column_w
        size = (plain.width(), plain.height())
        self.preferences.put(maximised=self.isMaximized())
        self.preferences.put(window=size, last_file=last, chord=self.desk.selected, column_w=column_w)
        self.keeper.close()
        event.accept()
