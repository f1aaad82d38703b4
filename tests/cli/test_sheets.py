"""Sheets and twelve keys from the command line, without a display."""

import json
import os
import subprocess
import sys

import pypdf
import pytest

from yellow_hinge.cli.main import main

CHART = "title: T\nkey: C\n[Verse]\n| C | Am7 | Dm9 G13 | C |\n"


@pytest.fixture
def song(tmp_path):
    path = tmp_path / "song.chart"
    path.write_text(CHART)
    return path


def test_sheets_are_written_by_their_ending_in_another_key(song, tmp_path, capsys):
    for ending in ("pdf", "svg", "png", "musicxml"):
        target = tmp_path / f"out.{ending}"
        assert main(["export", str(song), "--to", str(target), "--in-key", "Eb", "--sounds-in", "F"]) == 0
        assert target.exists()
    words = pypdf.PdfReader(tmp_path / "out.pdf").pages[0].extract_text()
    assert "Cm7" in words
    assert "transpose set to +2" in words
    assert "<fifths>-3</fifths>" in (tmp_path / "out.musicxml").read_text()
    assert song.read_text() == CHART


def test_several_pages_are_files_of_their_own(song, tmp_path, capsys):
    song.write_text("[A]\n| " + " | ".join(["C F G Am"] * 30) + " |\n")
    assert main(["export", str(song), "--to", str(tmp_path / "p.svg"), "--size", "stage", "--json"]) == 0
    files = json.loads(capsys.readouterr().out)["files"]
    assert len(files) > 2
    assert files[0].endswith("p-1.svg")
    assert all(os.path.exists(file) for file in files)
    assert not (tmp_path / "p.svg").exists()
    assert main(["export", str(song), "--to", str(tmp_path / "p.svg"), "--size", "stage"]) == 0  # over its own files


def test_twelve_keys_as_json_text_and_page(song, tmp_path, capsys):
    assert main(["keys", str(song), "--at", "Verse:2", "--to", "Verse:3", "--json"]) == 0
    keys = json.loads(capsys.readouterr().out)["keys"]
    assert [row["key"] for row in keys][:3] == ["C major", "F major", "Bb major"]
    assert [[v["symbol"] for v in row["voicings"]] for row in keys][1] == ["Dm7", "Gm9", "C13"]
    assert all(row["motion"] == sum_of(row) for row in keys)
    assert main(["keys", str(song), "--at", "Verse:2:1", "--out", str(tmp_path / "k.pdf")]) == 0
    assert "G♯m7" not in pypdf.PdfReader(tmp_path / "k.pdf").pages[0].extract_text()
    assert "Dm7" in pypdf.PdfReader(tmp_path / "k.pdf").pages[0].extract_text()
    assert main(["keys", str(song), "--at", "Verse:2:1", "--out", str(tmp_path / "k.doc")]) == 2
    assert main(["keys", str(song), "--at", "Refrain"]) == 2


def sum_of(row):
    """The motion of a row of voicings whose hands all have the same number of notes, else what it says."""
    total = 0
    for one, other in zip(row["voicings"], row["voicings"][1:], strict=False):
        for hand in ("left", "right"):
            if len(one[hand]) != len(other[hand]):
                return row["motion"]
            total += sum(abs(a - b) for a, b in zip(one[hand], other[hand], strict=True))
    return total


def test_no_display_and_no_widgets_are_needed(song, tmp_path):
    code = (
        "import sys\nfrom yellow_hinge.cli.main import main\n"
        f"status = main(['export', {str(song)!r}, '--to', {str(tmp_path / 'x.pdf')!r}, '--sheet', 'staves'])\n"
        "assert 'PySide6.QtWidgets' not in sys.modules\nsys.exit(status)\n"
    )
    lean = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    done = subprocess.run([sys.executable, "-c", code], env=lean, capture_output=True, text=True, timeout=300)
    assert done.returncode == 0, done.stderr
    assert (tmp_path / "x.pdf").read_bytes().startswith(b"%PDF")
