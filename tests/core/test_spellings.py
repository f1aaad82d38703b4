"""Chord symbols as people write them: what each holds, on all roots, and what is offered for slips."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.tables import rows
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import parse_note
from yellow_hinge.core.symbols.symbol import parse_symbol

ROOTS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B", "C#", "Cb")
HOLDS = dict(rows(__file__, "holds.tsv"))
ODD = {"#5", "b5"}  # after a root with a sign they would be read with it


@pytest.mark.parametrize("degrees", HOLDS)
def test_every_spelling_holds_what_it_says_on_every_root(degrees):
    words = HOLDS[degrees].split(" ") if not HOLDS[degrees].startswith(" ") else ["", *HOLDS[degrees].split()]
    for root in ROOTS:
        for word in words:
            if word in ODD:
                continue  # "C#5" is C sharp with its fifth
            word = word.replace("_", " ")
            chord = parse_symbol(root + word)
            assert chord.root == parse_note(root), root + word
            assert " ".join(chord.degrees) == degrees, root + word


COMPOSED = [
    (head + after, degrees) for heads, after, degrees in rows(__file__, "spelled.tsv") for head in heads.split(" ")
]


@pytest.mark.parametrize("root", ROOTS[:12])
def test_kinds_and_what_follows_them_hold_what_the_table_says(root):
    for word, degrees in COMPOSED:
        if not (word.startswith("b") or word.startswith("#")):
            assert " ".join(parse_symbol(root + word).degrees) == degrees, root + word


def test_the_tables_have_many_spellings():
    assert len({word for words in HOLDS.values() for word in words.split()} | {word for word, _ in COMPOSED}) >= 700


def slips():
    lines = (Path(__file__).parent / "slips.txt").read_text("utf-8").splitlines()
    return [
        line.replace("-", "", 1).split() if line.endswith(" -") else line.split() for line in lines if line[0] != "#"
    ]


def test_what_was_meant_is_offered_for_nearly_every_slip():
    key, wrong = parse_key("C"), []
    for slip, *wanted in slips():
        try:
            found = parse_symbol(slip, key)  # a few are read as they are
        except ChordSymbolError as error:
            found = parse_symbol(error.suggestion, key) if error.suggestion else None
        if found != (parse_symbol(wanted[0], key) if wanted else None):
            wrong.append(slip)
    assert len(slips()) >= 300
    assert len(wrong) <= len(slips()) // 20, wrong


@settings(max_examples=examples(400))
@given(st.text("mM7945a1jdisu#b(+-^Δ°", min_size=1, max_size=7))
def test_a_suggestion_reads_and_keeps_the_third_that_was_written(words):
    try:
        parse_symbol("C" + words)
    except ChordSymbolError as error:
        if error.suggestion:
            offered = parse_symbol(error.suggestion)
            if words.startswith(("maj", "M")) and not words.startswith(("Mi", "MI")):  # those are minor
                assert offered.quality.third != "b3"
            if (words[0] == "-" and words[1:2] != "5") or (words[0] == "m" and not words.startswith(("ma", "mj"))):
                assert offered.quality.third in ("b3", "4", "2")


PIECES = ["C", "F#m7", "Bb", "|", "|:", ":|", "x3", "%", "/", "(", ")", "b9", "sus", "over", "1", "5/7", "bVII", "N.C.", "key:", "tune:", "cue:",
          "[A]", "E4:1.5", "r:1", "|1.", "|2.", "names:", "german", "Hm", "am", "(3/4)", "pickup:", "~", "\\", "\n", " ", "♭", "△", "⁷", "\t", "0"]  # fmt: skip


@settings(max_examples=examples(600))
@given(st.lists(st.sampled_from(PIECES), max_size=30), st.sampled_from(["", " "]))
def test_reading_never_raises(pieces, between):
    read_chart(between.join(pieces))


def test_a_bass_beside_the_chord_is_among_its_notes():
    assert [str(note) for note in parse_symbol("C/D").all_notes] == ["D", "C", "E", "G"]
    assert [str(note) for note in parse_symbol("C/E").all_notes] == ["C", "E", "G"]
