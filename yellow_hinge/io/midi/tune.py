"""The tune of a MIDI file: which line it is, and how it is written in bars."""

from __future__ import annotations

from fractions import Fraction
from itertools import accumulate, pairwise
from typing import NamedTuple

from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.song import Tone
from yellow_hinge.io.melodic import LOWEST, NEAR, Traits, holds_chords, tune_points
from yellow_hinge.io.midi.bars import Bars, placed
from yellow_hinge.io.midi.tracks import Key as Struck
from yellow_hinge.io.midi.tracks import Playing

_TOGETHER = 0.06  # quarters between notes that are one strike
_UPPER = 58  # MIDI number that the top line of a part for two hands stays above, mostly
_MOVES, _STEPS = 2.2, 1.2  # strikes a bar, and steps inside it, from which a top line is a tune
_OVERLAP = 0.1
_ONE_AT_A_TIME = 0.1
_BREATH, _BREATH_BY_HAND = Fraction(1, 4), Fraction(1, 2)  # beats between notes that are no rest
_SHORTEST = Fraction(1, 24)


class Tune(NamedTuple):
    """The notes of the tune, the line they are of, and whether they are its top notes only."""

    notes: list[Struck]
    line: Playing
    top: bool


def tune_of(lines: list[Playing], bars: Bars, report: list[str], asked: str = "") -> Tune | None:
    """The tune among the lines of a file: by name, by how a line moves, or as the top notes of hands that move; the
    line that is `asked` for (its place), where one is, or none.
    """
    if asked:
        own = [line for n, line in enumerate(lines) if str(n) == asked]
        return _of_line(own[0], _traits(own[0], bars)) if own else None
    ranked = _ranked(lines, bars)
    if not ranked:
        return None
    points, traits, best = ranked[0]
    near = [repr(_named(line)) for other, _, line in ranked[1:] if other > points - NEAR]
    if near:
        report.append(f"the tune was taken from {_named(best)!r}; it may be {' or '.join(near[:3])}")
    found = _of_line(best, traits)
    if found.top:
        return found if _moves(found.notes, bars) else None
    alone = len(lines) == 1 and (traits.middle < _UPPER or _leaps(best.notes))
    return None if alone else found


def _named(line: Playing) -> str:
    return line.name or "without a name"


def _ranked(lines: list[Playing], bars: Bars) -> list[tuple[float, Traits, Playing]]:
    """The lines that may be the tune with their points, the likeliest first."""
    found = []
    for line in lines:
        traits = _traits(line, bars)
        if not holds_chords(traits) and traits.middle >= LOWEST and traits.active > 1 / 16:
            found.append((tune_points(traits), traits, line))
    return sorted(found, key=lambda each: -each[0])


def _of_line(line: Playing, traits: Traits) -> Tune:
    """A line as the tune: all of it where it plays one note at a time, else its top notes."""
    if traits.doubled < _ONE_AT_A_TIME:
        return Tune(line.notes, line, False)
    return Tune(_top_line(line.notes), line, True)


def _moves(top: list[Struck], bars: Bars) -> bool:
    """Whether a top line goes its own way inside the bars, and not with the chords only."""
    played = len({bars.at(note.start) for note in top})
    steps = sum(a.midi != b.midi and bars.at(a.start) == bars.at(b.start) for a, b in pairwise(top))
    return len(top) > _MOVES * played and steps > _STEPS * played


def _leaps(notes: list[Struck]) -> bool:
    """Whether a line is broken chords, and no tune: it leaps far more than it steps."""
    moves = [abs(b.midi - a.midi) for a, b in pairwise(notes)]
    return bool(moves) and sum(moves) > 3.6 * len(moves) and sum(move <= 2 for move in moves) < 0.3 * len(moves)


def _traits(line: Playing, bars: Bars) -> Traits:
    strikes: list[int] = []
    last = -1.0
    for note in line.notes:
        if strikes and note.start - last < _TOGETHER:
            strikes[-1] += 1
        else:
            strikes.append(1)
            last = note.start
    count, total = len(strikes), len(bars.bars)
    return Traits(
        line.name,
        sum(note.midi for note in line.notes) / len(line.notes),
        sum(n > 1 for n in strikes) / count,
        sum(n > 2 for n in strikes) / count,
        0.0,
        len({bars.at(note.start) for note in line.notes}) / total,
        count / total,
    )


def _top_line(notes: list[Struck]) -> list[Struck]:
    """The highest note of every strike, where no higher one is still held."""
    found: list[Struck] = []
    for note in notes:
        if found and note.start - found[-1].start < _TOGETHER:
            found[-1] = max(found[-1], note, key=lambda each: each.midi)
        elif not (found and found[-1].end > note.start + _OVERLAP and found[-1].midi > note.midi):
            found.append(note)
    middle = sorted(note.midi for note in found)[len(found) // 2]
    return [note for note in found if note.midi > min(_UPPER, middle - 7)]


class _Written(NamedTuple):
    """A note in beats from the first bar."""

    start: Fraction
    end: Fraction
    midi: int


def written_tune(notes: list[Struck], bars: Bars, keys: list[Key], exact: bool, whole: bool) -> list[tuple[Tone, ...]]:
    """The tune bar by bar with its rests, tied over bar lines. `keys` spell each bar; `exact`: notes lie on a grid;
    `whole`: rests are as they are written, however short.
    """
    lengths = [bar.length / bar.meter.beat_quarters for bar in bars.bars]
    begins = list(accumulate(lengths, initial=Fraction(0)))
    row = _one_at_a_time(notes, bars, begins, exact, whole)
    found: list[list[Tone]] = [[] for _ in lengths]
    at, index = Fraction(0), 0

    def put(midi: int | None, end: Fraction) -> None:
        nonlocal at, index
        while at < end and index < len(lengths):
            stop = min(end, begins[index + 1])
            pitch = "" if midi is None else str(pitch_of(midi, spell_in_key(midi, keys[index])))
            found[index].append(Tone(pitch, stop - at, midi is not None and stop < end))
            at = stop
            index += at >= begins[index + 1]

    for tone in row:
        put(None, tone.start)
        put(tone.midi, tone.end)
    put(None, begins[-1])
    return [tuple(tones) if any(tone.pitch for tone in tones) else () for tones in found]


def _one_at_a_time(notes: list[Struck], bars: Bars, begins: list[Fraction], exact: bool, whole: bool) -> list[_Written]:
    """The notes in beats; of those that are struck together the highest, each cut where the next one begins, and held
    up to it where the gap is only a breath.
    """

    def beat(quarter: float) -> Fraction:
        bar = bars.at(quarter)
        here = bars.bars[bar]
        return begins[bar] + placed((quarter - float(here.start)) / float(here.meter.beat_quarters), exact)

    tops: dict[Fraction, _Written] = {}
    for struck in notes:
        start = beat(struck.start)
        if start not in tops or tops[start].midi < struck.midi:
            tops[start] = _Written(start, max(beat(struck.end), start + _SHORTEST), struck.midi)
    row = [tops[start] for start in sorted(tops)]
    breath = Fraction(0) if whole else _BREATH if exact else _BREATH_BY_HAND
    found = []
    for note, after in zip(row, [*row[1:], None], strict=False):
        edge = next((begin for begin in begins if begin >= note.end), note.end) if after is None else after.start
        end = min(note.end, edge)
        found.append(note._replace(end=edge if edge - end <= breath else end))
    return found
