"""Chord symbols as people write them: what each holds, on all roots, and what is offered for slips."""

from pathlib import Path

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


# Words for a kind of chord, and what follows each of them, with the degrees that the two hold together.
MINOR = ("m", "min", "Min", "MIN", "mi", "Mi", "MI", "-", "minor", "Minor")
MAJOR = ("maj", "Maj", "MAJ", "ma", "Ma", "MA", "M", "major")
AFTER = {
    MINOR: {
        "7": "1 b3 5 b7", "9": "1 b3 5 b7 9", "11": "1 b3 5 b7 9 11", "13": "1 b3 5 b7 9 13", "6": "1 b3 5 6",
        "69": "1 b3 5 6 9", "6/9": "1 b3 5 6 9", "7b5": "1 b3 b5 b7", "7(b5)": "1 b3 b5 b7", "7-5": "1 b3 b5 b7",
        "add9": "1 b3 5 9", "(add9)": "1 b3 5 9", "add11": "1 b3 5 11", "(maj7)": "1 b3 5 7", "Maj7": "1 b3 5 7",
        "M7": "1 b3 5 7", "(maj9)": "1 b3 5 7 9", "Δ7": "1 b3 5 7", "7(add11)": "1 b3 5 b7 11", "7(11)": "1 b3 5 b7 11",
        "7b13": "1 b3 5 b7 b13", "7(b9)": "1 b3 5 b7 b9", "7(no5)": "1 b3 b7", "7add13": "1 b3 5 b7 13",
        "6(add9)": "1 b3 5 6 9",
    },
    MAJOR: {
        "7": "1 3 5 7", "9": "1 3 5 7 9", "11": "1 3 5 7 9 11", "13": "1 3 5 7 9 13", "7#11": "1 3 5 7 #11",
        "7(#11)": "1 3 5 7 #11", "9#11": "1 3 5 7 9 #11", "9(#11)": "1 3 5 7 9 #11", "7#5": "1 3 #5 7",
        "7(#5)": "1 3 #5 7", "7+5": "1 3 #5 7", "7b5": "1 3 b5 7", "7sus4": "1 4 5 7", "7(no3)": "1 5 7",
        "7(add13)": "1 3 5 7 13", "7add13": "1 3 5 7 13", "13#11": "1 3 5 7 9 #11 13", "6": "1 3 5 6", "69": "1 3 5 6 9",
        "7sus2": "1 2 5 7", "7no5": "1 3 7", "9no5": "1 3 7 9",
    },
    ("7", "⁷", "₇", "(7)"): {
        "b9": "1 3 5 b7 b9", "(b9)": "1 3 5 b7 b9", "-9": "1 3 5 b7 b9", "#9": "1 3 5 b7 #9", "(#9)": "1 3 5 b7 #9",
        "+9": "1 3 5 b7 #9", "#11": "1 3 5 b7 #11", "(#11)": "1 3 5 b7 #11", "+11": "1 3 5 b7 #11",
        "#4": "1 3 5 b7 #11", "b13": "1 3 5 b7 b13", "(b13)": "1 3 5 b7 b13", "-13": "1 3 5 b7 b13",
        "#5": "1 3 #5 b7", "(#5)": "1 3 #5 b7", "+5": "1 3 #5 b7", "b5": "1 3 b5 b7", "(b5)": "1 3 b5 b7",
        "sus4": "1 4 5 b7", "sus": "1 4 5 b7", "(sus4)": "1 4 5 b7", "sus2": "1 2 5 b7", "sus4b9": "1 4 5 b7 b9",
        "sus4(b9)": "1 4 5 b7 b9", "b9b13": "1 3 5 b7 b9 b13", "(b9,b13)": "1 3 5 b7 b9 b13",
        "b9#9": "1 3 5 b7 b9 #9", "(b9 #9)": "1 3 5 b7 b9 #9", "#9b13": "1 3 5 b7 #9 b13", "#9#5": "1 3 #5 b7 #9",
        "(#5,#9)": "1 3 #5 b7 #9", "b9#11": "1 3 5 b7 b9 #11", "(b9)(#11)": "1 3 5 b7 b9 #11", "no5": "1 3 b7",
        "(no3)": "1 5 b7", "alt": "1 3 b7 b9 #9 #11 b13", "add13": "1 3 5 b7 13", "(13)": "1 3 5 b7 13",
        "b9add13": "1 3 5 b7 b9 13",
    },
    ("13", "¹³", "(13)"): {
        "b9": "1 3 5 b7 b9 13", "(b9)": "1 3 5 b7 b9 13", "#9": "1 3 5 b7 #9 13", "#11": "1 3 5 b7 9 #11 13",
        "(#11)": "1 3 5 b7 9 #11 13", "sus4": "1 4 5 b7 9 13", "sus": "1 4 5 b7 9 13", "": "1 3 5 b7 9 13",
        "(b9,#11)": "1 3 5 b7 b9 #11 13",
    },
    ("9", "⁹"): {
        "#11": "1 3 5 b7 9 #11", "(#11)": "1 3 5 b7 9 #11", "b13": "1 3 5 b7 9 b13", "#5": "1 3 #5 b7 9",
        "b5": "1 3 b5 b7 9", "sus4": "1 4 5 b7 9", "sus": "1 4 5 b7 9", "": "1 3 5 b7 9", "no3": "1 5 b7 9",
    },
    ("dim", "o", "°", "º", "Dim", "DIM"): {"": "1 b3 b5", "7": "1 b3 b5 bb7", "(maj7)": "1 b3 b5 7", "9": "1 b3 b5 bb7 9"},
    ("ø", "Ø", "∅", "⌀", "h"): {"": "1 b3 b5 b7", "7": "1 b3 b5 b7", "9": "1 b3 b5 b7 9", "11": "1 b3 b5 b7 9 11"},
    ("+", "aug", "Aug", "AUG", "augmented"): {
        "": "1 3 #5", "7": "1 3 #5 b7", "maj7": "1 3 #5 7", "9": "1 3 #5 b7 9", "(maj7)": "1 3 #5 7", "7b9": "1 3 #5 b7 b9",
    },
    ("Δ", "△", "∆", "▲", "^"): {
        "": "1 3 5 7", "7": "1 3 5 7", "9": "1 3 5 7 9", "#11": "1 3 5 7 #11", "7#11": "1 3 5 7 #11", "13": "1 3 5 7 9 13",
        "(#11)": "1 3 5 7 #11", "#5": "1 3 #5 7", "7#5": "1 3 #5 7",
    },
}  # fmt: skip
COMPOSED = [
    (head + after, degrees) for heads, found in AFTER.items() for head in heads for after, degrees in found.items()
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


@settings(max_examples=400)
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
