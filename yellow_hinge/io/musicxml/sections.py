"""The sections of a score with their bars, keys, repeats and signs of the way."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.road import check_signs
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.keyfinding import key_with_signature
from yellow_hinge.io.imported import bar_of, with_same
from yellow_hinge.io.musicxml.book import Book
from yellow_hinge.io.musicxml.columns import open_repeats
from yellow_hinge.io.musicxml.symbols import key_of


class _Stretch:
    """The bars of one section while they are read."""

    def __init__(self, name: str, key: tuple[int, str] | None) -> None:
        self.name, self.key = name, key
        self.bars: list[Bar] = []


def _stretches(book: Book) -> list[_Stretch]:
    """Sections: where a name stands, and where the key changes."""
    found: list[_Stretch] = []
    before, key = NO_CHORD, None
    first_meter = book.columns[0].meter if book.columns else Meter()
    bars: list[Bar] = []
    for at, column in enumerate(book.columns):
        changed = column.key is not None and key is not None and column.key != key
        key = column.key or key
        lone_pickup = len(found) == 1 and len(found[0].bars) == 1 and book.pickup and found[0].name == "Song"
        if lone_pickup and column.name:
            found[0].name = column.name
        elif not found or column.name or (changed and found[-1].bars):
            found.append(_Stretch(column.name or (found[-1].name + "+" if found else "Song"), key))
        elif changed:
            found[-1].key = key
        bar, before = _bar(book, at, before, bars, first_meter, key)
        bars.append(bar)
        found[-1].bars.append(bar)
        book.memos_at(at)
    return found


def _bar(
    book: Book, at: int, before: str, bars: list[Bar], first_meter: Meter, key: tuple[int, str] | None
) -> tuple[Bar, str]:
    """A bar of the song, and the chord that goes on after it."""
    column, length = book.columns[at], book.lengths[at]
    meter = column.meter
    irregular = length != column.full and not (at == 0 and book.pickup)
    if irregular:
        meter = _meter_of(length) or meter
    unit = meter.beat_quarters
    beats = length / unit if irregular or at == 0 else Fraction(meter.beats)
    own = key_of(*key) if key is not None and key[1] else key_of(key[0], "major") if key is not None else None
    changes = book.onsets(at, unit, own)
    if not changes and 0 < column.again <= len(bars):
        slots: tuple[Slot, ...] = tuple(msgspec.structs.replace(slot, cue="") for slot in bars[-column.again].slots)
        if sum(slot.beats for slot in slots) == beats:
            return _with_marks(book, at, slots, unit, meter, first_meter), slots[-1].symbol
    slots, after = bar_of(changes, beats, before)
    if not changes and (cue := book.words(at, Fraction(0), length)):
        slots = (msgspec.structs.replace(slots[0], cue=cue), *slots[1:])
    return _with_marks(book, at, slots, unit, meter, first_meter), after


def _with_marks(book: Book, at: int, slots: tuple[Slot, ...], unit: Fraction, meter: Meter, first_meter: Meter) -> Bar:
    column = book.columns[at]
    own = meter if meter != first_meter else None
    tune = book.tune(at, unit)
    return Bar(slots, tune, column.opens, column.closes, False, column.ending, own, signs=column.signs)


def _meter_of(quarters: Fraction) -> Meter | None:
    """The meter of a bar that lasts so many quarters."""
    for lower in (4, 8, 16):
        upper = quarters * lower / 4
        if upper.denominator == 1 and 1 <= upper <= 32:
            return Meter(int(upper), lower)
    return None


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
        sections.append(Section(stretch.name, bars, key if sections and key != keys[0] else ""))
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
