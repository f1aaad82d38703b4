"""Chords above words, as players share songs: read into a song whose bars are guessed, and said to be."""

from __future__ import annotations

import re
from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import ChordSymbolError, UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Section, Slot, Song
from yellow_hinge.core.song.words import LONGEST_NAME, LONGEST_TITLE, plain
from yellow_hinge.core.symbols.symbol import parse_symbol, straight
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, with_found_key

MAX_CHORDS = 4000
_TOKEN = re.compile(r":?\|+:?|[^\s|]*\([^()|]*\)[^\s|]*|[^\s|]+?(?=:\||\s|\||$)")
_BAR = re.compile(r":?\|+:?")
_TIMES = re.compile(r"\(?(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\)?")
_NAMES = (
    "intro", "verse", "chorus", "refrain", "bridge", "pre-chorus", "prechorus", "pre chorus", "solo", "outro", "ending",
    "coda", "interlude", "tag", "instrumental", "break", "turnaround", "vamp", "strophe", "strofe", "refrão",
    "estribillo", "couplet", "pont",
)  # fmt: skip
_SECTION = re.compile(
    rf"^\s*(?:\[([^\]]{{1,60}})\]|\(?((?:\d{{1,2}}[.)]\s*)?(?:{'|'.join(_NAMES)})(?:\s*\d{{1,2}})?)\)?)\s*:?\s*(.*)$",
    re.IGNORECASE,
)
_NAME_ALONE = re.compile(rf"[\[(]?(?:\d{{1,2}}[.)]\s*)?(?:{'|'.join(_NAMES)})(?:\s*\w{{1,3}})?[\])]?:?", re.IGNORECASE)
FIELD = re.compile(r"^\s*(title|key|tempo|bpm|capo|artist|by|tuning)\s*[:=]?\s+(.+)$", re.IGNORECASE)
_TABLATURE = re.compile(r"^\s*[A-Ga-g][#b]?\s?[|:].*--|^[\s|]*-[-\dhpbx/~|]*-\|?\s*$")
_RULE = re.compile(r"^\s*[-=_*~]{3,}\s*$|^\s*\*[^*]*\*\s*$")  # a drawn line, a remark between stars
_SILENT = ("N.C.", "NC", "N.C", "(N.C.)", "n.c.")
_SAME = "%"
_SKIPPED = re.compile(r"^[-–—~*.,/\\>→=]+$")
_REMARK = re.compile(r"^(?:\([^()]*\)|[-–—].*)$")  # beside a heading


def _symbol(word: str) -> str:
    """A word as a chord, "" where it is none."""
    if word in _SILENT:
        return NO_CHORD
    clean = word.strip(",;")
    if not clean[:1].isupper() and not clean.startswith("("):
        return ""  # "a" and "am" are words here
    try:
        parse_symbol(clean)
    except ChordSymbolError:
        return ""
    return straight(clean)


def is_section_name(words: str) -> bool:
    """Whether some words are the usual name of a section, alone or numbered."""
    return len(words) <= 40 and bool(_NAME_ALONE.fullmatch(words.strip()))


def has_bars(line: str) -> bool:
    """Whether a line has bar lines, and is no tablature."""
    return line.count("|") > 1 and not _TABLATURE.match(line)


def is_row(line: str) -> bool:
    """Whether a line is a row of chords, though not all of them may be understood."""
    return bool(chords_of(line)) or (has_bars(line) and not _SECTION.match(line))


def chords_of(line: str) -> list[tuple[int, str]]:
    """(column, word) of a line of chords, with bar lines and counts; [] where it is a line of words. One word in four
    may be no chord: a mistake.
    """
    found = [(match.start(), match[0]) for match in _TOKEN.finditer(line)]
    words = [word for _, word in found if not _is_sign(word)]
    read = [word for word in words if _symbol(word)]
    slip = len(read) > 2 and 4 * len(read) >= 3 * len(words) and not _SECTION.match(line)
    return found if read and (slip or len(read) == len(words)) else []


def _is_sign(word: str) -> bool:
    """Whether a word on a line of chords is no chord, but says something of them."""
    return word == _SAME or any(sign.fullmatch(word) for sign in (_BAR, _TIMES, _SKIPPED))


def heading(line: str) -> re.Match[str] | None:
    """The heading of a section, with chords, a count or a remark beside it, or nothing."""
    found = _SECTION.match(line)
    if found is None or not found[3] or _TIMES.fullmatch(found[3]) or _REMARK.match(found[3]) or chords_of(found[3]):
        return found
    return None


def is_drawn(line: str) -> bool:
    """Whether a line is tablature or a drawn line, which nobody sings or plays here."""
    return bool(_TABLATURE.match(line) or _RULE.match(line))


def times_of(word: str) -> int:
    """How often a row is played, by a word such as x2 or (2x); 1 for any other."""
    found = _TIMES.fullmatch(word)
    return max(1, min(16, int(found[1] or found[2]))) if found else 1


def is_chord_or_sign(word: str) -> bool:
    """Whether a word of a row is understood."""
    return _is_sign(word) or bool(_symbol(word))


def sung(line: str) -> bool:
    """Whether a line is words to sing."""
    return bool(line.strip()) and not (is_row(line) or heading(line) or FIELD.match(line) or _TABLATURE.match(line))


def looks_over_words(text: str) -> bool:
    """Whether a text has chords above words. Without bar lines: a line of chords that stands over words, and another
    one, a heading or a second chord beside it; with bar lines: words stand under most rows of chords.
    """
    lines = [line for line in text.expandtabs(8).splitlines()[:400] if line.strip()]
    if any(line.lstrip().startswith(("tune:", "cue:")) for line in lines):
        return False
    chords = [n for n, line in enumerate(lines) if is_row(line)]
    over = [n for n in chords if n + 1 < len(lines) and sung(lines[n + 1])]
    headings = list(filter(_is_heading, lines))
    if any(has_bars(lines[n]) for n in chords):
        return bool(over or any(map(has_bars, headings))) and 2 * len(over) >= len(chords)
    many = len(chords) > 1 or bool(headings) or any(len(chords_of(lines[n])) > 1 for n in over)
    return bool(over) and many


def _is_heading(line: str) -> bool:
    found = heading(line)
    return bool(found and (found[1] or found[2]))


class _Reader:
    """Gathers sections of (symbol, words) line by line."""

    def __init__(self) -> None:
        self.sections: list[tuple[str, list[list[tuple[str, str]]]]] = []
        self.fields: dict[str, object] = {}
        self.extra: list[tuple[str, str]] = []
        self.left_out = 0
        self.title = ""
        self.times = 1  # how often the section is played, by its heading
        self.number = 0  # of the line that is read
        self.slips: list[str] = []

    def end_section(self) -> None:
        """Play what the section has as often as its heading says."""
        if self.sections:
            self.sections[-1][1].extend(self.sections[-1][1] * (self.times - 1))
        self.times = 1

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
                self.chord_line(found, words)
                number = below + 1 if words else number + 1
                continue
            self.other(line)
            number += 1
        self.end_section()

    def other(self, line: str) -> None:
        """A line without chords: a heading, a field, the title, or words that have none."""
        if not line.strip():
            return
        section, field = heading(line), FIELD.match(line)
        if section:
            self.end_section()
            beside = section[3] if chords_of(section[3]) else ""
            times = _TIMES.fullmatch(section[3])
            self.times = max(1, min(16, int(times[1] or times[2]))) if times else 1
            own = times or beside or chords_of(section[3].strip("() "))
            remark = f" {section[3]}" if section[3] and not own else ""
            self.sections.append((plain((section[1] or section[2].title()) + remark, LONGEST_NAME), []))
            if beside:
                self.chord_line(chords_of(beside), "")
        elif is_drawn(line):
            return
        elif field:
            self.field(field[1].lower(), field[2].strip())
        elif not self.sections and not self.title:
            self.title = plain(line, LONGEST_TITLE)
        else:
            self.left_out += 1

    def field(self, name: str, value: str) -> None:
        try:
            if name == "key":
                self.fields["key"] = str(parse_key(value))
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

    def chord_line(self, found: list[tuple[int, str]], words: str) -> None:
        """The chords of a line with the words below them; bar lines part them, else every chord is a bar."""
        if not self.sections:
            self.sections.append(("Song", []))
        chords = [(column, self.symbol(column, word)) for column, word in found if not _is_sign(word)]
        cues = cut_words(words, [column for column, _ in chords])
        named = {column: (symbol, cue) for (column, symbol), cue in zip(chords, cues, strict=False)}
        bars = self._bars(found, named)
        said = [times_of(word) for _, word in found if _TIMES.fullmatch(word)]
        times = said[-1] if said else 1
        times = 2 if times == 1 and found[0][1].endswith("|:") and found[-1][1].startswith(":|") else times
        self.sections[-1][1].extend([bar for bar in bars if bar] * times)

    def _bars(self, found: list[tuple[int, str]], named: dict[int, tuple[str, str]]) -> list[list[tuple[str, str]]]:
        """The chords of a line with their words, bar by bar."""
        barred = any(_BAR.fullmatch(word) for _, word in found)
        bars: list[list[tuple[str, str]]] = [[]]
        for column, word in found:
            if _BAR.fullmatch(word):
                bars.append([])
            elif word == _SAME:
                bars[-1] = [(symbol, "") for symbol, _ in self._before(bars)]
                bars += [] if barred else [[]]
            elif not _is_sign(word):
                bars[-1].append(named[column])
                bars += [] if barred else [[]]
        return bars

    def symbol(self, column: int, word: str) -> str:
        """A word of a row as a chord; one that is none is said, and nothing is played there."""
        found = _symbol(word)
        if not found:
            self.slips.append(f"line {self.number}, column {column + 1}: {word[:30]!r} is no chord; N.C. stands there")
        return found or NO_CHORD

    def _before(self, bars: list[list[tuple[str, str]]]) -> list[tuple[str, str]]:
        """The bar before the one that is being read."""
        read = [bar for bar in bars[:-1] if bar]
        return read[-1] if read else self.sections[-1][1][-1] if self.sections[-1][1] else []


def cut_words(words: str, columns: list[int]) -> list[str]:
    """The words that belong to each chord: from the word over which it stands to the next chord's."""
    starts = []
    for column in columns:
        at = min(column, len(words))
        while at > 0 and words[at - 1 : at].strip() and words[at : at + 1].strip():
            at -= 1  # a chord in the middle of a word has the whole word
        starts.append(at)
    if starts:
        starts[0] = 0
    ends = [*starts[1:], len(words)]
    return [plain(words[start:end]) for start, end in zip(starts, ends, strict=True)]


def read_over_words(text: str, name: str) -> Imported:
    """Read chords above words. Raises FileFault where there are none, or too many."""
    reader = _Reader()
    reader.read(text)
    count = sum(len(bar) for _, bars in reader.sections for bar in bars)
    if not count:
        raise FileFault(name, "has no line of chords above words")
    if count > MAX_CHORDS:
        raise FileFault(name, f"holds more than {MAX_CHORDS} chords; this is no song")
    beats = Fraction(4)
    sections = tuple(
        Section(title, tuple(Bar(tuple(Slot(s, beats / len(bar), cue) for s, cue in bar)) for bar in bars))
        for title, bars in reader.sections
    )
    song = msgspec.structs.replace(
        Song(sections=sections, extra=tuple(reader.extra), title=reader.title or "Untitled"), **reader.fields
    )
    report = ["the bars are guessed: where no bar lines stand, every chord was given one"]
    report += reader.slips[:200]
    if reader.left_out:
        lines = "1 line" if reader.left_out == 1 else f"{reader.left_out} lines"
        report.append(f"{lines} of words without chords were left out")
    if "key" not in reader.fields:
        song, found = with_found_key(song)
        report += found
    return Imported(song, tuple(report))
