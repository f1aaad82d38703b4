"""Writing a song as plain chart text; reading it gives the same song."""

from __future__ import annotations

import itertools
import re
from fractions import Fraction

from yellow_hinge.core.song.road import AT_BEGIN
from yellow_hinge.core.song.song import Bar, Meter, Section, Song, ending_words, short_beats
from yellow_hinge.core.song.timeline import bar_meter
from yellow_hinge.core.song.words import cue_escaped, name_escaped

_BARS_A_LINE = 4


def _bar_words(bar: Bar, meter: Meter, beats: Fraction) -> str:
    before = "".join(f"({sign}) " for sign in bar.signs if sign in AT_BEGIN)
    after = "".join(f" ({sign})" for sign in bar.signs if sign not in AT_BEGIN)
    return (f"({bar.meter}) " if bar.meter else "") + before + _chord_words(bar, meter, beats) + after


def _chord_words(bar: Bar, meter: Meter, beats: Fraction) -> str:
    if bar.same:
        return "%"
    each = beats / max(1, len(bar.slots))
    if all(slot.beats == each for slot in bar.slots):
        return " ".join(slot.symbol for slot in bar.slots)
    for unit in (Fraction(1), Fraction(meter.beats, meter.upper)):
        counts = [slot.beats / unit for slot in bar.slots]
        if all(count.denominator == 1 for count in counts):
            return " ".join(
                slot.symbol + " /" * (int(count) - 1) for slot, count in zip(bar.slots, counts, strict=True)
            )
    return " ".join(f"{slot.symbol}:{short_beats(slot.beats)}" for slot in bar.slots)


def _tune_words(bar: Bar) -> str:
    return " ".join(f"{tone.pitch or 'r'}:{short_beats(tone.beats)}{'~' if tone.tied else ''}" for tone in bar.tune)


def _cue_words(bar: Bar) -> str:
    cues = [cue_escaped(slot.cue) for slot in bar.slots]
    while cues and not cues[-1]:
        cues.pop()
    return " / ".join(cues)


def _marks(bars: tuple[Bar, ...]) -> list[str]:
    """The bar line before each bar of a section, and the one after the last."""
    between: list[Bar | None] = [None, *bars, None]
    return [_mark(before, here) for before, here in itertools.pairwise(between)]


def _mark(before: Bar | None, here: Bar | None) -> str:
    """The bar line between two bars, one of which may be missing."""
    was, now = before.ending if before else 0, here.ending if here else 0
    repeats, opens = before.repeats if before else 0, bool(here and here.opens)
    mark = "|"
    if repeats:
        mark = f":|x{repeats}" if repeats > 2 else ":|"
    elif was and not now and here and not opens:
        mark = "||"
    if opens:
        mark = "|:" if mark in ("|", "||") else f"{mark} |:"
    if now and (now != was or repeats or opens):
        words = ending_words(now).replace(", ", ",")
        mark += f" {words}." if mark[-1].isdigit() else f"{words}."
    return mark


def _lines(name: str, cells: list[str], marks: list[str], widths: list[int]) -> str:
    words = [name]
    for mark, cell, width in zip(marks, cells, widths, strict=False):
        words.append(f"{mark} {cell.ljust(width)} ")
    return ("".join(words) + marks[len(cells)]).rstrip()


def _section(section: Section, song: Song, pickup: Fraction) -> list[str]:
    lines = [f"key: {section.key}"] if section.key else []
    lines += [f"meter: {section.meter}"] if section.meter else []
    lines += [f"swing: {section.swing}"] if section.swing else []
    marks = _marks(section.bars)
    for at in range(0, len(section.bars), _BARS_A_LINE):
        bars = section.bars[at : at + _BARS_A_LINE]
        rows = {"": [], "tune:": [], "cue:": []}  # type: dict[str, list[str]]
        for n, bar in enumerate(bars):
            meter = bar_meter(song, section, bar)
            beats = pickup if pickup and at + n == 0 else Fraction(meter.beats)
            rows[""].append(_bar_words(bar, meter, beats))
            rows["tune:"].append(_tune_words(bar))
            rows["cue:"].append(_cue_words(bar))
        widths = [max(len(cells[n]) for cells in rows.values()) for n in range(len(bars))]
        own = marks[at : at + len(bars) + 1]
        # a mark that closes one line and opens the next is split between them
        if at + len(bars) < len(section.bars):
            own[-1] = (
                re.sub(r"[\d,]+\.$", "", own[-1].split(" ")[0])
                if own[-1].startswith(":|")
                else "||"
                if own[-1].startswith("||")
                else "|"
            )
        if at:
            last = own[0].split(" ")[-1]
            own[0] = "|" + _ending(last) if last[0] == ":" or last[0].isdigit() else last
        pipes = ["|"] * len(own)
        head = " " * len("tune: ") if any(rows["tune:"]) or any(rows["cue:"]) else ""
        lines.append(_lines(head, rows[""], own, widths))
        lines += [
            _lines(name.ljust(len(head)), rows[name], pipes, widths) for name in ("tune:", "cue:") if any(rows[name])
        ]
    return lines


def _ending(mark: str) -> str:
    found = re.search(r"[\d,]+\.$", mark)
    return found[0] if found else ""


def write_chart(song: Song) -> str:
    """The song as chart text; reading it gives the same song."""
    lines = [f"title: {song.title}", f"key: {song.key}", f"meter: {song.meter}", f"tempo: {song.tempo}"]
    lines += [f"swing: {song.swing}"] if song.swing else []
    lines += [f"pickup: {short_beats(song.pickup)}"] if song.pickup else []
    lines += [f"{name}: {value}" for name, value in song.asks]
    lines += [f"also: {name} = {value}" for name, value in song.extra]
    for index, section in enumerate(song.sections):
        lines += [
            "",
            f"[{name_escaped(section.name)}]",
            *_section(section, song, song.pickup if index == 0 else Fraction(0)),
        ]
    return "\n".join(lines) + "\n"
