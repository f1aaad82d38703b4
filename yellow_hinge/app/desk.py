"""The desk: one open song with its history, solution and selection, and every edit a player can make."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import msgspec

from yellow_hinge.app import state as edits
from yellow_hinge.app.history import History
from yellow_hinge.app.kept import PART_WORDS, Resting, resting
from yellow_hinge.app.solving import Answer
from yellow_hinge.app.state import State
from yellow_hinge.app.wishing import is_held, moved_beside, only_wishes_changed, with_held_top, without_held_top
from yellow_hinge.core import chart_edit
from yellow_hinge.core.chart_text import ChartReading, read_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.following import same_writing
from yellow_hinge.core.key import Key
from yellow_hinge.core.leading.hinge import Hinge, hinge_words, make_hinge
from yellow_hinge.core.leading.setup import Keep, Part, Setup, in_force
from yellow_hinge.core.leading.solution import Option, Solution, Voicing, options
from yellow_hinge.core.song import Address, Song
from yellow_hinge.core.timeline import Moment
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.files import FileFault, write_atomic
from yellow_hinge.io.song_json import SongFile, to_json

if TYPE_CHECKING:  # loaded with the Swaps view
    from yellow_hinge.core.reharm.swaps import Swap
    from yellow_hinge.core.reharm.whole import Bolder

ENDING = ".hinge"
OLD_ENDING = ".json"  # of songs up to file version 4
TYPING = "type in the chart"


class Desk:
    """Holds the song and tells listeners what changed: "typing" (before the text is read), "state", "solution",
    "selection" or "fault".

    `ask` puts a state to the solver; its answer comes back through `accept`.
    """

    def __init__(self, ask: Callable[[State], int]) -> None:
        self._ask = ask
        self.asked, self.answered = 0, 0  # numbers of the latest question and answer
        self.history: History[State] = History(State())
        self.reading: ChartReading = read_chart("")
        self.solution: Solution | None = None
        self.solved_state: State = State()
        self.fault = ""
        self.selected = 0
        self.beside: frozenset[int] = frozenset()  # chords that changed to lead into what was asked of another part
        self.written: Address | None = None  # a chord that was picked where it is written
        self.simple_names = False
        self.path: Path | None = None
        self.saved: State = self.history.state
        self.document = ""  # the song's own name wherever its file goes
        self.typed = ""  # the chart's text to the last letter
        self.listeners: list[Callable[[str], None]] = []

    # --- what is there ---
    @property
    def state(self) -> State:
        """The present state."""
        return self.history.state

    @property
    def song(self) -> Song:
        """The song that is shown and played: none where the chart was cleared."""
        return Song() if self.state.emptied else self.state.song

    @property
    def solved(self) -> bool:
        """Whether the solution is that of the present song."""
        return self.solution is not None and _same_question(self.state, self.solved_state)

    @property
    def solving(self) -> bool:
        """Whether an answer is awaited."""
        return self.answered < self.asked

    @property
    def moment(self) -> Moment | None:
        """The selected chord in its time."""
        return self.solution.moments[self.voicing.moment] if self.voicing and self.solution else None

    @property
    def changed(self) -> bool:
        """Whether something is not saved yet."""
        return self.state != self.saved

    @property
    def voicing(self) -> Voicing | None:
        """The selected chord's voicing."""
        if self.solution is None or not self.solution.voicings:
            return None
        return self.solution.voicings[self.selected]

    def options(self) -> list[Option]:
        """Ways to play the selected chord, best first; () while nothing is solved."""
        return options(self.solution, self.selected) if self.voicing and self.solution else []

    def following(self) -> Voicing | None:
        """The chord after the selected one, the first after the last where the song loops."""
        if self.solution is None or not self.solution.voicings:
            return None
        after, count = self.selected + 1, len(self.solution.voicings)
        if after == count and not self.solution.setup.loop:
            return None
        return self.solution.voicings[after % count]

    def previewed(self, option: Option) -> tuple[Voicing, Hinge | None, str]:
        """The selected chord played another way: its voicing, the hinge to the next chord and its sentence."""
        assert self.voicing is not None
        assert self.solution is not None
        fingers = self.solution.fingers_for(self.selected, option.both)
        voicing = self.voicing._replace(
            both=option.both, family=option.family, family_name=option.family_name, fingers=fingers
        )
        after = self.following()
        if after is None:
            return voicing, None, ""
        weights = self.solution.weights_at(self.solution.voicings.index(after))
        hinge = make_hinge(voicing.both, after.both, self.solution.setup.mine, weights, (fingers, after.fingers))
        return voicing, hinge, hinge_words(hinge, voicing.both, after.both, (voicing.chord, after.chord))

    def instead(self, other: Voicing) -> tuple[Hinge, str]:
        """What the hands do otherwise where another voicing takes the place of the selected one, and its sentence."""
        assert self.voicing is not None
        assert self.solution is not None
        old, new = self.voicing, other
        weights = self.solution.weights_at(self.selected)
        hinge = make_hinge(old.both, new.both, self.solution.setup.mine, weights, (old.fingers, new.fingers))
        return hinge, hinge_words(hinge, old.both, new.both, (old.chord, new.chord))

    @property
    def address(self) -> Address | None:
        """Where the selected chord is written."""
        if self.written is not None:
            return self.written
        return self.solution.moments[self.voicing.moment].address if self.voicing and self.solution else None

    def select_address(self, address: Address) -> None:
        """Select the chord written there, the first time it is played."""
        self.written = address
        for index, voicing in enumerate(self.solution.voicings if self.solution else ()):
            if self.solution and self.solution.moments[voicing.moment].address == address:
                self.select(index)
                self.written = address
                return

    def kept(self, index: int) -> bool:
        """Whether chord `index` of the solution is kept whole."""
        return "chord" in self.kept_parts(index)

    def kept_parts(self, index: int) -> frozenset[str]:
        """What of chord `index` of the solution is kept in it."""
        if self.solution is None:
            return frozenset()
        moment = self.solution.moments[self.solution.voicings[index].moment]
        held = {"top"} if is_held(self.solved_state.setup, moment) else set()
        return frozenset({*(keep.part for keep in self.solved_state.keeps if in_force(keep, moment)), *held})

    def resting(self, index: int | None = None) -> tuple[Resting, ...]:
        """What the player kept or asked for and no longer holds, at chord `index` of the solution or in the song."""
        found = resting(self.state.setup, self.state.keeps, self.state.song)
        if index is None or self.solution is None:
            return found
        slot = self.solution.moments[self.solution.voicings[index].moment].slot_id
        return tuple(rest for rest in found if rest.slot == slot)

    def tell(self, what: str) -> None:
        """Tell every listener that `what` changed."""
        for listener in self.listeners:
            listener(what)

    # --- opening and saving ---
    def open(self, file: SongFile, path: Path | None, text: str = "") -> None:
        """Take over a song; history starts anew. `path` is its own file, None for one that was imported or shipped."""
        state = edits.state_of(file, text)
        self.history = History(state)
        self.saved, self.path, self.selected = state, path, 0
        self.document = file.document or os.urandom(16).hex()
        self.solution, self.fault, self.written = None, "", None
        self._after_state()

    def rescued(self, file: SongFile, path: Path | None, text: str = "") -> None:
        """Take over a song that a crash left behind, with its text as it was typed: it counts as not saved."""
        self.open(file, path)
        if text:
            self.type_text(text)
            self.history = History(self.state)
        self.saved = State()
        self.tell("state")

    def save(self, path: Path) -> bytes:
        """Write the song to its file; what was written. A song that goes to another file becomes another document.
        Raises FileFault; the song stays as it was.
        """
        if path.suffix.lower() != ENDING:
            raise FileFault(str(path), f"a song is saved with the ending {ENDING}; use Export for other kinds")
        elsewhere = self.path is not None and path.with_suffix("") != self.path.with_suffix("")
        document = os.urandom(16).hex() if elsewhere or not self.document else self.document
        data = to_json(msgspec.structs.replace(edits.file_of(self.state, self.reading), document=document))
        write_atomic(path, data)
        self.path, self.saved, self.document = path, self.state, document
        self.tell("state")
        return data

    def put_version(self, label: str, file: SongFile) -> None:
        """Make an earlier version of the song the present one, as an edit."""
        self._push(label, edits.state_of(file))

    # --- edits ---
    def type_text(self, text: str) -> None:
        """The chart was typed in. Typing in a row is one step of undo, and is followed from where it began."""
        if text != self.state.text:
            self.typed = text
            self.tell("typing")
            reading = read_chart(text)
            state = edits.with_text(self.state, self.history.base(TYPING), text, reading)
            self._push(TYPING, state, TYPING, reading)

    def change_setup(self, label: str, **fields: object) -> None:
        """Change the player's wishes, such as bass="theirs"."""
        self.put_setup(label, msgspec.structs.replace(self.state.setup, **fields))

    def put_setup(self, label: str, setup: Setup) -> None:
        """Take over wishes that were changed as a whole."""
        if setup != self.state.setup:
            self._push(label, msgspec.structs.replace(self.state, setup=setup))

    def take_swap(self, swap: Swap) -> None:
        """Put other chords in the place of the selected one, or of it and those after it."""
        if self.voicing is None or self.solution is None:
            return
        voicings = self.solution.voicings[self.selected : self.selected + swap.span]
        places = [self.solution.moments[voicing.moment].address for voicing in voicings]
        old = write_symbol(voicings[0].chord) + (f" and {swap.span - 1} more" if swap.span > 1 else "")
        new = " ".join(write_symbol(chord) for chord in swap.chords)

        def edit(song: Song) -> Song:
            if swap.span == 1:
                return chart_edit.with_chords(song, places[0], swap.chords, swap.beats)
            for at, chord, beats in zip(places, swap.chords, swap.beats, strict=True):
                song = chart_edit.with_chords(song, at, (chord,), (beats,))
            return song

        self.edit_chart(f"swap {old} for {new}", edit)

    def take_bolder(self, found: Bolder, refused: frozenset[Address]) -> None:
        """Make the song what it would be reharmonised, but for the refused chords."""
        count = sum(1 for change in found.changes if change.at not in refused)
        if count and found.song == self.state.song:
            label = f"reharmonise {count} chord{'' if count == 1 else 's'}, boldness {found.boldness}"
            self.edit_chart(label, lambda song: found.with_changes(refused))

    def was(self) -> list[str]:
        """What the selected chord was before, the oldest first."""
        moment = self.moment
        if moment is None or self.solved_state.song != self.state.song:
            return []
        return list(next((was.symbols for was in self.state.was if was.slot == moment.slot_id), ()))

    def hold_top(self) -> None:
        """Hold the selected chord's top note into the next chord, or one chord longer."""
        if self.voicing is None or self.solution is None or not self.voicing.right:
            return
        moments = [self.solution.moments[v.moment] for v in self.solution.voicings]
        setup = with_held_top(self.state.setup, moments, self.selected, self.voicing.right[-1])
        self.put_setup(f"hold the top of {write_symbol(self.voicing.chord)}", setup)

    def drop_held_top(self) -> None:
        """Let the held top of the selected chord go."""
        if self.voicing is not None and self.solution is not None:
            setup = without_held_top(self.state.setup, self.solution.moments[self.voicing.moment])
            self.put_setup("let the held top go", setup)

    def take(self, option: Option) -> None:
        """Play the selected chord this way and keep it so."""
        self._keep_as("take another voicing of", option.both.left, option.both.right)

    def toggle_keep(self, part: Part = "chord") -> None:
        """Keep the selected chord, or a part of it, as it is played, or let it go."""
        voicing, moment = self.voicing, self.moment
        if voicing is None or moment is None:
            return
        if not (voicing.left if part in ("left", "bass") else voicing.right or part == "chord"):
            return  # that hand rests
        there = tuple(keep for keep in self.state.keeps if keep.part == part and in_force(keep, moment))
        if there:
            said = f"let {PART_WORDS[part]}{write_symbol(voicing.chord)} go"
            self._push(said, edits.without_keeps(self.state, there))
        else:
            self._keep_as("keep", voicing.left, voicing.right, part)

    def free_all(self) -> None:
        """Let everything go that is kept."""
        if self.state.keeps:
            self._push("let all kept chords go", edits.without_keeps(self.state, self.state.keeps))

    def free_resting(self) -> None:
        """Let go what no longer holds."""
        state = edits.without_resting(self.state, self.resting())
        if state != self.state:
            self._push("let go what rests", state)

    def _keep_as(self, what: str, left: tuple[int, ...], right: tuple[int, ...], part: Part = "chord") -> None:
        voicing, moment = self.voicing, self.moment
        if voicing is None or moment is None:
            return
        keep = Keep(moment.slot_id, write_symbol(voicing.chord), left, right, part)
        self._push(f"{what} {PART_WORDS[part]}{write_symbol(voicing.chord)}", edits.with_keep(self.state, keep))

    def edit_chart(self, label: str, edit: Callable[[Song], Song]) -> None:
        """Change the song's structure; the text is written anew and what is kept follows its chords. An edit that
        cannot be done is told with its reason.
        """
        self._edit(label, lambda: edits.changed(self.state, edit(self.state.song)))

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
        self._push(label, msgspec.structs.replace(state, text=text), "", reading)

    def _refuse(self, why: str) -> None:
        self.fault = why
        self.tell("fault")

    def undo(self) -> str:
        """Take the last edit back; its label."""
        label = self.history.undo()
        if label:
            self._after_state()
        return label

    def redo(self) -> str:
        """Do the last undone edit again; its label."""
        label = self.history.redo()
        if label:
            self._after_state()
        return label

    def _push(self, label: str, state: State, group: str = "", reading: ChartReading | None = None) -> None:
        same_text = state.text == self.state.text
        self.history.push(label, state, group)
        self._after_state(self.reading if same_text else reading)

    def _after_state(self, reading: ChartReading | None = None) -> None:
        self.reading = reading or read_chart(self.state.text)
        self.typed = self.state.text
        if self.state.emptied:
            self.solution, self.solved_state, self.written = None, State(), None
        self.tell("state")
        if self.song.sections and not self.solved:
            self.asked = self._ask(self.state)

    # --- answers and selection ---
    def accept(self, answer: Answer) -> None:
        """An answer of the solver; older ones than the latest question are passed over, and one to a question that an
        edit took back.
        """
        self.answered = max(self.answered, answer.number)
        if answer.number < self.asked or self.state.emptied or not _same_question(answer.state, self.state):
            return
        if answer.solution is None:
            self.fault = answer.fault
            self.tell("fault")
            return
        self.beside = self._moved_beside(answer)
        self.fault, self.solution, self.solved_state, self.written = "", answer.solution, answer.state, None
        self.selected = min(self.selected, max(0, len(answer.solution.voicings) - 1))
        self.tell("solution")

    def _moved_beside(self, answer: Answer) -> frozenset[int]:
        old, new = self.solved_state, answer.state
        if self.solution is None or answer.solution is None or (old.song, old.keeps) != (new.song, new.keeps):
            return frozenset()
        return moved_beside(self.solution, answer.solution, only_wishes_changed(old.setup, new.setup))

    def select(self, index: int) -> None:
        """Select a chord of the solution; out of range goes to the nearest end."""
        count = len(self.solution.voicings) if self.solution else 0
        index = min(max(index, 0), count - 1) if count else 0
        self.written = None
        if index != self.selected:
            self.selected = index
            self.tell("selection")


def _same_question(a: State, b: State) -> bool:
    """Whether two states have the same solution: only their text differs."""
    return a is b or (a.song, a.setup, a.keeps) == (b.song, b.setup, b.keeps)
