"""What is to be played, very large, and what is pressed; and the log's plots: plain geometry in pixels."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta, tzinfo
from itertools import pairwise
from statistics import median
from typing import NamedTuple

from yellow_hinge.app.practice.programmes import AskedChord
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.core.practice.marking import Attempt
from yellow_hinge.ui.paint.keys import FINGERS_H, HIGHEST, LOWEST, Keyboard, keyboard, octave_span, widened
from yellow_hinge.ui.paint.notes import PlateMark, chord_marks

LEAD_SHARE = 0.36  # of the height, for the chord before
GAP = 26.0


class PracticeScene(NamedTuple):
    """The keyboard of the chord before (None where nothing leads in), that of the chord that is asked for, with the
    marks that may be seen, and the keys that were pressed: right ones, wanted notes in another octave, others.
    """

    lead: Keyboard | None
    asked: Keyboard
    right: tuple[int, ...]
    octave: tuple[int, ...]
    extra: tuple[int, ...]


def practice_scene(
    step: AskedChord, attempt: Attempt, hands: str, hidden: bool, size: tuple[float, float], simple: bool = False
) -> PracticeScene:
    """The keyboards inside a size. `hidden`: what is wanted shows only where it was pressed."""
    width, height = size
    voicing, before = step.voicing, step.before
    notes = [*voicing.left, *voicing.right, *((*before.left, *before.right) if before is not None else ())]
    notes += [press.midi for press in attempt.presses if LOWEST <= press.midi <= HIGHEST]
    span = widened(*octave_span(notes), width)
    down = attempt.down
    kinds = {press.midi: press.kind for press in attempt.presses}
    marks = _of_hands(chord_marks(voicing.chord, voicing.both, simple, voicing.fingers), hands)
    if step.question is not None:
        marks = tuple(mark for mark in marks if mark.hand == "right")
    elif hidden:
        marks = tuple(mark for mark in marks if mark.midi in attempt.sounding)
    lead, top = None, FINGERS_H
    if before is not None:
        shown = _of_hands(chord_marks(before.chord, before.both, simple, before.fingers), hands)
        lead = keyboard(*span, 0.0, top, width, height * LEAD_SHARE - FINGERS_H, shown)
        top = height * LEAD_SHARE + GAP + FINGERS_H
    asked = keyboard(*span, 0.0, top, width, height - top - FINGERS_H, marks)
    wrong = {kind: tuple(midi for midi in sorted(down) if kinds.get(midi) == kind) for kind in ("octave", "extra")}
    right = tuple(midi for midi in sorted(attempt.sounding) if midi in attempt.wanted)
    return PracticeScene(lead, asked, right, wrong["octave"], wrong["extra"])


def _of_hands(marks: tuple[PlateMark, ...], hands: str) -> tuple[PlateMark, ...]:
    return tuple(mark for mark in marks if hands in ("both", mark.hand))


# --- the log ---


class Plot(NamedTuple):
    """One plot: its heading, what its latest value says, points as (x, y) in pixels, and whether they are bars on a
    base line or a line of marks ("square" or "round").
    """

    heading: str
    latest: str
    points: tuple[tuple[float, float], ...]
    kind: str
    base: float
    top: float


class LogScene(NamedTuple):
    """The plots over some weeks; `weeks` are (x, name) of their beginnings."""

    plots: tuple[Plot, ...]
    weeks: tuple[tuple[float, str], ...]
    width: float
    height: float


WEEKS = 6
PIECE = "piece"  # the kind of a run that is a pass through a stretch, and no chord
LONGEST_PAUSE = 60.0  # seconds between two chords of one practice
HEAD_H, FOOT_H = 26.0, 16.0


def practised(runs: Sequence[Run]) -> float:
    """Minutes of practice that some runs of a day, in their order, took: from chord to chord, but for pauses."""
    seconds = runs[0].seconds if runs else 0.0
    for before, run in pairwise(runs):
        passed = (run.at - before.at).total_seconds()
        seconds += passed if passed <= LONGEST_PAUSE else run.seconds
    return seconds / 60


def log_scene(runs: Sequence[Run], today: date, width: float, height: float, zone: tzinfo | None = None) -> LogScene:
    """Four plots under each other: minutes a day, seconds a chord, wrong keys a chord, keys played in. Days
    are those of a zone, the machine's where none is given.
    """
    first = today - timedelta(days=7 * WEEKS - 1)
    days = [first + timedelta(days=n) for n in range(7 * WEEKS)]
    wide = width / len(days)
    tall = (height - FOOT_H) / 4
    plots = []
    for number, (heading, values, kind, form) in enumerate(_rows_of(runs, days, zone)):
        top, base = number * tall + HEAD_H, (number + 1) * tall - 6
        most = max([value for _, value in values], default=1.0) or 1.0
        points = tuple((((day - first).days + 0.5) * wide, base - (base - top) * value / most) for day, value in values)
        latest = form.format(values[-1][1]) if values else ""
        plots.append(Plot(heading, latest, points, kind, base, top))
    weeks = tuple((n * 7 * wide, f"{days[n * 7].day}.{days[n * 7].month}.") for n in range(WEEKS))
    return LogScene(tuple(plots), weeks, width, height)


def _rows_of(
    runs: Sequence[Run], days: list[date], zone: tzinfo | None
) -> tuple[tuple[str, list[tuple[date, float]], str, str], ...]:
    """(heading, (day, value) where there is one, kind of marks, how a value is written) of the four plots."""
    by_day: dict[date, list[Run]] = {}
    for run in runs:
        by_day.setdefault(run.at.astimezone(zone).date(), []).append(run)
    there = [(day, by_day[day]) for day in days if day in by_day]
    chords = [(day, own) for day, every in there if (own := [run for run in every if run.kind != PIECE])]
    minutes = [(day, practised(own)) for day, own in there]
    seconds = [(day, median(run.seconds for run in own)) for day, own in chords]
    wrong = [(day, sum(run.errors for run in own) / len(own)) for day, own in chords]
    keys = [(day, float(len({run.key for run in own}))) for day, own in there]
    return (
        ("Minutes a day", minutes, "bars", "{:.0f} min"), ("Seconds a chord", seconds, "square", "{:.1f} s"),
        ("Wrong keys a chord", wrong, "round", "{:.1f}"), ("Keys played in", keys, "bars", "{:.0f}"),
    )  # fmt: skip
