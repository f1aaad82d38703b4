"""The desk: one open song with its history, solution and selection, and every edit a player can make."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from yellow_hinge.app.desk.answers import Answers
from yellow_hinge.app.desk.document import Document
from yellow_hinge.app.desk.events import Event, Hub
from yellow_hinge.app.desk.selection import Selection
from yellow_hinge.app.edits import editing
from yellow_hinge.app.edits import state as edits
from yellow_hinge.app.edits.asking import in_key, untold, without_resting
from yellow_hinge.app.edits.editing import TYPING, Edit
from yellow_hinge.app.edits.headers import with_tempo
from yellow_hinge.app.edits.resting import Resting, resting
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.edits.wishing import turned
from yellow_hinge.app.solving.elsewhere import with_others_kept
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.solver import Answer
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Option, Solution
from yellow_hinge.core.leading.asking.keeps import Keep, Part
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import with_wants
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.song import TEMPOS, Song
from yellow_hinge.core.takes.things import Things


class _Rests:
    """What rests in the present state, found once: all of the window asks, and a long song is long to look at."""

    def __init__(self) -> None:
        self._known: tuple[Things, Song, tuple[Resting, ...]] | None = None

    def of(self, state: State) -> tuple[Resting, ...]:
        """All that rests in a state."""
        known, things, song = self._known, state.things, state.song
        if known is None or known[0] is not things or known[1] is not song:
            known = self._known = things, song, resting(things, song)
        return known[2]


class Desk:
    """One open song: its document, what the solver answers to it and what is selected in it, and every edit that a
    player can make. Listeners hear what changed, in the order in which they came.

    `ask` puts a state to the solver; its answer comes back through `accept`.
    """

    def __init__(self, ask: Callable[[State], int]) -> None:
        self.hub = Hub()
        self.listeners = self.hub.listeners
        self.answers = Answers(self.hub, ask)
        self.selection = Selection(self.hub, self.answers)
        self.document = Document(self.hub, self.answers)
        self.simple_names = False
        self.patterns: tuple[Pattern, ...] = ()  # of playing, the player's own in any song
        self._resting = _Rests()

    # --- what lies there ---
    @property
    def state(self) -> State:
        """The present state."""
        return self.document.history.state

    @property
    def song(self) -> Song:
        """The song that is shown and played: none where the chart was cleared."""
        return Song() if self.state.emptied else self.state.song

    @property
    def solution(self) -> Solution | None:
        """The newest solution."""
        return self.answers.solution

    @property
    def solved(self) -> bool:
        """Whether the solution is that of the present song."""
        return self.answers.holds(self.state)

    @property
    def opened(self) -> int | None:
        """See Answers.opened."""
        return self.answers.opened(self.state)

    def accept(self, answer: Answer | Bug) -> None:
        """An answer of the solver (see Answers.accept)."""
        self.answers.accept(answer, self.state)

    def was(self) -> list[str]:
        """What the selected chord was before, the oldest first."""
        moment = self.selection.moment
        if moment is None or self.answers.state.song != self.state.song:
            return []
        return list(next((was.symbols for was in self.state.was if was.slot == moment.slot_id), ()))

    def resting(self, index: int | None = None) -> tuple[Resting, ...]:
        """What the player kept or asked for and no longer holds, at chord `index` of the solution or in the song."""
        found = self._resting.of(self.state)
        if index is None or self.solution is None:
            return found
        slot = self.solution.voicings[index].here.slot_id
        return tuple(rest for rest in found if rest.slot == slot)

    def say_simply(self, on: bool) -> None:
        """Say B and F, or Cb and E#."""
        self.simple_names = on
        self.hub.tell(Event.NAMES)

    def know_patterns(self, patterns: tuple[Pattern, ...]) -> None:
        """The player's own patterns of playing, of any song."""
        self.patterns = patterns

    def renew(self) -> None:
        """The player's own styles, manners, substitutes or scales are others."""
        self.hub.tell(Event.OWN)
        self.answers.renew(self.state)

    # --- edits ---
    def type_text(self, text: str) -> None:
        """The chart was typed in. Typing in a row is one step of undo, and is followed from where it began."""
        document = self.document
        if text != self.state.text:
            document.typed = text
            self.hub.tell(Event.TYPING)
            reading = read_chart(text)
            edit = editing.typed(self.state, document.history.base(TYPING), text, reading)
            if document.template is not None:
                edit = edit._replace(state=untold(edit.state, self.state, document.template))
            document.do(edit, reading)

    def change_setup(self, label: str, **fields: object) -> None:
        """Change the player's wishes, such as bass="theirs"."""
        self.put_setup(label, msgspec.structs.replace(self.state.setup, **fields))

    def turn(self, what: str) -> None:
        """Change a wish that has two values: "bass", "melody" or "loop"."""
        label, value = turned(self.state.asked, what)
        self.change_setup(label, **{what: value})

    def put_playing(self, label: str, playing: Playing, group: str = "") -> None:
        """Take over how the song is played; edits with the same `group` in a row are one step of undo."""
        self.document.do(editing.played(self.state, label, playing, group))

    def change_tempo(self, by: int) -> None:
        """So many beats a minute more, or less."""
        self.put_tempo(self.state.song.tempo + by)

    def put_tempo(self, tempo: int) -> None:
        """The song's beats a minute, within what is a tempo."""
        tempo, document = min(TEMPOS[1], max(TEMPOS[0], tempo)), self.document
        if self._may_edit(f"tempo {tempo}"):
            state, reading = with_tempo(self.state, document.reading, tempo)
            document.do(Edit(f"tempo {tempo}", state), reading)

    def put_setup(self, label: str, setup: Setup) -> None:
        """Take over wishes that were changed as a whole."""
        self.document.do(editing.asked(self.state, label, setup))

    def _perhaps(self, edit: Edit | None) -> None:
        if edit is not None:
            self.document.do(edit)

    def hold_top(self) -> None:
        """Hold the selected chord's top note into the next chord, or one chord longer."""
        if self.selection.voicing is not None and self.solution is not None:
            moments = [voicing.here for voicing in self.solution.voicings]
            self._perhaps(editing.top_held(self.state, moments, self.selection.index, self.selection.voicing))

    def drop_held_top(self) -> None:
        """Let the held top of the selected chord go."""
        if self.selection.voicing is not None:
            self.document.do(editing.top_dropped(self.state, self.selection.voicing))

    def take(self, option: Option) -> None:
        """Play the selected chord this way and keep it so."""
        if self.selection.voicing is not None:
            what = "take another way to play"
            self.document.do(
                editing.kept(self.state, what, self.selection.voicing, option.both, "chord", self.selection.only)
            )

    def leave_away(self, both: Both) -> None:
        """Play the selected chord with notes left away and keep it so."""
        if self.selection.voicing is not None:
            what = "leave notes away in"
            self.document.do(editing.kept(self.state, what, self.selection.voicing, both, "chord", self.selection.only))

    def lighten(self, places: list[int], what: str) -> None:
        """Leave away what is too wide in some chords of the solution; `what` they are in words."""
        if self.solution is not None:
            self._perhaps(editing.lightened(self.state, self.solution, places, what))

    def toggle_keep(self, part: Part = "chord") -> None:
        """Keep the selected chord, or a part of it, as it is played, or let it go."""
        if self.selection.voicing is not None:
            self._perhaps(editing.keep_turned(self.state, self.selection.voicing, part, self.selection.only))

    def put_keeps(self, label: str, keeps: tuple[Keep, ...]) -> None:
        """Take over keeps that were changed as a whole."""
        self.document.do(editing.keeps_put(self.state, label, keeps))

    def keep_others(self) -> None:
        """Keep what the last edit changed elsewhere as it was before; where it chose patterns, they open no hands."""
        if self.answers.before is not None and self.opened is not None:
            playing = with_wants(self.state.playing, False, self.answers.before.state.playing.wishes)
            self.put_playing("keep the hands under the pattern", playing)
            self.answers.forget_before()
        elif self.answers.before is not None and self.solution is not None and self.answers.beside:
            count, before = len(self.answers.beside), self.answers.before.solution
            state = with_others_kept(self.state, before, self.solution, self.answers.beside)
            self.document.do(Edit(f"keep {count} other chord{'' if count == 1 else 's'} as they were", state))

    def free_all(self) -> None:
        """Let everything go that is kept."""
        self.put_keeps("let all kept chords go", ())

    def free_resting(self) -> None:
        """Let go what no longer holds."""
        self.document.do(Edit("let go what rests", without_resting(self.state, self.resting())))

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
        self._edit(f"play in {Key(key.tonic, self.state.song.the_key.mode)}", lambda: in_key(self.state, key))

    def _edit(self, label: str, edit: Callable[[], State]) -> None:
        if not self._may_edit(label):
            return
        try:
            state = edit()
        except UserError as error:
            self.answers.refuse(str(error))
            return
        if state.song == self.state.song:
            return
        text = write_chart(state.song)
        reading = read_chart(text)
        if reading.faults or not same_writing(reading.song, state.song):
            why = str(reading.faults[0]) if reading.faults else "the chart would read differently"
            self.answers.refuse(f"this cannot be written as a chart: {why}")
            return
        self.document.do(Edit(label, edits.changed_in(state, text=text)), reading)

    def _may_edit(self, label: str) -> bool:
        """Whether the chart can be edited now; said where it cannot."""
        faults = self.document.reading.faults
        if faults:
            self.answers.refuse(f"{label} has to wait: the chart has a mistake in line {faults[0].line}")
        return not faults
