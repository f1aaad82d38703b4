"""A song as it is played, repeats and jumps followed, in lines of a few bars for the screen on stage."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import msgspec

from yellow_hinge.core.performing import micros_a_quarter
from yellow_hinge.core.sheet.content import ORDINALS, Cell, Writer
from yellow_hinge.core.song.timeline import Moment, bar_number, bars_played


class ShownBar(msgspec.Struct, frozen=True):
    """A bar as it is played: its number, its chords with the beats of each, the meter where another one begins, where
    it begins in the song and how long it lasts in quarter notes, and how long in seconds.
    """

    label: str
    cells: tuple[Cell, ...]
    beats: tuple[float, ...]
    meter: str
    quarter: Fraction
    quarters: Fraction
    seconds: float


class ShownLine(msgspec.Struct, frozen=True):
    """Some bars of one pass of a section: its name, which time it is ("2nd time"), and whether it begins here."""

    section: str
    time: str
    begins: bool
    bars: tuple[ShownBar, ...]

    @property
    def seconds(self) -> float:
        """How long it lasts."""
        return sum(bar.seconds for bar in self.bars)

    @property
    def turn(self) -> float:
        """Seconds before its end at which the next line comes up: half of its last bar."""
        return self.bars[-1].seconds / 2


class ShownSong(msgspec.Struct, frozen=True):
    """A song on stage: its title, key and tempo in words, the player's note on it, and its lines."""

    title: str
    facts: str
    memo: str
    lines: tuple[ShownLine, ...]


def shown_song(writer: Writer, bars: int) -> ShownSong:
    """The song of a writer in lines of so many bars; a pass of a section begins a line."""
    song = writer.song
    repeated = {moment.section for moment in writer.solution.moments if moment.turn}
    lines: list[ShownLine] = []
    for row in _passes(writer):
        first = row[0][0]
        time = _time(first.turn) if first.section in repeated else ""
        for at in range(0, len(row), bars):
            found = tuple(bar for _, bar in row[at : at + bars])
            lines.append(ShownLine(song.sections[first.section].name, time, at == 0, found))
    return ShownSong(song.title, f"{song.the_key}, {song.tempo}", writer.memos.get(0, ""), tuple(lines))


def _passes(writer: Writer) -> Iterator[list[tuple[Moment, ShownBar]]]:
    """The bars of each pass of a section, in the order of playing."""
    row: list[tuple[Moment, ShownBar]] = []
    for moment, bar in _bars(writer):
        if row:
            last = row[-1][0]
            goes_on = (last.section, last.turn) == (moment.section, moment.turn) and last.bar < moment.bar
            if not goes_on:
                yield row
                row = []
        row.append((moment, bar))
    if row:
        yield row


def _time(turn: int) -> str:
    return f"{ORDINALS[turn] if turn < len(ORDINALS) else f'{turn + 1}th'} time"


def _bars(writer: Writer) -> Iterator[tuple[Moment, ShownBar]]:
    """Every bar in the order of playing, with its first moment."""
    song, before, place = writer.song, "", 0
    for moments in bars_played(writer.solution.moments):
        first = moments[0]
        meter = str(first.meter)
        quarters = sum((moment.quarters for moment in moments), Fraction(0))
        seconds = float(quarters) * micros_a_quarter(song, first.meter) / 1_000_000
        yield first, ShownBar(
            str(bar_number(song, first.section, first.bar)),
            tuple(writer.cell(place + n) for n in range(len(moments))),
            tuple(float(moment.beats) for moment in moments), meter if meter != before else "", first.quarter, quarters,
            seconds,
        )  # fmt: skip
        before, place = meter, place + len(moments)
