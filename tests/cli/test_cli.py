"""The command line as a player's script sees it."""

import io
import itertools
import json
import subprocess
import sys

import mido
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


def test_a_foreign_bass_is_among_the_pitch_classes_as_among_the_notes(capsys):
    (found,) = document(capsys, "chord", "Bb/C")["chords"]
    assert (found["notes"], found["pitch_classes"]) == (["C", "Bb", "D", "F"], [0, 10, 2, 5])


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
    assert len(names) == 12


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (("chord", "Hm7"), "column 1"),
        (("voice", "no-such-file.txt"), "no-such-file.txt: cannot be opened"),
        (("voice", "demo:nothing"), "there are last-boat-to-marrow"),
        (("voice", "demo:slack-tide", "--families", "rootles-a"), "did you mean 'rootless-a'"),
        (("voice", "demo:slack-tide", "--left-reach", "99"), "left reach 99"),
        (("voice", "demo:slack-tide", "--keys", "60"), "49, 61"),
        (("voice", "demo:slack-tide", "--bass", "tuba"), "neither mine nor theirs"),
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


def test_reading_a_symbol_loads_no_solver_and_no_arrays():
    code = (
        "import sys; from yellow_hinge.cli.main import main; main(['chord', 'C7', '--key', 'F'])\n"
        "sys.exit('numpy' in sys.modules or any('.leading' in name for name in sys.modules))"
    )
    assert subprocess.run([sys.executable, "-c", code], stdout=subprocess.DEVNULL, check=False).returncode == 0


def test_name_has_the_fixed_fields(capsys):
    found = document(capsys, "name", "F3", "A3", "B3", "E4", "--bass", "G", "--key", "C")["readings"]
    assert set(found[0]) >= {"symbol", "number", "degrees", "missing", "rootless", "why"}
    assert (found[0]["symbol"], found[0]["number"], found[0]["degrees"]) == ("G13", "513", ["b7", "9", "3", "13"])
    assert document(capsys, "name", "53", "57", "60", "64", "--bass", "D2")["readings"][0]["symbol"] == "Dm9"
    assert run(capsys, "name", "H3")[0] == 2


# --- wishes for parts of a song, and reasons ---

SCRAP = "key: C\n[Verse]\n| Cmaj7 | Am7 Dm7 |\n[Big End]\n| G7 | Cmaj7 |"


@pytest.fixture
def scrap(tmp_path):
    path = tmp_path / "scrap.txt"
    path.write_text(SCRAP, "utf-8")
    return str(path)


def test_wishes_and_holds_reach_their_chords(capsys, scrap):
    found = document(
        capsys, "voice", scrap, "--wish", "Verse:2:3 families=octave-triad+shell-root", "--wish", "Big End colour=1",
        "--hold", "E4 Verse:1:1 Big End:1:1", "--style", "Still top",
    )  # fmt: skip
    assert [v["right_notes"][-1] for v in found["voicings"][:4]] == ["E4"] * 4
    assert found["voicings"][2]["family"] in ("octave-triad", "shell-root")
    assert {d for d in found["voicings"][4]["right_degrees"]} <= {"1", "3", "5", "7"}


def test_the_melody_on_top_and_the_singers_register(capsys):
    top = document(capsys, "voice", "demo:last-boat-to-marrow", "--melody", "top")
    assert top["voicings"][0]["right_notes"][-1] == "G#4"
    free = document(capsys, "voice", "demo:last-boat-to-marrow", "--singer", "E4:B4")
    inside = sum(64 <= note <= 71 for v in free["voicings"] for note in v["right"])
    plain = document(capsys, "voice", "demo:last-boat-to-marrow")
    assert inside < sum(64 <= note <= 71 for v in plain["voicings"] for note in v["right"])


def test_explain_says_why_what_is_hard_and_what_else_there_is(capsys, scrap):
    found = document(capsys, "voice", scrap, "--explain", "--families", "open-left", "--left-reach", "8")
    assert len(found["chords"]) == len(found["voicings"]) == 5
    first = found["chords"][0]
    assert first["reason"]
    assert first["options"][0]["extra"] == 0
    assert len(first["other_basses"]) == 12
    wide = next(chord["too_wide"] for chord in found["chords"] if chord["too_wide"])
    assert wide["past_mm"] > 0
    assert wide["ladder"]
    assert {move["kind"] for move in found["bass_line"]} <= {"hold", "step", "chromatic", "leap"}
    assert found["stiff"][0]["why"]
    assert sum(line["motion"] for line in found["lines"]) == found["total"]["motion"]
    status, out, _ = run(capsys, "voice", scrap, "--explain")
    assert status == 0
    assert "Hard changes" in out
    assert "Bass line:" in out


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("--wish", "Verse"), "asks for nothing"), (("--wish", "Vers colour=1"), "did you mean 'Verse'"),
        (("--wish", "Verse:9 colour=1"), "there are 2"), (("--wish", "Verse:2:7 colour=1"), "beats 1 to 4"),
        (("--wish", "Verse colour=red"), "not a whole number"), (("--wish", "Verse style=Smooth"), "did you mean 'Smoothest'"),
        (("--wish", "Verse lift=99"), "at most 24"), (("--hold", "E4 Verse"), "names a whole section"),
        (("--hold", "E4 Verse:1 Vers:2"), "did you mean"), (("--hold", "E4 Big End:1 Verse:1"), "ends before"),
        (("--singer", "G3"), "write it as G3:D5"), (("--singer", "G4:C4"), "lower to a higher"),
    ],
)  # fmt: skip
def test_wishes_at_fault_say_what_to_write(capsys, scrap, words, said):
    status, _, err = run(capsys, "voice", scrap, *words)
    assert status == 2
    assert said in err


# --- swaps ---


def test_swaps_have_the_fixed_fields_and_clashes_last(capsys):
    found = document(capsys, "swaps", "demo:last-boat-to-marrow", "--at", "Verse:8:1")
    assert set(found) >= {"at", "swaps"}
    assert found["at"] == "Verse:8:1"
    assert found["tested"] is True
    first = found["swaps"][0]
    assert set(first) >= {"name", "chords", "reason", "fits", "melody", "motion_before", "motion_after"}
    assert set(first["chords"][0]) == {"symbol", "number", "beats"}
    assert set(first["melody"][0]) >= {"note", "becomes", "fits"}
    fits = [swap["fits"] for swap in found["swaps"]]
    assert fits == sorted(fits, reverse=True)
    for swap in found["swaps"]:
        assert sum(chord["beats"] for chord in swap["chords"]) == 4
    for swap in found["through"]:
        assert swap["span"] == len(swap["chords"]) >= 2


def test_swaps_without_a_melody_say_that_nothing_was_tested(capsys, scrap):
    status, out, _ = run(capsys, "swaps", scrap, "--at", "Big End:1:1")
    assert status == 0
    assert "nothing was tested" in out
    assert "Tritone" in out
    assert document(capsys, "swaps", scrap, "--at", "Big End:1:1")["tested"] is False


@pytest.mark.parametrize(
    ("place", "said"), [("Verse", "whole section"), ("Nowhere:1:1", "sections: Verse"), ("Verse:1:9", "beats 1 to 4")]
)
def test_a_place_that_is_none_is_refused(capsys, scrap, place, said):
    status, _, err = run(capsys, "swaps", scrap, "--at", place)
    assert status == 2
    assert said in err


def test_a_bolder_song_says_what_became_what_and_is_solved(capsys):
    plain = document(capsys, "voice", "demo:kettle-on-the-stove")
    found = document(capsys, "voice", "demo:kettle-on-the-stove", "--boldness", "3")
    assert found["boldness"] == 3
    assert found["reharmonised"]["exact"] is True
    assert found["reharmonised"]["cost"] < found["reharmonised"]["cost_before"]
    change = found["changes"][0]
    assert set(change) >= {"at", "was", "name", "chords", "reason", "melody", "words"}
    assert sum(v["beats"] for v in found["voicings"]) == sum(v["beats"] for v in plain["voicings"])
    symbols = [v["symbol"] for v in found["voicings"]]
    assert all(chord["symbol"] in symbols for one in found["changes"] for chord in one["chords"])
    status, out, _ = run(capsys, "voice", "demo:kettle-on-the-stove", "--boldness", "1")
    assert status == 0
    assert " becomes " in out


def test_what_is_protected_stays_and_wrong_words_are_refused(capsys, tmp_path):
    chart = tmp_path / "a.txt"
    chart.write_text("title: A\nkey: C\n| C | Am7 | G7 | C |")
    places = {c["at"] for c in document(capsys, "voice", str(chart), "--boldness", "3")["changes"]}
    assert places <= {"Song:2:1"}
    free = {c["at"] for c in document(capsys, "voice", str(chart), "--boldness", "3", "--protect", "none")["changes"]}
    assert free - {"Song:2:1"}
    assert run(capsys, "voice", str(chart), "--boldness", "9")[0] == 2
    assert run(capsys, "voice", str(chart), "--boldness", "1", "--protect", "codas")[0] == 2


def test_a_bolder_song_can_be_exported(capsys, tmp_path):
    target = tmp_path / "a.cho"
    assert run(capsys, "export", "demo:kettle-on-the-stove", "--boldness", "3", "--to", str(target))[0] == 0
    assert "[F#dim7]" in target.read_text()


# --- hands that stay, and what fingers do ---
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


@pytest.mark.parametrize(
    ("keep", "words"),
    [
        ("Verse:1", "keeps nothing"), ("Verse L C3", "whole section"), ("Verse:9 L C3", "there are 1"), ("Verse:1 L H3", "H3"),
        ("Verse:1 L C2 D2 E2 F2 G2 A2", "fingers"), ("Verse:1 L C99", "C99"),
    ],
)  # fmt: skip
def test_a_keep_that_makes_no_sense_is_refused(capsys, tmp_path, keep, words):
    chart = tmp_path / "x.chart"
    chart.write_text("key: C\n[Verse]\n| C |\n")
    status, _, err = run(capsys, "voice", str(chart), "--keep", keep)
    assert status == 2
    assert words in err


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


def test_headers_ask_for_manner_and_pattern_and_strange_ones_are_said(capsys, tmp_path):
    chart = tmp_path / "x.chart"
    chart.write_text("manner: gospel\npattern: waltz\ncolour: 2\nbass: theirs\n| C | F |\n")
    assert document(capsys, "check", str(chart))["notes"] == []
    strange = tmp_path / "y.chart"
    strange.write_text("pattern: waltzz\n| C | F |\n")
    (note,) = document(capsys, "check", str(strange))["notes"]
    assert note.startswith("'waltzz' is not a pattern; did you mean 'waltz'?")
    asked = document(capsys, "voice", str(chart))
    plain = document(capsys, "voice", str(chart), "--colour", "0", "--bass", "mine")
    assert asked["voicings"][0]["left"] != plain["voicings"][0]["left"]
    chart.write_text("manner: polka\n| C | F |\n")
    assert "'polka' is not a manner" in document(capsys, "check", str(chart))["notes"][0]


def test_a_manner_sets_what_options_and_header_leave_open(capsys, tmp_path):
    chart = tmp_path / "x.chart"
    chart.write_text("key: C\n| C | Am7 | Dm7 | G7 | C |\n")
    manners = {manner["id"]: manner for manner in document(capsys, "manners")["manners"]}
    assert len(manners) == 8
    played = {}
    for name, manner in manners.items():
        found = document(capsys, "voice", str(chart), "--manner", name)["voicings"]
        families = set(manner["families"][manner["bass"]])
        assert sum(v["family"] in families for v in found) >= 4
        assert all(not v["right"] for v in found) == (manner["right"] == "free")
        played[name] = [(v["left"], v["right"]) for v in found]
    assert all(a != b for (n, a), (m, b) in itertools.combinations(played.items(), 2))
    plain = document(capsys, "voice", str(chart), "--manner", "Jazz alone", "--colour", "0")["voicings"]
    assert plain[0]["left_degrees"] == ["1", "5"]
    chart.write_text("key: C\nmanner: jazz with a bass player\n| C | Am7 | Dm7 | G7 | C |\n")
    by_header = document(capsys, "voice", str(chart))["voicings"]
    assert [(v["left"], v["right"]) for v in by_header] == played["jazz-with-bass"]
    assert main(["voice", str(chart), "--manner", "polka"]) == 2
    assert "'polka' is not a manner" in capsys.readouterr().err


def test_fullness_and_the_right_hand_are_asked_for(capsys, tmp_path):
    chart = tmp_path / "x.chart"
    chart.write_text("key: C\n[A]\n| Dm7 | G7 |\n[B]\n| Cmaj7 | A7 |\n")
    found = document(capsys, "voice", str(chart), "--colour", "2", "--fullness", "1,4", "--wish", "B fullness=2+3")
    assert [(len(v["left"]), len(v["right"])) for v in found["voicings"]] == [(1, 4), (1, 4), (2, 3), (2, 3)]
    free = document(
        capsys, "voice", str(chart), "--colour", "2", "--bass", "theirs", "--right", "free", "--wish", "B right=plays"
    )
    assert [bool(v["right"]) for v in free["voicings"]] == [False, False, True, True]


@pytest.mark.parametrize(
    ("words", "said"),
    [(("--fullness", "2"), "no fullness"), (("--fullness", "9,9"), "0 to 5"), (("--wish", "A right=sleeps"), "neither plays nor free"),
     (("--wish", "A fullness=2"), "no fullness")],
)  # fmt: skip
def test_fullness_that_makes_no_sense_is_refused(capsys, tmp_path, words, said):
    chart = tmp_path / "x.chart"
    chart.write_text("[A]\n| C |\n")
    status, _, err = run(capsys, "voice", str(chart), *words)
    assert status == 2
    assert said in err


def test_solo_tells_scales_landing_notes_and_lines_and_writes_the_best_as_the_tune(capsys, tmp_path):
    target = tmp_path / "line.mid"
    words = ["solo", "demo:kettle-on-the-stove", "--rail", "7-3", "--bold", "1", "--to", str(target)]
    found = document(capsys, *words)
    assert set(found) == {"chords", "lines"}
    first, line = found["chords"][0], found["lines"][0]
    assert set(first) == {"id", "symbol", "scales", "land_on"}
    assert set(first["scales"][0]) == {"name", "notes", "why", "pass"}
    assert first["land_on"][0]["degree"] == "b7"
    assert set(line) == {"cost", "degrees", "notes"}
    assert set(line["notes"][0]) == {"midi", "pitch", "onset", "beats", "degree", "why"}
    assert [each["cost"] for each in found["lines"]] == sorted(each["cost"] for each in found["lines"])
    assert line["notes"][0]["midi"] == first["land_on"][0]["midi"]
    onsets = [note["note"] for track in mido.MidiFile(target).tracks for note in map(vars, track)
              if note.get("type") == "note_on" and note["velocity"]]  # fmt: skip
    assert {note["midi"] for note in line["notes"]} <= set(onsets)
    part = document(capsys, "solo", "demo:slack-tide", "--at", "Vamp:2")
    assert len(part["chords"]) == 1
    assert "land on" in run(capsys, "solo", "demo:slack-tide", "--at", "Vamp")[1]
    assert main(["solo", "demo:slack-tide", "--to", str(tmp_path / "x.pdf")]) == 2
    assert main(["solo", "demo:slack-tide", "--at", "Coda"]) == 2
    assert main(["solo", "demo:slack-tide", "--low", "A4", "--high", "C5"]) == 2
    high = document(capsys, "solo", "demo:slack-tide", "--at", "Vamp", "--low", "C5")["lines"][0]
    assert min(note["midi"] for note in high["notes"]) >= 72
