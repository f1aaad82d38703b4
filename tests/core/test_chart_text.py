"""The plain chart text."""

import re
from fractions import Fraction as F
from pathlib import Path

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song, Tone
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.songs.demo import demo_names, demo_song

CHART = Path(__file__).with_name("written.chart.txt").read_text("utf-8")


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


@pytest.mark.parametrize(("text", "line", "column", "words", "suggestion"), [("| C | Hm7 |", 1, 7, "German name",
    "Bm7"), ("| C | Cmjr7 |", 1, 7, "did you mean", "Cmaj7"), ("| C / / |", 1, 3, "counts 3 beats", ""),
    ("key: H\n| C |", 1, 6, "not a key", ""), ("meter: 4/5\n| C |", 1, 8, "not a meter", ""), ("tempo: fast\n| C |",
    1, 8, "not a tempo", ""), ("tilte: X\n| C |", 1, 1, "not one of", "title"), ("C Am F G", 1, 1, "bar lines",
    "| C Am F G |"), ("| % |", 1, 3, "none in this section", ""), ("| C | | G |", 1, 6, "empty bar", "%"),
    ("| C |\ntune: | E4:3 |", 2, 8, "lasts 3 beats", ""), ("| C |\ntune: | E4:1/0 |", 2, 9, "not a tune note", ""),
    ("| C |\ncue: | a | b |", 2, 11, "more bars", ""), ("tune: | E4:4 |", 1, 1, "belongs under", ""), ("", 1, 1,
    "no bars yet", "")])  # fmt: skip
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
    tunes = [(), (Tone("E4", F(beats)),), (Tone("", F(1, 2)), Tone("Bb3", beats - F(1, 2), tied=True))]
    return Bar(
        slots, draw(st.sampled_from(tunes)), opens=draw(st.booleans()), repeats=draw(st.sampled_from([0, 0, 2, 3]))
    )


@st.composite
def endings(draw, beats):
    """A repeat with a first and a second ending, and what comes after."""
    body, first, second, after = (draw(bars(beats)) for _ in range(4))
    plain = {"opens": False, "repeats": 0}
    return [
        msgspec.structs.replace(body, opens=True, repeats=0),
        msgspec.structs.replace(first, **plain | {"repeats": 2}, ending=1),
        msgspec.structs.replace(second, **plain, ending=2),
        msgspec.structs.replace(after, **plain),
    ]


@st.composite
def sections(draw, number, meter, pickup):
    own = draw(st.sampled_from([None, None, Meter(3, 4)])) if not pickup else None
    beats = (own or meter).beats
    found = draw(st.lists(bars(beats), min_size=1, max_size=5))
    if draw(st.booleans()):
        found += draw(endings(beats))
    if draw(st.booleans()):
        found.append(msgspec.structs.replace(draw(bars(5)), meter=Meter(5, 4)))
    if pickup:
        found[0] = Bar((Slot("G7", pickup),))
    return Section(f"Part {number}", tuple(found), draw(st.sampled_from(["", "", "E minor"])), own)


@st.composite
def songs(draw):
    meter = draw(st.sampled_from([Meter(4, 4), Meter(3, 4), Meter(12, 8), Meter(7, 8)]))
    pickup = draw(st.sampled_from([F(0), F(0), F(1), F(3, 2)]))
    count = draw(st.integers(1, 3))
    found = [draw(sections(n, meter, pickup if n == 0 else F(0))) for n in range(count)]
    found += [Section("Part 0", ())] * draw(st.integers(0, 1))
    extra = draw(st.sampled_from([(), (("capo", "2"), ("x_mark", "a = b"))]))
    key = draw(st.sampled_from(["C major", "Bb minor"]))
    return Song("A title", key, meter, draw(st.integers(20, 400)), tuple(found), pickup, extra)


@given(songs())
def test_writing_then_reading_gives_the_same_song(song):
    reading = read_chart(write_chart(song))
    assert reading.faults == ()
    assert same_writing(reading.song, song)


def test_every_shipped_song_is_whole():
    assert demo_names()[0] == "last-boat-to-marrow"
    for name in demo_names():
        song = demo_song(name)
        assert same_writing(read_chart(write_chart(song)).song, song)
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


def played(text):
    return [m.symbol for m in timeline(parse_chart("key: C\n" + text))]


@pytest.mark.parametrize(
    ("text", "order"),
    [
        ("|: C | F :| G |", "C F C F G"), ("| C |: F :|x3 G |", "C F F F G"), ("| C | F :| G :|", "C F C F G G"),
        ("|: C |1. F :|2. G | A |", "C F C G A"), ("|: C |1. F :|2. G :|3. A || Am |", "C F C G C A Am"),
        ("|: C | D |1. F | E :|2. G || A |", "C D F E C D G A"), ("|: C |1. F :|2. G |: A | B :|", "C F C G A B A B"),
        ("[V]\n| C |\n[W]\n| F |\n[V]", "C F C"), ("| C | % | F | % |", "C C F F"), ("|: C |\n| F :|", "C F C F"),
    ],
)  # fmt: skip
def test_repeats_and_endings_are_played_in_order(text, order):
    assert " ".join(played(text)) == order


def test_a_section_may_have_its_own_key_and_meter():
    song = parse_chart("key: C\n[A]\n| 1 |\n[B]\nkey: Eb\nmeter: 3/4\n| 1 | 57 |")
    moments = timeline(song)
    assert [write_symbol(m.chord) for m in moments] == ["C", "Eb", "Bb7"]
    assert [m.beats for m in moments] == [4, 3, 3]
    moved = timeline(song_in_key(song, parse_key("D")))
    assert [write_symbol(m.chord) for m in moved] == ["D", "F", "C7"]


def test_a_pickup_a_bar_of_its_own_meter_and_chords_with_beats():
    song = parse_chart("key: C\npickup: 1\n| G7 | C | (6/8) F Fm | Am7:2.5 D7:1.5 |")
    assert [m.beats for m in timeline(song)] == [1, 4, 1, 1, F(5, 2), F(3, 2)]
    assert [m.quarter for m in timeline(song)] == [0, 1, 5, F(13, 2), 8, F(21, 2)]


def test_tied_notes_are_struck_once_and_last():
    (first, second) = timeline(parse_chart("key: C\n| C | F |\ntune: | r:2 A4:2~ | A4:3 r:1 |"))
    assert [(t.begins, t.whole, t.beats) for t in first.tune] == [(True, 5, 2)]
    assert [(t.begins, t.beats) for t in second.tune] == [(False, 3)]


def test_a_chart_without_a_key_is_given_the_one_it_is_in():
    reading = read_chart("| F | Gm7 | C7 | F |")
    assert reading.song.key == "F major"
    assert 0 < reading.guess.confidence <= 1
    assert read_chart("| 1 | 57 |").song.key == "C major"


@pytest.mark.parametrize(
    ("text", "words"),
    [("[A]\n| C |\nkey: D", "right under"), ("pickup: 9\n| C |", "no pickup"), ("| (3/5) C |", "not a meter"), ("also: x\n| C |", "name = value"),
     ("[A]\n|: C :|x99\n" + "[A]\n" * 200, "more than 8000")],
)  # fmt: skip
def test_more_faults_are_named(text, words):
    assert re.search(words, fault_at(text).message)


# --- what a song asks for ---
def test_a_songs_header_asks_for_colour_and_bass_and_is_written_back():
    text = "key: C\ncolour: 2\nbass: theirs\nmanner: gospel\npattern: slow\n| C | F |"
    song = parse_chart(text)
    assert song.asks == (("colour", "2"), ("bass", "theirs"), ("manner", "gospel"), ("pattern", "slow"))
    assert parse_chart(write_chart(song)).asks == song.asks
    asked = as_asked(Setup(), song)
    assert (asked.colour, asked.bass) == (2, "theirs")
    said = as_asked(Setup(colour=0, bass="mine"), song)
    assert (said.colour, said.bass) == (0, "mine")
    plain = as_asked(Setup(), parse_chart("| C |"))
    assert (plain.colour, plain.bass) == (0, "mine")


@pytest.mark.parametrize("line", ["colour: 4", "colour: red", "bass: ours", "manner:", "colours: 2"])
def test_a_header_that_asks_for_nothing_known_is_a_fault(line):
    reading = read_chart(f"{line}\n| C |")
    assert reading.faults[0].line == 1


@pytest.mark.parametrize(
    ("text", "same"),
    [
        ("titel: Ferry\n| C |", "title: Ferry\n| C |"), ("bpm: 96\n| C |", "tempo: 96\n| C |"),
        ("| C |\nmelody: | E4 |", "| C |\ntune: | E4 |"), ("| C |\nlyrics: | home |", "| C |\ncue: | home |"),
        ("| C maj7 | Db  sus4 F |", "| Cmaj7 | Dbsus4 F |"), ("|: C | 1. F :| 2. G ||", "|: C |1. F :|2. G ||"),
    ],
)  # fmt: skip
def test_likely_words_are_understood(text, same):
    assert not read_chart(text).faults
    assert read_chart(text).song == read_chart(same).song


def test_a_chord_in_two_words_is_marked_whole_and_corrected_whole():
    reading = read_chart("| C | Ab majr |")
    fault = reading.faults[0]
    assert (fault.column, fault.length, fault.suggestion) == (7, 7, "Abmaj")
    assert (
        str(fault) == "line 1, column 7: the chord 'Abmajr': 'Abmaj' is understood, 'r' is not; did you mean 'Abmaj'?"
    )
    assert read_chart("| C maj7 |").places[0, 0, 0] == (1, 3, 6)


@pytest.mark.parametrize("times", ["x2", "(2x)", "(x2)", "2x", "x 2"])
def test_what_stands_after_a_line_says_how_often_it_is_played(times):
    assert read_chart(f"| C | F | {times}").song == read_chart("|: C | F :|").song
    assert not read_chart(f"| C | F | {times}").faults
    assert read_chart(f"|: C | F :| {times}").song == read_chart("|: C | F :|").song
    assert "repeat signs of its own" in str(fault_at(f"|: C :| F | {times}"))


def test_endings_are_read_without_their_dots():
    assert read_chart("|: C |1 F :|2 G ||").song == read_chart("|: C |1. F :|2. G ||").song
    numbers = read_chart("key: C\n|1 4 |5 1 |2 5 |").song  # these are chords
    assert [slot.symbol for bar in numbers.sections[0].bars for slot in bar.slots] == ["1", "4", "5", "1", "2", "5"]


def test_a_row_of_numbers_is_a_bar_each_and_its_mistakes_are_found():
    song = parse_chart("key: C\n6 2 57 1 4\ntune: | A4:4 | D5:4 | B4:4 | C5:4 | A4:4 |\n")
    assert [[slot.symbol for slot in bar.slots] for bar in song.sections[0].bars] == [
        ["6"],
        ["2"],
        ["57"],
        ["1"],
        ["4"],
    ]
    assert song.sections[0].bars[2].tune[0].pitch == "B4"
    reading = read_chart("key: C\n  6  2 5x 1 4\n")
    assert (reading.faults[0].line, reading.faults[0].column) == (2, 8)
    for text in ("key: C\n6 2\n", "key: C\nC Am F G\n", "key: C\n6 2 words 1\n"):  # these ask for bar lines as before
        assert "bar lines" in read_chart(text).faults[0].message
