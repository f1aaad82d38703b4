"""What the player hears: which parts, from where, at what speed, looped or not."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import partial
from typing import Any

import msgspec
from PySide6.QtCore import QObject, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.edits.touched import Touched
from yellow_hinge.app.keeping.settings import Heard
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.sounding import Performer, Sounding, sounding
from yellow_hinge.core.leading.answer import Option, Solution
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.performing import Performance, beat_seconds, performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.fills.notes import swung_in
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.song.song import Song
from yellow_hinge.sound.instruments import RATE
from yellow_hinge.sound.leveling import Levels, leveled
from yellow_hinge.sound.score import HANDS, LOUDEST, Note, Score, Span, frame_of, score
from yellow_hinge.ui.sound.player import SongPlayer

BESIDE = ("tune", "bass", "click", "drums")
FIRST_BARS = 4  # whose notes are read before they are asked for
LINE_LOUD = 92  # the velocity of a line
AT_ONCE = 150  # chords whose playing is read in no time


def _hands(solution: Solution) -> list[tuple[int, Both]]:
    return [(voicing.moment, voicing.both) for voicing in solution.voicings]


class Listening(QObject):
    """The commands of the Listen menu on the desk's solution. `changed` tells that something else is to be heard,
    `read` that it is known how a long song sounds.
    """

    changed = Signal()
    read = Signal()
    _came = Signal(object)

    def __init__(self, desk: Desk, parent: QObject, heard: Heard = Heard()) -> None:  # noqa: B008 - frozen
        super().__init__(parent)
        self.desk = desk
        self.player = SongPlayer(self)
        self.hands = "both"
        self.heard = heard
        self._known: Sounding | None = None
        self._came.connect(self._arrived)
        self._performer = Performer(self._came.emit, "performing")
        self._asked: tuple[Solution, Playing, int] | None = None  # what the performer works on
        self._after: list[Callable[[], object]] = []  # to be done once it is read
        self._evening: tuple[Performance, Levels] | None = None
        desk.listeners.append(self._told)
        self._span: tuple[Span, bool] | None = None  # what is played of the song, and whether it loops

    # --- what is heard ---
    def levels(self) -> dict[str, float]:
        """The parts that sound, with their levels."""
        found = dict.fromkeys(HANDS[self.hands], self.heard.level("hands"))
        if self.hands != "left":  # it is the right hand's
            found["line"] = self.heard.level("tune")
        return found | {part: self.heard.level(part) for part in BESIDE if getattr(self.heard, part)}

    def _evened(self) -> dict[str, float]:
        """The levels of the parts that sound as this song is brought to the loudness of all; previews too, so that they
        are as loud as the song around them.
        """
        performance = self.performance
        if performance is None:
            return self.levels()
        if self._evening is None or self._evening[0] is not performance:
            self._evening = performance, leveled(performance)
        return self._evening[1].over(self.levels())

    def hear(self, hands: str) -> None:
        """Hear "left", "right" or "both" hands."""
        self.hands = hands
        self.changed.emit()
        self._go_on()

    def put(self, **fields: Any) -> None:
        """Hear something else beside the hands; at once, where something is played."""
        self.heard = msgspec.structs.replace(self.heard, **fields)
        self.changed.emit()
        self._go_on()

    def flip(self, name: str) -> None:
        """Turn one of the switches of what is heard."""
        self.put(**{name: not getattr(self.heard, name)})

    # --- how the song sounds ---
    @property
    def performance(self) -> Performance | None:
        """How the present solution sounds; None while there is none."""
        solution, playing = self.desk.solution, self.desk.state.playing
        if solution is None or not solution.voicings:
            return None
        song = self.desk.answers.state.song
        if self._known is None or not self._known.fits(solution, playing, song.tempo):
            self._known = sounding(solution, song, playing)
        return self._known.performance

    @property
    def ready(self) -> Performance | None:
        """The same where it is known or read in no time; None while a long song is read beside the window, of which
        `read` tells.
        """
        solution, playing, song = self.desk.solution, self.desk.state.playing, self.desk.answers.state.song
        if solution is None or len(solution.voicings) <= AT_ONCE:
            return self.performance
        if self._known is not None and self._known.fits(solution, playing, song.tempo):
            return self._known.performance
        if self._asked != (solution, playing, song.tempo):
            self._asked = solution, playing, song.tempo
            self._performer.ask(solution, song, playing)
        return None

    def _arrived(self, found: Sounding | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        self._known, self._asked = found, None
        if found.levels is not None:
            self._evening = found.performance, found.levels
        after, self._after = self._after, []
        for do in after:
            do()
        self.read.emit()

    def close(self) -> None:
        """Read nothing any more."""
        self._performer.close()

    def prepare(self) -> None:
        """Read the first notes from the selected chord on, so that they sound at once when they are asked for."""
        performance = self.ready
        if performance is None and self._asked is not None:
            self._after.append(self.prepare)
        if performance is not None:
            first = performance.starts[self.desk.selection.index]
            bars = [bar.end for bar in performance.bars if bar.end > first][:FIRST_BARS]
            self.player.prepare(score(performance, Span(first, bars[-1]), self.levels()).notes)

    def _told(self, what: Event) -> None:
        """Patterns, fills or the tempo changed: what is played goes on with them."""
        if what == Event.STATE:
            self.player.shift = self.desk.state.playing.shift(self.desk.state.song.the_key)
        other = self.desk.document.touched & (Touched.PLAYING | Touched.TEMPO)
        if what == Event.STATE and self._known is not None and other:
            self._go_on()

    def solved(self) -> None:
        """There is another solution: where its hands are the same, as after another tempo, what is played goes on."""
        new = self.desk.solution
        self._after.clear()
        same = self._known is not None and new is not None and _hands(self._known.solution) == _hands(new)
        if same:
            self._go_on()
        else:
            self.stop()

    # --- playing ---
    @property
    def _goes_on(self) -> bool:
        """Whether something is played that a press stops; a chord that is only struck rings, and stops nothing."""
        return self.player.playing and not self.player.struck

    def toggle(self) -> None:
        """Play from the selected chord to the end, or stop."""
        performance = self.ready
        if self._goes_on:
            self.stop()
        elif performance is None:
            self._after.append(self.toggle)
        else:
            self._play(
                Span(performance.starts[self.desk.selection.index], performance.length), self.desk.state.setup.loop
            )

    def loop(self, what: str, click_only: bool = False) -> None:
        """Repeat the selected "hinge", "bar" or "section", or the "mark" (the bar, where nothing is marked), until
        stopped; `click_only` lets nothing else be heard.
        """
        performance = self.ready
        if self._goes_on:
            self.stop()
        elif performance is None:
            self._after.append(partial(self.loop, what, click_only))
        else:
            span = self._stretch(what, performance)
            if click_only:
                self._span = span, True
                self.player.play(score(self._slowed(performance), span, {"click": 1.0}, True, True))
            else:
                self._play(span, True)

    def tick_of(self, frame: int) -> int | None:
        """The tick of the song that a frame of what is played falls on; None where it is another song, or a count."""
        sheet = self.player.score
        performance = self.performance if sheet is not None and sheet.places and self._span is not None else None
        if performance is None or sheet is None or self._span is None:
            return None
        inside = frame - sheet.places[0][0]
        clock, first = self._slowed(performance).clock, self._span[0].first
        return clock.tick(float(clock.seconds(first)) + inside / RATE) if inside >= 0 else None

    def loop_hinge(self) -> None:
        """Repeat the selected chord and the next, or stop."""
        self.loop("hinge")

    def _stretch(self, what: str, performance: Performance) -> Span:
        at, marked = self.desk.selection.index, self.desk.selection.marked
        if what == "mark" and marked:
            return Span(performance.starts[marked[0]], performance.ends[marked[-1]])
        what = "bar" if what == "mark" else what
        first, last = performance.starts[at], min(at + 1, len(performance.starts) - 1)
        bar = performance.bar_at(first)
        if what == "bar" and bar is not None:
            return Span(bar.start, bar.end)
        if what == "section" and self.desk.solution is not None and self.desk.selection.moment is not None:
            voicings, moments = self.desk.solution.voicings, self.desk.solution.moments
            mine = [
                i for i, v in enumerate(voicings) if moments[v.moment].section == self.desk.selection.moment.section
            ]
            return Span(performance.starts[mine[0]], performance.ends[mine[-1]])
        return Span(first, performance.ends[last])

    def chord(self, option: Option | None = None) -> None:
        """Sound the selected chord once, as `option` plays it where one is being tried."""
        voicing = self.desk.selection.voicing
        if voicing is not None:
            both = option.both if option is not None else voicing.both
            notes = tuple((n, "left") for n in both.left) + tuple((n, "right") for n in both.right)
            self.player.strike(tuple((n, part) for n, part in notes if part in HANDS[self.hands]))

    def around(self, span: int = 1) -> None:
        """Play the selected chord, or `span` of them from it on, between their neighbours as they are, or stop."""
        performance = self.performance
        if self.player.playing:
            self.stop()
        elif performance is not None:
            last = min(self.desk.selection.index + span, len(performance.starts) - 1)
            self._play(Span(performance.starts[max(0, self.desk.selection.index - 1)], performance.ends[last]), False)

    def other(self, solution: Solution, song: Song, playing: Playing | None = None) -> None:
        """Play another solution from beginning to end, such as a swap between its neighbours."""
        if self.player.playing:
            self.stop()
        else:  # its chords have no place on the ribbon
            self._span = None
            self.player.play(self._whole(solution, song, playing), follow=False)

    def with_line(self, line: Sequence[tuple[Fraction, Fraction, int, int]], first: int, last: int) -> None:
        """Play chords `first` to `last` with a line for the tune: (onset, length, MIDI number, chord) of its notes, in
        quarters; or stop.
        """
        performance = self.performance
        if self.player.playing:
            self.stop()
            return
        if performance is None:
            return
        span, slowed = Span(performance.starts[first], performance.ends[last]), self._slowed(performance)
        whole = score(slowed, span, self._evened() | {"tune": 0.0, "line": 0.0}, self.desk.state.setup.loop)
        begin, notes = frame_of(slowed.clock, span.first), list(whole.notes)
        for onset, quarters, midi, at in line:
            here = performance.row[at]
            start, end = (
                frame_of(slowed.clock, swung_in(ticks(place), here)) - begin for place in (onset, onset + quarters)
            )
            notes.append(Note(start, end, midi + performance.shift, "tune", LINE_LOUD, self.heard.level("tune")))
        self._span = None
        self.player.play(whole._replace(notes=tuple(sorted(notes))), follow=False)

    def under_line(self, first: int, last: int) -> None:
        """Play chords `first` to `last` round and round after a bar of clicks, for a player of lines."""
        performance = self.performance
        if performance is None:
            return
        self.stop()
        span, slowed = Span(performance.starts[first], performance.ends[last]), self._slowed(performance)
        levels = self._evened() | {"tune": 0.0, "line": 0.0, "click": LOUDEST}
        self.player.play(score(slowed, span, levels, True, True), follow=False)

    def in_turn(self, ways: tuple[Solution, Solution], song: Song) -> None:
        """Play two ways one after the other with a beat of rest between, again and again, or stop."""
        if self.player.playing:
            self.stop()
            return
        notes: list[Note] = []
        end = 0
        for solution in ways:
            whole = self._whole(solution, song)
            notes += [note._replace(start=note.start + end, end=note.end + end) for note in whole.notes]
            end += whole.length + self._beat(song)
        self._span = None
        self.player.play(Score(tuple(notes), end, 0), follow=False)

    def _whole(self, solution: Solution, song: Song, playing: Playing | None = None) -> Score:
        sounding = performed(solution, song, self.desk.state.playing if playing is None else playing)
        span = Span(sounding.starts[0], sounding.ends[-1])
        return score(self._slowed(sounding), span, self._evened() | {"click": 0.0, "drums": 0.0})

    def _beat(self, song: Song) -> int:
        """Frames of a felt beat."""
        return round(beat_seconds(song.tempo) * (2 if self.heard.half else 1) * RATE)

    def practise(self, ways: Sequence[tuple[Performance, Span]], percent: int, silent: frozenset[str]) -> None:
        """Play stretches one after the other, round and round after a bar of clicks, at so many percent of the tempo,
        with a click, for a player who plays the parts that are `silent`.
        """
        levels = {"click": LOUDEST} | {part: level for part, level in self._evened().items() if part not in silent}
        notes: list[Note] = []
        end = lead = 0
        for number, (performance, span) in enumerate(ways):
            slowed = performance._replace(clock=performance.clock.faster(percent))
            made = score(slowed, span, levels, True, number == 0)
            notes += [note._replace(start=note.start + end, end=note.end + end) for note in made.notes]
            end, lead = end + made.length, lead or made.back or 0
        self._span = None
        self.player.play(Score(tuple(sorted(notes)), end, lead), follow=False)

    def stop(self) -> None:
        """Fall silent."""
        self._span = None
        if self.player.playing:
            self.player.stop()

    def _slowed(self, performance: Performance) -> Performance:
        return performance._replace(clock=performance.clock.faster(50)) if self.heard.half else performance

    def _score(self, span: Span, loop: bool) -> Score | None:
        performance = self.performance
        if performance is None:
            return None
        return score(self._slowed(performance), span, self._evened(), loop, self.heard.count_in)

    def _play(self, span: Span, loop: bool) -> None:
        made = self._score(span, loop)
        if made is not None:
            self._span = span, loop
            self.player.play(made)

    def _go_on(self) -> None:
        """What is played of the song is played on from where it is, as it is heard now."""
        if self._span is not None and self.player.playing:
            made = self._score(*self._span)
            if made is not None:
                self.player.go_on(made)
