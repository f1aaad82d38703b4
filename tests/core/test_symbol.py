"""Reading and writing chord symbols."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import Note, parse_note
from yellow_hinge.core.symbols.chord import Chord, same_chord
from yellow_hinge.core.symbols.quality import CLASS_RULES
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_number, write_roman, write_symbol

WORDS = [
    "", "m", "7", "maj7", "M7", "△", "m7", "-7", "min9", "6", "m6", "6/9", "69", "m6/9", "9", "maj9", "m9", "11", "m11", "13",
    "maj13", "m13", "sus4", "sus", "sus2", "7sus4", "9sus4", "13sus4", "dim", "o7", "°7", "dim7", "m7b5", "ø", "ø7", "aug", "+",
    "+7", "7#5", "7b5", "7b9", "7(b9)", "7#9", "7(b9,#11)", "7(#9 b13)", "13b9", "13(#11)", "9#11", "7alt", "alt", "m(maj7)",
    "mM7", "m(maj9)", "maj7#11", "maj7#5", "maj7b5", "add9", "2", "add11", "madd9", "5", "no3", "7no5", "m9b5", "(b5)", "7b13",
]  # fmt: skip
DEGREES = {
    "C": "1 3 5", "Cm7": "1 b3 5 b7", "C13": "1 3 5 b7 9 13", "C11": "1 4 5 b7 9", "Cm11": "1 b3 5 b7 9 11",
    "Cdim7": "1 b3 b5 bb7", "Cø": "1 b3 b5 b7", "C+7": "1 3 #5 b7", "C7alt": "1 3 b7 b9 #9 #11 b13", "C69": "1 3 5 6 9",
    "C13(b9,#11)": "1 3 5 b7 b9 #11 13", "Cmaj9": "1 3 5 7 9", "Cm(maj7)": "1 b3 5 7", "C9sus4": "1 4 5 b7 9", "C5": "1 5",
    "C2": "1 3 5 9", "Csus2": "1 2 5", "Cmaj7#11": "1 3 5 7 #11", "C7-9": "1 3 5 b7 b9", "Ab5": "1 5", "A(b5)": "1 3 b5",
}  # fmt: skip


@pytest.mark.parametrize(("text", "degrees"), DEGREES.items())
def test_every_spelling_means_its_degrees(text, degrees):
    assert " ".join(parse_symbol(text).degrees) == degrees


@given(st.sampled_from("ABCDEFG"), st.sampled_from(["", "b", "#", "bb", "x"]), st.sampled_from(WORDS),
    st.sampled_from(["", "/G", "/Eb", "/F#"]))  # fmt: skip
def test_writing_then_reading_gives_the_same_chord(letter, sign, words, bass):
    chord = parse_symbol(letter + sign + words + bass)
    written = write_symbol(chord)
    assert parse_symbol(written) == chord
    assert write_symbol(parse_symbol(written)) == written
    assert chord.chord_class in CLASS_RULES


@given(st.sampled_from(["C", "Gb", "E", "F# minor", "Bb dorian"]), st.integers(0, 6), st.sampled_from(WORDS))
def test_numbers_of_scale_chords_read_back(key_name, step, words):
    key = parse_key(key_name)
    chord = parse_symbol(f"{key.scale[step]}{words}")
    again = parse_symbol(write_number(chord, key), key)
    assert (again.root.pc, again.quality) == (chord.root.pc, chord.quality)


@pytest.mark.parametrize(
    ("symbol", "key", "number"),
    [("D7", "Db", "b27"), ("E9", "Db", "b39"), ("A7", "Ab", "b27"), ("G7", "Gb", "b27"), ("Ddim7", "Db", "#1dim7"),
     ("C#7b9", "C", "#17b9"), ("C#dim7", "C", "#1dim7"), ("F#m7b5", "C", "#4m7b5"), ("F7", "E", "b27"), ("G#m7b5", "Db", "5m7b5")],
)  # fmt: skip
def test_a_flat_step_under_its_simple_name_is_said_as_a_flat_step(symbol, key, number):
    chord = parse_symbol(symbol)
    assert write_number(chord, parse_key(key)) == number
    assert parse_symbol(number, parse_key(key)).root.pc == chord.root.pc


@pytest.mark.parametrize(
    ("number", "key", "symbol"),
    [("2m9", "E", "F#m9"), ("b713", "E", "D13"), ("5/7", "E", "B/D#"), ("2", "C", "Dm"), ("7", "C", "Bdim"), ("1", "Am", "Am"),
     ("3", "Bm", "D"), ("b6maj7", "C", "Abmaj7"), ("57", "Db", "Ab7"), ("6m7", "Gb", "Ebm7"), ("4", "Gb", "Cb"), ("2maj", "C", "D")],
)  # fmt: skip
def test_numbers_are_read_in_the_key(number, key, symbol):
    assert write_symbol(parse_symbol(number, parse_key(key))) == symbol


@pytest.mark.parametrize(("text", "column", "read", "suggestion"), [("Cmjr7", 3, "Cm", "Cmaj7"), ("Am7/", 4, "Am7",
    "Am7"), ("Hm7", 1, "", "Bm7"), ("Db7x9", 4, "Db7", "Db7b9"), ("", 1, "", "")])  # fmt: skip
def test_a_mistake_is_pointed_at_and_the_nearest_symbol_offered(text, column, read, suggestion):
    with pytest.raises(ChordSymbolError) as caught:
        parse_symbol(text)
    error = caught.value
    assert (error.column, error.read, error.suggestion) == (column, read, suggestion)


def test_a_number_without_a_key_says_what_it_needs():
    with pytest.raises(ChordSymbolError, match="needs a key"):
        parse_symbol("2m7")


@given(st.text(max_size=60) | st.text(alphabet="ABCDEFG#b0123456789majindsu()/+-°ø△ ", max_size=60))
def test_any_text_is_read_or_refused(text):
    try:
        chord = parse_symbol(text, parse_key("C"))
    except ChordSymbolError:
        return
    assert isinstance(chord, Chord)


def test_an_endless_text_is_refused():
    with pytest.raises(ChordSymbolError):
        parse_symbol("C" + "7b9" * 3000)


@pytest.mark.parametrize(
    ("symbol", "pc", "degree", "note"),
    [("C7", 3, "#9", "D#"), ("Cm7", 2, "9", "D"), ("C", 9, "6", "A"), ("Gb7", 4, "b7", "Fb"), ("A/B", 11, "9", "B")],
)
def test_sounding_notes_are_named_as_degrees_of_their_chord(symbol, pc, degree, note):
    chord = parse_symbol(symbol)
    assert (chord.degree_of(pc), str(chord.note_of(pc))) == (degree, note)


def test_a_bass_that_is_the_root_is_no_slash():
    assert parse_symbol("C/C") == Chord(Note(0, 0), parse_symbol("C").quality)
    assert parse_symbol("C/E").bass_note == parse_note("E")


@pytest.mark.parametrize(
    ("roman", "key", "symbol"),
    [("ii7", "C", "Dm7"), ("V7/ii", "C", "A7"), ("bVII13", "C", "Bb13"), ("#ivo7", "C", "F#dim7"), ("viio7/V", "C", "F#dim7"),
     ("IVmaj7", "Db", "Gbmaj7"), ("iiø7", "C", "Dm7b5"), ("I/3", "E", "E/G#"), ("V7/V", "Gb", "Ab7"), ("ivmaj7", "C", "Fm(maj7)"),
     ("viio7", "Am", "G#dim7"), ("VII", "Am", "G"), ("III", "Bm", "D"), ("vi", "E", "C#m"), ("V7/iv", "Cm", "C7"), ("viiø7/ii", "C", "C#m7b5")],
)  # fmt: skip
def test_roman_numerals_are_read_in_the_key(roman, key, symbol):
    assert write_symbol(parse_symbol(roman, parse_key(key))) == symbol


@given(st.sampled_from(["C", "Gb", "E", "F# minor", "Bb dorian", "F lydian", "G harmonic minor", "C melodic minor"]),
    st.integers(0, 6), st.sampled_from(WORDS), st.sampled_from(["", "/E"]))  # fmt: skip
def test_roman_numerals_read_back(key_name, step, words, bass):
    key = parse_key(key_name)
    chord = parse_symbol(f"{key.scale[step]}{words}{bass}")
    again = parse_symbol(write_roman(chord, key), key)
    assert (again.root.pc, again.quality, again.bass_note.pc) == (chord.root.pc, chord.quality, chord.bass_note.pc)


@given(st.sampled_from("CFB"), st.sampled_from(["", "b", "#"]), st.sampled_from(WORDS))
def test_the_short_style_reads_back(letter, sign, words):
    chord = parse_symbol(letter + sign + words)
    assert parse_symbol(write_symbol(chord, "short")) == chord


@pytest.mark.parametrize("text", ["D over C7", "D|C7", "2maj over 17", "D | C7"])
def test_one_chord_over_another_holds_both(text):
    chord = parse_symbol(text, parse_key("C"))
    assert write_symbol(chord) == "D over C7"
    assert chord.degrees == ("1", "3", "5", "b7", "9", "#11", "13")
    assert write_number(chord, parse_key("C")) == "2maj over 17"


@pytest.mark.parametrize("text", ["D over ", "over C", "q over b", "D|C|E", "V7/Q", "viix"])
def test_half_a_stack_or_numeral_is_refused(text):
    with pytest.raises(ChordSymbolError):
        parse_symbol(text, parse_key("C"))


@pytest.mark.parametrize(
    ("figures", "key", "wanted"),
    [
        ("V65", "C", "G7/B"), ("V43", "C", "G7/D"), ("V4/2", "C", "G7/F"), ("ii65", "C", "Dm7/F"), ("I65", "C", "Cmaj7/E"),
        ("I64", "Eb", "Eb/Bb"), ("N6", "A minor", "Bb/D"), ("It6", "C", "Ab7no5"), ("Ger65", "A minor", "F7"),
        ("Fr43", "C", "Ab7b5"), ("subV7", "C", "Db7"), ("subV7/ii", "C", "Eb7"), ("V7/V/V", "C", "A7"), ("V65/V", "C", "D7/F#"),
        ("viio65", "D harmonic minor", "C#dim7/E"), ("vii", "D harmonic minor", "C#dim"), ("V65", "F lydian", "C7/E"),
        ("4", "F lydian", "Bdim"), ("b4", "F lydian", "Bb"), ("I6/5", "C", "C6/G"), ("I6/3", "C", "C6/E"),
    ],
)  # fmt: skip
def test_classical_figures_are_a_numeral_over_its_bass(figures, key, wanted):
    assert same_chord(parse_symbol(figures, parse_key(key)), parse_symbol(wanted))


def test_two_numbers_that_nothing_else_reads_are_a_chord_over_a_bass():
    key = parse_key("C")
    for text, chord in (("61", "Am/C"), ("64", "Am/F"), ("b71", "Bb/C"), ("14", "C/F"), ("53", "G/E")):
        assert parse_symbol(text, key) == parse_symbol(chord)
    assert parse_symbol("67", key) == parse_symbol("A7")  # which is and stays a seventh
    for text in ("11", "44", "641", "6x"):
        with pytest.raises(ChordSymbolError):
            parse_symbol(text, key)
    with pytest.raises(ChordSymbolError):
        parse_symbol("64")
