"""Every entry of the shelf goes round the keys with the hands that it has, transposed."""

import pytest

from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.practice.of_shelf import of_entry
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.reharm.shelf import ShelfEntry, starter
from yellow_hinge.core.reharm.shelf_fits import stacked
from yellow_hinge.io.songs.song_json import song_file

SONG = state_of(song_file(parse_chart("key: Eb\n| Eb | Bb7 | Eb |"), setup=Setup(player=Player(Hands(roll=True)))))


@pytest.mark.parametrize("entry", starter(), ids=lambda entry: entry.id)
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
