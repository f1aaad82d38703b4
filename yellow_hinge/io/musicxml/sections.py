"""The sections of a score with their bars, keys, repeats and signs of the way."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.road import check_signs
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.keyfinding import key_with_signature
from yellow_hinge.io.imported import bar_of, in_section, meter_lasting, with_same
from yellow_hinge.io.musicxml.score.book import Book
from yellow_hinge.io.musicxml.score.spans import open_repeats
from yellow_hinge.io.musicxml.score.symbols import key_of

UNNAMED = "Song"


class _Stretch:
    """The bars of one section while they are read."""

    def __init__(self, name: str, key: tuple[int, str] | None) -> None:
        self.name, self.key = name, key
        self.bars: list[Bar] = []


def _stretches(book: Book) -> list[_Stretch]:
    """Sections: where a name stands, and where the key changes."""
    found: list[_Stretch] = []
    maker = _BarMaker(book)
    for at, column in enumerate(book.columns):
        changed = column.key is not None and maker.key is not None and column.key != maker.key
        maker.key = column.key or maker.key
        if column.name and _is_lone_pickup(book, found):
            found[0].name = column.name
        elif not found or column.name or (changed and found[-1].bars):
            found.append(_Stretch(column.name or (found[-1].name + "+" if found else UNNAMED), maker.key))
        elif changed:
            found[-1].key = maker.key
        found[-1].bars.append(maker.bar(at))
        book.memos_at(at)
    return found


def _is_lone_pickup(book: Book, found: list[_Stretch]) -> bool:
    """Whether nothing but a pickup was read so far, which belongs to what follows."""
    return book.pickup and len(found) == 1 and len(found[0].bars) == 1 and found[0].name == UNNAMED


class _BarMaker:
    """Makes bars one by one, and keeps the chord and the key that go on."""

    def __init__(self, book: Book) -> None:
        self.book = book
        self.meter = book.columns[0].meter if book.columns else Meter()
        self.key: tuple[int, str] | None = None
        self.before = NO_CHORD
        self.bars: list[Bar] = []

    def bar(self, at: int) -> Bar:
        column, length = self.book.columns[at], self.book.lengths[at]
        whole = length == column.full or (at == 0 and self.book.pickup)
        meter = column.meter if whole else meter_lasting(length) or column.meter
        unit = meter.beat_quarters
        beats = length / unit
        changes = self.book.onsets(at, unit, self._key())
        slots = () if changes else self._again(column.again, beats)
        if slots:
            self.before = slots[-1].symbol
        else:
            slots, self.before = bar_of(changes, beats, self.before)
            cue = "" if changes else self.book.words(at, Fraction(0), length)
            slots = (msgspec.structs.replace(slots[0], cue=cue), *slots[1:]) if cue else slots
        own = meter if meter != self.meter else None
        tune = self.book.tune(at, unit)
        made = Bar(slots, tune, column.opens, column.closes, False, column.ending, own, signs=column.signs)
        self.bars.append(made)
        return made

    def _key(self) -> Key | None:
        """The key that numerals are read in."""
        return key_of(self.key[0], self.key[1] or "major") if self.key is not None else None

    def _again(self, back: int, beats: Fraction) -> tuple[Slot, ...]:
        """The chords of the bar so many before, where this one repeats it; () where it does not, or cannot."""
        if not 0 < back <= len(self.bars):
            return ()
        slots = tuple(msgspec.structs.replace(slot, cue="") for slot in self.bars[-back].slots)
        return slots if sum(slot.beats for slot in slots) == beats else ()


def _untied(bars: list[Bar]) -> list[Bar]:
    """Bars whose ties lead to the same note, and to no other."""
    tones = [tone for bar in bars for tone in bar.tune]
    after = [*tones[1:], None]
    rows = iter(
        msgspec.structs.replace(tone, tied=tone.tied and follows is not None and follows.pitch == tone.pitch)
        for tone, follows in zip(tones, after, strict=False)
    )
    return [msgspec.structs.replace(bar, tune=tuple(next(rows) for _ in bar.tune)) for bar in bars]


def sections_of(book: Book) -> tuple[tuple[Section, ...], str]:
    """The sections, and the key of the first one."""
    stretches = [stretch for stretch in _stretches(book) if stretch.bars]
    firsts, at = [], 0
    for stretch in stretches:
        firsts.append(at)
        at += len(stretch.bars)
    open_repeats(book.columns, firsts, book.pickup)
    every = _untied([bar for stretch in stretches for bar in stretch.bars])
    every = [msgspec.structs.replace(bar, opens=column.opens) for bar, column in zip(every, book.columns, strict=True)]
    keys = _keys(book, stretches)
    sections: list[Section] = []
    for stretch, key, first in zip(stretches, keys, firsts, strict=True):
        bars = with_same(every[first : first + len(stretch.bars)])
        sections.append(in_section(stretch.name, bars, key if sections and key != keys[0] else ""))
    return tuple(sections), next(iter(keys), "")


def _keys(book: Book, stretches: list[_Stretch]) -> list[str]:
    """The key of every section; a signature without a mode is settled by its chords, which is said."""
    found: list[str] = []
    for stretch in stretches:
        written = stretch.key
        key = key_of(*written) if written is not None and written[1] else None
        if key is None and written is not None:
            song = Song(sections=(Section("x", tuple(stretch.bars)),))
            chords = [(m.chord, float(m.beats)) for m in timeline(song) if m.chord]
            key = key_with_signature(written[0], chords)
            words = f"no mode is written; by its chords the key of {stretch.name} was taken to be {key}"
            book.report.append(words if len(stretches) > 1 else f"no mode is written; the key was taken to be {key}")
        found.append(str(key) if key is not None else "")
    return found


def led(sections: tuple[Section, ...], report: list[str]) -> tuple[Section, ...]:
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
