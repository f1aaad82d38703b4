"""Chords above words, as players share songs: read into a song whose bars are guessed, and said to be."""

from __future__ import annotations

import re
from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import ChordSymbolError, UserError
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.song import NO_CHORD, TEMPOS, Bar, Section, Slot, Song
from yellow_hinge.core.symbol import parse_symbol, straight
from yellow_hinge.core.words import LONGEST_NAME, LONGEST_TITLE, plain
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, with_found_key

MAX_CHORDS = 4000
_TOKEN = re.compile(r"[^\s|]*\([^()|]*\)[^\s|]*|[^\s|]+|\|+:?|:\|")
_BAR = re.compile(r":?\|+:?")
_TIMES = re.compile(r"\(?(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\)?")
_NAMES = (
    "intro", "verse", "chorus", "refrain", "bridge", "pre-chorus", "prechorus", "pre chorus", "solo", "outro", "ending",
    "coda", "interlude", "tag", "instrumental", "break", "turnaround", "vamp", "strophe", "strofe", "refrão",
    "estribillo", "couplet", "pont",
)  # fmt: skip
_SECTION = re.compile(
    rf"^\s*(?:\[([^\]]{{1,60}})\]|\(?((?:{'|'.join(_NAMES)})(?:\s*\d{{1,2}})?)\)?)\s*:?\s*(.*)$", re.IGNORECASE
)
_FIELD = re.compile(r"^\s*(title|key|tempo|bpm|capo|artist|by|tuning)\s*[:=]?\s+(.+)$", re.IGNORECASE)
_SILENT = ("N.C.", "NC", "N.C", "(N.C.)", "n.c.")
_SKIPPED = re.compile(r"^[-–—~*.,/\\]+$|^%$")


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


def chords_of(line: str) -> list[tuple[int, str]]:
    """(column, word) of a line of chords, with bar lines and counts; [] where it is a line of words."""
    found = [(match.start(), match[0]) for match in _TOKEN.finditer(line)]
    words = [word for _, word in found if not (_BAR.fullmatch(word) or _TIMES.fullmatch(word) or _SKIPPED.match(word))]
    read = [word for word in words if _symbol(word)]
    return found if read and len(read) == len(words) else []


def looks_over_words(text: str) -> bool:
    """Whether a text has chords above words: at least two lines of chords of which one stands over words, and no line
    that only a chart has.
    """
    lines = text.expandtabs(8).splitlines()[:400]
    if any(line.lstrip().startswith(("tune:", "cue:", "|")) for line in lines):
        return False
    chords = [n for n, line in enumerate(lines) if chords_of(line)]
    over = [n for n in chords if n + 1 < len(lines) and lines[n + 1].strip() and not chords_of(lines[n + 1])]
    return len(chords) > 1 and bool(over)


class _Reader:
    """Gathers sections of (symbol, words) line by line."""

    def __init__(self) -> None:
        self.sections: list[tuple[str, list[list[tuple[str, str]]]]] = []
        self.fields: dict[str, object] = {}
        self.extra: list[tuple[str, str]] = []
        self.left_out = 0
        self.title = ""

    def read(self, text: str) -> None:
        lines = text.expandtabs(8).splitlines()
        number = 0
        while number < len(lines):
            line = lines[number]
            found = chords_of(line)
            if found:
                below = lines[number + 1] if number + 1 < len(lines) else ""
                words = "" if chords_of(below) or self._says(below) else below
                self.chord_line(found, words)
                number += 1 + bool(words.strip())
                continue
            self.other(line)
            number += 1

    @staticmethod
    def _says(line: str) -> bool:
        """Whether a line is a heading or a field and no words to sing."""
        section = _SECTION.match(line)
        return bool((section and not section[3]) or _FIELD.match(line))

    def other(self, line: str) -> None:
        """A line without chords: a heading, a field, the title, or words that have none."""
        if not line.strip():
            return
        section, field = _SECTION.match(line), _FIELD.match(line)
        if section and (not section[3] or chords_of(section[3])):
            self.sections.append((plain(section[1] or section[2].title(), LONGEST_NAME), []))
            if section[3]:
                self.chord_line(chords_of(section[3]), "")
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
        barred = any(_BAR.fullmatch(word) for _, word in found)
        chords = [(column, _symbol(word)) for column, word in found if _symbol(word)]
        cues = _cut(words, [column for column, _ in chords])
        bars: list[list[tuple[str, str]]] = [[]]
        times = 1
        for column, word in found:
            if _BAR.fullmatch(word):
                bars.append([])
            elif (count := _TIMES.fullmatch(word)) is not None:
                times = max(1, min(16, int(count[1] or count[2])))
            elif _symbol(word):
                cue = cues[[at for at, _ in chords].index(column)]
                bars[-1].append((_symbol(word), cue))
                if not barred:
                    bars.append([])
        self.sections[-1][1].extend([bar for bar in bars if bar] * times)


def _cut(words: str, columns: list[int]) -> list[str]:
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
        if bars or any(title == other and found for other, found in reader.sections)
    )
    song = msgspec.structs.replace(
        Song(sections=sections, extra=tuple(reader.extra), title=reader.title or "Untitled"), **reader.fields
    )
    report = ["the bars are guessed: where no bar lines stand, every chord was given one"]
    if reader.left_out:
        lines = "1 line" if reader.left_out == 1 else f"{reader.left_out} lines"
        report.append(f"{lines} of words without chords were left out")
    if "key" not in reader.fields:
        song, found = with_found_key(song)
        report += found
    return Imported(song, tuple(report))
