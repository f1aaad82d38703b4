"""Practising a stretch as it is played: pass after pass in time with what sounds, each judged when it is over."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.performing import Performance
from yellow_hinge.core.practice.timing import ON_TIME, WINDOW, JudgedStroke, Pass, PlayedKey, WantedStroke, judged

MOST_EVENTS = 2000  # that are remembered
STEP, SLOWEST, FULL = 5, 50, 100  # percent of the tempo
TUNE, LINE = "tune", "line"


def _keys_of(strokes: tuple[JudgedStroke, ...]) -> set[tuple[int, float]]:
    """(key, when it was struck) of the strokes that were played."""
    return {(each.wanted.midi, each.wanted.at + each.late) for each in strokes if each.late is not None}


class Stretch(NamedTuple):
    """What is practised: the ticks it lies between, which hands play ("both", "left", "right"), and whether the right
    hand plays the tune instead of its own, or the line that is kept there.
    """

    first: int
    last: int
    hands: str = "both"
    tune: bool = False


def wanted_in(performance: Performance, stretch: Stretch, percent: int) -> tuple[tuple[WantedStroke, ...], float]:
    """(the strokes of one pass, its length in seconds) at so many percent of the tempo. What was struck early for the
    first chord is struck where the pass begins, as it is heard.
    """
    clock = performance.clock.faster(percent)
    begin = float(clock.seconds(stretch.first))
    melody = melody_in(performance, stretch)
    if not melody:
        stretch = stretch._replace(tune=False)  # the right hand has it already
    found = []
    for struck in performance.struck:
        hand = _whose(struck.part, stretch, melody)
        early = struck.onset < stretch.first < struck.end and struck.place == performance.place_at(stretch.first)
        if hand and (early or stretch.first <= struck.onset < stretch.last):
            at = float(clock.seconds(max(struck.onset, stretch.first))) - begin
            end = float(clock.seconds(min(struck.end, stretch.last))) - begin
            found.append(WantedStroke(hand, struck.midi, at, end - at))
    return tuple(found), float(clock.seconds(stretch.last)) - begin


def melody_in(performance: Performance, stretch: Stretch) -> str:
    """The part that the right hand plays instead of its own: a line that is kept there before the tune; "" for none."""
    if not stretch.tune:
        return ""
    inside = {s.part for s in performance.struck if s.onset < stretch.last and stretch.first < s.end}
    return LINE if LINE in inside else TUNE if any(s.part == TUNE for s in performance.struck) else ""


def _whose(part: str, stretch: Stretch, melody: str) -> str:
    """The hand that plays a part of a performance, "" for none."""
    if stretch.tune and part in ("right", TUNE, LINE):
        return "right" if part == melody and stretch.hands != "left" else ""
    return part if part in HANDS and stretch.hands in ("both", part) else ""


def _is_in(press: PlayedKey, some: set[tuple[int, float]]) -> bool:
    return any(midi == press.midi and abs(at - press.at) < 1e-6 for midi, at in some)


class Round(NamedTuple):
    """One pass: how it sounds, the stretch of that, and what it is in words."""

    performance: Performance
    stretch: Stretch
    words: str = ""


class PieceRun:
    """Passes through a stretch, one way after the other where there are more. `begin` says when the first of them
    begins, `heard` hears keys, `look` judges a pass that is over and tells it; the clock is passed in.
    """

    def __init__(
        self, rounds: Sequence[Round], percent: int = FULL, rises: bool = False,
        told: Callable[[Pass], None] = lambda found: None,
    ) -> None:  # fmt: skip
        self.rounds, self.rises, self._told = tuple(rounds), rises, told
        self.percent = percent
        self.start: float | None = None  # of the pass that goes on
        self.passes: list[Pass] = []
        self._events: list[NoteEvent] = []
        self._begun = 0  # passes that were over when this tempo began
        self._used: set[tuple[int, float]] = set()  # presses that were for an earlier pass
        self._known: dict[tuple[int, int], tuple[tuple[WantedStroke, ...], float]] = {}

    def _of(self, number: int) -> tuple[tuple[WantedStroke, ...], float]:
        """The strokes and the length of a pass."""
        at = number % len(self.rounds)
        if (at, self.percent) not in self._known:
            own = self.rounds[at]
            self._known[at, self.percent] = wanted_in(own.performance, own.stretch, self.percent)
        return self._known[at, self.percent]

    @property
    def ahead(self) -> tuple[Round, ...]:
        """The ways in the order in which they come, from the one that is played now."""
        at = len(self.passes) % len(self.rounds)
        return (*self.rounds[at:], *self.rounds[:at])

    @property
    def round(self) -> Round:
        """The way that is played now."""
        return self.ahead[0]

    @property
    def after(self) -> Round:
        """The way that comes next."""
        return self.ahead[1 % len(self.rounds)]

    @property
    def wanted(self) -> tuple[WantedStroke, ...]:
        """The strokes of the pass that goes on."""
        return self._of(len(self.passes))[0]

    @property
    def length(self) -> float:
        """Its length in seconds."""
        return self._of(len(self.passes))[1]

    @property
    def offset(self) -> float:
        """Seconds from the first pass at this tempo to the one that goes on."""
        return sum(self._of(number)[1] for number in range(self._begun, len(self.passes)))

    def begin(self, at: float) -> None:
        """A pass begins then; said again as it is known better."""
        self.start = at

    def at_percent(self, percent: int) -> None:
        """Go on at another tempo, from a beginning that is told."""
        self.percent, self.start, self._events, self._begun = percent, None, [], len(self.passes)

    def heard(self, event: NoteEvent) -> None:
        """A key went down or up, or the pedal moved."""
        self._events.append(event)

    def place(self, now: float) -> float:
        """Seconds into the pass that goes on."""
        return now - self.start if self.start is not None else 0.0

    def _coming(self) -> list[WantedStroke]:
        """The first strokes of the next pass, as this one counts them."""
        following = self._of(len(self.passes) + 1)[0]
        return [each._replace(at=each.at + self.length) for each in following if each.at < WINDOW]

    def look(self, now: float) -> bool:
        """Judge the pass if it is over; whether it was. What is struck about its end may be for its last strokes, or
        for the first ones of the next pass.
        """
        if self.start is None or now < self.start + self.length + WINDOW:
            return False
        coming = self._coming()
        played = self._played(self.start + self.length + WINDOW)
        every = judged([*self.wanted, *coming], played)
        own = tuple(each for each in every.strokes if each.wanted.at < self.length)
        for_own = _keys_of(own)
        extra = tuple(press for press in every.extra if press.at < self.length - ON_TIME)
        gone = [press for press in played if press in extra or _is_in(press, for_own)]
        self._used |= {(press.midi, round(press.at + self.start, 6)) for press in gone}
        self.start += self.length
        self._events = self._events[-MOST_EVENTS:]
        found = Pass(own, extra)
        self.passes.append(found)
        self._told(found)
        return True

    @property
    def faster(self) -> int:
        """The percent that come next: more after a pass that was whole, where they rise."""
        good = self.rises and bool(self.passes) and self.passes[-1].whole
        return min(FULL, self.percent + STEP) if good else self.percent

    def so_far(self, now: float) -> tuple[PlayedKey, ...]:
        """What was struck in the pass that goes on."""
        return tuple(self._played(now + ON_TIME))

    def _played(self, close: float) -> list[PlayedKey]:
        """The keys struck in this pass, before a time, with their ends, in seconds from its beginning."""
        assert self.start is not None
        start, found = self.start, list[PlayedKey]()
        for n, event in enumerate(self._events):
            if event.kind != "press" or not start - WINDOW <= event.at < close:
                continue
            if (event.midi, round(event.at, 6)) in self._used:
                continue
            after = self._events[n + 1 :]
            up = next((e.at for e in after if e.kind == "lift" and e.midi == event.midi), None)
            up = start + self.length if up is None else up
            found.append(PlayedKey(event.midi, event.at - start, self._sounds_to(up) - start, up - start))
        return found

    def _sounds_to(self, up: float) -> float:
        """When a key that is let go then ends to sound: with the pedal, where that is down."""
        moves = [event for event in self._events if event.kind == "pedal"]
        down = next((event.midi for event in reversed(moves) if event.at <= up), 0)
        if not down:
            return up
        return next((event.at for event in moves if event.at > up and not event.midi), up + self.length)
