"""Reading chord symbols: in letters, in numbers of a key, in Roman numerals, and one chord over another."""

from __future__ import annotations

import re
from functools import lru_cache

import msgspec

from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.pitch.figures import explained, unfigured
from yellow_hinge.core.pitch.key import MODES, NUMERALS, Key, diatonic_seventh, number_root, own_triad
from yellow_hinge.core.pitch.pitch import Note, parse_note, plain_signs, spell
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.german import from_german, looks_german
from yellow_hinge.core.symbols.qualities import SIGNS, read_words
from yellow_hinge.core.symbols.quality import Quality, sort_tensions
from yellow_hinge.core.symbols.slips import meant

_ROOT = re.compile(r"([A-G])(##|bb|#|b|x|)")
_NUMBER_ROOT = re.compile(r"([b#]?)([1-7])")
_TWO_NUMBERS = re.compile(r"([b#]?[1-7])([1-7])")
_BASS = re.compile(r"/\s*(?:([A-G](?:##|bb|#|b|x|))|([b#]?[1-7]))$")
_ROMAN_DIGITS = {numeral: digit for digit, numeral in enumerate(NUMERALS, 1)}
_ANY_ROMAN = "|".join(f"{n}|{n.lower()}" for n in sorted(NUMERALS, key=len, reverse=True))
_ROMAN = re.compile(rf"([b#]?)({_ANY_ROMAN})")
_SECONDARY = re.compile(rf"/([b#]?)({_ANY_ROMAN})(?=/|$)")
_TARGETS = re.compile(rf"(?:/[b#]?(?:{_ANY_ROMAN}))+$")
_SMALL = re.compile(r"[a-g](?:#|b|)")
_SMALL_M = re.compile(r"([a-g])(#|b|)(?=m(?!aj|a7|a9))")  # am7, f#m
_OVER = re.compile(r"\s*\|\s*|\s+over\s+")
_IN_BRACKETS = re.compile(r"\(([^()]+)\)")  # a chord that may be left out
_READABLE = 200


_NO_NUMBER = "a chord in letters has a bass in letters"


def _over_number(body: str, number: str, root: Note, quality: Quality) -> str:
    """What is likely meant by a chord in letters over a number: a suspension, a note added, or the chord's own note."""
    own = {"3": quality.third, "5": quality.fifth, "7": quality.seventh}.get(number, "")
    if own:
        return f"{body}/{spell(root, own)}"
    added = {"4": "sus4", "2": "add9", "6": "6"}.get(number, "")
    return body + added if added and read_words(body + added, len(str(root)))[0] is not None else ""


# --- reading ---


def _refuse(text: str, column: int) -> ChordSymbolError:
    if looks_german(text):
        ours = from_german(text)
        if _reads(ours):
            why = f"{text[:20]!r} is a German name; names: german on top reads it"
            return ChordSymbolError(text, 1, "", ours, why)
    why, instead = explained(text)
    if why:
        return ChordSymbolError(text, 1, "", instead, why)
    return ChordSymbolError(text, column + 1, text[:column], meant(text, _reads))


def _reads(text: str) -> bool:
    """Whether a text that is offered is read; numbers are, in any key."""
    body, slash, bass = text.partition("/")
    if slash and bass != "9" and not re.fullmatch(r"[A-G](?:##|bb|#|b|x|)|[b#]?[1-7]", bass):
        return False
    root = _ROOT.match(body) or _NUMBER_ROOT.match(body)
    return root is not None and read_words(text if bass == "9" else body, root.end())[0] is not None


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
    clean = straight(plain_signs(text.strip()).translate(SIGNS))
    parts = _OVER.split(clean)
    if len(parts) == 2 and all(parts):
        return _stacked(_one(parts[0], key), _one(parts[1], key))
    return _one(clean, key)


def _one(clean: str, key: Key | None) -> Chord:
    figured = unfigured(clean, key) if key is not None else None
    if figured is not None:
        return _inverted(_one(figured.roman, key), figured.degree)
    bass_text, body = "", clean
    if (slash := _BASS.search(clean)) and not clean.endswith("6/9"):
        bass_text, body = slash[1] or slash[2], clean[: slash.start()]
    if match := _ROOT.match(body):
        root, (quality, at) = parse_note(match[0]), read_words(body, match.end())
    elif _NUMBER_ROOT.match(body) or _ROMAN.match(body):
        if key is None:
            raise ChordSymbolError(clean, 1, "", "", "a chord in numbers needs a key")
        root, quality, at = _numbered(body, key) if _NUMBER_ROOT.match(body) else _roman(body, key)
    else:
        raise _refuse(clean, 0)
    if quality is None:
        return _two_numbers(clean, key, at)
    if bass_text and bass_text[0] not in "ABCDEFG" and body[0] in "ABCDEFG":
        raise ChordSymbolError(clean, len(body) + 2, body, _over_number(body, bass_text, root, quality), _NO_NUMBER)
    bass = _bass(bass_text, key) if bass_text else None
    if bass_text and bass is None:
        raise ChordSymbolError(clean, len(body) + 2, body, "", "a bass in numbers needs a key")
    return Chord(root, quality, None if bass == root else bass)


def _two_numbers(clean: str, key: Key | None, at: int) -> Chord:
    """What nothing else reads: 64, the chord on the six over the bass of the four. Raises ChordSymbolError."""
    two = _TWO_NUMBERS.fullmatch(clean)
    if key is None or two is None or two[1][-1] == two[2]:
        raise _refuse(clean, at)
    return _one(f"{two[1]}/{two[2]}", key)


def _inverted(chord: Chord, degree: int) -> Chord:
    """A chord over its root, third, fifth or seventh."""
    quality = chord.quality
    own = {3: quality.third, 5: quality.fifth, 7: quality.seventh}.get(degree)
    return msgspec.structs.replace(chord, bass=spell(chord.root, own)) if own else chord


def _bass(text: str, key: Key | None) -> Note | None:
    if text[0] in "ABCDEFG":
        return parse_note(text)
    return number_root(text, key) if key is not None else None


def _numbered(body: str, key: Key) -> tuple[Note, Quality | None, int]:
    """(root, quality, column reached) of a chord in numbers; a bare number is the key's own triad."""
    match = _NUMBER_ROOT.match(body)
    assert match is not None
    quality, at = read_words(body, match.end())
    if match.end() == len(body) and len(match[0]) == 1:
        quality = Quality(*own_triad(match[0], key))
    return number_root(match[0], key), quality, at


def _roman_root(marks: str, numeral: str, key: Key, diminished: bool) -> Note:
    """The root of a numeral; the diminished seventh step of a minor key is the raised one."""
    number = marks + str(_ROMAN_DIGITS[numeral.upper()])
    raised = number == "7" and diminished and MODES[key.mode][6] == "b7" and key.is_minor
    return number_root("#7" if raised else number, key)


def _key_within(targets: list[tuple[str, str]], key: Key) -> Key:
    """The key of what is said of "/ii/V"; the last one is in the song's key."""
    for marks, numeral in reversed(targets):
        key = Key(_roman_root(marks, numeral, key, False), "minor" if numeral.islower() else "major")
    return key


def _roman(body: str, key: Key) -> tuple[Note, Quality | None, int]:
    """(root, quality, column reached) of a chord in Roman numerals: small letters are minor, "V7/ii" is five of two."""
    targets = _TARGETS.search(body)
    second = _SECONDARY.findall(targets[0]) if targets else []
    body = body[: targets.start()] if targets else body
    key = _key_within(second, key)
    match = _ROMAN.match(body)
    if match is None:
        return key.tonic, None, 0
    quality, at = read_words(body, match.end(), match[2].islower())
    if quality is None:
        return key.tonic, None, at
    leading = MODES[key.mode][6]
    if body == "vii" and key.is_minor and leading == "7":
        quality = Quality("b3", "b5")  # the chord on the leading note of a minor key is diminished
    if second and match[2].upper() == "VII" and not match[1]:
        return number_root("#7" if leading == "b7" else "7", key), quality, at
    return _roman_root(match[1], match[2], key, _is_diminished(quality)), quality, at


def _is_diminished(quality: Quality) -> bool:
    return quality.third == "b3" and quality.fifth == "b5"


def straight(symbol: str) -> str:
    """A symbol with its root as a capital and without brackets around it: "am7" is "Am7", "c" is "Cm", "(F)" is "F"."""
    clean = symbol.strip()
    inner = _IN_BRACKETS.fullmatch(clean)
    clean = inner[1] if inner else clean
    if _SMALL.fullmatch(clean):
        return f"{clean[:1].upper()}{clean[1:]}m"
    return clean[:1].upper() + clean[1:] if _SMALL_M.match(clean) else clean


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
