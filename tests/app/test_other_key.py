"""The keys a song can go to, and the one that suits a singer."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.app.edits.other_key import key_for, other_keys, read_voice, tune_range
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import fifths
from yellow_hinge.core.song.transpose import song_in_key

SONG = parse_chart("key: E\n| E | B7 |\ntune: | E4:2 B4:2 | G#4:3 r:1 |")


def test_every_key_is_there_with_its_way_and_the_tune_in_it():
    found = other_keys(SONG)
    assert {other.key.tonic.pc for other in found} == set(range(12))
    assert [other.by for other in found] == sorted(other.by for other in found)
    assert all(abs(fifths(other.key)) <= 6 for other in found)
    for other in found:
        moved = song_in_key(SONG, other.key)
        assert moved.the_key == other.key
        assert tune_range(moved) == other.tune == (64 + other.by, 71 + other.by)
    words = {str(other.key): other.words for other in found}
    assert words["Eb major"] == "E♭  down 1, tune E♭4 to B♭4"
    assert words["G major"] == "G  up 3, tune G4 to D5"
    assert words["E major"] == "E  as it is, tune E4 to B4"
    assert {"F# major", "Gb major"} < set(words)


@given(st.integers(48, 72), st.integers(0, 20))
def test_a_singer_gets_the_key_with_the_least_outside_and_the_nearest_of_those(low, wide):
    voice = (low, low + wide)
    found = key_for(SONG, voice)
    best = min(max(0, other.beyond(voice)) for other in other_keys(SONG))
    assert max(0, found.beyond(voice)) == best
    assert abs(found.by) == min(abs(o.by) for o in other_keys(SONG) if max(0, o.beyond(voice)) == best)


def test_a_voice_is_read_and_a_song_without_tune_says_so():
    assert read_voice("A3 D5") == read_voice("d5 to a3") == read_voice("A3–D5") == (57, 74)
    with pytest.raises(UserError, match="two notes"):
        read_voice("A3")
    with pytest.raises(UserError, match="no tune yet"):
        key_for(parse_chart("| C | F |"), (50, 70))
