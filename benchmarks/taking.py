"""Figures of takes: a mix of 128 chords, another take on the desk, three takes painted."""

from __future__ import annotations

import statistics
import time

from PySide6.QtGui import QPixmap

from benchmarks.fresh import fresh
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.state import State, state_of
from yellow_hinge.app.solving.of_takes import TakesSolver
from yellow_hinge.app.solving.solver import answer
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.takes.written_out import passes_of
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.paint.theme import LIGHT
from yellow_hinge.ui.takes.scene import takes_scene
from yellow_hinge.ui.takes.takes_canvas import TakesCanvas


def _three(song: Song) -> State:
    state = takes.three(state_of(song_file(song)))
    return takes.deleted(state, state.takes[1].id)


def figures(song: Song, short: Song) -> list[tuple[str, str, str]]:
    """(what, measured, wanted) of a song of 128 chords and one of 64."""
    state = _three(song)
    ids = [take.id for take in state.takes]
    for n, own in enumerate(passes_of(state.song)):
        state = takes.with_choice(state, *own, ids[n % 3])
    mix = takes.mix_state(state)
    first = statistics.median(_timed(lambda: answer(fresh(), 1, mix)) for _ in range(3))
    small = _three(short)
    builder = fresh()
    there = [takes.switched(small, take.id) for take in small.takes]
    for one in there:
        answer(builder, 1, one)
    switch = max(statistics.median(_timed(lambda one=one: answer(builder, 1, one)) for _ in range(5)) for one in there)
    return [
        ("a mix of 128 chords in three takes, first solve", f"{first * 1e3:.0f} ms", "300 ms"),
        ("another take of 64 chords on the desk, solved before", f"{switch * 1e3:.0f} ms", "50 ms"),
        ("painting three takes of 64 chords", f"{_painted(small) * 1e3:.1f} ms", "16 ms"),
    ]


def _painted(state: State) -> float:
    solver = TakesSolver(lambda _: None, "bench")
    found = solver._found(fresh(), 1, state)
    canvas = TakesCanvas(LIGHT)
    canvas.show_scene(takes_scene(found.rows, state.song, 1200, 500))
    target = QPixmap(canvas.size())
    canvas.render(target)
    return statistics.median(_timed(lambda: canvas.render(target)) for _ in range(9))


def _timed(do) -> float:
    started = time.perf_counter()
    do()
    return time.perf_counter() - started
