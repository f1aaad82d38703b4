"""The verb `hear`: a performance on disk becomes a document, and a song that opens."""

import json

import pytest

from tests.io.test_corpus import CORPUS
from tests.performances import as_midi, perform
from yellow_hinge.cli.main import main
from yellow_hinge.core.hearing.strikes import Tone
from yellow_hinge.io.opening import read_data, read_named

CHORD = {"start", "end", "bar", "beat", "beats", "symbol", "bass", "left", "right", "sure", "others"}


@pytest.fixture
def recording(tmp_path):
    path = tmp_path / "evening.mid"
    path.write_bytes(as_midi(perform("pop", "eighths").tones))
    return path


def heard(capsys, *words):
    assert main(["hear", *map(str, words), "--json"]) == 0
    return json.loads(capsys.readouterr().out)


def test_a_recording_becomes_a_document(recording, capsys):
    document = heard(capsys, recording)
    assert set(document) == {"tempo", "meter", "swing", "key", "sure", "chords", "patterns", "notes"}
    assert (document["meter"], document["swing"], document["key"]) == ("4/4", 50, "A major")
    assert abs(document["tempo"] - 96) < 4
    assert set(document["chords"][0]) == CHORD
    assert [chord["symbol"] for chord in document["chords"]][:4] == ["A", "E", "F#m", "D"]
    assert [chord["bar"] for chord in document["chords"]][:4] == [1, 2, 3, 4]
    assert {note["hand"] for note in document["notes"]} == {"left", "right"}
    assert set(document["patterns"][0]) == {"section", "left", "right"}


def test_it_is_written_as_a_song_with_the_hands_that_were_played(recording, tmp_path, capsys):
    to = tmp_path / "evening.hinge"
    document = heard(capsys, recording, "--to", to)
    file = read_named(str(to)).file
    assert [keep.symbol for keep in file.keeps] == [chord["symbol"] for chord in document["chords"]]
    assert [list(keep.left) for keep in file.keeps] == [chord["left"] for chord in document["chords"]]
    assert main(["hear", str(recording), "--to", str(to)]) == 2
    assert "--force" in capsys.readouterr().err


def test_a_score_is_told_to_open_and_nothing_is_no_fault(tmp_path, capsys):
    assert main(["hear", str(CORPUS / "midi" / "blocks-and-tune.mid")]) == 2
    assert "open it as a song" in capsys.readouterr().err
    path = tmp_path / "one.mid"
    path.write_bytes(as_midi([Tone(0.31, 2.7, 60)]))
    document = heard(capsys, path)
    assert (document["tempo"], document["sure"], document["chords"]) == (None, 0.0, [])


def test_a_single_line_becomes_a_tune(tmp_path, capsys):
    path, to = tmp_path / "line.mid", tmp_path / "line.hinge"
    midis = [60, 62, 64, 65, 67, 65, 64, 62] * 4
    path.write_bytes(as_midi([Tone(n * 0.507 + 0.013 * (n % 3), n * 0.507 + 0.45, m) for n, m in enumerate(midis)]))
    document = heard(capsys, path, "--click", 118, "--to", to)
    assert document["chords"] == []
    song = read_named(str(to)).file.song
    tune = [tone.pitch for bar in song.sections[0].bars for tone in bar.tune if tone.pitch]
    assert tune[:8] == ["C4", "D4", "E4", "F4", "G4", "F4", "E4", "D4"]


def test_a_recording_opens_as_a_song_and_another_grid_may_be_chosen(recording):
    data = recording.read_bytes()
    opened = read_data(data, recording.name)
    assert "recording without bars" in opened.report[0]
    assert len(opened.file.keeps) == len(opened.file.song.sections[0].bars) + 1  # two chords in one of them
    beats = next(offer for offer in opened.offers if offer.id == "beats")
    other = next(value for value, words in beats.options if words.startswith(("3/4", "2/4")))
    again = read_data(data, recording.name, asks={"beats": other, "bass": "mine"})
    assert str(again.file.song.meter) in ("3/4", "2/4")
    assert next(offer for offer in again.offers if offer.id == "beats").chosen == other


def test_a_recording_without_beats_opens_in_the_bars_of_its_file():
    tones = [Tone(on, on + 1.8, midi, 70) for on in (0.137, 2.391) for midi in (48, 64, 67)]
    opened = read_data(as_midi(tones), "two.mid")
    assert [slot.symbol for bar in opened.file.song.sections[0].bars for slot in bar.slots][:1] == ["C"]
    assert not any("heard" in words for words in opened.report)
