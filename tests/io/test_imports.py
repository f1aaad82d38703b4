"""Songs from open files: ChordPro, MusicXML, MIDI, and older files of our own."""

import io
import json
import zipfile
from fractions import Fraction as F
from pathlib import Path
from random import Random

import mido
import msgspec
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests import examples
from tests.cli import made_up
from tests.songs import BUILDER
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.errors import ChordSymbolError, OvertakenError
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.following import all_ids
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.takes.take import Take
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.formats import USUAL, WRITERS, kind_of, read_kind
from yellow_hinge.io.musicxml.score.container import unpacked
from yellow_hinge.io.opening import read_data, read_song
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.migrations import VERSION
from yellow_hinge.io.songs.song_json import from_json, schema, song_file, to_json

HERE = Path(__file__).parent


def symbols(song):
    return [m.symbol for m in timeline(song)]


# --- our own files ---


def test_a_file_of_version_1_opens():
    file = from_json((HERE / "old" / "song-v1.json").read_bytes(), "song-v1.json")
    assert file.version == VERSION
    assert symbols(file.song) == ["E", "B7sus4", "57"] * 2
    assert file.setup.bass == "theirs"
    assert file.keeps[0].right == (56, 59, 64)
    assert from_json(to_json(file), "x") == file


def test_a_file_of_version_2_opens_with_its_keeps_as_whole_chords():
    file = from_json((HERE / "old" / "song-v2.json").read_bytes(), "song-v2.json")
    assert file.version == VERSION
    assert {keep.part for keep in file.keeps} <= {"chord"}
    assert file.setup.melody is None  # free, where no manner says otherwise
    assert file.song.sections[0].bars[0].tune
    assert from_json(to_json(file), "x") == file


def test_a_file_of_version_3_opens_with_its_wishes_and_parts_of_keeps():
    file = from_json((HERE / "old" / "song-v3.json").read_bytes(), "song-v3.json")
    assert file.version == VERSION
    assert file.keeps[0].part == "top"
    assert file.setup.wishes[0].colour == 3
    assert file.setup.held[0].top == 71
    assert file.was == ()
    assert from_json(to_json(file), "x") == file


def test_a_file_of_version_4_opens_with_ids_for_places():
    file = from_json((HERE / "old" / "song-v4.json").read_bytes(), "song-v4.json")
    verse, _, again = file.song.sections
    slots = [[[slot.id for slot in bar.slots] for bar in section.bars] for section in file.song.sections]
    assert file.version == VERSION
    assert [(w.at, w.colour, w.style, w.lift) for w in file.setup.wishes[:3]] == [
        (verse.id, 3, None, None), (verse.bars[1].id, None, None, 5), (slots[1][0][0], None, "Outward", None),
    ]  # fmt: skip
    assert file.setup.wishes[3].at not in list(all_ids(file.song))
    assert file.setup.held[0].slots == (slots[0][0][0], slots[0][1][0])
    assert [(k.slot, k.symbol) for k in file.keeps[:2]] == [(slots[0][1][1], "F#m7"), (slots[1][0][0], "Amaj7")]
    assert file.keeps[2].slot not in list(all_ids(file.song))
    assert [(w.slot, w.symbols) for w in file.was] == [(slots[0][1][1], ("A", "B"))]
    assert again.bars == ()
    assert from_json(to_json(file), "x") == file


def test_the_published_schema_is_the_schema():
    published = json.loads((HERE.parents[1] / "docs" / "song.schema.json").read_text("utf-8"))
    assert published == json.loads(json.dumps(schema()))


# --- ChordPro ---

CHORDPRO = Path(__file__).with_name("imported.cho.txt").read_text("utf-8")


def test_chords_over_words_become_slots_with_cues():
    opened = read_data(CHORDPRO.encode(), "x.cho")
    song = opened.file.song
    assert (song.title, song.key, str(song.meter)) == ("Quay Song", "G major", "3/4")
    assert [s.name for s in song.sections] == ["First", "Chorus"]
    assert symbols(song) == ["G", "Em7", "C", "D7/F#", "N.C.", "G", "N.C."]
    assert [m.cue for m in timeline(song)][:4] == ["lamps along the", "quay", "", "turning"]
    assert song.extra == (("capo", "2"), ("comment", "softly"))
    report = " / ".join(opened.report)
    for words in ("every chord was given a bar", "{capo} is kept", "'Oh'", "'Zm'", "sot block was left out"):
        assert words in report


METERS = "key: G\n[A]\n| G | (6/8) C:1 D:1 | (3/4) Em:2.5 D:0.5 | (7/8) G:3.5 C:3.5 |\n[B]\nmeter: 12/8\n| G Em | (3/4) C | D:1 G:3 |\n[C]\nmeter: 6/8\n| G Em | C D |\n"
REPEATS = "key: G\n[A]\n|: G | C |1. D :|2. Em ||\n|: Am | D |1. G :|2. C ||\n[B]\n| G | C |\ncue: | lamp | oar |\n|: D | G |1. Em :|2. C ||\n[C]\n| G | D |\ncue: | salt | rope |\n"
LONG_FIRST = ["key: G\nmeter: 3/4\n| (5/4) G | C | D | Em |\n", "key: G\ntempo: 90\n| (6/8) G | C | D | Em |\n"]
METERS_FIRST = METERS.replace("| G |", "| (2/4) G |", 1)


@pytest.mark.parametrize("name", [*demo_names(), METERS, METERS_FIRST, REPEATS])
def test_chordpro_comes_back_with_its_chords_cues_and_kept_lines(name):
    song = parse_chart(name) if "|" in name else demo_song(name)
    song = msgspec.structs.replace(song, extra=(("capo", "3"), ("x_mark", "")))
    again = read_data(WRITERS[".cho"].write(song_file(song), None), "x.cho").file.song
    first = timeline(song)
    assert [(m.chord, m.beats, m.cue, m.turn, m.meter) for m in timeline(again)] == [
        (m.chord, m.beats, m.cue, m.turn, m.meter) for m in first
    ]
    assert (again.title, again.key, again.meter, again.tempo, again.extra, again.pickup) == (
        song.title, song.key, song.meter, song.tempo, song.extra, song.pickup
    )  # fmt: skip
    assert again.sections[-1].meter == song.sections[-1].meter
    marks = lambda found: [(b.opens, b.repeats, b.ending, b.signs) for s in found.sections for b in s.bars]  # noqa: E731
    assert marks(again) == marks(song)


@settings(max_examples=examples(100))
@given(st.integers(0, 10**6), st.sampled_from(["", "meter: 6/8", "meter: 2/2"]))
def test_whatever_a_chart_holds_comes_back_from_chordpro(seed, meter):
    reading = read_chart(made_up.chart(Random(seed)).replace("[Bridge]\n", f"[Bridge]\n{meter}\n"))
    assume(not reading.faults)
    again = read_data(WRITERS[".cho"].write(song_file(reading.song), None), "x.cho").file.song
    told = [[(m.chord, m.beats, m.meter, m.turn) for m in timeline(song)] for song in (reading.song, again)]
    assert told[0] == told[1]


# --- MIDI ---


@pytest.mark.parametrize("name", [*demo_names(), METERS, *LONG_FIRST])
def test_our_own_midi_comes_back_whole(name):
    song = parse_chart(name) if "|" in name else demo_song(name)
    solution = solve_song(BUILDER, timeline(song), Setup(colour=0))
    opened = read_data(WRITERS[".mid"].write(song_file(song), solution, USUAL), "x.mid")
    again = opened.file.song
    assert (again.title, again.key, again.meter) == (song.title, song.key, song.meter)
    assert abs(again.tempo - song.tempo) <= 1

    first, again_first = timeline(song), timeline(again)
    assert [(m.start, m.beats, m.chord, m.cue) for m in again_first] == [
        (m.start, m.beats, m.chord, m.cue) for m in first
    ]
    tune = [(m.start + t.onset, t.pitch.midi, t.whole) for m in timeline(song) for t in m.tune if t.begins]
    assert [(m.start + t.onset, t.pitch.midi, t.whole) for m in timeline(again) for t in m.tune if t.begins] == tune
    assert opened.report == ()
    assert again.sections[-1].meter == song.sections[-1].meter


def midi(*tracks, **meta):
    file = mido.MidiFile(ticks_per_beat=96)
    for notes in tracks:
        track = mido.MidiTrack()
        events = sorted([(s, 1, n) for s, _, n in notes] + [(s + d, 0, n) for s, d, n in notes])
        at = 0
        for tick, on, note in events:
            track.append(mido.Message("note_on", note=note, velocity=64 * on, time=int(tick * 96) - at))
            at = int(tick * 96)
        file.tracks.append(track)
    stream = io.BytesIO()
    file.save(file=stream)
    return stream.getvalue()


def test_played_chords_are_named_even_when_played_unevenly():
    played = [(bar * 4 + late, 3.9, n) for bar, chord in enumerate([(48, 64, 67, 72), (45, 64, 67, 72), (50, 65, 69, 72), (43, 65, 71, 74)])
              for late, n in zip((0.0, 0.01, 0.02, 0.0), chord, strict=True)]  # fmt: skip
    song = read_data(midi(played), "x.mid").file.song
    assert song.key == "C major"
    assert symbols(song) == ["C", "Am7", "Dm7", "G7"]


@given(st.binary(max_size=200))
def test_a_damaged_midi_file_is_refused(tail):
    good = midi([(0, 4, 60), (0, 4, 64), (0, 4, 67)])
    for data in (b"MThd" + tail, good[: len(good) // 2] + tail):
        try:
            read_kind(kind_of(data, "x.mid"), data, "x.mid")  # in this process, for the sake of time
        except FileFault as error:
            assert "x.mid" in str(error)


# --- MusicXML ---


def measure(number, body, attributes=""):
    return f'<measure number="{number}">{attributes}{body}</measure>'


def note(step, octave, duration, extra=""):
    return f"<note><pitch><step>{step}</step><octave>{octave}</octave></pitch><duration>{duration}</duration>{extra}</note>"


def harmony(root, kind, extra=""):
    return f"<harmony><root><root-step>{root}</root-step></root><kind>{kind}</kind>{extra}</harmony>"


def attributes(fifths=0, mode="major", beats=4, beat_type=4):
    return (
        f"<attributes><divisions>2</divisions><key><fifths>{fifths}</fifths><mode>{mode}</mode></key>"
        f"<time><beats>{beats}</beats><beat-type>{beat_type}</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>"
    )


def score(*measures, head=""):
    body = "".join(measures)
    return (
        f'<?xml version="1.0" encoding="UTF-8"?>{head}<score-partwise version="3.1"><work><work-title>By Hand</work-title></work>'
        f'<part-list><score-part id="P1"><part-name>Voice</part-name></score-part></part-list><part id="P1">{body}</part></score-partwise>'
    ).encode()


LYRIC = "<lyric><syllabic>single</syllabic><text>home</text></lyric>"
START = '<barline location="left"><repeat direction="forward"/></barline>'


def end(number, kind="stop", back=True):
    again = '<repeat direction="backward"/>' if back else ""
    return f'<barline location="right"><ending number="{number}" type="{kind}"/>{again}</barline>'


def begin(number):
    return f'<barline location="left"><ending number="{number}" type="start"/></barline>'


WHOLE = score(
    measure(0, note("D", 5, 2), attributes(1)).replace("<measure", '<measure implicit="yes"'),
    measure(1, START + harmony("G", "major") + note("B", 4, 4, LYRIC) + harmony("E", "minor-seventh") + note("G", 4, 4, '<tie type="start"/>')),
    measure(2, begin(1) + harmony("A", "minor-seventh") + note("G", 4, 8, '<tie type="stop"/>') + end(1)),
    measure(3, begin(2) + harmony("D", "dominant", "<degree><degree-value>9</degree-value><degree-alter>-1</degree-alter><degree-type>add</degree-type></degree>") + note("F", 4, 8) + end(2, "discontinue", False)),
    measure(4, harmony("C", "half-diminished", "<bass><bass-step>B</bass-step></bass>") + note("C", 5, 6), attributes(-3, "minor", 3)),
    measure(5, note("C", 5, 6)),
)  # fmt: skip


def test_a_score_keeps_its_chords_tune_repeats_keys_and_meters():
    opened = read_data(WHOLE, "x.musicxml")
    song = opened.file.song
    assert (song.title, song.key, song.pickup) == ("By Hand", "G major", 1)
    assert symbols(song) == ["N.C.", "G", "Em7", "Am7", "G", "Em7", "D7b9", "Cm7b5/B", "Cm7b5/B"]
    assert song.sections[1].key == "C minor"
    assert [str(m.meter) for m in timeline(song)][-1] == "3/4"
    moments = timeline(song)
    assert moments[1].cue == "home"
    assert [(t.begins, t.whole) for t in moments[2].tune] == [(True, 6)]
    assert moments[2].beats == 2
    assert opened.report == ()


def test_a_compressed_score_opens_the_same():
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("META-INF/container.xml", "<container/>")
        archive.writestr("score.xml", WHOLE)
    assert read_data(stream.getvalue(), "x.mxl").file == read_data(WHOLE, "x.xml").file


def test_a_score_in_utf_16_opens_too():
    assert read_data(WHOLE.decode().encode("utf-16"), "x.xml").file == read_data(WHOLE, "x.xml").file


def test_a_score_of_500_bars_is_read_in_good_time():
    kinds = ["major-seventh", "minor-seventh", "dominant", "minor-seventh"]
    bars = [
        measure(
            n, harmony("CDGA"[n % 4], kinds[n % 4]) + note("E", 4, 4) + note("D", 4, 4), attributes() if n == 0 else ""
        )
        for n in range(500)
    ]
    song = read_data(score(*bars), "long.xml").file.song
    assert len(song.sections[0].bars) == 500
    assert sum(len(bar.tune) for bar in song.sections[0].bars) == 1000
    assert song.sections[0].bars[7].slots[0].beats == F(4)


BOMB = '<!DOCTYPE lolz [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>'


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (score(measure(1, note("C", 4, 8)), head=BOMB), "entities"),
        (WHOLE[: len(WHOLE) // 2], "damaged"), (WHOLE.replace(b"</note>", b"", 1), "damaged"),
        (b'<?xml version="1.0"?><html/>', "no MusicXML score"), (b"<score-partwise></score-partwise>", "damaged|no bars"),
    ],
)  # fmt: skip
def test_a_hostile_score_is_refused(data, words):
    with pytest.raises(FileFault, match=words):
        read_data(data, "x.musicxml")


def test_a_zip_bomb_is_refused_before_it_is_unpacked():
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("score.xml", b"\0" * (40 * 1024 * 1024))
    with pytest.raises(FileFault, match="unpacks to more"):
        unpacked(stream.getvalue(), "x.mxl")


def test_reading_a_score_can_be_cancelled():
    with pytest.raises(OvertakenError):
        read_data(WHOLE, "x.xml", lambda: True)


def test_a_score_without_harmony_says_so():
    opened = read_data(score(measure(1, note("C", 4, 8), attributes())), "x.xml")
    assert symbols(opened.file.song) == ["N.C."]
    assert any("no chord symbols" in line for line in opened.report)


@pytest.mark.parametrize("name", ["x.json", "x.mid", "x.musicxml", "x.cho"])
def test_an_enormous_file_is_refused_before_it_is_read(tmp_path, name):
    path = tmp_path / name
    with path.open("wb") as handle:
        handle.truncate(4 * 1024**3)
    with pytest.raises(FileFault, match="larger than 32 MB"):
        read_song(str(path))


def test_an_endless_symbol_or_chart_is_refused():
    text = "C" + "7b9#11" * 1666
    with pytest.raises(ChordSymbolError):
        parse_symbol(text)
    with pytest.raises(ChartError, match="longer than"):
        read_data(b"| C | F |\n" * 60_000, "x.txt")


def test_a_file_of_version_5_has_its_player_apart_and_what_was_never_said_is_free():
    file = from_json((HERE / "old" / "song-v5.json").read_bytes(), "song-v5.json")
    setup = file.setup
    assert (setup.player.hands.left_reach, setup.player.singer, setup.player.shapes[0].name) == (8, (57, 69), "Wide")
    assert (setup.bass, setup.style, setup.fullness, setup.right, setup.melody) == (
        "theirs",
        "Still top",
        (2, 3),
        None,
        None,
    )
    assert from_json(to_json(file), "x") == file


def test_names_that_are_not_known_in_a_file_are_kept_and_said():
    file = from_json((HERE / "old" / "song-v5.json").read_bytes(), "song-v5.json")
    data = to_json(file).replace(b'"Still top"', b'"Stiller top"').replace(b'"bass-close"', b'"bass-closer"')
    opened = read_data(data, "song.hinge")
    assert [words.split(" is not a ")[0] for words in opened.report] == ["'Stiller top'", "'bass-closer'"]
    assert opened.file.setup.style == "Stiller top"
    assert to_json(opened.file) == data


@pytest.mark.parametrize("version", [6, 7])
def test_files_before_takes_are_one_take(version):
    file = from_json((HERE / "old" / f"song-v{version}.json").read_bytes(), "old.hinge")
    assert (file.take, file.name, file.others, file.mix) == (1, "Take 1", (), ())
    assert file.setup.player.shapes[0].name == "Wide"
    assert from_json(to_json(file), "x") == file


def test_files_before_memos_have_none_and_keep_their_takes():
    file = from_json((HERE / "old" / "song-v8.json").read_bytes(), "old.hinge")
    assert (file.take, file.name, file.place, file.memos) == (2, "Warm", 1, ())
    assert [take.name for take in file.others] == ["Plain"]
    assert file.mix[0].take == 1
    assert from_json(to_json(file), "x") == file


def test_files_with_letters_over_numbers_have_letters_over_letters():
    file = from_json((HERE / "old" / "song-v9.json").read_bytes(), "old.hinge")
    slots = [slot.symbol for bar in file.song.sections[0].bars for slot in bar.slots]
    assert slots == ["Cmaj7", "C7/A", "F/Eb", "G6/9"]
    assert file.was[0].symbols == ("Am7/G",)
    assert from_json(to_json(file), "x") == file


@pytest.mark.parametrize("wrong", [{"take": 9}, {"takes": ()}, {"takes": (Take(1), Take(1))}])
def test_takes_out_of_order_are_a_damaged_file(wrong):
    state = takes.added(state_of(song_file(parse_chart("| C | F |"))), "Other")
    with pytest.raises(FileFault, match="out of order"):
        from_json(to_json(msgspec.structs.replace(file_of(state), **wrong)), "x.hinge")
