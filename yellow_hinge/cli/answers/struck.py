"""What the hands strike, as `voice` says it beside what they hold."""

from __future__ import annotations

from typing import Any

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.striking import STRAIGHT
from yellow_hinge.core.song.song import Song


def struck_fields(solution: Solution, song: Song, playing: Playing) -> tuple[list[dict[str, Any]], int]:
    """For every chord "struck_left" and "struck_right", the MIDI numbers that each hand strikes of it, and apart from
    them "added_left" and "added_right", those that its pattern adds to the hand; and the percent of a beat before its
    second half, at the song's start. A kept line is there as "line", in degrees.
    """
    keys: dict[tuple[int, str, bool], set[int]] = {}
    sounding = performed(solution, song, playing)
    for s in sounding.struck:
        keys.setdefault((s.place, s.part, s.added), set()).add(s.midi)
    rows: list[dict[str, Any]] = [
        {
            f"{word}_{hand}": sorted(keys.get((place, hand, added), ()))
            for word, added in (("struck", False), ("added", True))
            for hand in HANDS
        }
        for place in range(len(solution.voicings))
    ]
    lines = {piece.slot: piece.degrees for piece in playing.lines}
    for row, voicing in zip(rows, solution.voicings, strict=True):
        if voicing.here.slot_id in lines:
            row["line"] = lines[voicing.here.slot_id]
    return rows, sounding.row[0].swing if sounding.row else STRAIGHT
