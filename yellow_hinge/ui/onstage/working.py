"""What is done on stage: songs made ready ahead, lines turned by presses or the clock, changes of the last second."""

from __future__ import annotations

import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import NamedTuple

import msgspec
from PySide6.QtCore import QObject, QTimer, Signal

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.onstage.making import Entry, Ready, StageMaker
from yellow_hinge.app.onstage.mark import Mark, StageMark
from yellow_hinge.app.solving.book.sets import SongSet
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.onstage.asks import StageAsk
from yellow_hinge.core.onstage.lines import ShownLine
from yellow_hinge.core.onstage.turning import Presses, Run, Spot
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.sound.score import LOUDEST, Note, Score, Span, score
from yellow_hinge.ui.sound.player import SongPlayer

TICK_MS = 25
LEVELS = {"click": {"click": LOUDEST}, "band": {"click": 0.5, "drums": LOUDEST, "bass": 0.8}}
FINDING, NO_SONG = "…", "There is no song here."


class Programme(NamedTuple):
    """Tonight: its songs, the folder that they lie in, its title, and the open song where it is that."""

    entries: tuple[Entry, ...]
    folder: Path
    title: str = "Tonight"
    own: State | None = None


class OnStage(QObject):
    """Knows where one is. `changed` tells that something else is to be seen; `after` what is said of a change that is
    not ready yet.
    """

    changed = Signal()
    _came = Signal(object)
    _ahead = Signal(object)

    def __init__(
        self, parent: QObject, programme: Programme, ask: StageAsk, simple: bool, player: SongPlayer, mark: StageMark,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.entries, self.folder, self.title = list(programme.entries), programme.folder, programme.title
        self.wanted, self.simple, self.player, self.mark, self.clock = ask, simple, player, mark, clock
        self.at, self.after, self.problem = 0, "", ""
        self.run = Run(())
        self.spot: Spot | None = None
        self._ready: dict[int, Ready] = {}
        self._next: tuple[Ready, ShownLine] | None = None  # the next song's first line, made once
        self._presses = Presses()
        self._line = 0  # where the song begins that is being made ready
        self._here: Fraction | None = None
        self._by = 0  # semitones that are asked for and not shown yet
        self._base: tuple[Run, float | None, float] | None = None  # by itself: from where, since when, frames before
        self._maker = StageMaker(self._came.emit, "stage")
        self._next_maker = StageMaker(self._ahead.emit, "stage ahead")
        self._keeper: Newest[None] = Newest(lambda found: None, "stage mark")
        self._came.connect(self._arrived)
        self._ahead.connect(self._arrived_ahead)
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.tick)

    # --- songs ---
    def begin(self, at: int = 0, line: int = 0, here: Fraction | None = None) -> None:
        """Show a song of tonight's from a line of it, counted from its end below 0, or from the one that is played
        after so many quarter notes; until it is ready, what was shown stays.
        """
        self.stop()
        if not 0 <= at < len(self.entries):
            return
        known = self._ready.get(at)
        self.at, self._line, self._here = at, line, here
        if known is not None:
            self._show(known)
        else:
            self.after = f"{self.entries[at].title} {FINDING}"
            self._maker.ask(at, self.entries[at], self.folder, self.wanted.bars, self.simple)
        self.changed.emit()

    @property
    def ready(self) -> Ready | None:
        """The song that is shown."""
        return self._ready.get(self.at)

    @property
    def coming(self) -> str:
        """The title of the next song, "" after the last."""
        return self.entries[self.at + 1].title if self.at + 1 < len(self.entries) else ""

    def following(self, at: int) -> ShownLine | None:
        """The first line of the next song, under its title, beside a line; None where it is not ready, or not near."""
        ready = self._ready.get(self.at + 1)
        if ready is None or ready.shown is None or at < len(self.run.lines) - 1:
            return None
        if self._next is None or self._next[0] is not ready:
            line: ShownLine = msgspec.structs.replace(ready.shown.lines[0], section=f"then {self.coming}", time="")
            self._next = ready, line
        return self._next[1]

    def _arrived(self, found: Ready | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self._maker.asked or found.at != self.at:
            return
        if found.problem and self.run.lines and self._ready.get(self.at) is not None:
            self.after = found.problem  # a change that cannot be done: what is shown stays
            self.changed.emit()
            return
        before = self.ready
        self._take(found)
        if before is not None and before.shown is not None and found.shown is not None:
            self._show_changed(before.shown.lines, found)
        else:
            self._show(found)

    def _arrived_ahead(self, found: Ready | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number == self._next_maker.asked and found.at not in self._ready:
            self._take(found)

    def _take(self, found: Ready) -> None:
        self._ready[found.at] = found
        if not found.problem:
            self.entries[found.at] = found.entry

    def _show(self, found: Ready) -> None:
        lines = found.shown.lines if found.shown is not None else ()
        line = self._line if self._line >= 0 else len(lines) + self._line
        if self._here is not None:
            line = sum(one.bars[0].quarter <= self._here for one in lines) - 1
            self._here = None
        self.run = Run(lines, max(0, min(line, len(lines) - 1)))
        self.spot, self.after, self.problem, self._by = None, "", found.problem, 0
        following = self.at + 1
        if following < len(self.entries) and following not in self._ready:
            self._next_maker.ask(following, self.entries[following], self.folder, self.wanted.bars, self.simple)
        self._moved()

    def _show_changed(self, before: tuple[ShownLine, ...], found: Ready) -> None:
        """Another key or take of the song: one stays where one is, and what comes once more still does."""
        assert found.shown is not None
        lines, order = found.shown.lines, [before.index(line) for line in self.run.lines]
        self._line = self.run.at
        self._show(found)
        if len(lines) == len(before):
            self.run = Run(tuple(lines[place] for place in order), self._line)
            self.changed.emit()

    def _moved(self) -> None:
        songs = SongSet(self.title, tuple(entry.song for entry in self.entries))
        mark = Mark(songs, str(self.folder), self.at, self.run.at)
        self._keeper.put(lambda builder, number: self.mark.put(mark))
        self.changed.emit()

    # --- turning ---
    def press(self) -> None:
        """The one switch: on at once; twice, back."""
        if not self.touched():
            self.turn(self._presses.press(self.clock()))

    def turn(self, by: int) -> None:
        """So many lines on, or back; past either end to the next song or the one before."""
        waits = self.ready is None  # for the song one went on to: nothing of it is seen yet
        at, turned = (0, None) if waits else (self.run.at, self.run.turned(by))
        if turned is not None:
            self.run = turned
            self._moved()
        elif by > 0:
            self.begin(self.at + (not waits))
        elif self.at > 0:
            self.begin(self.at - 1, at + by)
        elif at > 0:
            self.run = self.run._replace(at=0)
            self._moved()

    def song(self, by: int) -> None:
        """The next song, or the one before, from its beginning."""
        self.begin(self.at + by)

    def to_letter(self, letter: str) -> None:
        """At the next section whose name begins so."""
        self.run = self.run.to_letter(letter)
        self._moved()

    def once_more(self) -> None:
        """The section that is played comes once more after its end."""
        self.run = self.run.once_more()
        self.changed.emit()

    # --- changes of the last second ---
    def tone(self, by: int) -> None:
        """Some semitones higher, shown when it is ready."""
        ready = self.ready
        if ready is not None and ready.entry.state is not None:
            self.after = f"{'up' if by > 0 else 'down'} {FINDING}"
            self._by += by  # several in a row are one change
            self._maker.ask_tone(self.at, ready.entry, self._by, self.wanted.bars, self.simple)
            self.changed.emit()

    def other_take(self) -> None:
        """The next take of the song, from its first line where it has others."""
        ready = self.ready
        whole = ready.entry.whole if ready is not None else None
        if ready is None or ready.entry.state is None or len((whole or ready.entry.state).takes) < 2:
            return
        self.after = f"the other take {FINDING}"
        self._maker.ask_take(self.at, ready.entry, self.wanted.bars, self.simple)
        self.changed.emit()

    # --- by itself ---
    @property
    def goes(self) -> bool:
        """Whether lines turn by themselves."""
        return self._base is not None

    def touched(self) -> bool:
        """Stop turning by itself; whether it did."""
        went = self.goes
        self.stop()
        return went

    def go(self) -> None:
        """Turn by itself from the present line's first bar on, which begins now, or after a bar of clicks."""
        ready = self.ready
        if ready is None or self.run.line is None:
            return
        lead = 0.0
        if self.wanted.sound and ready.performance is not None:
            made, lead = self._score(ready)
            self.player.play(made, follow=False)
        self._base = self.run, None if self.wanted.sound else self.clock(), lead
        self._timer.start()
        self.tick()

    def _score(self, ready: Ready) -> tuple[Score, float]:
        """Click and band from the present line on, in the order of tonight, and the frames of the count before."""
        performance = ready.performance
        assert performance is not None
        notes: list[Note] = []
        end = lead = 0
        levels = LEVELS[self.wanted.sound]
        for number, line in enumerate(self.run.lines[self.run.at :]):
            span = _span(line)
            made = score(performance, span, levels, False, number == 0)
            notes += [note._replace(start=note.start + end, end=note.end + end) for note in made.notes]
            if not number:
                lead = made.length - score(performance, span, {}).length
            end += made.length
        return Score(tuple(sorted(notes)), end), float(lead)

    def stop(self) -> None:
        """Turn no more by itself."""
        if self._base is not None:
            self._base, self.spot = None, None
            self._timer.stop()
            self.player.stop()
            self.changed.emit()

    def tick(self) -> None:
        """See how far the song is."""
        if self._base is None:
            return
        base, since, lead = self._base
        if since is None:
            since = self.player.heard_at(round(lead))
            if since is None:  # not heard yet
                return
        spot = base.spot(self.clock() - since)
        if spot is None:
            self.stop()
            return
        turned, self.spot = spot.shown != self.run.at, spot
        self.run = base._replace(at=spot.shown)
        if turned:
            self._moved()
        else:
            self.changed.emit()

    def close(self) -> None:
        """The stage is left."""
        self.stop()
        for worker in (self._maker, self._next_maker, self._keeper):
            worker.close()
        self.mark.clear()


def _span(line: ShownLine) -> Span:
    first, last = line.bars[0], line.bars[-1]
    return Span(ticks(first.quarter), ticks(last.quarter + last.quarters))
