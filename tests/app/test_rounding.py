"""Rounds: each kind gives other ways of the same bars, in its order, that can be kept."""

import pytest

from tests.core.sheet.charts import solved
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.edits.takes import added, mix_state
from yellow_hinge.app.practice.rounding import WAYS, kept_as_mix, passes_of, turns
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.songs.song_json import song_file

CHART = "key: F\ntempo: 100\n[A]\n|: F | Dm7 | Gm7 | C7 :|\n[B]\n| Bb | F |\n"


@pytest.mark.parametrize("kind", [kind for kind in WAYS if kind != "take"])
def test_every_way_is_another_one_of_the_same_bars(kind):
    state = state_of(song_file(parse_chart(CHART)))
    found = turns(BUILDER, state, (0, 0, 0), (0, 3, 0), kind)
    heard = set()
    for turn in found:
        assert [m.symbol for m in turn.solution.moments] == [slot for slot in symbols(turn)]
        heard.add(tuple((s.onset, s.midi) for s in turn.sounding().struck if s.part in ("left", "right")))
    assert len(heard) == len(found) >= 2
    if kind == "key":
        with pytest.raises(UserError, match="song of its own"):
            kept_as_mix(state, found, kind, [])
        return
    passes = passes_of(solved(state, BUILDER), 0)
    assert len(passes) == 2
    made = kept_as_mix(state, found, kind, passes)
    assert made.take == state.take
    assert len({choice.take for choice in made.mix}) == 2
    mixed = solved(mix_state(made), BUILDER)
    assert len(mixed.voicings) == 10


def symbols(turn):
    return [slot.symbol for section in turn.state.song.sections for bar in section.bars for slot in bar.slots]


def test_takes_go_round_and_a_song_with_one_says_so():
    state = state_of(song_file(parse_chart(CHART)))
    with pytest.raises(UserError, match="no other way"):
        turns(BUILDER, state, (0, 0, 0), (0, 3, 0), "take")
    two = added(state, "Second")
    assert [turn.words for turn in turns(BUILDER, two, (0, 0, 0), (0, 3, 0), "take")] == ["Second", "Take 1"]
