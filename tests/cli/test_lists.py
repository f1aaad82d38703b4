"""The verbs that list what there is to ask for."""

import pytest

from tests.cli.test_cli import document, run
from yellow_hinge.core.hands import Hands, reach_mm, span_mm
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.shapes.catalogue import shape_ids, shape_of
from yellow_hinge.core.symbols.identity import reads_as_written
from yellow_hinge.core.symbols.symbol import parse_symbol


def test_styles_and_families_are_listed_with_their_words(capsys):
    styles = document(capsys, "styles")["styles"]
    assert [s["name"] for s in styles] == list(STYLES)
    assert styles[1] == {"id": "still-top", "name": "Still top", "words": STYLES["Still top"].words, "families": []}
    assert {f["id"] for f in document(capsys, "families")["families"]} == set(shape_ids()) - {
        "stride-left",
        "turned-left",
    }
    assert "Still top" in run(capsys, "styles")[1]
    assert "drop2" in run(capsys, "families")[1]


def test_a_style_is_asked_for_by_name_or_id(capsys):
    by_name, by_id = (
        document(capsys, "voice", "demo:last-boat-to-marrow", "--style", s) for s in ("Singing top", "singing-top")
    )
    usual = document(capsys, "voice", "demo:last-boat-to-marrow")
    assert by_name["voicings"] == by_id["voicings"] != usual["voicings"]
    assert run(capsys, "voice", "demo:last-boat-to-marrow", "--style", "stiller")[0] == 2


@pytest.mark.parametrize(("symbol", "bass"), [("Gm9", "mine"), ("C7alt", "theirs"), ("Bb/C", "mine"), ("E5", "mine"), ("Fm7b5", "theirs")])  # fmt: skip
def test_every_family_shows_an_example_that_is_the_chord_within_reach(capsys, symbol, bass):
    chord, hands = parse_symbol(symbol), Hands()
    found = document(capsys, "shapes", symbol, "--bass", bass)["families"]
    assert len(found) > 1
    for family in found:
        assert shape_of(family["id"]).suits(bass)
        left, right = ([parse_pitch(n).midi for n in family[f"{hand}_notes"]] for hand in ("left", "right"))
        for hand, notes in (("left", left), ("right", right)):
            assert span_mm(tuple(notes)) <= reach_mm(hands.reach(hand)) + 1e-6
        low = left[0] if bass == "mine" and left else chord.bass_note.pc
        sounding = sum({1 << (n - chord.root.pc) % 12 for n in left + right})
        assert reads_as_written(chord.quality, (low - chord.root.pc) % 12, sounding)


def test_the_families_of_given_hands_are_found(capsys):
    found = document(capsys, "shapes", "Gm9", "--left", "G2, F3", "--right", "Bb3 D4 A4")
    assert "spread-two" in [f["id"] for f in found["families"]]
    assert (found["reads"], found["why_not"]) == ("Gm9", "")
    assert all(f["left_notes"] == ["G2", "F3"] and f["right_notes"] == ["Bb3", "D4", "A4"] for f in found["families"])
    assert len(found["fingers"]["left"]) == 2
    assert found["fingers"]["right"] == sorted(found["fingers"]["right"])
    every = {f["id"] for f in document(capsys, "shapes", "Gm9", "--right", "Bb3 D4 A4")["families"]}
    assert every >= {f["id"] for f in found["families"]}


def test_a_colour_of_a_family_is_the_lowest_that_lets_it_sound(capsys):
    (plain,) = [f for f in document(capsys, "shapes", "C", "--left", "C3")["families"] if f["id"] == "bass-close"]
    assert plain["colour"] == 0
    rich = document(capsys, "shapes", "C", "--left", "C3", "--right", "E4 G4 A4 D5")["families"]
    assert not rich or min(f["colour"] for f in rich) > 0


@pytest.mark.parametrize(("words", "why"), [(("C/G", "--left", "G2", "--right", "C4 E4 A4"),
    "these notes read as C6/G"), (("C", "--left", "C2 E3"),
    "the left hand spans 9 white keys, and these notes lie wider"), (("C", "--left", "C2 D2 E2 F2 G2"),
    "the left hand plays at most 4 notes, and these are 5"), (("C", "--left", "A2", "--right", "C4 E4 G4"),
    "these notes read as Am7"), (("C", "--left", "A0"), "the keyboard of 73 keys has not all of these notes")])  # fmt: skip
def test_hands_that_no_family_makes_say_why(capsys, words, why):
    found = document(capsys, "shapes", *words)
    assert (found["families"], found["why_not"]) == ([], why)
    assert why in run(capsys, "shapes", *words)[1]


@pytest.mark.parametrize(
    ("words", "message"),
    [(("C", "--left", "", "--right", ""), "both hands rest"), (("C", "--left", "H2"), "is not a pitch"), (("Zz",), "Zz"),
     (("C", "--left-reach", "40"), "reach")],
)  # fmt: skip
def test_shapes_at_fault_exit_2(capsys, words, message):
    status, out, err = run(capsys, "shapes", *words)
    assert (status, out) == (2, "")
    assert message in err
