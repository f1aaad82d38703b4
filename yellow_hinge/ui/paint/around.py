"""A chord between its neighbours, as it is and as it would be: two strand maps on one scale of pitch."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.solution import stretch
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.reharm.melody import judge
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.paint.strand.strands import (
    COLUMN_W,
    EDGE,
    KEYS_W,
    StrandScene,
    sounding_span,
    strand_scene,
)

FLATTEST = 2.4  # pixels a semitone: the maps do not scroll


class BothMaps(msgspec.Struct, frozen=True):
    """Both maps with their titles; the second one is None where nothing is tried."""

    now: StrandScene
    title: str
    becomes: StrandScene | None
    becomes_title: str


def neighbourhood(solution: Solution, index: int, span: int = 1) -> tuple[Solution, int]:
    """A chord, or `span` of them from it on, with those beside it, and its place among them."""
    first, last = max(0, index - 1), min(len(solution.voicings) - 1, index + span)
    return stretch(solution, first, last), index - first


def same_time(solution: Solution, other: Solution, index: int) -> tuple[Solution, int]:
    """What sounds in another song in the time of a chord and its neighbours, and the place of the first chord that
    begins with it or later.
    """
    around, _ = neighbourhood(solution, index)
    moments = [v.here for v in around.voicings]
    here = solution.voicings[index].here.start
    begin, end = moments[0].start, moments[-1].start + moments[-1].beats
    starts = [v.here.start for v in other.voicings]
    inside = [i for i, start in enumerate(starts) if begin <= start < end] or [0]
    chosen = next((i for i in inside if starts[i] >= here), inside[-1])
    return stretch(other, inside[0], inside[-1]), chosen - inside[0]


def from_bar(solution: Solution, other: Solution, index: int) -> Solution:
    """Another song from the bar of a chord on."""
    here = solution.voicings[index].here
    begin = here.start - (here.beat - 1)
    first = next((i for i, v in enumerate(other.voicings) if v.here.start >= begin), len(other.voicings) - 1)
    return stretch(other, first, len(other.voicings) - 1)


def figures(solution: Solution) -> str:
    """Semitones and held notes of a stretch in words."""
    total = solution.totals
    return f"{total.motion} semitone{'' if total.motion == 1 else 's'}, {total.held} held"


def around_scene(
    now: Solution, becomes: Solution | None, song: Song, room: tuple[float, float], simple: bool, title: str = ""
) -> BothMaps:
    """Both maps within `room` (width, height) pixels; `title` says what is tried."""
    span = sounding_span(now, *([becomes] if becomes else []))
    count = len(now.voicings) + (len(becomes.voicings) if becomes else 3)
    column_w = min(COLUMN_W, (room[0] - 2 * (KEYS_W + EDGE)) / count)
    maps = [_map(one, song, room[1], simple, column_w, span) for one in (now, becomes) if one is not None]
    words = f"{title}: {figures(becomes)}" if becomes else ""
    return BothMaps(maps[0], f"As it is: {figures(now)}", maps[1] if becomes else None, words)


def _map(
    solution: Solution, song: Song, height: float, simple: bool, column_w: float, span: tuple[int, int]
) -> StrandScene:
    scene = strand_scene(solution, song, lambda _: frozenset(), height, simple, column_w, span, FLATTEST)
    told = tune_told(solution)
    columns = tuple(
        msgspec.structs.replace(column, tune=text, clash=clash)
        for column, (text, clash) in zip(scene.columns, told, strict=True)
    )
    found: StrandScene = msgspec.structs.replace(scene, columns=columns)
    return found


def tune_told(solution: Solution) -> list[tuple[str, bool]]:
    """For every chord what its melody notes are over it ("A ♯11"), and whether one clashes."""
    chords = [voicing.chord for voicing in solution.voicings]
    found = []
    for index, voicing in enumerate(solution.voicings):
        moment = voicing.here
        after = chords[index + 1] if index + 1 < len(chords) else None
        notes = judge((voicing.chord,), (moment.beats,), moment, after)
        words = dict.fromkeys(f"{note.pitch.note} {note.becomes}" for note in notes)
        found.append((pretty_signs(", ".join(words)), not all(note.fits for note in notes)))
    return found
