"""A song's bars for staves: as they are written, each chord with the moment it is first played at, and the tune."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import Pitch
from yellow_hinge.core.rhythm.fills.degree_line import LineTone
from yellow_hinge.core.song.repeats import origins
from yellow_hinge.core.song.road import opened
from yellow_hinge.core.song.song import Bar, Meter, Song, endings_of
from yellow_hinge.core.song.timeline import Moment, bar_meter


class Sound(NamedTuple):
    """What sounds from a place of a bar on: pitches (none: a rest), their fingers, its length in quarters, whether it
    is tied to what is before and after it, and the signs of its stroke ("accent", "ghost", "roll").
    """

    pitches: tuple[Pitch, ...]
    fingers: tuple[int, ...]
    length: Fraction
    tied: tuple[bool, bool] = (False, False)
    signs: tuple[str, ...] = ()


class Measure(NamedTuple):
    """A bar of the score: its chords in their time, the bar as written, the name of the section that it begins, whether
    repeats open here, how often what closes here is played, and (first, last) of a bracket over an ending.
    """

    moments: tuple[Moment, ...]
    bar: Bar
    key: Key
    meter: Meter
    section: str = ""
    opens: bool = False
    closes: int = 0
    bracket: tuple[bool, bool] = (False, False)


def measures(song: Song, solution: Solution, again: bool = True) -> list[Measure]:
    """The bars of the score: those of every section as written; with `again` a section that is played again is written
    again, with the hands that it has there.
    """
    written: set[int] = set()
    first: dict[tuple[int, int], Moment] = {}
    for moment in solution.moments:
        first.setdefault((moment.section, moment.slot_id), moment)
    found, back = [], opened(song)
    for played, origin in enumerate(origins(song)):
        if origin in written and not again:
            continue
        written.add(origin)
        section = song.sections[origin]
        for index, bar in enumerate(section.bars):
            moments = tuple(first[played, slot.id] for slot in bar.slots if (played, slot.id) in first)
            found.append(
                Measure(
                    moments, bar, section.the_key(song), bar_meter(song, section, bar),
                    song.sections[played].name if index == 0 else "", (played, index) in back,
                    _closes(section.bars, index), _bracket(section.bars, index),
                )
            )  # fmt: skip
    return found


def played_measures(song: Song, solution: Solution) -> dict[tuple[int, int, int], Measure]:
    """The bars of the song as they are played, by their section as it is played, their place in it, and the pass."""
    found: dict[tuple[int, int, int], list[Moment]] = {}
    for moment in solution.moments:
        found.setdefault((moment.section, moment.bar, moment.turn), []).append(moment)
    made = {}
    for place, moments in found.items():
        section = song.sections[moments[0].origin]
        bar = section.bars[moments[0].bar]
        made[place] = Measure(tuple(moments), bar, section.the_key(song), bar_meter(song, section, bar))
    return made


def _closes(bars: Sequence[Bar], index: int) -> int:
    """How often what ends with a bar is played: a bracket leads back as well, unless it is the last."""
    bar = bars[index]
    later = index + 1 < len(bars) and max(endings_of(bars[index + 1].ending), default=0) > max(bar.ending % 10, 1)
    return max(bar.repeats, 2 if bar.ending and later else 0)


def _bracket(bars: Sequence[Bar], index: int) -> tuple[bool, bool]:
    ending = bars[index].ending
    if not ending:
        return False, False
    before = index > 0 and bars[index - 1].ending == ending
    after = index + 1 < len(bars) and bars[index + 1].ending == ending
    return not before, not after


def bar_length(made: Measure) -> Fraction:
    """The length of a bar in quarters."""
    beats = sum((slot.beats for slot in made.bar.slots), Fraction(0))
    return beats * made.meter.beat_quarters


def tune_sounds(made: Measure, tied: Pitch | None) -> tuple[list[Sound], Pitch | None]:
    """The tune of a bar, and the pitch that is tied on from it; `tied` is what is tied into it."""
    found = []
    for tone in made.bar.tune:
        pitch = tone.spelled
        joined = pitch is not None and tied is not None and pitch.midi == tied.midi
        ties = (joined, tone.tied)
        found.append(Sound((pitch,) if pitch else (), (), tone.beats * made.meter.beat_quarters, ties))
        tied = pitch if tone.tied else None
    return found, tied


def line_sounds(made: Measure, moments: Sequence[Moment], tones: Sequence[LineTone]) -> list[Sound]:
    """What a line over the hands does in a bar, rests included; [] where it rests all through. `moments`: those that
    `tones` name.
    """
    begin = made.moments[0].quarter if made.moments else Fraction(0)
    end, place, found = begin + bar_length(made), begin, list[Sound]()
    for tone in tones:
        start, stop = max(tone.onset, begin), min(tone.onset + tone.quarters, end)
        if start >= stop:
            continue
        if start > place:
            found.append(Sound((), (), start - place))
        ties = (start > tone.onset, stop < tone.onset + tone.quarters)
        found.append(Sound((tone.spelled(moments),), (), stop - start, ties))
        place = stop
    return [*found, Sound((), (), end - place)] if found and place < end else found
