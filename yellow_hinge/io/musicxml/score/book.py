"""A score opened at its bars: who has the symbols, the tune and the words, and what each says in a bar."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from xml.etree.ElementTree import Element

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.song import Tone
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.imported import Noted, Onset
from yellow_hinge.io.musicxml.held_hands import MEMO
from yellow_hinge.io.musicxml.score.choosing import Choice, Line, chosen, first_of, line_in, lines_of
from yellow_hinge.io.musicxml.score.columns import columns_of
from yellow_hinge.io.musicxml.score.measures import Measure, Part, Written, parts_of
from yellow_hinge.io.musicxml.score.spans import joined, lengths_of
from yellow_hinge.io.musicxml.score.symbols import Harmonies, at_of

_OUR_TUNE = "Tune"


class Book:
    """What is gathered on the way: what has to be said, and the bars."""

    def __init__(self, root: Element, name: str, asks: Mapping[str, str]) -> None:
        self.root = root
        self.report: list[str] = []
        self.own = any((each.text or "") == MADE_BY for each in root.iter("software"))
        self.parts = parts_of(root, name)
        self.columns = columns_of(self.parts, [])
        if joined(self.parts, self.columns):
            self.report.append("bars that were split were joined")
        self.columns = columns_of(self.parts, self.report)
        self.choice = self._choose(asks)
        self.pickup = self._pickup()
        self.lengths = lengths_of(self.columns, self.pickup)
        self.short = [
            at
            for at, column in enumerate(self.columns[:-1])
            if column.length < self.lengths[at] and any(m.notes for m in self.measures_at(at))
        ]
        self.harmonies = Harmonies()
        self.verse, self.verses = self._verses(asks.get("verse", ""))
        self.memos: list[Noted] = []
        self.heard: list[list[Onset]] | None = None
        self.heard_key: Key | None = None

    def _choose(self, asks: Mapping[str, str]) -> Choice:
        found = chosen(self.parts)
        if asks.get("symbols") == "notes":
            found = found._replace(symbols=None)
        elif asks.get("symbols", "").isdecimal() and int(asks["symbols"]) < len(self.parts):
            found = found._replace(symbols=int(asks["symbols"]))
        if "tune" in asks:
            tune = next((line for line in lines_of(self.parts) if line.ask == asks["tune"]), None)
            found = found._replace(tune=tune, others=())
        if self.own:  # the hands of our own scores are no tune
            own = next((p for p, part in enumerate(self.parts) if part.id == _OUR_TUNE), None)
            return Choice(found.symbols, None if own is None else Line(own, 1, "1"), ())
        return found

    def _pickup(self) -> bool:
        """Whether the first bar is short, and no bar that was left short by mistake."""
        first = self.columns[0] if self.columns else None
        return first is not None and len(self.columns) > 1 and first.length < first.full

    def measures_at(self, at: int) -> list[Measure]:
        """A bar of every part that has it."""
        return [part.measures[at] for part in self.parts if at < len(part.measures)]

    def where(self, at: int) -> str:
        """A bar as the report names it."""
        return f"bar {self.columns[at].number[:12]}"

    # --- chords ---

    def symbols_at(self, at: int) -> list[Written]:
        """The chord symbols of a bar: of the part that has most, else of one that has some here."""
        if self.choice.symbols is None:
            return []
        order = [self.choice.symbols, *(p for p in range(len(self.parts)) if p != self.choice.symbols)]
        for p in order:
            measures = self.parts[p].measures
            found = list(measures[at].of("symbol")) if at < len(measures) else []
            if found:
                return found
        return []

    def onsets(self, at: int, unit: Fraction, key: Key | None) -> list[Onset]:
        """The chords that begin in a bar, with the words under them."""
        if self.heard is not None:
            return self._worded(at, unit, [(onset.at * unit, onset.symbol) for onset in self.heard[at]])
        marks = at_of(self.symbols_at(at), self.lengths[at])
        if any(start != mark.at for start, mark in marks):
            self.report.append(f"{self.where(at)}: chords at one place share the time up to the next")
        last = max(Fraction(0), self.lengths[at] - Fraction(1, 8))
        found = []
        for start, mark in marks:
            symbol = self.harmonies.read(mark, key, self.where(at))
            if symbol is not None:
                found.append((min(start, last) if start >= self.lengths[at] else start, symbol))
        return self._worded(at, unit, found)

    def _worded(self, at: int, unit: Fraction, found: list[tuple[Fraction, str]]) -> list[Onset]:
        ends = [*(start for start, _ in found), self.lengths[at]][1:]
        return [
            Onset(start / unit, symbol, self.words(at, start, end))
            for (start, symbol), end in zip(found, ends, strict=True)
        ]

    # --- words ---

    def _verses(self, asked: str) -> tuple[str, list[str]]:
        """The verse whose words are cues, and the others."""
        found = {
            lyric.verse for part in self.parts for measure in part.measures for n in measure.notes for lyric in n.lyrics
        }
        ordered = sorted(found, key=lambda verse: (int(verse) if verse.isdecimal() else 99, verse))
        verse = asked if asked in found else ordered[0] if ordered else "1"
        return verse, [other for other in ordered if other != verse]

    def words(self, at: int, start: Fraction, end: Fraction) -> str:
        """The cue words of a stretch: of the tune, else of whoever sings; our own scores have them between staves."""
        measures = [part.measures[at] for part in self._singers() if at < len(part.measures)]
        for measure in measures:
            found = _sung(measure, self.verse, start, end)
            if found:
                return found
        own = [mark for measure in measures for mark in measure.of("words") if self.own and mark.below]
        return " ".join(mark.text for mark in own if start <= mark.at < end and not _is_bold(mark))

    def _singers(self) -> list[Part]:
        tune = self.choice.tune
        first = [] if tune is None else [self.parts[tune.part]]
        return [*first, *(part for part in self.parts if part not in first)]

    # --- the tune ---

    def tune(self, at: int, unit: Fraction) -> tuple[Tone, ...]:
        """The tune of a bar with its rests; () where it rests."""
        line, length = self.choice.tune, self.lengths[at]
        if line is None:
            return ()
        tones: list[Tone] = []
        now = Fraction(0)
        for note in first_of(line_in(self.parts, line, at)):
            if note.start >= length or note.pitch is None:
                continue
            end = min(note.start + note.length, length)
            if note.start > now:
                tones.append(Tone("", (note.start - now) / unit))
            tone = Tone(str(note.pitch), (end - note.start) / unit, note.tied)
            if tones and tones[-1].tied and tones[-1].pitch == tone.pitch:  # one note that is written in two values
                tone = Tone(tone.pitch, tones.pop().beats + tone.beats, tone.tied)
            tones.append(tone)
            now = end
        if tones and now < length:
            tones.append(Tone("", (length - now) / unit))
        return tuple(tones)

    def memos_at(self, at: int) -> None:
        """What a player noted down in a score of our own."""
        for part in self.parts if self.own else ():
            for mark in part.measures[at].of("words") if at < len(part.measures) else ():
                if mark.text.startswith(MEMO):
                    beat = mark.at / self.columns[at].meter.beat_quarters
                    self.memos.append(Noted(at, beat, mark.text.removeprefix(MEMO)))


def _is_bold(mark: Written) -> bool:
    return any(each.get("font-weight") == "bold" for each in mark.element.iter("words"))


def _sung(measure: Measure, verse: str, start: Fraction, end: Fraction) -> str:
    """The syllables of a verse between two places of a bar; of the lowest verse where it has none in the whole bar."""
    every = {lyric.verse for note in measure.notes for lyric in note.lyrics}
    own = verse if verse in every or not every else min(every)
    parts = []
    for note in sorted(measure.notes, key=lambda note: note.start):
        here = next((lyric for lyric in note.lyrics if lyric.verse == own), None)
        if here is not None and start <= note.start < end:
            parts.append(here.text + ("" if here.joined else " "))
    return "".join(parts).strip()
