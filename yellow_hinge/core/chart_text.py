"""The plain chart text: reading it into a Song with every fault named by line and column, and writing it.

Grammar, one thing a line: `title: key: meter: tempo:` headers, `[Section]`, chord lines with bars between `|`, and
under a chord line `tune:` and `cue:` aligned with it by bar lines. docs/chart-text.md shows it to players.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import ChordSymbolError, KeyNameError, UserError
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.pitch import Note, Pitch, parse_note, parse_pitch
from yellow_hinge.core.song import NO_CHORD, Bar, Meter, Section, Slot, Song, Tone, parse_meter
from yellow_hinge.core.symbol import parse_symbol

HEADERS = ("title", "key", "meter", "tempo")
LINES = ("tune", "cue")
MAX_CHARS = 400_000
MAX_BARS = 4000
_TEMPO = (20, 400)
_NO_CHORD_WORDS = ("N.C.", "NC", "N.C", "n.c.", "nc")
_HEADER = re.compile(r"\s*([A-Za-z]+)\s*:(?!\|)(.*)")
_SECTION = re.compile(r"\s*\[([^\]]*)\]\s*$")
_BAR_LINE = re.compile(r"\|:|:\|(?:\s*x\s*(\d{1,2}))?|\|\|?")
_TOKEN = re.compile(r"\S+")
_CHORD_TOKEN = re.compile(r"[^\s/|]\S*\s+over\s+[^\s/|]\S*|\S+")
_TONE = re.compile(r"(r|[A-G](?:##|bb|#|b|x|)(-?\d)?)(?::(\d+(?:\.\d+|/\d+)?))?")


class ChartFault(NamedTuple):
    """A fault in a chart: `line` and `column` count from 1, `length` characters are at fault, `suggestion` replaces
    them (or "" where nothing near is known).
    """

    line: int
    column: int
    length: int
    message: str
    suggestion: str = ""

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.message}"


class ChartError(UserError):
    """A chart with faults; `faults` holds them all, the message shows the first."""

    def __init__(self, faults: tuple[ChartFault, ...], name: str = "") -> None:
        self.faults = faults
        more = f" (and {len(faults) - 1} more)" if len(faults) > 1 else ""
        super().__init__(f"{name + ': ' if name else ''}{faults[0]}{more}")


class ChartReading(NamedTuple):
    """What a chart text holds: the song of all that could be read, the faults, and where each written slot stands:
    (section, bar, slot) to (line, column, length).
    """

    song: Song
    faults: tuple[ChartFault, ...]
    places: dict[tuple[int, int, int], tuple[int, int, int]]


class _Piece(NamedTuple):
    """The text between two bar lines with its 0-based column, and the bar lines around it."""

    text: str
    column: int
    opens: bool
    repeats: int


def _pieces(line: str, start: int = 0) -> Iterator[_Piece]:
    at, opens, closed = start, False, False
    marks = list(_BAR_LINE.finditer(line, start))
    for mark in [*marks, None]:
        end = mark.start() if mark else len(line)
        closes = mark is not None and mark[0].startswith(":|")
        beside = closed or (mark is not None and mark[0] == "|:")  # between :| and |: there is no bar
        if line[at:end].strip() or (at > start and mark is not None and not beside):
            yield _Piece(line[at:end], at, opens, int(mark[1] or 2) if mark and closes else 0)
        if mark is None:
            return
        at, opens, closed = mark.end(), mark[0] == "|:", mark[0].startswith(":|")


class _Reader:
    """Reads a chart line by line, gathering faults instead of stopping at one."""

    def __init__(self, text: str) -> None:
        self.lines = text.split("\n")
        self.faults: list[ChartFault] = []
        self.song = Song()
        self.sections: list[tuple[str, list[Bar]]] = []
        self.places: dict[tuple[int, int, int], tuple[int, int, int]] = {}
        self.row: tuple[int, int] = (0, 0)  # the bars of the last chord line: [from, to) in the last section
        self.last_pitch = parse_pitch("G4")

    def fault(self, line: int, column: int, length: int, message: str, suggestion: str = "") -> None:
        self.faults.append(ChartFault(line + 1, column + 1, max(1, length), message, suggestion))

    def read(self) -> None:
        for number, line in enumerate(self.lines):
            text = line.rstrip("\r")
            if not text.strip():
                continue
            if section := _SECTION.match(text):
                self.sections.append((section[1].strip() or f"Part {len(self.sections) + 1}", []))
                self.row = (0, 0)
            elif (header := _HEADER.match(text)) and not text.lstrip().startswith("|"):
                self.header(number, header)
            else:
                self.chord_line(number, text)

    def header(self, number: int, match: re.Match[str]) -> None:
        word, value = match[1].lower(), match[2].strip()
        column = match.start(2) + len(match[2]) - len(match[2].lstrip())
        if word in LINES:
            self.aligned(number, word, match)
            return
        if word not in HEADERS:
            near = difflib.get_close_matches(word, (*HEADERS, *LINES), n=1, cutoff=0.4)
            known = ", ".join(f"{name}:" for name in (*HEADERS, *LINES))
            self.fault(number, match.start(1), len(word), f"{word[:20]!r} is not one of {known}", *near)
            return
        try:
            self.song = msgspec.structs.replace(self.song, **_header_value(word, value))
        except KeyNameError as error:
            self.fault(number, column, len(value), str(error))
        except UserError as error:
            self.fault(number, column, len(value), str(error))

    # --- chords ---
    def chord_line(self, number: int, line: str) -> None:
        if "|" not in line:
            start = len(line) - len(line.lstrip())
            fixed = "| " + line.strip() + " |"
            self.fault(number, start, len(line.strip()), "a chart line needs bar lines: put | around each bar", fixed)
            return
        if not self.sections:
            self.sections.append(("Song", []))
        bars = self.sections[-1][1]
        first = len(bars)
        for piece in _pieces(line):
            if sum(len(section[1]) for section in self.sections) >= MAX_BARS:
                self.fault(number, piece.column, 1, f"a song can hold {MAX_BARS} bars; split it into several songs")
                break
            bars.append(self.bar(number, piece, bars))
        self.row = (first, len(bars))

    def bar(self, number: int, piece: _Piece, before: list[Bar]) -> Bar:
        tokens = [(m[0], piece.column + m.start()) for m in _CHORD_TOKEN.finditer(piece.text)]
        section, index = len(self.sections) - 1, len(before)
        if [text for text, _ in tokens] == ["%"]:
            if not before:
                self.fault(number, tokens[0][1], 1, "% repeats the bar before, and there is none in this section")
                return Bar((), opens=piece.opens, repeats=piece.repeats)
            slots = tuple(msgspec.structs.replace(slot, cue="") for slot in before[-1].slots)
            for i in range(len(slots)):
                self.places[section, index, i] = (number + 1, tokens[0][1] + 1, 1)
            return Bar(slots, opens=piece.opens, repeats=piece.repeats, same=True)
        chords: list[tuple[str, int, int]] = []  # symbol, column, slashes after it
        for text, column in tokens:
            if text == "/" and chords:
                chords[-1] = (chords[-1][0], chords[-1][1], chords[-1][2] + 1)
            elif symbol := self.symbol(number, text, column):
                chords.append((symbol, column, 0))
        if not tokens:
            self.fault(number, piece.column, max(1, len(piece.text)), "an empty bar; write a chord, % or N.C.", "%")
        slots = self.share(number, piece, chords)
        for i, (symbol, column, _) in enumerate(chords):
            self.places[section, index, i] = (number + 1, column + 1, len(symbol))
        return Bar(slots, opens=piece.opens, repeats=piece.repeats)

    def symbol(self, number: int, text: str, column: int) -> str:
        if text in _NO_CHORD_WORDS:
            return NO_CHORD
        text = " ".join(text.split())
        try:
            parse_symbol(text, self.song.the_key)
        except ChordSymbolError as error:
            self.fault(number, column, len(text), str(error), error.suggestion)
            return ""
        return text

    def share(self, number: int, piece: _Piece, chords: list[tuple[str, int, int]]) -> tuple[Slot, ...]:
        if not chords:
            return ()
        beats, meter = Fraction(self.song.meter.beats), self.song.meter
        counts = [1 + slashes for _, _, slashes in chords]
        total = sum(counts)
        if total == len(chords) or total in (meter.beats, meter.upper):
            return tuple(Slot(s, beats * n / total) for (s, _, _), n in zip(chords, counts, strict=True))
        message = f"this bar counts {total} beats, {meter} has {meter.beats}; a chord takes one beat more for every /"
        self.fault(number, chords[0][1], len(piece.text.strip()), message)
        return tuple(Slot(s, beats * n / total) for (s, _, _), n in zip(chords, counts, strict=True))

    # --- tune and cue lines ---
    def aligned(self, number: int, word: str, match: re.Match[str]) -> None:
        first, last = self.row
        if first == last:
            self.fault(number, match.start(1), len(word), f"{word}: belongs under a chord line")
            return
        line, bars = match.string.rstrip("\r"), self.sections[-1][1]
        for index, (text, column) in enumerate(_cells(line, match.start(2))):
            if not text.strip():
                continue
            if first + index >= last:
                self.fault(number, column, len(text), f"{word}: has more bars than the chord line above it")
                return
            read: Callable[[int, str, int, Bar], Bar] = self.tune if word == "tune" else self.cue
            bars[first + index] = read(number, text, column, bars[first + index])

    def cue(self, number: int, text: str, column: int, bar: Bar) -> Bar:
        words = [part.strip() for part in text.split(" / ")]
        if len(words) > len(bar.slots) > 0:
            self.fault(number, column, len(text), "more cues than chords in this bar; ' / ' goes to the next chord")
        words += [""] * len(bar.slots)
        slots = tuple(msgspec.structs.replace(s, cue=w) for s, w in zip(bar.slots, words, strict=False))
        return msgspec.structs.replace(bar, slots=slots)

    def tune(self, number: int, text: str, column: int, bar: Bar) -> Bar:
        tones: list[Tone] = []
        tokens = list(_TOKEN.finditer(text))
        beats = Fraction(self.song.meter.beats)
        timed = any(":" in token[0] for token in tokens)
        for token in tokens:
            match = _TONE.fullmatch(token[0])
            length = _beats(match[3]) if match and match[3] else Fraction(1) if timed else beats / len(tokens)
            if match is None or length is None or length <= 0:
                message = f"{token[0][:20]!r} is not a tune note; write a note, its octave and its beats: E4:1.5, r:1"
                self.fault(number, column + token.start(), len(token[0]), message)
                return bar
            tones.append(Tone(self.pitch(match[1], match[2]), length))
        total = sum((tone.beats for tone in tones), Fraction(0))
        if total != beats:
            message = f"this bar of the tune lasts {_short(total)} beats, the bar has {_short(beats)}"
            self.fault(number, column, len(text), message)
        return msgspec.structs.replace(bar, tune=tuple(tones))

    def pitch(self, name: str, octave: str | None) -> str:
        if name == "r":
            return ""
        pitch = parse_pitch(name) if octave else _nearest(parse_note(name), self.last_pitch)
        self.last_pitch = pitch
        return str(pitch)


def _cells(line: str, start: int) -> Iterator[tuple[str, int]]:
    """(text, column) between bar lines of a tune or cue line; a leading bar line opens no cell."""
    at = start
    for mark in [*_BAR_LINE.finditer(line, start), None]:
        end = mark.start() if mark else len(line)
        if line[at:end].strip() or (mark is not None and line[start:at].strip()):
            yield line[at:end], at
        if mark is not None:
            at = mark.end()


def _header_value(word: str, value: str) -> dict[str, object]:
    if word == "title":
        return {"title": value[:200] or "Untitled"}
    if word == "key":
        return {"key": str(parse_key(value))}
    if word == "meter":
        return {"meter": parse_meter(value)}
    if not value.isdecimal() or not _TEMPO[0] <= int(value[:6]) <= _TEMPO[1]:
        raise UserError(f"{value[:12]!r} is not a tempo; write beats per minute, {_TEMPO[0]} to {_TEMPO[1]}")
    return {"tempo": int(value)}


def _beats(text: str) -> Fraction | None:
    try:
        return Fraction(text)
    except ZeroDivisionError:
        return None


def _nearest(note: Note, last: Pitch) -> Pitch:
    """The pitch of `note` nearest by letter to the last one, so that a tune may leave out octaves."""
    steps = (note.letter - last.note.letter + 3) % 7 - 3
    return Pitch(note, last.octave + (last.note.letter + steps) // 7)


def _short(number: Fraction) -> str:
    return str(number) if number.denominator not in (2, 4, 5, 10) else f"{float(number):g}"


def read_chart(text: str) -> ChartReading:
    """Read a whole chart. Never raises: what is at fault is left out and listed."""
    if len(text) > MAX_CHARS:
        fault = ChartFault(1, 1, 1, f"the text is longer than {MAX_CHARS} characters; this is no chart")
        return ChartReading(Song(), (fault,), {})
    reader = _Reader(text.replace("\r\n", "\n").replace("\t", " "))
    reader.read()
    sections = tuple(Section(name, tuple(bars)) for name, bars in reader.sections if bars)
    song = msgspec.structs.replace(reader.song, sections=sections)
    if not sections and not reader.faults:
        reader.fault(0, 0, 1, "there are no bars yet; write chords between |, for example | C | Am7 | F | G7 |")
    return ChartReading(song, tuple(reader.faults), reader.places)


def parse_chart(text: str, name: str = "") -> Song:
    """Read a chart that must be whole. Raises ChartError with every fault."""
    reading = read_chart(text)
    if reading.faults:
        raise ChartError(reading.faults, name)
    return reading.song


# --- writing -----------------------------------------------------------------------------------------------------

_BARS_A_LINE = 4


def _bar_words(bar: Bar, meter: Meter) -> str:
    if bar.same:
        return "%"
    each = Fraction(meter.beats, max(1, len(bar.slots)))
    if all(slot.beats == each for slot in bar.slots):
        return " ".join(slot.symbol for slot in bar.slots)
    unit = Fraction(1) if all(slot.beats.denominator == 1 for slot in bar.slots) else Fraction(meter.beats, meter.upper)
    return " ".join(slot.symbol + " /" * (int(slot.beats / unit) - 1) for slot in bar.slots)


def _tune_words(bar: Bar) -> str:
    return " ".join(f"{tone.pitch or 'r'}:{_short(tone.beats)}" for tone in bar.tune)


def _cue_words(bar: Bar) -> str:
    return re.sub(r"( / )+$", "", " / ".join(slot.cue for slot in bar.slots)).rstrip(" /")


def _columns(rows: list[tuple[str, list[str]]]) -> list[str]:
    """Lines whose bar lines stand under each other."""
    widths = [max(len(row[1][i]) for row in rows) for i in range(len(rows[0][1]))]
    head = max(len(row[0]) for row in rows)
    return [
        (name.ljust(head) + "| " + " | ".join(c.ljust(w) for c, w in zip(cells, widths, strict=True)) + " |").rstrip()
        for name, cells in rows
    ]


def _row(bars: tuple[Bar, ...], meter: Meter) -> list[str]:
    rows = [("", [_bar_words(bar, meter) for bar in bars])]
    if any(bar.tune for bar in bars):
        rows.append(("tune: ", [_tune_words(bar) for bar in bars]))
    if any(slot.cue for bar in bars for slot in bar.slots):
        rows.append(("cue: ", [_cue_words(bar) for bar in bars]))
    lines = _columns(rows)
    if any(bar.opens or bar.repeats for bar in bars):
        opened = "|:" if bars[0].opens else "|"
        words = [opened]
        for i, (bar, cell) in enumerate(zip(bars, rows[0][1], strict=True)):
            closing = f":|x{bar.repeats}" if bar.repeats > 2 else ":|" if bar.repeats else "|"
            nxt = "|:" if i + 1 < len(bars) and bars[i + 1].opens else ""
            words += [cell, f"{closing} {nxt}".strip() if closing != "|" else nxt or "|"]
        lines[0] = " ".join(words)
    return lines


def write_chart(song: Song) -> str:
    """The song as chart text; reading it gives the same song."""
    lines = [f"title: {song.title}", f"key: {song.key}", f"meter: {song.meter}", f"tempo: {song.tempo}"]
    for section in song.sections:
        lines += ["", f"[{section.name}]"]
        for at in range(0, len(section.bars), _BARS_A_LINE):
            lines += _row(section.bars[at : at + _BARS_A_LINE], song.meter)
    return "\n".join(lines) + "\n"
