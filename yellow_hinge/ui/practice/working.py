"""What the Practice view does: runs a session, hears keys, shows what is judged, keeps the log."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from random import Random

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.touched import Touched
from yellow_hinge.app.practice.clocks import ChordClock, Stint
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.log_keeper import LogAnswer, LogKeeper
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.practising import CAUTION, REST, PractisedSong, Practising, Told
from yellow_hinge.app.practice.programmes import BassProgramme, Programme, SongProgramme
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.practice.stretches import places_to_practise, rests, round_asked
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.own.lines import OwnLine
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.practice.marking import Mark, marked_words
from yellow_hinge.core.practice.memory import reviewed
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.practice.log_side import LogSide
from yellow_hinge.ui.practice.partner import Partner
from yellow_hinge.ui.practice.piece import PieceRoom
from yellow_hinge.ui.practice.scene import practice_scene
from yellow_hinge.ui.practice.typed_keys import too_wide
from yellow_hinge.ui.practice.typing import TypedNotes
from yellow_hinge.ui.practice.view import PIECE, ROUND, PracticeView
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

TICK_MS, CLICK, MOUSE = 250, 76, "mouse"


class PracticeRoom(QObject, Quiet):
    """Ties the view to the desk, the keys and the log, which is opened when it is first looked at."""

    _found = Signal(object)
    _kept = Signal(object)

    def __init__(
        self, desk: Desk, view: PracticeView, live: LiveKeys, listening: Listening, open_log: Callable[[], PracticeLog],
        tell: Callable[[str], None], ask_path: Callable[[], Path | None], caution: Callable[[], bool],
    ) -> None:  # fmt: skip
        super().__init__(view)
        self.desk, self.view, self.live, self.listening, self.tell = desk, view, live, listening, tell
        self._caution = caution
        self.keeper = LogKeeper(open_log, self._kept.emit)
        self.log = LogSide(desk, view, self.keeper, lambda words: self.tell(words), ask_path)
        self._waiting: tuple[PractisedSong, Programme] | None = None  # until it is known what is remembered
        self.session: Practising | None = None
        self._entry: ShelfEntry | OwnLine | None = None  # of the shelf, where that is what goes round the keys
        self.typed, self.chance = TypedNotes(live.notes, self.view), Random()
        self.typed.shifted.connect(lambda: view.typed.show_keys(self.typed.octave, view.typed.asked))
        self.partner = Partner(self, live)
        self.piece = PieceRoom(
            desk, view, listening, self.partner, self._keep_pass, self._piece_ended, lambda: live.notes.down
        )
        self.finder: Newest[Programme] = Newest(self._found.emit, "rounds")
        self._stint, self._clock = Stint(), ChordClock()
        self._tick = QTimer(self)
        self._tick.setInterval(TICK_MS)
        self._tick.timeout.connect(self._ticked)
        self._beat = QTimer(self)  # while a chord is played in time
        self._beat.setTimerType(Qt.TimerType.PreciseTimer)
        self._beat.timeout.connect(self._beaten)
        self._found.connect(self._round_found)
        self._kept.connect(self._told_by_log)
        live.notes.listeners.append(self._heard)
        live.plugged.connect(lambda _: self._show_ports())
        self._wire()

    def _wire(self) -> None:
        view = self.view
        view.seen.connect(self._seen)
        view.left.connect(self._left)
        self.listening.player.note.connect(self._silent)
        view.solved_.connect(self._changed)
        view.changed_.connect(lambda what: self._changed() if what & Touched.TEMPO else None)
        view.started.connect(self.toggle)
        view.asked.connect(self._asked_otherwise)
        view.skipped.connect(lambda: self.session.skip() if self.session is not None else None)
        view.answered.connect(self._answered)
        view.again.connect(self._sound_question)
        view.partner.connect(self.partner.put)
        view.canvas.resized.connect(self.show)
        view.canvas.pressed.connect(lambda midi: self.live.turn(midi, MOUSE))
        view.canvas.lifted.connect(lambda midi: self.live.notes.lift(midi, MOUSE))

    def _told_by_log(self, kept: LogAnswer) -> None:
        self.log.told(kept)
        if kept.name == "cards" and kept.fault:
            self._waiting = None
        elif kept.name == "cards" and self._waiting is not None:
            self._begin(*self._waiting, kept.found)

    # --- beginning and ending ---
    def toggle(self) -> None:
        """Start a session, or end the one that goes on."""
        if self.piece.stop():
            return
        if self.session is not None:
            self.session.end()
        else:
            self.start()

    def start(self, entry: ShelfEntry | OwnLine | None = None) -> None:
        """Start a session with what is chosen, or with an entry of the shelf, which goes round the keys."""
        solution, self._entry = self.desk.solution, entry
        if solution is None or not solution.voicings:
            self.view.told.setText("There is no chord to practise yet.")
            return
        resting = rests(solution, self.view.played)
        if resting and self.view.chosen != "bass":
            self.view.told.setText(resting)
            return
        if self._caution():
            self.tell(CAUTION)
        self.listening.stop()
        if self.view.chosen in ROUND or entry is not None:
            self._find_round()
            return
        if self.view.chosen in PIECE and (self.view.in_time or self.view.chosen != "piece"):
            self._start_piece()
            return
        self._prepare(self._programme())

    def _programme(self) -> Programme:
        solution = self.desk.solution
        assert solution is not None
        if self.view.chosen == "bass":
            return BassProgramme(solution, self.chance)
        only = None
        if self.view.chosen in ("part", "piece"):
            places = places_to_practise(self.desk)
            only = range(places[0], places[-1]) if len(places) > 1 else None
        return SongProgramme(solution, self.view.played, only, self.listening.performance)

    def _find_round(self) -> None:
        view = self.view
        asked = round_asked(self.desk, view.chosen, self._entry, str(view.round.currentData()), view.played)
        self.view.told.setText("Working out twelve keys…")
        self.finder.put(lambda builder, _: asked(builder))

    def _round_found(self, found: Programme | Bug) -> None:
        if isinstance(found, Bug):
            if isinstance(found.error, UserError):
                self.view.told.setText(str(found.error))
                return
            raise found.error
        self._prepare(found)

    def _prepare(self, programme: Programme) -> None:
        """Ask what is remembered of the song; practice begins with the answer."""
        state, entry = self.desk.answers.state, self._entry
        own, before = self.desk.document.known_by, self.desk.document.origin
        title, take = state.song.title, state.name
        if entry is not None:  # remembered by itself, whatever song is open
            kind = "line" if isinstance(entry, OwnLine) else "shelf"
            own, before, title, take = f"{kind}:{entry.id}", "", entry.name, ""
        self._waiting = PractisedSong(own, title, take, self.view.played), programme
        self.keeper.ask("cards", lambda log: log.cards(own, before))

    def _start_piece(self) -> None:
        self.typed.put(True)
        self.live.wake()
        self._tick.start()
        self.view.show_going(True)
        self.piece.start()
        if not self.piece.going:  # there is nothing to play
            self._piece_ended()

    def _piece_ended(self) -> None:
        self._tick.stop()
        self.typed.put(False)
        self.view.show_going(False)
        self.show()
        self.log.show()

    def _keep_pass(self, run: Run, mark: Mark) -> None:
        """Log a pass, and what the memory makes of it; what the simulated player does is remembered nowhere."""

        def keep(log: PracticeLog) -> None:
            before = log.cards(run.song, run.song).get(run.item, "")
            card = reviewed(before, run.item, mark, run.at)
            log.add(run, "" if run.sample or card == before else card)

        self.keeper.ask("kept", keep)

    def _keep(self, run: Run, card: str) -> None:
        self.keeper.ask("kept", lambda log: log.add(run, card))

    def _begin(self, piece: PractisedSong, programme: Programme, cards: dict[str, str]) -> None:
        self._waiting = None
        self.typed.put(True)
        self.live.wake()
        self._tick.start()
        self.view.told.setText(too_wide(self.desk.solution, piece.hands))
        self.view.show_going(True)
        now = lambda: datetime.now().astimezone()  # noqa: E731 - the player's days
        made_up = lambda: self.partner.on  # noqa: E731
        clock = time.monotonic
        self.session = Practising(piece, programme, cards, self._keep, clock, now, self._on_session, simulated=made_up)
        self._on_session(Told.ASKED)
        if self.session.over:
            self._on_session(Told.ENDED)

    def _asked_otherwise(self) -> None:
        self.piece.stop()
        if self.session is not None:
            self.session.end()

    def _changed(self) -> None:
        """Another solution: what was asked for may be played otherwise now."""
        self.piece.stop()
        if self.session is not None:
            self.session.end()
        self.show()

    def _left(self) -> None:
        """Another view is looked at: the session waits."""
        self.piece.stop()
        if self.session is not None:
            self.session.pause()
            self._stop_beat()
            self.partner.rest()

    def _seen(self) -> None:
        if self.session is not None:
            self.session.resume()
        self.show()
        self._show_ports()
        self.log.show()

    def leave(self) -> bool:
        """End what goes on; whether anything did."""
        going = self.piece.stop() or self.session is not None
        self._waiting = None
        if self.session is not None:
            self.session.end()
        return going

    def take(self) -> None:
        """Start, or end."""
        self.toggle()

    def close(self) -> None:
        """Stop what works."""
        self.leave()
        self.partner.put(False)
        self.finder.close()
        self.piece.finder.close()
        self.keeper.close()

    # --- what happens in a session ---
    def _heard(self, event: NoteEvent) -> None:
        self.piece.heard(event)
        if self.session is not None and self.view.isVisible():
            self.session.heard(event)

    def _on_session(self, told: Told) -> None:
        session = self.session
        if session is None:
            return
        if told == Told.ENDED:
            self._ended(session)
            return
        if told == Told.MARKED and session.last is not None:
            question = session.step.question if session.step is not None else None
            makes = f": {pretty_signs(f'{question.right}, it makes {question.makes}')}" if question is not None else ""
            self.view.told.setText(marked_words(session.last) + makes)
        if told == Told.ASKED:
            self._ask(session)
        self.show()

    def _ask(self, session: Practising) -> None:
        step, view = session.step, self.view
        if step is None:
            return
        if step.place >= 0 and step.place != self.desk.selection.index:
            self.desk.selection.go(step.place)
        before, here = step.before, voicing_text(step.voicing)
        question = step.question
        view.title.setText(here if before is None else f"{voicing_text(before)} → {here}")
        view.words.setText(pretty_signs(step.words))
        view.show_answers(())
        if question is not None:
            view.title.setText("Which bass?")
            view.show_answers(tuple(pretty_signs(str(note)) for note in question.answers))
            self._sound_question()
        view.typed.follow(self.typed, step, session.piece.hands, view.hidden.isChecked())
        timed = (view.in_time or session.programme.in_time) and question is None
        if self._clock.asked(step, timed):
            self._click()
        if timed:
            self._beat.start(self._clock.beat_ms(self.tempo))
        else:
            self._beat.stop()
        self.partner.asked(session)

    @property
    def tempo(self) -> float:
        """Beats a minute: the song's, faster where rounds of keys are right."""
        programme = self.session.programme if self.session is not None else None
        return self._clock.tempo(self.desk.state.song.tempo, programme)

    def _click(self) -> None:
        self.live.source.press(CLICK, 90, "click")

    def _stop_beat(self) -> None:
        self._beat.stop()
        self._clock.stop()

    def _beaten(self) -> None:
        self._click()
        if self._clock.beat() and self.session is not None:
            self.session.time_up()

    def _answered(self, number: int) -> None:
        session = self.session
        question = session.step.question if session is not None and session.step is not None else None
        if session is not None and question is not None:
            session.answer(question.answers[number].pc, time.monotonic())

    def _sound_question(self) -> None:
        step = self.session.step if self.session is not None else None
        if step is not None and step.question is not None:
            hand = tuple((midi, "right") for midi in step.question.keys)
            self.listening.player.strike((*hand, (step.question.bass, "bass")), 2.4)

    def _silent(self, words: str) -> None:
        """No bass is heard that could be asked for."""
        if self.session is not None and isinstance(self.session.programme, BassProgramme):
            self.session.end()
            self.view.told.setText(words)

    def _ticked(self) -> None:
        if not self.piece.going and (self.session is None or self.session.paused):
            return
        if self._stint.passed(TICK_MS / 1000):
            self.tell(REST)
        if self.session is not None:
            self._show_counts(self.session)

    def _ended(self, session: Practising) -> None:
        self._tick.stop()
        self._stop_beat()
        self.typed.put(False)
        self.partner.rest()
        self.session = None
        self.view.show_going(False)
        self._show_counts(session)
        self.view.told.setText("")
        self.show()
        self.log.show()

    # --- what is shown ---
    def show(self) -> None:
        """Show the keyboards as they are pressed."""
        if self.piece.run is not None:
            self.piece.show(anew=True)
            return
        view, session = self.view, self.session
        step = session.step if session is not None else None
        if session is None or step is None or session.attempt is None:
            view.canvas.show_scene(None, "")
            return
        size = view.canvas.width() - 1.0, view.canvas.height() - 1.0
        scene = practice_scene(
            step, session.attempt, session.piece.hands, view.hidden.isChecked(), size, self.desk.simple_names
        )
        view.canvas.show_scene(scene, f"{view.title.text()}. {view.words.text()}")
        self._show_counts(session)

    def _show_counts(self, session: Practising) -> None:
        left = max(0, round(session.seconds_left))
        going = f"{left // 60}:{left % 60:02} left" if not session.over else "ended"
        self.view.session.setText(f"{session.right} right, {session.wrong} not yet; {going}")
        wait = self.live.wait_ms
        heard = f"  ·  a key is heard after {wait:.0f} ms" if wait is not None else ""
        step = session.step
        key = f"{pretty_signs(step.key)}  ·  " if step is not None else ""
        timed = f"in time, {self.tempo:.0f} beats a minute" if self._beat.isActive() else "it waits for you"
        self.view.counts.setText(f"{key}{timed}{heard}")

    def _show_ports(self) -> None:
        names = self.live.ports.names if self.live.ports is not None else ()
        self.view.plugged.setText(f"Heard: {', '.join(names)}" if names else self.live.why)
