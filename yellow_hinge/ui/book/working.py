"""What the Songbook view does: reads folders beside the window, searches, opens songs, keeps tonight's set."""

from __future__ import annotations

from pathlib import Path

import msgspec
from PySide6.QtCore import QObject, QPoint, Signal

from yellow_hinge.app.solving.book.finding import BookReader, EveningFinder, FoundEvening, FoundPdf, FoundSongs
from yellow_hinge.app.solving.book.index import BookIndex
from yellow_hinge.app.solving.book.sets import ENDING, SetSong, SongSet, Tonight, beside, check, read_set, write_set
from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.io.files import write_atomic
from yellow_hinge.ui.book.model import clock
from yellow_hinge.ui.book.view import NO_FOLDER, BookView
from yellow_hinge.ui.paint.rows import Row, fill_rows
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.parts.shell import Shell

NAME = f"tonight{ENDING}"
EMPTY = "Insert puts the song of the list here."


class BookRoom(QObject, Quiet):
    """Wires view, reader and set."""

    came = Signal(object)
    solved = Signal(object)

    def __init__(self, shell: Shell, view: BookView) -> None:
        super().__init__(view)
        self.shell, self.view = shell, view
        self.rows: tuple[SongRow, ...] = ()
        self.songs = SongSet()
        self.row: tuple[Tonight, ...] = ()
        self.before: list[SongSet] = []  # sets before the last changes, the newest last
        self.reader = BookReader(self.came.emit, "songbook", BookIndex(shell.state))
        self.finder = EveningFinder(self.solved.emit, "evening")
        self.came.connect(self._arrived)
        self.solved.connect(self._played)
        view.seen.connect(self.read)
        view.searched.connect(lambda _: self.show())
        view.opened.connect(self.open_song)
        for button, do in (
            (view.folder, self.ask_folder), (view.open, self.open_song), (view.add, self.add), (view.drop, self.drop),
            (view.key, self.ask_key), (view.take, self.ask_take), (view.note, self.ask_note),
            (view.print, self.print_set), (view.back, self.back), (view.stage, self.on_stage),
        ):  # fmt: skip
            button.clicked.connect(lambda _=False, do=do: do())

    @property
    def folder(self) -> Path | None:
        """The folder that is listed, which the set lies in."""
        name = self.shell.preferences.settings.songbook
        return Path(name) if name else None

    @property
    def path(self) -> Path | None:
        """The file of the set."""
        return self.folder / NAME if self.folder is not None else None

    # --- the songs ---
    def read(self) -> None:
        """Read the folder anew; what has not changed is known."""
        if self.folder is None:
            self.view.told.setText(NO_FOLDER)
            self._show_set()
            return
        self.view.told.setText("Reading…")
        self.reader.ask([self.folder])
        self._read_set()

    def _arrived(self, found: FoundSongs | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number == self.reader.asked:
            self.rows = found.rows
            self.show(found.fault or ("" if found.whole else f"{len(found.rows)} songs so far…"))

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
            self.before.clear()
            self.read()

    def open_song(self) -> None:
        """Open the song under the cursor."""
        song = self.view.song
        if song is not None:
            self.shell.open_song(Path(song.path))

    def step(self, by: int) -> None:
        """Up or down the songs."""
        self.view.go(self.view.table.currentIndex().row() + by)

    # --- the set ---
    def _read_set(self) -> None:
        found = self._written()
        if found is not None:
            self.songs = found
            self._show_set()

    def _written(self) -> SongSet | None:
        """The set as its file has it; None, which is said, where it cannot be read: nothing is written over it then."""
        path = self.path
        try:
            return read_set(path) if path is not None and path.is_file() else SongSet()
        except UserError as error:
            self.songs, self.row = SongSet(), ()
            self._list()
            self.view.foot.setText(str(error))
            return None

    def _put(self, songs: tuple[SetSong, ...], at: int) -> None:
        """Keep another set: written at once, and solved beside the window."""
        old = self.songs
        if self._write(msgspec.structs.replace(old, songs=songs)):
            self.before.append(old)
            self._list()
            self.view.set.setCurrentRow(min(at, len(songs) - 1))

    def _write(self, songs: SongSet) -> bool:
        """Write a set, unless its file is another one than is shown: then that is shown."""
        path, there = self.path, self._written()
        if path is None or there is None:
            return False
        if path.is_file() and there != self.songs:
            self.songs = there
            self.before.clear()
            self._show_set()
            self.shell.teller.say("The set was changed elsewhere: here it is as it is now.")
            return False
        try:
            write_set(path, songs)
        except UserError as error:
            self.view.foot.setText(str(error))
            return False
        self.songs = songs
        self._show_set()
        return True

    def back(self) -> None:
        """The set as it was before the last change, or what was before that."""
        if self.before and self._write(self.before[-1]):
            self.before.pop()
            self._list()

    def _show_set(self) -> None:
        """List the set, and have it solved."""
        self._list()
        if self.folder is not None:
            self.finder.ask(self.songs, self.folder)

    def _list(self) -> None:
        """The songs of the set with what is known of them."""
        at, rows = self.view.set.currentRow(), list[Row]()
        for number, song in enumerate(self.songs.songs, 1):
            own = next((own for own in self.row if own.song == song), None)
            title = own.title if own is not None else Path(song.path).stem
            facts = "…" if own is None else own.problem or f"{own.key}, {clock(own.minutes)}"
            said = "; ".join(filter(None, (facts, song.take, song.note)))
            wrong = own is not None and own.problem is not None
            rows.append(Row(str(number), pretty_signs(title), pretty_signs(said), wrong))
        fill_rows(self.view.set, rows)
        self.view.set.setCurrentRow(min(at, len(rows) - 1))
        for button in (self.view.key, self.view.take, self.view.note, self.view.drop, self.view.print, self.view.stage):
            button.setEnabled(bool(rows))
        self.view.back.setEnabled(bool(self.before))

    def _played(self, found: FoundEvening | FoundPdf | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self.finder.asked:
            return
        if isinstance(found, FoundPdf):
            self._printed(found)
            return
        self.row = found.row
        minutes = sum(own.minutes for own in found.row)
        hardest = max(found.joins, key=lambda join: join.motion, default=None)
        words = f"{len(found.row)} songs, {clock(minutes)}." if found.row else EMPTY
        if hardest is not None:
            words += f" Hardest join, {hardest.motion} semitones: {hardest.words}"
        self.view.foot.setText(pretty_signs(words))
        self._list()

    def add(self) -> None:
        """The song under the cursor goes to the set's end."""
        song, folder = self.view.song, self.folder
        if song is None or folder is None:
            return
        if not song.read:
            self.view.foot.setText(song.problem or "")
            return
        made = SetSong(song.id, beside(Path(song.path), folder))
        self._put((*self.songs.songs, made), len(self.songs.songs))

    @property
    def at(self) -> int:
        """The song of the set under the cursor, -1 for none."""
        return self.view.set.currentRow() if self.songs.songs else -1

    def drop(self) -> None:
        """The song of the set under the cursor goes."""
        if self.at >= 0:
            self._put((*self.songs.songs[: self.at], *self.songs.songs[self.at + 1 :]), self.at)

    def move(self, by: int) -> None:
        """The song of the set under the cursor changes places."""
        at, songs = self.at, list(self.songs.songs)
        if at >= 0 and 0 <= at + by < len(songs):
            songs[at], songs[at + by] = songs[at + by], songs[at]
            self._put(tuple(songs), at + by)

    def _change(self, **fields: str) -> None:
        """Change something of the song of the set under the cursor, where it can be played so."""
        at = self.at
        made = msgspec.structs.replace(self.songs.songs[at], **fields)
        own = next((own for own in self.row if own.song.path == made.path and own.takes), None)
        try:
            check(made, own.takes if own is not None else (made.take,))
        except UserError as error:
            self.view.foot.setText(str(error))
            return
        self._put((*self.songs.songs[:at], made, *self.songs.songs[at + 1 :]), at)

    def ask_key(self) -> None:
        """The key of a song for tonight."""
        if self.at >= 0:
            found = self.shell.ask_name("The key for tonight, such as Eb or F minor:", self.songs.songs[self.at].key)
            self._change(key=found.strip()) if found else None

    def ask_take(self) -> None:
        """The take of a song for tonight."""
        if self.at >= 0:
            found = self.shell.ask_name("The take for tonight by its name, or mix:", self.songs.songs[self.at].take)
            self._change(take=found.strip()) if found else None

    def ask_note(self) -> None:
        """What stands before a song."""
        if self.at >= 0:
            found = self.shell.ask_name("What stands before this song:", self.songs.songs[self.at].note)
            self._change(note=found.strip()) if found else None

    def on_stage(self) -> None:
        """The set on stage, from the song under the cursor."""
        if self.folder is not None and self.songs.songs:
            self.shell.go_on_stage(self.songs, self.folder, self.row, self.at)

    def print_set(self) -> None:
        """All sheets of the set in one file, beside the set."""
        if self.path is not None and self.row:
            self.view.foot.setText("Printing…")
            self.finder.ask_pdf(self.songs, self.row, self.shell.preferences.settings.sheet)

    def _printed(self, found: FoundPdf) -> None:
        path = self.path
        if path is None:
            return
        try:
            write_atomic(path.with_suffix(".pdf"), found.data)
        except UserError as error:
            self.view.foot.setText(str(error))
            return
        self.shell.teller.say(f"{found.pages} pages are in {path.with_suffix('.pdf')}")
        self._show_set()

    def ask_menu(self, at: QPoint) -> None:
        """Nothing has a menu here."""

    def close(self) -> None:
        """Read and solve no more."""
        self.reader.close()
        self.finder.close()
