"""Kinds of chords with the degrees that are added, altered and taken away, as qualities."""

from __future__ import annotations

from xml.etree.ElementTree import Element

from yellow_hinge.core.pitch.pitch import accidental, degree_parts
from yellow_hinge.core.symbols.quality import TENSIONS, Quality, sort_tensions
from yellow_hinge.io.musicxml.harmony import KINDS
from yellow_hinge.io.musicxml.score.measures import number_in

# Kinds of the MusicXML 4.0 type kind-value that the writer has no use for, and names of older files.
_MORE = {
    "dominant-11th": ("4", "5", "b7", "9"), "dominant-13th": ("3", "5", "b7", "9", "13"),
    "major-13th": ("3", "5", "7", "9", "13"),
    "minor-13th": ("b3", "5", "b7", "9", "13"), "italian": ("3", "b7"), "french": ("3", "b5", "b7"),
    "german": ("3", "5", "b7"), "neapolitan": ("3", "5"), "tristan": ("b3", "b5", "b7"), "pedal": ("5",),
    "dominant-seventh": ("3", "5", "b7"), "half-diminished-seventh": ("b3", "b5", "b7"), "suspended": ("4", "5"),
    "major-minor-seventh": ("b3", "5", "7"), "minor-major": ("b3", "5", "7"), "minor-major-seventh": ("b3", "5", "7"),
    "suspended-fourth-seventh": ("4", "5", "b7"), "augmented-major-seventh": ("3", "#5", "7"), "maj": ("3", "5"),
    "min": ("b3", "5"), "min7": ("b3", "5", "b7"), "maj7": ("3", "5", "7"), "dim": ("b3", "b5"), "aug": ("3", "#5"),
}  # fmt: skip
DEGREES = dict(KINDS) | _MORE
_PLACES = {"third": ("3", "b3"), "fifth": ("5", "b5", "#5"), "seventh": ("7", "b7", "bb7")}
# Degrees beside the third that are read an octave higher, and altered fifths beside another fifth.
_AS_TENSIONS = {"2": "9", "b2": "b9", "#2": "#9", "4": "11", "#4": "#11", "b6": "b13"}
_AS_COLOURS = {"b5": "#11", "#5": "b13"}


def degrees_in(element: Element) -> list[Element]:
    """What a chord symbol changes in its kind."""
    return [each for each in element.findall("degree") if 1 <= number_in(each, "degree-value") <= 13]


def with_degrees(kind: tuple[str, ...], element: Element) -> tuple[str, ...]:
    """The degrees of a kind with what is added, altered and taken away."""
    found, added = list(kind), set[str]()
    for each in degrees_in(element):
        number, alter = number_in(each, "degree-value"), number_in(each, "degree-alter")
        what = (each.findtext("degree-type") or "add").strip()
        there = [degree for degree in found if degree_parts(degree)[0] == number]
        if what == "subtract" or abs(alter) > 2:
            found = [degree for degree in found if degree not in there or what != "subtract"]
            continue
        new = _changed(number, alter, there, what)
        found = [degree for degree in found if degree not in there or degree in added]
        found += [new] if new not in found else []
        added.add(new)
    return tuple(found)


def _changed(number: int, alter: int, there: list[str], what: str) -> str:
    """A degree as it is after a change. An alteration of a degree below the octave is counted from the kind's own; an
    added seventh from the dominant's, so that no sign is the minor one.
    """
    own = degree_parts(there[0])[1] if there and what == "alter" and number < 8 else 0
    if own and abs(own + alter) <= 1 and own * alter <= 0:
        alter += own
    elif not there and what != "alter" and number == 7 and alter > -1:
        alter = min(0, alter - 1)
    return f"{accidental(alter)}{number}"


def _first(places: tuple[str, ...], there: set[str]) -> str:
    return next((degree for degree in places if degree in there), "")


def quality_of(degrees: tuple[str, ...]) -> Quality:
    """A quality from degrees; what has no place in one is left out."""
    there = set(degrees)
    third, fifth, seventh = (_first(places, there) for places in _PLACES.values())
    third = third or _first(("4", "2"), there)
    tensions = there & set(TENSIONS)
    tensions |= {_AS_TENSIONS[degree] for degree in there & set(_AS_TENSIONS) - {third}}
    fifths = [degree for degree in _PLACES["fifth"] if degree in there]
    if len(fifths) > 1:
        tensions |= {_AS_COLOURS[degree] for degree in set(fifths) & set(_AS_COLOURS)}
        fifth = "5"
    return Quality(third, fifth, "6" if "6" in there else "", seventh, sort_tensions(tensions))
