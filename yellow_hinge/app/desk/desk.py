"""The desk: one open song with its history, solution and selection, and every edit a player can make."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from yellow_hinge.app.desk.document import Document
from yellow_hinge.app.desk.looking import Event
from yellow_hinge.app.edits import editing
from yellow_hinge.app.edits import state as edits
from yellow_hinge.app.edits.editing import TYPING, Edit
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.wishing import turned
from yellow_hinge.app.solving.elsewhere import with_others_kept
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep, Part
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import Option
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.rhythm.asks import Playing, with_wants
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.song import TEMPOS, Song


class Desk(Document):
    """Holds the song and tells listeners what changed: "typing" (before the text is read), "state", "solution",
    "selection" or "fault".

    `ask` puts a state to the solver; its answer comes back through `accept`.
    """

    # --- edits ---
    def type_text(self, text: str) -> None:
        """The chart was typed in. Typing in a row is one step of undo, and is followed from where it began."""
        if text != self.state.text:
            self.typed = text
            self.tell(Event.TYPING)
            reading = read_chart(text)
            edit = editing.typed(self.state, self.history.base(TYPING), text, reading)
            if self.template is not None:
                edit = edit._replace(state=edits.untold(edit.state, self.state, self.template))
            self.do(edit, reading)

    def change_setup(self, label: str, **fields: object) -> None:
        """Change the player's wishes, such as bass="theirs"."""
        self.put_setup(label, msgspec.structs.replace(self.state.setup, **fields))

    def turn(self, what: str) -> None:
        """Change a wish that has two values: "bass", "melody" or "loop"."""
        label, value = turned(self.state.asked, what)
        self.change_setup(label, **{what: value})

    def put_playing(self, label: str, playing: Playing, group: str = "") -> None:
        """Take over how the song is played; edits with the same `group` in a row are one step of undo."""
        self.do(editing.played(self.state, label, playing, group))

    def change_tempo(self, by: int) -> None:
        """So many beats a minute more, or less."""
        self.put_tempo(self.state.song.tempo + by)

    def put_tempo(self, tempo: int) -> None:
        """The song's beats a minute, within what is a tempo."""
        tempo = min(TEMPOS[1], max(TEMPOS[0], tempo))
        self.edit_chart(f"tempo {tempo}", lambda song: msgspec.structs.replace(song, tempo=tempo))

    def put_setup(self, label: str, setup: Setup) -> None:
        """Take over wishes that were changed as a whole."""
        self.do(editing.asked(self.state, label, setup))

    def _perhaps(self, edit: Edit | None) -> None:
        if edit is not None:
            self.do(edit)

    def hold_top(self) -> None:
        """Hold the selected chord's top note into the next chord, or one chord longer."""
        if self.voicing is not None and self.solution is not None:
            moments = [voicing.here for voicing in self.solution.voicings]
            self._perhaps(editing.top_held(self.state, moments, self.selected, self.voicing))

    def drop_held_top(self) -> None:
        """Let the held top of the selected chord go."""
        if self.voicing is not None:
            self.do(editing.top_dropped(self.state, self.voicing))

    def take(self, option: Option) -> None:
        """Play the selected chord this way and keep it so."""
        if self.voicing is not None:
            what = "take another way to play"
            self.do(editing.kept(self.state, what, self.voicing, option.both, "chord", self.only))

    def toggle_keep(self, part: Part = "chord") -> None:
        """Keep the selected chord, or a part of it, as it is played, or let it go."""
        if self.voicing is not None:
            self._perhaps(editing.keep_turned(self.state, self.voicing, part, self.only))

    def put_keeps(self, label: str, keeps: tuple[Keep, ...]) -> None:
        """Take over keeps that were changed as a whole."""
        self.do(editing.keeps_put(self.state, label, keeps))

    def keep_others(self) -> None:
        """Keep what the last edit changed elsewhere as it was before; where it chose patterns, they open no hands."""
        if self.before is not None and self.opened is not None:
            playing = with_wants(self.state.playing, False, self.before.state.playing.wishes)
            self.put_playing("keep the hands under the pattern", playing)
            self.before = None  # what changes now is what was asked for
        elif self.before is not None and self.solution is not None and self.beside:
            count, before = len(self.beside), self.before.solution
            state = with_others_kept(self.state, before, self.solution, self.beside)
            self.do(Edit(f"keep {count} other chord{'' if count == 1 else 's'} as they were", state))

    def free_all(self) -> None:
        """Let everything go that is kept."""
        self.put_keeps("let all kept chords go", ())

    def free_resting(self) -> None:
        """Let go what no longer holds."""
        self.do(Edit("let go what rests", edits.without_resting(self.state, self.resting())))

    def edit_chart(self, label: str, edit: Callable[[Song], Song]) -> None:
        """Change the song's structure; the text is written anew and what is kept follows its chords. An edit that
        cannot be done is told with its reason.
        """
        self._edit(label, lambda: edits.changed(self.state, edit(self.state.song)))

    def edit_state(self, label: str, edit: Callable[[State], State]) -> None:
        """Change the song and what is asked of it at once."""
        self._edit(label, lambda: edit(self.state))

    def change_key(self, key: Key) -> None:
        """Put the song into another key, and with it what is kept and what chords were."""
        self._edit(f"play in {Key(key.tonic, self.state.song.the_key.mode)}", lambda: edits.in_key(self.state, key))

    def _edit(self, label: str, edit: Callable[[], State]) -> None:
        if self.reading.faults:
            self._refuse(f"{label} has to wait: the chart has a mistake in line {self.reading.faults[0].line}")
            return
        try:
            state = edit()
        except UserError as error:
            self._refuse(str(error))
            return
        if state.song == self.state.song:
            return
        text = write_chart(state.song)
        reading = read_chart(text)
        if reading.faults or not same_writing(reading.song, state.song):
            why = str(reading.faults[0]) if reading.faults else "the chart would read differently"
            self._refuse(f"this cannot be written as a chart: {why}")
            return
        self.do(Edit(label, edits.changed_in(state, text=text)), reading)

    def _refuse(self, why: str) -> None:
        self.fault = why
        self.tell(Event.FAULT)
