"""Figures of playing: how long a performance takes to find, until it sounds, and to be written as sound."""

from __future__ import annotations

import statistics
import time

from benchmarks.fresh import fresh
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.sound.device import FrameSource
from yellow_hinge.sound.files import audio_bytes
from yellow_hinge.sound.instruments import RATE, Instruments
from yellow_hinge.sound.mixing import rendered
from yellow_hinge.sound.score import Span, score

PARTS = dict.fromkeys(("left", "right", "tune", "drums"), 1.0)


def figures(song: Song) -> list[tuple[str, str, str]]:
    """(what, measured, wanted) of a song."""
    solution = solve_song(fresh(), timeline(song), as_asked(Setup(), song))
    sounding = performed(solution, song)
    found = statistics.median(_timed(lambda: performed(solution, song)) for _ in range(5))
    sheet = score(sounding, Span(0, sounding.length), PARTS)
    instruments = Instruments()
    long = sheet.length / RATE
    cold = _timed(lambda: rendered(sheet, instruments))
    audio = rendered(sheet, instruments)
    rows = [
        (f"how {len(solution.voicings)} chords are struck", f"{found * 1e3:.0f} ms", "50 ms"),
        ("Play until its first sound, its notes read before", f"{_first(sheet, instruments) * 1e3:.0f} ms", "100 ms"),
        ("the same, nothing read before", f"{_first(sheet, Instruments()) * 1e3:.0f} ms", ""),
    ]
    for ending in (".wav", ".flac", ".ogg"):
        seconds = cold + _timed(lambda ending=ending: audio_bytes(audio, ending))
        rows.append((f"a song as {ending[1:]}, against its length", f"{long / seconds:.0f} times as fast", "20 times"))
    return rows


def _timed(do) -> float:
    started = time.perf_counter()
    do()
    return time.perf_counter() - started


def _first(sheet, instruments: Instruments) -> float:
    started = time.perf_counter()
    frames = FrameSource(sheet, instruments)
    frames.ready.wait()
    took = time.perf_counter() - started
    frames.stop()
    return took
