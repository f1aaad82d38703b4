"""Every family of the catalogue by its canonical forms, written as notes in two keys: left hand | right hand."""

import pytest

from tests.core.leading.test_solution import asking
from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import options, solve_song
from yellow_hinge.core.leading.weights import INFINITE
from yellow_hinge.core.pitch import parse_pitch
from yellow_hinge.core.shapes.catalogue import capture, catalogue, shape_of
from yellow_hinge.core.shapes.describe import shape_label
from yellow_hinge.core.symbol import parse_symbol
from yellow_hinge.core.timeline import timeline

WIDE = Hands(left_reach=11, right_reach=10, left_notes=5, right_notes=5, keys=88)

# family, who has the bass, colour level, {symbol: voicings}
CANONICAL = [
    ("bass-close", "mine", 0, {"C": ["C2 | E4 G4 C5", "C2 | G3 C4 E4", "C2 C3 | C4 E4 G4", "C2 G2 C3 | E4 G4 C5"],
                               "Eb": ["Eb2 | G3 Bb3 Eb4", "Eb2 Bb2 Eb3 | Bb3 Eb4 G4"],
                               "C7": ["C2 | E4 G4 Bb4", "C2 | Bb3 C4 E4 G4"], "Eb5": ["Eb2 | Eb4 Bb4"]}),
    ("octave-triad", "mine", 0, {"C": ["C2 C3 | C4 E4 G4", "C2 C3 | E4 G4 C5", "C2 C3 | G3 C4 E4"],
                                 "Ebm": ["Eb2 Eb3 | Eb4 Gb4 Bb4", "Eb2 Eb3 | Bb3 Eb4 Gb4"]}),
    ("guide-tones", "theirs", 3, {"G7": ["B3 F4 |", "F3 B3 |", "F3 B3 | E4 A4", "B3 F4 | A4 E5"],
                                  "Bb7": ["D3 Ab3 |", "Ab3 D4 | G4 C5"]}),
    ("rootless-a", "theirs", 3, {"Dm7": ["F3 A3 C4 E4 |"], "G7": ["B3 E4 F4 A4 |"], "Cmaj7": ["E3 G3 B3 D4 |"],
                                 "Fm7": ["Ab3 C4 Eb4 G4 |"], "Bb7": ["D3 G3 Ab3 C4 |"], "Cdim7": ["Eb3 Gb3 A3 C4 |"]}),
    ("rootless-b", "theirs", 3, {"Dm7": ["C4 E4 F4 A4 |"], "G7": ["F3 A3 B3 E4 |"], "Cmaj7": ["B3 D4 E4 G4 |"],
                                 "Fm7": ["Eb3 G3 Ab3 C4 |"], "Bb7": ["Ab3 C4 D4 G4 |"], "Cdim7": ["A3 C4 Eb4 Gb4 |"]}),
    ("rootless-right", "mine", 3, {"G7": ["G2 | F3 A3 B3 E4", "G2 | B3 E4 F4 A4"], "Bb7": ["Bb2 | Ab3 C4 D4 G4"],
                                   "Fm7": ["F2 | Ab3 C4 Eb4 G4"]}),
    ("spread-two", "mine", 2, {"Dm7": ["D3 C4 | F4 A4 E5", "D3 F3 | C4 F4 A4"], "Fm7": ["F2 Eb3 | Ab3 C4 G4"],
                               "Cmaj7": ["C3 B3 | E4 G4 D5"]}),
    ("shell-root", "mine", 3, {"Dm7": ["D3 F3 | C4 E4"], "G7": ["G2 F3 | B3 E4"], "Bb7": ["Bb2 Ab3 | D4 G4"],
                               "Cmaj7": ["C3 E3 | B3 D4"]}),
    ("tenth-bass", "mine", 2, {"C": ["C2 G2 E3 | G4 C5 E5", "C2 G2 E3 |"], "Cmaj7": ["C2 G2 E3 | B3 D4"],
                               "Eb": ["Eb2 Bb2 G3 | Bb4 Eb5 G5"]}),
    ("open-left", "mine", 2, {"C7": ["C2 Bb2 E3 | G4 C5 E5"], "Cmaj7": ["C2 B2 E3 | D4 G4"],
                              "Ebm7": ["Eb2 Db3 Gb3 | Bb3 Eb4 Gb4"]}),
    ("rootless-3", "theirs", 2, {"Dm7": ["F3 C4 E4 |", "C4 F4 A4 |"], "G7": ["F3 B3 E4 |", "B3 F4 A4 |"],
                                 "Bb7": ["Ab3 D4 G4 |"]}),
    ("close-hands", "theirs", 0, {"C": ["E3 G3 | C4 E4 G4", "C3 G3 | E4 G4 C5"], "Eb": ["G3 Bb3 | Eb4 G4 Bb4"]}),
    ("drop2", "theirs", 1, {"Cmaj7": ["G3 | C4 E4 B4", "B3 | E4 G4 C5"], "Ebm7": ["Bb3 | Eb4 Gb4 Db5"]}),
    ("drop3", "theirs", 1, {"Cmaj7": ["E3 | C4 G4 B4"], "Ebm7": ["Gb3 | Eb4 Bb4 Db5"]}),
    ("drop24", "theirs", 1, {"Cmaj7": ["C3 G3 | E4 B4"], "Ebm7": ["Eb3 Bb3 | Gb4 Db5"]}),
    ("stacked-minor", "mine", 3, {"Dm7": ["D3 F3 A3 | C4 E4 G4"], "Fm7": ["F2 Ab2 C3 | Eb4 G4 Bb4"]}),
    ("left-inverted", "mine", 2, {"Cmaj7": ["G3 C4 E4 | B4 D5 E5 G5"],
                                    "Ebm7": ["Bb2 Eb3 Gb3 | Gb4 Bb4 Db5 F5"]}),
    ("upper-triad", "mine", 3, {"C7": ["C3 E3 Bb3 | D4 F#4 A4", "C3 E3 Bb3 | F#4 A4 D5"], "Cmaj7": ["C3 E3 | G3 B3 D4"],
                                "Eb7": ["Eb3 G3 Db4 | F4 A4 C5"], "Dm7": ["D3 C4 | F4 A4 C5"]}),
    ("number-over", "mine", 3, {"Am7": ["A2 E3 C4 | B4 D5 G5"], "Cm7": ["C2 G2 Eb3 | D4 F4 Bb4"]}),
    ("triad-over-bass", "mine", 3, {"F/G": ["G2 | F4 A4 C5", "G2 G3 | C4 F4 A4"], "C9sus4": ["C2 | Bb3 D4 F4"],
                                    "Ab/Bb": ["Bb2 | Ab3 C4 Eb4"], "C7": ["C3 E3 Bb3 | D4 F#4 A4"]}),
    ("frame-159", "mine", 2, {"Cmaj7": ["C2 G2 D3 | B3 E4 B4"], "Ebm7": ["Eb2 Bb2 F3 | Db4 Gb4 Db5"]}),
    ("fourths", "theirs", 3, {"Dm7": ["D3 G3 | C4 F4 A4"], "Fm7": ["F3 Bb3 | Eb4 Ab4 C5"]}),
    ("octave-frame", "mine", 0, {"C": ["C2 G2 C3 | C4 E4 C5", "C2 G2 C3 | E4 C5 E5"], "Bb": ["Bb1 F2 D3 | F4 Bb4 F5"]}),
    ("two-notes", "mine", 0, {"C": ["C2 G2 | E4 C5", "C2 G2 | C4 E5"], "Eb7": ["Eb2 | G4 Db5", "Eb2 Bb2 | Db4 G4"]}),
    ("rooted-seventh", "theirs", 1, {"Cmaj7": ["B3 C4 E4 G4 |", "C3 E3 G3 B3 |"], "Dm7": ["A3 C4 D4 F4 |", "F3 A3 C4 D4 |"]}),
    # the examples that each manner is known by
    ("four-parts", "mine", 0, {"Eb": ["Eb3 Bb3 | Eb4 G4"], "Bb7/D": ["D3 Bb3 | F4 Ab4"], "Ab": ["Ab2 | C4 Eb4 Ab4"],
                               "Eb/Bb": ["Bb2 Bb3 | Eb4 G4"], "Bb7": ["Bb2 Ab3 | D4 F4"]}),
    ("pop-hands", "mine", 2, {"A": ["A2 E3 | C#4 E4 A4"], "E/G#": ["G#2 | B3 E4 B4"], "F#m7": ["F#2 C#3 | A3 C#4 E4"],
                              "D": ["D2 D3 | A3 D4 E4 F#4"]}),
    ("two-and-four", "mine", 2, {"Bbmaj9": ["Bb2 F3 | A3 C4 D4 F4"], "Gm9": ["G2 D3 | F3 A3 Bb3 D4"], "C9sus4": ["C2 G2 | Bb3 D4 F4"]}),
    ("octave-and-answer", "mine", 3, {"Ab": ["Ab1 Ab2 | Eb4 Ab4 C5"], "Ab7/C": ["C2 C3 | Eb4 Gb4 Ab4"], "Ddim7": ["D2 D3 | F4 Ab4 B4"],
                                      "Ab/Eb": ["Eb2 Eb3 | Eb4 Ab4 C5"], "Bbm9": ["Bb1 Bb2 | Ab3 C4 Db4 F4"], "Eb13sus4": ["Eb2 Db3 | F4 Ab4 C5"]}),
    ("either-hand", "theirs", 3, {"Cm9": ["Eb3 G3 Bb3 D4 |"], "F13": ["Eb3 G3 A3 D4 |"], "Bbmaj9": ["D3 F3 A3 C4 |", "D3 A3 | C4 F4"],
                                  "G7(b9,b13)": ["F3 Ab3 B3 Eb4 |"]}),
    ("shells", "mine", 3, {"Dm9": ["D2 C3 | F3 A3 E4"], "G13": ["G2 F3 | B3 E4 A4"], "C6/9": ["C3 E3 A3 | D4 G4"], "A7alt": ["A2 G3 | C#4 F4 C5"]}),
    ("wide-left", "mine", 2, {"Dbmaj9": ["Db2 Ab2 F3 | C4 Eb4 Ab4"], "Bbm9": ["Bb1 F2 Db3 | Ab3 C4 F4"], "Ab13": ["Ab1 Gb2 C3 | F3 Bb3"]}),
    ("open-fourths", "theirs", 2, {"Dm11": ["D3 G3 C4 | F4 A4"], "Em11": ["E3 A3 D4 | G4 B4"]}),
    ("fill-double", "mine", 0, {"C": ["C2 | C4 E4 G4 C5", "C2 | E4 G4 C5 E5"], "Eb": ["Eb2 | G3 Bb3 Eb4 G4"]}),
    ("add-second", "mine", 2, {"C": ["C2 | D4 E4 G4", "C2 | G3 C4 D4 E4"], "Eb": ["Eb2 | F4 G4 Bb4"]}),
    ("turned-bass", "mine", 0, {"C": ["E2 | G3 C4 E4", "G2 | C4 E4 G4"], "Eb": ["G2 | Bb3 Eb4 G4"]}),
    ("free", "mine", 1, {"C": ["C2 G2 | E4 G4 C5", "C3 E3 | G3 C4"], "Eb7": ["Eb2 Bb2 Db3 | G3 Db4 Eb4"]}),
]  # fmt: skip
CASES = [(*row[:3], symbol, voicing) for row in CANONICAL for symbol, found in row[3].items() for voicing in found]


def notes(text):
    return tuple(parse_pitch(word).midi for word in text.split())


def hands(voicing):
    left, _, right = voicing.partition("|")
    return notes(left), notes(right)


def stage_of(symbol, **wishes):
    """The lattice's stage of one chord by itself."""
    key = "key: C minor\n" if symbol in ("Cm7",) else ""
    moments = timeline(parse_chart(f"{key}| {symbol} |"))
    return Builder().lattice(moments, asking(hands=WIDE, **wishes), ()).stages[0]


def voicings(stage):
    """{(left, right): family} of every voicing of a stage."""
    rows, columns = (stage.place.cost < INFINITE).nonzero()
    return {
        (stage.left.notes(r), stage.right.notes(c)): stage.shapes[int(stage.place.family[r, c])].id
        for r, c in zip(rows, columns, strict=True)
    }


def test_every_family_has_its_canonical_forms_here():
    assert {row[0] for row in CANONICAL} == {shape.id for shape in catalogue()}
    roots = {row[0]: {str(parse_symbol(symbol).root) for symbol in row[3]} for row in CANONICAL}
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


@pytest.mark.parametrize(
    ("symbol", "voicing", "label"),
    [
        ("C7", "C3 E3 Bb3 | D4 F#4 A4", "II over 7: 9 #11 13"),
        ("Eb7", "Eb3 G3 Db4 | F4 A4 C5", "II over 7: 9 #11 13"),
        ("Cmaj7", "C3 E3 | G3 B3 D4", "V over major: 5 7 9"),
        ("Dm7", "D3 C4 | F4 A4 C5", "bIII over minor: b3 5 b7"),
    ],
)
def test_upper_triads_are_called_by_their_degrees(symbol, voicing, label):
    left, right = hands(voicing)
    assert voicings(stage_of(symbol, colour=3, families=("upper-triad",)))[left, right] == "upper-triad"
    assert shape_label(shape_of("upper-triad"), parse_symbol(symbol), parse_key("C"), left, right) == label


def test_triads_that_darken_stand_only_over_dominants_that_fall_to_minor():
    song = "key: C minor\n| G7 | {} |"
    for goal, dark in (("Cm7", True), ("Cmaj7", False)):
        stage = Builder().lattice(
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
        Builder(), timeline(parse_chart("key: F\n| C7 |")), asking(hands=WIDE, colour=3, families=("upper-triad",))
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
