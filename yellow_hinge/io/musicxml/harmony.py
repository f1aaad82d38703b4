"""Chord symbols as MusicXML says them: a kind, and the degrees in which the chord differs from it."""

from __future__ import annotations

from xml.etree.ElementTree import Element, SubElement

from yellow_hinge.core.pitch.pitch import LETTERS, Note, degree_parts, pretty_signs
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import Quality
from yellow_hinge.core.symbols.writing import write_quality, write_symbol

# Kinds of the MusicXML 4.0 type kind-value with their degrees.
KINDS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("major", ("3", "5")), ("minor", ("b3", "5")), ("augmented", ("3", "#5")), ("diminished", ("b3", "b5")),
    ("dominant", ("3", "5", "b7")), ("major-seventh", ("3", "5", "7")), ("minor-seventh", ("b3", "5", "b7")),
    ("diminished-seventh", ("b3", "b5", "bb7")), ("augmented-seventh", ("3", "#5", "b7")),
    ("half-diminished", ("b3", "b5", "b7")), ("major-minor", ("b3", "5", "7")), ("major-sixth", ("3", "5", "6")),
    ("minor-sixth", ("b3", "5", "6")), ("dominant-ninth", ("3", "5", "b7", "9")),
    ("major-ninth", ("3", "5", "7", "9")), ("minor-ninth", ("b3", "5", "b7", "9")),
    ("dominant-11th", ("3", "5", "b7", "9", "11")), ("major-11th", ("3", "5", "7", "9", "11")),
    ("minor-11th", ("b3", "5", "b7", "9", "11")), ("suspended-second", ("2", "5")), ("suspended-fourth", ("4", "5")),
    ("power", ("5",)),
)  # fmt: skip
# How far from the kind nearest in degrees: a note that is too much is worse than one to add.
_ADD, _SUBTRACT, _ALTER, _ALTER_TENSION = 2, 5, 1, 3


def _changes(quality: Quality, kind: tuple[str, ...]) -> list[tuple[str, str]]:
    """(what is done, degree) for every degree in which a quality differs from a kind."""
    mine = [degree for degree in quality.degrees if degree != "1"]
    less = {degree_parts(degree)[0]: degree for degree in kind if degree not in mine}
    altered, added = [], []
    for degree in mine:
        if degree not in kind:
            old = less.pop(degree_parts(degree)[0], None)
            altered += [("alter", degree)] if old else []
            added += [] if old else [("add", degree)]
    return [*altered, *added, *(("subtract", degree) for degree in less.values())]


def kind_of(quality: Quality) -> tuple[str, list[tuple[str, str]]]:
    """The kind that is nearest to a quality, and what is to be done to it."""
    found = [(name, _changes(quality, degrees)) for name, degrees in KINDS]
    return min(found, key=lambda one: sum(_price(what, degree) for what, degree in one[1]))


def _price(what: str, degree: str) -> int:
    if what == "alter":
        return _ALTER if degree_parts(degree)[0] < 8 else _ALTER_TENSION
    return _ADD if what == "add" else _SUBTRACT


def _degree_alter(what: str, degree: str) -> int:
    """The alteration of a degree: of an added one against a dominant chord, of an altered one against the kind's."""
    number, alter = degree_parts(degree)
    if what == "subtract":
        return 0
    if what == "add" and number == 7:
        return alter + 1
    return alter


def _note(parent: Element, name: str, note: Note) -> None:
    inside = SubElement(parent, name)
    SubElement(inside, f"{name}-step").text = LETTERS[note.letter]
    if note.alter:
        SubElement(inside, f"{name}-alter").text = str(note.alter)


def harmony(chord: Chord | None, pretty: bool = False) -> Element:
    """A chord symbol, or the sign that nothing is played. `pretty`: as it is engraved, in words
    with music signs alone."""
    made = Element("harmony", {"print-frame": "no"})
    if chord is None:
        root = SubElement(made, "root")
        SubElement(root, "root-step", {"text": ""}).text = "C"
        SubElement(made, "kind", {"text": "N.C."}).text = "none"
        return made
    _note(made, "root", chord.root)
    name, changes = kind_of(chord.quality)
    words = write_quality(chord.quality)
    if chord.stack is not None:  # what stands over it is told after its own name
        words = write_symbol(chord.stack[1])[len(str(chord.root)) :] + f" under {write_symbol(chord.stack[0])}"
    SubElement(made, "kind", {"text": pretty_signs(words) if pretty else words}).text = name
    if chord.bass is not None:
        _note(made, "bass", chord.bass)
    for what, degree in changes if not pretty else ():  # the engraver would write them after the words
        inside = SubElement(made, "degree", {"print-object": "no"})
        SubElement(inside, "degree-value").text = str(degree_parts(degree)[0])
        SubElement(inside, "degree-alter").text = str(_degree_alter(what, degree))
        SubElement(inside, "degree-type").text = what
    return made
