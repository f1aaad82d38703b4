"""Which key is it in?"""

import pytest

from tests.core.progressions import PROGRESSIONS as HEARD
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import flat_note
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.songs.demo import BOLDER, demo_names, demo_song

TWELVE = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]
PROGRESSIONS = [
    ("C", "| C | Am | F | G |"), ("C", "| Dm7 | G7 | Cmaj7 |"), ("C", "| C | F | G7 | C |"), ("C", "| Cmaj7 | A7 | Dm7 | G7 |"),
    ("C", "| F | Fm | C |"), ("C", "| Am7 | D7 | Dm7 | G7 | C6 |"), ("C", "| C | E7 | Am | F | C | G7 | C |"),
    ("C", "| C7 | F7 | C7 | G7 | F7 | C7 |"), ("C", "| F | G | Em | Am | Dm | G | C |"), ("C", "| C | G/B | Am | G | F | C/E | Dm7 | G7 |"),
    ("C", "| Em7 | A7 | Dm7 | G7 | Cmaj7 |"), ("C", "| C | Cdim7 | Dm7 | G7 | C |"),
    ("C", "| C | Ab | Bb | C |"), ("C", "| Fmaj7 | Bb7 | C |"), ("Cm", "| Dm7b5 | G7 | Cm |"), ("Cm", "| Cm | Fm | G7 | Cm |"),
    ("Cm", "| Cm | Ab | Eb | Bb | Cm |"), ("Cm", "| Cm | Bb | Ab | G7 |"), ("Cm", "| Fm7 | Bb7 | Ebmaj7 | Abmaj7 | Dm7b5 | G7 | Cm7 |"),
    ("Cm", "| Cm7 | Fm7 | Cm7 | G7#9 | Cm7 |"), ("Cm", "| Cm | G7 | Cm | Fm | Cm | G7 | Cm |"), ("Cm", "| Cm | Cm/Bb | Abmaj7 | G7 |"),
]  # fmt: skip


def guess(song):
    return find_key([(m.chord, float(m.beats)) for m in timeline(song) if m.chord])


@pytest.mark.parametrize("tonic", TWELVE)
@pytest.mark.parametrize(("key", "chart"), PROGRESSIONS)
def test_common_progressions_in_all_keys(key, chart, tonic):
    song = song_in_key(parse_chart(f"key: {key}\n{chart}"), parse_key(tonic))
    found = guess(song)
    assert (found.key.tonic.pc, found.key.mode) == (song.the_key.tonic.pc, song.the_key.mode)
    assert found.runner_up != found.key
    assert 0 <= found.confidence <= 1


@pytest.mark.parametrize(
    "name", [name for name in demo_names() if not name.endswith(BOLDER)]
)  # bolder ones leave their key
def test_shipped_songs_are_found_in_their_keys(name):
    song = demo_song(name)
    assert guess(song).key == song.the_key


def test_the_relative_minor_is_told_by_its_cadence():
    assert str(guess(parse_chart("| Am | F | C | E7 | Am |")).key) == "A minor"
    assert str(guess(parse_chart("| Am | F | C | G7 | C |")).key) == "C major"


def test_a_clear_cadence_is_surer_than_one_chord():
    assert guess(parse_chart("| Dm7 | G7 | Cmaj7 |")).confidence > guess(parse_chart("| C |")).confidence
    assert find_key([]) is None


@pytest.mark.parametrize(("text", "keys"), HEARD)
def test_progressions_are_heard_in_their_key_in_all_twelve(text, keys):
    chords = [parse_symbol(symbol) for symbol in text.split()]
    for shift in range(12):
        found = find_key([(shifted(chord, shift), 4.0) for chord in chords])
        assert found.key.mode in {key.split(" ", 1)[1] for key in keys}
        wanted = {((parse_key(key).tonic.pc + shift) % 12, parse_key(key).mode) for key in keys}
        assert (found.key.tonic.pc, found.key.mode) in wanted, (text, shift)
        assert 0 <= found.confidence <= 1
        assert found.runner_up != found.key


def shifted(chord, by):
    """A chord so many semitones higher, with plain names."""
    bass = None if chord.bass is None else flat_note(chord.bass.pc + by)
    return Chord(flat_note(chord.root.pc + by), chord.quality, bass)


def test_a_minus_sign_says_minor():
    assert parse_key("E-") == parse_key("Em") == parse_key("E - minor")
