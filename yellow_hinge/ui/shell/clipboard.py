"""Bars on the clipboard: as a song of ours, with all that is known of them, and as a chart for any other program."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import Marked, MarkEnd, bar_places, mark_words, written_ends
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.shell.commands.desk import GOING

if TYPE_CHECKING:  # loaded with the first bars that are copied or pasted
    from yellow_hinge.app.edits.bars import Place
    from yellow_hinge.io.songs.migrations import SongFile

SONG = "application/vnd.yellow-hinge.song+json"
_KEY = re.compile(r"^[\s{]*key\s*:", re.IGNORECASE | re.MULTILINE)
CHART_NAME, COPY_NAME = "the clipboard.txt", "the clipboard"


class Clipboard:
    """Cuts, copies and pastes the marked bars; the bar of the selected chord where none are marked."""

    def __init__(self, desk: Desk, teller: Teller) -> None:
        self.desk, self.teller = desk, teller

    def _places(self) -> range:
        """The chords of the bars that are meant."""
        solution, selection = self.desk.solution, self.desk.selection
        if solution is None or not solution.voicings or not self.desk.solved:
            raise UserError("the song has no hands yet; wait until it is solved")
        return bar_places(solution, selection.marked or range(selection.index, selection.index + 1))

    def _ends(self) -> tuple[Place, Place, str]:
        solution, places = self.desk.solution, self._places()
        assert solution is not None
        first, last = written_ends(solution, places)
        return first[:2], last[:2], mark_words(self.desk.state.song, solution, places)

    def copy(self) -> None:
        """Put the bars on the clipboard, with their hands."""
        self._try(lambda: self._copy("Copied"))

    def _copy(self, done: str) -> tuple[Place, Place, str]:
        from yellow_hinge.app.edits.bars import copied
        from yellow_hinge.io.songs.song_json import to_json

        first, last, words = self._ends()
        clip = copied(self.desk.state, first, last, self.desk.solution)
        mime = QMimeData()
        mime.setText(write_chart(clip.song))
        mime.setData(SONG, to_json(clip))
        QGuiApplication.clipboard().setMimeData(mime)
        self.teller.say(f"{done}: {words}.")
        return first, last, words

    def cut(self) -> None:
        """Copy the bars and take them out of the song."""
        from yellow_hinge.app.edits.bars import without_bars

        def cut() -> None:
            first, last, words = self._ends()
            without_bars(self.desk.state.song, first, last)  # refused before anything is copied
            self._copy("Cut")
            self.desk.selection.unmark()
            self.desk.edit_chart(f"cut {words}", lambda song: without_bars(song, first, last))

        self._try(cut)

    def paste(self, with_hands: bool = False) -> None:
        """Put the bars of the clipboard after the marked ones, or after the bar of the selected chord."""

        def paste() -> None:
            clip = self._clip()
            if not self.desk.song.sections:
                self.desk.type_text(write_chart(clip.song))
                return
            self._insert("paste", clip, with_hands)

        self._try(paste)

    def duplicate(self) -> None:
        """The bars once more, right after themselves, with what is kept in them."""
        from yellow_hinge.app.edits.bars import copied

        def double() -> None:
            first, last, words = self._ends()
            self._insert(f"duplicate {words}", copied(self.desk.state, first, last, self.desk.solution), False)

        self._try(double)

    def _insert(self, label: str, clip: SongFile, with_hands: bool) -> None:
        from yellow_hinge.app.edits.bars import pasted

        places, (_, last, _) = self._places(), self._ends()
        count = sum(len(section.bars) for section in clip.song.sections)
        label = label if " " in label else f"{label} {count} bar{'' if count == 1 else 's'}"
        before = self.desk.state
        self.desk.edit_state(label, lambda state: pasted(state, clip, last, with_hands))
        if self.desk.state is before:
            return
        section = self.desk.state.song.sections[last[0]]
        new = section.bars[last[1] + 1 : last[1] + 1 + count]
        selection = self.desk.selection
        selection.begin_at(places[-1] + 1)
        if new and new[0].slots and new[-1].slots:
            ends = (MarkEnd((section.id, 0), slot.id) for slot in (new[0].slots[0], new[-1].slots[-1]))
            selection.mark = Marked(*ends)
        here, old = section.the_key(self.desk.state.song), clip.song.the_key
        moved = "" if here == old else f", put from {old} into {here}"
        self.teller.say(f"{label[:1].upper()}{label[1:]}{moved}.")

    def _clip(self) -> SongFile:
        """What lies on the clipboard. Raises UserError where it has no bars."""
        from yellow_hinge.app.edits.bars import said_in
        from yellow_hinge.io.opening import read_data
        from yellow_hinge.io.songs.song_json import from_json

        mime = QGuiApplication.clipboard().mimeData()
        if mime.hasFormat(SONG):
            return from_json(bytes(mime.data(SONG).data()), COPY_NAME)
        text = mime.text() if mime.hasText() else ""
        if not text.strip():
            raise UserError("nothing is on the clipboard; copy bars with Ctrl+C, or a chart as text")
        found = read_data(text.encode("utf-8", "replace"), CHART_NAME).file
        if not found.song.sections:
            raise UserError("what is on the clipboard has no bars")
        return found if _KEY.search(text) else said_in(found, self._key())  # a key that was guessed moves nothing

    def _key(self) -> str:
        """The key at the bar after which is pasted."""
        song, address = self.desk.state.song, self.desk.selection.address
        at = address[0] if address is not None and address[0] < len(song.sections) else 0
        return song.sections[at].key or song.key

    def _try(self, do: Callable[[], object]) -> None:
        try:
            do()
        except UserError as error:
            self.desk.answers.refuse(str(error))


# fmt: off
COMMANDS: Commands[Clipboard] = Commands(Clipboard, (
    Command("cut", "Edit", "Cut the bars", ("Ctrl+X",), "Cut the marked bars, or this one, with their hands",
            lambda clipboard: clipboard.cut(), GOING, on=("chord",)),
    Command("copy", "Edit", "Copy the bars", ("Ctrl+C",), "Copy the marked bars, or this one, with their hands",
            lambda clipboard: clipboard.copy(), GOING, on=("chord", "section", "sheet")),
    Command("paste", "Edit", "Paste the bars", ("Ctrl+V",), "Put them after this bar, in its key, with what is kept",
            lambda clipboard: clipboard.paste(), GOING, on=("chord",)),
    Command("paste_hands", "Edit", "Paste the bars with their hands", ("Ctrl+Shift+V",),
            "Put them after this bar, in its key, and keep all of their hands",
            lambda clipboard: clipboard.paste(True), GOING, on=("chord",)),
    Command("duplicate", "Edit", "Duplicate the bars", ("Ctrl+D",), "The marked bars, or this one, once more",
            lambda clipboard: clipboard.duplicate(), GOING, on=("chord", "section")),
))
# fmt: on
