"""Bars copied, cut and pasted: nothing of them is lost on the way, in the song, its takes, and between songs."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.songs import BUILDER, half_song
from yellow_hinge.app.edits.asking import with_keep
from yellow_hinge.app.edits.bars import copied, pasted, without_bars
from yellow_hinge.app.edits.state import state_of, state_with
from yellow_hinge.app.edits.wishing import with_wishes
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.song import Memo
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

SONGS = [demo_song(name) for name in demo_names()[::3]]


def solved(state):
    return solve_song(BUILDER, timeline(state.song), state.asked, state.standing)


def through_a_file(clip):
    """A copy as another window gets it."""
    return from_json(to_json(clip), "x.hinge")


def written(bars):
    return [([(s.symbol, s.beats, s.cue) for s in bar.slots], bar.tune) for bar in bars]


@given(st.sampled_from(SONGS), st.data())
def test_what_is_copied_and_pasted_is_what_was_there(song, data):
    state = state_with(song)
    part = data.draw(st.sampled_from([n for n, s in enumerate(song.sections) if s.bars]))
    bars = song.sections[part].bars
    first = data.draw(st.integers(1 if song.pickup and part == 0 else 0, len(bars) - 1))
    last = data.draw(st.integers(first, len(bars) - 1))
    after = data.draw(st.integers(0, len(bars) - 1))
    clip = through_a_file(copied(state, (part, first), (part, last), None))
    assert written(clip.song.sections[0].bars) == written(bars[first : last + 1])
    found = pasted(state, clip, (part, after), False)
    new = found.song.sections[part].bars
    assert written(new[after + 1 : after + 2 + last - first]) == written(bars[first : last + 1])
    assert written(new[: after + 1] + new[after + 2 + last - first :]) == written(bars)
    assert same_writing(parse_chart(write_chart(found.song)), found.song)
    again = without_bars(found.song, (part, after + 1), (part, after + 1 + last - first))
    assert [written(s.bars) for s in again.sections] == [written(s.bars) for s in song.sections]


def test_bars_that_are_cut_and_pasted_come_back_with_all_that_was_kept_in_them():
    song = half_song()
    slot = song.sections[1].bars[2].slots[0]
    bar = song.sections[1].bars[2].id
    state = state_with(song, memos=(Memo(slot.id, "both pedals"),), setup=with_wishes(Setup(), (bar,), colour=0))
    state = with_keep(state, Keep(slot.id, slot.symbol, (44, 51), (59, 63, 66)))
    clip = through_a_file(copied(state, (1, 1), (1, 2), None))
    assert [keep.slot for keep in clip.keeps] == [slot.id]
    for hands in (False, True):
        found = pasted(state, clip, (0, 3), hands)
        new = found.song.sections[0].bars[5].slots[0]
        assert new.symbol == slot.symbol
        mine, theirs = ([k for k in found.keeps if k.slot == own] for own in (slot.id, new.id))
        assert mine == list(state.keeps)
        assert [(k.left, k.right) for k in theirs] == [((44, 51), (59, 63, 66))]
        assert {memo.slot for memo in found.memos} == {slot.id, new.id}
        asked = [(wish.at, wish.colour) for wish in found.setup.wishes]
        assert asked == [(bar, 0), (found.song.sections[0].bars[5].id, 0)]


def test_with_their_hands_bars_sound_in_another_song_as_they_did_moved_by_one_step():
    here = state_with(half_song())
    hands = solved(here).voicings[:4]
    clip = through_a_file(copied(here, (0, 0), (0, 3), solved(here)))
    other = state_of(song_file(parse_chart("title: Other\nkey: F\nmeter: 3/4\n[A]\n| F | C7 |\n")))
    found = pasted(other, clip, (0, 0), True)
    bars = found.song.sections[0].bars
    assert [str(bar.meter) if bar.meter else "" for bar in bars] == ["", "4/4", "4/4", "4/4", "4/4", ""]
    assert [s.symbol for bar in bars[1:5] for s in bar.slots] == ["F", "Dm7", "Gm7", "C7sus4", "C7"]
    new = solved(found).voicings[1:5]
    assert [tuple(n - 1 for n in (*v.left, *v.right)) for v in new] == [(*v.left, *v.right) for v in hands]


def test_what_cannot_be_done_is_said():
    state = state_with(parse_chart("key: C\n| C | F |"))
    with pytest.raises(UserError, match="no bars to copy"):
        copied(state, (3, 0), (3, 1), None)
    with pytest.raises(UserError, match="no bar left"):
        without_bars(state.song, (0, 0), (0, 1))
    up = state_with(parse_chart("key: C\npickup: 1\n| G7 | C | F | C |"))
    assert up.song.pickup
    with pytest.raises(UserError, match="pickup"):
        pasted(up, copied(up, (0, 0), (0, 1), None), (0, 3), False)


def test_signs_of_a_way_stay_where_they_are():
    state = state_with(parse_chart("key: C\n|: C | F |1. G :|2. C || Am |"))
    clip = copied(state, (0, 0), (0, 1), None)
    found = pasted(state, clip, (0, 4), False).song.sections[0].bars
    assert not any(bar.opens or bar.repeats or bar.ending for bar in found[5:])
    inside = pasted(state, clip, (0, 2), False).song.sections[0].bars
    assert [(bar.opens, bar.ending, bar.repeats) for bar in inside[:5]] == [
        (True, 0, 0), (False, 0, 0), (False, 1, 0), (False, 1, 0), (False, 1, 2)]  # fmt: skip
    assert replace(inside[0], id=0) == replace(state.song.sections[0].bars[0], id=0)
