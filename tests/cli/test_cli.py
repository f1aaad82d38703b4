"""The command line as a player's script sees it."""

import io
import json
import subprocess
import sys

import pytest

from yellow_hinge.cli.main import main


def run(capsys, *words):
    status = main(words)
    out, err = capsys.readouterr()
    return status, out, err


def document(capsys, *words):
    status, out, err = run(capsys, *words, "--json")
    assert status == 0, err
    return json.loads(out)


def test_chord_has_the_fixed_fields(capsys):
    (found,) = document(capsys, "chord", "Db7b9/Ab", "--key", "Gb")["chords"]
    assert found == {
        "input": "Db7b9/Ab", "symbol": "Db7b9/Ab", "root": "Db", "bass": "Ab", "number": "57b9/2", "roman": "V7b9/2",
        "short": "Db7b9/Ab",
        "degrees": ["1", "3", "5", "b7", "b9"], "notes": ["Db", "F", "Ab", "Cb", "Ebb"], "pitch_classes": [1, 5, 8, 11, 2],
    }  # fmt: skip


def test_voice_has_the_fixed_fields_and_adds_up(capsys):
    found = document(capsys, "voice", "demo:last-boat-to-marrow")
    assert set(found) >= {"title", "key", "total", "voicings", "hinges"}
    assert set(found["total"]) >= {
        "motion",
        "left_motion",
        "right_motion",
        "held",
        "largest_move",
        "cost",
        "exact",
        "seconds",
    }
    first = found["voicings"][0]
    assert set(first) >= {
        "slot", "section", "bar", "beat", "beats", "symbol", "number", "left", "right", "left_notes", "right_notes",
        "left_degrees", "right_degrees", "family", "left_fingers", "right_fingers", "warnings",
    }  # fmt: skip
    assert (first["section"], first["bar"], first["beat"], first["beats"]) == ("Verse", 1, 1, 4)
    assert len(found["hinges"]) == len(found["voicings"]) - 1
    for hinge in found["hinges"]:
        assert hinge["motion"] == sum(abs(move["semitones"]) for move in hinge["moves"])
        assert hinge["words"].endswith(".")
    assert found["total"]["motion"] == sum(hinge["motion"] for hinge in found["hinges"])
    assert found["total"]["held"] == sum(hinge["held"] for hinge in found["hinges"])


def test_voice_takes_the_players_wishes(capsys, monkeypatch):
    monkeypatch.setattr(sys, "stdin", io.TextIOWrapper(io.BytesIO(b"key: C\n| 2m7 | 57 | 1maj7 | 67 |")))
    found = document(
        capsys, "voice", "-", "--bass", "theirs", "--families", "rootless-a,rootless-b", "--key", "Eb", "--loop",
        "--left-reach", "10", "--keys", "61", "--colour", "3", "--style", "Smoothest",
    )  # fmt: skip
    assert found["key"] == "Eb major"
    assert [v["symbol"] for v in found["voicings"]] == ["Fm7", "Bb7", "Ebmaj7", "C7"]
    assert len(found["hinges"]) == 4
    assert {v["family"] for v in found["voicings"]} <= {"rootless-a", "rootless-b"}


def test_export_check_and_songs(capsys, tmp_path):
    target = tmp_path / "out.mid"
    assert run(capsys, "export", "demo:harbour-bell", "--to", str(target))[0] == 0
    assert target.read_bytes()[:4] == b"MThd"
    assert document(capsys, "check", "demo:slack-tide")["ok"] is True
    names = [song["name"] for song in document(capsys, "songs")["songs"]]
    assert names[0] == "demo:last-boat-to-marrow"
    assert len(names) == 6


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (("chord", "Hm7"), "column 1"),
        (("voice", "no-such-file.txt"), "no-such-file.txt: cannot be opened"),
        (("voice", "demo:nothing"), "there are last-boat-to-marrow"),
        (("voice", "demo:slack-tide", "--families", "rootles-a"), "did you mean 'rootless-a'"),
        (("voice", "demo:slack-tide", "--left-reach", "99"), "left reach 99"),
        (("voice", "demo:slack-tide", "--keys", "60"), "49, 61"),
        (("voice", "demo:slack-tide", "--bass", "tuba"), "--help"),
        (("export", "demo:slack-tide", "--to", "x.doc"), ".mid"),
        (("check",), "--help"),
    ],
)
def test_faults_of_the_input_exit_2_with_a_message_and_no_traceback(capsys, words, message):
    status, out, err = run(capsys, *words)
    assert status == 2
    assert out == ""
    assert message in err
    assert "Traceback" not in err


def test_a_faulty_chart_names_file_line_and_column(capsys, tmp_path):
    path = tmp_path / "a.txt"
    path.write_text("title: A\n| C | Cmjr7 |")
    status, _, err = run(capsys, "check", str(path))
    assert status == 2
    assert f"{path}: line 2, column 7" in err
    assert "Cmaj7" in err


def test_the_verbs_load_no_window_library():
    code = "import sys; from yellow_hinge.cli.main import main; main(['songs']); sys.exit('PySide6' in str(sys.modules.keys()))"
    assert subprocess.run([sys.executable, "-c", code], stdout=subprocess.DEVNULL, check=False).returncode == 0


def test_name_has_the_fixed_fields(capsys):
    found = document(capsys, "name", "F3", "A3", "B3", "E4", "--bass", "G", "--key", "C")["readings"]
    assert set(found[0]) >= {"symbol", "number", "degrees", "missing", "rootless", "why"}
    assert (found[0]["symbol"], found[0]["number"], found[0]["degrees"]) == ("G13", "513", ["b7", "9", "3", "13"])
    assert document(capsys, "name", "53", "57", "60", "64", "--bass", "D2")["readings"][0]["symbol"] == "Dm9"
    assert run(capsys, "name", "H3")[0] == 2
