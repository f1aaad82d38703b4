"""The plain chart text: reading it into a Song with every fault named by line and column, and writing it.

Grammar, one thing a line: `title: key: meter: tempo:` headers, `[Section]`, chord lines with bars between `|`, and
under a chord line `tune:` and `cue:` aligned with it by bar lines. assets/help/chart-text.md shows it to players.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from fractions import Fraction
from itertools import islice
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chart.bar_lines import Endings, LinePart, cells, cue_parts, number_row, plain_bars, played_line
from yellow_hinge.core.chart.bar_read import APART, CHORD_TOKEN, KNOWN, NO_CHORD_WORDS, BarRead, remember
from yellow_hinge.core.chart.counting import TONE, BarChord, chord_lengths, nearest_pitch, tone_beats
from yellow_hinge.core.chart.faults import ChartError, ChartFault
from yellow_hinge.core.chart.headers import ALSO_CALLED, HEADERS, LINES, beats_of, german_names, header_value
from yellow_hinge.core.errors import ChordSymbolError, UserError
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import parse_note, parse_pitch
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.guessing import guessed_key
from yellow_hinge.core.song.road import AT_BEGIN, check_signs, signs_in
from yellow_hinge.core.song.song import (
    NO_CHORD,
    Address,
    Bar,
    Meter,
    Section,
    Slot,
    Song,
    Tone,
    parse_meter,
    short_beats,
)
from yellow_hinge.core.song.timeline import check_length
from yellow_hinge.core.song.words import plain, unescaped
from yellow_hinge.core.symbols.german import from_german
from yellow_hinge.core.symbols.keyfinding import KeyGuess
from yellow_hinge.core.symbols.symbol import parse_symbol, straight

NO_BARS = "there are no bars yet; write chords between |, for example | C | Am7 | F | G7 |"
MAX_CHARS, MAX_BARS, MAX_TOKENS = 400_000, 4000, 128  # of a text, of a song, in a bar
_HEADER = re.compile(r"\s*([A-Za-z]+)\s*:(?!\|)(.*)")
_SECTION = re.compile(r"\s*\[((?:\\.|[^\\\]])*)\]\s*$")
_BAR_METER = re.compile(r"\s*\(\s*(\d{1,2}\s*/\s*\d{1,2})\s*\)")
_TIMED = re.compile(r"(.+?):(\d+(?:\.\d+|/\d+)?)")
_TOKEN = re.compile(r"\S+")


class ChartReading(NamedTuple):
    """What a chart text holds: the song of all that could be read, with ids in order; the faults; where every written
    slot stands as (section, bar, slot) to (line, column, length); and the key that was found where none was written.
    """

    song: Song
    faults: tuple[ChartFault, ...]
    places: dict[Address, Address]
    guess: KeyGuess | None = None


class _Reader:
    """Reads a chart line by line, gathering faults instead of stopping at one."""

    def __init__(self, text: str) -> None:
        self.lines = text.split("\n")
        self.faults: list[ChartFault] = []
        self.song = Song()
        self.sections: list[tuple[str, list[Bar]]] = []
        self.own: dict[int, dict[str, object]] = {}  # what sections set for themselves
        self.endings = Endings()
        self.keyed, self.german = False, False
        self.in_force: tuple[bool, Key, Meter] | None = None  # names, key and meter in force, until one changes
        self.places: dict[Address, Address] = {}
        self.waiting: tuple[str, ...] = ()  # signs for the next bar
        self.row: tuple[int, int] = (0, 0)  # the bars of the last chord line: [from, to) in the last section
        self.last_pitch = parse_pitch("G4")

    def fault(self, line: int, column: int, length: int, message: str, suggestion: str = "") -> None:
        self.faults.append(ChartFault(line + 1, column + 1, max(1, length), message, suggestion))

    def read(self) -> None:
        for number, line in enumerate(self.lines):
            text = line.rstrip("\r")
            if not text.strip() or self.plain_line(number, text):
                continue
            if section := _SECTION.match(text):
                self.sections.append((plain(unescaped(section[1])) or f"Part {len(self.sections) + 1}", []))
                self.row, self.endings, self.in_force = (0, 0), Endings(), None
            elif (header := _HEADER.match(text)) and not text.lstrip().startswith("|"):
                self.header(number, header)
            elif not self.sign_line(text):
                self.chord_line(number, text)

    def built(self) -> tuple[Section, ...]:
        """The sections; one without bars plays an earlier one of its name again, or is a heading alone."""
        return tuple(
            Section(name, tuple(bars), **self.own.get(index, {}))  # type: ignore[arg-type]
            for index, (name, bars) in enumerate(self.sections)
        )

    def header(self, number: int, match: re.Match[str]) -> None:
        word, value = match[1].lower(), match[2].strip()
        word = ALSO_CALLED.get(word, word)
        column = match.start(2) + len(match[2]) - len(match[2].lstrip())
        if word in LINES:
            self.aligned(number, word, match)
            return
        if word not in HEADERS:
            near = nearest(word, (*HEADERS, *LINES))
            known = ", ".join(f"{name}:" for name in (*HEADERS, *LINES))
            self.fault(number, match.start(1), len(word), f"{word[:20]!r} is not one of {known}", near)
            return
        try:
            self.set_header(number, column, word, value)
        except UserError as error:
            self.fault(number, column, len(value), str(error))

    def set_header(self, number: int, column: int, word: str, value: str) -> None:
        self.in_force = None
        if word == "names":
            self.german = german_names(value)
            return
        fields = header_value(word, value, self.song)
        if self.sections and word in ("key", "meter", "swing"):
            if self.sections[-1][1]:
                self.fault(number, column, len(value), f"{word}: stands right under the [section] that it is for")
                return
            self.own.setdefault(len(self.sections) - 1, {}).update(fields)
            return
        self.keyed = self.keyed or word == "key"
        self.song = msgspec.structs.replace(self.song, **fields)

    @property
    def key(self) -> Key:
        """The key in force."""
        own = self.own.get(len(self.sections) - 1, {}).get("key")
        return parse_key(str(own)) if own else self.song.the_key

    def meter(self, own: Meter | None) -> Meter:
        """The meter in force in a bar with `own`."""
        section = self.own.get(len(self.sections) - 1, {}).get("meter")
        return own or (section if isinstance(section, Meter) else self.song.meter)

    # --- chords ---
    def plain_line(self, number: int, line: str) -> bool:
        """Whether a line is one of plain bars, which are read: nothing that stands before it concerns them."""
        parts = plain_bars(line) if self.sections and not (self.waiting or self.endings.now) else ()
        if not parts or sum(len(bars) for _, bars in self.sections) + len(parts) > MAX_BARS:
            return False
        bars = self.sections[-1][1]
        self.row = (len(bars), len(bars) + len(parts))
        for part in parts:
            bars.append(self.bar(number, part, bars))
        return True

    def chord_line(self, number: int, line: str) -> None:
        row = number_row(line)
        line = row or line
        if "|" not in line:
            start = len(line) - len(line.lstrip())
            fixed = "| " + line.strip() + " |"
            self.fault(number, start, len(line.strip()), "a chart line needs bar lines: put | around each bar", fixed)
            return
        if not self.sections:
            self.sections.append(("Song", []))
        bars = self.sections[-1][1]
        first = len(bars)
        line, times = played_line(line)
        for piece in self.endings.pieces(line):
            signs, text = signs_in(piece.text)
            if signs and not text.strip():
                self.stand(signs)
                continue
            if sum(len(section[1]) for section in self.sections) >= MAX_BARS:
                self.fault(number, piece.column, 1, f"a song can hold {MAX_BARS} bars; split it into several songs")
                break
            bars.append(self.bar(number, piece._replace(text=text, column=piece.column - bool(row)), bars))
            self.stand((*self.waiting, *signs))
        if times > 1 and len(bars) > first:
            self.repeat_line(number, line, bars, first, times)
        self.row = (first, len(bars))

    def stand(self, signs: Sequence[str]) -> None:
        """Let signs stand at the last bar; those that stand before one wait for it where there is none."""
        last = next((bars for _, bars in reversed(self.sections) if bars), None)
        self.waiting = () if last else tuple(signs)
        if last and signs:
            last[-1] = msgspec.structs.replace(last[-1], signs=tuple(dict.fromkeys((*last[-1].signs, *signs))))

    def sign_line(self, line: str) -> bool:
        """Whether a line holds signs alone; those that stand before a bar wait for the next one."""
        signs, rest = signs_in(line)
        if not signs or rest.strip(" |-"):
            return False
        before = tuple(sign for sign in signs if sign in AT_BEGIN)
        self.stand([sign for sign in signs if sign not in before])
        self.waiting += before
        return True

    def repeat_line(self, number: int, line: str, bars: list[Bar], first: int, times: int) -> None:
        """Play the bars of a line, the last ones of their section, so many times."""
        if any(bar.opens or bar.repeats or bar.ending for bar in bars[first:]):
            message = "this line has repeat signs of its own; write how often with them, as :|x3"
            self.fault(number, len(line), 1, message)
            return
        bars[first] = msgspec.structs.replace(bars[first], opens=True)
        bars[-1] = msgspec.structs.replace(bars[-1], repeats=times)

    def bar(self, number: int, piece: LinePart, before: list[Bar]) -> Bar:
        section, index = len(self.sections) - 1, len(before)
        first = section == 0 and index == 0
        self.in_force = self.in_force or (self.german, self.key, self.meter(None))
        asked = (piece.text, self.in_force, self.song.pickup if first else None)
        known = KNOWN.get(asked)
        if known is None:
            faults = len(self.faults)
            known = self.bar_read(number, piece, first)
            if len(self.faults) == faults and not known.again:
                remember(asked, known)
        bar = Bar(known.slots, opens=piece.opens, repeats=piece.repeats, ending=piece.ending, meter=known.meter)
        if known.again:
            return self.same(number, piece.column + known.spans[0][0], before, bar)
        for i, (column, length) in enumerate(known.spans):
            self.places[section, index, i] = (number + 1, piece.column + column + 1, length)
        return bar

    def bar_read(self, number: int, piece: LinePart, first: bool) -> BarRead:
        """What stands between two bar lines."""
        own, text, offset = self.bar_meter(number, piece)
        tokens = [(m[0], offset + m.start()) for m in islice(CHORD_TOKEN.finditer(text), MAX_TOKENS + 1)]
        if [word for word, _ in tokens] == ["%"]:
            return BarRead(own, (), ((tokens[0][1] - piece.column, 1),), again=True)
        chords = self.chords(number, tokens)
        if len(tokens) > MAX_TOKENS:
            self.fault(number, piece.column, len(text), f"a bar can hold {MAX_TOKENS} chords and slashes")
        if not tokens:
            self.fault(number, piece.column, max(1, len(piece.text)), "an empty bar; write a chord, % or N.C.", "%")
        slots = self.share(number, piece, chords, self.bar_beats(own, first), own)
        return BarRead(own, slots, tuple((chord.column - piece.column, chord.length) for chord in chords))

    def bar_meter(self, number: int, piece: LinePart) -> tuple[Meter | None, str, int]:
        """A bar's own meter, written in brackets at its begin, and the text after it with its column."""
        match = _BAR_METER.match(piece.text)
        if not match:
            return None, piece.text, piece.column
        try:
            own = parse_meter(match[1].replace(" ", ""))
        except UserError as error:
            self.fault(number, piece.column + match.start(1), len(match[1]), str(error))
            own = None
        return own, piece.text[match.end() :], piece.column + match.end()

    def bar_beats(self, own: Meter | None, first: bool) -> Fraction:
        """Beats of a bar: those of its meter, or of the pickup in the song's first."""
        return self.song.pickup if first and self.song.pickup else Fraction(self.meter(own).beats)

    def chord(self, number: int, text: str, column: int) -> BarChord | None:
        """A chord with its beats, if it can be read."""
        timed = _TIMED.fullmatch(text)
        symbol = self.symbol(number, timed[1] if timed else text, column)
        beats = beats_of(timed[2]) if timed else None
        if timed and not beats:
            self.fault(number, column + len(timed[1]) + 1, len(timed[2]), "beats are more than none")
        length = len(timed[1] if timed else text)
        return BarChord(symbol, column, length, 0, beats or None) if symbol else None

    def symbol(self, number: int, text: str, column: int) -> str:
        if text in NO_CHORD_WORDS:
            return NO_CHORD
        length, text = len(text), APART.sub(r"\1", " ".join(text.split()))
        text = from_german(text) if self.german else text
        try:
            parse_symbol(text, self.key)
        except ChordSymbolError as error:
            self.fault(number, column, length, error.placed, error.suggestion)
            return ""
        return straight(text)

    def same(self, number: int, column: int, before: list[Bar], bar: Bar) -> Bar:
        """The chords of the bar before once more, for %."""
        if not before:
            self.fault(number, column, 1, "% repeats the bar before, and there is none in this section")
            return bar
        slots = tuple(msgspec.structs.replace(slot, cue="") for slot in before[-1].slots)
        for i in range(len(slots)):
            self.places[len(self.sections) - 1, len(before), i] = (number + 1, column + 1, 1)
        return msgspec.structs.replace(bar, slots=slots, same=True)

    def chords(self, number: int, tokens: list[tuple[str, int]]) -> list[BarChord]:
        found: list[BarChord] = []
        for word, column in tokens:
            if word == "/" and found:
                found[-1] = found[-1]._replace(slashes=found[-1].slashes + 1)
            elif chord := self.chord(number, word, column):
                found.append(chord)
        return found

    def share(
        self, number: int, piece: LinePart, chords: list[BarChord], beats: Fraction, own: Meter | None
    ) -> tuple[Slot, ...]:
        if not chords:
            return ()
        meter = self.meter(own)
        lengths, counted, fits = chord_lengths(chords, beats, meter)
        if not fits:
            message = f"this bar counts {short_beats(counted)} beats, it has {short_beats(beats)} in {meter}; "
            message += "a chord takes one beat more for every /"
            self.fault(number, chords[0].column, len(piece.text.strip()), message)
            lengths = [beats * length / sum(lengths) for length in lengths]
        return tuple(Slot(chord.symbol, length) for chord, length in zip(chords, lengths, strict=True))

    # --- tune and cue lines ---
    def aligned(self, number: int, word: str, match: re.Match[str]) -> None:
        first, last = self.row
        if first == last:
            self.fault(number, match.start(1), len(word), f"{word}: belongs under a chord line")
            return
        line, bars = match.string.rstrip("\r"), self.sections[-1][1]
        for index, (text, column) in enumerate(cells(line, match.start(2))):
            if not text.strip():
                continue
            if first + index >= last:
                self.fault(number, column, len(text), f"{word}: has more bars than the chord line above it")
                return
            read: Callable[[int, str, int, Bar], Bar] = self.tune if word == "tune" else self.cue
            bars[first + index] = read(number, text, column, bars[first + index])

    def cue(self, number: int, text: str, column: int, bar: Bar) -> Bar:
        words = [plain(unescaped(part)) for part in cue_parts(text)]
        if len(words) > len(bar.slots) > 0:
            self.fault(number, column, len(text), "more cues than chords in this bar; ' / ' goes to the next chord")
        words += [""] * len(bar.slots)
        slots = tuple(msgspec.structs.replace(s, cue=w) for s, w in zip(bar.slots, words, strict=False))
        return msgspec.structs.replace(bar, slots=slots)

    def tune(self, number: int, text: str, column: int, bar: Bar) -> Bar:
        tones: list[Tone] = []
        tokens = list(_TOKEN.finditer(text))
        beats = sum((slot.beats for slot in bar.slots), Fraction(0)) or Fraction(self.meter(bar.meter).beats)
        timed = any(":" in token[0] for token in tokens)
        for token in tokens:
            match = TONE.fullmatch(token[0])
            length = tone_beats(match, Fraction(1) if timed else beats / len(tokens))
            if match is None or length is None:
                message = f"{token[0][:20]!r} is not a tune note; write a note, its octave and its beats: E4:1.5, r:1"
                self.fault(number, column + token.start(), len(token[0]), message)
                return bar
            tones.append(Tone(self.pitch(match[1], match[2]), length, bool(match[4]) and match[1] != "r"))
        total = sum((tone.beats for tone in tones), Fraction(0))
        if total != beats:
            message = f"this bar of the tune lasts {short_beats(total)} beats, the bar has {short_beats(beats)}"
            self.fault(number, column, len(text), message)
        return msgspec.structs.replace(bar, tune=tuple(tones))

    def pitch(self, name: str, octave: str | None) -> str:
        if name == "r":
            return ""
        pitch = parse_pitch(name) if octave else nearest_pitch(parse_note(name), self.last_pitch)
        self.last_pitch = pitch
        return str(pitch)


def read_chart(text: str) -> ChartReading:
    """Read a whole chart. Never raises: what is at fault is left out and listed."""
    if len(text) > MAX_CHARS:
        fault = ChartFault(1, 1, 1, f"the text is longer than {MAX_CHARS} characters; this is no chart")
        return ChartReading(Song(), (fault,), {})
    reader = _Reader(text.replace("\r\n", "\n").replace("\t", " "))
    reader.read()
    song = msgspec.structs.replace(reader.song, sections=reader.built())
    if not any(section.bars for section in song.sections) and not reader.faults:
        reader.faults.append(ChartFault(1, 1, 1, NO_BARS, missing=True))
    try:
        check_signs(song)
    except UserError as error:
        jumps = [n for n, line in enumerate(reader.lines) if signs_in(line)[0]]
        reader.fault(jumps[-1] if jumps else 0, 0, 1, str(error))
    try:
        check_length(song)
    except UserError as error:
        reader.fault(0, 0, 1, str(error))
        song = msgspec.structs.replace(song, sections=())
    guess = None if reader.keyed else guessed_key(song)
    if guess is not None:
        song = msgspec.structs.replace(song, key=str(guess.key))
    return ChartReading(numbered(song), tuple(reader.faults), reader.places, guess)


def parse_chart(text: str, name: str = "") -> Song:
    """Read a chart that must be whole. Raises ChartError with every fault."""
    reading = read_chart(text)
    if reading.faults:
        raise ChartError(reading.faults, name)
    return reading.song
