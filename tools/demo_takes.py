"""Makes the song files of two demo songs from their charts: the main one played twice round, in three takes, with a mix
of them and a line over the chorus of the last; and the blues with a line over all of it in a second take.

`python -m tools.demo_takes` writes them into yellow_hinge/assets/demo/.
"""

from __future__ import annotations

import msgspec

from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.state import State, changed_in, state_of
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.lines import lines
from yellow_hinge.core.lines.onsets import Asked
from yellow_hinge.core.lines.text import pieces
from yellow_hinge.core.rhythm.asks import with_lines
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.known import KnownHands, hands_of
from yellow_hinge.core.takes.written_out import passes_of
from yellow_hinge.io.songs.demo import FIRST, demo_text
from yellow_hinge.io.songs.migrations import file_with
from yellow_hinge.io.songs.song_json import song_file, to_json

NAMES = ("Harbour", "Warm", "High water")
MIX = ("Harbour", "Warm", "Harbour", "High water")  # verse, chorus, verse, chorus
DOCUMENT = "demo-last-boat-to-marrow"
SECOND, SOLO = "kettle-on-the-stove", "With a line"
IN_CHORUS, IN_BLUES = Asked("9", "eighths"), Asked("3-7", "eighths", 1)


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
    state = takes.switched(_lined(takes.switched(state, ids["High water"]), "Chorus", IN_CHORUS), state.take)
    return to_json(file_with(_without_text(state), DOCUMENT, _hands(state)))


def made_second() -> bytes:
    """The other song's bytes."""
    text = demo_text(SECOND)
    before = state_of(song_file(parse_chart(text)), text)
    first, state = before.take, takes.added(before, SOLO)
    state = _lined(state, "", IN_BLUES)
    return to_json(file_with(_without_text(takes.switched(state, first)), f"demo-{SECOND}", _hands(state)))


def _lined(state: State, section: str, asked: Asked) -> State:
    """The take shown with the best line over a section, or over all of it, as the Lines view keeps it."""
    solution = solve_song(Builder(), timeline(state.song), state.asked, state.standing)
    names = [own.name for own in state.song.sections]
    part = [voicing for voicing in solution.voicings if section in ("", names[voicing.here.section])]
    part = [voicing for voicing in part if voicing.here.section == part[0].here.section] if section else part
    moments = [voicing.here for voicing in part]
    tops = [voicing.left[-1] if voicing.left else 0 for voicing in part]
    playing = with_lines(state.playing, pieces(lines(moments, tops, asked)[0], moments))
    return changed_in(state, playing=playing)


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
    (ASSETS / "demo" / f"{SECOND}.hinge").write_bytes(made_second())
