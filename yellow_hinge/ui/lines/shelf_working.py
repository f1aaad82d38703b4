"""Lines of the player's own in the Lines view: the one that is shown is put on the shelf, taken off, drilled."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.app.mine.folder import OFF, put_entry, take_away
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.own.lines import LineFit, shelved_line
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.lines.working import LinesRoom

NOTHING = "Find or write a line first; then it is put on the shelf."
NONE_OF_MINE = "Show a line that is mine first (X goes through them)."


def fit_words(fit: LineFit, bar: int) -> str:
    """What a line of the player's own says of itself."""
    count = fit.last - fit.first + 1
    return f"Mine: {fit.entry.name}, over {count} chord{'' if count == 1 else 's'} from bar {bar}. X looks for others."


class LineShelf:
    """What a room's line has to do with the shelf."""

    def __init__(self, shell: Shell, room: LinesRoom) -> None:
        self.shell, self.room = shell, room

    def put(self) -> None:
        """Put the line that is shown on the shelf: over the marked chords, where some of its own are marked."""
        line, moments = self.room.line, self.room.moments
        if line is None or not moments:
            self._say(NOTHING)
            return
        line, moments = self._marked(self.room.rebased(line)), moments
        first = min((note.at for note in line.notes), default=0)
        last = max((note.at for note in line.notes), default=0)
        symbols = pretty_signs(" ".join(moment.symbol for moment in moments[first : last + 1]))
        name = self.shell.ask_name("A name for this line on your shelf:", symbols)
        if not name:
            return
        try:
            path = put_entry(self.shell.mine, "line", shelved_line(name, line, moments))
        except UserError as error:
            self._say(str(error))
            return
        self.shell.teller.say(
            f"{name} is on the shelf ({path.name}), and the first line wherever a song has these chords"
        )
        self.room.use_folder()

    def _marked(self, line: Line) -> Line:
        """What of a line lies over chords that are marked; all of it where none is."""
        marked, begins = self.shell.desk.selection.marked, self.room.begins
        inside = tuple(note for note in line.notes if begins + note.at in marked)
        return Line(inside, line.cost) if inside else line

    def take_off(self) -> None:
        """Take the line of mine that is shown off the shelf; its file is kept."""
        fit = self.room.fit
        if fit is None:
            self._say(NONE_OF_MINE)
            return
        try:
            path = take_away(self.shell.mine, "line", fit.entry.id)
        except UserError as error:
            self._say(str(error))
            return
        self.shell.teller.say(f"{fit.entry.name} is off the shelf; its file is kept in {path.parent if path else OFF}")
        self.room.use_folder()

    def drill(self) -> None:
        """Practise the line of mine that is shown in twelve keys, note by note."""
        fit = self.room.fit
        if fit is None:
            self._say(NONE_OF_MINE)
            return
        self.shell.practise(fit.entry)

    def _say(self, words: str) -> None:
        self.room.view.told.setText(words)
