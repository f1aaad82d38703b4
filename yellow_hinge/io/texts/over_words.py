"""What a line is in chords above words, as players share songs: chords, words, a heading, a field, a drawing."""

from __future__ import annotations

import re

from yellow_hinge.core.song.words import plain
from yellow_hinge.io.texts.names import Names

TOKEN = re.compile(r":?\|+:?|[^\s|]*\([^()|]*\)[^\s|]*|[^\s|]+?(?=:\||\s|\||$)")
BAR = re.compile(r":?\|+:?")
TIMES = re.compile(r"\(?(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\)?")
_NAMES = (
    "intro", "verse", "chorus", "refrain", "bridge", "pre-chorus", "prechorus", "pre chorus", "solo", "outro", "ending",
    "coda", "interlude", "tag", "instrumental", "break", "turnaround", "vamp", "strophe", "strofe", "refrão",
    "estribillo", "couplet", "pont", "verso", "ritornello", "estrofa", "puente", "coro", "brücke", "vorspiel",
    "zwischenspiel", "nachspiel",
)  # fmt: skip
_SECTION = re.compile(
    rf"^\s*(?:\[([^\]]{{1,60}})\]|\(?((?:\d{{1,2}}[.)]\s*)?(?:{'|'.join(_NAMES)})(?:\s*\d{{1,2}})?)\)?)\s*:?\s*(.*)$",
    re.IGNORECASE,
)
_NAME_ALONE = re.compile(rf"[\[(]?(?:\d{{1,2}}[.)]\s*)?(?:{'|'.join(_NAMES)})(?:\s*\w{{1,3}})?[\])]?:?", re.IGNORECASE)
_ANY_NAME = "|".join(_NAMES)
_TWICE = r"(?:\(?(?:[x×]\s*(\d)|(\d)\s*[x×])\)?)?"
_AGAIN = re.compile(
    rf"^\s*[\[(]?\s*(?:(?:repeat|play|sing|back to|go to|then)\s+(?:the\s+)?({_ANY_NAME})(?:\s+again)?"
    rf"|({_ANY_NAME})\s+(?:again|repeats?))((?:\s*\d{{1,2}}(?!\s*[x×]))?)\s*{_TWICE}\s*[\])]?\s*[.:]?\s*$",
    re.IGNORECASE,
)
FIELD = re.compile(r"^\s*(title|key|tempo|bpm|time|meter|capo|artist|by|tuning)\s*[:=]?\s+(.+)$", re.IGNORECASE)
_TABLATURE = re.compile(r"^\s*[A-Ga-g][#b]?\s?[|:].*--|^[\s|]*-[-\dhpbx/~|]*-\|?\s*$")
_RULE = re.compile(r"^\s*[-=_*~]{3,}\s*$|^\s*\*[^*]*\*\s*$")  # a drawn line, a remark between stars
_PLAIN = Names()
_NUMBER = re.compile(r"[b#]?[1-7](?:m|M|maj|dim|aug|sus|add|-|\+|°|ø|7|9|6|11|13|b|#|\d)*(?:/[b#]?[1-7])?")
SAME = "%"
_ASIDE = r"hold|let ring|pause|stop|break|riff|tacet|fermata|\d{1,2}(?: ?beats?)?"  # in brackets beside chords
_SKIPPED = re.compile(rf"^[-–—~*.,/\\>→=]+$|^\((?:{_ASIDE})\)$", re.IGNORECASE)
COUNT = re.compile(r"\(?(\d{1,2})(?: ?beats?)?\)|/+")  # beats more for the chord before: (4), ///
_REMARK = re.compile(r"^(?:\([^()]*\)|[-–—].*)$")  # beside a heading


def symbol_of(word: str) -> str:
    """A word as a chord, "" where it is none."""
    clean = word.strip(",;*")
    if not clean[:1].isupper() and not clean.startswith("("):
        return ""  # "a" and "am" are words here
    return _PLAIN.read(clean)


def number_of(word: str) -> str:
    """A word as a chord in numbers, "" where it is none."""
    return _PLAIN.read(word, numbers=True) if _NUMBER.fullmatch(word) else ""


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
    found = [(match.start(), match[0]) for match in TOKEN.finditer(line)]
    words = [word for _, word in found if not is_sign(word)]
    read = [word for word in words if symbol_of(word)]
    slip = len(read) > 2 and 4 * len(read) >= 3 * len(words) and not _SECTION.match(line)
    return found if read and (slip or len(read) == len(words)) else []


def is_sign(word: str) -> bool:
    """Whether a word on a line of chords is no chord, but says something of them."""
    return word == SAME or any(sign.fullmatch(word) for sign in (BAR, TIMES, _SKIPPED))


def heading(line: str) -> re.Match[str] | None:
    """The heading of a section, with chords, a count or a remark beside it, or nothing."""
    found = _SECTION.match(line)
    if found is None or not found[3] or TIMES.fullmatch(found[3]) or _REMARK.match(found[3]) or chords_of(found[3]):
        return found
    return None


def again(line: str) -> tuple[str, int] | None:
    """The name of a section that a line asks for again, and how often: "Repeat chorus x2"; None for any other line."""
    found = _AGAIN.match(line)
    if found is None:
        return None
    return f"{found[1] or found[2]}{found[3] or ''}".strip(), max(1, int(found[4] or found[5] or 1))


def is_drawn(line: str) -> bool:
    """Whether a line is tablature or a drawn line, which nobody sings or plays here."""
    return bool(_TABLATURE.match(line) or _RULE.match(line))


def times_of(word: str) -> int:
    """How often a row is played, by a word such as x2 or (2x); 1 for any other."""
    found = TIMES.fullmatch(word)
    return max(1, min(16, int(found[1] or found[2]))) if found else 1


def is_chord_or_sign(word: str) -> bool:
    """Whether a word of a row is understood."""
    return is_sign(word) or bool(symbol_of(word))


def sung(line: str) -> bool:
    """Whether a line is words to sing."""
    return bool(line.strip()) and not (
        is_row(line) or heading(line) or again(line) or FIELD.match(line) or _TABLATURE.match(line)
    )


def looks_over_words(text: str) -> bool:
    """Whether a text has chords above words. Without bar lines: a line of chords that stands over words, and another
    one, a heading or a second chord beside it, or two headings with chords beside them; with bar lines: words stand
    under most rows of chords.
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
    return (bool(over) and many) or sum(map(_has_chords_beside, headings)) > 1


def _has_chords_beside(line: str) -> bool:
    found = heading(line)
    return found is not None and bool(found[3]) and bool(chords_of(found[3]))


def _is_heading(line: str) -> bool:
    found = heading(line)
    return bool(found and (found[1] or found[2]))


def cut_words(words: str, columns: list[int]) -> list[str]:
    """The words that belong to each chord: from the word over which it stands to the next chord's."""
    if not columns:
        return []
    starts = []
    for column in columns:
        at = min(column, len(words))
        while at > 0 and words[at - 1 : at].strip() and words[at : at + 1].strip():
            at -= 1  # a chord in the middle of a word has the whole word
        starts.append(at)
    starts[0] = 0
    ends = [*starts[1:], len(words)]
    return [plain(words[start:end]) for start, end in zip(starts, ends, strict=True)]
