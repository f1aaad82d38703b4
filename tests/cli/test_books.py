"""Many songs: converted with a row each, listed from their folders, put into a set that is played, printed and heard."""

import io
import json
from pathlib import Path

import mido
import pypdf
import pytest

from tests.songs import BUILDER
from yellow_hinge.app.solving.book.converting import KINDS
from yellow_hinge.app.solving.book.sets import SetSong, SongSet, evening, joins, read_set, schema, write_set
from yellow_hinge.app.solving.book.songbook import songbook
from yellow_hinge.assets import ASSETS
from yellow_hinge.cli.main import main
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.opening import read_song

DEMO = ASSETS / "demo"
BELL, KETTLE, BOAT = DEMO / "harbour-bell.chart", DEMO / "kettle-on-the-stove.hinge", DEMO / "last-boat-to-marrow.hinge"


def told(capsys, *words, status=0):
    assert main(list(map(str, words))) == status
    out = capsys.readouterr().out
    return json.loads(out) if "--json" in words else out


def test_many_files_are_written_as_songs_and_a_bad_one_stops_no_other(tmp_path, capsys):
    bad = tmp_path / "bad.chart"
    bad.write_text("key: C\n| C | Hx |\n", "utf-8")
    missing = tmp_path / "missing.mid"
    found = told(capsys, "convert", BELL, bad, KETTLE, missing, BELL, "--to", tmp_path / "out", "--json", status=2)[
        "files"
    ]
    assert [row["result"] for row in found] == ["right", "refused", "right", "refused", "right"]
    assert "Hx" in found[1]["said"][0]
    names = sorted(path.name for path in (tmp_path / "out").iterdir())
    assert names == ["harbour-bell-2.hinge", "harbour-bell.hinge", "kettle-on-the-stove.hinge"]
    first, again = read_song(str(BELL)), read_song(found[0]["to"])
    assert again.song.title == first.song.title
    hands = [solve_song(BUILDER, timeline(f.song), f.setup, f.keeps).voicings[0].both for f in (first, again)]
    assert hands[0] == hands[1]


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_is_written_and_what_can_be_read_opens_again(tmp_path, capsys, kind):
    (row,) = told(capsys, "convert", KETTLE, "--to", tmp_path, "--format", kind, "--json")["files"]
    made = Path(row["to"])
    assert made.suffix == f".{kind}"
    if kind == "pdf":
        assert "Kettle on the Stove" in pypdf.PdfReader(made).pages[0].extract_text()
    else:
        symbols = [slot.symbol for s in read_song(row["to"]).song.sections for bar in s.bars for slot in bar.slots]
        assert symbols[:3] == ["C7", "F7", "C7"]


def test_a_songbook_lists_finds_and_says_what_is_damaged_or_twice_there(tmp_path, capsys):
    folder = tmp_path / "songs" / "inside"
    folder.mkdir(parents=True)
    for name in ("a.hinge", "b.hinge"):
        (folder / name).write_bytes(KETTLE.read_bytes())
    (folder / "bell.chart").write_bytes(BELL.read_bytes())
    (folder / "tagged.chart").write_text(
        "title: Tagged\nkey: D minor\ntempo: 120\n[Verse]\n| Dm | A7 |\ncue: | ferry | |\n", "utf-8"
    )
    (folder / "damaged.hinge").write_bytes(b"{")
    (folder / "notes.doc").write_text("not looked at", "utf-8")
    songs = told(capsys, "songbook", tmp_path / "songs", "--json")["songs"]
    assert {"id", "title", "key", "tempo", "minutes", "manner", "tags", "path", "problem"} == set(songs[0])
    by_title = {song["title"]: song for song in songs if not song["problem"]}
    assert set(by_title) == {"Kettle on the Stove", "Harbour Bell", "Tagged"}
    assert by_title["Tagged"]["minutes"] == round(8 / 120, 2)
    problems = sorted(song["problem"] for song in songs if song["problem"])
    assert len(problems) == 2
    assert "damaged" in problems[0]
    assert problems[1].startswith("the same song as")
    assert [row.title for row in songbook([tmp_path], "minor FERRY")] == ["Tagged"]
    assert songbook([tmp_path], "minor ferry jazz") == []
    assert main(["songbook", str(tmp_path / "nowhere")]) == 2


def test_a_set_is_put_together_played_printed_and_written_as_midi(tmp_path, capsys):
    path = tmp_path / "tonight.set"
    told(
        capsys,
        "set",
        path,
        "--add",
        BELL,
        "--in-key",
        "Eb",
        "--add",
        KETTLE,
        "--take",
        "With a line",
        "--note",
        "tune low",
    )
    document = told(capsys, "set", path, "--add", BOAT, "--take", "mix", "--json")
    assert [(song["title"], song["key"], song["take"], song["note"], song["problem"]) for song in document["songs"]] == [
        ("Harbour Bell", "Eb major", "", "", None), ("Kettle on the Stove", "C major", "With a line", "tune low", None),
        ("Last Boat to Marrow", "E major", "mix", "", None),
    ]  # fmt: skip
    assert document["minutes"] == round(sum(song["minutes"] for song in document["songs"]), 2)
    assert len(document["joins"]) == 2
    row = evening(read_set(path), tmp_path)
    last, first = row[0].solution.voicings[-1], row[1].solution.voicings[0]
    assert joins(row)[0].words.startswith("60 beats to 132 beats. Eb major to C major.")
    assert joins(row)[0].motion >= abs(first.left[0] - last.left[0]) - 12
    told(capsys, "set", path, "--to", tmp_path / "tonight.pdf")
    pages = [page.extract_text() for page in pypdf.PdfReader(tmp_path / "tonight.pdf").pages]
    assert [f"{n} of {len(pages)}" in text for n, text in enumerate(pages, 1)] == [True] * len(pages)
    order = [
        next(n for n, text in enumerate(pages) if n and title in text)
        for title in ("Harbour Bell", "Kettle", "Last Boat")
    ]
    assert order == sorted(set(order))
    told(capsys, "set", path, "--to", tmp_path / "midi")
    files = sorted((tmp_path / "midi").iterdir())
    assert [file.name[:2] for file in files] == ["01", "02", "03"]
    kettle = mido.MidiFile(file=io.BytesIO(files[1].read_bytes()))
    assert "line" in [track.name for track in kettle.tracks]  # the take of tonight


def test_songs_are_found_by_their_id_and_what_is_lost_is_said(tmp_path, capsys):
    folder = tmp_path / "set"
    folder.mkdir()
    song = folder / "song.hinge"
    song.write_bytes(KETTLE.read_bytes())
    told(capsys, "set", folder / "a.set", "--add", song)
    (folder / "deeper").mkdir()
    song.rename(folder / "deeper" / "renamed.hinge")
    assert told(capsys, "set", folder / "a.set", "--json")["songs"][0]["problem"] is None
    (folder / "deeper" / "renamed.hinge").unlink()
    assert told(capsys, "set", folder / "a.set", "--json")["songs"][0]["problem"] == "is not at song.hinge"
    for words in (
        ["set", folder / "a.set", "--in-key", "C"], ["set", folder / "b.set"], ["set", folder / "x.txt", "--add", BELL],
        ["set", folder / "a.set", "--add", BELL, "--take", "no such"], ["set", folder / "a.set", "--add", BELL, "--in-key", "H9"],
    ):  # fmt: skip
        told(capsys, *words, status=2)
    assert len(read_set(folder / "a.set").songs) == 1  # nothing of what was refused


def test_a_set_file_is_read_strictly_forgives_unknown_fields_and_has_a_schema(tmp_path):
    path = tmp_path / "a.set"
    write_set(path, SongSet("A", (SetSong("1", "x.hinge", "C", "", "quiet"),)))
    fields = json.loads(path.read_text("utf-8"))
    fields["songs"][0]["later"] = 1
    path.write_text(json.dumps(fields), "utf-8")
    assert read_set(path).songs[0].note == "quiet"
    for wrong in ({"songs": 1}, {"format": "other"}, {"version": 99}, {"songs": [{"key": 1}]}, {"songs": [{}] * 501}):
        path.write_text(json.dumps(fields | wrong), "utf-8")
        with pytest.raises(FileFault):
            read_set(path)
    path.write_bytes(b"[" * 100_000)
    with pytest.raises(FileFault):
        read_set(path)
    published = Path(__file__).parents[2] / "docs" / "set.schema.json"
    assert json.loads(published.read_text("utf-8")) == json.loads(json.dumps(schema()))
