"""The practice log: what was played is there, whatever happens."""

import csv
import io
import sqlite3
import subprocess
import sys
from datetime import UTC, datetime, timedelta

import pytest

from yellow_hinge.app.log_keeper import Kept, LogKeeper
from yellow_hinge.app.practice_log import NAME, PracticeLog, Run, log_csv
from yellow_hinge.core.errors import UserError

NOW = datetime(2026, 5, 1, 12, tzinfo=UTC)


def run(n=0, **fields):
    made = {"song": "s", "title": "Song", "take": "Take 1", "kind": "hinge", "item": f"i{n}", "first": n, "last": n + 1,
            "words": "C to F", "key": "C major", "hands": "both", "seconds": 1.5}  # fmt: skip
    return Run(NOW + timedelta(seconds=n), **made | fields)


def test_runs_and_cards_come_back_and_are_a_table(tmp_path):
    log = PracticeLog(tmp_path)
    log.add(run(0, extra=2, missing=1), "card 0")
    log.add(run(1), "card 1")
    log.add(run(1), "card 2")
    log.add(run(5, song="other"), "card")
    log.close()
    log = PracticeLog(tmp_path)
    assert log.count() == 4
    assert log.runs() == [run(0, extra=2, missing=1), run(1), run(1), run(5, song="other")]
    assert log.runs(NOW + timedelta(seconds=1)) == log.runs()[1:]
    assert log.cards("s") == {"i0": "card 0", "i1": "card 2"}
    assert log.cards("other") == {"i5": "card"}
    rows = list(csv.DictReader(io.StringIO(log_csv(log.runs()))))
    assert [row["errors"] for row in rows if row["song"] == "s"] == ["3", "0", "0"]


def test_a_run_and_its_card_are_kept_both_or_neither(tmp_path, monkeypatch):
    log = PracticeLog(tmp_path)
    log._base.execute("DROP TABLE cards")
    with pytest.raises(sqlite3.OperationalError):
        log.add(run(0), "card")
    assert log.runs() == []


@pytest.mark.parametrize("damage", [b"no database", b"SQLite format 3\x00" + b"\xff" * 4000])
def test_a_damaged_log_is_set_aside(tmp_path, damage):
    (tmp_path / NAME).write_bytes(damage)
    log = PracticeLog(tmp_path)
    assert log.set_aside.read_bytes() == damage
    log.add(run(0))
    assert len(log.runs()) == 1


def test_a_newer_log_and_a_folder_that_cannot_be_are_told(tmp_path):
    PracticeLog(tmp_path).close()
    base = sqlite3.connect(tmp_path / NAME)
    base.execute("PRAGMA user_version = 99")
    base.close()
    with pytest.raises(UserError, match="newer"):
        PracticeLog(tmp_path)
    (tmp_path / "file").write_text("x")
    with pytest.raises(UserError, match="cannot be kept"):
        PracticeLog(tmp_path / "file")


WRITER = """
import sys
from pathlib import Path
from tests.app.test_practice_log import run
from yellow_hinge.app.practice_log import PracticeLog
log = PracticeLog(Path(sys.argv[1]))
for n in range(100000):
    log.add(run(n), f"card {n}")
    print(n, flush=True)
"""


def test_nothing_that_was_said_to_be_kept_is_lost_by_a_kill(tmp_path):
    for _ in range(4):
        writer = subprocess.Popen([sys.executable, "-c", WRITER, str(tmp_path)], stdout=subprocess.PIPE, text=True)
        said = [int(writer.stdout.readline()) for _ in range(7)]
        writer.kill()
        said += [int(line) for line in writer.communicate()[0].split()]
        log = PracticeLog(tmp_path)
        assert log.set_aside is None
        kept = [r.first for r in log.runs()]
        cards = log.cards("s")
        assert set(said) <= set(kept)
        assert all(f"i{n}" in cards for n in kept)
        log.close()


def test_the_keeper_writes_and_reads_in_order_beside_the_interface_and_tells_faults(tmp_path):
    told = []
    keeper = LogKeeper(lambda: PracticeLog(tmp_path), told.append)
    for n in range(5):
        keeper.ask("kept", lambda log, n=n: log.add(run(n), f"card {n}"))
    keeper.ask("runs", lambda log: (log.count(), log.cards("s")))
    keeper.close()
    assert told[-1] == Kept("runs", (5, {f"i{n}": f"card {n}" for n in range(5)}))
    keeper.ask("runs", lambda log: log.count())  # opened again
    keeper.close()
    assert told[-1].found == 5

    def refuse():
        raise UserError("no room")

    told.clear()
    keeper = LogKeeper(refuse, told.append)
    keeper.ask("cards", lambda log: log.cards("s"))
    keeper.close()
    assert told == [Kept("cards", None, "no room")]
