"""Writing MusicXML 4.0: the hands on two staves with chord symbols, fingers, words, and the tune on a staff above."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable
from fractions import Fraction
from math import lcm
from typing import NamedTuple
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.pitch.key import Key, fifths
from yellow_hinge.core.pitch.pitch import Pitch
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.fills.degree_line import line_tones
from yellow_hinge.core.sheet.as_struck import CHANGE, DOWN, UP, StruckBar, one_stack, struck_bars, swing_said
from yellow_hinge.core.sheet.bars import Measure, Sound, bar_length, line_sounds, measures, tune_sounds
from yellow_hinge.core.sheet.cells import RESTS
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.sheet.staves.breaking import line_breaks, room_of, short_lines
from yellow_hinge.core.sheet.staves.notation import clef_for, values
from yellow_hinge.core.song.road import AT_BEGIN, CODA, TO_CODA
from yellow_hinge.core.song.song import Memo, Meter, Song, ending_words
from yellow_hinge.core.song.timeline import Moment, bar_number
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.musicxml.harmony import harmony
from yellow_hinge.io.musicxml.held_hands import MEMO, held_hands, write_held
from yellow_hinge.io.musicxml.notes import Voice, pedal, pieces, rehearsal, sign, tempo, words

_TYPE = '<?xml version="1.0" encoding="UTF-8"?>\n'
_DOCTYPE = (
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
    '"http://www.musicxml.org/dtds/partwise.dtd">\n'
)
TUNE, LINE, KEYS = "Tune", "Line", "Keys"


class Notation(NamedTuple):
    """What a score shows besides the hands. `engraved`: it is for our own engraver, which wants the fingers of a chord
    on one of its notes, and only what is written once; `system` is then the width of a line in mm of its staves at
    their own size, `bars` how many it has at most, 0 for as many as phrases have. `struck`: the hands as they are
    struck, and not as they are held; `pedal`: with what it does.
    """

    fingers: bool = True
    cues: bool = True
    tune: bool = True
    notes: bool = True
    engraved: bool = False
    system: float = 0.0
    bars: int = 0
    struck: bool = False
    pedal: bool = True
    line: bool = True


USUAL = Notation()


class ScorePart:
    """One part of the score, bar by bar."""

    def __init__(self, score: Score, name: str, staves: int) -> None:
        self.score, self.staves = score, staves
        self.element = Element("part", {"id": name})
        self.clefs = ["G", "F"][:staves]
        self.before: tuple[Key | None, Meter | None] = (None, None)

    def measure(self, number: str, made: Measure, voices: list[list[Sound]]) -> Element:
        """The element of a bar that has these voices, with its left line and attributes."""
        element = SubElement(self.element, "measure", {"number": number})
        if number == "0":
            element.set("implicit", "yes")
        if self.score.wants.engraved and len(self.element) - 1 in self.score.breaks:
            SubElement(element, "print", {"new-system": "yes"})
        self._left(element, made)
        self._attributes(element, made, voices)
        return element

    def _left(self, element: Element, made: Measure) -> None:
        if made.opens or made.bracket[0]:
            line = SubElement(element, "barline", {"location": "left"})
            if made.opens:
                SubElement(line, "bar-style").text = "heavy-light"
            if made.bracket[0]:
                SubElement(line, "ending", {"number": ending_words(made.bar.ending), "type": "start"})
            if made.opens:
                SubElement(line, "repeat", {"direction": "forward"})

    def right(self, element: Element, made: Measure, last: bool) -> None:
        """The bar line at the end of a bar."""
        if not (made.closes or made.bracket[1] or last):
            return
        line = SubElement(element, "barline", {"location": "right"})
        if made.closes or last:
            SubElement(line, "bar-style").text = "light-heavy"
        if made.bracket[1]:
            SubElement(line, "ending", {"number": ending_words(made.bar.ending), "type": "stop"})
        if made.closes:
            repeat = SubElement(line, "repeat", {"direction": "backward"})
            if made.closes > 2:
                repeat.set("times", str(made.closes))

    def _attributes(self, element: Element, made: Measure, voices: list[list[Sound]]) -> None:
        found = Element("attributes")
        first = self.before == (None, None)
        if first:
            SubElement(found, "divisions").text = str(self.score.divisions)
        if made.key != self.before[0]:
            key = SubElement(found, "key")
            SubElement(key, "fifths").text = str(fifths(made.key))
            SubElement(key, "mode").text = "minor" if made.key.mode.endswith(" minor") else made.key.mode
        if made.meter != self.before[1]:
            time = SubElement(found, "time")
            SubElement(time, "beats").text = str(made.meter.upper)
            SubElement(time, "beat-type").text = str(made.meter.lower)
        if first and self.staves > 1:
            SubElement(found, "staves").text = str(self.staves)
        for staff, voice in enumerate(voices):
            notes = [pitch.midi for sound in voice for pitch in sound.pitches]
            clef = clef_for(notes, self.clefs[staff]) if self.staves > 1 else "G"
            if first or clef != self.clefs[staff]:
                self.clefs[staff] = clef
                inside = SubElement(found, "clef", {"number": str(staff + 1)} if self.staves > 1 else {})
                SubElement(inside, "sign").text = clef
                SubElement(inside, "line").text = "2" if clef == "G" else "4"
        self.before = (made.key, made.meter)
        if len(found):
            element.append(found)


class Score:
    """The whole score."""

    def __init__(
        self, song: Song, solution: Solution, memos: tuple[Memo, ...], wants: Notation, playing: Playing
    ) -> None:
        self.song, self.solution, self.wants = song, solution, wants
        self.writer = Writer(song, solution, memos)
        self.measures = measures(song, solution, not wants.engraved)
        self.voicings = {voicing.here: voicing for voicing in solution.voicings}
        self.swing = swing_said(solution, song, playing).capitalize() if wants.struck else ""
        self.struck = self._struck(playing)
        self.with_tune = wants.tune and any(tone.pitch for made in self.measures for tone in made.bar.tune)
        self.line = self._line(playing)
        self.divisions = self._divisions()
        self.coda = any(TO_CODA in made.bar.signs for made in self.measures)
        self.rooms = [
            room_of(made, struck, wants.cues, self.line.get(made.moments, []))
            for made, struck in zip(self.measures, self.struck, strict=True)
        ]
        self.breaks = frozenset[int]()
        if wants.engraved:
            self.breaks = line_breaks(self.measures, self.rooms, wants.system, wants.bars)

    def _divisions(self) -> int:
        found = 1
        for made, struck in zip(self.measures, self.struck, strict=True):
            unit = made.meter.beat_quarters
            for slot in made.bar.slots:
                found = lcm(found, *(value.length.denominator for value in values(slot.beats * unit)))
            voices = [tune_sounds(made, None)[0], self.line.get(made.moments, [])]
            voices += itertools.chain.from_iterable(struck.hands.values())
            for piece in itertools.chain.from_iterable(pieces(sounds, made) for sounds in voices):
                found = lcm(found, piece.value.length.denominator)
        return lcm(found, *(at.denominator for bar in self.struck for at, _ in bar.pedals))

    def _line(self, playing: Playing) -> dict[tuple[Moment, ...], list[Sound]]:
        """What the kept line does in every bar where it does something, by the bar's moments."""
        tones = line_tones(self.solution.moments, playing.lines) if self.wants.line else ()
        found = {made.moments: line_sounds(made, self.solution.moments, tones) for made in self.measures if tones}
        return {own: sounds for own, sounds in found.items() if sounds}

    @property
    def short(self) -> frozenset[int]:
        """The engraved lines (from 0) that are too short to be stretched."""
        return short_lines(self.breaks, self.rooms, self.wants.system, self.wants.bars)

    def _struck(self, playing: Playing) -> list[StruckBar]:
        """What both hands do in every bar."""
        if self.wants.struck:
            return struck_bars(self.solution, self.song, playing, self.measures, self.wants.fingers)
        return [StruckBar({hand: [self._hand(made, hand)] for hand in HANDS}, ()) for made in self.measures]

    def element(self) -> Element:
        """The score's root element."""
        root = Element("score-partwise", {"version": "4.0"})
        SubElement(SubElement(root, "work"), "work-title").text = self.song.title
        identification = SubElement(root, "identification")
        SubElement(SubElement(identification, "encoding"), "software").text = MADE_BY
        if not self.wants.engraved:
            write_held(identification, held_hands(self.measures, self.solution))
        parts = SubElement(root, "part-list")
        names = [*((TUNE,) if self.with_tune else ()), *((LINE,) if self.line else ()), KEYS]
        for name in names:
            part = SubElement(SubElement(parts, "score-part", {"id": name}), "part-name")
            part.text = "" if self.wants.engraved else name
        for name in names:
            root.append(self._keys() if name == KEYS else self._melody(name))
        return root

    def _numbers(self) -> list[str]:
        """The numbers of the bars: of the engraved ones as they are counted in the song as it is written."""
        if self.wants.engraved:
            places = [(made.moments[0].origin, made.moments[0].bar) for made in self.measures]
            return [str(bar_number(self.song, *place)) for place in places]
        first = 0 if self.song.pickup else 1
        return [str(number) for number in range(first, first + len(self.measures))]

    def _melody(self, name: str) -> Element:
        """The staff of the tune, or of the line; the upper one of both has the chords."""
        part = ScorePart(self, name, 1)
        tied: Pitch | None = None
        for number, made in zip(self._numbers(), self.measures, strict=True):
            sounds, tied = tune_sounds(made, tied) if name == TUNE else (self.line.get(made.moments, []), None)
            sounds = sounds or [Sound((), (), bar_length(made))]
            element = part.measure(number, made, [sounds])
            voice = Voice(element, made, self.divisions, 0, self.wants.engraved)
            if name == TUNE or not self.with_tune:
                self._head(voice, made)
                self._at_chords(voice, made, self._symbol)
            voice.write(sounds)
            part.right(element, made, made is self.measures[-1])
        return part.element

    def _keys(self) -> Element:
        part = ScorePart(self, KEYS, 2)
        for number, made, struck in zip(self._numbers(), self.measures, self.struck, strict=True):
            hands = [struck.hands[hand] for hand in ("right", "left")]
            hands = [one_stack(voices) for voices in hands] if self.wants.engraved else hands
            element = part.measure(number, made, [list(itertools.chain(*voices)) for voices in hands])
            every = [(staff, n, sounds) for staff, voices in enumerate(hands, 1) for n, sounds in enumerate(voices)]
            for staff, n, sounds in every:
                stem = ("up", "down")[n] if len(hands[staff - 1]) > 1 else ""
                voice = Voice(element, made, self.divisions, staff, self.wants.engraved, staff + 2 * n, stem)
                if (staff, n) == (1, 0):
                    self._above(voice, made)
                else:
                    voice.back(bar_length(made))
                if (staff, n) == (2, 0):
                    self._pedals(voice, struck.pedals)
                voice.write(sounds)
            part.right(element, made, made is self.measures[-1])
        return part.element

    def _above(self, voice: Voice, made: Measure) -> None:
        """What stands over the upper staff: head and symbols where no staff of the tune has them, and words."""
        if not self.with_tune and not self.line:
            self._head(voice, made)
            self._at_chords(voice, made, self._symbol)
        self._at_chords(voice, made, self._words)

    def _pedals(self, voice: Voice, pedals: Iterable[tuple[Fraction, str]]) -> None:
        for when, what in pedals if self.wants.pedal else ():
            for each in (UP, DOWN) if what == CHANGE else (what,):
                voice.add(when, pedal(each))

    def _hand(self, made: Measure, hand: str) -> list[Sound]:
        found = []
        for moment in made.moments:
            voicing = self.voicings.get(moment)
            pitches = voicing.pitches(hand) if voicing else ()
            fingers = tuple(voicing.fingers.of(hand)) if voicing and self.wants.fingers else ()
            found.append(Sound(pitches, fingers, moment.quarters))
        return found

    def _head(self, voice: Voice, made: Measure) -> None:
        if made.section and not self.wants.engraved:
            voice.add(Fraction(0), rehearsal(made.section))
        if made is self.measures[0] and not self.wants.engraved:
            voice.add(Fraction(0), tempo(self.song.tempo, made.meter))
        if made is self.measures[0] and self.swing:
            voice.add(Fraction(0), words(self.swing, True, "above"))
        signs = made.bar.signs
        if made.section.lower().startswith(CODA) and CODA not in signs and self.coda:  # the section's name says it
            signs = (CODA, *signs)
        for name in signs:
            voice.add(Fraction(0) if name in AT_BEGIN else bar_length(made), sign(name))

    def _at_chords(self, voice: Voice, made: Measure, make: Callable[[Moment], list[Element]]) -> None:
        start = made.moments[0].quarter if made.moments else Fraction(0)
        for moment in made.moments:
            for element in make(moment):
                voice.add(moment.quarter - start, element)

    def _symbol(self, moment: Moment) -> list[Element]:
        return [harmony(moment.chord, self.wants.engraved)]

    def _words(self, moment: Moment) -> list[Element]:
        memo = self.writer.memos.get(moment.slot_id, "")
        found = [words(moment.cue)] if self.wants.cues and moment.cue else []
        for other in () if self.wants.engraved else self.writer.later(moment.section, moment.slot_id):
            left, right = (" ".join(key.name for key in keys) or RESTS for keys in (other.left, other.right))
            found.append(words(f"{other.when}: L {left} R {right}", True))
        return found + ([words(f"{MEMO}{memo}", True)] if self.wants.notes and memo else [])

    def bytes(self) -> bytes:
        """The score as a MusicXML 4.0 file."""
        root = self.element()
        indent(root, " ")
        return (_TYPE + _DOCTYPE + str(tostring(root, encoding="unicode")) + "\n").encode()


def musicxml_bytes(
    song: Song, solution: Solution, memos: tuple[Memo, ...] = (), wants: Notation = USUAL,
    playing: Playing = Playing(),  # noqa: B008 - frozen
) -> bytes:  # fmt: skip
    """A score as a MusicXML 4.0 file."""
    return Score(song, solution, memos, wants, playing).bytes()
