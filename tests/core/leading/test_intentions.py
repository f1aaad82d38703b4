"""What a player asks for beyond the chords: styles, tops, the singer, registers, wishes for a section or a chord."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.core.leading.test_solution import CHORDS, TWELVE, asking, degrees, solved
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep
from yellow_hinge.core.leading.asking.setup import Setup, Wish
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.placing_cost import own_terms
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.placing import one_hand
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.io.songs.demo import demo_song

# ids: A is 1, its bars 2 4 6 8 with the chords 3 5 7 9; B is 10, its bars 11 13 15 17 with 12 14 16 18
SONG = "key: C\n[A]\n| Cmaj7 | Am7 | Dm7 | G7 |\n[B]\n| Em7 | A7 | Dm7 | G7 |"


def tops(found):
    return [v.right[-1] for v in found.voicings]


def steps(notes):
    return [b - a for a, b in itertools.pairwise(notes)]


def shape(notes):
    return [note - notes[0] for note in notes]


# --- styles ---


@pytest.mark.parametrize("tonic", some(TWELVE, 3))
def test_slide_the_shape_moves_one_hand_shape_in_parallel(tonic):
    found = solved(
        f"key: {tonic}\n| 1 | b7 | b6 | b7 | 1 |", style="Slide the shape", families=("octave-triad",), colour=0
    )
    rights = [shape(v.right) for v in found.voicings]
    assert all(right == rights[0] for right in rights)
    assert all(abs(step) <= 3 for step in steps(tops(found)))
    smooth = solved(f"key: {tonic}\n| 1 | b7 | b6 | b7 | 1 |", families=("octave-triad",), colour=0)
    assert found.totals.motion >= smooth.totals.motion


def test_a_falling_bass_falls_by_steps_over_inversions():
    song = "key: C\n| C | G | Am | Em | F | C |"
    bass = [v.left[0] for v in solved(song, style="Falling bass").voicings]
    assert all(-2 <= step <= 0 for step in steps(bass[:-1]))
    assert bass[-1] % 12 == 0  # the last chord stands on its bass
    assert bass[0] - bass[-1] >= 7
    usual = [v.left[0] % 12 for v in solved(song).voicings]
    assert usual == [v.chord.bass_note.pc for v in solved(song).voicings]


# --- tops and the singer ---


def test_a_held_top_stays_over_its_chords():
    found = solved(SONG, held=(HeldTop((5, 7, 9, 12), 76),))
    assert tops(found)[1:5] == [76] * 4


def test_a_top_that_no_hand_reaches_is_let_go_and_said():
    found = solved(SONG, held=(HeldTop((3,), 107),))
    assert "B7 cannot be the top note here" in found.voicings[0].warnings[0]
    assert found.totals.cost == solved(SONG).totals.cost


def test_the_melody_is_the_top_where_the_player_has_it():
    song = demo_song("last-boat-to-marrow")
    moments = timeline(song)
    found = solve_song(Builder(), moments, Setup(melody="top"))
    sung = [(v, moments[v.moment].tune[0].pitch.midi) for v in found.voicings if moments[v.moment].tune]
    assert len(sung) > 10
    assert all(v.right[-1] == midi or any("cannot be the top note" in w for w in v.warnings) for v, midi in sung)
    assert sum(v.right[-1] == midi for v, midi in sung) > 0.9 * len(sung)


def test_the_singers_register_is_left_to_the_singer():
    def inside(found):
        return sum(60 <= note <= 70 for v in found.voicings for note in v.right)

    found = solved(SONG, singer=(60, 70))
    assert inside(found) < inside(solved(SONG)) / 2
    scene, weights = found.lattice.stages[0].scene, found.lattice.places[0].asked.weights
    prices = [own_terms(one_hand(()), one_hand((note,)), scene, weights)[1]["singer"] for note in (59, 60, 70, 71)]
    assert [int(price[0]) > 0 for price in prices] == [False, True, True, False]


# --- wishes for a part of the song ---


def test_a_section_climbs_and_drops():
    climbed, dropped = (tops(solved(SONG, wishes=(Wish(10, lift=by),))) for by in (9, -7))
    assert sum(climbed[4:]) / 4 > sum(climbed[:4]) / 4 + 3
    assert sum(dropped[4:]) / 4 <= sum(dropped[:4]) / 4 - 2


def test_the_nearer_wish_overrules():
    wishes = (Wish(7, families=("spread-two",)), Wish(1, families=("bass-close",)), Wish(10, colour=1))
    found = solved(SONG, families=("shell-root",), wishes=wishes)
    assert [v.family for v in found.voicings] == ["bass-close"] * 2 + ["spread-two"] + ["bass-close"] + [
        "shell-root"
    ] * 4
    plain = found.voicings[4]
    assert {note % 12 for note in (*plain.left, *plain.right)} <= set(plain.chord.pitch_classes)


def test_a_wish_for_a_bar_covers_its_chords_and_one_for_a_turn_only_that():
    song = "key: C\n|: Cmaj7 Am7 | Dm7 :|"
    bar = solved(song, wishes=(Wish(2, style="Outward"),))
    assert [bar.lattice.places[i].asked.style for i in range(6)] == ["Outward", "Outward", "Smoothest"] * 2
    turn = solved(song, colour=2, wishes=(Wish(1, turn=1, colour=0),))
    assert [place.asked.colour for place in turn.lattice.places] == [2] * 3 + [0] * 3


# --- keeps of parts ---


def test_a_kept_part_that_leaves_nothing_is_let_go_and_said():
    keep = Keep(3, "Cmaj7", (37,), (60, 64, 71), part="bass")
    found = solved(SONG, keeps=(keep,)).voicings[0]
    assert found.left[0] % 12 == 0
    assert "the kept bass leaves this chord no voicing" in found.warnings[0]


def test_the_top_of_a_resting_hand_is_that_it_rests():
    keep = Keep(3, "Dm7", (53, 57, 60), (), part="top")
    found = solved("key: C\n| Dm7 | G7 |", keeps=(keep,), bass="theirs", families=("guide-tones", "rootless-3"))
    assert found.voicings[0].right == ()


# --- invariants ---

WISHES = st.fixed_dictionaries(
    {
        "bass": st.sampled_from(["mine", "theirs"]), "colour": st.integers(0, 3), "style": st.sampled_from(list(STYLES)),
        "loop": st.booleans(), "singer": st.sampled_from([None, (60, 69)]),
        "wishes": st.sampled_from([(), (Wish(1, lift=7),), (Wish(2, style="Singing top"),), (Wish(4, families=("free",)),)]),
        "families": st.sampled_from([(), ("all",), ("drop2", "bass-close"), ("upper-triad", "fourths")]),
    }
)  # fmt: skip


@settings(max_examples=examples(40), deadline=None)
@given(st.lists(CHORDS, min_size=2, max_size=5), WISHES)
def test_whatever_is_asked_hands_are_playable_and_the_same_twice(chords, wishes):
    song = timeline(parse_chart("key: C\n| " + " | ".join(chords) + " |"))
    builder, hands = Builder(), Hands()
    found, again = (solve_song(b, song, asking(**wishes)) for b in (builder, Builder()))
    assert [v.both for v in found.voicings] == [v.both for v in again.voicings]
    assert found.totals == again.totals
    low, high = hands.compass
    for v in found.voicings:
        assert len(v.left) <= hands.left_notes
        assert len(v.right) <= hands.right_notes
        assert all(low <= note <= high for note in (*v.left, *v.right))
        assert not v.left or not v.right or v.left[-1] < v.right[0]
        assert not any("past your" in warning for warning in v.warnings)


@settings(max_examples=examples(30), deadline=None)
@given(st.lists(CHORDS, min_size=3, max_size=7), st.data())
def test_an_edited_song_is_solved_as_if_it_were_new(chords, data):
    builder = Builder()
    solve_song(builder, timeline(parse_chart("key: C\n| " + " | ".join(chords) + " |")), Setup())
    for _ in range(3):
        at = data.draw(st.integers(0, len(chords) - 1))
        chords = [*chords[:at], *data.draw(st.lists(CHORDS, max_size=2)), *chords[at + 1 :]]
        moments = timeline(parse_chart("key: C\n| " + " | ".join(chords or ["C"]) + " |"))
        kept, fresh = solve_song(builder, moments, Setup()), solve_song(Builder(), moments, Setup())
        assert [v.both for v in kept.voicings] == [v.both for v in fresh.voicings]
        assert kept.totals == fresh.totals
        for t in range(len(kept.voicings)):
            assert (kept.solved.price(t) == fresh.solved.price(t)).all()
        chords = chords or ["C"]


@pytest.mark.parametrize("chart", [SONG, "key: C\n| C | G/B | Am | F6 | Fm6 | C/E | D7 | G9sus4 | C |"])
def test_a_song_in_another_key_costs_what_registers_explain(chart):
    """Between neighbouring keys the hands can move along by a half step; only registers and black keys differ."""
    costs = []
    for shift in range(12):
        moved = song_in_key(parse_chart(chart), parse_key(TWELVE[shift]))
        found = solve_song(Builder(), timeline(moved), Setup())
        costs.append(found.totals.cost / 1000 / len(found.voicings))
    assert max(costs) - min(costs) < 0.8  # units per chord: less than a semitone of one finger


def test_degrees_do_not_depend_on_the_key_where_registers_leave_room():
    found = [solved(f"key: {tonic}\n| 2m7 | 57 | 1maj7 |", families=("rootless-a", "rootless-b"), bass="theirs")
             for tonic in TWELVE]  # fmt: skip
    lines = {tuple(tuple(degrees(v, "left")) for v in one.voicings) for one in found}
    assert len(lines) == 2  # from the third or from the seventh


# --- fullness ---


@pytest.mark.parametrize(("left", "right"), [(1, 3), (2, 3), (2, 4), (1, 4), (3, 3)])
def test_fullness_is_a_filter_and_not_a_price(left, right):
    """Every chord has as many notes as asked for, or as near as any of its voicings comes."""
    found = solved("key: C\n| C | Am7 | Dm7 | G7 | Fmaj7 | E7 | Am | G |", colour=2, fullness=(left, right))
    sizes = [(len(v.left), len(v.right)) for v in found.voicings]
    assert sizes.count((left, right)) >= 6
    for size, stage in zip(sizes, found.lattice.stages, strict=True):
        counts = {
            (int(stage.left.count[l]), int(stage.right.count[r]))
            for l in range(len(stage.left))
            for r in range(len(stage.right))
        }
        assert counts == {size}


def test_beside_a_bass_player_both_hands_play_unless_the_right_is_free():
    chart = "key: Bb\n| Cm7 | F7 | Bbmaj7 | G7 | Cm7 | F7 | Bb6 |"
    assert all(v.right and v.left for v in solved(chart, bass="theirs", colour=2).voicings)
    free = solved(chart, bass="theirs", colour=2, right="free").voicings
    assert all(v.left and not v.right for v in free)
