"""Bars and chords inserted, split, moved and deleted."""

from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.edit import (
    beside,
    delete_bar,
    delete_chord,
    insert_bar,
    move_bar,
    split_chord,
    swap_chords,
)
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.following import all_ids, numbered, same_writing
from yellow_hinge.core.song.timeline import timeline

SONG = parse_chart("key: C\n[A]\n|: C | % | Am7 / D7 / | G :|\ncue: | one | | two / three | |\n[B]\n| F |\n[A]")


def symbols(song):
    return " ".join(slot.symbol for section in song.sections for bar in section.bars for slot in bar.slots)


def test_a_new_bar_goes_on_with_the_chord_and_takes_over_the_repeat_sign():
    song = insert_bar(SONG, (0, 3))
    assert symbols(song) == "C C Am7 D7 G G F"
    assert [bar.repeats for bar in song.sections[0].bars] == [0, 0, 0, 0, 2]


def test_deleting_keeps_signs_and_writes_out_what_repeated_it():
    song = delete_bar(SONG, (0, 0))
    assert symbols(song) == "C Am7 D7 G F"
    assert song.sections[0].bars[0].opens
    assert not song.sections[0].bars[0].same
    assert delete_bar(SONG, (0, 3)).sections[0].bars[2].repeats == 2
    assert [s.name for s in delete_bar(SONG, (1, 0)).sections] == ["A", "A"]


def test_a_section_that_loses_its_last_bar_goes_with_those_that_play_it():
    song = SONG
    for _ in range(4):
        song = delete_bar(song, (0, 0))
    assert [s.name for s in song.sections] == ["B"]
    with pytest.raises(UserError):
        delete_bar(song, (0, 0))


def test_moving_a_bar_leaves_repeat_signs_in_place():
    song = move_bar(SONG, (0, 0), 3)
    assert symbols(song) == "C Am7 D7 G C F"
    assert [(b.opens, b.repeats) for b in song.sections[0].bars] == [(True, 0), (False, 0), (False, 0), (False, 2)]
    assert move_bar(SONG, (0, 0), -5) == SONG


def test_chords_are_split_and_their_beats_inherited():
    song = split_chord(SONG, (0, 3, 0))
    assert [(s.symbol, s.beats) for s in song.sections[0].bars[3].slots] == [("G", 2), ("G", 2)]
    assert delete_chord(song, (0, 3, 1)) == SONG
    merged = delete_chord(SONG, (0, 2, 1)).sections[0].bars[2]
    assert [(s.symbol, s.beats, s.cue) for s in merged.slots] == [("Am7", 4, "two three")]
    assert symbols(delete_chord(SONG, (0, 3, 0))) == "C C Am7 D7 F"
    with pytest.raises(UserError):
        split_chord(parse_chart("| C:0.5 F:3.5 |"), (0, 0, 0))


@given(st.lists(st.tuples(st.sampled_from(["insert", "delete", "move", "split", "chord"]), st.integers(0, 5),
    st.integers(0, 3)), max_size=8))  # fmt: skip
def test_whatever_is_edited_bars_stay_full_and_the_text_says_the_same(steps):
    song = SONG
    edits = {
        "insert": lambda s, b, n: insert_bar(s, (0, b)), "delete": lambda s, b, n: delete_bar(s, (0, b)),
        "move": lambda s, b, n: move_bar(s, (0, b), n), "split": lambda s, b, n: split_chord(s, (0, b, 0)),
        "chord": lambda s, b, n: delete_chord(s, (0, b, 0)),
    }  # fmt: skip
    for what, bar, to in steps:
        try:
            song = edits[what](song, bar, to)
        except UserError:
            continue
        assert all(sum(slot.beats for slot in b.slots) == F(4) for s in song.sections for b in s.bars)
        reading = read_chart(write_chart(song))
        assert same_writing(reading.song, song)
        assert len(set(all_ids(numbered(song)))) == len(list(all_ids(song)))
        assert reading.faults == ()
        assert timeline(song)


def test_chords_change_places_with_their_cues_and_beats_stay():
    song = swap_chords(SONG, (0, 2, 0), (0, 2, 1))
    assert [(s.symbol, s.beats, s.cue) for s in song.sections[0].bars[2].slots] == [
        ("D7", 2, "three"),
        ("Am7", 2, "two"),
    ]
    across = swap_chords(SONG, (0, 1, 0), (0, 2, 0))
    assert symbols(across) == "C Am7 C D7 G F"
    assert beside(SONG, (0, 2, 0), 1) == (0, 2, 1)
    assert beside(SONG, (0, 2, 0), -1) == (0, 1, 0)
    assert beside(SONG, (0, 3, 0), 1) is None
    with pytest.raises(UserError):
        swap_chords(SONG, (0, 0, 0), (0, 0, 7))


def test_the_pickup_goes_with_the_first_bar_only():
    song = parse_chart("pickup: 1\n| G7 | C | F |")
    assert delete_bar(song, (0, 0)).pickup == 0
    assert delete_bar(song, (0, 1)).pickup == 1
