"""What it costs that a note sounds twice: by its degree, by what the chord does and by the manner."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.symbols.quality import Quality, chord_class
from yellow_hinge.core.tables import read_table

USUAL = "pop"  # the manner whose prices hold where none is chosen
_HALF = frozenset(("b9", "#9", "#11", "b13", "#5", "b5"))  # dear inside a hand too, as is a leading tone


class _Doubling(msgspec.Struct, frozen=True, rename={"is_": "is"}):
    prices: tuple[float, ...]
    degree: tuple[str, ...] = ()
    classes: tuple[str, ...] = ()
    bass: Literal["", "own", "third", "fifth", "foreign", "root"] = ""
    is_: Literal["", "five", "secondary"] = ""


class _Octave(msgspec.Struct, frozen=True):
    left: tuple[float, ...]
    right: tuple[float, ...]


class _File(msgspec.Struct, frozen=True):
    columns: tuple[str, ...]
    octave: _Octave
    row: tuple[_Doubling, ...]


class Doubling(NamedTuple):
    """Prices in units by semitones above the root: `between` of a note that both hands sound, `within` of one that the
    right hand has twice; `bass` of an octave of the bass in a left hand that has it.
    """

    between: tuple[float, ...] = (0.0,) * 12
    within: tuple[float, ...] = (0.0,) * 12
    bass: float = 0.0


@lru_cache(maxsize=1)
def _file() -> _File:
    return read_table(__file__, _File)


def _bass_is(quality: Quality, bass: int) -> str:
    if bass == 0:
        return "root"
    names = {"third": quality.third, "fifth": quality.fifth}
    return next((name for name, degree in names.items() if degree and degree_pc(degree) == bass), "foreign")


def _holds(row: _Doubling, quality: Quality, degree: str, bass: int, does: str) -> bool:
    if (row.degree and degree not in row.degree) or (row.classes and chord_class(quality) not in row.classes):
        return False
    if row.is_ and row.is_ != does:
        return False
    pc = degree_pc(degree)
    if row.bass == "own":
        return pc == bass
    if row.bass == "foreign":
        return pc == bass and bass not in {degree_pc(each) for each in quality.degrees}
    return not row.bass or row.bass == _bass_is(quality, bass)


def does(quality: Quality, step: int) -> str:
    """What a chord does, `step` its root in semitones above the tonic: "five" for a major triad or dominant on the
    fifth step, "secondary" for a dominant on another one, else "".
    """
    if quality.third != "3":
        return ""
    if step == 7 and not quality.sixth and quality.seventh in ("", "b7"):
        return "five"
    return "secondary" if chord_class(quality) == "dominant" else ""


_NAMES = ("1", "b9", "9", "b3", "3", "11", "#11", "5", "b13", "6", "b7", "7")


@lru_cache(maxsize=8192)
def doubling(quality: Quality, bass: int, step: int, manner: str) -> Doubling:
    """The prices of a chord: `bass` in semitones above its root, `step` of its root above the tonic, `manner` by id."""
    data = _file()
    column = data.columns.index(manner if manner in data.columns else USUAL)
    written = {degree_pc(degree): degree for degree in quality.degrees}
    what = does(quality, step)
    between, within = [], []
    frame = data.octave.right[column]
    for pc in range(12):
        degree = written.get(pc, _NAMES[pc])
        row = next(row for row in data.row if _holds(row, quality, degree, bass, what))
        price = row.prices[column]
        between.append(price)
        within.append(max(frame, price / 2) if degree in _HALF or (degree == "3" and what) else frame)
    return Doubling(tuple(between), tuple(within), data.octave.left[column])
