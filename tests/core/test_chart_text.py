"""The plain chart text."""

from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart_text import ChartError, parse_chart, read_chart, write_chart
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.song import NO_CHORD, Bar, Meter, Section, Slot, Song, Tone, timeline
from yellow_hinge.core.transpose import song_in_key
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.demo import demo_names, demo_song

CHART = """title: Trial
key: G
meter: 3/4
tempo: 96
[A]
|: G | C / D | % :|x3
tune: | B4:2 A:1 | G F# E | r:3 |
cue: | one | two / three |
[B]
| N.C. | 2m7 57 | 1 |
"""


def fault_at(text):
    faults = read_chart(text).faults
    assert faults, text
    return faults[0]


def test_a_chart_is_read_whole():
    song = parse_chart(CHART)
    assert (song.title, song.key, str(song.meter), song.tempo) == ("Trial", "G major", "3/4", 96)
    first, second = song.sections
    assert [slot.beats for slot in first.bars[1].slots] == [2, 1]
    assert first.bars[0].opens
    assert first.bars[2].repeats == 3
    assert first.bars[2].same
    assert [tone.pitch for tone in first.bars[0].tune] == ["B4", "A4"]
    assert [slot.cue for slot in first.bars[1].slots] == ["two", "three"]
    assert second.bars[0].slots[0].symbol == NO_CHORD


def test_repeats_are_played_out_in_time():
    moments = timeline(parse_chart(CHART))
    assert len(moments) == 3 * 5 + 4
    assert [m.turn for m in moments[:15]] == [0] * 5 + [1] * 5 + [2] * 5
    assert moments[15].start == 27
    assert moments[15].chord is None
    assert [(m.bar, m.beat) for m in moments[:3]] == [(0, 1), (1, 1), (1, 3)]
    assert [write_symbol(m.chord) for m in moments[16:] if m.chord] == ["Am7", "D7", "G"]


def test_the_tune_lies_over_its_chords():
    moments = timeline(parse_chart(CHART))
    assert [(str(t.pitch), t.onset, t.beats) for t in moments[1].tune] == [("G4", 0, 1), ("F#4", 1, 1)]
    assert [(str(t.pitch), t.onset, t.beats) for t in moments[2].tune] == [("E4", 0, 1)]


@pytest.mark.parametrize(("meter", "beats"), [("4/4", 4), ("3/4", 3), ("6/8", 2), ("12/8", 4), ("7/8", 7), ("5/4", 5)])
def test_felt_beats(meter, beats):
    assert sum(s.beats for s in parse_chart(f"meter: {meter}\n| C F |").sections[0].bars[0].slots) == beats


def test_a_compound_bar_may_count_its_small_beats():
    bar = parse_chart("meter: 6/8\n| C / / / F / |").sections[0].bars[0]
    assert [slot.beats for slot in bar.slots] == [F(4, 3), F(2, 3)]


@pytest.mark.parametrize(
    ("text", "line", "column", "words", "suggestion"),
    [
        ("| C | Hm7 |", 1, 7, "not understood", ""),
        ("| C | Cmjr7 |", 1, 7, "did you mean", "Cmaj7"),
        ("| C / / |", 1, 3, "counts 3 beats", ""),
        ("key: H\n| C |", 1, 6, "not a key", ""),
        ("meter: 4/5\n| C |", 1, 8, "not a meter", ""),
        ("tempo: fast\n| C |", 1, 8, "not a tempo", ""),
        ("titel: X\n| C |", 1, 1, "not one of", "title"),
        ("C Am F G", 1, 1, "bar lines", "| C Am F G |"),
        ("| % |", 1, 3, "none in this section", ""),
        ("| C | | G |", 1, 6, "empty bar", "%"),
        ("| C |\ntune: | E4:3 |", 2, 8, "lasts 3 beats", ""),
        ("| C |\ntune: | E4:1/0 |", 2, 9, "not a tune note", ""),
        ("| C |\ncue: | a | b |", 2, 11, "more bars", ""),
        ("tune: | E4:4 |", 1, 1, "belongs under", ""),
        ("", 1, 1, "no bars yet", ""),
    ],
)
def test_a_fault_names_line_column_and_what_to_do(text, line, column, words, suggestion):
    fault = fault_at(text)
    assert (fault.line, fault.column, fault.suggestion) == (line, column, suggestion)
    assert words in fault.message


def test_all_faults_are_gathered_and_the_rest_is_kept():
    reading = read_chart("| C | Q | F | R7 |")
    assert len(reading.faults) == 2
    assert [bar.slots[0].symbol for bar in reading.song.sections[0].bars if bar.slots] == ["C", "F"]
    with pytest.raises(ChartError, match=r"^file: line 1, column 7: .* \(and 1 more\)$"):
        parse_chart("| C | Q | F | R7 |", "file")


def test_places_point_into_the_text():
    reading = read_chart("[A]\n| C | Am7 D7 |")
    assert reading.places == {(0, 0, 0): (2, 3, 1), (0, 1, 0): (2, 7, 3), (0, 1, 1): (2, 11, 2)}


@given(st.text(max_size=300) | st.text(alphabet="|:%/[]xCAmF7#b \ntuecy12\t", max_size=300))
def test_any_text_is_read_without_a_crash(text):
    reading = read_chart(text)
    timeline(reading.song)
    assert reading.faults or reading.song.sections


SYMBOLS = st.sampled_from(["C", "Am7", "D7b9", "2m7", "b7", "F/A", NO_CHORD, "Gb13(b9,#11)"])
CUES = st.sampled_from(["", "home", "the long way", "no: yes"])


@st.composite
def bars(draw, beats):
    count = draw(st.integers(1, min(3, beats)))
    if draw(st.booleans()):
        lengths = [F(beats, count)] * count
    else:
        cuts = sorted(draw(st.permutations(range(1, beats)))[: count - 1])
        lengths = [F(b - a) for a, b in zip([0, *cuts], [*cuts, beats], strict=True)]
    slots = tuple(Slot(draw(SYMBOLS), length, draw(CUES)) for length in lengths)
    tune = draw(st.sampled_from([(), (Tone("E4", F(beats)),), (Tone("", F(1, 2)), Tone("Bb3", beats - F(1, 2)))]))
    return Bar(slots, tune, opens=draw(st.booleans()), repeats=draw(st.sampled_from([0, 0, 2, 3])))


@st.composite
def songs(draw):
    meter = draw(st.sampled_from([Meter(4, 4), Meter(3, 4), Meter(12, 8), Meter(7, 8)]))
    count = draw(st.integers(1, 3))
    sections = tuple(
        Section(f"Part {n}", tuple(draw(st.lists(bars(meter.beats), min_size=1, max_size=6)))) for n in range(count)
    )
    return Song("A title", draw(st.sampled_from(["C major", "Bb minor"])), meter, draw(st.integers(20, 400)), sections)


@given(songs())
def test_writing_then_reading_gives_the_same_song(song):
    reading = read_chart(write_chart(song))
    assert reading.faults == ()
    assert reading.song == song


def test_every_shipped_song_is_whole():
    assert demo_names()[0] == "last-boat-to-marrow"
    for name in demo_names():
        song = demo_song(name)
        assert read_chart(write_chart(song)).song == song
    main = demo_song("last-boat-to-marrow")
    played = [bar for section in main.sections for bar in section.bars]
    assert len(played) >= 24
    assert sum(bool(bar.tune) for bar in played) >= 24


def test_another_key_keeps_numbers_and_moves_letters_and_tune():
    song = parse_chart("key: E\n| E | C#m7/G# | 2m7 | N.C. |\ntune: | G#4:4 |")
    moved = song_in_key(song, parse_key("Gb"))
    assert [bar.slots[0].symbol for bar in moved.sections[0].bars] == ["Gb", "Ebm7/Bb", "2m7", NO_CHORD]
    assert moved.sections[0].bars[0].tune[0].pitch == "Bb4"
    assert song_in_key(moved, parse_key("E")) == song
