"""Lines of ChordPro with chords over words, as bars: by their bar lines, else a bar for every chord."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Slot
from yellow_hinge.core.song.words import plain
from yellow_hinge.io.imported import meter_lasting

_ITEM = re.compile(r"\[([^\[\]]{0,80})\]|\|+")
# Remarks in brackets that this program writes: repeats, endings, and the beats of a bar's chords.
_MARK = re.compile(
    r"\*\s*(?:(?P<opens>\|:)|:\|\s*(?:x\s*(?P<times>\d{1,2}))?|(?P<ending>[1-9](?:\s?,\s?[1-9])*)\.|(?P<end>\|\|)"
    r"|(?P<beats>\d{1,3}(?:[./]\d{1,2})?(?:\+\d{1,3}(?:[./]\d{1,2})?)*)(?P<pickup>!)?)\s*"
)


class _Item(NamedTuple):
    """A chord, a bar line or a remark of a line, with the words after it."""

    kind: str
    text: str
    column: int
    words: str


def _item(mark: re.Match[str], words: str) -> _Item:
    inside = (mark[1] if mark[1] is not None else "|").strip()
    kind = "line" if set(inside) == {"|"} else "mark" if inside.startswith("*") else "chord"
    return _Item(kind, inside, mark.start() + 2, words.strip().removeprefix("- ").removesuffix(" -").strip())


class BarWriter:
    """Puts lines into bars, and keeps what is said before the bar that it is of. `symbol` reads a chord."""

    def __init__(self, symbol: Callable[[str], str], say: Callable[[str], None]) -> None:
        self.symbol, self.say = symbol, say
        self.opens, self.ending = False, 0
        self.beats: list[Fraction] = []

    def line(self, line: str, bars: list[Bar], meter: Meter, first: Meter | None) -> str:
        """One line into `bars`; "timed" where bar lines stand in it, "guessed" where none do, "" without chords."""
        items = self._items(line, bars)
        barred = any(item.kind == "line" for item in items)
        own = meter if meter != (first or meter) else None
        row: list[Slot] = []
        for n, item in enumerate(items):
            if item.kind == "chord":
                row.append(Slot(self._read(item), Fraction(0), plain(item.words)))
            elif item.kind == "mark":
                row = self._close(row, bars, meter, own) if barred and ":|" in item.text else row
                self._mark(item, bars)
                self._words(item.words, row, bars)
            if item.kind == "line" or (item.kind == "chord" and not barred):
                row = self._close(row, bars, meter, own)
            if item.kind == "line" and item.words and n + 1 < len(items):
                row = self._goes_on(item.words, items[n + 1], bars)
        self._close(row, bars, meter, own)
        if not any(item.kind == "chord" for item in items):
            return ""
        return "timed" if barred else "guessed"

    def _items(self, line: str, bars: list[Bar]) -> list[_Item]:
        """The chords, bar lines and remarks of a line; words before the first of them go to the chord before."""
        marks = list(_ITEM.finditer(line))
        lead = line[: marks[0].start()].strip() if marks else line.strip()
        if lead and bars:
            bars[-1] = _with_cue(bars[-1], lead)
        elif lead:
            self.say(f": words before the first chord were left out: {lead[:40]!r}")
        ends = [*(mark.start() for mark in marks), len(line)][1:]
        return [_item(mark, line[mark.end() : end]) for mark, end in zip(marks, ends, strict=False)]

    @staticmethod
    def _goes_on(words: str, after: _Item, bars: list[Bar]) -> list[Slot]:
        """Words right after a bar line are sung over the chord that goes on into the new bar."""
        before = bars[-1].slots[-1].symbol if bars else NO_CHORD
        return [Slot(before, Fraction(0), plain(words))] if after.kind == "line" or bars else []

    def _words(self, words: str, row: list[Slot], bars: list[Bar]) -> None:
        if words and row:
            row[-1] = replace(row[-1], cue=plain(f"{row[-1].cue} {words}"))
        elif words and bars:
            bars[-1] = _with_cue(bars[-1], words)

    def _close(self, row: list[Slot], bars: list[Bar], meter: Meter, own: Meter | None) -> list[Slot]:
        """Make a bar of some chords, and begin the next one."""
        if not row:
            return []
        beats, lengths = Fraction(meter.beats), self.beats
        self.beats = []
        if len(lengths) == len(row):
            slots = tuple(replace(slot, beats=length) for slot, length in zip(row, lengths, strict=True))
            total = sum(lengths, Fraction(0))
            own = own if total == beats else meter_lasting(total * meter.beat_quarters) or own
            if own is not None and own.beat_quarters != meter.beat_quarters:
                by = meter.beat_quarters / own.beat_quarters
                slots = tuple(replace(slot, beats=slot.beats * by) for slot in slots)
        else:
            slots = tuple(replace(slot, beats=beats / len(row)) for slot in row)
        bars.append(Bar(slots, opens=self.opens, ending=self.ending, meter=own))
        self.opens = False
        return []

    def _read(self, item: _Item) -> str:
        found = self.symbol(item.text) if item.text else NO_CHORD
        if not found:
            self.say(f", column {item.column}: {item.text[:30]!r} is no chord; N.C. stands in its place")
        return found or NO_CHORD

    def _mark(self, item: _Item, bars: list[Bar]) -> None:
        """A remark in brackets: repeat signs, endings and beats as this program writes them, others are left out."""
        found = _MARK.fullmatch(item.text)
        if found is None:
            self.say(f": the annotation [{item.text[:30]}] was left out")
        elif found["opens"]:
            self.opens, self.ending = True, 0
        elif found["ending"]:
            self.ending = int("".join(sorted(set(re.findall(r"\d", found["ending"])))))
        elif found["end"]:
            self.ending = 0
        elif found["beats"]:
            self.beats = [Fraction(part) for part in found["beats"].split("+")]
        elif bars:
            bars[-1] = replace(bars[-1], repeats=max(2, int(found["times"] or 2)))
            self.ending = 0

    def put(self, found: list[Bar], bars: list[Bar], first: Meter | None, meter: Meter) -> None:
        """Bars of a grid after those that are there."""
        own = meter if meter != (first or meter) else None
        bars += [replace(bar, meter=own) for bar in found]


def _with_cue(bar: Bar, words: str) -> Bar:
    slot = bar.slots[-1]
    more = replace(slot, cue=plain(f"{slot.cue} {words}"))
    found: Bar = replace(bar, slots=(*bar.slots[:-1], more))
    return found
