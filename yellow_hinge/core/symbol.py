"""Reading and writing chord symbols, in letters and in numbers of a key."""

from __future__ import annotations

import difflib
import re
from functools import lru_cache

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import ChordSymbolError, NoteNameError
from yellow_hinge.core.key import MODES, Key, number_root, own_triad, root_number
from yellow_hinge.core.pitch import degree_pc, parse_note, plain_signs
from yellow_hinge.core.quality import TENSIONS, Quality, sort_tensions

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


def _read_words(text: str, start: int) -> tuple[Quality | None, int]:
    """The quality written from `start` on, and the column (0-based) of the first thing not understood."""
    build, at, head = _Build(), start, ""
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
        near = difflib.get_close_matches(words, _SUGGESTED, n=1, cutoff=0.4)
        suggestion = root[0] + (near[0] if near else "")
    return ChordSymbolError(text, column + 1, text[:column], suggestion)


def parse_symbol(text: str, key: Key | None = None) -> Chord:
    """Read a chord symbol in letters or, with a key, in numbers ("2m9", "b713", "5/7").

    Raises ChordSymbolError for anything else, for any text.
    """
    if len(text) > _READABLE:
        raise ChordSymbolError(text, _READABLE, "", "", "a chord symbol is far shorter than this text")
    return _parse(text, key)


@lru_cache(maxsize=8192)
def _parse(text: str, key: Key | None) -> Chord:
    clean = plain_signs(text.strip())
    bass_text, body = "", clean
    if (slash := _BASS.search(clean)) and not clean.endswith("6/9"):
        bass_text, body = slash[1] or slash[2], clean[: slash.start()]
    if match := _ROOT.match(body):
        root = parse_note(match[0])
        quality, at = _read_words(body, match.end())
    elif match := _NUMBER_ROOT.match(body):
        if key is None:
            raise ChordSymbolError(text, 1, "", "", "a chord in numbers needs a key")
        root = number_root(match[0], key)
        quality, at = _read_words(body, match.end())
        if match.end() == len(body) and len(match[0]) == 1:
            third, fifth = own_triad(match[0], key)
            quality = Quality(third, fifth)
    else:
        raise _refuse(clean, 0)
    if quality is None:
        raise _refuse(clean, at)
    try:
        bass = None if not bass_text else parse_note(bass_text) if bass_text[0].isalpha() and bass_text[0] != "b" \
            else number_root(bass_text, key) if key else None  # fmt: skip
    except NoteNameError as error:  # pragma: no cover - the pattern admits only readable basses
        raise _refuse(clean, len(body)) from error
    if bass_text and bass is None:
        raise ChordSymbolError(text, len(body) + 2, body, "", "a bass in numbers needs a key")
    return Chord(root, quality, None if bass == root else bass)


# --- writing -----------------------------------------------------------------------------------------------------


def _stack(quality: Quality) -> tuple[str, set[str]]:
    """The extension number over a seventh ("7", "9", "11", "13") and the tensions it does not cover."""
    rest = set(quality.tensions)
    if "13" in rest and rest & set(_NINES):
        return "13", rest - {"13", "9"}
    if {"9", "11"} <= rest and not (quality.third == "3" and quality.seventh == "b7"):
        return "11", rest - {"9", "11"}
    if "9" in rest:
        return "9", rest - {"9"}
    return "7", rest


def _triad_words(quality: Quality) -> tuple[str, str]:
    """(head, trailing words) that write third and fifth."""
    third, fifth = quality.third, quality.fifth
    tail = {"4": "sus4", "2": "sus2", "": "no3"}.get(third, "")
    if third == "b3":
        if fifth == "b5" and quality.seventh in ("", "bb7") and not quality.sixth:
            return "dim", tail
        return "m", tail + {"b5": "b5", "#5": "#5", "": "no5"}.get(fifth, "")
    if third == "3" and fifth == "#5" and not (quality.seventh or quality.sixth):
        return "aug", tail
    return "", tail + {"b5": "b5", "#5": "#5", "": "no5"}.get(fifth, "")


@lru_cache(maxsize=4096)
def write_quality(quality: Quality) -> str:
    """The words after the root in the house style: "m7b5", "13sus4", "6/9", "m(maj7)"."""
    if quality.alt:
        return "7alt"
    if not quality.third and quality.fifth == "5" and not (quality.sixth or quality.seventh or quality.tensions):
        return "5"
    head, tail = _triad_words(quality)
    words: list[str] = []
    rest = set(quality.tensions)
    if quality.seventh:
        extension, rest = _stack(quality)
        if quality.seventh == "7":
            head = f"m(maj{extension})" if head == "m" else "maj" + extension
        else:
            head += extension
        words += ["add6"] if quality.sixth else []
    elif quality.sixth:
        if "9" in rest:
            head, rest = head + "6/9", rest - {"9"}
        else:
            head += "6"
    plain = bool(quality.seventh)
    altered = [d for d in TENSIONS if d in rest and d[0] in "b#"]
    added = [d for d in TENSIONS if d in rest and d[0] not in "b#"]
    words += [d if plain else "add" + d for d in altered] + ["add" + d for d in added]
    text = head + tail
    bracket = (len(altered) > 1 and plain) or (not text and bool(words) and words[0][0] in "b#")
    if not head and tail[:1] in ("b", "#"):
        text = f"({tail})"
    return text + (f"({','.join(words)})" if bracket else "".join(words))


def write_symbol(chord: Chord) -> str:
    """The chord in letters, house style, ASCII signs: "Db13sus4/Ab"."""
    bass = "" if chord.bass is None else f"/{chord.bass}"
    return f"{chord.root}{write_quality(chord.quality)}{bass}"


def write_number(chord: Chord, key: Key) -> str:
    """The chord in numbers of `key`: "2m9", "b713", "5/7". A bare number is the key's own triad, so a major
    triad where the key has another is written "2maj".
    """
    number = root_number(chord.root, key)
    words = write_quality(chord.quality)
    if not words and len(number) == 1:
        words = "" if own_triad(number, key) == ("3", "5") else "maj"
    bass = "" if chord.bass is None else "/" + root_number(chord.bass, key)
    return number + words + bass


def diatonic_seventh(chord: Chord, key: Key) -> str:
    """The seventh ("7", "b7", "bb7") that the key's scale gives over the chord's root, or "" off the scale."""
    pcs = {(key.tonic.pc + degree_pc(degree)) % 12 for degree in MODES[key.mode]}
    if chord.root.pc not in pcs:
        return ""
    return next((s for s in ("7", "b7") if (chord.root.pc + degree_pc(s)) % 12 in pcs), "")
