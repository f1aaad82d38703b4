"""The practice log: every run and what is remembered, in a local database that survives a crash at any moment."""

from __future__ import annotations

import csv
import io
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

import msgspec

from yellow_hinge.core.errors import UserError

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


class Run(msgspec.Struct, frozen=True):
    """One chord that was played: when (UTC), in which song and take, what of it (a "hinge", a "drill" or a "bass"), the
    ids of the slots it leads from and to, in words, in which key, with which hands, the seconds until it sounded, and
    the keys that were wrong. `sample`: made up, and said to be.
    """

    at: datetime
    song: str
    title: str
    take: str
    kind: str
    item: str
    first: int
    last: int
    words: str
    key: str
    hands: str
    seconds: float
    octave: int = 0
    extra: int = 0
    missing: int = 0
    sample: bool = False

    @property
    def errors(self) -> int:
        """How many keys were wrong."""
        return self.octave + self.extra + self.missing


_FIELDS = Run.__struct_fields__
_INSERT = f"INSERT INTO runs ({', '.join(_FIELDS)}) VALUES ({', '.join('?' * len(_FIELDS))})"


def _values(run: Run) -> list[object]:
    values = [getattr(run, name) for name in _FIELDS]
    values[_FIELDS.index("at")] = run.at.astimezone(UTC).isoformat(timespec="milliseconds")
    return values


class PracticeLog:
    """The log in a folder; `set_aside` says where a damaged one was put. Each run is on disk when `add` returns."""

    def __init__(self, folder: Path) -> None:
        self.path = folder / NAME
        self.set_aside: Path | None = None
        try:
            folder.mkdir(parents=True, exist_ok=True)
            self._base = self._opened()
        except sqlite3.DatabaseError:
            self.set_aside = self.path.with_suffix(".damaged")
            self.path.replace(self.set_aside)
            for rest in ("-wal", "-shm"):
                Path(f"{self.path}{rest}").unlink(missing_ok=True)
            self._base = self._opened()
        except OSError as error:
            raise UserError(f"the practice log cannot be kept in {folder} ({error.strerror or error})") from None

    def _opened(self) -> sqlite3.Connection:
        base = sqlite3.connect(self.path, timeout=5.0, isolation_level=None)
        base.execute("PRAGMA journal_mode = WAL")
        base.execute("PRAGMA synchronous = FULL")
        version = int(base.execute("PRAGMA user_version").fetchone()[0])
        if version > VERSION:
            base.close()
            raise UserError("the practice log was written by a newer version of the program")
        if version == 0:
            base.executescript(f"BEGIN; {_TABLES} PRAGMA user_version = {VERSION}; COMMIT;")
        elif base.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
            raise sqlite3.DatabaseError("damaged")
        return base

    @contextmanager
    def _at_once(self) -> Iterator[sqlite3.Connection]:
        """All of it or nothing."""
        self._base.execute("BEGIN IMMEDIATE")
        try:
            yield self._base
        except BaseException:
            self._base.execute("ROLLBACK")
            raise
        self._base.execute("COMMIT")

    def add(self, run: Run, card: str = "") -> None:
        """Keep a run, and the card of its item, both or neither."""
        with self._at_once() as base:
            base.execute(_INSERT, _values(run))
            if card:
                base.execute("INSERT OR REPLACE INTO cards VALUES (?, ?, ?)", (run.song, run.item, card))

    def count(self) -> int:
        """How many runs there are."""
        return int(self._base.execute("SELECT count(*) FROM runs").fetchone()[0])

    def runs(self, since: datetime | None = None) -> list[Run]:
        """Every run, the first one first; from a time on where one is given."""
        first = since.astimezone(UTC).isoformat(timespec="milliseconds") if since is not None else ""
        rows = self._base.execute(f"SELECT {', '.join(_FIELDS)} FROM runs WHERE at >= ? ORDER BY at, id", (first,))
        made = [dict(zip(_FIELDS, row, strict=True)) for row in rows]
        return [msgspec.convert(each | {"sample": bool(each["sample"])}, Run) for each in made]

    def cards(self, song: str) -> dict[str, str]:
        """The cards of a song's items."""
        return dict(self._base.execute("SELECT item, card FROM cards WHERE song = ?", (song,)).fetchall())

    def close(self) -> None:
        """Close the database."""
        self._base.close()


def as_fields(run: Run) -> dict[str, object]:
    """A run for tables and JSON."""
    found = {name: getattr(run, name) for name in _FIELDS}
    return found | {"at": run.at.isoformat(timespec="milliseconds"), "errors": run.errors}


def log_csv(runs: list[Run]) -> str:
    """The runs as a table."""
    out = io.StringIO()
    writer = csv.DictWriter(out, [*_FIELDS, "errors"], lineterminator="\n")
    writer.writeheader()
    writer.writerows(as_fields(run) for run in runs)
    return out.getvalue()
