"""What the hands strike, as `voice` says it beside what they hold."""

from __future__ import annotations

from typing import Any

from yellow_hinge.core.leading.hinge import HANDS
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asks import Playing
from yellow_hinge.core.song import Song


def struck_fields(solution: Solution, song: Song, playing: Playing) -> list[dict[str, Any]]:
    """For every chord "struck_left" and "struck_right", the MIDI numbers that each hand strikes of it, and apart from
    them "added_left" and "added_right", those that its pattern adds to the hand.
    """
    keys: dict[tuple[int, str, bool], set[int]] = {}
    for s in performed(solution, song, playing).struck:
        keys.setdefault((s.place, s.part, s.added), set()).add(s.midi)
    return [
        {
            f"{word}_{hand}": sorted(keys.get((place, hand, added), ()))
            for word, added in (("struck", False), ("added", True))
            for hand in HANDS
        }
        for place in range(len(solution.voicings))
    ]
