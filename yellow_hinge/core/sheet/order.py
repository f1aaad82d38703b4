"""The first page of a set: its songs in their order."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.drawing import Drawing
from yellow_hinge.core.sheet.page import Page, line_height, text_width

TITLE, SONG, SMALL = 22.0, 15.0, 9.5  # points
NUMBER_W, TIME_W = 12.0, 18.0  # mm


class OrderRow(NamedTuple):
    """A song in the order: title, key and tempo (or why it is not played), time, take, and what stands before it."""

    title: str
    facts: str
    time: str
    take: str
    note: str


def order_pages(title: str, rows: list[OrderRow], total: str, ask: SheetAsk) -> tuple[Page, ...]:
    """The order on as many pages as it needs; each has a foot that is numbered with the sheets."""
    wide, tall = ask.page
    left, width, end = ask.margin, wide - 2 * ask.margin, tall - ask.margin - line_height(SMALL) * 2
    pages: list[Page] = []
    on, y = _begun(wide, tall, left, width, title, total if rows else "")
    for number, row in enumerate(rows, 1):
        high = line_height(SONG) + line_height(SMALL) * (2 if row.note else 1) + 2.5
        if y + high > end:
            pages.append(_ended(on, left, width, tall - ask.margin))
            on, y = _begun(wide, tall, left, width, title, "")
        if row.note:
            y += on.text(left + NUMBER_W, y, width - NUMBER_W, row.note, SMALL, "muted")
        on.text(left, y, NUMBER_W, f"{number}", SONG, "muted", True)
        on.text(left + NUMBER_W, y, width - NUMBER_W - TIME_W, row.title, SONG, bold=True)
        on.text(left + width - TIME_W, y, TIME_W, row.time, SONG, align="right")
        y += line_height(SONG)
        y += on.text(
            left + NUMBER_W, y, width - NUMBER_W, "  ·  ".join(filter(None, (row.facts, row.take))), SMALL, "muted"
        )
        on.level(left, y + 0.8, width)
        y += 2.5
    pages.append(_ended(on, left, width, tall - ask.margin))
    return tuple(pages)


def _begun(wide: float, tall: float, left: float, width: float, title: str, total: str) -> tuple[Drawing, float]:
    on = Drawing(wide, tall)
    on.text(left, left, width - 2 * TIME_W, title, TITLE, bold=True)
    on.text(left + width - 2 * TIME_W, left, 2 * TIME_W, total, TITLE, align="right")
    return on, left + line_height(TITLE) + 4


def _ended(on: Drawing, left: float, width: float, bottom: float) -> Page:
    words = "1 of 1"  # numbered with the sheets that follow
    room = text_width(words, SMALL) + 0.2
    on.text(left + width - room, bottom - line_height(SMALL), room, words, SMALL, "muted", align="right")
    return on.page()
