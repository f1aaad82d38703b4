"""Every entry of the shelf goes round the keys with the hands that it has, transposed."""

from datetime import datetime
from itertools import pairwise

import pytest

from tests import some
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.practice.of_shelf import of_entry, of_line
from yellow_hinge.app.practice.programmes import LineProgramme
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.own.lines import OwnLine
from yellow_hinge.core.reharm.shelf import ShelfEntry, starter
from yellow_hinge.core.reharm.shelf_fits import stacked
from yellow_hinge.io.songs.song_json import song_file

SONG = state_of(song_file(parse_chart("key: Eb\n| Eb | Bb7 | Eb |"), setup=Setup(player=Player(Hands(roll=True)))))


@pytest.mark.parametrize("entry", some(starter(), 2), ids=lambda entry: entry.id)
def test_an_entry_goes_round_with_its_own_hands(entry):
    builder = Builder()
    state, first, last = of_entry(entry, SONG, builder)
    assert (len(state.keeps), last[1]) == (len(entry.chords), len(entry.chords) - 1)
    for keep, row in zip(state.keeps, entry.rows, strict=True):
        assert (len(keep.left), len(keep.right)) == (len(row.left), len(row.right))
    found = in_twelve(builder, state, first, last)
    assert len({one.key for one in found}) == 12
    own = [voicing.both for voicing in found[0].solution.voicings]
    assert own == [type(own[0])(keep.left, keep.right) for keep in state.keeps]
    for one in found[1:]:
        for here, there in zip(own, (voicing.both for voicing in one.solution.voicings), strict=True):
            for hand in HANDS:
                apart = {b - a for a, b in zip(here.of(hand), there.of(hand), strict=True)}
                assert len(apart) <= 1


def test_hands_that_cannot_be_played_are_said():
    wide = ShelfEntry("wide", "Wide", "hands", ("1 4 1 3' | 5", "5 4 1 | 3"), mine=True)
    assert stacked(("1", "3'"), 0, 36) == (36, 52)
    with pytest.raises(UserError, match="Wide: your hands"):
        of_entry(wide, state_of(song_file(parse_chart("key: C\n| C |"))), Builder())


def test_a_line_goes_round_note_by_note_over_the_left_hand():
    entry = OwnLine("turn", "Turn", ("2m7 2 1/2 | b3 5 b7 9", "57 3/2 1/2 | 3 b9 r", "1maj7 4 1 | r 3 r r"))
    state, first, last = of_line(entry, SONG)
    programme = LineProgramme(entry, in_twelve(Builder(), state, first, last), "both")
    keys = set()
    for _ in range(12):
        steps = programme.next({}, datetime.now())
        tops = [step.voicing.right[0] for step in steps]
        assert [b - a for a, b in pairwise(tops)] == [4, 3, 4, -5, -3, -4]
        assert [step.beats for step in steps] == [0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 1.0]
        assert [bool(step.voicing.left) for step in steps] == [True, False, False, False, True, False, True]
        left = [step.voicing.left for step in steps if step.voicing.left]
        assert all(step.added in left for step in steps if not step.voicing.left)  # it may stay down
        assert steps[0].words.startswith("b3 of ")
        assert len({step.item for step in steps}) == len(steps)
        keys.add(steps[0].key)
    assert len(keys) == 12
    assert all(step.wanted("left") for step in LineProgramme(entry, programme.found, "left").next({}, datetime.now()))
    with pytest.raises(UserError, match="makes no bar"):
        of_line(OwnLine("a", "A", ("1 5/96 5/96 | 3",)), SONG)
    wide = OwnLine("w", "W", ("1 2 1/2 | 1 1''' 1 1'",))
    with pytest.raises(UserError, match="too wide"):
        LineProgramme(wide, in_twelve(Builder(), *of_line(wide, SONG)), "both")
