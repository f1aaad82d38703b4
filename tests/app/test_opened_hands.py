"""Hands that a pattern opened are the same hands in the file, in other takes, in the mix, in another key and on paper."""

import pytest

from tests.songs import BUILDER
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import changed_in, file_of, state_of, state_with
from yellow_hinge.app.edits.takes import mix_state
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.rhythm.asks import with_ahead, with_pattern
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.written_out import passes_of
from yellow_hinge.io.songs.song_json import from_json, to_json

CHART = "title: Quay\nkey: Bb\nmanner: pop\n[Verse]\n| Bb | Gm7 | Eb | F7 |\n[Chorus]\n| Cm7 | F7 | Bb | Bb |\n"


def solved(state):
    return solve_song(BUILDER, timeline(state.song), state.asked, state.standing)


def hands(state):
    return [voicing.both for voicing in solved(state).voicings]


def struck(state):
    sounding = performed(solved(state), state.song, state.playing)
    return [(s.onset, s.midi, s.part, s.added) for s in sounding.struck if s.part in ("left", "right")]


@pytest.fixture
def opened():
    plain = state_with(parse_chart(CHART), CHART)
    section = plain.song.sections[0].id
    playing = with_pattern(plain.playing, section, "both", "ballad", True)
    return plain, changed_in(plain, playing=with_ahead(playing, playing.wishes[0], True))


def test_a_file_gives_the_same_hands_and_strokes_back(opened):
    plain, state = opened
    again = state_of(from_json(to_json(file_of(state)), "x"))
    assert again.asked == state.asked
    assert hands(again) == hands(state) != hands(plain)
    assert hands(state)[4:] != hands(state)[:4]
    assert all(len(both.left) == 3 for both in hands(state)[:4])
    assert all(len(both.left) == 2 for both in hands(state)[4:])
    assert struck(again) == struck(state)


def test_another_take_keeps_its_own_and_the_mix_plays_each(opened):
    plain, state = opened
    two = takes.added(state, "Plain")
    two = changed_in(two, playing=with_pattern(two.playing, two.song.sections[0].id, "both", ""))
    assert hands(two) == hands(plain)
    assert hands(takes.switched(two, 1)) == hands(state)
    mix = mix_state(takes.with_choice(two, *passes_of(two.song)[0], 1))
    assert [wish.wants and wish.ahead for wish in mix.playing.wishes] == [True]
    assert all(len(both.left) == 3 for both in hands(mix)[:4])
    assert all(len(both.left) == 2 for both in hands(mix)[4:])


def test_another_key_opens_hands_too_and_a_pattern_changed_still_comes_early(opened):
    _, state = opened
    there = in_key(state, parse_key("D"))
    assert there.setup.wanted == state.setup.wanted
    assert all(len(both.left) == 3 for both in hands(there)[:4])
    section = state.song.sections[0].id
    assert with_pattern(state.playing, section, "both", "held").wishes[0].ahead
