"""Reading the chord symbols of a score: a kind with its words, and the degrees that differ from it."""

from __future__ import annotations

from fractions import Fraction
from xml.etree.ElementTree import Element

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import LETTERS, Note, degree_parts, degree_semitones, spell
from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import Quality
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.musicxml.score.degrees import DEGREES, degrees_in, quality_of, with_degrees
from yellow_hinge.io.musicxml.score.measures import Transposition, Written, number_in

_SILENT = ("n.c.", "nc", "n.c", "no chord")


class Harmonies:
    """Reads symbols one by one, and keeps what has to be said of them."""

    def __init__(self) -> None:
        self.report: list[str] = []
        self.said_of: set[str] = set()

    def read(self, mark: Written, key: Key | None, where: str) -> str | None:
        """A symbol as it is written in a chart, NO_CHORD, or None for one that has to be left out."""
        kind = mark.element.find("kind")
        value = ((kind.text if kind is not None else "") or "").strip().lower()
        words = ((kind.get("text") if kind is not None else "") or "").strip()
        if value == "none" or words.lower() in _SILENT:
            return NO_CHORD
        root = _root(mark.element, mark.transposed, key)
        if root is None:
            return self._by_function(mark.element, value, key, where)
        return self._written(mark, root, value, words, where)

    def _written(self, mark: Written, root: Note, value: str, words: str, where: str) -> str:
        """A symbol with a root; in the player's own way of writing it, where that says the same."""
        quality = self._quality(mark.element, str(root), value, words, where)
        bass = _bass(mark.element, mark.transposed, root, quality)
        text = write_symbol(Chord(root, quality, None if bass == root else bass))
        chord = _chord(text)
        if chord is None:
            return self._triad(root, quality, text, where)
        if words and not mark.element.findall("degree"):
            own = f"{root}{words}{f'/{bass}' if bass is not None and bass != root else ''}"
            return own if _chord(own) == chord else text
        return text

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
        if value in DEGREES and not found.quality.seventh:
            found = msgspec.structs.replace(found, quality=quality_of(("1", *DEGREES[value])))
        self._once("chords that are written as functions or numerals were read in their key")
        return write_symbol(found)

    def _once(self, words: str) -> None:
        if words not in self.said_of:
            self.said_of.add(words)
            self.report.append(words)

    @staticmethod
    def _strange(root: str, value: str, words: str, where: str) -> list[str]:
        """What has to be said of a kind that is not known."""
        if words:
            return [f"{where}: the chord {root + words!r} is only partly understood"]
        said = f"{where}: the chord kind {value[:30]!r} is not known; its triad stands in its place"
        return [said] if value != "other" else []

    def _quality(self, element: Element, root: str, value: str, words: str, where: str) -> Quality:
        """What stands over the root: by its words where there are any, else by its kind."""
        kind = ("1",) if value == "other" and not words else ("1", *DEGREES.get(value, ("3", "5")))
        by_kind = quality_of(with_degrees(kind, element))
        known = value in DEGREES
        spoken = _chord(f"{root}{words}") if words else None
        if spoken is None:
            self.report += [] if known else self._strange(root, value, words, where)
            return by_kind
        found = _by_words(spoken.quality, by_kind, element)
        if known and not (_near(found, by_kind) or _same_sound(found, by_kind) or found.alt):
            self.report.append(
                f"{where}: the chord reads {root + words!r} and is called {value}; it was read as it is written"
            )
        return found


def _by_words(spoken: Quality, by_kind: Quality, element: Element) -> Quality:
    """A quality by its words, with the degrees that they do not say."""
    if spoken == by_kind or spoken.alt:
        return spoken
    full = quality_of(with_degrees(spoken.degrees, element))
    same = full == by_kind or _same_sound(full, by_kind)
    return full if same or not _covers(spoken, element) else spoken


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
    changes = [(number_in(each, "degree-value"), (each.findtext("degree-type") or "")) for each in degrees_in(element)]
    return all(number in said or what == "subtract" for number, what in changes)


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
