"""The verbs `drill` and `log`."""

import json
from datetime import UTC, datetime

from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.cli.answers import practice
from yellow_hinge.cli.main import main


def words(capsys, *args):
    assert main([*args]) == 0
    return capsys.readouterr().out


def test_a_stretch_of_a_song_is_drilled_and_text_is_printed(capsys):
    found = words(capsys, "drill", "demo:last-boat-to-marrow", "--at", "Verse:1", "--to", "Verse:2")
    assert found.startswith("E major\n  E ")
    assert found.count("\n") == 36


def test_the_log_is_json_table_and_lines(capsys, tmp_path, monkeypatch):
    monkeypatch.setattr(practice, "user_places", lambda: Places(tmp_path, tmp_path))
    assert "nothing was practised" in words(capsys, "log")
    log = PracticeLog(tmp_path)
    at = datetime(2026, 5, 1, 12, tzinfo=UTC)
    log.add(Run(at, "s", "Song", "Take 1", "hinge", "i", 1, 2, "C to F", "C major", "both", 1.25, extra=1))
    log.close()
    assert json.loads(words(capsys, "log", "--json"))["runs"][0]["errors"] == 1
    assert words(capsys, "log", "--csv").splitlines()[1].startswith("2026-05-01T12:00:00.000+00:00,s,Song")
    assert "C to F  both  1.2 s  1 wrong" in words(capsys, "log")
