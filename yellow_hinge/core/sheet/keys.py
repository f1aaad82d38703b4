"""The page of twelve keys: the same chords in every key, each with its own hands."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.cheat import Cheat, cheat_pages, columns_for
from yellow_hinge.core.sheet.content import SheetContent, SheetMeasure, SheetPart, Writer
from yellow_hinge.core.sheet.page import Page

MOST_PAGES = 2


def keys_content(title: str, facts: str, found: Sequence[tuple[Key, Writer]], apart: bool) -> SheetContent:
    """The chords of every key: each key a bar, or with `apart` a section of its own."""
    parts, bars = [], []
    for key, writer in found:
        places = range(len(writer.solution.moments))
        cells = tuple(writer.cell(place) for place in places)
        name = pretty_signs(str(key))
        if apart:
            parts.append(SheetPart(name, "", tuple(_in_bars(writer))))
        else:
            whole = [*writer.rhythms.values()]
            rhythm = whole[0] if len(whole) == 1 else None  # of more bars there is no room for one
            bars.append(SheetMeasure(name, cells, strong=True, rhythm=rhythm))
    return SheetContent(title, facts, "", tuple(parts) or (SheetPart("", "", tuple(bars)),))


def _in_bars(writer: Writer) -> Iterator[SheetMeasure]:
    """The chords of one key bar by bar, with their rhythm."""
    moments = writer.solution.moments
    bars = [(moment.section, moment.bar, moment.turn) for moment in moments]
    for bar, own in itertools.groupby(range(len(moments)), key=bars.__getitem__):
        yield SheetMeasure("", tuple(writer.cell(place) for place in own), rhythm=writer.rhythms.get(bar))


def keys_pages(
    ask: SheetAsk, title: str, facts: str, found: Sequence[tuple[Key, Writer]], a_page: bool
) -> tuple[Page, ...]:
    """The twelve keys, a page a key, or all of them on two pages where their chords fit in the size that was asked for
    or a smaller one.
    """
    ask = msgspec.structs.replace(ask, show=tuple(part for part in ask.show if part != "cues"))
    longest = max(len(writer.solution.moments) for _, writer in found)
    if a_page:
        return cheat_pages(ask, keys_content(title, facts, found, True), True)
    tries = [ask]
    for size in ("m", "s"):
        tries.append(msgspec.structs.replace(ask, size=size, columns=0))
    tries.append(msgspec.structs.replace(tries[-1], show=tuple(part for part in ask.show if part != "degrees")))
    for attempt in tries:
        width = ask.page[0] - 2 * ask.margin
        apart = longest > columns_for(attempt, width)
        made = Cheat(attempt, keys_content(title, facts, found, apart))
        made.write()
        if len(made.flow.pages) <= MOST_PAGES:
            break
    return made.flow.finish()
