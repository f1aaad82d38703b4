"""Reading chord symbols: in letters, in numbers of a key, in Roman numerals, and one chord over another."""

from __future__ import annotations

import re
from functools import lru_cache

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.key import NUMERALS, Key, diatonic_seventh, number_root, own_triad
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.pitch import Note, parse_note, plain_signs
from yellow_hinge.core.quality import Quality, sort_tensions

# --- the words of the grammar, as data ---------------------------------------------------------------------------
# A head sets the triad and how a seventh number after it is read.
_HEADS: tuple[tuple[str, str], ...] = (
    ("major", "maj"), ("maj", "maj"), ("Maj", "maj"), ("ma", "maj"), ("M", "maj"), ("△", "triangle"), ("Δ", "triangle"),
    ("minor", "m"), ("min", "m"), ("mi", "m"), ("m", "m"), ("-", "m"),
    ("dim", "dim"), ("o", "dim"), ("°", "dim"), ("ø", "half"), ("Ø", "half"),
    ("augmented", "aug"), ("aug", "aug"), ("+", "aug"),
)  # fmt: skip
_HEAD_WORDS = dict(_HEADS)
_NUMBERS = ("6/9", "69", "6", "7", "9", "11", "13", "5", "2")
# Words after head and number. The effect names a place and what goes there.
_MODIFIERS: tuple[tuple[str, str, str], ...] = (
    ("sus4", "third", "4"), ("sus2", "third", "2"), ("sus", "third", "4"),
    ("maj9", "major", "9"),
    ("maj11", "major", "11"),
    ("maj13", "major", "13"),
    ("M9", "major", "9"),
    ("maj7", "seventh", "7"), ("Maj7", "seventh", "7"), ("ma7", "seventh", "7"), ("M7", "seventh", "7"),
    ("△7", "seventh", "7"), ("△", "seventh", "7"), ("Δ7", "seventh", "7"), ("Δ", "seventh", "7"),
    ("add9", "add", "9"), ("add2", "add", "9"), ("add#11", "add", "#11"), ("add11", "add", "11"), ("add4", "add", "11"),
    ("add13", "add", "13"), ("add6", "sixth", "6"), ("addb9", "add", "b9"), ("add#9", "add", "#9"),
    ("addb13", "add", "b13"),
    ("no3", "third", ""), ("no5", "fifth", ""), ("omit3", "third", ""), ("omit5", "fifth", ""),
    ("b5", "fifth", "b5"), ("#5", "fifth", "#5"), ("-5", "fifth", "b5"), ("+5", "fifth", "#5"),
    ("b9", "alter", "b9"), ("#9", "alter", "#9"), ("-9", "alter", "b9"), ("+9", "alter", "#9"),
    ("#11", "alter", "#11"), ("+11", "alter", "#11"), ("b13", "alter", "b13"), ("-13", "alter", "b13"),
    ("alt", "alt", ""), ("13", "add", "13"), ("11", "add", "11"), ("9", "add", "9"),
)  # fmt: skip
_MODIFIER_WORDS = {word: (place, degree) for word, place, degree in _MODIFIERS}


def _longest_first(words: tuple[str, ...]) -> str:
    return "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))


_ROOT = re.compile(r"([A-G])(##|bb|#|b|x|)")
_NUMBER_ROOT = re.compile(r"([b#]?)([1-7])")
_HEAD = re.compile("m(?=add)|" + _longest_first(tuple(_HEAD_WORDS)))  # "madd9" is a minor chord and no "ma"
_EXTENSION = re.compile(_longest_first(_NUMBERS))
_MODIFIER = re.compile(_longest_first(tuple(_MODIFIER_WORDS)))
_FILLER = re.compile(r"[\s(),\[\]]+")
_BASS = re.compile(r"/\s*(?:([A-G](?:##|bb|#|b|x|))|([b#]?[1-7]))$")
_SUGGESTED = (
    "", "m", "7", "maj7", "m7", "6", "m6", "6/9", "9", "maj9", "m9", "11", "m11", "13", "maj13", "m13", "sus4", "sus2",
    "7sus4", "9sus4", "13sus4", "dim", "dim7", "m7b5", "aug", "7b9", "7#9", "7#11", "7b13", "7#5", "7b5", "7alt",
    "m(maj7)", "maj7#11", "maj7#5", "add9", "5",
)  # fmt: skip
_ROMAN_DIGITS = {numeral: digit for digit, numeral in enumerate(NUMERALS, 1)}
_ANY_ROMAN = "|".join(f"{n}|{n.lower()}" for n in sorted(NUMERALS, key=len, reverse=True))
_ROMAN = re.compile(rf"([b#]?)({_ANY_ROMAN})")
_SECONDARY = re.compile(rf"/([b#]?)({_ANY_ROMAN})$")
_OVER = re.compile(r"\s*\|\s*|\s+over\s+")
_READABLE = 200


# --- reading -----------------------------------------------------------------------------------------------------

_NINES, _ELEVENS, _THIRTEENS = ("b9", "9", "#9"), ("11", "#11"), ("b13", "13")


class _Build:
    """The places of a quality while its words are read."""

    def __init__(self) -> None:
        self.third, self.fifth, self.sixth, self.seventh = "3", "5", "", ""
        self.natural: set[str] = set()  # tensions from an extension number; an alteration replaces them
        self.named: set[str] = set()
        self.alt = False

    def head(self, word: str) -> None:
        if word == "m":
            self.third = "b3"
        elif word in ("dim", "half"):
            self.third, self.fifth = "b3", "b5"
            self.seventh = "b7" if word == "half" else ""
        elif word == "aug":
            self.fifth = "#5"
        elif word == "triangle":
            self.seventh = "7"

    def number(self, head: str, word: str) -> None:
        if word == "5":
            self.third = ""
        elif word == "2":
            self.natural.add("9")
        elif word.startswith("6"):
            self.sixth = "6"
            self.natural |= {"9"} if word != "6" else set()
        else:
            self.seventh = {"maj": "7", "triangle": "7", "dim": "bb7"}.get(head, "b7")
            extension = int(word)
            self.natural |= {"9"} if extension >= 9 else set()
            self.natural |= {"11"} if extension == 11 else set()
            self.natural |= {"13"} if extension == 13 else set()  # a 13 chord leaves out the 11
            if extension == 11 and self.third == "3" and self.seventh == "b7":
                self.third, self.natural = "4", {"9"}  # a dominant eleventh is played as a suspended ninth

    def modify(self, place: str, degree: str) -> None:
        if place == "add" or place == "alter":
            self.named.add(degree)
        elif place == "major":
            self.number("maj", degree)
        elif place == "alt":
            self.alt, self.seventh, self.fifth = True, "b7", ""
            self.named |= {"b9", "#9", "#11", "b13"}
        else:
            setattr(self, place, degree)

    def quality(self) -> Quality:
        natural = set(self.natural)
        for family in (_NINES, _ELEVENS, _THIRTEENS):
            if self.named & set(family):
                natural -= set(family)
        if self.third == "4":
            natural.discard("11")
            self.named.discard("11")
        return Quality(self.third, self.fifth, self.sixth, self.seventh, sort_tensions(natural | self.named), self.alt)


def _read_words(text: str, start: int, minor: bool = False) -> tuple[Quality | None, int]:
    """The quality written from `start` on, and the column (0-based) of the first thing not understood. `minor`: the
    root already said that the third is minor.
    """
    build, at, head = _Build(), start, ""
    build.third = "b3" if minor else "3"
    if match := _HEAD.match(text, at):
        head, at = _HEAD_WORDS[match[0]], match.end()
        build.head(head)
    while filler := _FILLER.match(text, at):
        at = filler.end()
    if match := _EXTENSION.match(text, at):
        build.number(head, match[0])
        at = match.end()
    while at < len(text):
        if filler := _FILLER.match(text, at):
            at = filler.end()
        elif match := _MODIFIER.match(text, at):
            build.modify(*_MODIFIER_WORDS[match[0]])
            at = match.end()
        else:
            return None, at
    return build.quality(), at


def _refuse(text: str, column: int) -> ChordSymbolError:
    root = _ROOT.match(text) or _NUMBER_ROOT.match(text) or _ROOT.match(text.capitalize())
    suggestion = ""
    if root:
        words = text[root.end() : root.end() + 12]
        suggestion = root[0] + nearest(words, _SUGGESTED)
    return ChordSymbolError(text, column + 1, text[:column], suggestion)


def parse_symbol(text: str, key: Key | None = None) -> Chord:
    """Read a chord symbol in letters or, with a key, in numbers ("2m9", "b713", "5/7") or Roman numerals ("ii7",
    "V7/ii", "bVII13", "#ivo7"); "X over Y" or "X|Y" is one chord over another.

    Raises ChordSymbolError for anything else, for any text.
    """
    if len(text) > _READABLE:
        raise ChordSymbolError(text, _READABLE, "", "", "a chord symbol is far shorter than this text")
    return _parse(text, key)


@lru_cache(maxsize=8192)
def _parse(text: str, key: Key | None) -> Chord:
    clean = plain_signs(text.strip())
    parts = _OVER.split(clean)
    if len(parts) == 2 and all(parts):
        return _stacked(_one(parts[0], key), _one(parts[1], key))
    return _one(clean, key)


def _one(clean: str, key: Key | None) -> Chord:
    bass_text, body = "", clean
    if (slash := _BASS.search(clean)) and not clean.endswith("6/9"):
        bass_text, body = slash[1] or slash[2], clean[: slash.start()]
    if match := _ROOT.match(body):
        root, (quality, at) = parse_note(match[0]), _read_words(body, match.end())
    elif _NUMBER_ROOT.match(body) or _ROMAN.match(body):
        if key is None:
            raise ChordSymbolError(clean, 1, "", "", "a chord in numbers needs a key")
        root, quality, at = _numbered(body, key) if _NUMBER_ROOT.match(body) else _roman(body, key)
    else:
        raise _refuse(clean, 0)
    if quality is None:
        raise _refuse(clean, at)
    bass = _bass(bass_text, key) if bass_text else None
    if bass_text and bass is None:
        raise ChordSymbolError(clean, len(body) + 2, body, "", "a bass in numbers needs a key")
    return Chord(root, quality, None if bass == root else bass)


def _bass(text: str, key: Key | None) -> Note | None:
    if text[0] in "ABCDEFG":
        return parse_note(text)
    return number_root(text, key) if key is not None else None


def _numbered(body: str, key: Key) -> tuple[Note, Quality | None, int]:
    """(root, quality, column reached) of a chord in numbers; a bare number is the key's own triad."""
    match = _NUMBER_ROOT.match(body)
    assert match is not None
    quality, at = _read_words(body, match.end())
    if match.end() == len(body) and len(match[0]) == 1:
        quality = Quality(*own_triad(match[0], key))
    return number_root(match[0], key), quality, at


def _roman_root(marks: str, numeral: str, key: Key, diminished: bool) -> Note:
    """The root of a numeral; the diminished seventh step of a minor key is the raised one."""
    number = marks + str(_ROMAN_DIGITS[numeral.upper()])
    raised = number == "7" and diminished and key.is_minor
    return number_root("#7" if raised else number, key)


def _roman(body: str, key: Key) -> tuple[Note, Quality | None, int]:
    """(root, quality, column reached) of a chord in Roman numerals: small letters are minor, "V7/ii" is five of two."""
    if second := _SECONDARY.search(body):
        target = _roman_root(second[1], second[2], key, False)
        body = body[: second.start()]
        key = Key(target, "minor" if second[2].islower() else "major")
    match = _ROMAN.match(body)
    if match is None:
        return key.tonic, None, 0
    quality, at = _read_words(body, match.end(), match[2].islower())
    if quality is None:
        return key.tonic, None, at
    diminished = quality.third == "b3" and quality.fifth == "b5"
    if second and match[2].upper() == "VII" and not match[1]:
        return number_root("#7" if key.is_minor else "7", key), quality, at
    return _roman_root(match[1], match[2], key, diminished), quality, at


_OVER_ROOT = ("", "b9", "9", "#9", "3", "11", "#11", "5", "b13", "13", "b7", "7")


def _stacked(upper: Chord, lower: Chord) -> Chord:
    """One chord over another: the lower one with the upper one's notes as its tensions and its seventh."""
    quality, tensions = lower.quality, set(lower.quality.tensions)
    seventh, held = quality.seventh, set(lower.pitch_classes)
    for pc in upper.pitch_classes:
        degree = _OVER_ROOT[(pc - lower.root.pc) % 12]
        if pc in held or not degree:
            continue
        if degree in ("7", "b7"):
            seventh = seventh or (degree if not quality.sixth else "")
        elif degree not in ("3", "5"):
            tensions.add(degree)
    merged = Quality(quality.third, quality.fifth, quality.sixth, seventh, sort_tensions(tensions), quality.alt)
    return Chord(lower.root, merged, lower.bass, (upper, lower))


def own_chords(key: Key, sevenths: bool = False) -> tuple[Chord, ...]:
    """The chords that the key's scale builds on its seven steps, as triads or with their sevenths."""
    found = []
    for number, root in enumerate(key.scale, 1):
        third, fifth = own_triad(str(number), key)
        seventh = diatonic_seventh(root, key) if sevenths else ""
        found.append(Chord(root, Quality(third, fifth, "", seventh)))
    return tuple(found)
