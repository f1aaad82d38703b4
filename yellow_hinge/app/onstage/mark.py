"""Where a player is on stage, kept at every turn: after a crash the program is on stage again, at the same line."""

from __future__ import annotations

import contextlib
from pathlib import Path

import msgspec

from yellow_hinge.app.edits.state import State, file_of
from yellow_hinge.app.keeping.settings import ONSTAGE
from yellow_hinge.app.solving.book.sets import SetSong, SongSet
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.files import read_bytes, write_atomic
from yellow_hinge.io.songs.song_json import to_json

SONG, LARGEST = "onstage.hinge", 1 << 20


class Mark(msgspec.Struct, frozen=True):
    """Tonight's songs as they are played, the folder they lie in, which one is on, and its line."""

    songs: SongSet
    folder: str
    at: int = 0
    line: int = 0


class StageMark:
    """The file of the mark, in the folder of what the program keeps for itself."""

    def __init__(self, folder: Path, own: State | None = None) -> None:
        self.folder, self._own = folder, own

    @property
    def song(self) -> SetSong:
        """How a set asks for the open song, which is kept beside the mark."""
        return SetSong(path=str(self.folder / SONG))

    def put(self, mark: Mark) -> None:
        """Remember where one is, and first the open song as it is; on stage nothing is said of a disk that is full."""
        with contextlib.suppress(UserError):
            if self._own is not None:
                write_atomic(self.folder / SONG, to_json(file_of(self._own)))
                self._own = None
            write_atomic(self.folder / ONSTAGE, msgspec.json.encode(mark))

    def read(self) -> Mark | None:
        """Where one was when the program ended on stage; None where it did not."""
        try:
            found: Mark = msgspec.json.decode(read_bytes(self.folder / ONSTAGE, LARGEST), type=Mark)
        except (UserError, msgspec.ValidationError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
            return None
        return found if 0 <= found.at < len(found.songs.songs) and found.line >= 0 else None

    def clear(self) -> None:
        """The stage was left."""
        with contextlib.suppress(OSError):
            (self.folder / ONSTAGE).unlink(missing_ok=True)
