"""The notes of one voice of a bar in MusicXML, and what stands above and below them."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple
from xml.etree.ElementTree import Element, SubElement

from yellow_hinge.core.pitch.pitch import LETTERS, Pitch
from yellow_hinge.core.sheet.bars import Measure, Sound, bar_length
from yellow_hinge.core.sheet.staves.notation import FLAGS, Beamable, Signs, Value, beams, values, written
from yellow_hinge.core.song.road import AT_BEGIN
from yellow_hinge.core.song.song import Meter

SIGNS = {0: "natural", 1: "sharp", -1: "flat", 2: "double-sharp", -2: "flat-flat"}
_HARMONY_TAIL = ("staff",)  # what stands after the offset of a harmony


GRACE_NOTE = Value(Fraction(0), "eighth")


class NotePiece(NamedTuple):
    """One written note value of a sound: where it begins in the bar, in quarters, and whether it is tied from the value
    before and to the next.
    """

    sound: Sound
    value: Value
    at: Fraction
    first: bool
    tied: tuple[bool, bool]


def pieces(sounds: list[Sound], made: Measure) -> list[NotePiece]:
    """The sounds of a bar as written values; a pickup lies at the end of its bar."""
    found, at = [], Fraction(0)
    short = max(Fraction(0), made.meter.beat_quarters * made.meter.beats - bar_length(made))
    for sound in sounds:
        row = written(at + short, sound.length, made.meter, not sound.pitches) or (GRACE_NOTE,)
        for place, value in enumerate(row):
            tied = (place > 0 or sound.tied[0], place < len(row) - 1 or sound.tied[1])
            found.append(NotePiece(sound, value, at, place == 0 and not sound.tied[0], tied))
            at += value.length
    return found


def _flags(piece: NotePiece) -> int:
    """The flags of a value that may be beamed; rests and grace notes have none."""
    return FLAGS.get(piece.value.name, 0) if piece.sound.pitches and piece.value.length else 0


def tuplets(found: list[NotePiece]) -> list[tuple[str, ...]]:
    """For every written value whether a tuplet starts or stops there: one lasts until whole binary values are full."""
    marks: list[tuple[str, ...]] = []
    full = Fraction(0)
    for place, piece in enumerate(found):
        here: tuple[str, ...] = ()
        if piece.value.actual > 1:
            here = ("start",) if not full else ()
            full += piece.value.length
            after = found[place + 1].value if place + 1 < len(found) else None
            if full.denominator & (full.denominator - 1) == 0 or after is None or after.actual != piece.value.actual:
                here, full = (*here, "stop"), Fraction(0)
        marks.append(here)
    return marks


def direction(kind: str, placement: str) -> tuple[Element, Element]:
    """A direction, and what it says."""
    made = Element("direction", {"placement": placement})
    return made, SubElement(SubElement(made, "direction-type"), kind)


def pedal(what: str) -> Element:
    """What the pedal does, out of as_struck.PEDALS, as a line below the lower staff."""
    made, inside = direction("pedal", "below")
    inside.attrib.update({"type": what, "line": "yes", "sign": "no"})
    SubElement(made, "staff").text = "2"
    return made


def rehearsal(name: str) -> Element:
    """The name of a section."""
    made, inside = direction("rehearsal", "above")
    inside.text = name
    return made


def words(text: str, bold: bool = False, placement: str = "below") -> Element:
    """Words between the staves, or above them."""
    made, inside = direction("words", placement)
    inside.text = text
    if bold:
        inside.set("font-weight", "bold")
    return made


# What a player of the score is told by the signs that are written as words.
_SOUNDS = {
    "fine": ("fine", "yes"),
    "to coda": ("tocoda", "coda"),
    "D.C.": ("dacapo", "yes"),
    "D.S.": ("dalsegno", "segno"),
}


def sign(name: str) -> Element:
    """A sign of the way through the song, out of road.SIGNS."""
    if name in AT_BEGIN:
        made, _ = direction(name, "above")
        SubElement(made, "sound", {name: name})
        return made
    made, inside = direction("words", "above")
    inside.text = name[:1].upper() + name[1:]
    SubElement(made, "sound", dict([_SOUNDS[name.partition(" al ")[0]]]))
    return made


def tempo(beats: int, meter: Meter) -> Element:
    """A metronome mark."""
    made, inside = direction("metronome", "above")
    value = values(meter.beat_quarters)[0]
    SubElement(inside, "beat-unit").text = value.name
    for _ in range(value.dots):
        SubElement(inside, "beat-unit-dot")
    SubElement(inside, "per-minute").text = str(beats)
    SubElement(made, "sound", {"tempo": f"{float(beats * meter.beat_quarters):g}"})
    return made


class Voice:
    """One voice of a bar. `staff` is 0 in a part with one staff; `stem` "up" or "down" where it is one of two."""

    def __init__(
        self, element: Element, made: Measure, divisions: int, staff: int, engraved: bool, number: int = 0,
        stem: str = "",
    ) -> None:  # fmt: skip
        self.element, self.made, self.divisions, self.staff = element, made, divisions, staff
        self.engraved, self.number = engraved, str(number or staff or 1)
        self.stem = stem
        self.signs = Signs(made.key)
        self.waiting: list[tuple[Fraction, Element]] = []

    def _count(self, quarters: Fraction) -> str:
        return str(int(quarters * self.divisions))

    def back(self, length: Fraction) -> None:
        """Go back to the beginning of the bar."""
        SubElement(SubElement(self.element, "backup"), "duration").text = self._count(length)

    def add(self, at: Fraction, element: Element) -> None:
        """Something above or below the notes, so many quarters after the beginning of the bar."""
        self.waiting.append((at, element))

    def write(self, sounds: list[Sound]) -> None:
        """The notes, and what was added, each before the note that sounds there."""
        if not any(sound.pitches for sound in sounds):
            self._rest(bar_length(self.made))
            return
        found = pieces(sounds, self.made)
        whole = self.made.meter.beat_quarters * self.made.meter.beats
        short = whole - bar_length(self.made)
        joined = beams([Beamable(piece.at + short, _flags(piece)) for piece in found], self.made.meter)
        for piece, beam, tuplet in zip(found, joined, tuplets(found), strict=True):
            self._before(piece.at, piece.at + piece.value.length)
            self._piece(piece, beam, tuplet)
        self._end()

    def _end(self) -> None:
        """What stands after the last note."""
        self.element.extend(element for _, element in self.waiting)
        self.waiting = []

    def _before(self, at: Fraction, end: Fraction) -> None:
        """What belongs to a stretch of the bar; what begins inside it says by how much it is late."""
        rest = []
        for when, element in self.waiting:
            if when >= end:
                rest.append((when, element))
                continue
            if when > at:
                offset = Element("offset")
                offset.text = self._count(when - at)
                tail = next((i for i, e in enumerate(element) if e.tag in ("sound", *_HARMONY_TAIL)), len(element))
                element.insert(tail, offset)
            self.element.append(element)
        self.waiting = rest

    def _rest(self, length: Fraction) -> None:
        self._before(Fraction(0), length)
        note = SubElement(self.element, "note")
        SubElement(note, "rest", {"measure": "yes"})
        SubElement(note, "duration").text = self._count(length)
        SubElement(note, "voice").text = self.number
        if self.staff:
            SubElement(note, "staff").text = str(self.staff)
        self._end()

    def _piece(self, piece: NotePiece, beam: tuple[str, ...], tuplet: tuple[str, ...]) -> None:
        pitches: tuple[Pitch | None, ...] = piece.sound.pitches or (None,)
        for place, pitch in enumerate(pitches):
            note = SubElement(self.element, "note")
            if not piece.value.length:
                SubElement(note, "grace", {"slash": "yes"})
            if place:
                SubElement(note, "chord")
            self._sounding(note, piece, pitch)
            SubElement(note, "voice").text = self.number
            self._value(note, piece, pitch)
            if self.staff:
                SubElement(note, "staff").text = str(self.staff)
            if place == 0:
                for number, what in enumerate(beam, 1):
                    SubElement(note, "beam", {"number": str(number)}).text = what
            self._notations(note, piece, place, pitch, tuplet if place == 0 else ())

    def _sounding(self, note: Element, piece: NotePiece, pitch: Pitch | None) -> None:
        if pitch is None:
            SubElement(note, "rest")
        else:
            inside = SubElement(note, "pitch")
            SubElement(inside, "step").text = LETTERS[pitch.note.letter]
            if pitch.note.alter:
                SubElement(inside, "alter").text = str(pitch.note.alter)
            SubElement(inside, "octave").text = str(pitch.octave)
        if piece.value.length:
            SubElement(note, "duration").text = self._count(piece.value.length)
        for on, kind in zip(piece.tied if pitch is not None else (), ("stop", "start"), strict=False):
            if on:
                SubElement(note, "tie", {"type": kind})

    def _value(self, note: Element, piece: NotePiece, pitch: Pitch | None) -> None:
        value = piece.value
        SubElement(note, "type").text = value.name
        for _ in range(value.dots):
            SubElement(note, "dot")
        sign = self.signs.sign(pitch) if pitch is not None and not piece.tied[0] else None
        if sign is not None:
            SubElement(note, "accidental").text = SIGNS[sign]
        if value.actual > 1:
            inside = SubElement(note, "time-modification")
            SubElement(inside, "actual-notes").text = str(value.actual)
            SubElement(inside, "normal-notes").text = str(value.normal)
        if self.stem and pitch is not None:
            SubElement(note, "stem").text = self.stem
        if "ghost" in piece.sound.signs:
            SubElement(note, "notehead", {"parentheses": "yes"}).text = "normal"

    def _notations(
        self, note: Element, piece: NotePiece, place: int, pitch: Pitch | None, tuplet: tuple[str, ...]
    ) -> None:
        ties = [kind for on, kind in zip(piece.tied, ("stop", "start"), strict=True) if on and pitch is not None]
        mine = self._fingers(piece, place)
        signs = piece.sound.signs if piece.first and pitch is not None else ()
        rolls, accents = "roll" in signs and len(piece.sound.pitches) > 1, "accent" in signs and place == 0
        if not (ties or mine or tuplet or rolls or accents):
            return
        inside = SubElement(note, "notations")
        for kind in ties:
            SubElement(inside, "tied", {"type": kind})
        for kind in tuplet:
            SubElement(inside, "tuplet", {"type": kind, "number": "1"})
        if rolls:
            SubElement(inside, "arpeggiate")
        if accents:
            SubElement(SubElement(inside, "articulations"), "accent")
        if mine:
            technical = SubElement(inside, "technical")
            for finger in mine:
                SubElement(technical, "fingering").text = str(finger)

    def _fingers(self, piece: NotePiece, place: int) -> tuple[int, ...]:
        """The fingers that stand at a note: its own, or in an engraved score all of them at the first."""
        fingers = piece.sound.fingers if piece.first else ()
        if self.engraved:
            return fingers if place == 0 else ()
        return fingers[place : place + 1]
