"""Practising a stretch as it is played: what sounds beside it, keys heard in time, each pass judged and kept."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime

from PySide6.QtCore import QObject, QTimer, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import mark_words, written_ends
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.passes import FULL, LINE, SLOWEST, PieceRun, Round, Stretch, melody_in
from yellow_hinge.app.practice.programmes import AskedChord
from yellow_hinge.app.practice.rounding import Turn, kept_as_mix, passes_of, turns
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.practice.stretches import Along, RunAsked, graded, logged, places_to_practise
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.practice.marking import Mark, begun
from yellow_hinge.core.practice.partner import Feel
from yellow_hinge.core.practice.pass_words import pass_words
from yellow_hinge.core.practice.timing import Pass
from yellow_hinge.core.rhythm.barring import numbers_of
from yellow_hinge.sound.score import Span
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.practice.partner import Partner
from yellow_hinge.ui.practice.rhythm_scene import Bars, bars_of, rhythm_scene
from yellow_hinge.ui.practice.scene import practice_scene
from yellow_hinge.ui.practice.view import PracticeView
from yellow_hinge.ui.sound.listening import Listening

TICK_MS = 20
LOUD = 74
AHEAD = 0.15  # seconds before a chord sounds that its hands are shown
NEARLY = Feel(late=0.03, uneven=0.06, missing=0.03)  # how the simulated player plays in time


class PieceRoom(QObject):
    """Runs passes through what is marked, or the selected chord's section. `keep` logs one, `ended` tells the end,
    `down` the keys that are down.
    """

    _found = Signal(object)

    def __init__(
        self, desk: Desk, view: PracticeView, listening: Listening, partner: Partner,
        keep: Callable[[Run, Mark], None], ended: Callable[[], None], down: Callable[[], frozenset[int]],
        clock: Callable[[], float] = time.monotonic,
    ) -> None:  # fmt: skip
        super().__init__(view)
        self.desk, self.view, self.listening, self.partner = desk, view, listening, partner
        self._keep, self._ended, self._clock = keep, ended, clock
        self.run: PieceRun | None = None
        self.asked: RunAsked | None = None
        self.last: Pass | None = None
        self._along = Along(NEARLY)
        self._bars: Bars | None = None
        self.turns: list[Turn] = []
        self._down = down
        self._said = self._ahead = ""  # of the last pass, and of the next one
        self._seen: tuple[int, frozenset[int], str] = (-1, frozenset(), "")
        self.waiting, self._places = False, range(0)
        self._found.connect(self._turns_found)
        self.finder: Newest[list[Turn]] = Newest(self._found.emit, "ways")
        view.kept.connect(self.keep_mix)
        self._tick = QTimer(self)
        self._tick.setInterval(TICK_MS)
        self._tick.timeout.connect(self._ticked)
        view.rhythm.resized.connect(self.show)

    @property
    def going(self) -> bool:
        """Whether passes go on, or are about to."""
        return self.run is not None or self.waiting

    # --- what is asked for ---
    def start(self) -> None:
        """Begin, from half speed where that is chosen; rounds when their ways are worked out."""
        performance, solution, places = self.listening.performance, self.desk.solution, places_to_practise(self.desk)
        if performance is None or solution is None or not places:
            return
        if self.view.chosen == "rounds":
            self._find(solution, places)
            return
        tune = self.view.chosen == "tune"
        stretch = Stretch(performance.starts[places[0]], performance.ends[places[-1]], self.view.played, tune)
        sung = any(solution.voicings[place].here.tune for place in places)
        if tune and not sung and melody_in(performance, stretch) != LINE:
            self.view.told.setText("There is no tune here, and no line is kept.")
            return
        self._begin([Round(performance, stretch)], places)

    def _find(self, solution: Solution, places: range) -> None:
        """Have the ways of the passes worked out."""
        state, ends, kind = self.desk.answers.state, written_ends(solution, places), str(self.view.ways.currentData())
        self.view.told.setText("Working out the ways…")
        self._places = places
        self.waiting = True
        self.finder.put(lambda builder, _: turns(builder, state, *ends, kind))

    def _turns_found(self, found: list[Turn] | Bug) -> None:
        if isinstance(found, Bug):
            if not isinstance(found.error, UserError):
                raise found.error
            self.view.told.setText(str(found.error))
            self.waiting = False
            self._ended()
        elif self.waiting:
            self.waiting, self.turns = False, found
            rounds = []
            for turn in found:
                sounding = turn.sounding()
                stretch = Stretch(sounding.starts[0], sounding.ends[-1], self.view.played)
                rounds.append(Round(sounding, stretch, turn.words))
            self._begin(rounds, self._places)

    def _begin(self, rounds: list[Round], places: range) -> None:
        rises = self.view.rising.isChecked()
        run = PieceRun(rounds, SLOWEST if rises else FULL, rises, self._passed)
        if not run.wanted:
            self.view.told.setText("This hand plays nothing here.")
            self._ended()
            return
        song, solution = self.desk.answers.state.song, self.desk.solution
        assert solution is not None
        self.asked = RunAsked(places, rounds[0].stretch, mark_words(song, solution, places))
        self.run, self.last = run, None
        self.view.told.setText("")
        self._said = "Play after the count."
        self.view.show_rhythm(True)
        self._show_title()
        self._sound()
        self._tick.start()

    def _show_title(self) -> None:
        """What is played now, and ahead of it what comes next."""
        run, asked = self.run, self.asked
        if run is not None and asked is not None:
            now, after = run.round.words, run.after.words
            words = f"{asked.words}: {now}" if now else asked.words
            self.view.title.setText(words[:1].upper() + words[1:])
            self._ahead = f"Next: {after}. " if now else ""
            self.view.words.setText(self._ahead + self._said)

    def keep_mix(self) -> None:
        """Keep the ways of the last rounds as takes, and a mix whose passes play them."""
        solution, kind = self.desk.solution, str(self.view.ways.currentData())
        if not self.turns or solution is None:
            self.view.told.setText("Play the rounds first.")
            return
        origin = solution.voicings[self._places[0]].here.origin
        try:
            made = kept_as_mix(self.desk.state, self.turns, kind, passes_of(solution, origin))
        except UserError as error:
            self.view.told.setText(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        count = len(self.turns)
        self.desk.document.do(Edit("keep the rounds as a mix", made))
        self.view.told.setText(f"{count} ways are kept as takes; the mix plays them.")

    def stop(self) -> bool:
        """End; whether anything went on."""
        if self.waiting:
            self.waiting = False
            self._ended()
            return True
        if self.run is None:
            return False
        self._tick.stop()
        self.run, self._seen = None, (-1, frozenset(), "")
        self._along.forget()
        self.listening.stop()
        self.partner.rest()
        self.view.show_rhythm(False)
        self._ended()
        return True

    def _sound(self) -> None:
        """What sounds beside the player: click, bass player, drums, and the hand that is not practised."""
        assert self.run is not None
        stretch = self.run.round.stretch
        silent = {"left", "right"} if stretch.hands == "both" else {stretch.hands}
        if stretch.tune:  # in the right hand's place
            melody = melody_in(self.run.round.performance, stretch)
            silent |= {"right"} | ({melody} if stretch.hands != "left" else set())
        ways = [(own.performance, Span(own.stretch.first, own.stretch.last)) for own in self.run.ahead]
        self.listening.practise(ways, self.run.percent, frozenset(silent))
        self._draw_bars()

    def _draw_bars(self) -> None:
        """The bars of the way that is played now."""
        if self.run is None:
            return
        own, turn, solution = self.run.round, self._turn(), self._solution()
        if solution is None:
            return
        song = turn.state.song if turn is not None else self.desk.answers.state.song
        numbers = [str(number) for number in numbers_of(song, solution)]
        names = [voicing_text(voicing) for voicing in solution.voicings]
        self._bars = bars_of(own.performance, own.stretch.first, own.stretch.last, self.run.percent, numbers, names)

    # --- in time ---
    def heard(self, event: NoteEvent) -> None:
        """A key of any keyboard."""
        if self.run is not None:
            self.run.heard(event)

    def _ticked(self) -> None:
        run, score, now = self.run, self.listening.player.score, self._clock()
        if run is None:
            return
        if score is None:  # somebody else plays, or stopped it
            self.stop()
            return
        begun = self.listening.player.heard_at(score.back or 0)
        if begun is not None:
            fresh = run.start is None
            run.begin(begun + run.offset)
            if fresh:
                self._plan()
        self._play_along(now)
        if run.look(now) and self.run is not None:
            if run.faster != run.percent:
                run.at_percent(run.faster)
                self._sound()
            else:
                self._plan()
            self._draw_bars()
            self._show_title()
        self.show()

    def _plan(self) -> None:
        """What the simulated player does in the pass that begins."""
        if self.run is not None and self.partner.on:
            self._along.plan(self.run)

    def _play_along(self, now: float) -> None:
        for at, touch in self._along.due(now):
            press = touch.kind == "press"
            self.partner.backend.send(0x90 if press else 0x80, touch.midi, LOUD if press else 0, at=at)

    def _passed(self, found: Pass) -> None:
        """A pass is over: what came of it, in words, in the picture, in the log."""
        run, asked = self.run, self.asked
        if run is None or asked is None:
            return
        self.last = found if len(run.rounds) == 1 else None  # the next pass has another picture
        self._said = " ".join(pass_words(found))
        self.view.words.setText(self._ahead + self._said)
        self.view.told.setText(f"{round(found.share * 100)} % right")
        kept = logged(found, run, asked, self.desk, datetime.now().astimezone(), self.partner.on)
        if kept is not None:
            self._keep(kept, graded(found, run.percent))

    def show(self, anew: bool = False) -> None:
        """Show the picture; `anew`: the room for it is another one."""
        if anew:
            self._seen = (-1, frozenset(), "")
        run = self.run
        if run is None or self._bars is None:
            self.view.rhythm.show_scene(None, "")
            return
        now = self._clock()
        place = run.place(now) if run.start is not None else None
        size = float(self.view.rhythm.width()), float(self.view.rhythm.height())
        so_far = run.so_far(now) if run.start is not None else ()
        self._show_hands(place or 0.0)
        scene = rhythm_scene(run.wanted, self._bars, self.last, place, so_far, size)
        self.view.rhythm.show_scene(scene, self.view.words.text())
        self.view.counts.setText(f"{run.percent} % of the tempo, pass {len(run.passes) + 1}")

    def _turn(self) -> Turn | None:
        """The way that is played now, where there are more than one."""
        run = self.run
        return self.turns[len(run.passes) % len(run.rounds)] if run is not None and len(run.rounds) > 1 else None

    def _solution(self) -> Solution | None:
        """Its hands."""
        turn = self._turn()
        return turn.solution if turn is not None else self.desk.solution

    def _show_hands(self, place: float) -> None:
        """The hands of the chord that sounds, with the one before it, and the keys that are down."""
        run, solution, down = self.run, self._solution(), self._down()
        if run is None or solution is None:
            return
        own, clock = run.round, run.round.performance.clock.faster(run.percent)
        at = own.performance.place_at(clock.tick(float(clock.seconds(own.stretch.first)) + max(0.0, place) + AHEAD))
        if not 0 <= at < len(solution.voicings) or (at, down, run.round.words) == self._seen:
            return
        self._seen = at, down, run.round.words
        voicing, before = solution.voicings[at], solution.voicings[at - 1] if at else None
        step = AskedChord(voicing, before, "", "", (0, 0), str(voicing.here.key), float(voicing.here.beats))
        attempt = begun(step.wanted(own.stretch.hands), 0.0)._replace(down=down)
        size = self.view.canvas.width() - 1.0, self.view.canvas.height() - 1.0
        scene = practice_scene(step, attempt, own.stretch.hands, False, size, self.desk.simple_names)
        self.view.canvas.show_scene(scene, voicing_text(voicing))
