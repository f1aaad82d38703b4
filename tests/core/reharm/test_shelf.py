"""The shelf: every entry is found wherever a song has its chords, in every key, can be played, and comes back as it was
put there; the player's own files are read strictly, each for itself.
"""

import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.app.test_desk import make_desk
from tests.songs import BUILDER
from yellow_hinge.app.desk.shelving import take_fit
from yellow_hinge.app.edits.state import file_of
from yellow_hinge.cli.main import main
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import key_on
from yellow_hinge.core.reharm.shelf import ShelfEntry, shelved, starter
from yellow_hinge.core.reharm.shelf_fits import fit, fits, stacked
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.songs.song_json import song_file, to_json

WIDE = Player(Hands(left_reach=11, right_reach=11, roll=True))


def song_of(entry, key):
    """A song of the chords of an entry, a bar each, in letters."""
    bars = " | ".join(write_symbol(parse_symbol(row.symbol, key)) for row in entry.rows)
    mode = "minor" if key.is_minor else "major"
    return song_file(parse_chart(f"key: {key.tonic} {mode}\n| {bars} |")).song


def key_of(entry, pc):
    return key_on(pc, "minor" if entry.id in ("dark-two-five", "dark-sus") else "major")


@pytest.mark.parametrize("entry", starter(), ids=lambda entry: entry.id)
def test_an_entry_is_found_in_a_song_of_its_chords_in_every_key_and_can_be_played(entry):
    bare = all(not row.right for row in entry.rows)
    setup = Setup(bass="theirs" if bare else "mine", player=WIDE)
    shapes = set()
    for pc in some(range(12), 4, len(entry.id) % 4):
        song = song_of(entry, key_of(entry, pc))
        solution = solve_song(BUILDER, timeline(song), setup)
        found = fit(entry, solution, 0)
        assert found is not None, (entry.id, pc)
        assert any(other.entry is entry for other in fits(starter(), solution, 0))
        for both, voicing in zip(found.hands, solution.voicings, strict=True):
            notes = {midi % 12 for hand in both for midi in hand}
            assert len(notes & set(voicing.chord.pitch_classes)) >= 2, (entry.id, both)
            assert not both.left or span_mm(both.left) <= WIDE.hands.limit("left", len(both.left)) or WIDE.hands.roll
            assert span_mm(both.right) <= WIDE.hands.limit("right", len(both.right))
            assert not (both.left and both.right) or both.right[0] > both.left[-1]
        shapes.add(tuple(tuple(m - found.hands[0].left[0] for m in both.left) for both in found.hands))
    assert len(shapes) <= 4  # the same figure, in another octave at most


def test_there_is_something_for_every_manner():
    assert len(starter()) == 24
    assert len({entry.manner for entry in starter()}) == 8
    assert len({entry.id for entry in starter()}) == 24


@settings(max_examples=examples(20), deadline=None)
@given(
    st.lists(st.sampled_from(["1", "2m7", "57", "4maj7", "6m7", "3m7", "5/7"]), min_size=2, max_size=4),
    st.integers(0, 11),
)
def test_what_is_put_on_the_shelf_fits_where_it_was_and_in_every_other_key(chords, pc):
    bars = " | ".join(chords)
    solution = solve_song(BUILDER, timeline(song_file(parse_chart(f"key: C\n| {bars} |")).song), Setup(player=WIDE))
    entry = shelved("Mine", solution.voicings, "pop")
    assert list(fit(entry, solution, 0).hands) == [voicing.both for voicing in solution.voicings]
    other = solve_song(
        BUILDER,
        timeline(song_file(parse_chart(f"key: {key_on(pc, 'major').tonic}\n| {bars} |")).song),
        Setup(player=WIDE),
    )
    there = fit(entry, other, 0)
    if there is not None:
        for both, first in zip(there.hands, solution.voicings, strict=True):
            assert [b - a for a, b in zip(both.left, both.left[1:], strict=False)] == [
                b - a for a, b in zip(first.both.left, first.both.left[1:], strict=False)
            ]


def test_another_chord_a_short_one_a_tune_in_the_way_and_no_room_are_no_fit():
    entry = next(own for own in starter() if own.id == "amen-minor")
    setup = Setup(player=WIDE)

    def found(text, **asked):
        song = song_file(parse_chart(text)).song
        return fit(entry, solve_song(BUILDER, timeline(song), Setup(player=WIDE, **asked)), 0)

    assert found("key: C\n| F | Fm | C |") is not None
    assert found("key: C\n| F | Fm | Am |") is None
    assert found("key: C\n| F | Fm |\n[B]\n| C |") is None
    assert found("key: C\n| F | Fm |") is None
    assert found("key: C\n| F | Fm | C |\ntune: | C#5:4 | C5:4 | C5:4 |") is None
    assert found("key: C\n| F | Fm | C |", bass="theirs") is None
    assert setup.mine


def test_taking_it_is_one_edit_that_undo_takes_back_to_the_bit():
    desk = make_desk("key: C\n| C | F | Fm | C |")
    before = to_json(file_of(desk.state))
    found = fits(starter(), desk.solution, 1)[0]
    take_fit(desk, found)
    assert [voicing.both for voicing in desk.solution.voicings[1 : 1 + len(found.hands)]] == list(found.hands)
    assert desk.document.history.undo_label.endswith("from the shelf")
    desk.document.undo()
    assert to_json(file_of(desk.state)) == before


def test_keys_are_stacked_upward_and_a_tenth_is_one():
    assert stacked(("1", "5", "10~"), 0, 36) == (36, 43, 52)
    assert stacked(("1", "10~"), 0, 36) == (36, 52)
    assert stacked(("5", "5"), 0, 43) == (43, 55)
    assert stacked(("b3", "5", "b7", "9"), 2, 53) == (53, 57, 60, 64)
    for wrong in ("0", "bb", "16", "x", ""):
        with pytest.raises(UserError):
            ShelfEntry("x", "x", "hands", (f"1 4 {wrong or 'q'} | 3",))


def test_the_verb_lists_all_and_what_fits(capsys, tmp_path):
    assert main(["shelf", "--json"]) == 0
    every = json.loads(capsys.readouterr().out)["entries"]
    assert {"id", "kind", "name", "from", "to", "beats", "mine", "words"} <= set(every[0])
    path = tmp_path / "song.chart"
    path.write_text("key: C\n[Verse]\n| C | F | Fm | C |\n", "utf-8")
    assert main(["shelf", "--fits", str(path), "--at", "Verse:2", "--json"]) == 0
    found = json.loads(capsys.readouterr().out)["entries"]
    assert "amen-minor" in [entry["id"] for entry in found]
    assert all(len(entry["hands"]) == len(entry["chords"]) for entry in found)
    for words in (
        ["shelf", "--at", "Verse:2"],
        ["shelf", "--fits", str(path)],
        ["shelf", "--fits", str(path), "--at", "Verse:9"],
    ):
        assert main(words) == 2
