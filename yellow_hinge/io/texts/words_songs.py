"""Chords above words, read into a song: bars where bar lines or counts say them, else guessed, which is said."""

from __future__ import annotations

import re
from fractions import Fraction

from msgspec.structs import replace

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Slot, Song, parse_meter
from yellow_hinge.core.song.words import LONGEST_NAME, LONGEST_TITLE, plain
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, Offer, with_found_key
from yellow_hinge.io.texts.over_words import (
    FIELD,
    TIMES,
    again,
    chords_of,
    heading,
    is_drawn,
    sung,
    symbol_of,
)
from yellow_hinge.io.texts.own_names import in_our_names
from yellow_hinge.io.texts.word_rows import Row, RowChord, row_of, settled

MAX_CHORDS = 4000


class _Stretch:
    def __init__(self, name: str, times: int = 1) -> None:
        self.name, self.times = name, times
        self.rows: list[Row] = []


class _Reader:
    """Gathers sections of rows line by line."""

    def __init__(self) -> None:
        self.sections: list[_Stretch] = []
        self.key, self.meter, self.tempo = "", Meter(), 90
        self.extra: list[tuple[str, str]] = []
        self.left_out = 0
        self.title = ""
        self.number = 0  # of the line that is read
        self.slips: list[str] = []

    def read(self, text: str) -> None:
        lines = text.expandtabs(8).splitlines()
        number = 0
        while number < len(lines):
            line, self.number = lines[number], number + 1
            found = chords_of(line)
            if found:
                below = number + 1
                if below + 1 < len(lines) and not lines[below].strip() and sung(lines[below + 1]):
                    below += 1  # a blank line between chords and words
                words = lines[below] if below < len(lines) and sung(lines[below]) else ""
                self._row(found, words)
                number = below + 1 if words else number + 1
                continue
            below_it = lines[number + 1] if number + 1 < len(lines) and sung(lines[number + 1]) else ""
            number += 2 if self._other(line, below_it) else 1

    def made(self, a_line: int) -> tuple[Section, ...]:
        """The sections in the order in which they stand; one without bars plays the first of its name again."""
        played = (s for s in self.sections for _ in range(1 if s.rows else s.times))
        rows = ((s, settled(s.rows, a_line) * s.times) for s in played)
        return tuple(Section(s.name, tuple(Bar(_slots(bar, self.meter)) for bar in bars)) for s, bars in rows)

    def said(self, guessed: bool, a_line: int) -> list[str]:
        """What has to be said of the bars."""
        if not guessed:
            return []
        return [f"a line without bar lines has {a_line} bars" if a_line else _GUESSED]

    def left(self) -> list[str]:
        """What has to be said of lines that were left out."""
        lines = "1 line" if self.left_out == 1 else f"{self.left_out} lines"
        return [f"{lines} of words without chords were left out"] if self.left_out else []

    def _other(self, line: str, below: str) -> bool:
        """A line without chords, or a heading with chords beside it: a field, the title, or words that have none.
        Whether the words `below` were of it.
        """
        repeated = again(line)
        section = None if repeated else heading(line)
        if section:
            return self._heading(line, section, below)
        field = FIELD.match(line)
        if repeated:
            self._again(*repeated)
        elif is_drawn(line) or not line.strip():
            return False
        elif field:
            self._field(field[1].lower(), field[2].strip())
        else:
            self._plain(line)
        return False

    def _plain(self, line: str) -> None:
        """Words without chords: the title, or left out."""
        if self.sections or self.title:
            self.left_out += 1
        else:
            self.title = plain(line, LONGEST_TITLE)

    def _heading(self, line: str, section: re.Match[str], below: str) -> bool:
        beside = section[3] if chords_of(section[3]) else ""
        times = TIMES.fullmatch(section[3])
        own = times or beside or chords_of(section[3].strip("() "))
        remark = f" {section[3]}" if section[3] and not own else ""
        name = plain((section[1] or section[2].title()) + remark, LONGEST_NAME)
        self.sections.append(_Stretch(name, max(1, min(16, int(times[1] or times[2]))) if times else 1))
        if not beside:
            return False
        at = line.rstrip().rfind(beside.rstrip())
        self._row([(column + at, word) for column, word in chords_of(beside)], below)
        return bool(below)

    def _again(self, name: str, times: int) -> None:
        """A section that is played again: the first one of its name."""
        low = name.lower()
        there = next((s.name for s in self.sections if s.rows and s.name.lower().startswith(low)), name.title())
        self.sections += [_Stretch(there) for _ in range(times)]

    def _field(self, name: str, value: str) -> None:
        """What a line says of the whole song; what is not understood is kept."""
        number = re.match(r"\d{2,3}", value)
        try:
            if name == "key":
                self.key = str(parse_key(value))
            elif name in ("time", "meter"):
                self.meter = parse_meter(value)
            elif name in ("tempo", "bpm") and number and TEMPOS[0] <= int(number[0]) <= TEMPOS[1]:
                self.tempo = int(number[0])
            elif name == "title":
                self.title = plain(value, LONGEST_TITLE)
            else:
                self.extra.append((name, plain(value)))
        except UserError:
            self.extra.append((name, plain(value)))

    def _row(self, found: list[tuple[int, str]], words: str) -> None:
        if not self.sections:
            self.sections.append(_Stretch("Song"))
        rows = self.sections[-1].rows
        before = rows[-1].bars[-1] if rows and rows[-1].bars else []
        rows += row_of(found, words, self._symbol, self.meter.beats, before)

    def _symbol(self, column: int, word: str) -> str:
        """A word of a row as a chord; one that is none is said, and nothing is played there."""
        found = symbol_of(word)
        if not found:
            self.slips.append(f"line {self.number}, column {column + 1}: {word[:30]!r} is no chord; N.C. stands there")
        return found or NO_CHORD


def _slots(bar: list[RowChord], meter: Meter) -> tuple[Slot, ...]:
    beats = Fraction(meter.beats)
    counted = [chord.beats for chord in bar if chord.beats is not None]
    if len(counted) < len(bar):
        return tuple(Slot(chord.symbol, beats / len(bar), chord.cue) for chord in bar)
    slots = [Slot(chord.symbol, Fraction(count), chord.cue) for chord, count in zip(bar, counted, strict=True)]
    rest = max(Fraction(0), beats - sum(counted))
    return (*slots[:-1], replace(slots[-1], beats=slots[-1].beats + rest))


def read_over_words(text: str, name: str, a_line: int = 0) -> Imported:
    """Read chords above words. `a_line`: bars a line, where the player says so. Raises FileFault where there are none,
    or too many.
    """
    text, said = in_our_names(text)
    reader = _Reader()
    reader.read(text)
    count = sum(len(bar) * s.times for s in reader.sections for row in s.rows for bar in row.bars)
    if not count:
        raise FileFault(name, "has no line of chords above words")
    if count > MAX_CHORDS:
        raise FileFault(name, f"holds more than {MAX_CHORDS} chords; this is no song")
    song = Song(reader.title or "Untitled", reader.key or "C major", reader.meter, reader.tempo)
    song = replace(song, sections=reader.made(a_line), extra=tuple(reader.extra))
    guessed = any(row.guessed for s in reader.sections for row in s.rows)
    report = [*reader.said(guessed, a_line), *said, *reader.slips[:200], *reader.left()]
    if not reader.key:
        song, found = with_found_key(song)
        report += found
    offers = (Offer("bars", "Bars a line", _A_LINE, str(a_line)),) if guessed else ()
    return Imported(song, tuple(report), offers=offers)


_A_LINE = (("0", "a bar for every chord"), ("1", "1"), ("2", "2"), ("4", "4"), ("8", "8"))
_GUESSED = "the bars are guessed: where no bar lines stand, every chord was given one"
