"""Every family of the catalogue by its canonical forms, written as notes in two keys: left hand | right hand."""

import pytest

from tests.core.leading.test_solution import asking
from tests.songs import BUILDER
from tests.tables import rows
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import BrokenHands, Hands
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.shapes.catalogue import capture, catalogue, shape_of
from yellow_hinge.core.shapes.describe import shape_label
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol

WIDE = Hands(left_reach=11, right_reach=10, left_notes=5, right_notes=5, keys=88)

CASES = [
    (family, bass, int(colour), symbol, voicing)
    for family, bass, colour, symbol, found in rows(__file__, "families.tsv")
    for voicing in found.split("; ")
]


def notes(text):
    return tuple(parse_pitch(word).midi for word in text.split())


def hands(voicing):
    left, _, right = voicing.partition("|")
    return notes(left), notes(right)


def stage_of(symbol, **wishes):
    """The lattice's stage of one chord by itself."""
    key = "key: C minor\n" if symbol in ("Cm7",) else ""
    moments = timeline(parse_chart(f"{key}| {symbol} |"))
    hands = BrokenHands(11, 10, 5, 5, 88, False, 18) if wishes.get("families") == ("stride-left",) else WIDE
    return BUILDER.lattice(moments, asking(hands=hands, **wishes), ()).stages[0]


def voicings(stage):
    """{(left, right): family} of every voicing of a stage."""
    rows, columns = (stage.place.cost < INFINITE).nonzero()
    return {
        (stage.left.notes(r), stage.right.notes(c)): stage.shapes[int(stage.place.family[r, c])].id
        for r, c in zip(rows, columns, strict=True)
    }


def test_every_family_has_its_canonical_forms_here():
    assert {case[0] for case in CASES} == {shape.id for shape in catalogue()}
    roots = {own: {str(parse_symbol(case[3]).root) for case in CASES if case[0] == own} for own, *_ in CASES}
    assert all(len(found) > 1 for found in roots.values())


@pytest.mark.parametrize(("family", "bass", "colour", "symbol", "voicing"), CASES)
def test_a_family_makes_its_canonical_forms(family, bass, colour, symbol, voicing):
    found = voicings(stage_of(symbol, bass=bass, colour=colour, families=(family,)))
    assert hands(voicing) in found
    assert set(found.values()) == {family}


def test_dropping_voices_ties_the_hands_together():
    """Only whole close chords may be dropped: the hands of two different ones never meet."""
    found = voicings(stage_of("Cmaj7", bass="theirs", colour=1, families=("drop2",)))
    assert hands("G3 | C4 E4 B4") in found
    assert hands("G3 | D4 E4 B4") not in found
    assert hands("B3 | C4 E4 B4") not in found


@pytest.mark.parametrize(("symbol", "voicing", "label"), [("C7", "C3 E3 Bb3 | D4 F#4 A4", "II over 7: 9 #11 13"),
    ("Eb7", "Eb3 G3 Db4 | F4 A4 C5", "II over 7: 9 #11 13"), ("Cmaj7", "C3 E3 | G3 B3 D4", "V over major: 5 7 9"),
    ("Dm7", "D3 C4 | F4 A4 C5", "bIII over minor: b3 5 b7")])  # fmt: skip
def test_upper_triads_are_called_by_their_degrees(symbol, voicing, label):
    left, right = hands(voicing)
    assert voicings(stage_of(symbol, colour=3, families=("upper-triad",)))[left, right] == "upper-triad"
    assert shape_label(shape_of("upper-triad"), parse_symbol(symbol), parse_key("C"), left, right) == label


def test_triads_that_darken_stand_only_over_dominants_that_fall_to_minor():
    song = "key: C minor\n| G7 | {} |"
    for goal, dark in (("Cm7", True), ("Cmaj7", False)):
        stage = BUILDER.lattice(
            timeline(parse_chart(song.format(goal))), asking(hands=WIDE, colour=3, families=("upper-triad",)), ()
        ).stages[0]  # fmt: skip
        flat_six = hands("G2 B2 F3 | Eb4 G4 Bb4")  # a triad on the flat sixth: b13 1 #9
        assert (flat_six in voicings(stage)) is dark


def test_number_over_number_is_called_by_both_numbers():
    left, right = hands("A2 E3 C4 | B4 D5 G5")
    label = shape_label(shape_of("number-over"), parse_symbol("Am7"), parse_key("C"), left, right)
    assert label == "5 over 6"


def test_the_screen_and_the_command_line_say_the_label():
    found = solve_song(
        BUILDER, timeline(parse_chart("key: F\n| C7 |")), asking(hands=WIDE, colour=3, families=("upper-triad",))
    )
    labels = [option.family_name for option in options(found, 0)]
    assert found.voicings[0].family_name == labels[0]
    assert all(" over 7: " in label for label in labels)


# --- the player's own shapes ---


def test_a_captured_shape_is_played_over_other_chords_with_their_own_degrees():
    left, right = hands("D2 A2 C3 | F3 E4 A4")
    mine = capture("Wide nine", parse_symbol("Dm9"), left, right)
    assert (mine.left, mine.right) == ("1 5 7", "3 9 5")
    for symbol, voicing in (("Em9", "E2 B2 D3 | G3 F#4 B4"), ("Gmaj9", "G2 D3 F#3 | B3 A4 D5")):
        found = voicings(stage_of(symbol, colour=2, families=("mine:Wide nine",), shapes=(mine,)))
        assert hands(voicing) in found
        assert set(found.values()) == {"mine:Wide nine"}


def test_a_capture_lifts_what_lies_more_than_an_octave_above():
    mine = capture("Far", parse_symbol("C"), *hands("C2 | E3 G4"))
    assert mine.right == "3 5'"
    assert capture("Farther", parse_symbol("C7b9"), *hands("C2 Db3 | E4 Bb4")).left == "1 9'"
    assert hands("Eb2 | G3 Bb4") in voicings(stage_of("Eb", colour=0, families=("mine",), shapes=(mine,)))


def test_what_cannot_be_captured_is_refused():
    chord = parse_symbol("C")
    for name, left, right, words in (
        ("", (36,), (64,), "name"), ("a,b", (36,), (64,), "name"), ("x", (), (), "hold some"),
        ("x", (), (60, 62, 64, 65, 67, 69), "five fingers"),
    ):  # fmt: skip
        with pytest.raises(UserError, match=words):
            capture(name, chord, left, right)


def test_wider_families_end_in_the_widest():
    for shape in catalogue():
        seen, at = set(), shape
        while at.wider and at.id not in seen:
            seen.add(at.id)
            at = shape_of(at.wider)
        assert at.id == "free" or at.id in seen


def test_the_fifth_of_a_foreign_bass_is_played_where_it_rubs_on_nothing():
    over_g = voicings(stage_of("F/G", families=("triad-over-bass",)))
    assert hands("G2 D3 G3 | A3 C4 F4") in over_g
    over_db = voicings(stage_of("C/Db", families=("triad-over-bass",)))  # its fifth, Ab, lies beside G
    assert hands("Db2 | E4 G4 C5") in over_db
    assert hands("Db2 Ab2 | E4 G4 C5") not in over_db
