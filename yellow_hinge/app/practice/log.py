"""The practice log: every run and what is remembered, in a local database that survives a crash at any moment."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

import msgspec

from yellow_hinge.app.practice.runs import FIELDS, INSERT, Run, run_values
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.practice.memory import read_card
from yellow_hinge.core.practice.standing import Standing, standing

NAME = "practice.sqlite"
VERSION = 1
_TABLES = """
CREATE TABLE runs (
    id INTEGER PRIMARY KEY, at TEXT NOT NULL, song TEXT NOT NULL, title TEXT NOT NULL, take TEXT NOT NULL,
    kind TEXT NOT NULL, item TEXT NOT NULL, first INTEGER NOT NULL, last INTEGER NOT NULL, words TEXT NOT NULL,
    key TEXT NOT NULL, hands TEXT NOT NULL, seconds REAL NOT NULL, octave INTEGER NOT NULL, extra INTEGER NOT NULL,
    missing INTEGER NOT NULL, sample INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX runs_at ON runs (at);
CREATE TABLE cards (song TEXT NOT NULL, item TEXT NOT NULL, card TEXT NOT NULL, PRIMARY KEY (song, item));
"""


# Faults of the database that pass by themselves, by what its message says.
_PASSING = {
    "locked": "another window is using it",
    "busy": "another window is using it",
    "full": "the disk is full",
    "I/O": "the disk cannot be written or read",
    "unable to open": "its file cannot be opened",
    "readonly": "its file cannot be written",
}


_MAGIC = b"SQLite format 3\0"


class BusyError(UserError):
    """The log cannot be written or read now: somebody else has it, or the disk is full. It may be tried again."""


class PracticeLog:
    """The log in a folder; `set_aside` says where a damaged one was put, `skipped` how many damaged rows were passed
    over. Each run is on disk when `add` returns. Raises BusyError where it cannot be used now, and UserError.
    """

    def __init__(self, folder: Path, patience: float = 5.0) -> None:
        self.path, self._patience = folder / NAME, patience
        self.set_aside: Path | None = None
        self.skipped = 0
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise UserError(f"the practice log cannot be kept in {folder} ({error.strerror or error})") from None
        with _told():
            try:
                if not _is_database(self.path):
                    self.set_aside = self._put_aside()  # before anything opens it, and takes away what lies beside it
                self._base = self._opened()
            except sqlite3.OperationalError:
                raise
            except sqlite3.DatabaseError:
                self.set_aside = self._put_aside()
                self._base = self._opened()

    def _put_aside(self) -> Path:
        """The damaged database with all that belongs to it under another name, which no earlier one has."""
        number, names = 1, ("", "-wal", "-shm")
        aside = self.path.with_suffix(".damaged")
        while any(Path(f"{aside}{rest}").exists() for rest in names):
            number += 1
            aside = self.path.with_suffix(f".damaged-{number}")
        for rest in names:
            if Path(f"{self.path}{rest}").exists():
                Path(f"{self.path}{rest}").replace(f"{aside}{rest}")
        return aside

    def _opened(self) -> sqlite3.Connection:
        base = sqlite3.connect(self.path, timeout=self._patience, isolation_level=None)
        try:
            self._prepare(base)
        except BaseException:
            base.close()
            raise
        return base

    def _prepare(self, base: sqlite3.Connection) -> None:
        base.execute("PRAGMA journal_mode = WAL")
        base.execute("PRAGMA synchronous = FULL")
        version = int(base.execute("PRAGMA user_version").fetchone()[0])
        if version > VERSION:
            raise UserError("the practice log was written by a newer version of the program")
        if version == 0:
            base.executescript(f"BEGIN; {_TABLES} PRAGMA user_version = {VERSION}; COMMIT;")
        elif base.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
            raise sqlite3.DatabaseError("damaged")

    @contextmanager
    def _at_once(self) -> Iterator[sqlite3.Connection]:
        """All of it or nothing."""
        with _told():
            self._base.execute("BEGIN IMMEDIATE")
            try:
                yield self._base
                self._base.execute("COMMIT")
            except BaseException:
                if self._base.in_transaction:
                    self._base.execute("ROLLBACK")
                raise

    def add(self, run: Run, card: str = "") -> None:
        """Keep a run, and the card of its item, both or neither."""
        with self._at_once() as base:
            base.execute(INSERT, run_values(run))
            if card:
                base.execute("INSERT OR REPLACE INTO cards VALUES (?, ?, ?)", (run.song, run.item, card))

    def count(self) -> int:
        """How many runs there are that somebody played."""
        with _told():
            return int(self._base.execute("SELECT count(*) FROM runs WHERE sample = 0").fetchone()[0])

    def runs(self, since: datetime | None = None, simulated: bool = False) -> list[Run]:
        """Every run, the first one first, from a time on where one is given; those of the simulated player are apart.
        Damaged rows are passed over and counted.
        """
        first = since.astimezone(UTC).isoformat(timespec="milliseconds") if since is not None else ""
        asked = f"SELECT {', '.join(FIELDS)} FROM runs WHERE at >= ? AND sample = ? ORDER BY at, id"
        with _told():
            rows = self._base.execute(asked, (first, int(simulated))).fetchall()
        found, self.skipped = [], 0
        for row in rows:
            fields = dict(zip(FIELDS, row, strict=True))
            try:
                found.append(msgspec.convert(fields | {"sample": bool(fields["sample"])}, Run))
            except msgspec.ValidationError:
                self.skipped += 1
        return found

    def cards(self, song: str, before: str = "") -> dict[str, str]:
        """The cards of a song's items; where it has none, those of what it was before it was saved. Damaged ones are
        passed over and counted.
        """
        asked = "SELECT item, card FROM cards WHERE song = ?"
        with _told():
            rows = self._base.execute(asked, (song,)).fetchall()
            rows = rows or (self._base.execute(asked, (before,)).fetchall() if before else [])
        found, self.skipped = {}, 0
        for item, card in rows:
            try:
                read_card(card)
                found[str(item)] = str(card)
            except UserError:
                self.skipped += 1
        return found

    def standings(self, now: datetime) -> dict[str, Standing]:
        """How every song stands at a time (with its zone), by what the log knows it by."""
        with _told():
            rows = self._base.execute("SELECT song, card FROM cards").fetchall()
            played = self._base.execute("SELECT song, max(at) FROM runs WHERE sample = 0 GROUP BY song").fetchall()
        cards, last = dict[str, list[str]](), {str(song): str(at) for song, at in played}
        for song, card in rows:
            cards.setdefault(str(song), []).append(str(card))
        return {song: standing(cards.get(song, ()), now, last.get(song, "")) for song in cards.keys() | last.keys()}

    def close(self) -> None:
        """Close the database."""
        self._base.close()


def _is_database(path: Path) -> bool:
    """Whether a file begins as a database does, or is not there yet."""
    try:
        with path.open("rb") as file:
            return file.read(len(_MAGIC)) in (b"", _MAGIC)
    except OSError:
        return True


@contextmanager
def _told() -> Iterator[None]:
    """Faults of the database as words. Raises BusyError for those that pass, else UserError."""
    try:
        yield
    except sqlite3.DatabaseError as error:
        words = str(error)
        passing = next((why for sign, why in _PASSING.items() if sign in words), None)
        if passing is None:
            raise UserError(f"the practice log is damaged ({words})") from None
        raise BusyError(f"the practice log cannot be used now: {passing}") from None
