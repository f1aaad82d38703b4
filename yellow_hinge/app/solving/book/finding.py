"""The songs of folders, and how a set is played, read beside the interface."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from time import monotonic
from typing import NamedTuple

from yellow_hinge.app.solving.book.index import BookIndex, Known
from yellow_hinge.app.solving.book.sets import (
    Join,
    Played,
    SetSong,
    SongSet,
    Tonight,
    beside,
    evening,
    joins,
    set_pages,
    write_songs,
)
from yellow_hinge.app.solving.book.songbook import SongRow, by_title, song_paths, song_row
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.formats import page_bytes

EVERY = 0.5  # seconds after which the songs that were read so far are told


class FoundSongs(NamedTuple):
    """Songs of the folders that were read so far; `whole`: all of them. `fault` says why there are none."""

    number: int
    rows: tuple[SongRow, ...]
    whole: bool
    fault: str = ""


class BookReader(Newest[FoundSongs]):
    """Reads folders; a file that has not changed since is not read again."""

    def __init__(self, tell: Callable[[FoundSongs | Bug], None], name: str, index: BookIndex) -> None:
        super().__init__(tell, name)
        self._index = index
        self._known: dict[str, Known] | None = None  # None before it is first asked
        self._new: list[str] = []  # paths of what the index does not know yet

    def ask(self, folders: Sequence[Path]) -> int:
        """Read the songs of some folders; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundSongs:
            known = self._known = self._index.known() if self._known is None else self._known
            rows, told = list[SongRow](), monotonic()
            try:
                for path in song_paths(folders):
                    if builder.overtaken():
                        raise OvertakenError
                    rows.append(self._row(path, known))
                    if monotonic() - told > EVERY:
                        self._tell(FoundSongs(number, tuple(rows), False))
                        self._keep(known)
                        told = monotonic()
            except UserError as error:
                return FoundSongs(number, tuple(rows), True, str(error))
            self._keep(known)
            self._forget(known, folders, {row.path for row in rows})
            return FoundSongs(number, tuple(by_title(rows)), True)

        return self.put(work)

    def _keep(self, known: dict[str, Known]) -> None:
        """Put what is new into the index."""
        if self._new:
            self._index.keep((path, known[path]) for path in self._new)
            self._new.clear()

    def _forget(self, known: dict[str, Known], folders: Sequence[Path], there: set[str]) -> None:
        """Know nothing more of the files of some folders that are gone."""
        gone = [path for path in known if path not in there and any(map(Path(path).is_relative_to, folders))]
        for path in gone:
            del known[path]
        if gone:
            self._index.forget(gone)

    def _row(self, path: Path, known: dict[str, Known]) -> SongRow:
        try:
            there = path.stat()
        except OSError:
            return song_row(path)
        changed = (there.st_mtime_ns, there.st_size)
        own = known.get(str(path))
        if own is None or own[0] != changed:
            own = known[str(path)] = (changed, song_row(path))
            self._new.append(str(path))
        return own[1]


class FoundEvening(NamedTuple):
    """A set as it is played, and the joins from song to song."""

    number: int
    songs: SongSet
    row: tuple[Tonight, ...]
    joins: tuple[Join, ...]


class FoundPdf(NamedTuple):
    """The sheets of a set as one file, and how many pages it has."""

    number: int
    data: bytes
    pages: int


class FoundSong(NamedTuple):
    """A file as a song of a set, or why it is none."""

    number: int
    song: SetSong | None
    fault: str = ""


class GoesOn(NamedTuple):
    """How much of what was asked is done, 0 to 1."""

    number: int
    share: float


class FoundFiles(NamedTuple):
    """How many songs of a set were written as files, or why that was not done."""

    number: int
    written: int
    fault: str = ""


FoundOfSet = FoundEvening | FoundPdf | FoundFiles | FoundSong | GoesOn


class EveningFinder(Newest[FoundOfSet]):
    """Solves the songs of a set, prints it, and writes its songs."""

    def __init__(self, tell: Callable[[FoundOfSet | Bug], None], name: str) -> None:
        super().__init__(tell, name)
        self._known: Played = {}

    def ask(self, songs: SongSet, folder: Path) -> int:
        """Put a set to the worker; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundEvening:
            def going(count: int) -> None:
                if builder.overtaken():
                    raise OvertakenError

            row = evening(songs, folder, going, self._known)
            return FoundEvening(number, songs, tuple(row), tuple(joins(row)))

        return self.put(work)

    def ask_pdf(self, songs: SongSet, row: Sequence[Tonight], ask: SheetAsk) -> int:
        """Have the sheets of a set made as one PDF; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundPdf:
            def told(share: float) -> bool:
                self._tell(GoesOn(number, share))
                return bool(builder.overtaken())

            pages = set_pages(songs, row, ask)
            made = page_bytes(".pdf", pages, songs.title, told)
            return FoundPdf(number, made if isinstance(made, bytes) else b"", len(pages))

        return self.put(work)

    def ask_files(self, row: Sequence[Tonight], folder: Path, kind: str) -> int:
        """Have the songs of a set written as files of a kind; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundFiles:
            def going(count: int) -> None:
                self._tell(GoesOn(number, (count - 1) / len(row)))
                if builder.overtaken():
                    raise OvertakenError

            try:
                return FoundFiles(number, write_songs(row, folder, kind, going))
            except UserError as error:
                return FoundFiles(number, 0, str(error))

        return self.put(work)

    def ask_song(self, path: Path, folder: Path) -> int:
        """Have a file read as a song of a set in a folder; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundSong:
            row = song_row(path)
            song = SetSong(row.id, beside(path, folder)) if row.read else None
            return FoundSong(number, song, row.problem or "")

        return self.put(work)
