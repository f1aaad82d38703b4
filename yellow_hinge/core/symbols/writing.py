"""Writing chord symbols in the house style, long or short, in letters, numbers and Roman numerals."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from yellow_hinge.core.pitch.key import NUMERALS, Key, flat_step, own_triad, root_number
from yellow_hinge.core.pitch.pitch import plain_signs, pretty_signs
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import TENSIONS, Quality

_NINES = ("b9", "9", "#9")


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
    if quality == Quality(third="", fifth="5"):
        return "5"
    head, tail, rest = _headed(quality)
    plain = bool(quality.seventh)
    altered = [d for d in TENSIONS if d in rest and d[0] in "b#"]
    words = ["add6"] if plain and quality.sixth else []
    words += [
        d if plain and d in altered else f"add{d}" for d in (*altered, *sorted(rest - {*altered}, key=TENSIONS.index))
    ]
    if not head and tail[:1] in ("b", "#"):
        tail = f"({tail})"
    bracket = (len(altered) > 1 and plain) or (not head and not tail and bool(words) and words[0][0] in "b#")
    return head + tail + (f"({','.join(words)})" if bracket else "".join(words))


def _headed(quality: Quality) -> tuple[str, str, set[str]]:
    """The words up to the seventh or sixth, those of the triad after them, and the tensions that are left to say."""
    head, tail = _triad_words(quality)
    rest = set(quality.tensions)
    if quality.seventh:
        extension, rest = _stack(quality)
        if quality.seventh == "7":
            return f"m(maj{extension})" if head == "m" else "maj" + extension, tail, rest
        return head + extension, tail, rest
    if quality.sixth and "9" in rest:
        return head + "6/9", tail, rest - {"9"}
    return head + "6" if quality.sixth else head, tail, rest


# The short style swaps the words at the head; the longest fits first.
_SHORT = (("m7b5", "ø7"), ("m(maj", "-(△"), ("dim", "°"), ("maj", "△"), ("aug", "+"), ("m", "-"))


def styled(words: str, style: str) -> str:
    """The words of a quality in a style: "long" ("maj7", "m7b5") or "short" ("△7", "ø7")."""
    if style == "short":
        for long, short in _SHORT:
            if words.startswith(long):
                return short + words[len(long) :]
    return words


def _joined(chord: Chord, one: Callable[[Chord], str]) -> str:
    """A chord written by `one`, both chords of a stack with "over" between them."""
    return " over ".join(one(part) for part in chord.stack) if chord.stack else one(chord)


def _small_words(words: str) -> str:
    """What follows a numeral in small letters, which says that the chord is minor."""
    if words.startswith("m7b5"):
        return words.replace("m7b5", "ø7", 1)
    return "o" + words[3:] if words.startswith("dim") else words.removeprefix("m")


def write_symbol(chord: Chord, style: str = "long") -> str:
    """The chord in letters, house style, ASCII accidentals: "Db13sus4/Ab", short "D△7"; "D over C7"."""

    def one(part: Chord) -> str:
        bass = "" if part.bass is None else f"/{part.bass}"
        return f"{part.root}{styled(write_quality(part.quality), style)}{bass}"

    return _joined(chord, one)


_NUMBER = re.compile(r"\d+")


def as_typed(symbol: str, chord: Chord) -> str:
    """The chord in letters as `write_symbol` writes it, or as the player typed it where the house calls it by another
    number: "Bb11", not "Bb9sus4".
    """
    house, typed = write_symbol(chord), plain_signs(symbol.strip())
    head = str(chord.root)
    if chord.stack or not typed.startswith(head):
        return house
    one, other = (_NUMBER.search(text, len(head)) for text in (house, typed))
    if one is None or other is None:
        return house
    alike = one[0].startswith(other[0]) or other[0].startswith(one[0])
    return house if alike else typed


def _number(part: Chord, key: Key) -> str:
    """The number of a chord's root. A flat step under its simple name (D7 for Ebb7 in Db) is still said as a flat step,
    unless a diminished chord rises from it.
    """
    number = root_number(part.root, key)
    rises = part.quality.fifth == "b5" and part.quality.third == "b3"
    return flat_step(part.root, key) if number[0] == "#" and part.root.alter == 0 and not rises else number


def write_number(chord: Chord, key: Key) -> str:
    """The chord in numbers of `key`: "2m9", "b713", "5/7". A bare number is the key's own triad, so a major
    triad where the key has another is written "2maj".
    """

    def one(part: Chord) -> str:
        number = _number(part, key)
        words = write_quality(part.quality)
        if not words and len(number) == 1:
            words = "" if own_triad(number, key) == ("3", "5") else "maj"
        bass = "" if part.bass is None else "/" + root_number(part.bass, key)
        return number + words + bass

    return _joined(chord, one)


def write_roman(chord: Chord, key: Key) -> str:
    """The chord in Roman numerals of `key`: small letters for a minor third, "viiø7", "bVII13"; a bass as a number."""

    def one(part: Chord) -> str:
        number, words = _number(part, key), write_quality(part.quality)
        numeral = NUMERALS[int(number[-1]) - 1]
        diminished = part.quality.third == "b3" and part.quality.fifth == "b5"
        if number == "#7" and diminished and key.is_minor:
            number = "7"
        if part.quality.third == "b3":
            leading = number == "7" and words == "m" and key.is_minor and own_triad("7", key)[1] == "b5"
            numeral, words = numeral.lower(), words if leading else _small_words(words)
        bass = "" if part.bass is None else "/" + root_number(part.bass, key)
        return number[:-1] + numeral + words + bass

    return _joined(chord, one)


def number_text(number: str) -> str:
    """A chord number with a thin space between the number and its words, so that 5 and 7sus4 stay apart."""
    match = re.match(r"[b#]?[1-7]", number)
    cut = match.end() if match else 0
    gap = "\u2009" if cut < len(number) and number[cut] != "/" else ""
    return pretty_signs(number[:cut]) + gap + pretty_signs(number[cut:])
