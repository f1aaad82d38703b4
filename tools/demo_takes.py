"""Makes the main demo's song file from its chart: played twice round, in three takes, with a mix of them.

`python -m tools.demo_takes` writes yellow_hinge/assets/demo/last-boat-to-marrow.hinge.
"""

from __future__ import annotations

import msgspec

from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.state import State, state_of
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.known import KnownHands, hands_of
from yellow_hinge.core.takes.mixing import passes_of
from yellow_hinge.io.songs.demo import FIRST, demo_text
from yellow_hinge.io.songs.song_json import file_with, song_file, to_json

NAMES = ("Harbour", "Warm", "High water")
MIX = ("Harbour", "Warm", "Harbour", "High water")  # verse, chorus, verse, chorus
DOCUMENT = "demo-last-boat-to-marrow"


def made() -> bytes:
    """The file's bytes."""
    text = demo_text(FIRST) + "\n[Verse]\n\n[Chorus]\n"
    state = takes.three(state_of(song_file(parse_chart(text)), text))
    plain, coloured, high = (take.id for take in state.takes[1:])
    state = takes.deleted(state, plain)
    for own, name in zip((state.take, coloured, high), NAMES, strict=True):
        state = takes.renamed(state, own, name)
    ids = {take.name: take.id for take in state.takes}
    for own_pass, name in zip(passes_of(state.song), MIX, strict=True):
        state = takes.with_choice(state, *own_pass, ids[name])
    return to_json(file_with(_without_text(state), DOCUMENT, _hands(state)))


def _hands(state: State) -> tuple[KnownHands, ...]:
    """The hands of every take, as today's prices make them."""
    builder, found = Builder(), []
    for take in state.takes:
        there = takes.switched(state, take.id)
        found.append(hands_of(take.id, solve_song(builder, timeline(there.song), there.asked, there.standing)))
    return tuple(found)


def _without_text(state: State) -> State:
    """The state without what is derived: texts of takes come with their songs."""
    takes = tuple(msgspec.structs.replace(take, text="") for take in state.takes)
    found: State = msgspec.structs.replace(state, takes=takes)
    return found


if __name__ == "__main__":
    (ASSETS / "demo" / f"{FIRST}.hinge").write_bytes(made())
