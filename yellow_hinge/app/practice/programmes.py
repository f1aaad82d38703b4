"""What is practised, one task after another: a song's changes by memory, a round of keys, bass questions."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from random import Random
from typing import NamedTuple, Protocol

from yellow_hinge.app.solving.twelve import InKey
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.fingering import alone
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.lines import STIFF
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.lines.rails import OVER
from yellow_hinge.core.own.lines import OwnLine, over_chords
from yellow_hinge.core.performing import Performance
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.practice.bass_ear import LEVELS, BassQuestion, bass_question
from yellow_hinge.core.practice.choosing import Item, Progress, Task, next_task
from yellow_hinge.core.symbols.writing import write_symbol

HANDS = ("both", "left", "right")


class AskedChord(NamedTuple):
    """A chord that is asked for: how it is played, the one before it (None: it only leads in, and is not logged), the
    item of the memory, the change in words, the ids of both slots, the key, and how many beats it has.
    """

    voicing: Voicing
    before: Voicing | None
    item: str
    words: str
    slots: tuple[int, int]
    key: str
    beats: float
    kind: str = "hinge"
    place: int = -1  # in the desk's solution
    question: BassQuestion | None = None
    added: tuple[int, ...] = ()  # keys that the playing adds: never a fault

    def wanted(self, hands: str) -> tuple[int, ...]:
        """The keys that are to be pressed."""
        if self.question is not None:
            return ()
        both = self.voicing.both
        return (*both.left, *both.right) if hands == "both" else both.of(hands)

    @property
    def apart(self) -> tuple[int, ...]:
        """The keys of a left hand that is broken, which nobody can hold together."""
        return self.voicing.left if self.voicing.broken else ()


class Programme(Protocol):
    """What comes next, and what was right of it."""

    in_time: bool  # whether the present task goes by the click in any case

    def next(self, cards: dict[str, str], now: datetime) -> tuple[AskedChord, ...]:
        """The steps of the next task; () where there is nothing to play."""

    def done(self, right: dict[str, bool]) -> None:
        """What of the task's items was right."""


def item_id(before: Voicing, after: Voicing, hands: str) -> str:
    """The item of a change: the ids of both chords and how they are played; hands apart are items of their own."""
    keys = "-".join(str(midi) for v in (before, after) for midi in (*v.left, *v.right, 0))
    return f"{before.here.slot_id}>{after.here.slot_id}:{hands}:{keys}"


def _said(solution: Solution, place: int, hands: str) -> str:
    """The sentence of the change into a chord, of the hands that play."""
    return solution.words(place - 1, hands)


def _begins(voicing: Voicing) -> str:
    return f"{write_symbol(voicing.chord)}, to begin"


class SongProgramme:
    """The changes of a song, chosen by memory."""

    def __init__(
        self, solution: Solution, hands: str, only: range | None = None, playing: Performance | None = None
    ) -> None:
        self.playing = playing
        self.solution, self.hands, self.in_time = solution, hands, False
        self.progress = Progress()
        self.task: Task | None = None
        places = only if only is not None else range(len(solution.voicings) - 1)
        self.items = [self._item(place) for place in places]
        self._by_place = {item.place: item for item in self.items}

    def _item(self, place: int) -> Item:
        one, two = self.solution.voicings[place : place + 2]
        hinge = self.solution.hinges[place]
        stiff = hinge.largest / STIFF if hinge.largest > STIFF else 0
        return Item(item_id(one, two, self.hands), place, hinge.motion + stiff, two.here.section)

    def next(self, cards: dict[str, str], now: datetime) -> tuple[AskedChord, ...]:
        """The next change, run or part."""
        self.task = next_task(self.items, cards, self.progress, now)
        if self.task is None:
            return ()
        self.in_time = self.task.kind == "part"
        return tuple(self._step(place) for place in range(self.task.first, self.task.last + 1))

    def _step(self, place: int) -> AskedChord:
        assert self.task is not None
        voicings = self.solution.voicings
        here, lead = voicings[place], place == self.task.first
        before = None if lead else voicings[place - 1]
        words = (
            self.solution.words(place - 1, self.hands)
            if before is not None
            else f"{write_symbol(here.chord)}, to begin"
        )
        item = "" if before is None else self._by_place[place - 1].id
        slots = (0 if before is None else before.here.slot_id, here.here.slot_id)
        keys, beats = str(here.here.key), float(here.here.beats)
        added = tuple(midi for _, midi in self.playing.added_at(place)) if self.playing is not None else ()
        return AskedChord(here, before, item, words, slots, keys, beats, place=place, added=added)

    def done(self, right: dict[str, bool]) -> None:
        """Remember what was right for the rest of the session."""
        if self.task is not None:
            own = [item for item in self.items if item.id in right]
            self.progress = self.progress.after(self.task, own, right)


class DrillProgramme:
    """A stretch round the keys, again and again; `faster` counts the rounds of a key that were right in a row."""

    def __init__(self, found: Sequence[InKey], hands: str) -> None:
        self.found, self.hands, self.in_time = list(found), hands, False
        self.at, self.faster = -1, 0

    def next(self, cards: dict[str, str], now: datetime) -> tuple[AskedChord, ...]:
        """The stretch in the next key."""
        self.at = (self.at + 1) % len(self.found)
        one = self.found[self.at]
        steps: list[AskedChord] = []
        own = f"; other hands than in the first key ({one.why})" if one.own else ""
        for place, voicing in enumerate(one.solution.voicings):
            before = one.solution.voicings[place - 1] if place else None
            words = (
                one.solution.words(place - 1, self.hands)
                if before is not None
                else f"{write_symbol(voicing.chord)}, to begin{own}"
            )
            item = f"drill:{item_id(before, voicing, self.hands)}:{one.key}" if before is not None else ""
            slots = (before.here.slot_id if before is not None else 0, voicing.here.slot_id)
            steps.append(
                AskedChord(voicing, before, item, words, slots, str(one.key), float(voicing.here.beats), "drill")
            )
        if len(steps) == 1:  # a shape alone: each key is a step of its own
            only = steps[0]
            steps = [
                only._replace(
                    item=f"drill:{only.slots[1]}:{one.key}:{self.hands}",
                    words=f"{write_symbol(only.voicing.chord)}{own}",
                )
            ]
        return tuple(steps)

    def done(self, right: dict[str, bool]) -> None:
        """The tempo may rise where all was right."""
        self.faster = self.faster + 1 if right and all(right.values()) else 0


class LineProgramme(DrillProgramme):
    """A line of the player's own round the keys, note by note, over the left hand. Raises UserError where no key has
    room for it.
    """

    def __init__(self, entry: OwnLine, found: Sequence[InKey], hands: str) -> None:
        rows = [(one, _line_in(entry, one)) for one in found]
        self._lines = [line for _, line in rows if line is not None]
        super().__init__([one for one, line in rows if line is not None], hands)
        self.entry = entry
        if not self.found:
            raise UserError(f"{entry.name}: it is too wide for lines")

    def next(self, cards: dict[str, str], now: datetime) -> tuple[AskedChord, ...]:
        """The line in the next key."""
        self.at = (self.at + 1) % len(self.found)
        one, steps = self.found[self.at], list[AskedChord]()
        chord = -1
        for n, note in enumerate(self._lines[self.at].notes):
            whole = one.solution.voicings[note.at]
            begins, chord = note.at != chord, note.at
            voicing = whole._replace(both=Both(whole.left if begins else (), (note.midi,)))
            voicing = voicing._replace(fingers=alone(*voicing.both))
            pitch = pitch_of(note.midi, voicing.chord.note_of(note.midi % 12))
            words = f"{note.degree} of {write_symbol(voicing.chord)}: {pitch}" + ("" if n else ", to begin")
            before = steps[-1].voicing if steps else None
            item = f"drill:line:{n}:{one.key}:{self.hands}" if steps else ""
            slots = (before.here.slot_id if before is not None else 0, voicing.here.slot_id)
            beats = float(note.quarters)  # its chords stand in bars of any meter
            added = () if begins else whole.left
            steps.append(AskedChord(voicing, before, item, words, slots, str(one.key), beats, "drill", added=added))
        return tuple(step for step in steps if step.wanted(self.hands))


def _line_in(entry: OwnLine, one: InKey) -> Line | None:
    """The line in a key, over the left hand where there is room for that."""
    voicings = one.solution.voicings
    moments = [voicing.here for voicing in voicings]
    over = [voicing.left[-1] + OVER if voicing.left else 0 for voicing in voicings]
    return over_chords(entry, moments, over) or over_chords(entry, moments, [0] * len(over))


class BassProgramme:
    """A hand sounds over a bass: which one is it? Harder after each few right answers."""

    EASIER, HARDER = 2, 4  # answers in a row that change the level

    def __init__(self, solution: Solution, chance: Random) -> None:
        self.solution, self.chance, self.in_time = solution, chance, False
        self.level, self._row = 0, 0

    def next(self, cards: dict[str, str], now: datetime) -> tuple[AskedChord, ...]:
        """The next question."""
        able = [v for v in self.solution.voicings if v.right and v.chord.stack is None]
        if not able:
            return ()
        voicing = able[self.chance.randrange(len(able))]
        asked = bass_question(voicing.chord, voicing.right, self.level, self.chance.choice)
        item = f"bass:{self.level}:{(asked.right.pc - voicing.chord.root.pc) % 12}"
        words = "Which bass sounds below this hand?"
        slots = (0, voicing.here.slot_id)
        return (AskedChord(voicing, None, item, words, slots, str(voicing.here.key), 4.0, "bass", question=asked),)

    def done(self, right: dict[str, bool]) -> None:
        """Harder after some right answers in a row, easier after some wrong ones."""
        good = all(right.values())
        self._row = max(self._row, 0) + 1 if good else min(self._row, 0) - 1
        if self._row >= self.HARDER or self._row <= -self.EASIER:
            self.level = min(LEVELS - 1, max(0, self.level + (1 if self._row > 0 else -1)))
            self._row = 0
