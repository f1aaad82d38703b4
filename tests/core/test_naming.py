"""What is this chord?"""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.naming import NAMED, doubled_by, name_notes
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol

C = parse_key("C")


def names(notes, bass=None, key=C):
    return name_notes(tuple(parse_pitch(n).midi for n in notes.split()), bass, key)


def test_a_reading_says_what_is_missing_added_and_which_degree_each_note_is():
    first = names("F3 A3 B3 E4", 7)[0]
    assert first.degrees == ("b7", "9", "3", "13")
    assert first.missing == ("5",)
    assert "5 left out" in first.why
    assert names("C3 E3 G3")[0].missing == ()


def test_rootless_readings_are_offered_and_said_to_be():
    found = {r.symbol: r for r in names("F3 A3 C4 E4")}
    assert found["Dm9"].rootless
    assert "left to the bass" in found["Dm9"].why
    assert not found["Fmaj7"].rootless


def test_names_are_spelled_for_the_key():
    assert names("Gb3 Bb3 Db4 F4", None, parse_key("Db"))[0].symbol == "Gbmaj7"
    assert names("F#3 A#3 C#4 E#4", None, parse_key("C#"))[0].symbol == "F#maj7"
    assert names("D3 F3 A3 C4", None, parse_key("C"))[0].number == "2m7"


@pytest.mark.parametrize("word", NAMED)
@pytest.mark.parametrize("root", [0, 5, 10])
def test_every_quality_in_root_position_is_named_as_itself_or_its_double(word, root):
    chord = parse_symbol("C" + word)
    midis = tuple(sorted(48 + root + 12 * (n > 0) + pc for n, pc in enumerate(chord.pitch_classes)))
    found = name_notes(midis, None, None)
    wanted = {(48 + root) % 12}
    assert any(
        r.chord.root.pc in wanted and set(r.chord.pitch_classes) == {(p + root) % 12 for p in chord.pitch_classes}
        for r in found[:3]
    )


@given(st.lists(st.integers(21, 108), min_size=1, max_size=10), st.none() | st.integers(0, 127), st.none() | st.just(C))
def test_any_notes_have_readings_that_account_for_each_note(midis, bass, key):
    found = name_notes(tuple(midis), bass, key)
    assert [r.price for r in found] == sorted(r.price for r in found)
    assert len({r.symbol for r in found}) == len(found) <= 12
    for reading in found:
        assert len(reading.degrees) == len(midis)
        assert (reading.number is None) == (key is None)
    assert found or len({m % 12 for m in midis}) > 4


def test_nothing_held_is_nothing():
    assert name_notes(()) == []


def test_what_the_engine_plays_is_named_back():
    words = "m7 7 maj7 m6 9 m9 13 m11 dim7 m7b5 7b9 9sus4 maj7#11 m(maj7) 6/9 6 m".split()
    good = total = 0
    for word in words:
        song = parse_chart("key: C\n| " + " | ".join(r + word for r in ("C", "Db", "E", "F#", "Ab", "A", "Bb")) + " |")
        for voicing in solve_song(BUILDER, timeline(song), Setup(colour=1)).voicings:
            readings = name_notes((*voicing.left, *voicing.right), None, C)
            first, root = readings[0].chord, voicing.chord.root.pc
            same = first.root.pc == root and first.chord_class == voicing.chord.chord_class
            total += 1
            good += same or any(doubled_by(first, r.chord) for r in readings if r.chord.root.pc == root)
    assert good / total > 0.95, write_symbol(parse_symbol("C"))


def test_a_reading_whose_notes_lie_in_the_key_comes_first():
    """Two notes that two sevenths share: the key tells which."""
    for key, symbol in (("Eb", "Eb7"), ("D", "A7"), ("Ab", "Eb7")):
        assert names("G3 Db4", key=parse_key(key))[0].symbol == symbol
    assert names("F3 A3 B4", 9, parse_key("Am"))[0].symbol == "Dm6/A"


@pytest.mark.parametrize(
    ("notes", "first"),
    [
        ("Db3 F3 Cb4 G4", "Db7#11"), ("C#3 F3 B3 G3", "C#7b5"), ("C2 Bb2 E3 Ab3 Db4 Gb4", "C7alt"), ("B2 F3 A3 D#4 G4", "B7alt"),
        ("G#2 B3 D#4 F#4", "G#m7"), ("Ab2 Cb4 Eb4 Gb4", "Abm7"), ("F#2 A#3 C#4 E4", "F#7"), ("Gb2 Bb3 Db4 Fb4", "Gb7"),
    ],
)  # fmt: skip
def test_a_written_spelling_is_honoured(notes, first):
    pitches = [parse_pitch(word) for word in notes.split()]
    found = name_notes(tuple(pitch.midi for pitch in pitches), spelled=tuple(pitch.note for pitch in pitches))
    assert found[0].symbol == first
    by_number = name_notes(tuple(pitch.midi for pitch in pitches))
    assert sorted(found[0].chord.pitch_classes) in [sorted(each.chord.pitch_classes) for each in by_number]


@pytest.mark.parametrize("by", range(12))
def test_an_altered_dominant_on_its_own_root_comes_first_in_every_key(by):
    for notes in ((36, 46, 52, 56, 61, 66), (35, 41, 45, 51, 55)):
        found = name_notes(tuple(note + by for note in notes))[0]
        assert found.symbol.endswith("7alt")
        assert found.chord.root.pc == (notes[0] + by) % 12


HANDS = [row.partition(";") for row in Path(__file__).with_name("named_hands.txt").read_text("utf-8").splitlines()[1:]]


@pytest.mark.parametrize(("notes", "_", "wanted"), HANDS, ids=[row[0].strip() for row in HANDS])
def test_disputed_hands_have_the_name_a_player_gives_in_every_key(notes, _, wanted):
    written = [parse_pitch(word) for word in notes.split()]
    midis = tuple(sorted(pitch.midi for pitch in written))
    assert name_notes(midis, None, C, 2, tuple(pitch.note for pitch in written))[0].symbol in wanted.split()
    home = name_notes(midis, None, C, 1)[0].chord
    for by, name in enumerate(["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]):
        there = name_notes(tuple(midi + by for midi in midis), None, parse_key(name), 1)[0].chord
        moved = ((home.root.pc + by) % 12, (home.bass_note.pc + by) % 12, home.quality)
        assert (there.root.pc, there.bass_note.pc, there.quality) == moved
