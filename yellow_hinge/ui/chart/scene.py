"""The set-out chart as plain geometry: rows of bars, chords in proportion to their beats."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import pretty_signs, simple_note
from yellow_hinge.core.song.road import AT_BEGIN
from yellow_hinge.core.song.song import NO_CHORD, Address, Bar, Section, Song, ending_words
from yellow_hinge.core.song.timeline import bar_meter
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import as_typed, number_text, write_number, write_symbol

ROW_H, HEAD_H, EDGE = 92.0, 30.0, 10.0
BARS_A_ROW, NARROW = 4, 460.0


class ChartCell(msgspec.Struct, frozen=True):
    """One chord: where it is written, its box, and what stands in it; `was` is its name before transposing, or ""."""

    address: Address
    x: float
    y: float
    width: float
    symbol: str
    number: str
    notes: str
    cue: str
    tune: str
    was: str


class ChartBar(msgspec.Struct, frozen=True):
    """A bar's box and signs: `mark` says what stands before it ("|:", "1.", "3/4"), `close` what after it (":|"),
    `label` is its number in the song as written.
    """

    section: int
    bar: int
    x: float
    y: float
    width: float
    mark: str
    close: str
    label: str = ""


class ChartScene(msgspec.Struct, frozen=True):
    """Everything on the page; `heads` are (y, words)."""

    heads: tuple[tuple[float, str], ...]
    bars: tuple[ChartBar, ...]
    cells: tuple[ChartCell, ...]
    height: float

    def without_heads(self) -> ChartScene:
        """The scene with its bars where the heads were."""
        up = HEAD_H if self.heads else 0.0
        bars = tuple(msgspec.structs.replace(bar, y=bar.y - up) for bar in self.bars)
        cells = tuple(msgspec.structs.replace(cell, y=cell.y - up) for cell in self.cells)
        return ChartScene((), bars, cells, self.height - up)

    def cell_at(self, x: float, y: float) -> ChartCell | None:
        """The chord under a point."""
        return next((c for c in self.cells if c.x <= x < c.x + c.width and c.y <= y < c.y + ROW_H), None)

    def runs(self, marked: frozenset[Address]) -> list[tuple[ChartCell, ChartCell]]:
        """The first and the last of every run of marked chords in a row."""
        found: list[tuple[ChartCell, ChartCell]] = []
        before: ChartCell | None = None
        for cell in self.cells:
            if cell.address in marked:
                goes_on = found and before is found[-1][1] and before.y == cell.y
                found = [*found[:-1], (found[-1][0], cell)] if goes_on else [*found, (cell, cell)]
            before = cell
        return found

    def bar_at(self, x: float, y: float) -> ChartBar | None:
        """The bar under a point."""
        return next((b for b in self.bars if b.x <= x < b.x + b.width and b.y <= y < b.y + ROW_H), None)


def _head(section: Section, song: Song) -> str:
    own = [pretty_signs(section.key)] if section.key else []
    own += [str(section.meter)] if section.meter else []
    again = [] if section.bars else ["as before"]
    return " · ".join([section.name, *own, *again])


@lru_cache(maxsize=4096)
def _words(symbol: str, key: Key, simple: bool) -> tuple[str, str, str]:
    """A chord as it is shown, in numbers, and its notes."""
    if symbol == NO_CHORD:
        return NO_CHORD, "", ""
    chord = parse_symbol(symbol, key)
    notes = (str(simple_note(note) if simple else note) for note in chord.all_notes)
    return (
        pretty_signs(as_typed(symbol, chord)),
        number_text(write_number(chord, key)),
        " ".join(map(pretty_signs, notes)),
    )


def _marks(bar: Bar, before: tuple[int, int]) -> tuple[str, str]:
    """The signs before and after a bar; `before` are the ending and repeats of the one before it."""
    begins = bar.ending and (before[0] != bar.ending or before[1])
    opening = ("|:" if bar.opens else "", f"{ending_words(bar.ending)}." if begins else "", str(bar.meter or ""))
    close = {0: "", 2: ":|"}.get(bar.repeats, f":| ×{bar.repeats}")
    first = [sign for sign in bar.signs if sign in AT_BEGIN]
    after = [sign for sign in bar.signs if sign not in AT_BEGIN]
    return " ".join(filter(None, (*opening, *first))), " ".join(filter(None, (close, *after)))


class Laid(NamedTuple):
    """What a bar was laid out from, and how it lies."""

    bar: Bar
    rest: tuple[object, ...]
    placed: ChartBar
    cells: list[ChartCell]


def chart_scene(
    song: Song,
    width: float,
    simple: bool = False,
    before: Song | None = None,
    columns: int = 0,
    laid: dict[tuple[int, int], Laid] | None = None,
) -> ChartScene:
    """The chart for a page `width` pixels wide. `before` is the song before transposing, whose names stand beside;
    `columns` bars stand in a row, 0 for as many as suit the width. Bars that are in `laid` as they were are taken from
    there, and all are left there for the next time.
    """
    laid = {} if laid is None else laid
    columns = columns or (BARS_A_ROW if width >= NARROW else BARS_A_ROW // 2)
    wide = (width - 2 * EDGE) / columns
    heads: list[tuple[float, str]] = []
    bars: list[ChartBar] = []
    cells: list[ChartCell] = []
    y = EDGE
    for s, section in enumerate(song.sections):
        heads.append((y, _head(section, song)))
        y += HEAD_H
        key, meter = section.the_key(song), section.meter or song.meter
        last = 0, 0
        for b, bar in enumerate(section.bars):
            x, top = EDGE + (b % columns) * wide, y + (b // columns) * ROW_H
            rest = x, top, wide, simple, key, meter, len(bars), last
            known = laid.get((s, b))
            if known is None or known.bar != bar or known.rest != rest or before is not None:
                placed = ChartBar(s, b, x, top, wide, *_marks(bar, last), str(len(bars) + 1))
                made = _cells(song, (s, b), x, top, wide, simple, before)
                known = laid[s, b] = Laid(bar, rest if before is None else (), placed, made)
            bars.append(known.placed)
            cells += known.cells
            last = bar.ending, bar.repeats
        y += -(-len(section.bars) // columns) * ROW_H + 6
    return ChartScene(tuple(heads), tuple(bars), tuple(cells), y + EDGE)


def _cells(
    song: Song, place: tuple[int, int], x: float, y: float, width: float, simple: bool, before: Song | None
) -> list[ChartCell]:
    section = song.sections[place[0]]
    bar, key = section.bars[place[1]], section.the_key(song)
    total = sum(slot.beats for slot in bar.slots) or bar_meter(song, section, bar).beats
    found, at = [], 0
    tune_at = [(sum((t.beats for t in bar.tune[:n]), 0), tone.spelled) for n, tone in enumerate(bar.tune)]
    for n, slot in enumerate(bar.slots):
        share = float(slot.beats / total) * width
        words = _words(slot.symbol, key, simple)
        tune = [str(pitch.note) for start, pitch in tune_at if pitch is not None and at <= start < at + slot.beats]
        was = ""
        if before is not None and slot.symbol != NO_CHORD:
            old = before.sections[place[0]]
            was = write_symbol(parse_symbol(old.bars[place[1]].slots[n].symbol, old.the_key(before)))
        found.append(
            ChartCell(
                (*place, n),
                x + float(at / total) * width,
                y,
                share,
                "%" if bar.same and n == 0 and slot.symbol != NO_CHORD else words[0],
                *words[1:],
                slot.cue,
                pretty_signs(" ".join(tune)),
                pretty_signs(was),
            )
        )
        at += slot.beats  # type: ignore[assignment]
    return found
