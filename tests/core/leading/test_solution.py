"""What players would notice in a whole song's voicings."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import NoVoicingError
from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup, Wish, unknown
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import catalogue, shape_of
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.demo import demo_song

TWELVE = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]


def asking(**wishes):
    """A setup; hands, singer and shapes are the player's."""
    who = {name: wishes.pop(name) for name in ("hands", "singer", "shapes") if name in wishes}
    return Setup(player=Player(**who), **wishes)


def solved(chart, keeps=(), builder=None, **wishes):
    song = parse_chart(chart)
    return solve_song(builder or BUILDER, timeline(song), asking(**wishes), keeps)


def degrees(voicing, hand):
    return [voicing.chord.degree_of(note) for note in voicing.both.of(hand)]


@pytest.mark.parametrize("tonic", TWELVE)
def test_rootless_two_five_one_moves_one_then_five(tonic):
    found = solved(f"key: {tonic}\n| 2m7 | 57 | 1maj7 |", bass="theirs", families=("rootless-a", "rootless-b"))
    assert [hinge.left_motion for hinge in found.hinges] == [1, 5]
    assert all(len(v.left) == 4 and not v.right for v in found.voicings)
    families = [v.family for v in found.voicings]
    assert families[0] == families[2] != families[1]
    two, five, one = (degrees(v, "left") for v in found.voicings)
    assert {tuple(two), tuple(one)} <= {
        ("b3", "5", "b7", "9"),
        ("b7", "9", "b3", "5"),
        ("3", "5", "7", "9"),
        ("7", "9", "3", "5"),
    }
    assert tuple(five) in {("3", "13", "b7", "9"), ("b7", "9", "3", "13")}


@pytest.mark.parametrize("tonic", TWELVE)
def test_guide_tones_swap_and_fall_by_half_steps_round_the_fifths(tonic):
    found = solved(f"key: {tonic}\n| 37 | 67 | 27 | 57 |", bass="theirs", families=("guide-tones",))
    for hinge, old, new in zip(found.hinges, found.voicings, found.voicings[1:], strict=False):
        assert degrees(old, "left") == degrees(new, "left")[::-1]
        assert [step.semitones for step in hinge.steps if step.hand == "left"] == [-1, -1]


@pytest.mark.parametrize("tonic", TWELVE)
def test_triads_round_the_pop_loop_keep_every_common_tone(tonic):
    found = solved(f"key: {tonic}\n| 1 | 6 | 4 | 5 |", colour=0, families=("octave-triad",))
    for hinge, old, new in zip(found.hinges, found.voicings, found.voicings[1:], strict=False):
        common = set(old.chord.pitch_classes) & set(new.chord.pitch_classes)
        held = {step.old % 12 for step in hinge.steps if step.hand == "right" and step.stays}
        assert common == held


QUALITIES = st.sampled_from(
    ["", "m", "7", "maj7", "m7", "6", "m6", "9", "m9", "13", "m11", "dim7", "m7b5", "7b9", "7#5", "7alt", "9sus4", "sus4", "aug",
     "maj7#11", "13(b9,#11)", "add9", "5", "dim", "maj7#5", "m(maj7)", "7#9", "sus2", "6/9", "13sus4", "m13", "7(#9,b13)"]
)  # fmt: skip
CHORDS = st.tuples(st.sampled_from(TWELVE), QUALITIES, st.sampled_from(["", "", "", "/E", "/Ab"])).map("".join)


@settings(max_examples=examples(80))
@given(
    st.lists(CHORDS, min_size=1, max_size=5), st.sampled_from(TWELVE), st.sampled_from(["mine", "theirs"]), st.integers(0, 3),
    st.builds(Hands, *[st.integers(7, 11)] * 2, *[st.integers(3, 5)] * 2, st.sampled_from([49, 61, 73, 88])), st.booleans(),
)  # fmt: skip
def test_every_voicing_is_playable_and_holds_what_its_chord_must(chords, key, bass, colour, hands, loop):
    song = parse_chart(f"key: {key}\n| " + " | ".join(chords) + " |")
    setup = Setup(bass=bass, player=Player(hands), colour=colour, loop=loop)
    try:
        found = solve_song(BUILDER, timeline(song), setup)
    except NoVoicingError as error:
        assert error.rule
        assert error.relax
        return
    low, high = hands.compass
    for index, voicing in enumerate(found.voicings):
        for notes, reach, most in (
            (voicing.left, hands.left_reach, hands.left_notes), (voicing.right, hands.right_reach, hands.right_notes),
        ):  # fmt: skip
            assert list(notes) == sorted(set(notes))
            assert len(notes) <= most
            assert not notes or low <= notes[0] <= notes[-1] <= high
            rolled = any("rolled" in warning for warning in voicing.warnings)
            assert not notes or rolled or KEY_X[notes[-1]] - KEY_X[notes[0]] <= reach_mm(reach) + 1e-6
        assert not voicing.left or not voicing.right or voicing.left[-1] < voicing.right[0]
        if found.lattice.stages[index].eased:
            continue
        following = None
        if index + 1 < len(chords) or loop:
            following = found.voicings[(index + 1) % len(chords)].chord
        heard = found.lattice.places[index].local or song.the_key
        allowed = palette(voicing.chord, heard, colour, following)
        sounding = {note % 12 for note in (*voicing.left, *voicing.right)}
        root, bass_pc = voicing.chord.root.pc, voicing.chord.bass_note.pc
        must = {(root + degree_pc(d)) % 12 for d in allowed.must}
        assert must <= sounding | ({bass_pc} if bass == "theirs" else set())
        if voicing.family != "upper-triad":  # a named triad may bring colours of its own
            assert sounding <= {(root + degree_pc(d)) % 12 for d in (*allowed.tones, *allowed.colours)} | {bass_pc}
        if bass == "mine":
            assert voicing.left[0] % 12 == bass_pc
    assert found.totals.motion == sum(abs(s.semitones) for hinge in found.hinges for s in hinge.steps)


# Shapes made for other chords than sevenths in root position.
TWO_FIVE_ONE = {
    "octave-triad": "| Dm | G | C |", "add-second": "| Dm | G | C |", "close-hands": "| Dm | G | C |", "stacked-minor": "| Dm9 | Em11 | Am7 |",
    "four-parts": "| Dm7 | G7 | C |", "open-fourths": "| Dm7 | C/D | Dm11 |", "triad-over-bass": "| F/G | G9sus4 | F/C |", "number-over": "| Dm9 | Em7 | Am7 |",
}  # fmt: skip


@pytest.mark.parametrize("shape", [shape.id for shape in catalogue()])
def test_every_family_plays_a_two_five_one_by_itself(shape):
    bass = {"mine": "mine", "theirs": "theirs", "any": "mine"}[shape_of(shape).bass]
    hands = Hands(left_reach=11, right_reach=10)
    found = solved(TWO_FIVE_ONE.get(shape, "| Dm7 | G7 | Cmaj7 |"), families=(shape,), bass=bass, hands=hands)
    assert {v.family for v in found.voicings} == {shape}
    assert not any("wider" in warning for v in found.voicings for warning in v.warnings)


def test_a_keep_is_kept_and_the_rest_moves_around_it():
    free = solved("| C | Am | F | G |")
    at = options(free, 1)[5]
    keep = Keep(5, "Am", at.both.left, at.both.right)
    kept = solved("| C | Am | F | G |", keeps=(keep,))
    assert kept.voicings[1].both == at.both
    assert kept.totals.cost == free.totals.cost + at.extra
    assert min(option.extra for option in options(kept, 1)[1:]) < 0 or options(kept, 1)[0].both == at.both


def test_a_keep_for_another_chord_is_ignored():
    keep = Keep(5, "Bb", (46,), (58, 62, 65))
    assert solved("| C | Am |", keeps=(keep,)).totals == solved("| C | Am |").totals


def test_notes_from_the_keys_can_be_kept_though_no_shape_makes_them():
    keep = Keep(3, "C", (48, 50), (72, 73, 74))
    found = solved("| C | Am |", keeps=(keep,))
    assert found.voicings[0].both == (keep.left, keep.right)
    assert found.voicings[0].family == "kept"


def test_options_are_ranked_different_and_priced_for_the_song():
    found = solved("| C | Am | F | G |")
    ways = options(found, 2)
    assert ways[0].both == found.voicings[2].both
    assert ways[0].extra == 0
    assert [w.extra for w in ways] == sorted(w.extra for w in ways)
    assert len({w.both for w in ways}) == len(ways) > 8


def test_the_loop_closes_with_its_own_hinge():
    found = solved("| C | Am | F | G |", loop=True)
    assert len(found.hinges) == 4
    assert found.totals.exact


def test_same_input_same_output_whatever_was_solved_before():
    builder = Builder()
    solved("| F7 | Bb7 | Am7 D7 | Gm7 |", builder=builder)
    charts = ["| C | Am | F | G |", "| Dm7 | G7 | C |", "| C | Am | F | G |"]
    assert [solved(c, builder=builder).voicings for c in charts] == [solved(c).voicings for c in charts]


def test_a_chord_that_no_shape_plays_says_which_rule_and_the_way_out():
    found = solved("| C | C13(b9,#11) |", hands=Hands(left_notes=2, right_notes=2))
    assert "a hand may play too few notes; allow" in found.voicings[1].warnings[0]
    assert len(found.voicings[1].left) <= 2 >= len(found.voicings[1].right)
    assert {(n % 12) for n in (*found.voicings[1].left, *found.voicings[1].right)} >= {0, 4, 10}


@pytest.mark.parametrize("bass", ["mine", "theirs"])
@pytest.mark.parametrize("hands", [Hands(5, 5, 1, 1), Hands(5, 5, 2, 2, 49), Hands(6, 5, 1, 3)])
def test_one_chord_never_refuses_a_song(hands, bass):
    found = solved("| C13(b9,#11) | Dm11 | F/G | Bbmaj9 over C7 | E7alt | C |", hands=hands, bass=bass)
    assert len(found.voicings) == 6
    for voicing, stage in zip(found.voicings, found.lattice.stages, strict=True):
        assert stage.eased is any("played" in w or "left out" in w or "rolled" in w for w in voicing.warnings)
        assert len(voicing.left) <= hands.left_notes
        assert len(voicing.right) <= hands.right_notes


def test_a_chord_outside_the_chosen_families_is_played_wider_and_says_so():
    found = solved("| C5 |", families=("octave-triad",))
    assert "a wider one is used: Bass and close chord" in found.voicings[0].warnings[0]


@pytest.mark.parametrize(
    "wish",
    [{"style": "Smooth"}, {"families": ("rootless-c",)}, {"manner": "polka"}, {"wishes": (Wish(1, style="Smoth"),)}],
)
def test_a_name_that_is_not_known_is_kept_and_said_and_the_usual_is_used(wish):
    (words,) = unknown(Setup(**wish))
    assert "is not a" in words
    assert [v.both for v in solved("| C | F |", **wish).voicings] == [v.both for v in solved("| C | F |").voicings]


def test_small_hands_get_no_wide_grips():
    song = demo_song("last-boat-to-marrow")
    small = Hands(left_reach=8, right_reach=7, left_notes=3, right_notes=3)
    found = solve_song(BUILDER, timeline(song), asking(hands=small))
    assert all(KEY_X[v.right[-1]] - KEY_X[v.right[0]] <= reach_mm(7) + 1e-6 for v in found.voicings)
