"""The Chart room: the chart as text, set out in bars, in another key, for a singer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt

from yellow_hinge.app.edits.other_key import key_for, read_voice, tune_range
from yellow_hinge.app.edits.touched import Touched
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs, sharp_note
from yellow_hinge.ui.commands import Area, Command, Commands
from yellow_hinge.ui.parts.rooms import Handle, Quiet
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.chart.view import ChartView

QUESTION = "The singer's lowest and highest note, such as A3 D5:"


class ChartRoom(Quiet):
    """What is done with the chart as a whole; the view works by itself otherwise."""

    def __init__(self, shell: Shell, view: ChartView) -> None:
        self.shell, self.view = shell, view
        view.page.addActions(shell.keys_of(CHART_PAGE))
        view.editor.turned.connect(shell.teller.tell)
        canvas = view.page.canvas
        canvas.asked.connect(shell.things.open)
        canvas.edited.connect(lambda at, area: shell.in_place.symbol(at, canvas, area))
        view.tools.singer.connect(self.for_singer)
        view.changed(Touched.ALL)
        view.solved()

    def ask_menu(self, at: QPoint) -> None:
        """Of the selected chord."""
        self.shell.things.open("chord", at)

    def correct(self) -> None:
        """Write what is suggested for the chart's first mistake, if anything is."""
        self.view.show_fault()
        self.view.correct()

    def other_key(self) -> None:
        """Go to where another key is tried."""
        self.view.tools.key.setFocus(Qt.FocusReason.OtherFocusReason)
        self.view.tools.key.showPopup()

    def for_singer(self) -> None:
        """Ask for a singer's range and show the song in the key that fits it best; Take it makes it the song's."""
        desk, teller = self.shell.desk, self.shell.teller
        if tune_range(desk.song) is None:
            teller.tell("The song has no tune yet: write its notes under a line as tune: E4:1.5")
            return
        known = desk.state.setup.player.singer
        proposed = " ".join(str(pitch_of(midi, sharp_note(midi % 12))) for midi in known) if known else ""
        text = self.shell.ask_name(QUESTION, proposed)
        if not text:
            return
        try:
            voice = read_voice(text)
            found = key_for(desk.song, voice)
        except UserError as error:
            teller.tell(str(error))
            return
        beyond = found.beyond(voice)
        fits = "the tune fits" if beyond <= 0 else f"the tune is still {semitones(beyond)} too wide"
        self.view.tools.refresh()
        self.view.tools.try_key(found.key if found.by else None)
        teller.say(pretty_signs(f"{found.words}: {fits}.{' Take it keeps it.' if found.by else ''}"))


def make(shell: Shell) -> ChartRoom:
    """The room."""
    from yellow_hinge.ui.chart.view import ChartView  # loaded when it is first looked at

    return ChartRoom(shell, ChartView(shell.desk, shell.look.theme))


CHART: Handle[ChartRoom] = Handle("chart", "Chart", "Ctrl+1", "Type the chart", make, "strip")
CHART_PAGE = Area()  # the set-out chart
_PAGE = (CHART_PAGE,)

# fmt: off
COMMANDS: Commands[ChartRoom] = Commands(CHART, (
    Command("correct", "Chart", "Write what is suggested", ("Ctrl+.",), "Mend the chart's first mistake as proposed",
            lambda room: room.correct(), shows=True),
    Command("other_key", "Chart", "To another key…", (), "See every chord in another key, and take it",
            lambda room: room.other_key(), shows=True),
    Command("for_singer", "Chart", "Key for a singer…", (), "The key that suits a singer's lowest and highest note",
            lambda room: room.for_singer(), shows=True),
    Command("how_to_write", "Chart", "How a chart is written", (), "Examples beside the chart: bars, repeats, tune",
            lambda room: room.view.show_lesson(True), shows=True),
    Command("bar_insert", "Chart", "Add a bar", ("Insert",), "A bar after this one",
            lambda room: room.view.tools.insert(), _PAGE, on=("chord",)),
    Command("chord_split", "Chart", "Split the chord", ("/",), "Two chords instead of one",
            lambda room: room.view.tools.split(), _PAGE, on=("chord",)),
    Command("chord_delete", "Chart", "Delete the chord", ("Delete",), "Its beats go to the chord before",
            lambda room: room.view.tools.delete(), _PAGE, on=("chord",)),
    Command("chord_earlier", "Chart", "Chord earlier", ("Ctrl+Left",), "Change places with the chord before",
            lambda room: room.view.tools.move_chord(-1), _PAGE),
    Command("chord_later", "Chart", "Chord later", ("Ctrl+Right",), "Change places with the chord after",
            lambda room: room.view.tools.move_chord(1), _PAGE),
    Command("bar_delete", "Chart", "Delete the bar", ("Shift+Delete",), "Without this bar",
            lambda room: room.view.tools.delete_bar(), _PAGE, on=("chord",)),
    Command("bar_earlier", "Chart", "Bar earlier", ("Alt+Left",), "This bar one earlier",
            lambda room: room.view.tools.move_bar(-1), _PAGE),
    Command("bar_later", "Chart", "Bar later", ("Alt+Right",), "This bar one later",
            lambda room: room.view.tools.move_bar(1), _PAGE),
))
# fmt: on
