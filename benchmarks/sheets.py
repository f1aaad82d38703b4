"""Sheets: a long song laid out, engraved and written, in times of solving it."""

from __future__ import annotations

import time
from collections.abc import Callable

from benchmarks.fresh import fresh
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.musicxml.writing import musicxml_bytes
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.paper import out

BARS = 64


def _timed(do: Callable[[], object]) -> float:
    do()
    started = time.perf_counter()
    do()
    return time.perf_counter() - started


def sheet_figures() -> list[tuple[str, str, str]]:
    """(what, measured, limit) of a sheet of eight pages, staves of 64 bars and twelve keys."""
    bars = " | ".join(
        f"{one} {two}"
        for one, two in zip(("Am7", "Dm9", "G13", "Cmaj7") * 48, ("E7", "Bb7", "F", "C6") * 48, strict=True)
    )
    state = state_of(song_file(parse_chart(f"[A]\n| {bars} |\n")))
    started = time.perf_counter()
    solution = solve_song(fresh(), timeline(state.song), state.asked, state.keeps)
    solving = time.perf_counter() - started
    file, ask = file_of(state), SheetAsk(size="s")
    pages = sheet_pages(file, solution, ask)[:8]
    laid = _timed(lambda: sheet_pages(file, solution, ask))
    pdf = _timed(lambda: out.pdf_bytes(pages, "x"))
    short = state_of(
        song_file(parse_chart(f"[A]\n| {' | '.join(['Am7 D9', 'G13', 'Cmaj7', 'E7b9'] * (BARS // 4))} |\n"))
    )
    voiced = solve_song(fresh(), timeline(short.song), short.asked, short.keeps)
    staves = _timed(lambda: sheet_pages(file_of(short), voiced, SheetAsk("staves")))
    score = _timed(lambda: musicxml_bytes(short.song, voiced))
    keys = _timed(lambda: in_twelve(fresh(), short, (0, 0, 0), (0, 3, 0)))
    return [
        (
            f"{sum(len(p.areas) for p in sheet_pages(file, solution, ask))} chords laid out as a sheet",
            f"{laid * 1000:.0f} ms, {laid / solving:.2f} of solving them",
            "",
        ),
        (f"{len(pages)} pages as PDF", f"{pdf * 1000:.0f} ms", "2 s"),
        (f"staves of {BARS} bars engraved", f"{staves * 1000:.0f} ms", ""),
        (f"MusicXML of {BARS} bars", f"{score * 1000:.0f} ms", ""),
        ("five chords in twelve keys", f"{keys * 1000:.0f} ms", ""),
    ]


if __name__ == "__main__":
    for row in sheet_figures():
        print(" | ".join(row))
