"""The one home of sounding time: every key struck in a song, when, how long, how loud and by whom. Sound, MIDI and the
mark that follows the playing read only this.
"""

from __future__ import annotations

import bisect
import itertools
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.hands import KEYBOARDS
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import Usual, usual_playing
from yellow_hinge.core.rhythm.band import Beat, bass_register, clicks, drums
from yellow_hinge.core.rhythm.fills.degree_line import line_tones
from yellow_hinge.core.rhythm.fills.notes import swung_in
from yellow_hinge.core.rhythm.fills.offered import with_fills
from yellow_hinge.core.rhythm.holding import Stroke, held_by, roll_of, rolled
from yellow_hinge.core.rhythm.loudness import TUNE_LOUD
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.rhythm.pedalling import late, pedal_spans
from yellow_hinge.core.rhythm.striking import STRAIGHT, Played, played
from yellow_hinge.core.rhythm.strokes import seen_reach, strokes_of
from yellow_hinge.core.rhythm.tune.beneath import tune_span
from yellow_hinge.core.rhythm.walking import walked
from yellow_hinge.core.song.song import Meter, Song
from yellow_hinge.core.song.timeline import Moment, bars_played

TUNE, LINE, BASS = "tune", "line", "bass"
PITCHED = (*HANDS, TUNE, LINE, BASS)
PARTS = (*PITCHED, "click", "drums")
BASS_LOUD = 74
PARTS_A_SECOND = TICK * 1_000_000  # of a clock: ticks by microseconds a quarter note


class Struck(NamedTuple):
    """A key or an instrument struck: onset from the song's start and length in ticks (TICK to a quarter note), MIDI
    number, `part` out of PARTS, velocity, the finger (None: not known, or no hand's), the slot's id and its chord's
    index in the solution (-1: of no chord); `added`: the hands that are shown do not hold it.
    """

    onset: int
    length: int
    midi: int
    part: str
    velocity: int
    finger: int | None
    slot: int
    place: int
    added: bool = False

    @property
    def end(self) -> int:
        """When it is let go, in ticks from the song's start."""
        return self.onset + self.length


class Clock(NamedTuple):
    """When ticks sound: `marks` are (tick, microseconds a quarter note lasts from there on). A MIDI file says its
    tempo in whole microseconds, so that is what everything is timed by.
    """

    marks: tuple[tuple[int, int], ...]

    def seconds(self, tick: int) -> Fraction:
        """Seconds from the song's start, exactly."""
        return Fraction(self.parts(tick), PARTS_A_SECOND)

    def parts(self, tick: int) -> int:
        """The same in whole parts of a second, PARTS_A_SECOND of them."""
        total = 0
        for place in range(len(self.marks) - 1):
            start, micros = self.marks[place]
            after = self.marks[place + 1][0]
            if tick <= after:
                return total + (tick - start) * micros
            total += (after - start) * micros
        start, micros = self.marks[-1]
        return total + (tick - start) * micros

    def tick(self, seconds: float) -> int:
        """The tick that sounds at so many seconds from the song's start."""
        place = 0
        while place + 1 < len(self.marks) and self.seconds(self.marks[place + 1][0]) <= seconds:
            place += 1
        start, micros = self.marks[place]
        return start + int((seconds - float(self.seconds(start))) * 1_000_000 * TICK / micros)

    def at(self, tick: int) -> int:
        """Microseconds that a quarter note lasts there."""
        return self.marks[max(0, bisect.bisect_right(self.marks, tick, key=lambda mark: mark[0]) - 1)][1]

    def faster(self, percent: int) -> Clock:
        """The clock at so many percent of the tempo."""
        return Clock(tuple((tick, round(micros * 100 / percent)) for tick, micros in self.marks))


class BarLine(NamedTuple):
    """A bar as it is played: where it begins and ends in ticks, its meter, the ticks that a pickup leaves out,
    and the percent of a beat before its second half.
    """

    start: int
    end: int
    meter: Meter
    missing: int
    swing: int


class Performance(NamedTuple):
    """All that sounds, in order; when the pedal is down (ticks); `starts` and `ends` of the solution's chords; the
    bars; the length in ticks; every chord with its patterns; and by how many semitones the keyboard is transposed.
    """

    struck: tuple[Struck, ...]
    pedals: tuple[tuple[int, int], ...]
    starts: tuple[int, ...]
    ends: tuple[int, ...]
    bars: tuple[BarLine, ...]
    length: int
    clock: Clock
    row: tuple[Played, ...] = ()
    shift: int = 0

    def sounding(self, struck: Struck) -> int:
        """The MIDI number that is heard where something is struck."""
        return struck.midi + self.shift if struck.part in PITCHED else struck.midi

    def bar_at(self, tick: int) -> BarLine | None:
        """The bar that a tick lies in."""
        return next((bar for bar in self.bars if bar.start <= tick < bar.end), None)

    def added_at(self, place: int) -> tuple[tuple[str, int], ...]:
        """(hand, MIDI number) of what patterns and fills add to the hands at a chord, in the order they are struck."""
        return tuple(dict.fromkeys((s.part, s.midi) for s in self.struck if s.place == place and s.added))

    def sounding_ends(self) -> list[int]:
        """When the sound of everything struck ends, in ticks: with the key, or with the pedal if that is down."""
        downs = [down for down, _ in self.pedals]
        return [self.sounding_end(struck, downs) for struck in self.struck]

    def sounding_end(self, struck: Struck, downs: list[int]) -> int:
        """When the sound of something struck ends; `downs` are the ticks at which the pedal goes down."""
        end = struck.end
        at = bisect.bisect_right(downs, end) - 1 if struck.part in HANDS else -1
        holds = at >= 0 and self.pedals[at][0] < end < self.pedals[at][1]
        return self.pedals[at][1] if holds else end

    def place_at(self, tick: int) -> int:
        """The index of the chord that sounds, -1 before the first."""
        return bisect.bisect_right(self.starts, tick) - 1


def beat_seconds(tempo: float) -> float:
    """Seconds of a felt beat, at so many a minute."""
    return 60 / tempo


def micros_a_quarter(song: Song, meter: Meter) -> int:
    """Microseconds that a quarter note lasts in a meter: a felt beat lasts the same in all of them."""
    return round(1_000_000 * beat_seconds(song.tempo * float(meter.beat_quarters)))


def clock_of(song: Song, moments: tuple[Moment, ...]) -> Clock:
    """The song's clock."""
    marks: list[tuple[int, int]] = []
    for moment in moments:
        micros = micros_a_quarter(song, moment.meter)
        if not marks or marks[-1][1] != micros:
            marks.append((ticks(moment.quarter), micros))
    return Clock(tuple(marks) or ((0, 500_000),))


def performed(solution: Solution, song: Song, playing: Playing = Playing()) -> Performance:  # noqa: B008 - frozen
    """How a solution sounds. `song` is the one that was solved."""
    usual = usual_playing(song, solution.setup.manner, playing, [voicing.here for voicing in solution.voicings])
    row = played(solution, playing, usual)
    clock = clock_of(song, solution.moments)
    strokes = with_fills(strokes_of(row), row, playing)
    hands = {hand: _hand(hand, strokes[hand], row, clock, solution, strokes) for hand in HANDS}
    bars = _bar_lines(solution.moments, row)
    struck = [
        _by_hand(stroke, hand, solution) for hand in HANDS for stroke in hands[hand]
    ]  # fmt: skip
    struck += _tune(solution, usual) + _line(solution, row, playing) + _bass(solution, row)
    struck += _band(bars, song.pickup > 0)
    length = max((ticks(m.quarter + m.quarters) for m in solution.moments), default=0)
    starts = tuple(ticks(voicing.here.quarter) for voicing in solution.voicings)
    ends = tuple(here.start + here.length for here in row)
    spans = enumerate(pedal_spans(row, [*hands["left"], *hands["right"]]))
    pedals = tuple((late(start, end, clock.at(start)) if at else start, end) for at, (start, end) in spans)
    struck.sort(key=lambda s: (s.onset, PARTS.index(s.part), s.midi))
    shift = playing.shift(song.the_key)
    return Performance(tuple(struck), pedals, starts, ends, bars, length, clock, tuple(row), shift)


class WrittenStroke(NamedTuple):
    """What is struck as it is written, straight where it is swung: the strokes of each hand, all of one onset with the
    roll of them, and when the pedal is down, in ticks from the song's start.
    """

    strokes: dict[str, list[Stroke]]
    pedals: tuple[tuple[int, int], ...]


def written(solution: Solution, song: Song, playing: Playing) -> WrittenStroke:
    """What both hands strike, before it is rolled and swung."""
    usual = usual_playing(song, solution.setup.manner, playing, [voicing.here for voicing in solution.voicings])
    row = played(solution, playing, usual.straightened())
    strokes = with_fills(strokes_of(row), row, playing)
    hands = row[0].chordal.hands if row else solution.setup.player.hands
    found: dict[str, list[Stroke]] = {}
    for hand in HANDS:
        widest = seen_reach(solution, hand)
        own = held_by(hand, strokes[hand], hands, widest)
        found[hand] = []
        for _, each in itertools.groupby(own, key=lambda stroke: stroke.onset):
            together = list(each)
            roll = roll_of(together, hand, hands, widest) if len(together) > 1 else 0
            found[hand] += [s._replace(roll=max(0, roll) if s.roll >= 0 else s.roll) for s in together]
    return WrittenStroke(found, pedal_spans(row, [*found["left"], *found["right"]]))


def _hand(
    hand: str, strokes: list[Stroke], row: list[Played], clock: Clock, solution: Solution, both: dict[str, list[Stroke]]
) -> list[Stroke]:
    """One hand's strokes as it can hold them, rolled where that is asked."""
    if not row:
        return []
    hands = row[0].chordal.hands
    widest = seen_reach(solution, hand)
    held = held_by(hand, strokes, hands, widest)
    onsets: dict[int, list[Stroke]] = {}
    for stroke in held:
        onsets.setdefault(stroke.onset, []).append(stroke)
    found: list[Stroke] = []
    for onset, together in onsets.items():
        after = 0
        if hand == "right" and any(stroke.roll > 0 for stroke in together):  # the left hand rolls first
            after = max((s.roll for s in both["left"] if s.onset == onset), default=0)
        speed = TICK * 1_000_000 / clock.at(onset)
        found += rolled(together, hand, hands, speed, after, widest)
    return [stroke for stroke in found if stroke.end > stroke.onset]


def _by_hand(stroke: Stroke, hand: str, solution: Solution) -> Struck:
    voicing = solution.voicings[stroke.place]
    notes, fingers = voicing.both.of(hand), voicing.fingers.of(hand)
    finger = fingers[notes.index(stroke.midi)] if fingers is not None and stroke.midi in notes else None
    slot, length = voicing.here.slot_id, stroke.end - stroke.onset
    return Struck(stroke.onset, length, stroke.midi, hand, stroke.velocity, finger, slot, stroke.place, stroke.added)


def _tune(solution: Solution, usual: Usual) -> list[Struck]:
    """The tune as written, where the right hand does not play it."""
    if solution.setup.melody == "top":
        return []
    found = []
    for moment in solution.moments:
        begin, swing = ticks(moment.quarter), usual.swing_at(moment)
        for tone in moment.tune:
            if tone.begins:
                start, end = tune_span(tone, moment, swing)
                midi, slot = tone.pitch.midi, moment.slot_id
                found.append(Struck(begin + start, end - start, midi, TUNE, TUNE_LOUD, None, slot, -1))
    return found


def _line(solution: Solution, row: list[Played], playing: Playing) -> list[Struck]:
    """The line that is kept over the hands, half beats late where the song swings."""
    by_moment, found = {solution.voicings[here.place].moment: here for here in row}, []
    for tone in line_tones(solution.moments, playing.lines):
        here = by_moment[tone.at]
        start, end = (swung_in(ticks(place), here) for place in (tone.onset, tone.onset + tone.quarters))
        slot = here.moment.slot_id
        found.append(Struck(start, end - start, tone.midi, LINE, TUNE_LOUD, None, slot, -1))
    return found


def _bass(solution: Solution, row: list[Played]) -> list[Struck]:
    """The bass player's line, where the bass is another's: a walk where the pattern swings, else root and fifth; below
    what the hands play.
    """
    if solution.setup.mine:
        return []
    found: list[Struck] = []
    keys = _bass_keys(row)
    for index, here in enumerate(row):
        moment, bass = here.moment, keys[index]
        goal = keys[index + 1] if index + 1 < len(keys) else None
        swings = here.swings
        beat = ticks(moment.meter.beat_quarters)
        step = beat if swings else 2 * beat
        count = max(1, here.length // step)
        room = (KEYBOARDS[88][0], max(bass, min(BASS_TOP, _lowest(here) - BASS_BELOW)))
        walk = walked(bass, goal, count, here.chordal.chord, here.chordal.key, room) if swings else ()
        line = walk or _root_and_fifth(here, bass, count, room[1])
        for at, midi in enumerate(line):
            end = here.length if at == len(line) - 1 else (at + 1) * step
            onset, length = here.start + at * step, (end - at * step) * 19 // 20
            found.append(Struck(onset, length, midi, BASS, BASS_LOUD, None, moment.slot_id, here.place))
    return found


BASS_TOP, BASS_BELOW = 55, 3  # G3; semitones below the hands


def _lowest(here: Played) -> int:
    """The lowest key that the hands hold, or one above all that a bass player plays."""
    return min((*here.chordal.left, *here.chordal.right), default=BASS_TOP + BASS_BELOW)


def _bass_keys(row: list[Played]) -> list[int]:
    """The bass player's key on every chord: near the one before, an octave lower where that is too near the hands."""
    keys: list[int] = []
    for here in row:
        key = bass_register(here.chordal.chord.bass_note.pc, keys[-1] if keys else None)
        low = key > _lowest(here) - BASS_BELOW and key - 12 >= KEYBOARDS[88][0]
        keys.append(key - 12 if low else key)
    return keys


def _root_and_fifth(here: Played, bass: int, count: int, top: int) -> tuple[int, ...]:
    fifth = bass + 7 if bass + 7 <= top else bass - 5
    other = fifth if fifth % 12 in here.chordal.chord.pitch_classes and fifth >= KEYBOARDS[88][0] else bass
    return tuple(bass if at % 2 == 0 else other for at in range(count))


def _bar_lines(moments: tuple[Moment, ...], row: list[Played]) -> tuple[BarLine, ...]:
    swings = {here.start: here.swing for here in row}
    found: list[BarLine] = []
    for bar in bars_played(moments):
        first, last = bar[0], bar[-1]
        start, *more = (ticks(moment.quarter) for moment in bar)
        swing = swings.get(start, found[-1].swing if found else STRAIGHT)
        swing = max([swing, *(swings.get(other, STRAIGHT) for other in more)])
        found.append(BarLine(start, ticks(last.quarter + last.quarters), first.meter, 0, swing))
    full = ticks(found[0].meter.beats * found[0].meter.beat_quarters) if found else 0
    if found and found[0].end - found[0].start < full:
        found[0] = found[0]._replace(missing=full - (found[0].end - found[0].start))
    return tuple(found)


def _band(bars: tuple[BarLine, ...], pickup: bool) -> list[Struck]:
    """Click and drums for every bar; a pickup has no drums."""
    found = []
    for number, bar in enumerate(bars):
        length = bar.end - bar.start
        beats: list[Beat] = clicks(bar.meter, length, bar.missing)
        if not (number == 0 and pickup):
            beats += drums(bar.meter, length, bar.swing)
        for beat in beats:
            found.append(Struck(bar.start + beat.at, beat.length, beat.midi, beat.part, beat.velocity, None, 0, -1))
    return found
