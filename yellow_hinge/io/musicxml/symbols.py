"""Reading the chord symbols of a score: a kind with its words, and the degrees that differ from it."""

from __future__ import annotations

from fractions import Fraction
from xml.etree.ElementTree import Element

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import LETTERS, Note, accidental, degree_parts, degree_semitones, spell
from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import TENSIONS, Quality, sort_tensions
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.musicxml.harmony import KINDS
from yellow_hinge.io.musicxml.measures import Transposition, Written, number_in

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
_DEGREES = dict(KINDS) | _MORE
_SILENT = ("n.c.", "nc", "n.c", "no chord")
_PLACES = {"third": ("3", "b3"), "fifth": ("5", "b5", "#5"), "seventh": ("7", "b7", "bb7")}


class Harmonies:
    """Reads symbols one by one, and keeps what has to be said of them."""

    def __init__(self) -> None:
        self.report: list[str] = []
        self.said_of: set[str] = set()

    def read(self, mark: Written, key: Key | None, where: str) -> str | None:
        """A symbol as it is written in a chart, NO_CHORD, or None for one that has to be left out."""
        element = mark.element
        kind = element.find("kind")
        value = ((kind.text if kind is not None else "") or "").strip().lower()
        words = ((kind.get("text") if kind is not None else "") or "").strip()
        if value == "none" or words.lower() in _SILENT:
            return NO_CHORD
        root = _root(element, mark.transposed, key)
        if root is None:
            return self._by_function(element, value, key, where)
        quality = self._quality(element, str(root), value, words, where)
        bass = _bass(element, mark.transposed, root, quality)
        text = write_symbol(Chord(root, quality, None if bass == root else bass))
        if words and not element.findall("degree"):  # the player's own way of writing it, where it says the same
            own = f"{root}{words}{f'/{bass}' if bass is not None and bass != root else ''}"
            text = own if _chord(own) == _chord(text) and _chord(own) is not None else text
        return text if _chord(text) is not None else self._triad(root, quality, text, where)

    def _triad(self, root: Note, quality: Quality, text: str, where: str) -> str:
        self.report.append(f"{where}: the chord {text!r} is only partly understood; its triad stands in its place")
        return f"{root}{'m' if quality.third == 'b3' else ''}"

    def _by_function(self, element: Element, value: str, key: Key | None, where: str) -> str | None:
        """A chord that has a Roman numeral in place of its root."""
        text = (element.findtext("function") or "").strip()
        found = _chord(text, key) if text and key is not None else None
        if found is None:
            self.report.append(f"{where}: a chord without a root was left out; write it in letters")
            return None
        if value in _DEGREES and not found.quality.seventh:
            found = msgspec.structs.replace(found, quality=_quality_of(("1", *_DEGREES[value])))
        self._once("chords that are written as functions or numerals were read in their key")
        return write_symbol(found)

    def _once(self, words: str) -> None:
        if words not in self.said_of:
            self.said_of.add(words)
            self.report.append(words)

    def _quality(self, element: Element, root: str, value: str, words: str, where: str) -> Quality:
        by_kind = _with_degrees(("1", *_DEGREES.get(value, ("3", "5"))), element)
        if value == "other" and not words:
            by_kind = _with_degrees(("1",), element)
        by_kind_quality = _quality_of(by_kind)
        if not words:
            if value not in _DEGREES and value != "other":
                self.report.append(
                    f"{where}: the chord kind {value[:30]!r} is not known; its triad stands in its place"
                )
            return by_kind_quality
        spoken = _chord(f"{root}{words}")
        if spoken is None:
            if value not in _DEGREES:
                self.report.append(f"{where}: the chord {root + words!r} is only partly understood")
            return by_kind_quality
        full = _quality_of(_with_degrees(spoken.quality.degrees, element))
        if spoken.quality == by_kind_quality or spoken.quality.alt:
            return spoken.quality
        if full == by_kind_quality or _same_sound(full, by_kind_quality):
            return full
        if value in _DEGREES and not _near(spoken.quality, by_kind_quality):
            self.report.append(
                f"{where}: the chord reads {root + words!r} and is called {value}; it was read as it is written"
            )
        return spoken.quality if _covers(spoken.quality, element) else full


def _chord(text: str, key: Key | None = None) -> Chord | None:
    try:
        return parse_symbol(text, key)
    except UserError:
        return None


def _same_sound(one: Quality, other: Quality) -> bool:
    return {degree_semitones(d) % 12 for d in one.degrees} == {degree_semitones(d) % 12 for d in other.degrees}


def _near(one: Quality, other: Quality) -> bool:
    """Whether two qualities are one chord with more or less on top, which programs say in their own ways."""
    places = [(q.third, q.fifth, q.seventh) for q in (one, other)]
    return all(not a or not b or a == b for a, b in zip(*places, strict=True))


def _covers(quality: Quality, element: Element) -> bool:
    """Whether the words of a symbol say every degree that is added or altered beside them."""
    said = {degree_parts(degree)[0] for degree in quality.degrees}
    changes = [(number_in(each, "degree-value"), (each.findtext("degree-type") or "")) for each in _degrees(element)]
    return all(number in said or what == "subtract" for number, what in changes)


def _degrees(element: Element) -> list[Element]:
    return [each for each in element.findall("degree") if 1 <= number_in(each, "degree-value") <= 13]


def _with_degrees(kind: tuple[str, ...], element: Element) -> tuple[str, ...]:
    """The degrees of a kind with what is added, altered and taken away."""
    found, added = list(kind), list[str]()
    for each in _degrees(element):
        number, alter = number_in(each, "degree-value"), number_in(each, "degree-alter")
        what = (each.findtext("degree-type") or "add").strip()
        there = [degree for degree in found if degree_parts(degree)[0] == number]
        if what == "subtract":
            found = [degree for degree in found if degree not in there]
        elif abs(alter) > 2:
            continue
        elif what == "alter" or there:
            own = degree_parts(there[0])[1] if there and what == "alter" and number < 8 else 0
            old = own if abs(own + alter) <= 1 and own * alter <= 0 else 0
            new = f"{accidental(alter + old)}{number}"
            found = [degree for degree in found if degree not in there or degree in added]
            found += [new] if new not in found else []
            added.append(new)
        else:
            # an added seventh is counted from the dominant's: no sign is the minor one
            sign = accidental(min(0, alter - 1) if number == 7 and alter > -1 else alter)
            found.append(f"{sign}{number}")
            added.append(found[-1])
    return tuple(found)


def _quality_of(degrees: tuple[str, ...]) -> Quality:
    """A quality from degrees; what has no place in one is left out."""
    there = set(degrees)
    third = next((d for d in _PLACES["third"] if d in there), "")
    fifth = next((d for d in _PLACES["fifth"] if d in there), "")
    seventh = next((d for d in _PLACES["seventh"] if d in there), "")
    tensions = {d for d in there if d in TENSIONS}
    second = {"2": "9", "b2": "b9", "#2": "#9"}
    fourth = {"4": "11", "#4": "#11"}
    if not third:
        third = "4" if "4" in there else "2" if "2" in there else ""
    for degree, tension in (second | fourth).items():
        if degree in there and degree != third:
            tensions.add(tension)
    if {"b6", "#6"} & there:
        tensions |= {"b13"} if "b6" in there else set()
    both = {"b5", "#5"} <= there or ({"b5", "5"} <= there or {"5", "#5"} <= there)
    if both:  # an altered fifth beside another one is a tension
        tensions |= {"#11"} if "b5" in there else set()
        tensions |= {"b13"} if "#5" in there else set()
        fifth = "5" if "5" in there or {"b5", "#5"} <= there else fifth
    return Quality(third, fifth, "6" if "6" in there else "", seventh, sort_tensions(tensions))


def _note(element: Element, path: str, moved: Transposition) -> Note | None:
    inside = element.find(path)
    name = path.rpartition("/")[2]
    step = ((inside.findtext(f"{name}-step") if inside is not None else "") or "").strip().upper()
    if inside is None or len(step) != 1 or step not in LETTERS:
        return None
    alter = number_in(inside, f"{name}-alter")
    note = moved.note(Note(LETTERS.index(step), alter))
    return note if abs(note.alter) <= 2 else parse_key(_simple(note.pc)).tonic


def _simple(pc: int) -> str:
    return ("C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B")[pc % 12]


def _root(element: Element, moved: Transposition, key: Key | None) -> Note | None:
    """The root by its letter, or by the degree of a key that a numeral names."""
    found = _note(element, "root", moved)
    numeral = element.find("numeral")
    if found is not None or numeral is None:
        return found
    degree = number_in(numeral, "numeral-root")
    own = numeral.find("numeral-key")
    if own is not None:
        key = key_of(number_in(own, "numeral-fifths") + moved.fifths, own.findtext("numeral-mode") or "major") or key
    if key is None or not 1 <= degree <= 7:
        return None
    note = key.scale[degree - 1]
    alter = note.alter + number_in(numeral, "numeral-alter")
    return Note(note.letter, alter) if abs(alter) <= 2 else None


def _bass(element: Element, moved: Transposition, root: Note, quality: Quality) -> Note | None:
    """The bass by its letter, or by the inversion."""
    found = _note(element, "bass", moved)
    inversion = number_in(element, "inversion")
    if found is not None or not 1 <= inversion <= 3:
        return found
    degree = (quality.third, quality.fifth, quality.seventh or quality.sixth)[inversion - 1]
    return spell(root, degree) if degree else None


# Modes by the letter name of MusicXML, and how many fifths their tonic lies above that of major.
_MODES = {
    "major": 0, "ionian": 0, "minor": 3, "aeolian": 3, "dorian": 2, "phrygian": 4, "lydian": -1, "mixolydian": 1,
    "locrian": 5, "harmonic minor": 3, "melodic minor": 3,
}  # fmt: skip
_BY_FIFTHS = "FCGDAEB"


def key_of(fifths: int, mode: str) -> Key | None:
    """The key of a signature and a mode; None for a mode that is none. Signatures past seven signs turn round."""
    mode = mode.strip().lower()
    if mode not in _MODES or abs(fifths) > 14:
        return None
    while abs(fifths) > 7:
        fifths += 12 if fifths < 0 else -12
    place = fifths + _MODES[mode] + 1
    letter, alter = _BY_FIFTHS[place % 7], place // 7
    name = {"ionian": "major", "aeolian": "minor"}.get(mode, mode)
    return Key(Note(LETTERS.index(letter), alter), name)


def at_of(marks: list[Written], following: Fraction) -> list[tuple[Fraction, Written]]:
    """The symbols of a bar with the quarter where each begins. Some at one place share the time up to the next
    (`following` ends the bar).
    """
    ordered = sorted(marks, key=lambda mark: mark.at)
    found: list[tuple[Fraction, Written]] = []
    for n, mark in enumerate(ordered):
        same = [other for other in ordered if other.at == mark.at]
        if len(same) == 1:
            found.append((mark.at, mark))
            continue
        end = min((other.at for other in ordered if other.at > mark.at), default=following)
        place = sum(1 for other in ordered[:n] if other.at == mark.at)
        found.append((mark.at + (end - mark.at) * place / len(same), mark))
    return found
