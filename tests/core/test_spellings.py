"""Chord symbols as people write them: what each holds, on all roots, and what is offered for slips."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yellow_hinge.core.chart_text import read_chart
from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.pitch import parse_note
from yellow_hinge.core.symbol import parse_symbol

ROOTS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B", "C#", "Cb")
# What stands after the root, in the ways that it is written, and the degrees that it holds.
HOLDS = {
    "1 3 5": " maj Maj M major",
    "1 b3 5": "m min mi - MI MIN Min minor",
    "1 3 5 7": "maj7 Maj7 ma7 M7 MA7 MAJ7 ^7 ^ Δ △ ∆7 ▲7 7M (maj7) Δ7",
    "1 b3 5 b7": "m7 min7 mi7 -7 MI7 m⁷ (m7) m₇",
    "1 3 5 b7": "7 ⁷ ₇",
    "1 b3 5 7": "m(maj7) mMaj7 miMa7 -maj7 mM7 -M7 m^7 mΔ7 m△ m7M minmaj7",
    "1 b3 5 7 9": "mMaj9 m(maj9) mM9 -Maj9",
    "1 3 #5": "aug + +5 aug5 (aug) #5",
    "1 3 #5 b7": "7+ 7aug aug7 +7 7#5 7+5 7(#5)",
    "1 3 b5": "dim5 -5 (b5) b5",
    "1 3 b5 b7": "7b5 7-5 7(b5) 7dim5",
    "1 b3 b5": "dim o ° º (dim) 0",
    "1 b3 b5 bb7": "dim7 o7 °7 º7 07 (dim7)",
    "1 b3 b5 b7": "m7b5 ø7 ø ∅7 ∅ Ø7 h7 min7b5 -7b5 m7(b5)",
    "1 3 5 6": "6 ⁶ maj6 M6",
    "1 b3 5 6": "m6 min6 -6",
    "1 3 5 6 9": "6/9 69 6(9)",
    "1 3 5 9": "add9 (add9) add2 2",
    "1 b3 5 9": "madd9 m(add9) -add9",
    "1 4 5": "sus4 sus",
    "1 2 5": "sus2",
    "1 4 5 b7": "7sus4 7sus sus7",
    "1 4 5 b7 9": "9sus4 sus9 9sus 11 11(no3)",
    "1 4 5 b7 9 13": "13sus4 sus13 13sus",
    "1 4 5 b7 b9": "7sus4b9 sus(b9) 7sus4(b9) susb9",
    "1 3 5 7 9": "maj9 M9 Δ9 ^9 MA9",
    "1 3 5 7 #11": "maj7#11 maj7#4 Δ#11 maj7(#11)",
    "1 b3 5 b7 b13": "m7(b6) m7b6 -7b13",
    "1 b3 5 b7 9 11": "m11 -11 min11",
    "1 3 5 b7 b9 #11": "7(b9,#11) 7(b9_#11) 7b9#11",
    "1 3 5 b7 #9": "7#9 7+9 7(#9)",
    "1 3 5 b7 b9": "7b9 7-9 7(b9)",
    "1 3 b7 b9 #9 #11 b13": "alt 7alt alt7",
    "1 5": "5 no3 omit3 (no3)",
    "1 3": "no5 omit5",
    "1 3 b7": "7no5 7omit5 7(no5)",
}
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


def test_the_table_has_many_spellings():
    assert sum(len(words.split()) for words in HOLDS.values()) * 12 >= 1500


@pytest.mark.parametrize(
    ("slip", "meant"),
    [
        ("Cmjr7", "Cmaj7"), ("Cmaj77", "Cmaj7"), ("CMAj7", "Cmaj7"), ("Cmoll", "Cm"), ("Cmineur7", "Cm7"), ("Cm7b", "Cm7b5"), ("Csuss4", "Csus4"),
        ("C7su4", "C7sus4"), ("Cdimm7", "Cdim7"), ("Cdom7", "C7"), ("C7#111", "C7#11"), ("Cad9", "Cadd9"), ("Caugg", "Caug"), ("Cmj7", "Cmaj7"),
        ("g7", "G7"), ("Hm7", "Bm7"), ("Es", "Eb"), ("Fis7", "F#7"), ("Cqq", ""), ("Qx", ""), ("Cxyz", ""),
    ],
)  # fmt: skip
def test_what_was_meant_is_offered(slip, meant):
    with pytest.raises(ChordSymbolError) as found:
        parse_symbol(slip, parse_key("C"))
    assert found.value.suggestion == meant


@settings(max_examples=400)
@given(st.text("mM7945a1jdisu#b(+-^Δ°", min_size=1, max_size=7))
def test_a_suggestion_reads_and_keeps_the_third_that_was_written(words):
    try:
        parse_symbol("C" + words)
    except ChordSymbolError as error:
        if error.suggestion:
            offered = parse_symbol(error.suggestion)
            if words.startswith(("maj", "M")):
                assert offered.quality.third != "b3"
            if words[0] == "-" or (words[0] == "m" and not words.startswith(("ma", "mj"))):
                assert offered.quality.third in ("b3", "4", "2")


PIECES = ["C", "F#m7", "Bb", "|", "|:", ":|", "x3", "%", "/", "(", ")", "b9", "sus", "over", "1", "5/7", "bVII", "N.C.", "key:", "tune:", "cue:",
          "[A]", "E4:1.5", "r:1", "|1.", "|2.", "names:", "german", "Hm", "am", "(3/4)", "pickup:", "~", "\\", "\n", " ", "♭", "△", "⁷", "\t", "0"]  # fmt: skip


@settings(max_examples=600)
@given(st.lists(st.sampled_from(PIECES), max_size=30), st.sampled_from(["", " "]))
def test_reading_never_raises(pieces, between):
    read_chart(between.join(pieces))


@pytest.mark.parametrize(
    ("text", "symbols"),
    [
        ("names: german\n| Hm7 | B | Es7/B | Asus4 | Fis |", "Bm7 Bb Eb7/Bb Asus4 F#"), ("| am | f#m7 | c | bb |", "Am F#m7 Cm Bbm"),
        ("| (N.C.) | (C) | C7(b9 #11) F |", "N.C. C C7(b9 #11) F"), ("| C ∆7 |".replace(" ∆", "∆"), "C∆7"),
    ],
)  # fmt: skip
def test_charts_with_odd_symbols_are_read(text, symbols):
    reading = read_chart(text)
    assert not reading.faults
    found = [slot.symbol for section in reading.song.sections for bar in section.bars for slot in bar.slots]
    assert found == symbols.replace("(b9 #11)", "(b9_#11)").split() or " ".join(found) == symbols


def test_a_bass_beside_the_chord_is_among_its_notes():
    assert [str(note) for note in parse_symbol("C/D").all_notes] == ["D", "C", "E", "G"]
    assert [str(note) for note in parse_symbol("C/E").all_notes] == ["C", "E", "G"]
