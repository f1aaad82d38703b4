"""What stands over the bars of a score: names of sections, tempo, and signs of the way in words, glyphs or sound."""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction

from yellow_hinge.core.song.road import CODA, FINE, JUMPS, SEGNO, TO_CODA, signs_in
from yellow_hinge.io.musicxml.score.measures import Written
from yellow_hinge.io.texts.over_words import is_section_name

_TO = re.compile(r"\b(to|al|à la|zur)\b", re.IGNORECASE)
_SOUNDS = (
    ("segno", SEGNO), ("coda", CODA), ("tocoda", TO_CODA), ("fine", FINE), ("dacapo", "D.C."), ("dalsegno", "D.S."),
)  # fmt: skip
_BARE = ("D.C.", "D.S.")  # jumps without a goal, as sound has them
_UNITS = {
    "whole": Fraction(4), "half": Fraction(2), "quarter": Fraction(1), "eighth": Fraction(1, 2),
    "16th": Fraction(1, 4), "breve": Fraction(8),
}  # fmt: skip
_LATE = Fraction(3, 4)  # of a bar, from which a sign stands at its end


def section_name(marks: list[Written], full: Fraction) -> str:
    """The name of the section that begins in a bar: a rehearsal mark, or the usual words for one; "" for none."""
    rehearsals = (mark.text for mark in marks if mark.kind == "rehearsal" and mark.text)
    words = (mark.text for mark in marks if mark.kind == "words" and mark.at < full / 2)
    return next(rehearsals, "") or next(filter(is_section_name, words), "").strip(" :[]()")


def tempo_in(marks: list[Written]) -> Fraction | None:
    """Quarters a minute, as the first mark of a bar says."""
    return next(filter(None, map(_tempo, (mark for mark in marks if mark.kind in ("tempo", "sound")))), None)


def _tempo(mark: Written) -> Fraction | None:
    if mark.kind == "sound":
        return _decimal(mark.element.get("tempo", ""))
    unit = _UNITS.get((mark.element.findtext("beat-unit") or "").strip())
    speed = _decimal(mark.element.findtext("per-minute") or "")
    if unit is None or speed is None:
        return None
    return speed * unit * (2 - Fraction(1, 2 ** len(mark.element.findall("beat-unit-dot"))))


def _decimal(text: str) -> Fraction | None:
    found = re.search(r"\d{1,4}(?:\.\d{1,6})?", text)
    return Fraction(found[0]) if found and Fraction(found[0]) > 0 else None


def signs_of(marks: list[Written], length: Fraction) -> tuple[str, ...]:
    """The signs of the way that stand over a bar of so many quarters. A jump that is said in words is not said again by
    what a player of the file hears.
    """
    found = [sign for mark in marks for sign in _of(mark, marks, mark.at >= length * _LATE and mark.at > 0)]
    jumps = sorted((sign for sign in found if sign in JUMPS), key=lambda sign: sign in _BARE)
    return tuple(dict.fromkeys(sign for sign in found if sign not in JUMPS or sign == jumps[0]))


def _of(mark: Written, marks: list[Written], late: bool) -> Iterator[str]:
    """The signs that one mark is."""
    if mark.kind == "words":
        yield from _in_words(mark.text, late)
    elif mark.kind == "sound":
        yield from (sign for name, sign in _SOUNDS if mark.element.get(name, "no") not in ("no", ""))
    elif mark.kind in (SEGNO, CODA):
        beside = " ".join(m.text for m in marks if m.element is mark.element and m.kind == "words")
        yield from _glyph(mark, beside, late)


def _in_words(text: str, late: bool) -> Iterator[str]:
    signs, rest = signs_in(text)
    jumps = [sign for sign in signs if sign in JUMPS]
    if jumps:
        yield jumps[0]
    elif not re.sub(r"[\W_]", "", rest):
        yield from (TO_CODA if sign == CODA and late else sign for sign in signs)


def _glyph(mark: Written, beside: str, late: bool) -> Iterator[str]:
    """A segno or coda that is drawn; with words beside it that jump it is a part of them."""
    signs, _ = signs_in(beside)
    if mark.kind == SEGNO:
        yield from () if signs else (SEGNO,)
    elif not any(sign in JUMPS for sign in signs):
        told = mark.element.find("sound")
        leaves = late or _TO.search(beside) or (told is not None and told.get("tocoda"))
        yield TO_CODA if leaves else CODA
