"""What the Songbook view does: reads folders beside the window, searches, and opens songs."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, QPoint, Signal

from yellow_hinge.app.practice.standings import Standings, read_standings
from yellow_hinge.app.solving.book.finding import (
    BookReader,
    FoundSongs,
)
from yellow_hinge.app.solving.book.index import BookIndex
from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.songs.demo import put_book
from yellow_hinge.ui.book.tonight import TonightSet
from yellow_hinge.ui.book.view import NO_FOLDER, BookView
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.parts.shell import Shell


class BookRoom(QObject, Quiet):
    """Wires view and reader; `tonight` is the set."""

    came = Signal(object)
    known = Signal(object)

    def __init__(self, shell: Shell, view: BookView) -> None:
        super().__init__(view)
        self.shell, self.view = shell, view
        self.rows: tuple[SongRow, ...] = ()
        self.tonight = TonightSet(shell, view, lambda: self.rows)
        self.reader = BookReader(self.came.emit, "songbook", BookIndex(shell.state))
        self.knower: Newest[Standings] = Newest(self.known.emit, "standings")
        self.known.connect(self._knows)
        self.came.connect(self._arrived)
        view.seen.connect(self.read)
        view.searched.connect(lambda _: self.show())
        view.opened.connect(self.open_song)
        for button, do in ((view.folder, self.ask_folder), (view.open, self.open_song), (view.book, self.take_book)):
            button.clicked.connect(lambda _=False, do=do: do())

    @property
    def folder(self) -> Path | None:
        """The folder that is listed."""
        return self.tonight.folder

    # --- the songs ---
    def read(self) -> None:
        """Read the folder anew; what has not changed is known."""
        if self.folder is None:
            self.view.told.setText(NO_FOLDER)
            self.tonight.show()
            return
        self.view.told.setText("Reading…")
        more = [Path(name) for name in self.shell.preferences.settings.more_songs]
        self.reader.ask([self.folder, *(folder for folder in more if folder.is_dir() and folder != self.folder)])
        self.knower.put(lambda builder, number: read_standings(self.shell.open_log, number))
        self.tonight.read()

    def _arrived(self, found: FoundSongs | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number == self.reader.asked:
            self.rows = found.rows
            self.show(found.fault or ("" if found.whole else f"{len(found.rows)} songs so far…"))

    def _knows(self, found: Standings | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        self.view.listed.standings = found.of
        self.show(self.view.told.text())
        if self.tonight.row:
            self.tonight.tell()

    def show(self, words: str = "") -> None:
        """List the songs that are looked for."""
        wanted = self.view.search.text()
        found = [row for row in self.rows if row.has(wanted)]
        self.view.show_songs(found)
        self.view.told.setText(words or f"{len(found)} of {len(self.rows)} songs in {self.folder}")
        for button in (self.view.open, self.view.add):
            button.setEnabled(bool(found))

    def ask_folder(self) -> None:
        """Choose the folder."""
        found = self.shell.ask_folder()
        if found is not None:
            self.shell.preferences.put(songbook=str(found))
            self.tonight.before.clear()
            self.read()

    def ask_more(self) -> None:
        """List the songs of another folder too; one that is listed already is listed no more."""
        found = self.shell.ask_folder() if self.folder is not None else None
        if found is not None:
            more = self.shell.preferences.settings.more_songs
            without = tuple(name for name in more if name != str(found))
            self.shell.preferences.put(more_songs=without if without != more else (*more, str(found)))
            self.read()

    def take_book(self) -> None:
        """Put our own songs and an evening's set into a folder, and list that."""
        found = self.shell.ask_folder()
        if found is None:
            return
        try:
            put_book(found)
        except UserError as error:
            self.view.told.setText(str(error))
            return
        self.shell.preferences.put(songbook=str(found))
        self.tonight.before.clear()
        self.read()

    def open_song(self) -> None:
        """Open the song under the cursor."""
        song = self.view.song
        if song is not None:
            self.shell.open_song(Path(song.path))

    def step(self, by: int) -> None:
        """Up or down the songs."""
        self.view.go(self.view.table.currentIndex().row() + by)

    def ask_menu(self, at: QPoint) -> None:
        """Nothing has a menu here."""

    def close(self) -> None:
        """Read and solve no more."""
        self.reader.close()
        self.tonight.close()
        self.knower.close()
