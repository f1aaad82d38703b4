"""Tonight's set beside the songs: written at every change, solved, printed, written as files and practised."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

import msgspec
from PySide6.QtCore import QObject, Qt, Signal

from yellow_hinge.app.solving.book.finding import (
    EveningFinder,
    FoundFiles,
    FoundOfSet,
    FoundPdf,
    FoundSong,
    GoesOn,
)
from yellow_hinge.app.solving.book.sets import (
    ENDING,
    Join,
    SetSong,
    SongSet,
    Tonight,
    beside,
    check,
    clock,
    read_set,
    total,
    write_set,
)
from yellow_hinge.app.solving.book.songbook import SongRow
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.io.files import write_atomic
from yellow_hinge.ui.book.view import BookView
from yellow_hinge.ui.paint.rows import Row, fill_rows
from yellow_hinge.ui.parts.shell import Shell

NAME = f"tonight{ENDING}"
SONG = "song"  # marks the rows of songs among those of notes
SOUND_NAMES = {"mid": "MIDI files", "wav": "sound (WAV)"}
WRITING = "Writing…"
EMPTY = "Insert puts the song of the list here."


class TonightSet(QObject):
    """Wires the set's part of the view; `listed` gives the songs of the book."""

    solved = Signal(object)

    def __init__(self, shell: Shell, view: BookView, listed: Callable[[], Sequence[SongRow]]) -> None:
        super().__init__(view)
        self.shell, self.view, self._listed = shell, view, listed
        self.songs = SongSet()
        self.row: tuple[Tonight, ...] = ()
        self.joins: tuple[Join, ...] = ()
        self._target: Path | None = None  # where songs are written to
        self._lost: SetSong | None = None  # whose file was looked for
        self.before: list[SongSet] = []  # sets before the last changes, the newest last
        self.finder = EveningFinder(self.solved.emit, "evening")
        self.solved.connect(self._played)
        view.set.model().rowsMoved.connect(self._dropped)
        for button, do in (
            (view.add, self.add), (view.drop, self.drop), (view.key, self.ask_key), (view.take, self.ask_take),
            (view.note, self.ask_note), (view.print, self.print_set), (view.back, self.back),
            (view.stage, self.on_stage), (view.files, self.write_songs), (view.locate, self.find),
            (view.practise, self.practise),
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

    def read(self) -> None:
        """Read the set's file and list it."""
        found = self._written()
        if found is not None:
            self.songs = found
            self.show()

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
            self._go(at)

    def _write(self, songs: SongSet) -> bool:
        """Write a set, unless its file is another one than is shown: then that is shown."""
        path, there = self.path, self._written()
        if path is None or there is None:
            return False
        if path.is_file() and there != self.songs:
            self.songs = there
            self.before.clear()
            self.show()
            self.shell.teller.say("The set was changed elsewhere: here it is as it is now.")
            return False
        try:
            write_set(path, songs)
        except UserError as error:
            self.view.foot.setText(str(error))
            return False
        self.songs = songs
        self.show()
        return True

    def back(self) -> None:
        """The set as it was before the last change, or what was before that."""
        if self.before and self._write(self.before[-1]):
            self.before.pop()
            self._list()

    def show(self) -> None:
        """List the set, and have it solved."""
        self._list()
        if self.folder is not None:
            self.finder.ask(self.songs, self.folder)

    def _list(self) -> None:
        """The songs of the set with what is known of them; what stands before one has a row of its own."""
        at, rows = self.at, list[Row]()
        for number, song in enumerate(self.songs.songs):
            own = self._own(song)
            known = own or next((one for one in self.row if one.song.path == song.path), None)
            title = known.title if known is not None else Path(song.path).stem
            facts = "…" if own is None else own.problem or f"{own.key}, {clock(own.minutes)}"
            said = "; ".join(filter(None, (facts, song.take)))
            wrong = own is not None and own.problem is not None
            if song.note:
                rows.append(Row("", pretty_signs(song.note), "before the next song", False, number))
            rows.append(Row(str(number + 1), pretty_signs(title), pretty_signs(said), wrong, number, id=SONG))
        self.view.heading.setText(self.songs.title)
        fill_rows(self.view.set, rows)
        self._go(at)
        view = self.view
        for button in (view.key, view.take, view.note, view.drop, view.print, view.files, view.practise):
            button.setEnabled(bool(rows))
        view.locate.setVisible(any(own.path is None for own in self.row))
        view.back.setEnabled(bool(self.before))

    def _own(self, song: SetSong) -> Tonight | None:
        """What is known of a song of the set."""
        return next((own for own in self.row if own.song == song), None)

    def _shown(self) -> list[Row]:
        view = self.view.set
        return [view.item(n).data(Qt.ItemDataRole.UserRole) for n in range(view.count())]

    def _go(self, at: int) -> None:
        """The cursor to a song of the set, or the nearest there is."""
        at = min(at, len(self.songs.songs) - 1)
        rows = self._shown()
        self.view.set.setCurrentRow(next((n for n, row in enumerate(rows) if row.chord == at and row.id == SONG), -1))

    def _dropped(self) -> None:
        """A row was dragged: the songs in the order that is seen, each with what stands before it."""
        order = [row.chord for row in self._shown() if row.id == SONG]
        if order != list(range(len(order))) and len(order) == len(self.songs.songs):
            songs, at = self.songs.songs, self.at
            self._put(tuple(songs[place] for place in order), order.index(at) if at in order else 0)
        else:
            self._list()

    def _played(self, found: FoundOfSet | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self.finder.asked:
            return
        if isinstance(found, GoesOn):
            self.view.foot.setText(f"{WRITING} {found.share:.0%}")
            return
        if isinstance(found, FoundPdf):
            return self._printed(found)
        if isinstance(found, FoundSong):
            return self._located(found)
        if isinstance(found, FoundFiles):
            self.shell.teller.say(found.fault or f"{found.written} songs are in {self._target}")
            return self.tell()
        self.row = found.row
        self.joins = found.joins
        self.tell()
        self._list()

    def tell(self) -> None:
        """The length of the set, its hardest join, and what is to be practised before tonight."""
        hardest = max(self.joins, key=lambda join: join.motion, default=None)
        words = f"{len(self.row)} songs, {clock(total(self.row))}." if self.row else EMPTY
        if hardest is not None:
            words += f" Hardest join, {hardest.motion} semitones: {hardest.words}"
        due = [f"{own.title} ({count})" for count, own in self._due()[:3]]
        if due:
            words += f" To practise before tonight, with what is due or shaky: {', '.join(due)}."
        self.view.foot.setText(pretty_signs(words))

    def _due(self) -> list[tuple[int, Tonight]]:
        """The songs of the set that have something due or shaky, the one with most first, with how much."""
        listed, found = {row.path: row for row in self._listed()}, []
        for own in self.row:
            row = listed.get(str(own.path))
            standing = self.view.listed.standing(row) if row is not None else None
            if standing is not None and standing.due + standing.shaky:
                found.append((standing.due + standing.shaky, own))
        return sorted(found, key=lambda each: -each[0])

    def practise(self) -> None:
        """Open the song of the set that has most to be practised, and begin; the first song where nothing is due."""
        due = self._due()
        own = due[0][1] if due else next((own for own in self.row if own.path is not None), None)
        if own is not None and own.path is not None and self.shell.open_song(own.path):
            self.shell.practise()

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
        """The song of the set under the cursor, or before which its row stands; -1 for none."""
        item = self.view.set.currentItem()
        row: Row | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return row.chord if row is not None and row.chord < len(self.songs.songs) else -1

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
        """The set on stage, from the song under the cursor; where it is empty, the song of the list."""
        song = self.view.song
        if self.folder is None:
            return
        if self.songs.songs:
            self.shell.go_on_stage(self.songs, self.folder, self.row, self.at)
        elif song is not None and song.read:
            one = SetSong(song.id, beside(Path(song.path), self.folder))
            self.shell.go_on_stage(SongSet(song.title, (one,)), self.folder, (), 0)

    def print_set(self) -> None:
        """All sheets of the set in one file, beside the set."""
        if self.path is not None and self.row:
            self.view.foot.setText(WRITING)
            self.finder.ask_pdf(self.songs, self.row, self.shell.preferences.settings.sheet)

    def write_songs(self) -> None:
        """Every song of the set as MIDI or sound, into a folder beside it."""
        kind = self.shell.ask_which("Every song of the set as", SOUND_NAMES)
        if self.path is not None and self.row and kind:
            self._target = self.path.with_suffix("") / kind
            self.view.foot.setText(WRITING)
            self.finder.ask_files(self.row, self._target, kind)

    def find(self) -> None:
        """Say where the file of the song under the cursor is now."""
        folder, at = self.folder, self.at
        found = self.shell.ask_file() if folder is not None and at >= 0 else None
        if found is not None and folder is not None:
            self._lost = self.songs.songs[at]
            self.finder.ask_song(found, folder)

    def _located(self, found: FoundSong) -> None:
        """A lost song was found, or what was chosen is none."""
        if found.song is None:
            self.shell.teller.say(found.fault)
            self.show()
        elif self._lost in self.songs.songs:
            self._go(self.songs.songs.index(self._lost))
            self._change(id=found.song.id, path=found.song.path)

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
        self.show()

    def close(self) -> None:
        """Solve no more."""
        self.finder.close()
