"""The song laid out in time: repeats and endings played out, sections reused, the melody over every chord."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import Pitch
from yellow_hinge.core.song.road import played_length, road
from yellow_hinge.core.song.song import NO_CHORD, Address, Bar, Meter, Section, Slot, Song, endings_of
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol

TuneNote = tuple[Fraction, Fraction, Pitch]  # start and length in beats


class Sounding(msgspec.Struct, frozen=True):
    """A melody note over a slot: `onset` and `beats` relative to the slot's start and end. `begins`: it is struck here,
    and then lasts `whole` beats in all, ties and later slots included.
    """

    pitch: Pitch
    onset: Fraction
    beats: Fraction
    begins: bool = True
    whole: Fraction = Fraction(0)


class Moment(msgspec.Struct, frozen=True):
    """A slot in its time.

    `section` is the section as it is played, `origin` the one where its bars are written, `bar` and `slot` index into
    that; `start` counts beats from the song's start and `quarter` quarter notes, `beat` from 1 inside the bar; `chord`
    is None where nothing is played; `turn` counts the passes of a repeat from 0; `key` and `meter` are the bar's; `ids`
    are those of the section as it is played, the bar and the slot; `ends` whether it is the last chord of a section or
    of a pass of it.
    """

    section: int
    origin: int
    bar: int
    slot: int
    turn: int
    start: Fraction
    quarter: Fraction
    beat: Fraction
    beats: Fraction
    symbol: str
    chord: Chord | None
    cue: str
    key: Key
    meter: Meter
    tune: tuple[Sounding, ...] = ()
    ids: tuple[int, int, int] = (0, 0, 0)
    ends: bool = False

    @property
    def slot_id(self) -> int:
        """The id of the slot."""
        return self.ids[2]

    def narrowness(self, at: int) -> int:
        """How narrow a place is that it lies in, by its id: 0 for the song (id 0), 1 to 3 for section, bar and chord;
        -1 where it does not lie in it.
        """
        return 0 if not at else self.ids.index(at) + 1 if at in self.ids else -1

    @property
    def pass_id(self) -> tuple[int, int]:
        """Which pass it is played in: the id of the section as it is played, and the pass of its repeat from 0."""
        return self.ids[0], self.turn

    @property
    def address(self) -> Address:
        """Where the slot is written: (section, bar, slot)."""
        return self.origin, self.bar, self.slot

    @property
    def quarters(self) -> Fraction:
        """Length in quarter notes."""
        return self.beats * self.meter.beat_quarters


def read_slot(slot: Slot, key: Key) -> Chord | None:
    """The chord of a slot, None for no chord. Raises ChordSymbolError."""
    return None if slot.symbol == NO_CHORD else parse_symbol(slot.symbol, key)


def bar_number(song: Song, section: int, bar: int) -> int:
    """The number of a written bar: bars are counted from 1 through the song as it is written."""
    return sum(len(before.bars) for before in song.sections[:section]) + bar + 1


MAX_SECTIONS, MAX_PLAYED = 400, 8000


def check_length(song: Song) -> None:
    """Refuse a song that would play more than MAX_PLAYED bars or chords, before laying it out. Raises UserError."""
    if len(song.sections) > MAX_SECTIONS:
        raise UserError(f"a song can hold {MAX_SECTIONS} sections")
    bars = [bar for section in song.sections for bar in section.bars]
    if not all(0 <= bar.repeats <= 99 and _is_ending(bar.ending) for bar in bars):
        raise UserError("a repeat is played 2 to 99 times and has up to 9 endings")
    played = played_length(song, MAX_PLAYED)
    if played <= MAX_PLAYED and any(bar.signs for bar in bars):
        steps = road(song)
        played = sum(max(1, len(song.sections[step.origin].bars[step.bar].slots)) for step in steps)
    if played > MAX_PLAYED:
        raise UserError(f"with its repeats the song plays more than {MAX_PLAYED} chords; split it into several songs")


def _is_ending(ending: int) -> bool:
    """Whether the digits of an ending are passes in order, each once."""
    if not ending:
        return True
    turns = endings_of(ending) if 0 < ending < 10**9 else (0,)
    return 0 not in turns and list(turns) == sorted(set(turns))


def bar_meter(song: Song, section: Section, bar: Bar) -> Meter:
    """The meter in force in a bar."""
    return bar.meter or section.meter or song.meter


def timeline(song: Song) -> tuple[Moment, ...]:
    """Every slot in playing order. Raises ChordSymbolError where a symbol cannot be read."""
    moments: list[Moment] = []
    notes: list[TuneNote] = []
    tied: Pitch | None = None
    at, quarter = Fraction(0), Fraction(0)
    before: tuple[int, int, int] | None = None
    for step in road(song):
        section = song.sections[step.origin]
        if before not in (None, (step.played, step.jumps, step.turn)):
            _mark_end(moments)
        before = step.played, step.jumps, step.turn
        key, bar = section.the_key(song), section.bars[step.bar]
        meter, start, inside = bar_meter(song, section, bar), at, Fraction(0)
        for i, slot in enumerate(bar.slots):
            moments.append(
                Moment(
                    step.played, step.origin, step.bar, i, step.turn, at, quarter, inside + 1, slot.beats, slot.symbol,
                    read_slot(slot, key), slot.cue, key, meter, ids=(song.sections[step.played].id, bar.id, slot.id),
                )
            )  # fmt: skip
            inside += slot.beats
            at += slot.beats
            quarter += slot.beats * meter.beat_quarters
        tied = _add_tune(bar, start, notes, tied)
    _mark_end(moments)
    return _with_tune(moments, notes)


def check_read(song: Song) -> None:
    """Read every chord that is played. Raises ChordSymbolError where `timeline` would, in a small part of its time."""
    for origin, bar in dict.fromkeys((step.origin, step.bar) for step in road(song)):
        section = song.sections[origin]
        key = section.the_key(song)
        for slot in section.bars[bar].slots:
            read_slot(slot, key)


def _mark_end(moments: list[Moment]) -> None:
    """Mark the last chord of the section that was just laid out."""
    for place in range(len(moments) - 1, -1, -1):
        if moments[place].section != moments[-1].section:
            return
        if moments[place].chord is not None:
            moments[place] = msgspec.structs.replace(moments[place], ends=True)
            return


def _add_tune(bar: Bar, at: Fraction, notes: list[TuneNote], tied: Pitch | None) -> Pitch | None:
    """Append a bar's tune to `notes`, joining what is tied; the pitch that is still tied at its end, or None."""
    for tone in bar.tune:
        pitch = tone.spelled
        if pitch is not None:
            if tied is not None and tied.midi == pitch.midi and notes and notes[-1][0] + notes[-1][1] == at:
                start, length, _ = notes[-1]
                notes[-1] = (start, length + tone.beats, pitch)
            else:
                notes.append((at, tone.beats, pitch))
        tied = pitch if tone.tied else None
        at += tone.beats
    return tied


def _with_tune(moments: list[Moment], notes: list[TuneNote]) -> tuple[Moment, ...]:
    found, first = [], 0
    for moment in moments:
        end, over = moment.start + moment.beats, []
        while first < len(notes) and notes[first][0] + notes[first][1] <= moment.start:
            first += 1
        for start, length, pitch in notes[first:]:
            if start >= end:
                break
            onset = max(start, moment.start)
            last = min(start + length, end)
            over.append(Sounding(pitch, onset - moment.start, last - onset, start >= moment.start, length))
        found.append(msgspec.structs.replace(moment, tune=tuple(over)) if over else moment)
    return tuple(found)


def bars_played(moments: Iterable[Moment]) -> Iterator[list[Moment]]:
    """The moments of each bar in the order of playing; a bar that is played twice in a row is two."""
    row: list[Moment] = []
    for moment in moments:
        if row:
            last = row[-1]
            same = (last.section, last.bar, last.turn) == (moment.section, moment.bar, moment.turn)
            if not same or moment.slot <= last.slot:
                yield row
                row = []
        row.append(moment)
    if row:
        yield row
