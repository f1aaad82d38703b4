"""MusicXML through music21. Runs in a process of its own (see importing.py), since the library is slow to load and a
hostile file must not take the program with it.
"""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import msgspec
from music21 import bar as m21_bar
from music21 import converter, expressions, harmony, key, meter, note, repeat, spanner, stream, tempo

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.road import CODA, TO_CODA, check_signs, signs_in
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Song, Tone
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, Onset, bar_of, meter_or_none, with_same

# music21's kinds of chord in our words.
_KINDS = {
    "major": "", "minor": "m", "augmented": "aug", "diminished": "dim", "dominant-seventh": "7", "dominant": "7",
    "major-seventh": "maj7", "minor-seventh": "m7", "diminished-seventh": "dim7", "augmented-seventh": "7#5",
    "half-diminished-seventh": "m7b5", "half-diminished": "m7b5", "minor-major-seventh": "m(maj7)",
    "major-minor": "m(maj7)", "augmented-major-seventh": "maj7#5", "major-sixth": "6", "minor-sixth": "m6",
    "dominant-ninth": "9", "major-ninth": "maj9", "minor-ninth": "m9", "dominant-11th": "11", "major-11th": "maj7add11",
    "minor-11th": "m11", "dominant-13th": "13", "major-13th": "maj13", "minor-13th": "m13", "suspended-second": "sus2",
    "suspended-fourth": "sus4", "suspended-fourth-seventh": "7sus4", "power": "5", "minor-major-ninth": "m(maj9)",
}  # fmt: skip


def _name(text: str) -> str:
    return text.replace("-", "b")


def _symbol(chord: harmony.ChordSymbol, report: list[str], where: str) -> str:
    if isinstance(chord, harmony.NoChord) or chord.chordKind == "none":
        return NO_CHORD
    written = _as_written(chord)
    if written:
        return written
    words = _KINDS.get(chord.chordKind)
    if words is None:
        report.append(f"{where}: the chord kind {chord.chordKind!r} is not known; its triad stands in its place")
        words = ""
    for change in chord.chordStepModifications:
        sign = "#" * int(change.interval.semitones) if change.interval and change.interval.semitones > 0 else ""
        sign = "b" * -int(change.interval.semitones) if change.interval and change.interval.semitones < 0 else sign
        degree = f"{sign}{change.degree}"
        words += f"no{change.degree}" if change.modType == "subtract" else f"add{degree}" if not sign else f"({degree})"
    bass = chord.bass()
    slash = f"/{_name(bass.name)}" if bass is not None and bass.name != chord.root().name else ""
    for text in (
        f"{_name(chord.root().name)}{words}{slash}",
        f"{_name(chord.root().name)}{_KINDS.get(chord.chordKind, '')}{slash}",
    ):
        try:
            parse_symbol(text)
        except UserError:
            report.append(f"{where}: the chord {chord.figure!r} is only partly understood")
            continue
        return text
    report.append(f"{where}: the chord {chord.figure!r} is not understood; N.C. stands in its place")
    return NO_CHORD


def _as_written(chord: harmony.ChordSymbol) -> str:
    """The symbol by the words that stand for its kind, where they say all the degrees that it has; else ""."""
    words = chord.chordKindStr or ""
    if not words:
        return ""
    root, bass = _name(chord.root().name), chord.bass()
    slash = f"/{_name(bass.name)}" if bass is not None and bass.name != chord.root().name else ""
    try:
        found = parse_symbol(f"{root}{words}{slash}")
    except UserError:
        return ""
    numbers = {str(change.degree) for change in chord.chordStepModifications if change.modType != "subtract"}
    said = {degree.lstrip("b#") for degree in found.degrees}
    return f"{root}{words}{slash}" if numbers <= said or found.quality.alt else ""


def _tones(measure: stream.Measure, unit: Fraction, report: list[str], where: str) -> tuple[Tone, ...]:
    voices = list(measure.voices)
    if len(voices) > 1:
        report.append(f"{where}: only the first of {len(voices)} voices was read")
    found = []
    for element in (voices[0] if voices else measure).notesAndRests:
        if isinstance(element, harmony.Harmony) or not isinstance(element, note.GeneralNote):
            continue
        if element.duration.isGrace:
            report.append(f"{where}: a grace note was left out")
            continue
        beats = Fraction(element.duration.quarterLength).limit_denominator(96) / unit
        if beats <= 0:
            continue
        pitches = getattr(element, "pitches", ())
        pitch = _name(max(pitches).nameWithOctave) if pitches else ""
        tied = bool(pitch) and element.tie is not None and element.tie.type in ("start", "continue")
        found.append(Tone(pitch, beats, tied))
    return tuple(found) if any(tone.pitch for tone in found) else ()


def _words(measure: stream.Measure, start: float, end: float) -> str:
    parts = []
    for element in measure.recurse().notes:
        if start <= element.getOffsetInHierarchy(measure) < end and element.lyrics:
            lyric = element.lyrics[0]
            parts.append((lyric.text or "") + ("" if lyric.syllabic in ("begin", "middle") else " "))
    return "".join(parts).strip()


_SIGNS = {
    "Segno": "segno", "Fine": "fine", "DaCapo": "D.C.", "DaCapoAlFine": "D.C. al fine", "DaCapoAlCoda": "D.C. al coda",
    "DalSegno": "D.S.", "DalSegnoAlFine": "D.S. al fine", "DalSegnoAlCoda": "D.S. al coda",
}  # fmt: skip


def _signs(measure: stream.Measure) -> tuple[str, ...]:
    """The signs of the way through the song that stand at a measure; a coda sign that ends one leads to the coda."""
    found = []
    for mark in measure.getElementsByClass([repeat.RepeatExpression, expressions.TextExpression]):
        words = getattr(mark, "content", "") or ""
        if isinstance(mark, repeat.Coda):
            found.append(TO_CODA if "to" in words.lower().split() or mark.offset > 0 else CODA)
        elif type(mark).__name__ in _SIGNS:
            found.append(_SIGNS[type(mark).__name__])
        else:
            signs, rest = signs_in(words)
            found += signs if not rest.strip() else []
    return tuple(dict.fromkeys(found))


def _ending(bracket: spanner.RepeatBracket) -> int:
    """The passes of a bracket as an ending: its digits."""
    turns = sorted({turn for turn in bracket.numberRange or () if 1 <= turn <= 9})
    return int("".join(map(str, turns)) or 0)


class _Reader:
    """Goes through the measures of the part that has the harmony, and the tune of the first part."""

    def __init__(self, score: Any) -> None:
        self.report: list[str] = []
        parts = list(score.parts) or [score]
        counted = [(len(list(part.recurse().getElementsByClass(harmony.ChordSymbol))), part) for part in parts]
        most = max(count for count, _ in counted)
        self.part = next(part for count, part in counted if count == most)
        for part in parts:
            if part is not self.part:
                self.report.append(f"the part {part.partName or 'without a name'!r} was left out")
        if not most:
            self.report.append("there are no chord symbols; every bar is N.C.")
        self.meter, self.pickup = Meter(), Fraction(0)
        self.first_meter: Meter | None = None
        self.key = ""
        self.before = NO_CHORD
        self.sections: list[tuple[str, str, list[Bar]]] = []
        self.endings = {
            id(measure): _ending(bracket)
            for bracket in self.part.recurse().getElementsByClass(spanner.RepeatBracket)
            for measure in bracket.getSpannedElements()
        }

    def measures(self) -> None:
        found = list(self.part.getElementsByClass(stream.Measure))
        for index, measure in enumerate(found):
            self.changes(measure, index)
            self.measure(measure, index)

    def changes(self, measure: stream.Measure, index: int) -> None:
        for found in measure.getElementsByClass(meter.TimeSignature):
            new = meter_or_none(found.numerator, found.denominator)
            if new is None:
                self.report.append(f"bar {index + 1}: the meter {found.ratioString} is not known")
            else:
                self.meter = new
                self.first_meter = self.first_meter or new
        name = next((mark.content for mark in measure.getElementsByClass(expressions.RehearsalMark)), "")
        written = ""
        for signature in measure.getElementsByClass(key.KeySignature):
            found_key = signature if isinstance(signature, key.Key) else None
            if found_key is not None and found_key.mode in ("major", "minor"):
                written = f"{_name(found_key.tonic.name)} {found_key.mode}"
        if not self.sections or name or (written and written != self.key and self.sections[-1][2]):
            self.sections.append((name or (self.sections[-1][0] + "+" if self.sections else "Song"), written, []))
        self.key = written or self.key

    def measure(self, measure: stream.Measure, index: int) -> None:
        where, unit = f"bar {index + 1}", self.meter.beat_quarters
        beats = Fraction(self.meter.beats)
        length = Fraction(measure.duration.quarterLength).limit_denominator(96) / unit
        short = 0 < length < beats
        if index == 0 and short and (measure.paddingLeft or measure.number == 0):
            self.pickup = beats = length
        hands = isinstance(self.part, stream.PartStaff)  # two staves are what hands play, and no tune
        tune = () if hands else _tones(measure, unit, self.report, where)
        total = sum((tone.beats for tone in tune), Fraction(0))
        if tune and total != beats:
            tune = (*tune, Tone("", beats - total)) if total < beats else ()
            self.report.append(
                f"{where}: its notes do not fill the bar; " + ("a rest was added" if tune else "they were left out")
            )
        symbols = list(measure.getElementsByClass(harmony.ChordSymbol)) + list(
            measure.getElementsByClass(harmony.NoChord)
        )
        found = sorted(
            {Fraction(s.offset).limit_denominator(96) / unit: s for s in symbols}.items(), key=lambda item: item[0]
        )
        starts = [at for at, _ in found]
        changes = []
        for n, (at, chord) in enumerate(found):
            end = starts[n + 1] if n + 1 < len(starts) else beats
            cue = _words(measure, float(at * unit), float(end * unit))
            changes.append(Onset(at, _symbol(chord, self.report, where), cue))
        slots, self.before = bar_of(changes, beats, self.before)
        if not changes and (cue := _words(measure, 0.0, float(beats * unit))):
            slots = (type(slots[0])(slots[0].symbol, slots[0].beats, cue), *slots[1:])
        own = self.meter if self.first_meter and self.meter != self.first_meter else None
        opens, repeats = self.repeat(measure)
        bars = self.sections[-1][2]
        bars.append(
            Bar(slots, tune, opens, repeats, False, self.endings.get(id(measure), 0), own, signs=_signs(measure))
        )

    def repeat(self, measure: stream.Measure) -> tuple[bool, int]:
        left, right = measure.leftBarline, measure.rightBarline
        opens = isinstance(left, m21_bar.Repeat) and left.direction == "start"
        times = (right.times or 2) if isinstance(right, m21_bar.Repeat) and right.direction == "end" else 0
        return opens, times


def _led(sections: tuple[Section, ...], report: list[str]) -> tuple[Section, ...]:
    """The sections, without signs that lead nowhere."""
    try:
        check_signs(Song(sections=sections))
    except UserError as error:
        report.append(f"D.C., D.S., coda and fine are not followed: {error}")
        return tuple(
            msgspec.structs.replace(s, bars=tuple(msgspec.structs.replace(b, signs=()) for b in s.bars))
            for s in sections
        )
    return sections


def read_musicxml(data: bytes, name: str) -> Imported:
    """Read uncompressed MusicXML. Raises FileFault."""
    try:
        score = converter.parseData(data.decode("utf-8", "replace"), format="musicxml", forceSource=True)
    except MemoryError:
        raise
    except Exception as error:  # the library raises whatever comes to it
        raise FileFault(name, f"is a damaged MusicXML file ({str(error)[:120] or type(error).__name__})") from None
    reader = _Reader(score)
    reader.measures()
    report = reader.report
    bpm = next(iter(score.recurse().getElementsByClass(tempo.MetronomeMark)), None)
    first_meter = reader.first_meter or Meter()
    per_quarter = bpm.getQuarterBPM() if bpm is not None else None
    speed = round(per_quarter / float(first_meter.beat_quarters)) if per_quarter else 90
    title = (score.metadata.bestTitle if score.metadata else None) or "Untitled"
    first_key = next((k for _, k, _ in reader.sections if k), "")
    sections = tuple(
        Section(name, with_same(bars), own if own and own != first_key else "")
        for name, own, bars in reader.sections
        if bars
    )
    sections = _led(sections, report)
    song = Song(title[:200], first_key or "C major", first_meter, min(400, max(20, speed)), sections, reader.pickup)
    if not first_key:
        guess = find_key([(m.chord, float(m.beats)) for m in timeline(song) if m.chord])
        if guess:
            song = Song(song.title, str(guess.key), song.meter, song.tempo, sections, song.pickup)
            report.append(f"no key with a mode is written; it was found to be {guess.key}")
    return Imported(song, tuple(dict.fromkeys(report)))
