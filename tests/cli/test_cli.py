"""The command line as a player's script sees it."""

import json
import re
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


def test_voice_has_the_fixed_fields_and_adds_up(capsys):
    found = document(capsys, "voice", "demo:last-boat-to-marrow")
    assert set(found) >= {"title", "key", "total", "voicings", "hinges"}
    total = "motion left_motion right_motion held largest_move cost exact seconds"
    assert set(found["total"]) >= set(total.split())
    first = found["voicings"][0]
    assert set(first) >= {
        "slot", "section", "bar", "beat", "beats", "symbol", "number", "left", "right", "left_notes", "right_notes",
        "left_degrees", "right_degrees", "family", "left_fingers", "right_fingers", "warnings",
        "struck_left", "struck_right", "added_left", "added_right",
    }  # fmt: skip
    for voicing in found["voicings"]:
        assert [voicing["struck_left"], voicing["struck_right"]] == [voicing["left"], voicing["right"]]
    walked = document(capsys, "voice", "demo:last-boat-to-marrow", "--pattern", "walking")["voicings"]
    assert any(voicing["added_left"] for voicing in walked)
    assert (first["section"], first["bar"], first["beat"], first["beats"]) == ("Verse", 1, 1, 4)
    assert len(found["hinges"]) == len(found["voicings"]) - 1
    for hinge in found["hinges"]:
        assert hinge["motion"] == sum(abs(move["semitones"]) for move in hinge["moves"])
        assert hinge["words"].endswith(".")
    assert found["total"]["motion"] == sum(hinge["motion"] for hinge in found["hinges"])
    assert found["total"]["held"] == sum(hinge["held"] for hinge in found["hinges"])


def test_export_check_and_songs(capsys, tmp_path):
    target = tmp_path / "out.mid"
    assert run(capsys, "export", "demo:harbour-bell", "--to", str(target))[0] == 0
    assert target.read_bytes()[:4] == b"MThd"
    assert document(capsys, "check", "demo:slack-tide")["ok"] is True
    names = [song["name"] for song in document(capsys, "songs")["songs"]]
    assert names[0] == "demo:last-boat-to-marrow"
    assert len(names) == 12


@pytest.mark.parametrize(
    ("words", "strange"),
    [
        (["songs"], "PySide6"), (["--version"], r"numpy|\.leading"), (["chord", "C7", "--key", "F"], r"numpy|\.leading"),
        (["voice", "demo:slack-tide"], r"PySide6|mido|fsrs|xml|sound|paper|\.(hearing|lines|practice|desk|texts|midi)\b|reharm\.[^b]"),
    ],
)  # fmt: skip
def test_a_verb_loads_nothing_that_it_does_not_need(words, strange):
    code = (
        "import contextlib, sys; from yellow_hinge.cli.main import main\n"
        f"with contextlib.suppress(SystemExit): main({words!r})\n"
        "print(*sys.modules, file=sys.stderr)"
    )
    loaded = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stderr.split()
    assert [name for name in loaded if re.search(strange, name)] == []


def test_hands_are_kept_from_the_command_line_and_move_with_the_key(capsys, tmp_path):
    chart = tmp_path / "x.chart"
    chart.write_text("key: C\n[Big Verse]\n| C | F | G7 | C |\n")
    found = document(
        capsys, "voice", str(chart), "--keep", "Big Verse:2 L F2 C3 R A3 C4 F4", "--keep", "Big Verse:4 R E4 G4 C5"
    )
    assert (found["voicings"][1]["left"], found["voicings"][1]["right"]) == ([41, 48], [57, 60, 65])
    assert found["voicings"][3]["right"] == [64, 67, 72]
    alone = document(capsys, "voice", str(chart), "--keep", "Big Verse:3 L G2 F3 B3 R")
    assert (alone["voicings"][2]["left"], alone["voicings"][2]["right"]) == ([43, 53, 59], [])
    moved = document(capsys, "voice", str(chart), "--keep", "Big Verse:2 L F2 C3 R A3 C4 F4", "--key", "D")
    assert (moved["voicings"][1]["left"], moved["voicings"][1]["right"]) == ([43, 50], [59, 62, 67])


def test_hinges_say_what_fingers_do(capsys):
    found = document(capsys, "voice", "demo:last-boat-to-marrow")
    for index, hinge in enumerate(found["hinges"]):
        old, new = found["voicings"][index], found["voicings"][index + 1]
        held = changed = 0
        for hand in ("left", "right"):
            was = dict(zip(old[hand], old[f"{hand}_fingers"], strict=True))
            now = dict(zip(new[hand], new[f"{hand}_fingers"], strict=True))
            held += sum(was[key] == now[key] for key in was.keys() & now.keys())
            changed += sum(was[key] != now[key] for key in was.keys() & now.keys())
        assert hinge["held"] == held
        assert len(hinge["finger_changes"]) == changed
        assert hinge["common"] == held + changed
        assert hinge["motion"] == hinge["left_motion"] + hinge["right_motion"]
        sizes = [(len(old[hand]), len(new[hand])) for hand in ("left", "right")]
        assert hinge["added"] == sum(max(0, b - a) for a, b in sizes)
        assert hinge["lifted"] == sum(max(0, a - b) for a, b in sizes)
    first = found["voicings"][0]
    assert first["reads"].startswith("E")
    assert len(first["left_numbers"]) == len(first["left"])
