"""Notes, degrees, keys and numbers."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.counting import nearest_pitch
from yellow_hinge.core.errors import KeyNameError, NoteNameError
from yellow_hinge.core.pitch.key import (
    MODES,
    Key,
    number_root,
    own_triad,
    parse_key,
    root_number,
    spell_in_key,
    transpose_note,
)
from yellow_hinge.core.pitch.pitch import (
    Note,
    Pitch,
    degree_semitones,
    parse_note,
    parse_pitch,
    pitch_of,
    pretty_signs,
    simple_note,
    spell,
)

NOTES = st.builds(Note, st.integers(0, 6), st.integers(-2, 2))
TONICS = [
    parse_note(n)
    for n in ["C", "Db", "D", "Eb", "E", "F", "F#", "Gb", "G", "Ab", "A", "Bb", "B", "C#", "D#", "G#", "A#"]
]
KEYS = st.builds(Key, st.sampled_from(TONICS), st.sampled_from(sorted(MODES)))


@pytest.mark.parametrize(
    ("text", "midi"), [("C4", 60), ("Cb4", 59), ("B#3", 60), ("F♯2", 42), ("Ebb3", 50), ("60", 60)]
)
def test_octave_numbers_belong_to_the_letter(text, midi):
    assert parse_pitch(text).midi == midi


@pytest.mark.parametrize("text", ["H", "", "C##b", "Q#4", "C10", "200", "é"])
def test_a_note_that_is_none_is_refused(text):
    with pytest.raises(NoteNameError):
        parse_pitch(text)


@pytest.mark.parametrize(("root", "degree", "note"), [("Db", "b3", "Fb"), ("D#", "9", "E#"), ("Gb", "11", "Cb"), ("C",
    "bb7", "Bbb"), ("B", "#11", "E#"), ("F", "b13", "Db")])  # fmt: skip
def test_degrees_are_spelled_by_letter(root, degree, note):
    assert str(spell(parse_note(root), degree)) == note


@given(NOTES, st.sampled_from(["1", "b9", "9", "#9", "b3", "3", "11", "#11", "b5", "5", "#5", "b13", "13", "b7", "7"]))
def test_spelling_keeps_the_sound(root, degree):
    assert spell(root, degree).pc == (root.pc + degree_semitones(degree)) % 12


@given(NOTES, st.integers(0, 127))
def test_a_midi_number_keeps_its_pitch_under_any_name(note, midi):
    midi += (note.pc - midi) % 12
    assert pitch_of(midi, note).midi == midi


def test_simple_names_are_what_players_say():
    assert [str(simple_note(parse_note(n))) for n in ("Cb", "E#", "Bbb", "F##", "Bb")] == ["B", "F", "A", "G", "Bb"]


@pytest.mark.parametrize(("text", "scale"), [("Gb", "Gb Ab Bb Cb Db Eb F"), ("D# minor", "D# E# F# G# A# B C#"),
    ("Bm", "B C# D E F# G A"), ("D dorian", "D E F G A B C")])  # fmt: skip
def test_scales_are_spelled_for_their_key(text, scale):
    assert " ".join(map(str, parse_key(text).scale)) == scale


@pytest.mark.parametrize("text", ["", "H", "C sharp", "E blue", "major"])
def test_a_key_that_is_none_is_refused(text):
    with pytest.raises(KeyNameError):
        parse_key(text)


@pytest.mark.parametrize(("key", "note", "number"), [("C", "Ab", "b6"), ("C", "F#", "#4"), ("Bm", "D", "b3"), ("Bm",
    "A#", "#7"), ("Gb", "B", "4"), ("Db", "Cb", "b7"), ("C", "C#", "#1")])  # fmt: skip
def test_roots_are_numbered_as_players_say_them(key, note, number):
    assert root_number(parse_note(note), parse_key(key)) == number


@given(NOTES, KEYS)
def test_a_number_leads_back_to_its_root(note, key):
    assert number_root(root_number(note, key), key).pc == note.pc


@given(st.integers(0, 11), KEYS)
def test_any_sound_has_a_name_in_the_key(pc, key):
    assert spell_in_key(pc, key).pc == pc


@given(NOTES, KEYS, KEYS)
def test_transposing_keeps_the_distance_from_the_tonic(note, old, new):
    moved = transpose_note(note, old, new)
    assert (moved.pc - new.tonic.pc) % 12 == (note.pc - old.tonic.pc) % 12


def test_unmarked_numbers_are_the_keys_own_triads():
    major = [own_triad(str(n), parse_key("C")) for n in range(1, 8)]
    assert [third for third, _ in major] == ["3", "b3", "b3", "3", "3", "b3", "b3"]
    assert major[6] == ("b3", "b5")


def test_accidentals_are_shown_as_music_signs_and_words_are_left_alone():
    assert pretty_signs("Bbm7b5 over Ab, bb7 about a Bob") == "B♭m7♭5 over A♭, ♭♭7 about a Bob"


@given(st.sampled_from("CDEFGAB"), st.sampled_from("CDEFGAB"), st.integers(2, 6))
def test_a_note_without_an_octave_is_the_nearest_by_letter(name, last, octave):
    before = Pitch(parse_note(last), octave)
    found = nearest_pitch(parse_note(name), before)
    assert found.note == parse_note(name)
    assert abs((found.octave - octave) * 7 + found.note.letter - before.note.letter) <= 3
