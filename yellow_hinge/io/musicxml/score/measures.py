"""What stands in the bars of a score, part by part, at concert pitch and in quarters from the bar's beginning."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple
from xml.etree.ElementTree import Element

from yellow_hinge.core.pitch.pitch import LETTER_PC, LETTERS, Note, Pitch
from yellow_hinge.io.files import FileFault

MOST_MEASURES, MOST_NOTES, MOST_PARTS = 4000, 400_000, 200
_GRIDS = (48, 20, 28)  # parts of a quarter that what falls between them is rounded to: thirds, fifths, sevenths
_FINE = 96
# Letters that an interval in semitones usually spans, where a transposition says none.
_STEPS = (0, 1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 6)


class Transposition(NamedTuple):
    """How much higher a part sounds than it is written, in letters and semitones (the octave apart)."""

    letters: int = 0
    semitones: int = 0
    octaves: int = 0

    @property
    def fifths(self) -> int:
        """What it adds to a signature."""
        return 7 * self.semitones - 12 * self.letters

    def note(self, note: Note) -> Note:
        """A written note as it sounds."""
        letter = note.letter + self.letters
        octaves, letter = divmod(letter, 7)
        alter = LETTER_PC[note.letter] + note.alter + self.semitones - 12 * octaves - LETTER_PC[letter]
        return Note(letter, alter)

    def pitch(self, pitch: Pitch) -> Pitch:
        """A written pitch as it sounds."""
        octaves = (pitch.note.letter + self.letters) // 7 + self.octaves
        return Pitch(self.note(pitch.note), pitch.octave + octaves)


class Lyric(NamedTuple):
    """A syllable of a verse; `joined` to the next one."""

    verse: str
    text: str
    joined: bool


class Sung(NamedTuple):
    """A note or a rest (no pitch). `apart`: it is no tune (a slash, a cue, a drum)."""

    start: Fraction
    length: Fraction
    pitch: Pitch | None
    voice: str
    staff: int
    tied: bool
    lyrics: tuple[Lyric, ...]
    apart: bool


class Written(NamedTuple):
    """Words or a mark over a bar: its kind ("words", "rehearsal", "segno", "coda", "sound", "tempo", "symbol"), what it
    says, and the element where that has more to say.
    """

    at: Fraction
    kind: str
    text: str
    element: Element
    transposed: Transposition = Transposition()
    below: bool = False


class Measure:
    """A bar of one part."""

    def __init__(self, element: Element) -> None:
        self.number = element.get("number", "")
        self.implicit = element.get("implicit") == "yes"
        self.notes: list[Sung] = []
        self.marks: list[Written] = []
        self.length = Fraction(0)
        self.rest = Fraction(0)  # of a whole bar, which some write as a whole note in any meter
        self.meter: tuple[int, int] | None = None
        self.key: tuple[int, str] | None = None  # concert signature and mode
        self.lines: list[Element] = []
        self.again = 0  # a bar that repeats the one so many bars before
        self.graces = 0

    def of(self, kind: str) -> Iterator[Written]:
        """The marks of a kind."""
        return (mark for mark in self.marks if mark.kind == kind)


class Part(NamedTuple):
    """A part: `name` as it is written, and its bars; `moved` by a transposition that was undone."""

    id: str
    name: str
    measures: list[Measure]
    staves: int
    drums: bool
    moved: bool

    @property
    def symbols(self) -> int:
        """How many chord symbols it has."""
        return sum(1 for measure in self.measures for _ in measure.of("symbol"))


def in_grid(value: Fraction) -> Fraction:
    """A time as a fraction that is written: what lies a tick beside thirds, fifths and the like is put there."""
    if value.denominator <= _FINE:
        return value
    near = (Fraction(round(value * grid), grid) for grid in _GRIDS)
    return min(near, key=lambda found: abs(found - value))


def number_in(element: Element, path: str, usual: int = 0) -> int:
    """A whole number inside an element; the usual one where there is none, or one out of all bounds."""
    return _whole((element.findtext(path) or "").strip(), usual)


def _whole(text: str, usual: int = 0) -> int:
    try:
        found = round(float(text))
    except (ValueError, OverflowError):
        return usual
    return found if abs(found) < 1_000_000 else usual


class _PartReader:
    """Goes through the bars of one part and keeps what holds from one to the next."""

    def __init__(self) -> None:
        self.divisions = 1
        self.moved = Transposition()
        self.slashes = self.tabs = False
        self.drum_staves: set[int] = set()
        self.again = 0
        self.staves = 1
        self.ever_moved = False
        self.now = Measure(Element("measure"))
        self.cursor = self.before = Fraction(0)
        self.count = 0

    def measure(self, element: Element) -> Measure:
        self.now, self.cursor, self.before = Measure(element), Fraction(0), Fraction(0)
        starts = {
            "note": self._note, "backup": self._backup, "forward": self._forward, "attributes": self._attributes,
            "harmony": self._harmony, "direction": self._direction, "sound": self._sound, "barline": self._line,
        }  # fmt: skip
        for child in element:
            start = starts.get(child.tag)
            if start is not None:
                start(child)
        self.now.again = self.again
        return self.now

    def _time(self, element: Element, path: str) -> Fraction:
        return _length((element.findtext(path) or "").strip(), self.divisions)

    def _advance(self, by: Fraction) -> None:
        self.cursor = max(Fraction(0), self.cursor + by)
        self.now.length = max(self.now.length, self.cursor)

    def _backup(self, element: Element) -> None:
        self._advance(-self._time(element, "duration"))

    def _forward(self, element: Element) -> None:
        self._advance(self._time(element, "duration"))

    def _line(self, element: Element) -> None:
        self.now.lines.append(element)
        for name in ("segno", "coda"):
            if element.find(name) is not None or element.get(name):
                at = self.cursor if element.get("location") != "left" else Fraction(0)
                self.now.marks.append(Written(at, name, "", element))

    def _attributes(self, element: Element) -> None:
        self.divisions = max(1, number_in(element, "divisions", self.divisions))
        self.staves = max(self.staves, min(8, number_in(element, "staves", 1)))
        moved = element.find("transpose")
        if moved is not None:
            self._transpose(moved)
        key = element.find("key")
        if key is not None and key.find("fifths") is not None:
            mode = (key.findtext("mode") or "").strip().lower()
            self.now.key = (number_in(key, "fifths") + self.moved.fifths, mode)
        time = element.find("time")
        if time is not None and time.find("beats") is not None:
            self.now.meter = _meter(time)
        for clef in element.iter("clef"):
            staff = int(clef.get("number", "1")) if clef.get("number", "1").isdecimal() else 1
            drums = (clef.findtext("sign") or "").strip() == "percussion"
            (self.drum_staves.add if drums else self.drum_staves.discard)(staff)
        for style in element.iter("measure-style"):
            self._style(style)

    def _transpose(self, element: Element) -> None:
        semitones = number_in(element, "chromatic")
        octaves = number_in(element, "octave-change")
        sign = -1 if semitones < 0 else 1
        usual = sign * (_STEPS[abs(semitones) % 12] + 7 * (abs(semitones) // 12))
        letters = number_in(element, "diatonic", usual)
        if abs(letters) > 21 or abs(semitones) > 36 or abs(octaves) > 4 or abs(7 * semitones - 12 * letters) > 12:
            letters = usual
        self.moved = Transposition(letters, semitones, octaves)
        self.ever_moved = self.ever_moved or semitones % 12 != 0

    def _style(self, element: Element) -> None:
        slash, again = element.find("slash"), element.find("measure-repeat")
        if slash is not None:
            self.slashes = slash.get("type") == "start"
        if again is not None:
            written = (again.text or "").strip()
            count = int(written) if written.isdecimal() and len(written) < 3 else 1
            self.again = count if again.get("type") == "start" else 0

    # --- what stands over a bar ---

    def _mark(self, kind: str, element: Element, text: str = "", at: Fraction | None = None) -> None:
        place = self.cursor if at is None else at
        below = element.get("placement") == "below"
        self.now.marks.append(Written(place, kind, text, element, self.moved, below))

    def _harmony(self, element: Element) -> None:
        at = self.cursor + self._time(element, "offset") if element.find("offset") is not None else self.cursor
        self._mark("symbol", element, at=max(Fraction(0), at))

    def _direction(self, element: Element) -> None:
        at = max(Fraction(0), self.cursor + self._time(element, "offset"))
        words = " ".join((each.text or "").strip() for each in element.iter("words"))
        if words.strip():
            self._mark("words", element, words.strip(), at)
        for kind in ("rehearsal", "segno", "coda"):
            for each in element.iter(kind):
                self._mark(kind, element, (each.text or "").strip(), at)
        for metronome in element.iter("metronome"):
            self._mark("tempo", metronome, at=at)
        for sound in element.findall("sound"):
            self._mark("sound", sound, at=at)

    def _sound(self, element: Element) -> None:
        self._mark("sound", element)

    # --- notes ---

    def _note(self, element: Element) -> None:
        self.count += 1
        if self.count > MOST_NOTES:
            raise FileFault("MusicXML", f"holds more than {MOST_NOTES} notes; this is no song")
        has = {child.tag: child for child in element}  # a note is looked into far more often than anything else
        if "grace" in has:
            self.now.graces += "chord" not in has
            return
        length = _length(_text(has, "duration"), self.divisions)
        start = self.before if "chord" in has else self.cursor
        if "chord" not in has:
            self.before = self.cursor
            self._go_on(has.get("rest"), length)
        staff = max(1, min(8, _whole(_text(has, "staff"), 1)))
        pitch, apart = self._pitch(has.get("pitch")), self._is_apart(has, staff)
        if pitch is None and "rest" not in has and not apart:
            return
        lyrics = tuple(_lyrics(element)) if "lyric" in has else ()
        voice = _text(has, "voice") or "1"
        self.now.notes.append(Sung(start, length, pitch, voice, staff, _is_tied(element, has), lyrics, apart))

    def _is_apart(self, has: dict[str, Element], staff: int) -> bool:
        """Whether a note is no tune: a slash, a cue, a drum."""
        drum = staff in self.drum_staves or "unpitched" in has
        return drum or self.slashes or "cue" in has or _text(has, "notehead") == "slash"

    def _go_on(self, rest: Element | None, length: Fraction) -> None:
        if rest is not None and rest.get("measure") == "yes":
            self.now.rest = max(self.now.rest, length)
            self.cursor += length
        else:
            self._advance(length)

    def _pitch(self, element: Element | None) -> Pitch | None:
        if element is None:
            return None
        has = {child.tag: child for child in element}
        return _sounding(_text(has, "step").upper(), _text(has, "alter"), _text(has, "octave"), self.moved)


def _text(has: dict[str, Element], name: str) -> str:
    found = has.get(name)
    return (found.text or "").strip() if found is not None else ""


def _is_tied(element: Element, has: dict[str, Element]) -> bool:
    """Whether a note goes on into the next one."""
    ties = element.findall("tie") if "tie" in has else []
    tied = has["notations"].findall("tied") if "notations" in has else []
    return any(each.get("type") == "start" for each in (*ties, *tied))


@lru_cache(maxsize=4096)
def _sounding(step: str, alter: str, octave: str, moved: Transposition) -> Pitch | None:
    """A pitch as it sounds; None for what is none."""
    if len(step) != 1 or step not in LETTERS or abs(_whole(alter)) > 3:
        return None
    found = moved.pitch(Pitch(Note(LETTERS.index(step), _whole(alter)), _whole(octave, 4)))
    return found if 0 <= found.midi <= 127 else None


@lru_cache(maxsize=4096)
def _length(text: str, divisions: int) -> Fraction:
    """A duration in quarters."""
    found = Fraction(_whole(text), divisions)
    return in_grid(found) if abs(found) < 10_000 else Fraction(0)


def _meter(time: Element) -> tuple[int, int]:
    """(upper, lower): sums such as 3+2 over 8 together; (0, 0) for what is no meter."""
    rows = zip(time.findall("beats"), time.findall("beat-type"), strict=False)
    pairs = [(_sum(upper.text or ""), _sum(lower.text or "")) for upper, lower in rows]
    if not pairs or not all(up > 0 and low > 0 for up, low in pairs):
        return 0, 0
    most = max(low for _, low in pairs)
    return sum(up * most // low for up, low in pairs), most


def _sum(text: str) -> int:
    """A number, or several with + between them; 0 for anything else."""
    parts = text.replace(" ", "").split("+")
    return sum(map(int, parts)) if all(part.isdecimal() and len(part) < 4 for part in parts) else 0


def _lyrics(note: Element) -> Iterator[Lyric]:
    for lyric in note.findall("lyric"):
        texts = [(each.text or "").strip() for each in lyric.findall("text")]
        syllabic = [(each.text or "").strip() for each in lyric.findall("syllabic")]
        words = " ".join(filter(None, texts))
        if words:
            yield Lyric(
                lyric.get("number") or lyric.get("name") or "1", words, syllabic[-1:] in (["begin"], ["middle"])
            )


def parts_of(root: Element, name: str) -> list[Part]:
    """The parts of a score, written part by part or bar by bar. Raises FileFault for what is too large."""
    names = {each.get("id", ""): (each.findtext("part-name") or "").strip() for each in root.iterfind("part-list/*")}
    rows = _rows(root)
    if len(rows) > MOST_PARTS or max(map(len, rows.values()), default=0) > MOST_MEASURES:
        raise FileFault(name, f"holds more than {MOST_MEASURES} bars; this is no song")
    found, count = [], 0
    for id_, elements in rows.items():
        reader = _PartReader()
        reader.count = count
        measures = [reader.measure(element) for element in elements]
        count = reader.count
        drums = bool(reader.drum_staves) and all(n.apart or not n.pitch for m in measures for n in m.notes)
        found.append(Part(id_, names.get(id_, id_), measures, reader.staves, drums, reader.ever_moved))
    return found


def _rows(root: Element) -> dict[str, list[Element]]:
    """The bars of every part by its id."""
    rows: dict[str, list[Element]] = {}
    if root.tag == "score-partwise":
        for part in root.findall("part"):
            rows.setdefault(part.get("id", ""), []).extend(part.findall("measure"))
        return rows
    for measure in root.findall("measure"):
        for part in measure.findall("part"):
            id_ = part.get("id", "")
            part.attrib = dict(measure.attrib)
            rows.setdefault(id_, []).append(part)
    return rows
