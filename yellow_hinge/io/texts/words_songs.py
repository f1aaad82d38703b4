"""Chords above words, read into a song: bars where bar lines or counts say them, else guessed, which is said."""

from __future__ import annotations

import re
from collections import Counter
from fractions import Fraction
from itertools import pairwise
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Slot, Song, parse_meter
from yellow_hinge.core.song.words import LONGEST_NAME, LONGEST_TITLE, plain
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, with_found_key
from yellow_hinge.io.texts.over_words import (
    BAR,
    COUNT,
    FIELD,
    SAME,
    TIMES,
    again,
    chords_of,
    cut_words,
    heading,
    is_drawn,
    is_sign,
    sung,
    symbol_of,
)
from yellow_hinge.io.texts.own_names import in_our_names

MAX_CHORDS = 4000
_LONGER = 1.5  # how much longer the words of a line may be that has twice the chords in the same bars


class _Chord(NamedTuple):
    """A chord with its words; `beats` where they are counted, else None."""

    symbol: str
    cue: str
    beats: int | None = None


class _Row(NamedTuple):
    """A line of chords bar by bar; `guessed`: nothing says where its bars are. `words` is how long what is sung is."""

    bars: list[list[_Chord]]
    guessed: bool
    words: int


class _Stretch:
    def __init__(self, name: str, times: int = 1) -> None:
        self.name, self.times = name, times
        self.rows: list[_Row] = []


class _Reader:
    """Gathers sections of rows line by line. `a_line`: bars that the player says a line has, 0 for a guess."""

    def __init__(self, a_line: int) -> None:
        self.a_line = a_line
        self.sections: list[_Stretch] = []
        self.fields: dict[str, object] = {}
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

    def _other(self, line: str, below: str) -> bool:
        """A line without chords, or a heading with chords beside it: a field, the title, or words that have none.
        Whether the words `below` were of it.
        """
        if not line.strip():
            return False
        section, field, repeated = heading(line), FIELD.match(line), again(line)
        if repeated:
            self._again(*repeated)
        elif section:
            beside = section[3] if chords_of(section[3]) else ""
            times = TIMES.fullmatch(section[3])
            own = times or beside or chords_of(section[3].strip("() "))
            remark = f" {section[3]}" if section[3] and not own else ""
            name = plain((section[1] or section[2].title()) + remark, LONGEST_NAME)
            self.sections.append(_Stretch(name, max(1, min(16, int(times[1] or times[2]))) if times else 1))
            if beside:
                at = line.rstrip().rfind(beside.rstrip())
                self._row([(column + at, word) for column, word in chords_of(beside)], below)
                return bool(below)
        elif is_drawn(line):
            return False
        elif field:
            self._field(field[1].lower(), field[2].strip())
        elif not self.sections and not self.title:
            self.title = plain(line, LONGEST_TITLE)
        else:
            self.left_out += 1
        return False

    def _again(self, name: str, times: int) -> None:
        """A section that is played again: the first one of its name."""
        low = name.lower()
        there = next((s.name for s in self.sections if s.rows and s.name.lower().startswith(low)), name.title())
        self.sections += [_Stretch(there) for _ in range(times)]

    def _field(self, name: str, value: str) -> None:
        try:
            if name == "key":
                self.fields["key"] = str(parse_key(value))
                return
            if name in ("time", "meter"):
                self.fields["meter"] = parse_meter(value)
                return
        except UserError:
            pass
        number = re.match(r"\d{2,3}", value)
        if name in ("tempo", "bpm") and number and TEMPOS[0] <= int(number[0]) <= TEMPOS[1]:
            self.fields["tempo"] = int(number[0])
        elif name == "title":
            self.title = plain(value, LONGEST_TITLE)
        else:
            self.extra.append((name, plain(value)))

    # --- rows ---

    def _row(self, found: list[tuple[int, str]], words: str) -> None:
        """The chords of a line with the words below them; bar lines and counts part them, else every chord is a bar."""
        if not self.sections:
            self.sections.append(_Stretch("Song"))
        chords = [(column, self._symbol(column, word)) for column, word in found if not is_sign(word)]
        cues = cut_words(words, [column for column, _ in chords])
        named = {column: _Chord(symbol, cue) for (column, symbol), cue in zip(chords, cues, strict=False)}
        counts = [word for _, word in found if COUNT.fullmatch(word)]
        counted = any(word.strip("/") for word in counts)  # numbers say more than bar lines
        barred = not counted and any(BAR.fullmatch(word) for _, word in found)
        counted = counted or (bool(counts) and not barred)
        bars = self._counted(found, named) if counted else self._bars(found, named, barred)
        times = next((int(t[1] or t[2]) for _, word in reversed(found) if (t := TIMES.fullmatch(word))), 1)
        times = 2 if times == 1 and found[0][1].endswith("|:") and found[-1][1].startswith(":|") else times
        row = _Row([bar for bar in bars if bar], not (barred or counted), len("".join(words.split())))
        self.sections[-1].rows += [row] * max(1, min(16, times))

    def _bars(self, found: list[tuple[int, str]], named: dict[int, _Chord], barred: bool) -> list[list[_Chord]]:
        """The chords of a line bar by bar; without bar lines each is one."""
        bars: list[list[_Chord]] = [[]]
        for column, word in found:
            if BAR.fullmatch(word):
                bars.append([])
            elif word == SAME:
                bars[-1] = [chord._replace(cue="") for chord in self._before(bars)]
                bars += [] if barred else [[]]
            elif not is_sign(word):
                bars[-1].append(named[column])
                bars += [] if barred else [[]]
        return bars

    def _counted(self, found: list[tuple[int, str]], named: dict[int, _Chord]) -> list[list[_Chord]]:
        """The chords of a line whose beats are counted, "C / / / G(2)", in bars."""
        meter = self.fields.get("meter", Meter())
        assert isinstance(meter, Meter)
        row: list[_Chord] = []
        for column, word in found:
            count = COUNT.fullmatch(word)
            if count and row:
                beats = int(count[1]) if count[1] else (row[-1].beats or 1) + len(word)
                row[-1] = row[-1]._replace(beats=max(1, min(64, beats)))
            elif not is_sign(word):
                row.append(named[column])
        bars: list[list[_Chord]] = [[]]
        room = meter.beats
        for chord in row:
            left, first = chord.beats or 1, True
            while left:
                part = min(left, room)
                bars[-1].append(chord._replace(beats=part, cue=chord.cue if first else ""))
                left, room, first = left - part, room - part, False
                if not room:
                    bars.append([])
                    room = meter.beats
        return bars

    def _symbol(self, column: int, word: str) -> str:
        """A word of a row as a chord; one that is none is said, and nothing is played there."""
        found = symbol_of(word)
        if not found:
            self.slips.append(f"line {self.number}, column {column + 1}: {word[:30]!r} is no chord; N.C. stands there")
        return found or NO_CHORD

    def _before(self, bars: list[list[_Chord]]) -> list[_Chord]:
        """The bar before the one that is being read."""
        read = [bar for bar in bars[:-1] if bar]
        if read:
            return read[-1]
        rows = self.sections[-1].rows
        return rows[-1].bars[-1] if rows and rows[-1].bars else []


# --- bars that nothing says ---


def _settled(stretch: _Stretch, a_line: int) -> list[list[_Chord]]:
    """The bars of a section: of lines whose bars nothing says as many as the player says, else a bar for every chord;
    two chords a bar in a line that has twice as many as the others over words as long.
    """
    guessed = [row for row in stretch.rows if row.guessed]
    usual, _ = Counter(len(row.bars) for row in guessed).most_common(1)[0] if guessed else (0, 0)
    lengths = [row.words for row in guessed if len(row.bars) == usual and row.words]
    longest = _LONGER * sum(lengths) / len(lengths) if lengths else 0.0
    found: list[list[_Chord]] = []
    for row in stretch.rows:
        chords = [chord for bar in row.bars for chord in bar]
        if row.guessed and a_line:
            found += _spread(chords, a_line)
        elif row.guessed and usual > 1 and len(chords) == 2 * usual and len(lengths) > 1 and 0 < row.words <= longest:
            found += [chords[n : n + 2] for n in range(0, len(chords), 2)]
        else:
            found += row.bars
    return found


def _spread(chords: list[_Chord], bars: int) -> list[list[_Chord]]:
    """The chords of a line over so many bars, as evenly as they go."""
    if len(chords) >= bars:
        edges = [round(n * len(chords) / bars) for n in range(bars + 1)]
        return [chords[a:b] for a, b in pairwise(edges) if b > a]
    edges = [round(n * bars / len(chords)) for n in range(len(chords) + 1)]
    rows = zip(chords, edges, edges[1:], strict=False)
    return [[chord._replace(cue=chord.cue if n == a else "")] for chord, a, b in rows for n in range(a, b)]


def _slots(bar: list[_Chord], meter: Meter) -> tuple[Slot, ...]:
    beats = Fraction(meter.beats)
    counted = [chord.beats for chord in bar if chord.beats is not None]
    if len(counted) == len(bar):
        slots = [Slot(chord.symbol, Fraction(chord.beats or 1), chord.cue) for chord in bar]
        rest = beats - sum(counted)
        return (*slots[:-1], replace(slots[-1], beats=slots[-1].beats + rest)) if rest > 0 else tuple(slots)
    return tuple(Slot(chord.symbol, beats / len(bar), chord.cue) for chord in bar)


def read_over_words(text: str, name: str, a_line: int = 0) -> Imported:
    """Read chords above words. `a_line`: bars a line, where the player says so. Raises FileFault where there are none,
    or too many.
    """
    text, said = in_our_names(text)
    reader = _Reader(a_line)
    reader.read(text)
    count = sum(len(bar) * s.times for s in reader.sections for row in s.rows for bar in row.bars)
    if not count:
        raise FileFault(name, "has no line of chords above words")
    if count > MAX_CHORDS:
        raise FileFault(name, f"holds more than {MAX_CHORDS} chords; this is no song")
    meter = reader.fields.get("meter", Meter())
    assert isinstance(meter, Meter)
    played = [s for s in reader.sections for _ in range(1 if s.rows else s.times)]
    sections = tuple(
        Section(s.name, tuple(Bar(_slots(bar, meter)) for bar in _settled(s, a_line) * s.times)) for s in played
    )
    song = Song(sections=sections, extra=tuple(reader.extra), title=reader.title or "Untitled")
    song = replace(song, **reader.fields)
    guessed = any(row.guessed for s in reader.sections for row in s.rows)
    report = [_GUESSED if not a_line else f"a line without bar lines has {a_line} bars"] if guessed else []
    report += [*said, *reader.slips[:200]]
    if reader.left_out:
        lines = "1 line" if reader.left_out == 1 else f"{reader.left_out} lines"
        report.append(f"{lines} of words without chords were left out")
    if "key" not in reader.fields:
        song, found = with_found_key(song)
        report += found
    return Imported(song, tuple(report))


_GUESSED = "the bars are guessed: where no bar lines stand, every chord was given one"
