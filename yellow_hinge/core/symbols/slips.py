"""What was likely meant by a chord symbol that is not read: slips of the fingers, words of other languages."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.symbols.german import from_german

_SUGGESTED = (
    "", "m", "7", "maj7", "m7", "6", "m6", "6/9", "9", "maj9", "m9", "11", "m11", "13", "maj13", "m13", "sus4", "sus2",
    "7sus4", "9sus4", "13sus4", "dim", "dim7", "m7b5", "aug", "7b9", "7#9", "7#11", "7b13", "7#5", "7b5", "7alt",
    "m(maj7)", "maj7#11", "maj7#5", "add9", "5",
)  # fmt: skip
_NEAR = 0.6  # how similar a suggestion must be, 0..1
_ROOT = re.compile(r"(?:[A-G](?:##|bb|#|b|x|)|[b#]?[1-7])")
# Words and signs for what a symbol writes in signs, wherever they stand.
_WORDS = tuple(
    (re.compile(pattern, re.IGNORECASE), right)
    for pattern, right in (
        (r"(?<=[a-z0-9])[-_ ]?flat[-_ ]?", "b"), (r"(?<=[a-z0-9])[-_ ]?sharp[-_ ]?", "#"), (r"(?<=\d)(?:th|nd|rd)", ""),
        (r"half[- ]?dim\w*|hdim7?", "m7b5"), (r"seven(?:th)?", "7"), (r"nin(?:e|th)", "9"), (r"altered", "alt"),
        (r"power", "5"), (r"\\+|/{2,}", "/"), (r"7f(?=\d)", "7b"), (r"(?<=/)([a-g])(?=[#b]?\W*$)", r"\1"),
    )
)  # fmt: skip
_BASS = re.compile(r"/(?:([a-g])|([A-G])\2?)([#b]?)\W*$")
# Words of other languages and slips for what a chord is.
_LIKELY = tuple(
    (re.compile(pattern, re.IGNORECASE), right)
    for pattern, right in (
        (r"^(?-i:m)\(?mj7+\)?$|^(?-i:mm+)aj7+$|^(?-i:mm)a$", "m(maj7)"),
        (r"^(?:majeur|maggiore|mayor|dur|mjr|majr|maj?or|mahj|maaj|mja|amj|mj(?!m)|mai|mah|mau|mak)", "maj"),
        (r"^(?:mineur|minore|menor|moll|minr|minu?r|mnor|mim(?!a)|mmin|nim|imn|mni|mol)", "m"),
        (r"^(?:diminu[a-zé]*|dimini\w*?(?=\d|$)|dismin\w*|dimm|dmi|idm|din|verm\w*)", "dim"),
        (r"^(?:augment[a-z]*|aum[a-z]*|augm|agu|uag|überm\w*|au(?!g))", "aug"),
        (r"^(?:suss|ssus|uss|susp[a-z]*)", "sus"), (r"^su(?=\d)", "sus"),
        (r"^n(?=[35])", "no"), (r"^(?-i:m)ad(?=9)", "madd"),
        (r"^(?-i:M)ad(?=9)", "add"),
        (r"^dom(?:inant)?", ""), (r"^ma(\d+)j", r"maj\1"),
    )
)  # fmt: skip
_TRIPLED = re.compile(r"([a-z])\1\1+|(\d)\2+$")
_DOUBLED = re.compile(r"([a-z#])\1+|(\d)(?=\2\D*$)")


def meant(text: str, reads: Callable[[str], bool]) -> str:
    """The symbol that was likely meant: what is read after a slip is mended, else the nearest usual one that has the
    third and the seventh which were written. "" where nothing is close. `reads` says whether a symbol is read.
    """
    for whole in _respelled(text):
        root = _ROOT.match(whole)
        if root is None:
            continue
        if whole != text and reads(whole):
            return whole
        words = whole[root.end() : root.end() + 14]
        for each in _mended(words):
            if each != words and reads(root[0] + each):
                return root[0] + each
    return _near_one(text)


def _near_one(text: str) -> str:
    root = _ROOT.match(text) or _ROOT.match(text.capitalize())
    if root is None:
        return ""
    words = text[root.end() : root.end() + 12]
    said = _said(words)
    found = nearest(words, [each for each in _SUGGESTED if _said(each) == said], _NEAR)
    return root[0] + found if found else ""


def _respelled(text: str) -> Iterator[str]:
    """The text, and with its words as signs, its root and bass as capitals, German names as ours."""
    spelled = text[:40]
    for pattern, right in _WORDS:
        spelled = pattern.sub(right, spelled)
    spelled = _BASS.sub(lambda match: f"/{(match[1] or match[2]).upper()}{match[3]}", spelled)
    yield from dict.fromkeys((text, spelled, spelled[:1].upper() + spelled[1:]))
    german = from_german(spelled[:1].upper() + spelled[1:])
    if german != spelled:
        yield german


# Slips of the fingers, each for all that was tried so far.
_CHANGES: tuple[Callable[[str], str], ...] = (
    lambda each: _TRIPLED.sub(lambda match: (match[1] or "") * 2 + (match[2] or ""), each),
    lambda each: _DOUBLED.sub(r"\1", each),
    lambda each: each.lower(),
    lambda each: re.sub(r"(?<=\w)[.,;:_'-](?=\d)", "", each),
    lambda each: each.rstrip(")](.,;:'`!?* "),
    lambda each: each + ")" if "(" in each else each,
)


def _mended(words: str) -> list[str]:
    """What may have been meant by what stands after a root, the likeliest first."""
    tried = [words]
    for pattern, right in _LIKELY:
        if pattern.match(words):
            tried.append(pattern.sub(right, words))
    for change in _CHANGES:
        changed = [(each, change(each)) for each in tried]
        tried += [new for each, new in changed if _said(each)[0] in ("", _said(new)[0])]  # minor stays minor
    return list(dict.fromkeys(tried))


def _said(words: str) -> tuple[str, bool]:
    """What of a chord's quality is written: its kind by the first letters, and whether it has a major seventh."""
    kind = re.match(r"sus|dim|o|°|ø|aug|\+|maj|ma|M|Δ|\^|min|mi|m|-", words)
    kinds = {"m": "m", "mi": "m", "min": "m", "-": "m", "ma": "maj", "maj": "maj", "M": "maj", "Δ": "maj", "^": "maj"}
    found = kinds.get(kind[0], kind[0]) if kind else ""
    return found, "maj" in words or "M" in words or "Δ" in words
