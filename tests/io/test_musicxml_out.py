"""MusicXML: valid by the published schema, and read back by another library and by ourselves with what was written."""

import re
from collections import Counter
from fractions import Fraction
from importlib.resources import files
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree
from music21 import bar, chord, converter, harmony, note

from tests import examples
from tests.core.sheet.charts import charts, opened, solved
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import MODES, Key
from yellow_hinge.core.pitch.pitch import parse_note, parse_pitch
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.staves.notation import Beamable, Signs, beams, clef_for, signature, values
from yellow_hinge.core.song.song import Meter
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.formats import BY_ID, Wants, read_kind
from yellow_hinge.io.musicxml.harmony import KINDS, kind_of
from yellow_hinge.io.musicxml.importing import read_score
from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.leaving import left_out
from yellow_hinge.io.songs.song_json import song_file

ODD = Path(__file__).with_name("odd.chart.txt").read_text(encoding="utf-8")


def schema():
    """The MusicXML 4.0 schema without what it takes from elsewhere: the attributes of XML and of links."""
    text = (files("musicxml") / "generate_classes" / "musicxml_4_0.xsd").read_text(encoding="utf-8")
    text = re.sub(r"<xs:import [^>]*/>", "", text)
    return etree.XMLSchema(etree.fromstring(re.sub(r'<xs:attribute ref="(xml|xlink):[^>]*/>', "", text).encode()))


SCHEMA = schema()


def valid(data):
    tree = etree.fromstring(re.sub(rb"<!DOCTYPE[^>]*>", b"", data))
    return SCHEMA.validate(tree) or [str(error) for error in SCHEMA.error_log][:3]


@pytest.mark.parametrize("wants", [Notation(), Notation(engraved=True, system=200.0), Notation(False, False, False)])
def test_an_odd_song_is_valid(wants):
    state = opened(ODD)
    assert valid(musicxml_bytes(state.song, solved(state, BUILDER), state.memos, wants)) is True


@pytest.mark.parametrize("name", [name for name in demo_names() if "bolder" not in name])
def test_the_demo_songs_are_valid_and_come_back_as_they_were(name):
    state = state_of(song_file(demo_song(name)))
    data = musicxml_bytes(state.song, solved(state, BUILDER))
    assert valid(data) is True
    there = read_kind(BY_ID["score"], data, "x.musicxml").file.song
    assert (there.title, there.key, there.meter, there.tempo) == (
        state.song.title, state.song.key, state.song.meter, state.song.tempo,
    )  # fmt: skip
    assert [parse_symbol(s).notes for s in symbols(there)] == [parse_symbol(s).notes for s in symbols(state.song)]
    assert tunes(there) == tunes(state.song)


def symbols(song):
    return [slot.symbol for section in song.sections for bar in section.bars for slot in bar.slots]


def tunes(song):
    """The sounding notes of the tune, ties joined."""
    found = []
    tied = False
    for section in song.sections:
        for measure in section.bars:
            for tone in measure.tune:
                if tied and found and tone.pitch == found[-1][0]:
                    found[-1] = (tone.pitch, found[-1][1] + tone.beats)
                elif tone.pitch:
                    found.append((tone.pitch, tone.beats))
                tied = tone.tied
    return found


@settings(max_examples=examples(8))
@given(charts(5))
def test_random_songs_are_valid(text):
    state = opened(text)
    assert valid(musicxml_bytes(state.song, solved(state, BUILDER), state.memos)) is True


def test_another_library_reads_the_hands_fingers_symbols_and_repeats():
    state = opened(ODD)
    solution = solved(state, BUILDER)
    score = converter.parseData(musicxml_bytes(state.song, solution).decode(), format="musicxml")
    tune, right, left = score.parts
    first = {}
    for voicing in solution.voicings:
        first.setdefault((voicing.here.section, voicing.here.slot_id), voicing)
    for part, hand in ((right, "right"), (left, "left")):
        found = []
        for element in part.recurse().notes:
            if not isinstance(element, harmony.Harmony) and (element.tie is None or element.tie.type == "start"):
                found.append((tuple(p.nameWithOctave.replace("-", "b") for p in element.pitches), fingers(element)))
        wanted = [
            (tuple(str(p) for p in voicing.pitches(hand)), Counter(voicing.fingers.of(hand)))
            for voicing in first.values()
            if voicing.both.of(hand)
        ]
        assert found == wanted
    words = [s.chordKindStr for s in tune.recurse().getElementsByClass(harmony.ChordSymbol) if s.chordKind != "none"]
    roots = [s.root().name.replace("-", "b") for s in tune.recurse().getElementsByClass(harmony.ChordSymbol)
             if s.chordKind != "none"]  # fmt: skip
    written = [v.chord for v in first.values()]
    assert roots == [str(c.root) for c in written]
    plain = [(w, c) for w, c in zip(words, written, strict=True) if c.stack is None]
    assert [parse_symbol(f"{c.root}{w}").quality for w, c in plain] == [c.quality for _, c in plain]
    signs = [(m.number, r.direction, r.times) for m in right.getElementsByClass("Measure")
             for r in (m.leftBarline, m.rightBarline) if isinstance(r, bar.Repeat)]  # fmt: skip
    assert [(d, t or 2) for _, d, t in signs] == [
        ("start", 2), ("end", 2), ("start", 2), ("end", 2), ("start", 2), ("end", 3),
    ]  # fmt: skip


def fingers(element):
    assert isinstance(element, (note.Note, chord.Chord))
    return Counter(a.fingerNumber for a in element.articulations)


def test_the_file_kind_writes_a_score_that_says_who_made_it():
    state = opened(ODD)
    data = BY_ID["score"].write(file_of(state), solved(state, BUILDER), Wants())
    assert b"made by Yellow Hinge" in data
    assert valid(data) is True


# --- how it is written -------------------------------------------------------------------------------------------


@given(st.fractions(min_value=Fraction(1, 16), max_value=12, max_denominator=16))
def test_values_sum_to_the_length(length):
    found = values(length)
    assert all(value.length > 0 for value in found)
    assert sum(value.length for value in found) == length


@pytest.mark.parametrize("mode", [mode for mode in MODES if not mode.endswith(" minor")])
@pytest.mark.parametrize("tonic", ["C", "G", "F", "Bb", "F#", "Eb", "B", "Db"])
def test_a_signature_is_the_scale(tonic, mode):
    key = Key(parse_note(tonic), mode)
    found = signature(key)
    assert all(found[step.letter] == step.alter for step in key.scale)


def test_signs_are_written_once_a_bar_and_taken_back():
    signs = Signs(Key(parse_note("E"), "major"))
    told = [signs.sign(parse_pitch(p)) for p in ("F#4", "F4", "F4", "F#4", "C5", "C4", "C#4", "Bb4", "B4")]
    assert told == [None, 0, None, 1, 0, 0, 1, -1, 0]


def test_beams_join_inside_a_beat():
    half, quarter = Fraction(1, 2), Fraction(1, 4)
    notes = [Beamable(Fraction(0), 1), Beamable(half, 2), Beamable(half + quarter, 2), Beamable(Fraction(1), 1)]
    assert beams(notes, Meter()) == [("begin",), ("continue", "begin"), ("end", "end"), ()]
    dotted = [Beamable(Fraction(0), 1), Beamable(Fraction(3, 4), 2), Beamable(Fraction(1), 0)]
    assert beams(dotted, Meter()) == [("begin",), ("end", "backward hook"), ()]


def test_a_clef_changes_only_where_all_notes_lie_beyond_middle_c():
    assert [clef_for(notes, "G") for notes in ((48, 55), (48, 64), ())] == ["F", "G", "G"]
    assert [clef_for(notes, "F") for notes in ((62, 67), (58, 67), ())] == ["G", "F", "F"]


@pytest.mark.parametrize(("words", "kind", "changes"), [
    ("", "major", []), ("m7", "minor-seventh", []), ("7sus4", "suspended-fourth", [("add", "b7")]),
    ("7b9", "dominant", [("add", "b9")]), ("m7b5", "half-diminished", []), ("13", "dominant-ninth", [("add", "13")]),
    ("maj7#5", "major-seventh", [("alter", "#5")]), ("5", "power", []), ("m(maj7)", "major-minor", []),
])  # fmt: skip
def test_kinds_say_the_chord(words, kind, changes):
    assert kind_of(parse_symbol(f"C{words}").quality) == (kind, changes)


def test_kind_and_changes_give_every_quality_back():
    kinds = dict(KINDS)
    for words in ("9", "maj9", "m11", "13b9", "7#9b13", "6/9", "add9", "m6", "aug", "dim7", "sus2", "7b5", "maj13"):
        quality = parse_symbol(f"C{words}").quality
        kind, changes = kind_of(quality)
        degrees = set(kinds[kind])
        for what, degree in changes:
            if what == "alter":
                degrees = {d for d in degrees if d.strip("b#") != degree.strip("b#")}
            if what == "subtract":
                degrees.discard(degree)
            else:
                degrees.add(degree)
        assert degrees == set(quality.degrees) - {"1"}


def test_signs_of_the_way_are_written_and_read_back():
    text = "key: C\n[A]\n| C | (segno) F (to coda) | G (fine) | Dm (D.S. al coda) | (coda) C |\n"
    state = opened(text)
    data = musicxml_bytes(state.song, solved(state, BUILDER))
    assert valid(data) is True
    found = read_score(data, "x").song
    assert [bar.signs for bar in found.sections[0].bars] == [bar.signs for bar in state.song.sections[0].bars]
    lost = data.replace(b"<segno />", b"<coda />").replace(b' segno="segno"', b"")
    assert any("not followed" in line for line in read_score(lost, "x").report)


@pytest.mark.parametrize("name", demo_names())
def test_a_score_of_ours_comes_back_with_its_chords_tune_words_and_way(name):
    song = demo_song(name)
    data = musicxml_bytes(song, solve_song(BUILDER, timeline(song), Setup(colour=0)))
    again = read_score(data, "x").song
    heard = lambda found: [  # noqa: E731
        (m.chord, m.beats, m.cue, m.key, m.meter, [(t.onset, t.pitch, t.whole) for t in m.tune if t.begins])
        for m in timeline(found)
    ]
    assert heard(again) == heard(song)
    assert (again.title, again.key, again.tempo, again.pickup) == (song.title, song.key, song.tempo, song.pickup)


def test_the_players_notes_go_out_where_they_are_wanted_and_are_said_where_not():
    state = opened("key: C\n[A]\n| C | F |")
    solution = solved(state)
    with_notes = musicxml_bytes(state.song, solution, state.memos).decode()
    without = musicxml_bytes(state.song, solution, state.memos, Notation(notes=False)).decode()
    assert ("watch the drummer" in with_notes, "watch the drummer" in without) == (True, False)
    file = file_of(state)
    assert "2 notes of yours" in left_out(file, "midi")
    assert not any("notes of yours" in words for words in left_out(file, "score"))
    assert "2 notes of yours" in left_out(file, "pdf", SheetAsk(show=()))
