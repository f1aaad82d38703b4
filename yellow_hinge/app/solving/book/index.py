"""What was read of the songs of folders, kept so that thousands of them are there at the next start. It is made anew
when it is deleted, damaged or of another version; songs are never written by it.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path
from time import sleep

import msgspec

from yellow_hinge import __version__
from yellow_hinge.app.solving.book.songbook import SongRow

NAME = "songbook.sqlite"
PATIENCE, TRIES = 2.0, 50  # seconds that another window is waited for, and how often it is tried then
_TABLE = "CREATE TABLE IF NOT EXISTS songs (path TEXT PRIMARY KEY, made TEXT, changed INTEGER, size INTEGER, row BLOB)"
_PUT = "INSERT OR REPLACE INTO songs VALUES (?, ?, ?, ?, ?)"

Known = tuple[tuple[int, int], SongRow]  # (when it changed in nanoseconds, its size in bytes), and the song


class BookIndex:
    """The index in a folder. What cannot be kept or read again is read from the songs: nothing is raised."""

    def __init__(self, folder: Path) -> None:
        self.path = folder / NAME

    def known(self) -> dict[str, Known]:
        """What this version of the program read of files, by their paths."""
        try:
            return self._read()
        except sqlite3.OperationalError:  # another window has it, or there is no room
            return {}
        except (sqlite3.DatabaseError, msgspec.MsgspecError, UnicodeDecodeError):
            self._drop()
            return {}
        except OSError:
            return {}

    def keep(self, songs: Iterable[tuple[str, Known]]) -> None:
        """Keep what was read of some files."""
        rows = [(path, __version__, *at, msgspec.json.encode(row)) for path, (at, row) in songs]
        try:
            with closing(self._opened()) as base, base:
                base.executemany(_PUT, rows)
        except (sqlite3.Error, OSError):
            return

    def forget(self, paths: Iterable[str]) -> None:
        """Keep nothing of files that are gone."""
        try:
            with closing(self._opened()) as base, base:
                base.executemany("DELETE FROM songs WHERE path = ?", [(path,) for path in paths])
        except (sqlite3.Error, OSError):
            return

    def _opened(self) -> sqlite3.Connection:
        self.path.parent.mkdir(parents=True, exist_ok=True)
        base = sqlite3.connect(self.path, timeout=PATIENCE)
        for left in range(TRIES, -1, -1):
            try:
                base.execute("PRAGMA journal_mode = WAL")
                break
            except sqlite3.OperationalError:  # another window makes it just now, which the timeout does not wait for
                if not left:
                    base.close()
                    raise
                sleep(PATIENCE / TRIES)
        base.execute(_TABLE)
        return base

    def _read(self) -> dict[str, Known]:
        with closing(self._opened()) as base:
            rows = base.execute("SELECT path, changed, size, row FROM songs WHERE made = ?", (__version__,))
            decoder = msgspec.json.Decoder(SongRow)
            return {path: ((changed, size), decoder.decode(row)) for path, changed, size, row in rows}

    def _drop(self) -> None:
        for rest in ("", "-wal", "-shm"):
            try:
                Path(f"{self.path}{rest}").unlink(missing_ok=True)
            except OSError:
                return
