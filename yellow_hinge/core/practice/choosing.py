"""What comes next in a practice session: due changes first, then hard ones, then joined runs, then the part in time."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Literal, NamedTuple

from yellow_hinge.core.practice.memory import due

TaskKind = Literal["hinge", "run", "part"]
SURE = 2  # times in a row that a change is right before it is joined with the next
LONGEST_RUN = 4
AGAIN_AFTER = 3  # tasks before a change comes again


class Item(NamedTuple):
    """A change from one chord of the solution to the next: its id in the memory, its place (of the first chord), how
    hard it is (semitones, and more for what is stiff), and the part of the song that it is in.
    """

    id: str
    place: int
    difficulty: float
    part: int


class Task(NamedTuple):
    """What is to be played: the chords `first` to `last` of the solution, as a change, joined changes, or a whole part
    in time.
    """

    kind: TaskKind
    first: int
    last: int


class Progress(NamedTuple):
    """What was done in this session: how often in a row each item was right, and the tasks so far."""

    streaks: Mapping[str, int] = {}
    tasks: tuple[Task, ...] = ()

    def after(self, task: Task, items: Sequence[Item], right: Mapping[str, bool]) -> Progress:
        """After a task, with what of its items was right."""
        streaks = dict(self.streaks)
        for item in items:
            if item.id in right:
                streaks[item.id] = streaks.get(item.id, 0) + 1 if right[item.id] else 0
        return Progress(streaks, (*self.tasks, task))


def next_task(items: Sequence[Item], cards: Mapping[str, str], progress: Progress, now: datetime) -> Task | None:
    """The task that comes next; None where there is nothing to play. The same for the same things: of equals the one
    that stands first in the song.
    """
    if not items:
        return None
    if (part := _part_in_time(items, progress)) is not None:
        return part
    if (run := _run(items, progress)) is not None:
        return run
    lately = {(task.first, task.last) for task in progress.tasks[-AGAIN_AFTER:]}
    waiting = [item for item in items if (item.place, item.place + 1) not in lately] or list(items)
    unsure = [item for item in waiting if progress.streaks.get(item.id, 0) < SURE] or waiting
    chosen = min(unsure, key=lambda item: _order(item, cards, progress, now))
    return Task("hinge", chosen.place, chosen.place + 1)


def _order(item: Item, cards: Mapping[str, str], progress: Progress, now: datetime) -> tuple[object, ...]:
    """Due ones first, the longest due before the others; then those never played, the hardest first; then the rest."""
    streak, card = progress.streaks.get(item.id, 0), cards.get(item.id, "")
    if card and due(card) <= now:
        return 0, streak, due(card).timestamp(), item.place
    if not card:
        return 1, streak, -item.difficulty, item.place
    return 2, streak, -item.difficulty, item.place


def _hanging(item: Item, others: Sequence[Item]) -> list[Item]:
    """A change and those that follow it in its part."""
    run = [item]
    for after in others:
        if after.place != run[-1].place + 1 or after.part != item.part or len(run) == LONGEST_RUN:
            break
        run.append(after)
    return run


def _run(items: Sequence[Item], progress: Progress) -> Task | None:
    """Changes beside each other that are sure by now and were not joined yet, as many as hang together."""
    joined = {(task.first, task.last) for task in progress.tasks if task.kind != "hinge"}
    covered = {place for first, last in joined for place in range(first, last)}
    for index, item in enumerate(items):
        run = _hanging(item, items[index + 1 :])
        while len(run) > 1 and not all(progress.streaks.get(each.id, 0) >= SURE for each in run):
            run.pop()
        if len(run) > 1 and not all(each.place in covered for each in run):
            return Task("run", run[0].place, run[-1].place + 1)
    return None


def _part_in_time(items: Sequence[Item], progress: Progress) -> Task | None:
    """A part all of whose changes were joined and right, in time, once."""
    runs = [range(task.first, task.last) for task in progress.tasks if task.kind == "run"]
    joined = set(itertools.chain(*runs))
    played = {(task.first, task.last) for task in progress.tasks if task.kind == "part"}
    for part in dict.fromkeys(item.part for item in items):
        places = [item.place for item in items if item.part == part]
        whole = (min(places), max(places) + 1)
        if len(places) > 1 and joined.issuperset(places) and whole not in played:
            return Task("part", *whole)
    return None
