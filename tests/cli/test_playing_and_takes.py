"""Patterns, sound and takes from the command line."""

import mido
import pytest
import soundfile

from tests.cli.test_cli import document
from yellow_hinge.cli.main import main


def test_patterns_are_listed_and_asked_for_by_place_and_hand(capsys, tmp_path):
    found = document(capsys, "patterns")["patterns"]
    assert len(found) >= 24
    assert {"id", "name", "words", "meter", "left", "right"} <= set(found[0])
    chart = tmp_path / "x.chart"
    chart.write_text("[A]\n| C | F | G | C |\n")
    counts = []
    for words in (
        [],
        ["--pattern", "beats"],
        ["--wish", "A:2 right-pattern=eighths"],
        ["--wish", "A:2 pattern=Eighths colour=2"],
    ):
        target = tmp_path / "x.mid"
        assert main(["export", str(chart), *words, "--to", str(target)]) == 0
        tracks = {track.name: track for track in mido.MidiFile(target).tracks}
        counts.append([sum(m.type == "note_on" and m.velocity > 0 for m in tracks[hand]) for hand in ("left", "right")])
    plain, beats, right, both = counts
    assert beats[0] > 2 * plain[0]
    assert right[0] == plain[0]
    assert right[1] > plain[1]
    assert both[1] >= right[1] - 8
    assert main(["export", str(chart), "--click", "--to", str(tmp_path / "y.mid")]) == 0
    assert "click" in [track.name for track in mido.MidiFile(tmp_path / "y.mid").tracks]
    capsys.readouterr()
    assert main(["export", str(chart), "--wish", "A:2 pattern=eigths", "--to", str(tmp_path / "z.mid")]) == 2
    assert "did you mean 'eighths'" in capsys.readouterr().err


@pytest.mark.parametrize("ending", [".wav", ".flac", ".ogg"])
def test_sound_is_exported(capsys, tmp_path, ending):
    chart = tmp_path / "x.chart"
    chart.write_text("tempo: 240\n| C | F |\n")
    target = tmp_path / f"x{ending}"
    assert main(["export", str(chart), "--to", str(target)]) == 0
    assert soundfile.info(target).duration == pytest.approx(2 + 1.5, abs=0.1)


def test_takes_are_listed_voiced_by_name_and_mixed(capsys, tmp_path):
    from yellow_hinge.app.edits import takes
    from yellow_hinge.app.edits.state import file_of, state_of
    from yellow_hinge.core.chart.text import parse_chart
    from yellow_hinge.core.takes.written_out import passes_of
    from yellow_hinge.io.songs.song_json import song_file, to_json

    state = takes.three(state_of(song_file(parse_chart("[A]\n|: C | Am7 :|\n[B]\n| F | G7 |\n"))))
    ids = {take.name: take.id for take in state.takes}
    first, *_, last = passes_of(state.song)
    state = takes.with_choice(takes.with_choice(state, *first, ids["Coloured"]), *last, ids["High"])
    path = tmp_path / "x.hinge"
    path.write_bytes(to_json(file_of(state)))
    found = document(capsys, "takes", str(path))
    assert [take["name"] for take in found["takes"]] == ["Take 1", "Plain", "Coloured", "High"]
    assert {"motion", "largest_move", "stretch_mm", "colours", "lowest", "highest", "changed"} <= set(found["takes"][0])
    assert found["mix"] == [
        {"section": "A", "pass": 1, "take": "Coloured"}, {"section": "A", "pass": 2, "take": "Take 1"}, {"section": "B", "pass": 1, "take": "High"},
    ]  # fmt: skip
    voiced = document(capsys, "voice", str(path), "--take", "coloured")
    assert {voicing["take"] for voicing in voiced["voicings"]} == {"Coloured"}
    assert voiced["total"]["motion"] == found["takes"][2]["motion"]
    mixed = document(capsys, "voice", str(path), "--take", "mix")
    assert [voicing["take"] for voicing in mixed["voicings"]] == ["Coloured"] * 2 + ["Take 1"] * 2 + ["High"] * 2
    assert main(["voice", str(path), "--take", "nobody"]) == 2
    assert "there are Take 1, Plain, Coloured, High, and mix" in capsys.readouterr().err
    assert main(["export", str(path), "--take", "mix", "--to", str(tmp_path / "m.mid")]) == 0
