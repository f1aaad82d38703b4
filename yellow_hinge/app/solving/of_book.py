"""The songs of folders, and how a set is played, read beside the interface."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.app.solving.sets import Join, SongSet, Tonight, evening, joins, set_pages
from yellow_hinge.app.solving.songbook import SongRow, by_title, song_paths, song_row
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.formats import page_bytes

AT_ONCE = 25  # songs that are told together


class FoundSongs(NamedTuple):
    """Songs of the folders that were read so far; `whole`: all of them. `fault` says why there are none."""

    number: int
    rows: tuple[SongRow, ...]
    whole: bool
    fault: str = ""


class BookReader(Newest[FoundSongs]):
    """Reads folders; a file that has not changed since is not read again."""

    def __init__(self, tell: object, name: str) -> None:
        super().__init__(tell, name)  # type: ignore[arg-type]
        self._known: dict[str, tuple[tuple[int, int], SongRow]] = {}

    def ask(self, folders: Sequence[Path]) -> int:
        """Read the songs of some folders; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundSongs:
            rows: list[SongRow] = []
            try:
                for path in song_paths(folders):
                    if builder.overtaken():
                        raise OvertakenError
                    rows.append(self._row(path))
                    if len(rows) % AT_ONCE == 0:
                        self._tell(FoundSongs(number, tuple(rows), False))
            except UserError as error:
                return FoundSongs(number, tuple(rows), True, str(error))
            return FoundSongs(number, tuple(by_title(rows)), True)

        return self.put(work)

    def _row(self, path: Path) -> SongRow:
        try:
            there = path.stat()
        except OSError:
            return song_row(path)
        changed = (there.st_mtime_ns, there.st_size)
        known = self._known.get(str(path))
        if known is None or known[0] != changed:
            known = self._known[str(path)] = (changed, song_row(path))
        return known[1]


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


class EveningFinder(Newest[FoundEvening | FoundPdf]):
    """Solves the songs of a set, and prints it."""

    def ask(self, songs: SongSet, folder: Path) -> int:
        """Put a set to the worker; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundEvening:
            def going(count: int) -> None:
                if builder.overtaken():
                    raise OvertakenError

            row = evening(songs, folder, going)
            return FoundEvening(number, songs, tuple(row), tuple(joins(row)))

        return self.put(work)

    def ask_pdf(self, songs: SongSet, row: Sequence[Tonight], ask: SheetAsk) -> int:
        """Have the sheets of a set made as one PDF; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundPdf:
            pages = set_pages(songs, row, ask)
            made = page_bytes(".pdf", pages, songs.title, lambda share: builder.overtaken())
            return FoundPdf(number, made if isinstance(made, bytes) else b"", len(pages))

        return self.put(work)
