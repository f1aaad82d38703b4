"""The verbs `ring` and `over`: one hand over all basses, all chords over one left hand."""

import json

import pytest

from yellow_hinge.cli.main import main


def document(capsys, *words):
    assert main([*words, "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_a_hand_goes_round_the_twelve_basses(capsys):
    rows = document(capsys, "ring", "A3 C4 E4")["basses"]
    assert len({row["bass"] for row in rows}) == 12
    assert set(rows[0]) == {"bass", "symbol", "degrees", "missing"}
    symbols = {row["bass"]: row["symbol"] for row in rows}
    assert [symbols[bass] for bass in ("A", "C", "F", "F#")] == ["Am", "C6", "Fmaj7", "F#m7b5"]
    sharps = document(capsys, "ring", "C#4 E4 A4", "--key", "A")["basses"]
    assert {row["bass"] for row in sharps} >= {"A", "B", "C#", "D", "E", "F#", "G#"}


def test_triads_and_sevenths_stand_over_a_left_hand(capsys):
    rows = document(capsys, "over", "L C3 G3", "--key", "C")["uppers"]
    assert set(rows[0]) == {"upper", "symbol", "notes", "reads"}
    by_upper = {row["upper"]: row for row in rows}
    assert len(by_upper) == len(rows) == 12 * 9
    assert (by_upper["D"]["symbol"], by_upper["D"]["notes"]) == ("D/C", ["D4", "F#4", "A4"])
    assert by_upper["Em"]["reads"] == "Cmaj7"
    assert by_upper["Bb"]["reads"].startswith(("C9sus4", "C11", "Gm7/C"))


@pytest.mark.parametrize("words", [["ring", "Z9"], ["ring", ""], ["over", "R C4"], ["over", "L"]])
def test_what_is_no_hand_is_refused(words):
    assert main(words) == 2
