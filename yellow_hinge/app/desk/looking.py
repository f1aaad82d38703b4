"""What lies on the desk: the open song with its history, solution and selection, and every question about it."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from pathlib import Path

from yellow_hinge.app.desk.marked import Marked, bar_places, marked_places, spot_of
from yellow_hinge.app.edits.history import History
from yellow_hinge.app.edits.kept import ONCE, Resting, resting
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.wishing import is_held
from yellow_hinge.app.solving.elsewhere import Before
from yellow_hinge.app.solving.memory import Memory
from yellow_hinge.core.chart.text import ChartReading, read_chart
from yellow_hinge.core.leading.asking.keeps import ruling
from yellow_hinge.core.leading.prices.hinge import Hinge, hinge_words, make_hinge
from yellow_hinge.core.leading.solution import Option, Solution, Voicing, options
from yellow_hinge.core.rhythm.patterns import Pattern
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import Moment


class Event(StrEnum):
    """What changed on the desk: letters (before they are read), the state, the solution, the selected chord, the mark,
    an edit that could not be done, or how notes are named.
    """

    TYPING = "typing"
    STATE = "state"
    SOLUTION = "solution"
    SELECTION = "selection"
    MARK = "mark"
    FAULT = "fault"
    NAMES = "names"


class Looking:
    """The open song, looked at. Whoever inherits may edit it."""

    def __init__(self, ask: Callable[[State], int]) -> None:
        self._ask = ask
        self.asked, self.answered = 0, 0  # numbers of the latest question and answer
        self.history: History[State] = History(State())
        self.reading: ChartReading = read_chart("")
        self.solution: Solution | None = None
        self.solved_state: State = State()
        self.fault = ""
        self.rested = ""  # what the last edit laid to rest in takes that are not shown
        self.selected = 0
        self.mark: Marked | None = None
        self.beside: frozenset[int] = frozenset()  # chords that nobody touched and that have other hands now
        self.before: Before | None = None  # what the last edit began at
        self.this_pass = False  # what is taken, kept and asked of a repeat is for the selected pass alone
        self.written: Address | None = None  # a chord that was picked where it is written
        self.simple_names = False
        self.patterns: tuple[Pattern, ...] = ()  # of playing, the player's own in any song
        self.path: Path | None = None
        self.saved: State = self.history.state
        self.origin = ""  # what an unsaved song is known by: its file's digest, or one of its own
        self.memory = Memory()  # of the takes' hands
        self.template: Song | None = None  # what a new song begins with, until it is typed over
        self.document = ""  # the song's own name wherever its file goes
        self.typed = ""  # the chart's text to the last letter
        self.listeners: list[Callable[[Event], None]] = []

    # --- how it is looked at ---
    def turn_pass(self, on: bool | None = None) -> None:
        """What is taken, kept and asked of a repeat is for one pass alone, or for all; turned where nothing is said."""
        self.this_pass = not self.this_pass if on is None else on

    def look_at(self, chord: int) -> None:
        """The chord that is selected once the song is solved."""
        self.selected = max(0, chord)

    def say_simply(self, on: bool) -> None:
        """Say B and F, or Cb and E#."""
        self.simple_names = on
        self.tell(Event.NAMES)

    def know_patterns(self, patterns: tuple[Pattern, ...]) -> None:
        """The player's own patterns of playing, of any song."""
        self.patterns = patterns

    # --- what is there ---
    @property
    def state(self) -> State:
        """The present state."""
        return self.history.state

    @property
    def song(self) -> Song:
        """The song that is shown and played: none where the chart was cleared."""
        return Song() if self.state.emptied else self.state.song

    @property
    def solved(self) -> bool:
        """Whether the solution is that of the present song."""
        return self.solution is not None and same_question(self.state, self.solved_state)

    @property
    def solving(self) -> bool:
        """Whether an answer is awaited."""
        return self.answered < self.asked

    @property
    def moment(self) -> Moment | None:
        """The selected chord in its time."""
        return self.voicing.here if self.voicing and self.solution else None

    @property
    def changed(self) -> bool:
        """Whether something is not saved yet."""
        return self.state != self.saved

    @property
    def voicing(self) -> Voicing | None:
        """The selected chord's voicing."""
        if self.solution is None or not self.solution.voicings:
            return None
        return self.solution.voicings[self.selected]

    def options(self) -> list[Option]:
        """Ways to play the selected chord, best first; () while nothing is solved."""
        return options(self.solution, self.selected) if self.voicing and self.solution else []

    @property
    def opened(self) -> int | None:
        """Semitones that the fingers travel more since the last edit chose patterns, and hands were opened for them;
        None where none were.
        """
        if self.before is None or self.solution is None or not self.beside or not self.solved:
            return None
        old, new = self.before.state.setup.wanted, self.state.setup.wanted
        if not new or new == old:
            return None
        return self.solution.totals.motion - self.before.solution.totals.motion

    def following(self) -> Voicing | None:
        """The chord after the selected one, the first after the last where the song loops."""
        if self.solution is None or not self.solution.voicings:
            return None
        after, count = self.selected + 1, len(self.solution.voicings)
        if after == count and not self.solution.setup.loop:
            return None
        return self.solution.voicings[after % count]

    def previewed(self, option: Option) -> tuple[Voicing, Hinge | None, str]:
        """The selected chord played another way: its voicing, the hinge to the next chord and its sentence."""
        assert self.voicing is not None
        assert self.solution is not None
        fingers = self.solution.fingers_for(self.selected, option.both)
        voicing = self.voicing._replace(
            both=option.both, family=option.family, family_name=option.family_name, fingers=fingers
        )
        after = self.following()
        if after is None:
            return voicing, None, ""
        way = self.solution.way_to(self.solution.voicings.index(after))
        hinge = make_hinge(voicing.both, after.both, self.solution.setup.mine, way, (fingers, after.fingers))
        return voicing, hinge, hinge_words(hinge, voicing.both, after.both, (voicing.chord, after.chord))

    def instead(self, other: Voicing) -> tuple[Hinge, str]:
        """What the hands do otherwise where another voicing takes the place of the selected one, and its sentence."""
        assert self.voicing is not None
        assert self.solution is not None
        old, new = self.voicing, other
        way = self.solution.way_to(self.selected)
        hinge = make_hinge(old.both, new.both, self.solution.setup.mine, way, (old.fingers, new.fingers))
        return hinge, hinge_words(hinge, old.both, new.both, (old.chord, new.chord))

    @property
    def address(self) -> Address | None:
        """Where the selected chord is written."""
        if self.written is not None:
            return self.written
        return self.voicing.here.address if self.voicing and self.solution else None

    def select_address(self, address: Address) -> None:
        """Select the chord written there, the first time it is played."""
        self.written = address
        for index, voicing in enumerate(self.solution.voicings if self.solution else ()):
            if self.solution and voicing.here.address == address:
                self.select(index)
                self.written = address
                return

    def kept(self, index: int) -> bool:
        """Whether chord `index` of the solution is kept whole."""
        return "chord" in self.kept_parts(index)

    def kept_parts(self, index: int) -> frozenset[str]:
        """What of chord `index` of the solution is kept in it."""
        if self.solution is None:
            return frozenset()
        moment = self.solution.voicings[index].here
        held = {"top"} if is_held(self.solved_state.setup, moment) else set()
        ruled = ruling(self.solved_state.keeps, moment)
        once = {ONCE} if any(keep.only for keep in ruled) else set()
        return frozenset({*(keep.part for keep in ruled), *held, *once})

    @property
    def passes(self) -> int:
        """How often the selected chord is played in the song."""
        here, solution = self.moment, self.solution
        if here is None or solution is None:
            return 0
        return sum(voicing.here.slot_id == here.slot_id for voicing in solution.voicings)

    @property
    def only(self) -> tuple[int, int] | None:
        """The pass that what is taken now is for, None for all of them."""
        return self.moment.pass_id if self.this_pass and self.moment is not None and self.passes > 1 else None

    def resting(self, index: int | None = None) -> tuple[Resting, ...]:
        """What the player kept or asked for and no longer holds, at chord `index` of the solution or in the song."""
        found = resting(self.state.things, self.state.song)
        if index is None or self.solution is None:
            return found
        slot = self.solution.voicings[index].here.slot_id
        return tuple(rest for rest in found if rest.slot == slot)

    def tell(self, what: Event) -> None:
        """Tell every listener what changed."""
        for listener in self.listeners:
            listener(what)

    def was(self) -> list[str]:
        """What the selected chord was before, the oldest first."""
        moment = self.moment
        if moment is None or self.solved_state.song != self.state.song:
            return []
        return list(next((was.symbols for was in self.state.was if was.slot == moment.slot_id), ()))

    def select(self, index: int) -> None:
        """Select a chord of the solution; out of range goes to the nearest end."""
        count = len(self.solution.voicings) if self.solution else 0
        index = min(max(index, 0), count - 1) if count else 0
        self.written = None
        if index != self.selected:
            self.selected = index
            self.tell(Event.SELECTION)
        if self.marked and index not in self.marked:
            self.unmark()

    # --- the mark ---
    @property
    def marked(self) -> range:
        """The places of the marked chords in the solution; empty where none are marked."""
        return marked_places(self.solution, self.mark)

    def mark_to(self, index: int, anew: bool = False) -> None:
        """Draw the mark to a chord: from where it began, or from the selected chord where none is, or with `anew`."""
        if self.solution is None or not self.solution.voicings:
            return
        voicings = self.solution.voicings
        index = min(max(index, 0), len(voicings) - 1)
        old = self.mark if self.marked and not anew else None
        self.mark = Marked(old.anchor if old else spot_of(voicings[self.selected]), spot_of(voicings[index]))
        self.select(index)
        self.tell(Event.MARK)

    def mark_places(self, places: range) -> None:
        """Mark a stretch of chords."""
        if self.solution is not None and places:
            ends = (self.solution.voicings[place] for place in (places[0], places[-1]))
            self.mark = Marked(*map(spot_of, ends))
            self.tell(Event.MARK)

    def mark_bars(self) -> None:
        """Mark the bar of the selected chord; where whole bars are marked already, the next one too."""
        if self.solution is None or not self.solution.voicings:
            return
        now = self.marked
        whole = bool(now) and bar_places(self.solution, now) == now
        last = min(now[-1] + 1, len(self.solution.voicings) - 1) if whole else self.selected
        self.mark_places(bar_places(self.solution, range(now[0] if now else self.selected, last + 1)))

    def mark_section(self) -> None:
        """Mark the section of the selected chord as it is played."""
        if self.solution is not None and self.moment is not None:
            own = [n for n, v in enumerate(self.solution.voicings) if v.here.section == self.moment.section]
            self.mark_places(range(own[0], own[-1] + 1))

    def unmark(self) -> bool:
        """Mark nothing any more; False where nothing was marked."""
        was, self.mark = bool(self.marked), None
        if was:
            self.tell(Event.MARK)
        return was


def same_question(a: State, b: State) -> bool:
    """Whether two states have the same solution: only their text differs."""
    return a is b or a.question == b.question
