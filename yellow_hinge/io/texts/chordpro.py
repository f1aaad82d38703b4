"""Reading ChordPro: chords in brackets over words, grids, directives in braces."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, key_on, parse_key
from yellow_hinge.core.song.road import signs_in
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Song, parse_meter
from yellow_hinge.core.song.transpose import symbol_moved
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, Offer, in_section, with_found_key
from yellow_hinge.io.texts.chordpro_bars import BarWriter
from yellow_hinge.io.texts.chordpro_grid import GridReader
from yellow_hinge.io.texts.names import Names, names_of
from yellow_hinge.io.texts.over_words import is_section_name

_WORD = re.compile(r"[A-Za-z_+-]+")
_CHORD = re.compile(r"\[([^\[\]]{0,80})\]")  # bounded: a line of open brackets must not take its square in time
_SHORT = {"sov": "verse", "soc": "chorus", "sob": "bridge", "sot": "tab", "sog": "grid", "sop": "prechorus"}
_ENDS = {"eov": "verse", "eoc": "chorus", "eob": "bridge", "eot": "tab", "eog": "grid", "eop": "prechorus"}
_FOREIGN = ("tab", "abc", "ly", "svg", "textblock", "musicxml", "jpeg", "png")  # what cannot be read as chords
_TITLES = ("title", "t")
_COMMENTS = ("comment", "c", "comment_italic", "ci", "comment_box", "cb", "highlight")
_LABEL = re.compile(r"""label\s*=\s*(?:"([^"]*)"|'([^']*)')""")
_OPTION = re.compile(r"""\w+\s*=\s*(?:"[^"]*"|'[^']*')""")
_SIGNS = re.compile(r"bar (\d{1,4}): (.+)")
NEW_SONG = ("new_song", "ns")
MAX_CHORDS = 4000


def looks_like_chordpro(text: str) -> bool:
    """Whether a text has a directive in braces, or most of its brackets hold chords in letters, one at least beside
    words; a bracket alone on a line is a heading.
    """
    head = [line for line in text[:100_000].splitlines()[:200] if line.strip()]
    return any(_directive(line) for line in head) or _in_brackets(head)


def _in_brackets(head: list[str]) -> bool:
    """Whether most brackets of some lines hold chords, one at least beside words."""
    if not any(_CHORD.search(line) and _CHORD.sub("", line).strip(" |") for line in head):
        return False
    marks = [mark[1] for line in head for mark in _CHORD.finditer(line) if mark[0] != line.strip()]
    names = names_of(marks)
    return 2 * sum(bool(mark.strip() and names.read(mark)) for mark in marks) > len(marks)


def _directive(line: str) -> tuple[str, str] | None:
    """(word, value) of a line such as "{title: A Song}", None for any other line."""
    line = line.strip()
    inside = line[1:-1].strip() if line[:1] == "{" and line[-1:] == "}" else ""
    word = _WORD.match(inside)
    if word is None or inside[word.end() :][:1] not in ("", ":", " ", "\t"):
        return None
    return word[0].lower(), inside[word.end() :].strip().removeprefix(":").strip()


class _Stretch:
    """The bars of one section while they are read."""

    def __init__(self, name: str, key: str = "") -> None:
        self.name, self.key = name, key
        self.bars: list[Bar] = []


class _Reader:
    """Goes through the lines of one song."""

    def __init__(self, names: Names) -> None:
        self.names = names
        self.title, self.tempo = "", 0
        self.first_meter: Meter | None = None  # that is said
        self.begins_in: Meter | None = None  # what is said of the first bar
        self.written: Key | None = None  # the key that chords are written in
        self.shift = 0
        self.shifts: list[int] = []
        self.meter = Meter()
        self.extra: list[tuple[str, str]] = []
        self.report: list[str] = []
        self.sections: list[_Stretch] = []
        self.block = ""  # what is skipped up to its end
        self.grid: GridReader | None = None
        self.heading = ""
        self.number = 0
        self.guessed = self.timed = False
        self.bars = BarWriter(self._symbol, self._say)

    # --- lines ---

    def line(self, number: int, line: str) -> None:
        self.number = number
        directive = _directive(line)
        if self.block:
            if directive and self._ends(directive[0]) == self.block:
                self.block = ""
            return
        if directive:
            self._directive(*directive)
        elif self.grid is not None:
            self.grid.line(line)
        elif (alone := _CHORD.fullmatch(line.strip())) and not (self.names.read(alone[1]) or not alone[1].strip()):
            if not alone[1].strip().startswith("*"):
                self._section(alone[1].strip())
        elif line.strip() and not line.lstrip().startswith("#"):
            self._words(line.rstrip())

    @staticmethod
    def _ends(word: str) -> str:
        return _ENDS.get(word, word.removeprefix("end_of_") if word.startswith("end_of_") else "")

    def _say(self, words: str) -> None:
        self.report.append(f"line {self.number}{words}")

    # --- directives ---

    def _directive(self, word: str, value: str) -> None:
        begins = _SHORT.get(word, word.removeprefix("start_of_") if word.startswith("start_of_") else "")
        if begins:
            self._begin(begins, word, value)
        elif self._ends(word):
            self._end(self._ends(word))
        elif word in _TITLES:
            self.title = value[:200] or "Untitled"
        elif word == "chorus":
            self._recall(_label(value))
        elif word in _COMMENTS and (is_section_name(value) or _SIGNS.fullmatch(value)):
            self._comment(value)
        elif word in ("key", "time", "tempo", "transpose"):
            self._known(word, value)
        else:
            self.extra.append((word, value))
            self._say(f": {{{word}}} is kept and written back, but not used")

    def _begin(self, kind: str, word: str, value: str) -> None:
        if kind in _FOREIGN:
            self.block = kind
            self._say(f": a {word} block was left out")
        elif kind == "grid":
            label = _label(value)
            if label or not self.sections or (self.sections[-1].bars and not self.heading):
                self._section(label or "Grid")
            self.grid = GridReader(self.meter, self._symbol)
            self.timed = True
        else:
            self._section(_label(value) or kind.replace("_", " ").title().replace("Prechorus", "Pre-chorus"))

    def _end(self, kind: str) -> None:
        if kind == "grid" and self.grid is not None:
            self.first_meter = self.first_meter or self.meter
            self.begins_in = self.begins_in or self.meter
            self.bars.put(self.grid.bars, self._here().bars, self.first_meter, self.meter)
            self.grid = None

    def _comment(self, value: str) -> None:
        signs = _SIGNS.fullmatch(value)
        if signs is None:
            self._section(value.strip(" :[]()"))
            return
        bars, place = self._here().bars, int(signs[1]) - 1
        found = tuple(signs_in(signs[2])[0])
        if place < len(bars) and found:
            bars[place] = replace(bars[place], signs=found)

    def _recall(self, label: str) -> None:
        """The chorus again: as a section of its name, or with a label of its own."""
        chorus = next((s for s in reversed(self.sections) if s.bars and s.name.lower().startswith("chorus")), None)
        self._section(label or (chorus.name if chorus is not None else "Chorus"))
        if chorus is not None and self.sections[-1].name != chorus.name:
            self.sections[-1].bars = list(chorus.bars)

    def _known(self, word: str, value: str) -> None:
        try:
            if word == "key":
                self.written = parse_key(self.names.ours(value))
                self._new_key()
            elif word == "transpose":
                self._transpose(value)
            elif word == "time":
                self.meter = parse_meter({"C": "4/4", "C|": "2/2"}.get(value, value))
                self.first_meter = self.first_meter or self.meter
            elif TEMPOS[0] <= int(value) <= TEMPOS[1]:
                if self.tempo and int(value) != self.tempo:
                    self._say(": the tempo changes; only the first one is used")
                self.tempo = self.tempo or int(value)
            else:
                raise ValueError
        except (UserError, ValueError):
            self.extra.append((word, value))
            self._say(f": {{{word}: {value[:30]}}} is not understood; it is kept but not used")

    def _transpose(self, value: str) -> None:
        """Semitones that chords from here on sound higher; without a value as before the last one."""
        if value:
            self.shifts.append(self.shift)
            self.shift = int(value)
            if abs(self.shift) > 24:
                raise ValueError
        else:
            self.shift = self.shifts.pop() if self.shifts else 0
        self._say(f": the chords from here on were moved by {self.shift} semitones")
        self._new_key()

    @property
    def key(self) -> Key | None:
        """The key that is heard."""
        if self.written is None or not self.shift:
            return self.written
        return key_on(self.written.tonic.pc + self.shift, self.written.mode)

    def _new_key(self) -> None:
        """A key that holds from here on: of the section that begins, or of the rest of one."""
        if self.sections and self.sections[-1].bars:
            self._section(self.sections[-1].name + "+")
            self.heading = self.sections[-1].name  # gives way to a name that follows
        elif self.sections:
            self.sections[-1].key = str(self.key) if self.key is not None else ""

    def end(self) -> None:
        """The song is over, and with it a grid that nobody closed."""
        if self.grid is not None:
            self._end("grid")

    @property
    def first_key(self) -> str:
        """The key that is said first."""
        return next((stretch.key for stretch in self.sections if stretch.key), "")

    def said_of_bars(self) -> list[str]:
        """What has to be said of the bars."""
        if not self.guessed:
            return []
        some = "where no bar lines stand, every chord was given a bar"
        return [some if self.timed else "ChordPro says nothing about time: every chord was given a bar"]

    # --- sections and bars ---

    def _section(self, name: str) -> None:
        self.bars.ending = 0  # no ending goes on into another section
        key = str(self.key) if self.key is not None else ""
        if self.heading and self.sections and not self.sections[-1].bars:
            self.sections[-1] = _Stretch(name, key)
        else:
            self.sections.append(_Stretch(name, key))
        self.heading = ""

    def _here(self) -> _Stretch:
        if not self.sections:
            self._section("Song")
        return self.sections[-1]

    def _words(self, line: str) -> None:
        found = self.bars.line(line, self._here().bars, self.meter, self.first_meter)
        self.first_meter = self.first_meter or (self.meter if found else None)
        self.begins_in = self.begins_in or (self.meter if found else None)
        self.guessed = self.guessed or found == "guessed"
        self.timed = self.timed or found == "timed"

    def _symbol(self, word: str) -> str:
        """A word in brackets as a chord at the pitch that is heard, "" where it is none."""
        found = self.names.read(word, numbers=self.written is not None)
        if not found or found == NO_CHORD or not self.shift:
            return found
        old = self.written or parse_key("C")
        return symbol_moved(found, old, key_on(old.tonic.pc + self.shift, old.mode))


def _label(value: str) -> str:
    """The label of a section: quoted after label=, or what stands there without options."""
    found = _LABEL.search(value)
    if found:
        return (found[1] or found[2] or "").strip()
    return _OPTION.sub("", value).strip().strip('"')


class ProSong(NamedTuple):
    """One song of a file, and what has to be said of it."""

    song: Song
    report: tuple[str, ...]


def _song(lines: list[tuple[int, str]], names: Names) -> ProSong | None:
    reader = _Reader(names)
    for number, line in lines:
        reader.line(number, line)
    reader.end()
    if not any(stretch.bars for stretch in reader.sections):
        return None
    first = reader.first_key
    sections = tuple(in_section(s.name, s.bars, s.key if s.key != first else "") for s in reader.sections)
    song = Song(reader.title or "Untitled", first or "C major", reader.first_meter or Meter(), reader.tempo or 90)
    song = replace(song, sections=sections, extra=tuple(reader.extra))
    report = [*reader.said_of_bars(), *names.said, *reader.report]
    if not first:
        song, found = with_found_key(song)
        report += found
    upbeat = reader.begins_in in (None, song.meter)  # a first bar that is said to be in another meter is whole
    return ProSong(_with_pickup(song) if upbeat else song, tuple(report))


def _with_pickup(song: Song) -> Song:
    """A short first bar as the song's pickup."""
    bars = song.sections[0].bars
    first = bars[0] if bars else None
    if first is None or first.meter is None or len(bars) < 2:
        return song
    beats = (
        sum((slot.beats for slot in first.slots), Fraction(0)) * first.meter.beat_quarters / song.meter.beat_quarters
    )
    if beats >= song.meter.beats:
        return song
    by = first.meter.beat_quarters / song.meter.beat_quarters
    slots = tuple(replace(slot, beats=slot.beats * by) for slot in first.slots)
    section = replace(song.sections[0], bars=(replace(first, slots=slots, meter=None), *bars[1:]))
    made: Song = replace(song, pickup=beats, sections=(section, *song.sections[1:]))
    return made


def songs_of(text: str) -> list[ProSong]:
    """The songs of a text, those with chords."""
    words = [mark for line in text.splitlines() for mark in _CHORD.findall(line)]
    names = names_of(words[:MAX_CHORDS])
    rows: list[list[tuple[int, str]]] = [[]]
    for number, line in enumerate(text.splitlines(), 1):
        directive = _directive(line)
        if directive and directive[0] in NEW_SONG:
            rows.append([])
        else:
            rows[-1].append((number, line))
    return [song for song in (_song(row, names) for row in rows if row) if song is not None]


def read_chordpro(text: str, name: str, which: int = 0) -> Imported:
    """Read ChordPro: of several songs the one that is asked for (from 0). Raises FileFault."""
    if len(_CHORD.findall(text)) > MAX_CHORDS:
        raise FileFault(name, f"holds more than {MAX_CHORDS} chords; this is no song")
    found = songs_of(text)
    if not found:
        raise FileFault(name, "has no chords in [brackets]")
    which = which if 0 <= which < len(found) else 0
    song, report = found[which]
    titles = tuple((str(n), other.song.title) for n, other in enumerate(found))
    offers = (Offer("song", "Song", titles, str(which)),) if len(found) > 1 else ()
    if len(found) > 1:
        others = ", ".join(repr(other.song.title) for n, other in enumerate(found) if n != which)
        report = (f"the file holds {len(found)} songs; {song.title!r} was opened, and not {others}", *report)
    return Imported(song, report, offers=offers)
