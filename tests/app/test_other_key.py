"""The keys a song can go to, and the one that suits a singer."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.app.edits.other_key import key_for, other_keys, read_voice
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError

SONG = parse_chart("key: E\n| E | B7 |\ntune: | E4:2 B4:2 | G#4:3 r:1 |")


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
