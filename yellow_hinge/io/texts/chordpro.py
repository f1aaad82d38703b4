"""ChordPro text: chords in brackets over words, directives in braces. In and out."""

from __future__ import annotations

import re
from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import ChordSymbolError, UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.song.road import opened
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song, ending_words, parse_meter
from yellow_hinge.core.song.timeline import read_slot
from yellow_hinge.core.symbols.symbol import parse_symbol, straight
from yellow_hinge.core.symbols.writing import as_typed
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, with_found_key

_WORD = re.compile(r"[A-Za-z_+-]+")
_CHORD = re.compile(r"\[([^\[\]]{0,80})\]")  # bounded: a line of open brackets must not take its square in time
_MARK = re.compile(
    r"\*\s*(?:(?P<opens>\|:)|:\|\s*(?:x\s*(?P<times>\d{1,2}))?|(?P<ending>[1-9](?:\s?,\s?[1-9])*)\.|(?P<end>\|\|))\s*"
)
_KINDS = {"chorus": ("chorus", "refrain"), "bridge": ("bridge", "middle")}  # of sections, by how their names begin
_STARTS = {
    "start_of_verse": "Verse", "sov": "Verse", "start_of_chorus": "Chorus", "soc": "Chorus",
    "start_of_bridge": "Bridge", "sob": "Bridge",
}  # fmt: skip
_ENDS = ("end_of_verse", "eov", "end_of_chorus", "eoc", "end_of_bridge", "eob")
_BLOCKS = {"start_of_tab": "end_of_tab", "sot": "eot", "start_of_grid": "end_of_grid", "sog": "eog"}
_TITLES = ("title", "t")
MAX_CHORDS = 4000


def looks_like_chordpro(text: str) -> bool:
    """Whether a text has a directive in braces, or most of its brackets hold chords in letters, one at least beside
    words; a bracket alone on a line is a heading.
    """
    head = [line for line in text[:100_000].splitlines()[:200] if line.strip()]
    if any(_directive(line) for line in head):
        return True
    marks = [mark[1] for line in head for mark in _CHORD.finditer(line) if mark[0] != line.strip()]
    read = sum(_is_chord(mark) for mark in marks)
    beside = any(_CHORD.search(line) and _CHORD.sub("", line).strip(" |") for line in head)
    return beside and 2 * read > len(marks)


def _is_chord(text: str) -> bool:
    try:
        parse_symbol(text.strip().strip("()"))
    except UserError:
        return False
    return text.strip()[:1] in "ABCDEFG("


def _is_silence(text: str) -> bool:
    return text.upper().replace(".", "") in ("NC", "N C", "")


def _directive(line: str) -> tuple[str, str] | None:
    """(word, value) of a line such as "{title: A Song}", None for any other line."""
    line = line.strip()
    inside = line[1:-1].strip() if line[:1] == "{" and line[-1:] == "}" else ""
    word = _WORD.match(inside)
    if word is None or inside[word.end() :][:1] not in ("", ":", " ", "\t"):
        return None
    return word[0].lower(), inside[word.end() :].strip().removeprefix(":").strip()


class _Reader:
    def __init__(self, name: str) -> None:
        self.name = name
        self.fields: dict[str, object] = {}
        self.extra: list[tuple[str, str]] = []
        self.report: list[str] = []
        self.sections: list[tuple[str, list[Bar]]] = []
        self.block = ""
        self.opens, self.ending = False, 0  # for the next chord

    def line(self, number: int, line: str) -> None:
        directive = _directive(line)
        if self.block:
            if directive and directive[0] == self.block:
                self.block = ""
            return
        if directive:
            self.directive(number, *directive)
        elif (alone := _CHORD.fullmatch(line.strip())) and not (_is_chord(alone[1]) or _is_silence(alone[1])):
            self.sections.append((alone[1].strip(), []))
        elif line.strip() and not line.lstrip().startswith("#"):
            self.words(number, line.rstrip())

    def directive(self, number: int, word: str, value: str) -> None:
        if word in _STARTS:
            self.sections.append((value.removeprefix("label=").strip('"') or _STARTS[word], []))
        elif word in _BLOCKS:
            self.block = _BLOCKS[word]
            self.report.append(f"line {number}: a {word} block was left out")
        elif word in ("chorus",):
            self.sections.append((value or "Chorus", []))
        elif word in _TITLES:
            self.fields["title"] = value[:200] or "Untitled"
        elif word in ("key", "time", "tempo"):
            self.known(number, word, value)
        elif word not in _ENDS:
            self.extra.append((word, value))
            self.report.append(f"line {number}: {{{word}}} is kept and written back, but not used")

    def known(self, number: int, word: str, value: str) -> None:
        try:
            if word == "key":
                self.fields["key"] = str(parse_key(value))
            elif word == "time":
                self.fields["meter"] = parse_meter(value)
            elif 20 <= int(value) <= 400:
                self.fields["tempo"] = int(value)
            else:
                raise ValueError
        except (UserError, ValueError):
            self.extra.append((word, value))
            self.report.append(f"line {number}: {{{word}: {value[:30]}}} is not understood; it is kept but not used")

    def words(self, number: int, line: str) -> None:
        if not self.sections:
            self.sections.append(("Song", []))
        chords = self.sections[-1][1]
        marks = list(_CHORD.finditer(line))
        lead = line[: marks[0].start()].strip() if marks else line.strip()
        if lead and chords:
            chords[-1] = _with_cue(chords[-1], lead)
        elif lead:
            self.report.append(f"line {number}: words before the first chord were left out: {lead[:40]!r}")
        for n, mark in enumerate(marks):
            end = marks[n + 1].start() if n + 1 < len(marks) else len(line)
            words = line[mark.end() : end].strip(" |").removeprefix("- ").removesuffix(" -")
            if mark[1].strip().startswith("*"):
                self.annotation(number, mark[1].strip(), chords)
                if words and chords:
                    chords[-1] = _with_cue(chords[-1], words)
                continue
            slot = Slot(self.symbol(number, mark), Fraction(0), words)
            chords.append(Bar((slot,), opens=self.opens, ending=self.ending))
            self.opens = False

    def annotation(self, number: int, text: str, chords: list[Bar]) -> None:
        """A remark in brackets: repeat signs and endings as this program writes them, others are left out."""
        found = _MARK.fullmatch(text)
        if found is None:
            self.report.append(f"line {number}: the annotation [{text[:30]}] was left out")
        elif found["opens"]:
            self.opens, self.ending = True, 0
        elif found["ending"]:
            self.ending = int("".join(sorted(set(re.findall(r"\d", found["ending"])))))
        elif found["end"]:
            self.ending = 0
        elif chords:
            chords[-1] = msgspec.structs.replace(chords[-1], repeats=max(2, int(found["times"] or 2)))
            self.ending = 0

    def symbol(self, number: int, mark: re.Match[str]) -> str:
        text = mark[1].strip().strip("()")
        if _is_silence(text):
            return NO_CHORD
        try:
            parse_symbol(text)
        except ChordSymbolError as error:
            self.report.append(f"line {number}, column {mark.start() + 2}: {error}; N.C. stands in its place")
            return NO_CHORD
        return straight(text)


def _with_cue(bar: Bar, words: str) -> Bar:
    slot = bar.slots[-1]
    more = msgspec.structs.replace(slot, cue=f"{slot.cue} {words}".strip())
    found: Bar = msgspec.structs.replace(bar, slots=(*bar.slots[:-1], more))
    return found


def _of_length(bar: Bar, beats: Fraction) -> Bar:
    found: Bar = msgspec.structs.replace(bar, slots=(msgspec.structs.replace(bar.slots[0], beats=beats),))
    return found


def read_chordpro(text: str, name: str) -> Imported:
    """Read ChordPro. Every chord gets a bar, since the format says nothing about time. Raises FileFault."""
    reader = _Reader(name)
    for number, line in enumerate(text.splitlines(), 1):
        reader.line(number, line)
    if not any(chords for _, chords in reader.sections):
        raise FileFault(name, "has no chords in [brackets]")
    if sum(len(chords) for _, chords in reader.sections) > MAX_CHORDS:
        raise FileFault(name, f"holds more than {MAX_CHORDS} chords; this is no song")
    meter = reader.fields.get("meter", Meter())
    assert isinstance(meter, Meter)
    beats = Fraction(meter.beats)
    sections = tuple(
        Section(title, tuple(_of_length(bar, beats) for bar in chords)) for title, chords in reader.sections
    )
    song = msgspec.structs.replace(Song(sections=sections, extra=tuple(reader.extra)), **reader.fields)
    report = ["ChordPro says nothing about time: every chord was given a bar", *reader.report]
    if "key" not in reader.fields:
        song, found = with_found_key(song)
        report += found
    return Imported(song, tuple(report))


# --- writing -----------------------------------------------------------------------------------------------------


def _short_key(song: Song) -> str:
    key = song.the_key
    return f"{key.tonic}m" if key.mode == "minor" else str(key.tonic) if key.mode == "major" else str(key)


def _brace(name: str, value: str) -> str:
    return f"{{{name}: {value}}}" if value else f"{{{name}}}"


def write_chordpro(song: Song, maker: str = "") -> bytes:
    """The song as ChordPro: chords in letters over their cue words, four bars a line, every ending, repeat signs as
    annotations; kept directives come back. `maker` is a comment on top.
    """
    lines = [f"# {maker}"] if maker else []
    lines += [_brace("title", song.title), _brace("key", _short_key(song)), _brace("time", str(song.meter)),
             _brace("tempo", str(song.tempo))]  # fmt: skip
    lines += [_brace(name, value) for name, value in song.extra]
    back = opened(song)
    for index, section in enumerate(song.sections):
        kind = _kind_of(section.name)
        lines += ["", _brace(f"start_of_{kind}", section.name)]
        bars = [
            _bar_words(section.bars, b, section.the_key(song), (index, b) in back) for b in range(len(section.bars))
        ]
        lines += ["".join(bars[n : n + 4]).rstrip() for n in range(0, len(bars), 4)]
        lines += [
            _brace("comment", f"bar {b + 1}: {', '.join(bar.signs)}") for b, bar in enumerate(section.bars) if bar.signs
        ]
        lines.append(f"{{end_of_{kind}}}")
    return ("\n".join(lines) + "\n").encode()


def _kind_of(name: str) -> str:
    low = name.strip().lower()
    return next((kind for kind, starts in _KINDS.items() if low.startswith(starts)), "verse")


def _slot_words(slot: Slot, key: Key) -> str:
    chord = read_slot(slot, key)
    return f"[{NO_CHORD if chord is None else as_typed(slot.symbol, chord)}]{slot.cue} ".rstrip() + " "


def _bar_words(bars: tuple[Bar, ...], at: int, key: Key, opens: bool) -> str:
    """A bar's chords over their words, its repeat signs and endings as annotations around them."""
    bar, was = bars[at], 0
    if at and not bars[at - 1].repeats:
        was = bars[at - 1].ending
    words = ["[*|:]"] if opens else []
    if bar.ending and (bar.ending != was or opens):
        words.append(f"[*{ending_words(bar.ending)}.]")
    elif was and not bar.ending:
        words.append("[*||]")
    words += [_slot_words(slot, key) for slot in bar.slots]
    if bar.repeats:
        words.append(f"[*:|{f'x{bar.repeats}' if bar.repeats > 2 else ''}] ")
    return "".join(words)
