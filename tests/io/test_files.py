"""Saving, opening and exporting."""

import fcntl
import io
import os
from pathlib import Path

import mido
import msgspec
import pytest

from tests.songs import BUILDER
from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing, PlayWish
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.export import WouldOverwriteError, export
from yellow_hinge.io.files import FileFault, decode, write_atomic
from yellow_hinge.io.formats import BY_ID, with_headers
from yellow_hinge.io.midi.writing import midi_bytes
from yellow_hinge.io.opening import read_data, read_song
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.migrations import VERSION
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json
from yellow_hinge.io.texts.chordpro_out import write_chordpro

CHART = "title: Ä Trial\nkey: Gb\n| Gb | Cb/Eb Ab7 / / | N.C. |\ntune: | Bb4:2 r:2 | Cb5:4 | r:4 |\ncue: | sea | and / sky | |"


@pytest.fixture
def song():
    return parse_chart(CHART)


@pytest.fixture
def solution(song):
    return solve_song(BUILDER, timeline(song), Setup())


@pytest.mark.parametrize("name", demo_names())
def test_a_saved_song_comes_back_whole(name):
    keep = Keep(5, "G7", (43,), (59, 62, 65))
    file = song_file(demo_song(name), "half a ch", setup=Setup(bass="theirs", colour=1, loop=True), keeps=(keep,))
    assert from_json(to_json(file), "x.json") == file


def test_thirds_of_a_bar_survive(song):
    file = song_file(parse_chart("| C F G |"))
    assert b'"4/3"' in to_json(file)
    assert from_json(to_json(file), "x") == file


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda d: b"{", "damaged"),
        (lambda d: d[: len(d) // 2], "damaged"),
        (lambda d: b"[" * 200_000, "damaged"),
        (lambda d: d.replace(b"yellow-hinge-song", b"other"), "not a song of this program"),
        (lambda d: d.replace(f'"version": {VERSION}'.encode(), b'"version": 99'), "newer version"),
        (lambda d: d.replace(b'"Gb"', b'"H7"', 1), "German name"),
        (
            lambda d: d.replace(b'"beats": 4', b'"beats": -4', 1),
            r"damaged: .*\$\.form\.sections\[(\.\.\.|0)\]",
        ),
        (lambda d: d.replace(b'"beats": 4', b'"beats": "1/0"', 1), "damaged"),
        (lambda d: d.replace(b'"repeats": 0', b'"repeats": 999999999', 1), "2 to 99"),
        (lambda d: d.replace(b'"Bb4"', b'"Z9"', 1), "not a pitch"),
        (lambda d: d.replace(b'"tempo": 90', b'"tempo": "fast"', 1), r"\$\.form\.tempo"),
        (lambda d: d.replace(b'"colour": null', b'"colour": 9', 1), "colour level 9"),
    ],
)
def test_a_damaged_file_is_refused_with_its_reason(song, change, words):
    data = to_json(song_file(song))
    assert change(data) != data
    with pytest.raises(FileFault, match=words):
        from_json(change(data), "x.json")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "is empty"), (b"  \n", "is empty"), (b"MThd\0\0", "damaged MIDI"), (b"%PDF-1.7", "a PDF"), (b"PK\3\4", "compressed"),
        (b"| C |\xff\xfe", "not UTF-8"), (b"| C \0 |", "binary"), (b'{"format": "else"}', "not a song"),
    ],
)  # fmt: skip
def test_foreign_data_is_refused_with_its_reason(data, words):
    with pytest.raises(FileFault, match=words):
        read_data(data, "x.json" if data[:1] == b"{" else "x")


def test_chart_text_opens_in_several_encodings():
    for encoding in ("utf-8", "utf-8-sig", "utf-16"):
        assert decode(CHART.encode(encoding), "x") == CHART
    assert read_data(CHART.encode(), "x.txt").file.song.title == "Ä Trial"
    with pytest.raises(ChartError, match="line 1, column 3"):
        read_data(b"| H |", "x.txt")


def test_missing_files_folders_and_songs_are_named(tmp_path):
    for name in (str(tmp_path / "none.json"), str(tmp_path), "demo:none"):
        with pytest.raises(FileFault, match=name):
            read_song(name)


def test_a_failed_write_leaves_the_old_file(tmp_path, monkeypatch):
    path = tmp_path / "song.json"
    write_atomic(path, b"old")
    monkeypatch.setattr(os, "fsync", lambda _: (_ for _ in ()).throw(OSError(28, "No space left on device")))
    with pytest.raises(FileFault, match="No space left"):
        write_atomic(path, b"new")
    assert path.read_bytes() == b"old"
    assert list(tmp_path.iterdir()) == [path]


def test_midi_plays_both_hands_and_the_tune_in_time(song, solution):
    file = mido.MidiFile(file=io.BytesIO(midi_bytes(song, performed(solution, song))))
    names = [track.name for track in file.tracks]
    assert names[1:] == ["left", "right", "tune"]
    assert file.length == pytest.approx(2 * 4 * 60 / 90, abs=0.01)
    left = [m.note for m in file.tracks[1] if m.type == "note_on" and m.velocity]
    assert left == [n for v in solution.voicings for n in v.left]


def test_midi_strikes_every_note_as_loud_as_it_is_played(song, solution):
    performance = performed(solution, song)
    wanted = sorted((s.midi, s.velocity) for s in performance.struck if s.part in ("left", "right", "tune", "bass"))
    file = mido.MidiFile(file=io.BytesIO(midi_bytes(song, performance)))
    found = sorted((m.note, m.velocity) for track in file.tracks for m in track if m.type == "note_on" and m.velocity)
    assert found == wanted
    assert len({velocity for _, velocity in wanted}) > 1


def test_chordpro_closes_every_section_that_it_opens(song):
    lines = write_chordpro(song).decode().splitlines()
    signs = [line.partition(":")[0].strip("{}") for line in lines if "_of_verse" in line]
    assert signs == ["start_of_verse", "end_of_verse"] * len(song.sections)


def test_a_compound_beat_is_a_dotted_quarter_in_midi():
    song = parse_chart("meter: 12/8\ntempo: 60\n| C |")
    solution = solve_song(BUILDER, timeline(song), Setup())
    assert mido.MidiFile(file=io.BytesIO(midi_bytes(song, performed(solution, song)))).length == pytest.approx(
        4.0, abs=0.01
    )


def test_an_unknown_ending_is_refused(song, solution, tmp_path):
    with pytest.raises(UserError, match=r"\.mid"):
        export(tmp_path / "x.doc", song_file(song), solution)
    assert list(tmp_path.iterdir()) == []


# --- what is never written over ---


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("a.json", "song", "a song"), ("a.hinge", "song", "a song"), ("a.cho", b"{title: Quay}\n[C]Home [F]again\n", "ChordPro"),
        ("a.txt", b"title: Mine\n| C | Am |\n", "a chart"), ("a.txt", b"| C | Qq | Zz\n| Am |", "a chart"), ("a.chart", b"| 1 | 4 |", "a chart"),
        ("a.mid", "midi", "MIDI"), ("a.csv", b"| C | F |", "a chart"),
    ],
)  # fmt: skip
def test_an_export_never_writes_over_a_song_or_chart(song, solution, tmp_path, name, data, said):
    path = tmp_path / name
    made = {
        "song": to_json(song_file(song, setup=Setup(colour=1))),
        "midi": midi_bytes(song, performed(solution, song)).replace(b"made by", b"made in"),
    }
    path.write_bytes(made.get(data, data))
    before = path.read_bytes()
    with pytest.raises(WouldOverwriteError, match=said):
        export(path, song_file(song), solution)
    assert path.read_bytes() == before
    export(path, song_file(song), solution, force=True)
    assert path.read_bytes() != before


def test_an_export_never_writes_over_what_it_came_from(song, solution, tmp_path):
    source, link = tmp_path / "words.csv", tmp_path / "link.csv"
    source.write_bytes(b"no song at all")
    link.symlink_to(source)
    for target in (source, link):
        with pytest.raises(WouldOverwriteError, match="comes from"):
            export(target, song_file(song), solution, source)
    assert source.read_bytes() == b"no song at all"


@pytest.mark.parametrize("ending", [".mid", ".cho", ".csv", ".txt", ".json"])
def test_what_was_exported_is_exported_again_without_a_question(song, solution, tmp_path, ending):
    for _ in range(2):
        export(tmp_path / f"x{ending}", song_file(song), solution)


def test_a_song_and_a_chart_that_were_exported_open_again(song, solution, tmp_path):
    for ending in (".hinge", ".chart"):
        export(tmp_path / f"x{ending}", song_file(song), solution)
        assert same_writing(read_song(str(tmp_path / f"x{ending}")).song, song)


# --- how it is written ---


def test_links_modes_and_second_names_of_a_file_stay(tmp_path):
    path, link, second = tmp_path / "song.hinge", tmp_path / "link.hinge", tmp_path / "again.hinge"
    path.write_bytes(b"a long old content")
    path.chmod(0o640)
    link.symlink_to(path)
    write_atomic(link, b"one")
    assert link.is_symlink()
    assert path.read_bytes() == b"one"
    assert path.stat().st_mode & 0o777 == 0o640
    os.link(path, second)
    write_atomic(path, b"two")
    assert second.read_bytes() == b"two"
    assert path.samefile(second)
    assert sorted(p.name for p in tmp_path.iterdir()) == ["again.hinge", "link.hinge", "song.hinge"]


def test_what_a_killed_save_left_is_swept_and_what_is_being_written_is_not(tmp_path):
    left, busy = tmp_path / ".song.hinge.abc.part", tmp_path / ".song.hinge.def.part"
    other = tmp_path / ".other.hinge.abc.part"
    for path in (left, busy, other):
        path.write_bytes(b"half")
    with busy.open("rb") as writing:
        fcntl.flock(writing, fcntl.LOCK_EX)
        write_atomic(tmp_path / "song.hinge", b"whole")
    assert {p.name for p in tmp_path.iterdir()} == {other.name, busy.name, "song.hinge"}


def test_a_read_only_file_and_a_device_are_left_alone(tmp_path, monkeypatch):
    monkeypatch.setattr(os, "access", lambda path, mode: False)
    path = tmp_path / "song.hinge"
    path.write_bytes(b"old")
    with pytest.raises(FileFault, match="Permission denied"):
        write_atomic(path, b"new")
    with pytest.raises(FileFault, match="no ordinary file"):
        write_atomic(Path("/dev/full"), b"new")
    assert path.read_bytes() == b"old"


def test_a_chart_says_what_is_asked_of_the_whole_song():
    head = "title: Asked\nkey: C\nmanner: gospel\npickup: 1\nalso: capo = 2\n"
    song = parse_chart(head + "[A]\n| C | F |\ntune: | C4:1 | r:4 |\ncue: | a | b |\n")
    file = song_file(song, setup=Setup(colour=2, bass="theirs", manner="pop"), playing=Playing((PlayWish(0, "held"),)))
    again = BY_ID["chart"].read(write_chart(with_headers(file)).encode(), "x.chart", {}).file.song
    assert dict(again.asks) == {"manner": "pop", "colour": "2", "bass": "theirs", "pattern": "held"}
    assert msgspec.structs.replace(again, asks=song.asks) == song
