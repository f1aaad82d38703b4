"""The practice log: what was played is there, whatever happens."""

import sqlite3
import subprocess
import sys
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from yellow_hinge.app.practice import log_keeper
from yellow_hinge.app.practice.log import NAME, BusyError, PracticeLog
from yellow_hinge.app.practice.log_keeper import LogAnswer, LogKeeper
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.practice.marking import Mark
from yellow_hinge.core.practice.memory import reviewed

NOW = datetime(2026, 5, 1, 12, tzinfo=UTC)


def run(n=0, **fields):
    made = {"song": "s", "title": "Song", "take": "Take 1", "kind": "hinge", "item": f"i{n}", "first": n, "last": n + 1,
            "words": "C to F", "key": "C major", "hands": "both", "seconds": 1.5}  # fmt: skip
    return Run(NOW + timedelta(seconds=n), **made | fields)


def card(n):
    return reviewed("", f"i{n}", Mark(1.0 + n), NOW)


def test_a_run_and_its_card_are_kept_both_or_neither(tmp_path, monkeypatch):
    log = PracticeLog(tmp_path)
    log._base.execute("DROP TABLE cards")
    with pytest.raises(UserError, match="damaged"):
        log.add(run(0), card(5))
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
from tests.app.test_practice_log import card, run
from yellow_hinge.app.practice.log import PracticeLog
log = PracticeLog(Path(sys.argv[1]))
for n in range(100000):
    log.add(run(n), card(n % 9))
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
        keeper.ask("kept", lambda log, n=n: log.add(run(n), card(n)))
    keeper.ask("runs", lambda log: (log.count(), log.cards("s")))
    keeper.close()
    assert told[-1] == LogAnswer("runs", (5, {f"i{n}": card(n) for n in range(5)}))
    keeper.ask("runs", lambda log: log.count())  # opened again
    keeper.close()
    assert told[-1].found == 5

    def refuse():
        raise UserError("no room")

    told.clear()
    keeper = LogKeeper(refuse, told.append)
    keeper.ask("cards", lambda log: log.cards("s"))
    keeper.close()
    assert told == [LogAnswer("cards", None, "no room")]


def test_a_log_that_another_window_holds_is_waited_for_and_not_set_aside(tmp_path):
    PracticeLog(tmp_path).close()
    other = sqlite3.connect(tmp_path / NAME, isolation_level=None)
    other.execute("BEGIN EXCLUSIVE")
    with pytest.raises(BusyError, match="another window"):
        PracticeLog(tmp_path, patience=0.01).add(run(0))
    told = []
    keeper = LogKeeper(lambda: PracticeLog(tmp_path, patience=0.01), told.append, pause=0.01)
    keeper.ask("kept", lambda log: log.add(run(1)))
    while not told:
        time.sleep(0.005)
    assert told[0].name == "waits"
    other.execute("ROLLBACK")
    other.close()
    keeper.close()
    assert [kept.name for kept in told] == ["waits", "kept"]
    assert not list(tmp_path.glob("*damaged*"))
    assert len(PracticeLog(tmp_path).runs()) == 1


def test_what_cannot_be_written_for_a_while_is_written_later_in_its_order(tmp_path):
    full, told = [True], []

    def work(n):
        def add(log):
            if full[0]:
                raise BusyError("the disk is full")
            log.add(run(n), card(n))

        return add

    keeper = LogKeeper(lambda: PracticeLog(tmp_path), told.append, pause=0.01)
    for n in range(13):
        keeper.ask("kept", work(n))
    while not told:
        time.sleep(0.005)
    assert (told[0].name, keeper.waiting) == ("waits", 13)
    full[0] = False
    keeper.close()
    assert [kept.name for kept in told] == ["waits"] + ["kept"] * 13
    assert [r.first for r in PracticeLog(tmp_path).runs()] == list(range(13))


def test_a_bug_in_one_question_does_not_end_the_thread(tmp_path, monkeypatch):
    said, told = [], []
    monkeypatch.setattr(log_keeper, "bug", said.append)
    keeper = LogKeeper(lambda: PracticeLog(tmp_path), told.append)
    keeper.ask("wrong", lambda log: 1 / 0)
    keeper.ask("kept", lambda log: log.add(run(0)))
    keeper.close()
    assert "ZeroDivisionError" in said[0]
    assert [(kept.name, bool(kept.fault)) for kept in told] == [("wrong", True), ("kept", False)]


def test_what_cannot_be_written_at_the_end_is_said(tmp_path):
    def refuse(log):
        raise BusyError("the disk is full")

    told = []
    keeper = LogKeeper(lambda: PracticeLog(tmp_path), told.append, pause=0.001)
    keeper.ask("kept", refuse)
    keeper.close()
    assert told[-1].name == "lost"


def test_a_second_damage_keeps_the_first_and_its_unfinished_business(tmp_path):
    for damage in (b"first", b"second"):
        (tmp_path / NAME).write_bytes(damage)
        Path(f"{tmp_path / NAME}-wal").write_bytes(b"wal of " + damage)
        log = PracticeLog(tmp_path)
        assert log.set_aside.read_bytes() == damage
        assert Path(f"{log.set_aside}-wal").read_bytes() == b"wal of " + damage
        log.close()
    assert len([p for p in tmp_path.glob("*damaged*") if not p.name.endswith(("-wal", "-shm"))]) == 2


def test_damaged_rows_and_cards_are_passed_over_and_counted(tmp_path):
    log = PracticeLog(tmp_path)
    for n in range(3):
        log.add(run(n), card(n))
    log._base.execute("UPDATE runs SET at = 'yesterday' WHERE first = 1")
    log._base.execute("UPDATE cards SET card = '{}' WHERE item = 'i2'")
    assert [r.first for r in log.runs()] == [0, 2]
    assert log.skipped == 1
    assert set(log.cards("s")) == {"i0", "i1"}
    assert log.skipped == 1


def test_what_the_simulated_player_did_is_apart(tmp_path):
    log = PracticeLog(tmp_path)
    log.add(run(0))
    log.add(run(1, sample=True))
    assert (log.count(), [r.first for r in log.runs()], [r.first for r in log.runs(simulated=True)]) == (1, [0], [1])


def test_a_song_has_its_own_cards_else_those_of_what_it_was_before(tmp_path):
    log = PracticeLog(tmp_path)
    log.add(run(0, song="file:abc"), card(0))
    log.add(run(1, song="another"), card(1))
    assert log.cards("own") == {}
    assert log.cards("own", "file:abc") == {"i0": card(0)}
    log.add(run(2, song="own"), card(2))
    assert log.cards("own", "file:abc") == {"i2": card(2)}
    log.close()
