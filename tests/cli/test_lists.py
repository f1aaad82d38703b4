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
