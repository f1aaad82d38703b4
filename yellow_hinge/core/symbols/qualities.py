"""The words of chord symbols after their root: the grammar as data, and the quality that they say."""

from __future__ import annotations

import re

from yellow_hinge.core.symbols.quality import Quality, sort_tensions

# --- the words of the grammar, as data ---------------------------------------------------------------------------
# A head sets the triad and how a seventh number after it is read.
_HEADS: tuple[tuple[str, str], ...] = (
    *((word, "maj") for word in ("major", "Major", "maj", "Maj", "MAJ", "ma", "Ma", "MA", "M")),
    *((word, "triangle") for word in ("Δ", "^")),
    *((word, "m") for word in ("minor", "Minor", "min", "Min", "MIN", "mi", "Mi", "MI", "m", "-")),
    *((word, "dim") for word in ("dim", "Dim", "DIM", "o", "°", "0")),
    *((word, "half") for word in ("ø", "h")),
    *((word, "aug") for word in ("augmented", "aug", "Aug", "AUG", "+")),
)  # fmt: skip
_HEAD_WORDS = dict(_HEADS)
# Every triangle, circle and raised or lowered figure that is written for one of these.
SIGNS = str.maketrans(
    "△▵▲▴∆Ø∅⌀ᴓº˚ᵒ⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁽⁾₀₁₂₃₄₅₆₇₈₉", "ΔΔΔΔΔøøøø°°°0123456789+-()0123456789"
)  # fmt: skip
_NUMBERS = ("6/9", "69", "6", "7", "9", "11", "13", "5", "2")
# Words after head and number. The effect names a place and what goes there.
_MAJORS = ("maj", "Maj", "MAJ", "ma", "Ma", "MA", "M", "Δ", "^", "major", "+7M")
_MODIFIERS: tuple[tuple[str, str, str], ...] = (
    ("sus4", "third", "4"), ("sus2", "third", "2"), ("sus", "third", "4"), ("sus7", "suspended", ""),
    ("sus9", "suspended", "9"), ("sus13", "suspended", "13"),
    *((f"{word}7", "seventh", "7") for word in _MAJORS), *((word, "seventh", "7") for word in ("maj", "M", "Δ", "^")),
    *((f"{word}{number}", "major", number) for word in _MAJORS for number in ("9", "11", "13")),
    ("add9", "add", "9"), ("add2", "add", "9"), ("add#11", "add", "#11"), ("add11", "add", "11"), ("add4", "add", "11"),
    ("add13", "add", "13"), ("add6", "sixth", "6"), ("addb9", "add", "b9"), ("add#9", "add", "#9"),
    ("addb13", "add", "b13"),
    *((f"{word}{degree}", "without", degree) for word in ("no", "omit") for degree in ("3", "5")),
    ("b5", "fifth", "b5"), ("#5", "fifth", "#5"), ("-5", "fifth", "b5"), ("+5", "fifth", "#5"), ("dim5", "fifth", "b5"),
    ("aug5", "fifth", "#5"), ("aug", "fifth", "#5"), ("+", "fifth", "#5"),
    ("b9", "alter", "b9"), ("#9", "alter", "#9"), ("-9", "alter", "b9"), ("+9", "alter", "#9"),
    ("#11", "alter", "#11"), ("+11", "alter", "#11"), ("#4", "alter", "#11"), ("b13", "alter", "b13"),
    ("-13", "alter", "b13"), ("b6", "alter", "b13"),
    ("alt", "alt", ""), ("alt7", "alt", ""), ("13", "add", "13"), ("11", "add", "11"), ("9", "add", "9"),
)  # fmt: skip
_MODIFIER_WORDS = {word: (place, degree) for word, place, degree in _MODIFIERS}


def _longest_first(words: tuple[str, ...]) -> str:
    return "|".join(re.escape(word) for word in sorted(words, key=len, reverse=True))


# "madd9" is a minor chord and no "ma"; "omit3" is no "o"; a sign or word before 5 alters the fifth; 0 stands before 7.
_HEAD = re.compile(
    "m(?=add)|(?!omit|(?:dim|aug|[+-])5|0(?!7|$)|maj?(?=$))(?:" + _longest_first(tuple(_HEAD_WORDS)) + ")|maj|ma"
)
# A head in brackets, as in C(dim), and 7M for a major seventh.
_SQUARED = ((re.compile(r"^\(((?:dim|aug|min|m|maj)\d*)\)"), r"\1"), (re.compile(r"^(m?)(?:7M|7\+M)"), r"\1maj7"))
_EXTENSION = re.compile(_longest_first(_NUMBERS))
_MODIFIER = re.compile(_longest_first(tuple(_MODIFIER_WORDS)))
_FILLER = re.compile(r"[\s(),\[\]]+")

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
            self.third = self.third if head == "m" else ""
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

    def contradicts(self, place: str, degree: str) -> bool:
        """Whether a tension is named natural and altered at once."""
        if place not in ("add", "alter"):
            return False
        for natural, altered in (("9", {"b9", "#9"}), ("11", {"#11"}), ("13", {"b13"})):
            named = self.named | {degree}
            if natural in named and named & altered:
                return True
        return False

    def modify(self, place: str, degree: str) -> None:
        if place == "add" or place == "alter":
            self.named.add(degree)
        elif place == "major":
            self.number("maj", degree)
        elif place == "suspended":
            self.third, self.seventh = "4", "b7"
            self.natural |= {"9", degree} - {""} if degree else set()
        elif place == "without":
            if degree == "5" or self.third != "4":  # what is suspended has no third to leave out
                setattr(self, "third" if degree == "3" else "fifth", "")
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
            if self.named & {"b9", "#9", "b13"} and not self.seventh and not self.sixth:
                self.seventh = "b7"  # altered tones belong to a dominant
        return Quality(self.third, self.fifth, self.sixth, self.seventh, sort_tensions(natural | self.named), self.alt)


def read_words(text: str, start: int, minor: bool = False) -> tuple[Quality | None, int]:
    """The quality written from `start` on, and the column (0-based) of the first thing not understood. `minor`: the
    root already said that the third is minor.
    """
    build, at, head = _Build(), start, ""
    build.third = "b3" if minor else "3"
    for pattern, squared in _SQUARED:
        if match := pattern.match(text[at:]):
            text = text[:at] + pattern.sub(squared, text[at:])
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
        elif (match := _MODIFIER.match(text, at)) and not build.contradicts(*_MODIFIER_WORDS[match[0]]):
            build.modify(*_MODIFIER_WORDS[match[0]])
            at = match.end()
        else:
            return None, at
    return build.quality(), at
