"""The Songbook room: its handle, its commands, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.book.working import BookRoom


def make(shell: Shell) -> BookRoom:
    """The room."""
    from yellow_hinge.ui.book.view import BookView  # loaded when it is first looked at
    from yellow_hinge.ui.book.working import BookRoom

    return BookRoom(shell, BookView(shell.look.theme))


BOOK: Handle[BookRoom] = Handle(
    "songbook",
    "Songbook",
    "Ctrl+0",
    "All songs of your folders, and tonight's set",
    make,
    keyboards="none",
    ahead=False,
)

# fmt: off
COMMANDS: Commands[BookRoom] = Commands(BOOK, (
    Command("book_folder", "Song", "A folder of songs…", (), "Its songs, and those of the folders inside, are listed",
            lambda room: room.ask_folder(), shows=True),
    Command("book_more", "Song", "Another folder of songs too…", (), "Listed beside the first; again: listed no more",
            lambda room: room.ask_more(), shows=True),
    Command("book_open", "Song", "Open the listed song", ("Return", "Enter"), "The song under the cursor is opened",
            lambda room: room.open_song(), (BOOK,)),
    Command("book_add", "Song", "Into the set", ("Insert", "+"), "The song under the cursor goes to the set's end",
            lambda room: room.tonight.add(), (BOOK,)),
    Command("book_drop", "Song", "Out of the set", ("Delete",), "The song of the set under the cursor goes",
            lambda room: room.tonight.drop(), (BOOK,)),
    Command("book_up", "Song", "Earlier in the set", ("Alt+Up",), "Change places with the song before",
            lambda room: room.tonight.move(-1), (BOOK,)),
    Command("book_down", "Song", "Later in the set", ("Alt+Down",), "Change places with the song after",
            lambda room: room.tonight.move(1), (BOOK,)),
    Command("book_back", "Song", "The set as it was", ("Alt+Z",), "Take back the last change of the set",
            lambda room: room.tonight.back(), (BOOK,)),
    Command("book_stage", "View", "Tonight's set on stage…", ("Shift+F11",), "From the song under the cursor on",
            lambda room: room.tonight.on_stage(), shows=True),
    Command("book_files", "Song", "The set's songs as files…", (), "MIDI or sound in tonight's key and take, numbered",
            lambda room: room.tonight.write_songs(), shows=True),
    Command("book_practise", "Song", "Practise before tonight", ("F7",), "The song of the set with most that is due",
            lambda room: room.tonight.practise(), (BOOK,)),
    Command("book_boat", "Song", "The boat's book…", (), "Our own songs and an evening's set, put into a folder",
            lambda room: room.take_book(), shows=True),
    Command("book_print", "Song", "The set as one PDF…", (), "All sheets of the set with running page numbers",
            lambda room: room.tonight.print_set(), shows=True),
))
# fmt: on
